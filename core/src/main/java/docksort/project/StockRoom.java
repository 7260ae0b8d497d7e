package docksort.project;

import docksort.arrival.Arrival;
import docksort.arrival.ArrivalId;
import docksort.arrival.Clip;
import docksort.arrival.ClipId;
import docksort.catalogue.Catalogue;
import docksort.catalogue.CopyChanges.FoundClip;
import docksort.catalogue.CopyChanges.FoundCopy;
import docksort.catalogue.CopyState;
import docksort.catalogue.Presence;
import docksort.catalogue.Root;
import docksort.catalogue.Undo;
import docksort.catalogue.WorkingCopy;
import docksort.dispatch.AscMhl;
import docksort.dispatch.ChecksumCheck;
import docksort.dispatch.ChecksumList;
import docksort.engine.Cancellation;
import docksort.engine.Inspection;
import docksort.engine.Inspector;
import docksort.engine.MediaEngine;
import docksort.files.CopyRemoval;
import docksort.files.Documents;
import docksort.files.ExclusiveLock;
import docksort.files.Fingerprinter;
import docksort.files.Renames;
import docksort.files.Trash;
import docksort.link.Adoption;
import docksort.link.AdoptionSearch;
import docksort.link.CopyNames;
import docksort.link.MediaSearch;
import docksort.link.NamePattern;
import docksort.link.OriginalName;
import docksort.media.ClipFacts;
import docksort.media.ClipSource;
import docksort.media.Fingerprint;
import docksort.media.FrameRate;
import docksort.media.Raster;
import docksort.media.VideoFacts;
import docksort.problem.CoreException.InputRefused;
import docksort.problem.Problem;
import docksort.run.CopyTags;
import docksort.run.PictureCheck;
import docksort.run.ProgramVersion;
import docksort.sort.Recipe;
import docksort.stock.CleanUp;
import docksort.stock.Coverage;
import docksort.stock.Limits;
import docksort.stock.StockLine;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.BiConsumer;
import java.util.function.Function;
import java.util.stream.Collectors;

/// The Stock station's side of a project: taking over copies that were made elsewhere, finding media
/// again, names, room, and checksums. What changes files or the catalogue is looked at first, and done as
/// one step.
public final class StockRoom {
    private static final String LIMITS = "limits";

    private final Catalogue catalogue;
    private final Inspector inspector;
    private final PictureCheck pictures;
    private final Plans plans;
    private final InstantSource clock;
    private final Path folder;
    private final Runnable refresh;
    private final Function<Path, Root> rootFor;

    /// @param folder the project's
    /// @param refresh looks at the disk again
    /// @param rootFor the root that a folder lies below, made where there is none
    StockRoom(
            Catalogue catalogue,
            MediaEngine engine,
            Plans plans,
            InstantSource clock,
            Path folder,
            Runnable refresh,
            Function<Path, Root> rootFor) {
        this.catalogue = catalogue;
        this.inspector = new Inspector(engine);
        this.pictures = new PictureCheck(engine);
        this.plans = plans;
        this.clock = clock;
        this.folder = folder;
        this.refresh = refresh;
        this.rootFor = rootFor;
    }

    // Taking over

    /// What a folder of copies comes to. Nothing is changed.
    ///
    /// @param patterns how names of copies follow from names of originals; empty to learn it from the set
    public Adoption look(
            Path folder, List<NamePattern> patterns, BiConsumer<Integer, Integer> progress, Cancellation cancellation)
            throws InterruptedException {
        List<Clip> clips = catalogue.clips().all();
        Set<Path> known =
                catalogue.copies().all().stream().map(WorkingCopy::file).collect(Collectors.toSet());
        return new AdoptionSearch(inspector, pictures, cancellation, progress)
                .search(real(folder), clips, known, patterns);
    }

    private static Path real(Path folder) {
        try {
            return folder.toRealPath();
        } catch (IOException e) {
            throw new InputRefused(
                    new Problem(
                            "Cannot look into " + folder,
                            "it is not there",
                            "Nothing was changed.",
                            "Choose a folder."),
                    e);
        }
    }

