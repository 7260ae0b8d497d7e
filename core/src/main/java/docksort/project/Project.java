package docksort.project;

import docksort.arrival.Arrival;
import docksort.arrival.ArrivalId;
import docksort.arrival.ArrivalScan;
import docksort.arrival.Clip;
import docksort.arrival.ClipId;
import docksort.arrival.MissingCompanions;
import docksort.arrival.ScanListener;
import docksort.arrival.ScanResult;
import docksort.arrival.Stamp;
import docksort.arrival.Unreadable;
import docksort.catalogue.Activity;
import docksort.catalogue.ArrivalStore;
import docksort.catalogue.Catalogue;
import docksort.catalogue.CopyState;
import docksort.catalogue.Presence;
import docksort.catalogue.Root;
import docksort.catalogue.TakenOut;
import docksort.catalogue.Undo;
import docksort.catalogue.WorkingCopy;
import docksort.engine.Cancellation;
import docksort.engine.CopyMaker;
import docksort.engine.Extents;
import docksort.engine.Inspector;
import docksort.engine.MediaEngine;
import docksort.engine.StayAwake;
import docksort.files.Documents;
import docksort.files.ExclusiveLock;
import docksort.files.Mounts;
import docksort.files.Renames;
import docksort.link.Relink;
import docksort.media.FrameRate;
import docksort.media.Raster;
import docksort.media.Rational;
import docksort.problem.Causes;
import docksort.problem.CoreException.InputRefused;
import docksort.problem.Problem;
import docksort.run.MachineUse;
import docksort.run.Pace;
import docksort.run.PictureCheck;
import docksort.run.Run;
import docksort.run.RunLine;
import docksort.run.RunReport;
import docksort.run.RunTools;
import docksort.run.SoundCheck;
import docksort.run.Terms;
import docksort.stock.ServingOrder;
import docksort.stock.Standards;
import docksort.stock.Stock;
import docksort.stock.StockLine;
import docksort.strain.StrainJudge;
import docksort.strain.TimelineFormat;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;
import java.util.stream.Collectors;

/// A project: its catalogue, its folder for copies, and every step of the job. One folder holds it. Methods
/// block while they work; call them off the interface thread. Safe for use by several threads.
public final class Project implements AutoCloseable {
    /// Copies made at the same time unless somebody says otherwise. On two cores two workers took 0.86 to
    /// 0.95 of the time of the same commands one after the other (bench/side-by-side); the encoder's own
    /// threads fill more cores.
    public static final int DEFAULT_WORKERS = 2;

    private static final Duration PATIENCE = Duration.ofHours(24);

    private static final String CATALOGUE = "catalogue.db";
    private static final String RUN_LOCK = "run.lock";

    private final Path folder;
    private final Catalogue catalogue;
    private final MediaEngine engine;
    private final Inspector inspector;
    private final Stock stock;
    private final InstantSource clock;
    private final Measurements measurements;
    private final Plans plans;
    private final StockRoom stockRoom;
    private final DispatchRoom dispatchRoom;

    private Project(Path folder, Catalogue catalogue, MediaEngine engine, InstantSource clock) {
        this.folder = folder;
        this.catalogue = catalogue;
        this.engine = engine;
        this.inspector = new Inspector(engine);
        this.stock = new Stock(catalogue, Mounts.HERE);
        this.clock = clock;
        this.measurements = new Measurements(catalogue, engine, folder.resolve("scratch"));
        this.plans = new Plans(catalogue, engine, measurements, this::timelineFormat, folder.resolve("scratch"));
        this.stockRoom = new StockRoom(catalogue, engine, plans, clock, folder, this::refreshStock, this::anyRootFor);
        this.dispatchRoom =
                new DispatchRoom(catalogue, plans, clock, folder, this::timelineFormat, this::name, this::freshStock);
    }

    /// Opens the project in a folder, or starts one there.
    ///
    /// @param engine stays the caller's to close
    public static Project open(Path folder, MediaEngine engine, InstantSource clock) {
        Path real = Documents.ensureFolder(folder);
        var project = new Project(real, Catalogue.open(real.resolve(CATALOGUE), clock, workstation()), engine, clock);
        project.prepare();
        return project;
    }

    /// Whether a folder holds a project.
    public static boolean isIn(Path folder) {
        return Files.isRegularFile(folder.resolve(CATALOGUE));
    }

