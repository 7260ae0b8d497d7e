package docksort.project;

import docksort.arrival.Arrival;
import docksort.arrival.ArrivalId;
import docksort.arrival.Clip;
import docksort.arrival.ClipId;
import docksort.catalogue.Catalogue;
import docksort.catalogue.CopyState;
import docksort.catalogue.Root;
import docksort.catalogue.WorkingCopy;
import docksort.engine.Cancellation;
import docksort.engine.CopyOrder;
import docksort.engine.CopyTrial;
import docksort.engine.Encoders;
import docksort.engine.MediaEngine;
import docksort.files.CopyFolder;
import docksort.files.Documents;
import docksort.files.Room;
import docksort.files.Volume;
import docksort.media.ByteSize;
import docksort.media.ClipFacts;
import docksort.media.CopyForm;
import docksort.media.Fingerprint;
import docksort.media.FrameRange;
import docksort.media.Rational;
import docksort.media.VideoFacts;
import docksort.problem.CoreException.StorageFailed;
import docksort.problem.Problem;
import docksort.run.RunHost;
import docksort.sort.Circumstances;
import docksort.sort.CopyKind;
import docksort.sort.CopyPlace;
import docksort.sort.Experience;
import docksort.sort.LoadSheet;
import docksort.sort.Made;
import docksort.sort.Placing;
import docksort.sort.PlannedCopy;
import docksort.sort.Planning;
import docksort.sort.Recipe;
import docksort.sort.SortBook;
import docksort.sort.SortBookFile;
import docksort.sort.Tried;
import docksort.strain.StrainJudge;
import docksort.strain.TimelineFormat;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import java.util.function.Consumer;
import java.util.function.Supplier;
import java.util.stream.Collectors;

/// The Sort station's side of a project: its recipes and rules, what is chosen by hand, plans, trials,
/// and what of a plan goes into the queue.
public final class Plans implements RunHost {
    private static final String BOOK = "sort.book";
    private static final String MADE = "made:";
    private static final String OWNER = "owner";

    private final Catalogue catalogue;
    private final MediaEngine engine;
    private final Measurements measurements;
    private final Supplier<TimelineFormat> timeline;
    private final Path scratch;

    Plans(
            Catalogue catalogue,
            MediaEngine engine,
            Measurements measurements,
            Supplier<TimelineFormat> timeline,
            Path scratch) {
        this.catalogue = catalogue;
        this.engine = engine;
        this.measurements = measurements;
        this.timeline = timeline;
        this.scratch = scratch;
    }

    // Recipes and rules

    public SortBook book() {
        return catalogue
                .settings()
                .get(BOOK)
                .map(text -> SortBookFile.read(text.getBytes(StandardCharsets.UTF_8), "The project's catalogue"))
                .orElse(SortBook.BUILT_IN);
    }

    /// Puts another book in the place of the project's.
    ///
    /// @param what what was changed, for the log and for undo
    public void change(SortBook book, String what) {
        catalogue.settings().change(BOOK, new String(SortBookFile.write(book), StandardCharsets.UTF_8), what);
    }

    /// Takes in recipes, and rules where wanted, from a file.
    ///
    /// @throws docksort.problem.CoreException.InputRefused when it is damaged, with the places of its
    ///     faults
    public SortBook takeIn(Path file, boolean itsRules) {
        SortBook taken = book().takingIn(SortBookFile.read(Documents.read(file), file.toString()), itsRules);
        change(taken, "Took in recipes" + (itsRules ? " and rules" : "") + " of " + file.getFileName());
        return taken;
    }

    /// Writes the project's own recipes and its rules into a file.
    public void writeOut(Path file) {
        Documents.replace(file, SortBookFile.write(book()));
    }

    // Planning

    /// The plan as rules and choices stand now.
    public LoadSheet loadSheet() {
        return loadSheet(catalogue.clips().all());
    }

    public LoadSheet loadSheet(List<Clip> clips) {
        return LoadSheet.plan(clips, planning());
    }