    /// Takes over pairs as one change.
    ///
    /// @return how many copies there are more now
    public int adopt(Path folder, List<Adoption.Pair> pairs) {
        Set<String> ids = catalogue.copies().all().stream().map(WorkingCopy::id).collect(Collectors.toSet());
        var copies = new ArrayList<WorkingCopy>();
        for (Adoption.Pair pair : pairs) {
            WorkingCopy copy = copy(pair, folder);
            if (ids.add(copy.id())) {
                copies.add(copy);
            }
        }
        if (!copies.isEmpty()) {
            catalogue
                    .copyChanges()
                    .add(
                            copies,
                            "Took over " + copies.size() + (copies.size() == 1 ? " copy" : " copies") + " in "
                                    + folder);
            refresh.run();
        }
        return copies.size();
    }

    private WorkingCopy copy(Adoption.Pair pair, Path folder) {
        Adoption.Own own = pair.own();
        Root root = rootFor.apply(
                pair.file().startsWith(folder)
                        ? folder
                        : java.util.Objects.requireNonNull(pair.file().getParent()));
        String stretch = own.range().map(range -> "-" + range).orElse("");
        String maker = own.recipeId().isEmpty()
                ? "adopted-" + Integer.toHexString(pair.file().toString().hashCode())
                : own.recipeId();
        Raster raster = pair.facts().video().map(VideoFacts::raster).orElse(new Raster(1, 1));
        return new WorkingCopy(
                pair.clip().id().value() + "-" + maker + stretch,
                pair.clip().id(),
                plans.book().byId(own.recipeId()).map(Recipe::kind).orElse(pair.kind()),
                own.recipeId(),
                root.id(),
                pair.file(),
                CopyState.READY,
                "taken over: " + pair.reason(),
                pair.clip().fingerprint(),
                own.range(),
                new WorkingCopy.Place(
                        pair.facts().size().bytes(),
                        pair.file().toFile().lastModified(),
                        raster.width(),
                        raster.height(),
                        pair.facts().video().map(v -> v.codec().label()).orElse(""),
                        own.recipeMark(),
                        fingerprint(pair.file()).map(Fingerprint::toString).orElse("")),
                WorkingCopy.Service.USUAL,
                0);
    }

    private static Optional<Fingerprint> fingerprint(Path file) {
        try {
            return Optional.of(Fingerprinter.of(file));
        } catch (IOException e) {
            return Optional.empty();
        }
    }

    // Finding again

    /// Looks in a folder for everything that is not in its place.
    public List<MediaSearch.Result> search(
            Path folder, BiConsumer<Integer, Integer> progress, Cancellation cancellation) {
        return new MediaSearch(cancellation, progress, this::sameHeader).search(real(folder), missing(), inUse());
    }

    /// Start timecode, rate and length of an original that has a timecode.
    private Optional<String> sameHeader(MediaSearch.Wanted wanted, ClipSource source) {
        Optional<ClipFacts> facts = catalogue.clips().all().stream()
                .filter(clip -> clip.id().value().equals(wanted.id()))
                .findFirst()
                .map(Clip::facts)
                .filter(known -> known.startTimecode().isPresent());
        try {
            return facts.isPresent()
                            && inspector.inspect(source, FrameRate.FPS_25, new Cancellation())
                                    instanceof Inspection.Known found
                            && found.facts().startTimecode().equals(facts.get().startTimecode())
                            && found.facts()
                                    .video()
                                    .map(VideoFacts::rate)
                                    .equals(facts.get().video().map(VideoFacts::rate))
                            && found.facts()
                                    .video()
                                    .map(VideoFacts::frames)
                                    .equals(facts.get().video().map(VideoFacts::frames))
                    ? Optional.of("same name, size, length and timecode "
                            + facts.get().startTimecode().get())
                    : Optional.empty();
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            return Optional.empty();
        }
    }