    /// Environment variable with the name this workstation's paths are kept under; without it, the
    /// machine's name.
    public static final String WORKSTATION_VARIABLE = "DOCKSORT_WORKSTATION";

    private static String workstation() {
        String named = System.getenv(WORKSTATION_VARIABLE);
        return named == null || named.isBlank() ? Measurements.hostName() : named.strip();
    }

    private void prepare() {
        if (root(Root.COPIES).isEmpty()) {
            catalogue.roots().add(new Root(Root.COPIES, "Copies", folder.resolve("copies")));
        }
        stockRoom.mendRenames();
    }

    public Path folder() {
        return folder;
    }

    public String name() {
        return catalogue.settings().get("name").orElse(String.valueOf(folder.getFileName()));
    }

    public void rename(String name) {
        catalogue.settings().put("name", name);
    }

    public TimelineFormat timelineFormat() {
        TimelineFormat hd = TimelineFormat.HD_25;
        return new TimelineFormat(
                catalogue.settings().get("timeline.raster").map(Raster::parse).orElse(hd.raster()),
                catalogue.settings().get("timeline.rate").map(FrameRate::parse).orElse(hd.rate()),
                catalogue
                        .settings()
                        .get("timeline.pixelAspect")
                        .map(Rational::parse)
                        .orElse(hd.pixelAspect()),
                catalogue.settings().get("timeline.primaries").orElse(hd.primaries()),
                catalogue
                        .settings()
                        .get("timeline.samplesPerSecond")
                        .map(Integer::parseInt)
                        .orElse(hd.samplesPerSecond()));
    }

    private FrameRate timelineRate() {
        return catalogue.settings().get("timeline.rate").map(FrameRate::parse).orElse(TimelineFormat.HD_25.rate());
    }

    public void setTimelineFormat(TimelineFormat format) {
        catalogue
                .settings()
                .put(
                        "timeline.raster",
                        format.raster().width() + "x" + format.raster().height());
        catalogue.settings().put("timeline.rate", format.rate().toString());
        catalogue.settings().put("timeline.pixelAspect", format.pixelAspect().toString());
        catalogue.settings().put("timeline.primaries", format.primaries());
        catalogue.settings().put("timeline.samplesPerSecond", Integer.toString(format.samplesPerSecond()));
        catalogue.activity().write("The timeline is " + format.label());
    }

    public ServingOrder servingOrder() {
        String id = catalogue.settings().get("serving").orElse(ServingOrder.LIGHT_FIRST.id());
        return ServingOrder.ALL.stream()
                .filter(order -> order.id().equals(id))
                .findFirst()
                .orElse(ServingOrder.LIGHT_FIRST);
    }

    public void setServingOrder(ServingOrder order) {
        catalogue.settings().put("serving", order.id());
    }

    // Arrivals

    /// Looks into a folder and takes what is in it into the project. A folder that is already in the
    /// project, lies in one that is, or holds one, is refused.
    public ScanResult addArrival(Path wanted, ScanListener listener, Cancellation cancellation)
            throws InterruptedException {
        Path place = realFolder(wanted);
        refuseKnown(place);
        Root root = rootFor(place);
        var arrival = new Arrival(ArrivalId.fresh(), String.valueOf(place.getFileName()), place, clock.instant());
        catalogue.arrivals().begin(arrival, root);
        var keeper = new ClipKeeper(catalogue, root, listener);
        ScanResult result = scanner()
                .scan(
                        arrival.id(),
                        place,
                        ArrivalScan.Before.NOTHING,
                        timelineFormat().rate(),
                        keeper,
                        cancellation);
        keeper.flush();
        int clips = result.clips().size();
        catalogue
                .arrivals()
                .endScan(
                        arrival,
                        root,
                        result,
                        Optional.of("Added " + arrival.name() + ": " + clips + (clips == 1 ? " clip" : " clips")
                                + (result.cancelled() ? ", stopped before the end" : "")),
                        true);
        return result;
    }

    private ArrivalScan scanner() {
        return new ArrivalScan(inspector, Math.max(2, Runtime.getRuntime().availableProcessors()));
    }