    /// All that a plan rests on, as it stands now.
    public Planning planning() {
        Map<ClipId, List<WorkingCopy>> stocked =
                catalogue.copies().all().stream().collect(Collectors.groupingBy(WorkingCopy::clip));
        var measured = measurements.all();
        Map<Fingerprint, Double> ratios = new HashMap<>();
        measured.forEach((clip, figures) -> figures.play().ifPresent(play -> ratios.put(clip, play.value())));
        TimelineFormat format = timeline.get();
        Map<ArrivalId, String> names = arrivalNames();
        var rooms = new Rooms();
        return new Planning(
                book(),
                catalogue.choices().all(),
                copy -> isInStock(stocked.getOrDefault(copy.clip().id(), List.of()), copy),
                new StrainJudge(format, measured),
                ratios,
                new Circumstances(format, Encoders.unavailable(engine)),
                experience(),
                rooms::of,
                names,
                catalogue.timelines().used(),
                (clip, recipe) -> held(stocked.getOrDefault(clip.id(), List.of()), clip, recipe));
    }

    /// Frames that copies of a recipe hold, whether or not timelines have come to want more.
    private static List<FrameRange> held(List<WorkingCopy> copies, Clip clip, Recipe recipe) {
        return copies.stream()
                .filter(copy -> copy.recipeId().equals(recipe.id())
                        && copy.source().equals(clip.fingerprint())
                        && (copy.state().isQueued()
                                || copy.state().serves()
                                || (copy.state() == CopyState.STALE
                                        && copy.place().recipeMark().equals(recipe.mark()))))
                .flatMap(copy -> copy.range().stream())
                .toList();
    }

    /// The volumes that copies go to, each asked once.
    private final class Rooms {
        private final Map<Path, Room> byFolder = new HashMap<>();
        private final Map<String, Room> byVolume = new HashMap<>();
        private final Path copies = copiesRoot().path();
        private final Map<ArrivalId, Path> arrivals =
                catalogue.arrivals().all().stream().collect(Collectors.toMap(Arrival::id, Arrival::folder));

        synchronized Room of(Clip clip, Recipe recipe) {
            Path folder = recipe.placing() == Placing.BESIDE ? arrivals.getOrDefault(clip.arrival(), copies) : copies;
            return byFolder.computeIfAbsent(folder, path -> {
                Room room = Room.of(path);
                return byVolume.computeIfAbsent(room.volume(), _ -> room);
            });
        }
    }

    /// A copy serves for a plan when it was made by its recipe and holds its frames, or when a camera's own
    /// copy
    /// is of the same kind; one that is in the queue already counts too.
    private static boolean isInStock(List<WorkingCopy> copies, PlannedCopy plan) {
        return copies.stream()
                .filter(copy -> copy.state().serves() || copy.state().isQueued())
                .anyMatch(copy -> copy.isAdopted()
                        ? copy.kind() == plan.recipe().kind() && plan.range().isEmpty()
                        : copy.recipeId().equals(plan.recipe().id()) && holds(copy.range(), plan.range()));
    }

    private static boolean holds(Optional<FrameRange> has, Optional<FrameRange> wanted) {
        return has.isEmpty() || (wanted.isPresent() && has.get().contains(wanted.get()));
    }

    public Map<ClipId, List<String>> choices() {
        return catalogue.choices().all();
    }

    /// Chooses recipes for clips by hand, or gives them back to the rules.
    public void choose(List<Clip> clips, Optional<List<Recipe>> recipes) {
        String subject = clips.size() == 1 ? clips.getFirst().name() : clips.size() + " clips";
        String what = recipes.map(chosen -> chosen.isEmpty()
                        ? subject + " left as it is"
                        : subject + " set to "
                                + chosen.stream().map(Recipe::label).collect(Collectors.joining(" and ")))
                .orElse(subject + " given back to the rules");
        catalogue
                .choices()
                .choose(
                        clips.stream().map(Clip::id).toList(),
                        recipes.map(chosen -> chosen.stream().map(Recipe::id).toList()),
                        what);
    }

    /// Keeps which frames timelines use, with handles; stretches of one clip that touch become one.
    ///
    /// @param used frames of each clip as timelines use them
    public void use(Map<ClipId, List<FrameRange>> used, long handles) {
        Map<ClipId, Long> frames = new HashMap<>();
        catalogue
                .clips()
                .all()
                .forEach(clip -> clip.facts()
                        .video()
                        .ifPresent(video -> frames.put(clip.id(), video.frames().count())));
        var merged = new HashMap<ClipId, List<FrameRange>>();
        used.forEach((clip, ranges) -> {
            long all = frames.getOrDefault(clip, 0L);
            if (all > 0) {
                merged.put(clip, FrameRange.merged(ranges, handles, all));
            }
        });
        catalogue.timelines().use(merged);
    }