    /// Looks in a folder for the same recordings as those that are in use, for instance on a faster volume.
    public List<MediaSearch.Result> twins(
            Path folder, List<Clip> clips, BiConsumer<Integer, Integer> progress, Cancellation cancellation) {
        return new MediaSearch(cancellation, progress)
                .search(real(folder), clips.stream().map(MediaSearch.Wanted::of).toList(), inUse());
    }

    /// What follows when somebody points at the file of one clip or copy that is not in its place.
    public List<MediaSearch.Result> follow(String id, Path chosen) {
        List<MediaSearch.Wanted> missing = missing();
        MediaSearch.Wanted one = missing.stream()
                .filter(each -> each.id().equals(id))
                .findFirst()
                .orElseThrow(() -> new InputRefused(new Problem(
                        "Nothing is missing there",
                        "the file is in its place",
                        "Nothing was changed.",
                        "Choose a clip whose original is not in place.")));
        return MediaSearch.follow(one, chosen.toAbsolutePath().normalize(), missing);
    }

    /// Originals and copies that are not in their place.
    public List<MediaSearch.Wanted> missing() {
        Map<ClipId, Presence> presence = catalogue.clips().presence();
        var wanted = new ArrayList<MediaSearch.Wanted>();
        for (Clip clip : catalogue.clips().all()) {
            if (!presence.getOrDefault(clip.id(), Presence.ONLINE).isOnline()) {
                wanted.add(MediaSearch.Wanted.of(clip));
            }
        }
        for (WorkingCopy copy : catalogue.copies().all()) {
            if (copy.state() == CopyState.MISSING && !copy.place().fingerprint().isEmpty()) {
                wanted.add(new MediaSearch.Wanted(
                        copy.id(),
                        String.valueOf(copy.file().getFileName()),
                        new ClipSource.SingleFile(copy.file()),
                        Fingerprint.parse(copy.place().fingerprint())));
            }
        }
        return wanted;
    }

    private Set<Path> inUse() {
        Map<ClipId, Presence> presence = catalogue.clips().presence();
        Set<Path> files = new HashSet<>();
        catalogue.clips().all().stream()
                .filter(clip ->
                        presence.getOrDefault(clip.id(), Presence.ONLINE).isOnline())
                .forEach(clip -> files.add(clip.source().head()));
        catalogue.copies().all().stream().filter(copy -> copy.state().serves()).forEach(copy -> files.add(copy.file()));
        return files;
    }

    /// Points everything that was found at its new place, as one change.
    ///
    /// @return how many originals and copies
    public int relink(Path folder, List<MediaSearch.Result> results) {
        return relink(folder, results, false);
    }

    /// @param byHeader whether those are taken, too, whose content cannot be read
    public int relink(Path folder, List<MediaSearch.Result> results, boolean byHeader) {
        Map<String, WorkingCopy> copies =
                catalogue.copies().all().stream().collect(Collectors.toMap(WorkingCopy::id, copy -> copy));
        Set<String> clips =
                catalogue.clips().all().stream().map(clip -> clip.id().value()).collect(Collectors.toSet());
        var foundClips = new ArrayList<FoundClip>();
        var foundCopies = new ArrayList<FoundCopy>();
        for (MediaSearch.Result result : results) {
            Optional<ClipSource> source = switch (result) {
                case MediaSearch.Result.Found found -> Optional.of(found.source());
                case MediaSearch.Result.ByHeader found when byHeader -> Optional.of(found.source());
                default -> Optional.empty();
            };
            if (source.isEmpty()) {
                continue;
            }
            Path file = source.get().head();
            Root root = rootFor.apply(
                    file.startsWith(folder) ? folder : java.util.Objects.requireNonNull(file.getParent()));
            String id = result.wanted().id();
            WorkingCopy copy = copies.get(id);
            if (copy != null) {
                foundCopies.add(new FoundCopy(copy, file, root, file.toFile().lastModified()));
            } else if (clips.contains(id)) {
                foundClips.add(new FoundClip(new ClipId(id), source.get(), root, Presence.ONLINE));
            }
        }
        int all = foundClips.size() + foundCopies.size();
        if (all > 0) {
            catalogue
                    .copyChanges()
                    .found(
                            foundClips,
                            foundCopies,
                            "Found " + foundClips.size() + " originals and " + foundCopies.size() + " copies in "
                                    + folder);
            refresh.run();
        }
        return all;
    }

