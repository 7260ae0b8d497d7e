package docksort.project;

import docksort.arrival.Arrival;
import docksort.arrival.ArrivalId;
import docksort.arrival.ArrivalNames;
import docksort.arrival.Clip;
import docksort.arrival.ClipId;
import docksort.catalogue.AsSeen;
import docksort.catalogue.Catalogue;
import docksort.catalogue.CopyState;
import docksort.catalogue.WorkingCopy;
import docksort.files.Room;
import docksort.media.Fingerprint;
import docksort.media.FrameRange;
import docksort.media.Raster;
import docksort.problem.CoreException.ChangedMeanwhile;
import docksort.sort.Circumstances;
import docksort.sort.LoadSheet;
import docksort.sort.Placing;
import docksort.sort.PlanMemory;
import docksort.sort.PlannedCopy;
import docksort.sort.Planning;
import docksort.sort.Recipe;
import docksort.sort.Shortcoming;
import docksort.strain.ClipMeasurements;
import docksort.strain.StrainJudge;
import docksort.strain.Traits;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import java.util.function.Supplier;
import java.util.stream.Collectors;

/// What the project's rules and a person's choices come to.
public final class Plans {
    private final Catalogue catalogue;
    private final Settings settings;
    private final Roots roots;
    private final ProjectBook book;
    private final Measurements measurements;
    private final Trials trials;
    private final Supplier<Circumstances> now;
    private final PlanMemory memory = new PlanMemory();

    Plans(
            Catalogue catalogue,
            Settings settings,
            Roots roots,
            ProjectBook book,
            Measurements measurements,
            Trials trials,
            Supplier<Circumstances> now) {
        this.catalogue = catalogue;
        this.settings = settings;
        this.roots = roots;
        this.book = book;
        this.measurements = measurements;
        this.trials = trials;
        this.now = now;
    }

    /// The plan as rules and choices stand now.
    public LoadSheet loadSheet() {
        return loadSheet(catalogue.clips().all());
    }

    /// The plan for some clips. After one for the same clips it costs what has changed since, and little more.
    public LoadSheet loadSheet(List<Clip> clips) {
        Map<ClipId, List<WorkingCopy>> stocked = stocked();
        Map<Fingerprint, ClipMeasurements> measured = measurements.all();
        return LoadSheet.plan(clips, planning(stocked, measured), memory, clip -> {
            List<WorkingCopy> copies = stocked.getOrDefault(clip.id(), List.of());
            return new Beside(
                    copies,
                    copies.stream()
                            .filter(WorkingCopy::isCameras)
                            .flatMap(copy -> catalogue.standIns().of(copy).stream())
                            .toList(),
                    measured.getOrDefault(clip.fingerprint(), ClipMeasurements.NONE));
        });
    }

    /// What answers about one clip rest on beside what a plan has itself.
    ///
    /// @param copies all that are known of the clip
    /// @param cameras what is known of the camera's own copies among them
    private record Beside(List<WorkingCopy> copies, List<Traits> cameras, ClipMeasurements measured) {}

    private Map<ClipId, List<WorkingCopy>> stocked() {
        return catalogue.copies().all().stream().collect(Collectors.groupingBy(WorkingCopy::clip));
    }

    /// All that a plan rests on, as it stands now.
    public Planning planning() {
        return planning(stocked(), measurements.all());
    }

    private Planning planning(Map<ClipId, List<WorkingCopy>> stocked, Map<Fingerprint, ClipMeasurements> measured) {
        Map<Fingerprint, Double> ratios = new HashMap<>();
        measured.forEach((clip, figures) -> figures.play().ifPresent(play -> ratios.put(clip, play.value())));
        Map<ArrivalId, String> names = ArrivalNames.of(catalogue.arrivals().all());
        var rooms = new Rooms();
        var judge = new StrainJudge(settings.timelineFormat(), measured);
        Function<PlannedCopy, Optional<Shortcoming>> passedOver =
                copy -> passedOver(stocked.getOrDefault(copy.clip().id(), List.of()), copy, judge);
        return new Planning(
                book.now(),
                catalogue.choices().all(),
                copy -> isInStock(stocked.getOrDefault(copy.clip().id(), List.of()), copy, judge),
                judge,
                ratios,
                now.get(),
                trials.pastCopies(),
                rooms::of,
                names,
                catalogue.timelines().used(),
                (clip, recipe) -> held(stocked.getOrDefault(clip.id(), List.of()), clip, recipe),
                catalogue.aside().clips(),
                passedOver);
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
        private final Path copies = Plans.this.roots.copies().path();
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

    /// A copy serves for a plan when it was made by its recipe and holds its frames, or when one that was
    /// taken over is of the same kind and falls short of nothing; one that is in the queue already counts
    /// too.
    private boolean isInStock(List<WorkingCopy> copies, PlannedCopy plan, StrainJudge judge) {
        return copies.stream()
                .filter(copy -> copy.state().serves() || copy.state().isQueued())
                .anyMatch(copy -> copy.isAdopted()
                        ? isOfItsKind(copy, plan)
                                && shortcoming(copy, plan, judge).isEmpty()
                        : copy.recipeId().equals(plan.recipe().id()) && holds(copy.range(), plan.range()));
    }

    private static boolean isOfItsKind(WorkingCopy copy, PlannedCopy plan) {
        return copy.kind() == plan.recipe().kind() && plan.range().isEmpty();
    }

    /// Only a camera's own copy is judged: whoever brought another one knows why.
    private Optional<Shortcoming> shortcoming(WorkingCopy copy, PlannedCopy plan, StrainJudge judge) {
        return copy.isCameras() && copy.place().width() > 0
                ? plan.form()
                        .filter(form -> form.target().isPresent())
                        .flatMap(form -> Shortcoming.of(
                                form.raster(),
                                judge.judge(plan.clip()).verdict(),
                                new Raster(copy.place().width(), copy.place().height()),
                                catalogue.standIns().of(copy)))
                : Optional.empty();
    }

    private Optional<Shortcoming> passedOver(List<WorkingCopy> copies, PlannedCopy plan, StrainJudge judge) {
        return copies.stream()
                .filter(copy -> copy.state().serves() && copy.isCameras() && isOfItsKind(copy, plan))
                .flatMap(copy -> shortcoming(copy, plan, judge).stream())
                .findFirst();
    }

    private static boolean holds(Optional<FrameRange> has, Optional<FrameRange> wanted) {
        return has.isEmpty() || (wanted.isPresent() && has.get().contains(wanted.get()));
    }

    public Map<ClipId, List<String>> choices() {
        return catalogue.choices().all();
    }

    /// Chooses recipes for clips by hand, or gives them back to the rules.
    public void choose(List<Clip> clips, Optional<List<Recipe>> recipes) {
        choose(clips, recipes, AsSeen.NOW);
    }

    /// The same, where nobody else chose for one of the clips since they were seen.
    ///
    /// @throws ChangedMeanwhile when somebody did; then nothing is changed
    public void choose(List<Clip> clips, Optional<List<Recipe>> recipes, AsSeen seen) {
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
                        what,
                        seen);
    }

    /// Chooses recipes by hand, for each clip its own.
    ///
    /// @param what what that is, for the log and for undo
    /// @throws ChangedMeanwhile when somebody else chose for one of the clips since they were seen
    public void choose(Map<ClipId, List<String>> recipes, String what, AsSeen seen) {
        catalogue.choices().choose(recipes, what, seen);
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
}