    /// Which frames of clips timelines use, with handles.
    public Map<ClipId, List<FrameRange>> used() {
        return catalogue.timelines().used();
    }

    // What was learned

    private Experience experience() {
        return new Experience(catalogue.figures().beginning(Measurements.machineName(), MADE, Made.class).stream()
                .map(figure -> new Experience.Of(figure.subject(), figure.kind(), figure.value()))
                .toList());
    }

    @Override
    public void measured(Clip clip) {
        catalogue.clips().measured(clip);
    }

    @Override
    public void made(WorkingCopy copy, Clip clip, CopyForm form, ClipFacts facts, Optional<Double> seconds) {
        if (seconds.isEmpty() || form.isSoundAlone() || facts.video().isEmpty()) {
            return;
        }
        var structure = facts.video().get().structure();
        if (!structure.isKnown()) {
            return;
        }
        keep(
                clip,
                copy.recipeId(),
                form,
                (double) structure.bytes() / structure.count(),
                seconds.get() / form.frames(),
                form.frames(),
                false);
    }

    private void keep(
            Clip clip, String recipe, CopyForm form, double frameBytes, double perFrame, long frames, boolean trial) {
        VideoFacts picture = clip.facts().video().orElseThrow();
        var made = new Made(
                form.target(),
                picture.codec().family(),
                picture.raster().pixels(),
                form.raster().pixels(),
                frames,
                Made.usual(form, frameBytes),
                frameBytes,
                perFrame,
                trial);
        catalogue.figures().keep(Measurements.machineName(), clip.fingerprint(), MADE + recipe, made);
    }

    /// Makes about a second of a copy, to learn what the whole of it will come to.
    ///
    /// @return whether something was learned; false when it was cancelled or the copy cannot be made
    public boolean tryOut(Clip clip, Recipe recipe, Cancellation cancellation) throws InterruptedException {
        var circumstances = new Circumstances(timeline.get(), Encoders.unavailable(engine));
        if (recipe.kind() == CopyKind.SOUND
                || !(recipe.resolve(clip, circumstances) instanceof Recipe.Resolution.Possible possible)
                || possible.form().isRewrap()) {
            return false;
        }
        CopyForm form = possible.form();
        Optional<CopyTrial.Figures> figures = new CopyTrial(engine)
                .run(
                        clip.source(),
                        clip.facts().video().orElseThrow(),
                        form,
                        scratch,
                        file -> new CopyOrder(clip.source(), clip.facts(), form, clip.name(), Map.of(), file),
                        cancellation);
        figures.ifPresent(found ->
                keep(clip, recipe.id(), form, found.frameBytes(), found.secondsPerFrame(), found.frames(), true));
        return figures.isPresent();
    }

    /// Makes some seconds of a clip by each recipe and holds them against the original.
    ///
    /// @param step hears what is being tried
    /// @return the original first; shorter when it was cancelled
    public List<Tried> compare(Clip clip, List<Recipe> recipes, Consumer<String> step, Cancellation cancellation)
            throws InterruptedException {
        Circumstances now = circumstances();
        List<Tried> tried = new Comparison(engine, scratch).run(clip, recipes, now, step, cancellation);
        for (Recipe recipe : recipes) {
            for (Tried result : tried) {
                if (result.name().equals(recipe.label())
                        && recipe.resolve(clip, now) instanceof Recipe.Resolution.Possible possible) {
                    CopyForm form = possible.form();
                    long frames = Math.min(form.frames(), form.rate().framesIn(Rational.of(2)));
                    keep(clip, recipe.id(), form, result.frameBytes(), result.secondsPerFrame(), frames, true);
                }
            }
        }
        return tried;
    }

    // The queue

    /// Puts what a load sheet wants into the queue.
    ///
    /// @return how many copies were put in
    /// @throws StorageFailed when they cannot fit
    public int enqueue(LoadSheet sheet) {
        List<PlannedCopy> wanted = sheet.wanted();
        sheet.fullest().filter(load -> !load.fits()).ifPresent(load -> {
            throw new StorageFailed(new Problem(
                    "The run was not started",
                    load.missing() + " are missing on " + load.room().volume() + ": "
                            + load.bytes().most() + " are needed at most, "
                            + load.room().free() + " are free",
                    "Nothing was made.",
                    sheet.thatFit(planning()).wanted().size() + " of " + wanted.size()
                            + " copies would fit; free room, choose a smaller recipe or fewer clips."));
        });
        if (!wanted.isEmpty()) {
            catalogue.copies().enqueue(newCopies(wanted), wanted.size() + " copies put into the queue");
        }
        return wanted.size();
    }