    // Names

    public CopyNames names(String pattern, List<WorkingCopy> copies) {
        return names(pattern, copies, false);
    }

    /// @param onCards whether copies that lie in arrivals, such as the camera's own, get names there, too
    public CopyNames names(String pattern, List<WorkingCopy> copies, boolean onCards) {
        Map<ClipId, Clip> clips = catalogue.clips().all().stream().collect(Collectors.toMap(Clip::id, clip -> clip));
        Map<ArrivalId, String> arrivals =
                catalogue.arrivals().all().stream().collect(Collectors.toMap(Arrival::id, Arrival::name));
        List<CopyNames.Named> named = copies.stream()
                .flatMap(copy -> Optional.ofNullable(clips.get(copy.clip()))
                        .map(clip -> new CopyNames.Named(copy, clip, arrivals.getOrDefault(clip.arrival(), "")))
                        .stream())
                .toList();
        return CopyNames.preview(
                pattern,
                named,
                onCards
                        ? List.of()
                        : catalogue.arrivals().all().stream()
                                .map(Arrival::folder)
                                .toList());
    }

    /// Renames all or none.
    ///
    /// @return how many copies got another name
    public int rename(CopyNames names) {
        if (!names.isSound()) {
            throw new InputRefused(new Problem(
                    "The copies were not renamed",
                    names.lines().stream()
                                    .filter(line -> line.fault().isPresent())
                                    .count() + " of them cannot have their name",
                    "All of them have the names they had.",
                    "Change the pattern, or leave those copies out."));
        }
        List<CopyNames.Line> changes = names.changes();
        if (changes.isEmpty()) {
            return 0;
        }
        var files = new LinkedHashMap<WorkingCopy, Path>();
        changes.forEach(line -> files.put(line.copy(), line.to()));
        rename(
                names.files(),
                () -> catalogue
                        .copyChanges()
                        .renamed(files, "Renamed " + changes.size() + " copies to " + names.pattern()));
        return changes.size();
    }

    /// @param keep keeps the new names in the catalogue
    private void rename(Map<Path, Path> files, Runnable keep) {
        ExclusiveLock lock = renaming();
        try (lock) {
            Renames renames = Renames.carryOut(files, journal());
            try {
                keep.run();
            } catch (RuntimeException e) {
                renames.takeBack(); // the catalogue did not take it: neither does the disk
                throw e;
            }
            renames.done();
        }
    }

    /// Gives an original the name that a person chose for it.
    public void rename(OriginalName name) {
        Path from = name.clip().source().head();
        boolean wanted = catalogue.copies().all().stream()
                .anyMatch(copy ->
                        copy.clip().equals(name.clip().id()) && copy.state().isQueued());
        Optional<String> why = wanted
                ? Optional.of("copies of it are still to be made; make them first, or leave them out")
                : name.fault();
        if (why.isPresent()) {
            throw new InputRefused(new Problem(
                    "The original was not renamed: " + from,
                    why.get(),
                    "It has the name it had.",
                    "Choose another name, or another moment."));
        }
        rename(
                Map.of(from, name.to()),
                () -> catalogue
                        .copyChanges()
                        .originalRenamed(
                                name.clip().id(),
                                from,
                                name.to(),
                                "Renamed the original " + from.getFileName() + " to "
                                        + name.to().getFileName()));
    }

    private Path journal() {
        return folder.resolve("rename.journal");
    }

    /// Two programs on one project rename one after the other.
    private ExclusiveLock renaming() {
        return ExclusiveLock.tryOn(folder.resolve("rename.lock"))
                .orElseThrow(() -> new InputRefused(new Problem(
                        "Nothing was renamed",
                        "another program is renaming files of this project",
                        "All files have the names they had.",
                        "Try again in a moment.")));
    }