    /// Looks at an arrival's folder again. Files whose size and time stamp are as before are not opened.
    ///
    /// @param settled heads of new sources to take in, or empty for all that is there
    public ScanResult lookAgain(
            Arrival arrival, Optional<Set<Path>> settled, ScanListener listener, Cancellation cancellation)
            throws InterruptedException {
        ArrivalStore.Seen seen = catalogue.arrivals().seen(arrival.id());
        ArrivalScan.Before before = before(catalogue, arrival, seen);
        if (settled.isEmpty() && seen.complete()) {
            Optional<ScanResult> asBefore = ArrivalScan.asBefore(arrival.folder(), before, seen.asides());
            if (asBefore.isPresent()) {
                return asBefore.get(); // nothing to open, nothing to write
            }
        }
        Root root = rootFor(arrival.folder());
        var keeper = new ClipKeeper(catalogue, root, listener);
        FrameRate rate = timelineRate();
        ScanResult result = settled.isPresent()
                ? scanner()
                        .scanSettled(arrival.id(), arrival.folder(), before, settled.get(), rate, keeper, cancellation)
                : scanner().scan(arrival.id(), arrival.folder(), before, rate, keeper, cancellation);
        keeper.flush();
        int changed = result.clips().size()
                + result.gone().size()
                + result.unreadable().size();
        catalogue
                .arrivals()
                .endScan(
                        arrival,
                        root,
                        result,
                        changed == 0
                                ? Optional.empty()
                                : Optional.of("Looked at " + arrival.name() + " again: "
                                        + result.clips().size() + " new or changed, "
                                        + result.gone().size() + " gone"),
                        false);
        return result;
    }

    private static ArrivalScan.Before before(Catalogue catalogue, Arrival arrival, ArrivalStore.Seen seen) {
        return new ArrivalScan.Before(
                seen.stamps(),
                () -> catalogue.clips().all().stream()
                        .filter(clip -> clip.arrival().equals(arrival.id()))
                        .collect(Collectors.toMap(clip -> clip.source().head(), clip -> clip, (one, _) -> one)));
    }

    /// New sources of a watched arrival, by directory listing alone.
    public Map<Path, Stamp> news(Arrival arrival) {
        return ArrivalScan.news(
                arrival.folder(),
                before(catalogue, arrival, catalogue.arrivals().seen(arrival.id())));
    }

    /// Whether an arrival's folder is there, on a volume that answers.
    public boolean isThere(Arrival arrival) {
        return Mounts.HERE.answers(arrival.folder()) && Files.isDirectory(arrival.folder());
    }

    public Set<ArrivalId> watched() {
        return Set.copyOf(catalogue.arrivals().watched());
    }

    public void watch(Arrival arrival, boolean on) {
        catalogue.arrivals().watch(arrival.id(), on, (on ? "Watching " : "No longer watching ") + arrival.name());
    }

    /// Arrivals whose scan was broken off, for instance by a power cut.
    public List<Arrival> brokenOff() {
        Set<ArrivalId> ids = Set.copyOf(catalogue.arrivals().incomplete());
        return catalogue.arrivals().all().stream()
                .filter(arrival -> ids.contains(arrival.id()))
                .toList();
    }

    /// What would go with an arrival that is taken out.
    public TakenOut.Hanging hangingOn(Arrival arrival) {
        return catalogue.takenOut().hangingOn(arrival.id());
    }

    /// Takes an arrival out of the project, which undo takes back. Nothing on a disk is touched.
    ///
    /// @throws InputRefused while a run may be making copies of it
    public TakenOut.Hanging takeOut(Arrival arrival) {
        TakenOut.Hanging hanging = hangingOn(arrival);
        Optional<ExclusiveLock> notRunning =
                hanging.wanted() == 0 ? Optional.empty() : ExclusiveLock.tryOn(folder.resolve(RUN_LOCK));
        if (hanging.wanted() > 0 && notRunning.isEmpty()) {
            throw new InputRefused(new Problem(
                    arrival.name() + " was not taken out",
                    "the run is making copies of it",
                    "Nothing was changed.",
                    "Stop the run, or let it come to its end, then try again."));
        }
        try {
            catalogue
                    .takenOut()
                    .takeOut(
                            arrival,
                            "Took out " + arrival.name() + " (clips: " + hanging.clips() + ", copies: "
                                    + hanging.copies() + "); all files stay");
        } finally {
            notRunning.ifPresent(ExclusiveLock::close);
        }
        return hanging;
    }