    private List<WorkingCopy> newCopies(List<PlannedCopy> wanted) {
        var places = new Places();
        Map<String, WorkingCopy> known = new HashMap<>();
        for (WorkingCopy copy : catalogue.copies().all()) {
            known.put(copy.id(), copy);
            places.taken.add(key(copy.file()));
        }
        var made = new ArrayList<WorkingCopy>();
        for (PlannedCopy plan : wanted) {
            String stretch = plan.range().map(range -> "-" + range).orElse("");
            String id = plan.clip().id().value() + "-" + plan.recipe().id() + stretch;
            WorkingCopy old = known.get(id);
            Path file = old != null ? old.file() : places.free(plan);
            places.taken.add(key(file));
            made.add(new WorkingCopy(
                    id,
                    plan.clip().id(),
                    plan.recipe().kind(),
                    plan.recipe().id(),
                    old != null ? old.rootId() : places.root(plan).id(),
                    file,
                    CopyState.WAITING,
                    "",
                    plan.clip().fingerprint(),
                    plan.range(),
                    WorkingCopy.Place.NOT_YET,
                    WorkingCopy.Service.USUAL,
                    0));
        }
        return made;
    }

    /// Finds places for new copies; a second one of the same name gets a number, so that none is ever
    /// overwritten.
    private final class Places {
        private final Set<String> taken = new HashSet<>();
        private final Map<ArrivalId, Arrival> arrivals =
                catalogue.arrivals().all().stream().collect(Collectors.toMap(Arrival::id, a -> a));
        private final Map<ArrivalId, String> names = arrivalNames();
        private final List<Root> roots = catalogue.roots().all();

        private Root root(PlannedCopy plan) {
            return plan.recipe().placing() == Placing.BESIDE ? rootOf(plan.clip()) : copiesRoot();
        }

        private Root rootOf(Clip clip) {
            Path folder = java.util.Objects.requireNonNull(arrivals.get(clip.arrival()))
                    .folder();
            return roots.stream()
                    .filter(root -> !root.id().equals(Root.COPIES) && folder.startsWith(root.path()))
                    .findFirst()
                    .orElse(copiesRoot());
        }

        private Path free(PlannedCopy plan) {
            Path arrival = java.util.Objects.requireNonNull(
                            arrivals.get(plan.clip().arrival()))
                    .folder();
            Path inside = arrival.relativize(plan.clip().source().head());
            var folders = new ArrayList<String>();
            for (int i = 0; i < inside.getNameCount() - 1; i++) {
                folders.add(inside.getName(i).toString());
            }
            List<String> place = CopyPlace.of(
                    plan,
                    names.getOrDefault(plan.clip().arrival(), "arrival"),
                    rootOf(plan.clip()).name(),
                    folders);
            Path folder = plan.recipe().placing() == Placing.BESIDE
                    ? CopyPlace.beside(arrival)
                    : copiesRoot().path();
            for (String sub : place.subList(0, place.size() - 1)) {
                folder = folder.resolve(CopyFolder.safeName(sub));
            }
            String name = place.getLast();
            String ending = name.substring(name.lastIndexOf('.'));
            String base = name.substring(0, name.length() - ending.length());
            for (int n = 1; ; n++) {
                Path file = folder.resolve(CopyFolder.safeName(base + (n == 1 ? "" : "_" + n) + ending));
                if (!taken.contains(key(file)) && !Files.exists(file)) {
                    return file;
                }
            }
        }
    }

    private static String key(Path file) {
        return file.toString().toLowerCase(Locale.ROOT);
    }

    /// Names of arrivals; a second one of the same name gets a number.
    private Map<ArrivalId, String> arrivalNames() {
        Map<ArrivalId, String> names = new HashMap<>();
        Map<String, Integer> seen = new HashMap<>();
        for (Arrival arrival : catalogue.arrivals().all()) {
            int n = seen.merge(arrival.name().toLowerCase(Locale.ROOT), 1, Integer::sum);
            names.put(arrival.id(), n == 1 ? arrival.name() : arrival.name() + " " + n);
        }
        return names;
    }