    /// Takes back what a killed program had begun to rename, unless the catalogue has it already.
    void mendRenames() {
        Optional<ExclusiveLock> lock = ExclusiveLock.tryOn(folder.resolve("rename.lock"));
        if (lock.isEmpty()) {
            return; // it is at work
        }
        ExclusiveLock held = lock.get();
        try (held) {
            Renames.unfinished(journal()).ifPresent(renames -> {
                boolean kept = catalogue.copies().all().stream()
                                .anyMatch(copy ->
                                        renames.targets().contains(copy.file().toAbsolutePath()))
                        || catalogue.clips().all().stream()
                                .anyMatch(clip -> renames.targets()
                                        .contains(clip.source().head().toAbsolutePath()));
                if (kept) {
                    renames.done();
                } else {
                    List<String> lost = renames.takeBack();
                    catalogue
                            .activity()
                            .write("Took back a renaming that was broken off"
                                    + (lost.isEmpty() ? "" : "; these kept another name: " + String.join(", ", lost)));
                }
            });
        }
    }

    /// Gives files their names back before the catalogue takes the change back.
    ///
    /// @return what is to be ended when it has
    Optional<Renames> beforeUndo(Undo undo) {
        if (undo instanceof Undo.CopiesRenamed renamed) {
            Map<String, Path> roots = rootPaths();
            Map<String, WorkingCopy> copies =
                    catalogue.copies().all().stream().collect(Collectors.toMap(WorkingCopy::id, copy -> copy));
            var back = new LinkedHashMap<Path, Path>();
            renamed.paths().forEach((id, path) -> {
                WorkingCopy copy = copies.get(id);
                Path root = copy == null ? null : roots.get(copy.rootId());
                if (root != null && Files.exists(root.resolve(path.get(1)))) {
                    back.put(root.resolve(path.get(1)), root.resolve(path.get(0)));
                }
            });
            return Optional.of(Renames.carryOut(CopyNames.files(back), journal()));
        }
        if (undo instanceof Undo.OriginalRenamed renamed) {
            Path root = rootPaths().get(renamed.rootId());
            if (root != null && Files.exists(root.resolve(renamed.to()))) {
                return Optional.of(
                        Renames.carryOut(Map.of(root.resolve(renamed.to()), root.resolve(renamed.from())), journal()));
            }
        }
        return Optional.empty();
    }

    // Room

    private Map<String, Path> rootPaths() {
        return catalogue.roots().all().stream().collect(Collectors.toMap(Root::id, Root::path));
    }

    private CopyRemoval removal() {
        List<Path> originals = catalogue.clips().all().stream()
                .flatMap(clip -> clip.source().files().stream())
                .toList();
        return new CopyRemoval(
                catalogue.arrivals().all().stream().map(Arrival::folder).toList(), originals);
    }

    /// Says what deleting copies would do. Nothing is changed.
    /// The standing rules for the room that copies take.
    public Limits limits() {
        return catalogue.settings().get(LIMITS).map(Limits::parse).orElse(Limits.NONE);
    }

    /// Sets those rules; Undo takes it back. Nothing is deleted by that.
    public void limit(Limits limits) {
        catalogue.settings().change(LIMITS, limits.text(), "Limits for copies: " + limits.label());
    }

    public CleanUp cleanUp(List<WorkingCopy> copies) {
        return CleanUp.plan(copies, rootPaths(), removal(), this::says);
    }

    private Map<String, String> says(Path file) {
        Map<String, String> beside = CopyTags.read(CopyTags.besides(file));
        if (!beside.isEmpty()) {
            return beside;
        }
        try {
            return inspector.inspect(new ClipSource.SingleFile(file), FrameRate.FPS_25, new Cancellation())
                            instanceof Inspection.Known known
                    ? known.facts().tags()
                    : Map.of();
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            return Map.of();
        }
    }