    /// Says how to read clips that state no frame rate.
    public void readAt(List<Clip> clips, FrameRate rate) {
        String subject = clips.size() == 1 ? clips.getFirst().name() : clips.size() + " clips";
        catalogue
                .clips()
                .readAt(
                        clips.stream().map(Clip::id).toList(),
                        Optional.of(rate),
                        subject + " read at " + rate.label() + " fps");
    }

    private static Path realFolder(Path wanted) {
        if (!Files.isDirectory(wanted)) {
            throw new InputRefused(new Problem(
                    "Cannot add " + wanted,
                    Files.exists(wanted) ? "it is not a folder" : "it is not there",
                    "Nothing was changed.",
                    "Choose the folder of a card, a drive or a recording."));
        }
        try {
            return wanted.toRealPath();
        } catch (IOException e) {
            throw new InputRefused(
                    new Problem(
                            "Cannot add " + wanted,
                            Causes.inWords(e),
                            "Nothing was changed.",
                            "Check its permissions."),
                    e);
        }
    }

    private void refuseKnown(Path place) {
        if (place.getParent() == null) {
            throw new InputRefused(new Problem(
                    "Cannot add " + place, "it is a whole volume", "Nothing was changed.", "Choose a folder on it."));
        }
        for (Arrival known : catalogue.arrivals().all()) {
            if (place.startsWith(known.folder()) || known.folder().startsWith(place)) {
                String how = place.equals(known.folder())
                        ? "it is in the project already"
                        : "it overlaps the arrival " + known.folder();
                throw new InputRefused(
                        new Problem("Cannot add " + place, how, "Nothing was changed.", "Choose another folder."));
            }
        }
        Path copies = copiesRoot().path();
        if (place.startsWith(copies) || copies.startsWith(place)) {
            throw new InputRefused(new Problem(
                    "Cannot add " + place,
                    "it holds the project's copies (" + copies + ")",
                    "Nothing was changed.",
                    "Add the folder of the originals."));
        }
    }

    /// The root that a folder lies below, the one for copies among them, or a new one there.
    private Root anyRootFor(Path folder) {
        return catalogue.roots().all().stream()
                .filter(root -> folder.startsWith(root.path()))
                .max(java.util.Comparator.comparingInt(root -> root.path().getNameCount()))
                .orElseGet(() -> newRoot(folder));
    }

    /// The root an arrival lies below: one that is known, or a new one at the folder it lies in.
    private Root rootFor(Path place) {
        for (Root root : catalogue.roots().all()) {
            if (!root.id().equals(Root.COPIES) && place.startsWith(root.path())) {
                return root;
            }
        }
        return newRoot(java.util.Objects.requireNonNull(place.getParent()));
    }

    private Root newRoot(Path parent) {
        Set<String> names = catalogue.roots().all().stream().map(Root::name).collect(Collectors.toSet());
        String base =
                parent.getFileName() == null ? "volume" : parent.getFileName().toString();
        String name = base;
        for (int n = 2; names.contains(name); n++) {
            name = base + " " + n;
        }
        var root = new Root(ArrivalId.fresh().value(), name, parent);
        catalogue.roots().add(root);
        return root;
    }

    public List<Arrival> arrivals() {
        return catalogue.arrivals().all();
    }

    public List<Clip> clips() {
        return catalogue.clips().all();
    }

    public List<Unreadable> unreadable() {
        return catalogue.arrivals().unreadable();
    }

    public Map<ArrivalId, Integer> asides() {
        return catalogue.arrivals().asides();
    }

    // Judging

    /// Judges clips against the project's timeline, with what was measured on this machine.
    public StrainJudge judge() {
        return new StrainJudge(timelineFormat(), measurements.all());
    }

    /// Figures measured on this machine.
    public Measurements measurements() {
        return measurements;
    }

    /// Cards that came without the folder of the camera's own small files, where a sibling has one.
    public List<MissingCompanions.Hint> missingCompanions(List<Clip> clips) {
        Map<ClipId, Path> files = new HashMap<>();
        clips.forEach(clip -> files.put(clip.id(), clip.source().head()));
        Map<Path, Path> companions = new HashMap<>();
        catalogue.copies().all().stream()
                .filter(WorkingCopy::isAdopted)
                .forEach(copy -> Optional.ofNullable(files.get(copy.clip()))
                        .ifPresent(original -> companions.put(original, copy.file())));
        return MissingCompanions.find(List.copyOf(files.values()), companions);
    }