    private Root copiesRoot() {
        return catalogue.roots().all().stream()
                .filter(root -> root.id().equals(Root.COPIES))
                .findFirst()
                .orElseThrow();
    }

    /// Tells this project's files in the making from those of others that make copies in the same folders.
    String owner() {
        return catalogue.settings().get(OWNER).orElseGet(() -> {
            String fresh = UUID.randomUUID().toString().substring(0, 8);
            catalogue.settings().put(OWNER, fresh);
            return fresh;
        });
    }

    // What a run asks

    @Override
    public Optional<Recipe> recipe(String id) {
        return book().byId(id);
    }

    @Override
    public Circumstances circumstances() {
        return new Circumstances(timeline.get(), Encoders.unavailable(engine));
    }

    @Override
    public Path sourceFolder(Clip clip) {
        return catalogue.arrivals().all().stream()
                .filter(arrival -> arrival.id().equals(clip.arrival()))
                .findFirst()
                .orElseThrow()
                .folder();
    }

    @Override
    public Path targetFolder(WorkingCopy copy, Clip clip) {
        Path beside = CopyPlace.beside(sourceFolder(clip));
        if (copy.file().startsWith(beside)) {
            return beside;
        }
        return catalogue.roots().all().stream()
                .filter(root -> root.id().equals(copy.rootId()))
                .findFirst()
                .orElseThrow()
                .path();
    }

    /// A mount point whose volume is away is an empty folder of another volume: where work in it began on
    /// one volume, nothing is written on another.
    @Override
    public Optional<String> targetFault(Path folder) {
        if (Files.isDirectory(folder)) {
            return Files.isWritable(folder) ? otherVolume(folder) : Optional.of("it may not be written to");
        }
        return copiesIn(folder).isEmpty() ? Optional.empty() : Optional.of("it is not there");
    }

    private Optional<String> otherVolume(Path folder) {
        String now = volumeName(folder);
        Optional<String> before =
                catalogue.settings().get(volumeSetting(folder)).filter(name -> !name.equals(now));
        // A volume may have got another name; then what was made is there.
        if (before.isEmpty() || copiesIn(folder).stream().anyMatch(Files::exists)) {
            return Optional.empty();
        }
        return Optional.of("it lies on " + now + " and lay on " + before.get()
                + "; if that is right, choose the folder for copies anew");
    }

    private List<Path> copiesIn(Path folder) {
        return catalogue.copies().all().stream()
                .filter(copy -> copy.state().serves())
                .map(WorkingCopy::file)
                .filter(file -> file.startsWith(folder))
                .toList();
    }

    /// Keeps which volume a folder for copies lies on, when work in it begins.
    private void rememberVolume(Path folder) {
        if (targetFault(folder).isEmpty()) {
            keepVolume(folder);
        }
    }

    /// A folder that is chosen anew may lie on another volume than before.
    void keepVolume(Path folder) {
        if (Files.isDirectory(folder)) {
            catalogue.settings().put(volumeSetting(folder), volumeName(folder));
        }
    }

    private static String volumeSetting(Path folder) {
        return "volume:" + Measurements.machineName() + ":" + folder;
    }

    private static String volumeName(Path folder) {
        try {
            return Volume.of(folder).name();
        } catch (IOException e) {
            return "a volume that cannot be asked";
        }
    }

    @Override
    public ByteSize need(Clip clip, Recipe recipe, CopyForm form) {
        return LoadSheet.most(clip, recipe, form, experience());
    }

    @Override
    public CopyFolder folder(WorkingCopy copy, Clip clip) {
        List<Path> originals =
                catalogue.arrivals().all().stream().map(Arrival::folder).toList();
        return CopyFolder.open(targetFolder(copy, clip), originals, owner());
    }

    /// Clears away what an interrupted run left half-made, in every folder that copies go to.
    void sweepLeftovers() {
        List<Path> originals =
                catalogue.arrivals().all().stream().map(Arrival::folder).toList();
        if (targetFault(copiesRoot().path()).isEmpty()) {
            CopyFolder.open(copiesRoot().path(), originals, owner()).sweepLeftovers();
            rememberVolume(copiesRoot().path());
        }
        originals.stream()
                .map(CopyPlace::beside)
                .filter(Files::isDirectory)
                .forEach(folder -> CopyFolder.open(folder, originals, owner()).sweepLeftovers());
    }
}