    /// Deletes what a look said may go.
    ///
    /// @param trash empty to delete for good
    public CopyRemoval.Outcome carryOut(CleanUp cleanUp, Optional<Trash> trash) {
        CopyRemoval.Outcome outcome = removal().remove(cleanUp.removables(rootPaths()), trash);
        Set<Path> gone = Set.copyOf(outcome.gone());
        List<WorkingCopy> copies = cleanUp.going().stream()
                .map(CleanUp.Line::copy)
                .filter(copy -> gone.contains(copy.file()))
                .toList();
        if (!copies.isEmpty()) {
            String how = trash.isPresent() ? " copies moved to the trash, " : " copies deleted, ";
            catalogue.copyChanges().deleted(copies, copies.size() + how + cleanUp.bytes());
        }
        return outcome;
    }

    /// Takes copies out of the catalogue; their files stay.
    public void forget(List<WorkingCopy> copies) {
        List<WorkingCopy> idle = copies.stream()
                .filter(copy -> copy.state() != CopyState.MAKING && copy.state() != CopyState.CHECKING)
                .toList();
        catalogue.copyChanges().forget(idle, "Forgot " + idle.size() + " copies; their files stay");
    }

    /// Keeps copies without letting them serve, or lets them serve again.
    public void stopUsing(List<WorkingCopy> copies, boolean stopped) {
        catalogue
                .copyChanges()
                .stop(
                        copies,
                        stopped,
                        (stopped ? "Stopped using " : "Using again: ")
                                + (copies.size() == 1 ? "1 copy" : copies.size() + " copies"));
    }

    /// Writes which clips have which copies, as CSV or, where the file's name ends so, as HTML.
    public void writeCoverage(List<StockLine> stock, Path file) {
        Coverage coverage = Coverage.of(stock);
        boolean html = file.toString().toLowerCase(java.util.Locale.ROOT).endsWith(".html");
        String name = catalogue.settings().get("name").orElse("");
        String text = html ? coverage.html(name, clock.instant()) : coverage.csv();
        Documents.replace(file, text.getBytes(StandardCharsets.UTF_8));
    }

    // Checksums

    /// Reads every file of a list of checksums whole.
    public static ChecksumCheck verify(Path list, BiConsumer<Integer, Integer> progress, Cancellation cancellation) {
        return ChecksumCheck.of(ChecksumList.read(list), progress, cancellation::isCancelled);
    }

    /// Writes a generation of an ASC Media Hash List for the originals of an arrival, into its folder.
    public Optional<AscMhl.Generation> writeChecksums(Arrival arrival, Cancellation cancellation) {
        List<Path> files = catalogue.clips().all().stream()
                .filter(clip -> clip.arrival().equals(arrival.id()))
                .flatMap(clip -> clip.source().files().stream())
                .filter(file -> file.startsWith(arrival.folder()) && Files.exists(file))
                .toList();
        return write(arrival.folder(), files, cancellation);
    }

    /// The same for the copies below a folder.
    public Optional<AscMhl.Generation> writeChecksums(Path folder, Cancellation cancellation) {
        Path place = real(folder);
        List<Path> files = catalogue.copies().all().stream()
                .filter(copy -> copy.state().serves())
                .map(WorkingCopy::file)
                .filter(file -> file.startsWith(place) && Files.exists(file))
                .toList();
        return write(place, files, cancellation);
    }

    private Optional<AscMhl.Generation> write(Path folder, List<Path> files, Cancellation cancellation) {
        if (files.isEmpty()) {
            throw new InputRefused(new Problem(
                    "No checksums were written for " + folder,
                    "nothing of the project lies there now",
                    "Nothing was changed.",
                    "Choose the folder of an arrival, or one with copies."));
        }
        var tool = new AscMhl.Tool("Dock Sort", ProgramVersion.TEXT, Measurements.hostName());
        Optional<AscMhl.Generation> written =
                AscMhl.write(folder, files, tool, clock.instant(), cancellation::isCancelled);
        written.ifPresent(generation -> catalogue
                .activity()
                .write("Wrote checksums of " + generation.files() + " files: " + generation.manifest()));
        return written;
    }
}