    // Sort

    /// Recipes, rules, plans and the queue's filling.
    public Plans plans() {
        return plans;
    }

    // Run

    /// Whether copies wait in the queue, for instance since a run was interrupted.
    public int queued() {
        return (int) catalogue.copies().all().stream()
                .filter(copy -> copy.state().isQueued())
                .count();
    }

    /// Puts failed copies back into the queue.
    public int retryFailed() {
        return retry(copy -> copy.state() == CopyState.FAILED);
    }

    /// Puts copies that failed or were left out back into the queue.
    public int retry(List<String> copyIds) {
        Set<String> wanted = Set.copyOf(copyIds);
        return retry(copy ->
                wanted.contains(copy.id()) && (copy.state() == CopyState.FAILED || copy.state() == CopyState.WANTED));
    }

    private int retry(Predicate<WorkingCopy> which) {
        List<WorkingCopy> failed = catalogue.copies().all().stream()
                .filter(which)
                .map(copy -> copy.withState(CopyState.WAITING, ""))
                .toList();
        if (!failed.isEmpty()) {
            catalogue.copies().enqueue(failed, failed.size() + " copies put back into the queue");
        }
        return failed.size();
    }

    /// Brings copies of the queue into another order while no run does it.
    ///
    /// @param first whether they come first or last
    public void moveInQueue(List<String> copyIds, boolean first) {
        List<String> order = catalogue.copies().all().stream()
                .filter(copy -> copy.state().isQueued())
                .map(WorkingCopy::id)
                .toList();
        Set<String> wanted = Set.copyOf(copyIds);
        var next = new ArrayList<String>();
        order.stream().filter(id -> wanted.contains(id) == first).forEach(next::add);
        order.stream().filter(id -> wanted.contains(id) != first).forEach(next::add);
        catalogue.copies().reorder(next);
    }

    /// A run and the lock that keeps other programs from running the same queue.
    public record LockedRun(Run run, ExclusiveLock lock, StayAwake awake) implements AutoCloseable {
        @Override
        public void close() {
            try (lock;
                    awake) {
                run.close();
            }
        }
    }

    /// Starts to work on the queue. What an interrupted run left half-made is cleared away first.
    ///
    /// @return empty when another program is running this project's queue
    public Optional<LockedRun> startRun(int workers, Runnable changed) {
        return startRun(Terms.fixed(workers), changed);
    }

    public Optional<LockedRun> startRun(Terms terms, Runnable changed) {
        Optional<ExclusiveLock> lock = ExclusiveLock.tryOn(folder.resolve(RUN_LOCK));
        if (lock.isEmpty()) {
            return Optional.empty();
        }
        try {
            plans.sweepLeftovers();
            resetInterrupted();
            var tools = new RunTools(
                    catalogue,
                    new CopyMaker(engine),
                    inspector,
                    new Extents(engine),
                    new PictureCheck(engine),
                    new SoundCheck(engine));
            var run = new Run(tools, plans, catalogue.clips().all(), terms, changed);
            return Optional.of(new LockedRun(run, lock.get(), StayAwake.begin()));
        } catch (RuntimeException e) {
            lock.get().close();
            throw e;
        }
    }

    /// Terms of a run that finds its number of workers, waits for volumes and gives way to other programs
    /// when it works gently.
    public Terms usualTerms(Pace pace) {
        int start = catalogue
                .settings()
                .get(workersSetting())
                .map(Integer::parseInt)
                .orElse(DEFAULT_WORKERS);
        int most = Math.max(start, Runtime.getRuntime().availableProcessors() + 1);
        return new Terms(start, most, pace, PATIENCE, checksAll(), new MachineUse());
    }

    /// Keeps how many workers were best on this machine.
    public void keepWorkers(int best) {
        catalogue.settings().put(workersSetting(), Integer.toString(best));
    }

    private static String workersSetting() {
        return "workers:" + Measurements.machineName();
    }

    /// Whether all of a copy is decoded in its check.
    public boolean checksAll() {
        return !catalogue.settings().get("check").filter("places"::equals).isPresent();
    }

    public void checkAll(boolean all) {
        catalogue.settings().put("check", all ? "all" : "places");
    }

    /// When runs that did something began, the latest first.
    public List<Instant> runs() {
        return catalogue.runs().runs();
    }

    /// What became of every copy that came to its end in a run.
    public RunReport report(Instant run) {
        return new RunReport(name(), run, catalogue.runs().lines(run, RunLine.class));
    }

    private void resetInterrupted() {
        List<WorkingCopy> interrupted = catalogue.copies().all().stream()
                .filter(copy -> copy.state() == CopyState.MAKING || copy.state() == CopyState.CHECKING)
                .map(copy -> copy.withState(CopyState.WAITING, "interrupted, starts again"))
                .toList();
        if (!interrupted.isEmpty()) {
            catalogue.copies().update(interrupted);
        }
    }

    // Stock

    /// Taking over, finding again, names, room and checksums.
    public StockRoom stockRoom() {
        return stockRoom;
    }

    public List<StockLine> stock() {
        return stock(servingOrder());
    }

    public List<StockLine> stock(ServingOrder order) {
        return stock(catalogue.clips().all(), order);
    }

    /// @param clips the project's clips, where the caller has them at hand
    public List<StockLine> stock(List<Clip> clips, ServingOrder order) {
        return stock.lines(clips, order);
    }

    /// Looks at the disk again.
    ///
    /// @return how many states changed
    public int refreshStock() {
        return stock.refresh(
                catalogue.clips().all(),
                Standards.of(plans.book().recipes(), catalogue.timelines().used()));
    }

    private List<StockLine> freshStock() {
        refreshStock();
        return stock();
    }

    // Link

    public List<Root> roots() {
        return catalogue.roots().all();
    }

    private Optional<Root> root(String id) {
        return catalogue.roots().all().stream()
                .filter(root -> root.id().equals(id))
                .findFirst();
    }

    public Root copiesRoot() {
        return root(Root.COPIES).orElseThrow();
    }

    /// Lets new copies go into another folder. Copies that are there stay where they are, below a root of
    /// their own.
    ///
    /// @throws StorageFailed when the folder lies in an arrival or cannot be used
    public void copiesInto(Path folder) {
        Path place = docksort.files.CopyFolder.open(
                        folder,
                        catalogue.arrivals().all().stream().map(Arrival::folder).toList(),
                        plans.owner())
                .root();
        plans.keepVolume(place);
        catalogue.roots().newCopiesFolder(place, ArrivalId.fresh().value(), "New copies go to " + place);
    }

    public Relink previewRelink(Root root, Path newPath) {
        return Relink.preview(root, newPath, catalogue.clips().all());
    }

    /// Carries out a previewed relink as one change.
    ///
    /// @throws InputRefused when no recording of the root was found at the new path
    public void relink(Relink relink) {
        if (!relink.lines().isEmpty() && relink.count(Presence.State.ONLINE) == 0) {
            throw new InputRefused(new Problem(
                    "Root " + relink.root().name() + " was not pointed at " + relink.newPath(),
                    "none of its " + relink.lines().size() + " recordings is there",
                    "The project and all files are as they were.",
                    "Choose the folder that now holds what " + relink.root().path() + " held."));
        }
        catalogue.roots().move(relink.root(), relink.newPath(), relink.presence());
        refreshStock();
    }

    // Dispatch

    /// Timelines: opening, conforming, switching, checking, sending away.
    public DispatchRoom dispatchRoom() {
        return dispatchRoom;
    }

    // Log

    public List<Activity> activity(int most) {
        return catalogue.activity().latest(most);
    }

    /// What [#undo] would take back.
    public Optional<String> whatUndoTakesBack() {
        return catalogue.activity().whatUndoTakesBack();
    }

    public Optional<String> undo() {
        Optional<Undo> next = catalogue.activity().nextUndo();
        next.ifPresent(dispatchRoom::beforeUndo);
        Optional<Renames> renamed = next.flatMap(stockRoom::beforeUndo);
        Optional<String> undone = catalogue.activity().undo();
        renamed.ifPresent(Renames::done);
        undone.ifPresent(_ -> refreshStock());
        return undone;
    }

    public void log(String what) {
        catalogue.activity().write(what);
    }

    public Optional<String> setting(String name) {
        return catalogue.settings().get(name);
    }

    public void set(String name, String value) {
        catalogue.settings().put(name, value);
    }

    @Override
    public void close() {
        catalogue.close();
    }
}
