package docksort.project;

import docksort.arrival.Clip;
import docksort.catalogue.Activity;
import docksort.catalogue.Catalogue;
import docksort.catalogue.Desk;
import docksort.catalogue.Overheard;
import docksort.catalogue.Password;
import docksort.catalogue.Root;
import docksort.catalogue.Undo;
import docksort.engine.Encoders;
import docksort.engine.Inspector;
import docksort.engine.MediaEngine;
import docksort.files.Documents;
import docksort.files.MachineLock;
import docksort.files.Mounts;
import docksort.files.Renames;
import docksort.problem.CoreException.CatalogueUnavailable;
import docksort.problem.CoreException.InputRefused;
import docksort.problem.Problem;
import docksort.run.PictureCheck;
import docksort.sort.Circumstances;
import docksort.stock.Stock;
import docksort.strain.StrainJudge;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.function.Predicate;
import java.util.function.Supplier;

/// A project: one folder with its catalogue, and a room for each step of the job. What blocks while it
/// works is called off the interface thread. Safe for use by several threads.
public final class Project implements AutoCloseable {
    static final String CATALOGUE = "catalogue.db";
    static final String RUN_LOCK = "run.lock";
    private static final String MACHINE_LOCK = "machine.lock";

    private final Path folder;
    private final Catalogue catalogue;
    private final Settings settings;
    private final Roots roots;
    private final Arrivals arrivals;
    private final Pairing pairing;
    private final PairFilling pairFilling;
    private final WatchedPlaces watchedPlaces;
    private final TakingOut takingOut;
    private final PuttingAside puttingAside;
    private final BringingIn bringingIn;
    private final Measurements measurements;
    private final ClipSounds sounds;
    private final ArrivalReports arrivalReports;
    private final ProjectBook book;
    private final Looks looks;
    private final Plans plans;
    private final Trials trials;
    private final CopyQueue queue;
    private final Runs runs;
    private final CopyFolders copyFolders;
    private final Stocktaking stocktaking;
    private final Adoptions adoptions;
    private final Relinking relinking;
    private final Renaming renaming;
    private final Clearing clearing;
    private final Checksums checksums;
    private final Rereading rereading;
    private final Timelines timelines;
    private final TimelineFiles timelineFiles;
    private final Serving serving;
    private final Departures departures;
    private final Pulls pulls;
    private final Sharing sharing;
    private Optional<MachineLock> machine = Optional.empty();

    private Project(Path folder, Catalogue catalogue, MediaEngine engine, InstantSource clock) {
        this.folder = folder;
        this.catalogue = catalogue;
        var inspector = new Inspector(engine);
        Path scratch = folder.resolve("scratch");
        Path runLock = folder.resolve(RUN_LOCK);
        this.settings = new Settings(catalogue, folder);
        this.book = new ProjectBook(catalogue);
        this.looks = book.looks();
        Supplier<Circumstances> now =
                () -> new Circumstances(settings.timelineFormat(), Encoders.unavailable(engine), looks.ready());
        this.roots = new Roots(catalogue);
        this.copyFolders = new CopyFolders(catalogue, roots);
        this.arrivals = new Arrivals(catalogue, inspector, new PictureCheck(engine), settings, roots, clock);
        this.bringingIn = new BringingIn(catalogue, clock);
        this.watchedPlaces = new WatchedPlaces(catalogue, arrivals);
        var idle = new IdleQueue(runLock);
        this.takingOut = new TakingOut(catalogue, idle);
        this.puttingAside = new PuttingAside(catalogue, idle);
        this.pairing = new Pairing(catalogue, inspector, new PictureCheck(engine), settings, roots);
        this.measurements = new Measurements(catalogue, engine, scratch);
        this.sounds = new ClipSounds(catalogue, engine);
        this.arrivalReports = new ArrivalReports(catalogue, engine, settings, measurements, pairing, clock);
        this.trials = new Trials(catalogue, engine, now, scratch);
        this.plans = new Plans(catalogue, settings, roots, book, measurements, trials, now);
        this.pairFilling = new PairFilling(pairing, book, plans);
        this.queue = new CopyQueue(catalogue, plans, roots);
        var ground = new RunGround(catalogue, book, copyFolders, trials, now);
        this.runs = new Runs(catalogue, engine, settings, queue, copyFolders, ground, runLock);
        this.stocktaking = new Stocktaking(catalogue, new Stock(catalogue, Mounts.HERE), book, settings, clock);
        this.adoptions = new Adoptions(catalogue, inspector, new PictureCheck(engine), book, roots, stocktaking);
        this.relinking = new Relinking(catalogue, inspector, roots, stocktaking);
        this.renaming = new Renaming(catalogue, folder);
        this.clearing = new Clearing(catalogue, inspector);
        this.checksums = new Checksums(catalogue, clock);
        this.rereading = new Rereading(catalogue, stocktaking, clock);
        this.timelines = new Timelines(catalogue, plans, settings, roots);
        this.timelineFiles = new TimelineFiles(catalogue, settings, folder.resolve("timelines"));
        this.serving = new Serving(catalogue, settings, clock);
        this.departures = new Departures(catalogue, settings, timelines, timelineFiles, stocktaking, clock);
        this.pulls = new Pulls(catalogue, settings, roots, clock);
        this.sharing = new Sharing(catalogue, folder, clock);
    }

    /// Opens the project in a folder, or starts one there.
    ///
    /// @param engine stays the caller's to close
    public static Project open(Path folder, MediaEngine engine, InstantSource clock) {
        return open(folder, engine, clock, Password.NONE);
    }

    /// @param password by which the person is let into a shared project, where one was typed
    public static Project open(Path folder, MediaEngine engine, InstantSource clock, Password password) {
        Path real = Documents.ensureFolder(folder);
        Optional<MachineLock> alone = oneMachine(real, MachineLock::isNeededIn, Measurements.hostName());
        try {
            var project = new Project(real, catalogue(real, clock, password), engine, clock);
            project.machine = alone;
            project.prepare();
            return project;
        } catch (RuntimeException e) {
            alone.ifPresent(MachineLock::close);
            throw e;
        }
    }

    /// A catalogue in a file on a volume of a network is one machine's at a time: SQLite's locks and its shared
    /// memory do not reach from one machine to the other (SQLite documentation, "SQLite Over a Network").
    ///
    /// @throws CatalogueUnavailable when another machine has it open
    static Optional<MachineLock> oneMachine(Path folder, Predicate<Path> isNetwork, String machine) {
        if (Files.isRegularFile(folder.resolve(Sharing.FILE)) || !isNetwork.test(folder)) {
            return Optional.empty();
        }
        return Optional.of(MachineLock.tryOn(folder.resolve(MACHINE_LOCK), machine)
                .orElseThrow(() -> new CatalogueUnavailable(new Problem(
                        "The project cannot be opened here now: " + folder,
                        "it lies on a volume of a network, and another machine has it open",
                        "Nothing was changed.",
                        "Close it there first. For several machines at a time, share it: dock-sort share, or Share"
                                + " in the project's menu."))));
    }

    /// Begins a project as a template says, or opens the one that is there, which stays as it is.
    ///
    /// @param engine stays the caller's to close
    public static Project begin(Path folder, MediaEngine engine, InstantSource clock, Template template) {
        boolean isNew = !isIn(folder);
        Project project = open(folder, engine, clock);
        if (isNew) {
            template.settings().forEach(project.catalogue.settings()::put);
            template.words().forEach(project::log);
            try {
                project.looks.fill(project.book.now(), Optional.empty());
            } catch (InputRefused e) {
                project.log(e.problem().sentence()); // recipes that want it say so, too
            }
        }
        return project;
    }

    /// What a new project takes over from this one.
    public Template template() {
        return Template.of(settings.name(), catalogue.settings().all());
    }

    /// The settings of a project that is only looked at.
    static Map<String, String> settingsIn(Path folder) {
        Optional<Sharing.Membership> member = Sharing.membership(folder);
        if (member.isEmpty()) {
            return Catalogue.settingsIn(folder.resolve(CATALOGUE));
        }
        try (Catalogue shared = Catalogue.open(member.get().shared(), InstantSource.system(), desk(folder))) {
            return shared.settings().all();
        }
    }

    /// Whether a folder holds a project.
    public static boolean isIn(Path folder) {
        return Files.isRegularFile(folder.resolve(CATALOGUE)) || Files.isRegularFile(folder.resolve(Sharing.FILE));
    }

    /// Environment variable with the name this workstation's paths are kept under; without it, the
    /// machine's name.
    public static final String WORKSTATION_VARIABLE = "DOCKSORT_WORKSTATION";

    private static String workstation() {
        String named = System.getenv(WORKSTATION_VARIABLE);
        return named == null || named.isBlank() ? Measurements.hostName() : named.strip();
    }

    private static Catalogue catalogue(Path folder, InstantSource clock, Password password) {
        Desk desk = desk(folder).with(password);
        return Sharing.membership(folder)
                .map(member -> Catalogue.open(member.shared(), clock, desk))
                .orElseGet(() -> Catalogue.open(folder.resolve(CATALOGUE), clock, desk));
    }

    /// This workstation and this person, as they are called where nothing else was said.
    public static Desk deskHere() {
        return new Desk(workstation(), System.getProperty("user.name", ""));
    }

    static Desk desk(Path folder) {
        return Sharing.membership(folder)
                .map(member -> new Desk(member.workstation(), member.person()))
                .orElseGet(Project::deskHere);
    }

    private void prepare() {
        if (roots.byId(Root.COPIES).isEmpty()) {
            catalogue.roots().add(new Root(Root.COPIES, "Copies", folder.resolve("copies")));
        }
        renaming.mend();
    }

    public Path folder() {
        return folder;
    }

    public Settings settings() {
        return settings;
    }

    public Roots roots() {
        return roots;
    }

    public Arrivals arrivals() {
        return arrivals;
    }

    public Pairing pairing() {
        return pairing;
    }

    public PairFilling pairFilling() {
        return pairFilling;
    }

    public WatchedPlaces watchedPlaces() {
        return watchedPlaces;
    }

    public BringingIn bringingIn() {
        return bringingIn;
    }

    public TakingOut takingOut() {
        return takingOut;
    }

    public PuttingAside puttingAside() {
        return puttingAside;
    }

    /// Figures measured on this machine.
    public ArrivalReports arrivalReports() {
        return arrivalReports;
    }

    public Measurements measurements() {
        return measurements;
    }

    public ClipSounds sounds() {
        return sounds;
    }

    public Looks looks() {
        return looks;
    }

    public ProjectBook book() {
        return book;
    }

    public Plans plans() {
        return plans;
    }

    public Trials trials() {
        return trials;
    }

    public CopyQueue queue() {
        return queue;
    }

    public Runs runs() {
        return runs;
    }

    public CopyFolders copyFolders() {
        return copyFolders;
    }

    public Stocktaking stocktaking() {
        return stocktaking;
    }

    public Adoptions adoptions() {
        return adoptions;
    }

    public Relinking relinking() {
        return relinking;
    }

    public Renaming renaming() {
        return renaming;
    }

    public Clearing clearing() {
        return clearing;
    }

    public Rereading rereading() {
        return rereading;
    }

    public Checksums checksums() {
        return checksums;
    }

    public Timelines timelines() {
        return timelines;
    }

    public TimelineFiles timelineFiles() {
        return timelineFiles;
    }

    public Serving serving() {
        return serving;
    }

    public Departures departures() {
        return departures;
    }

    public Pulls pulls() {
        return pulls;
    }

    public Sharing sharing() {
        return sharing;
    }

    /// All clips, those that are put aside too.
    public List<Clip> clips() {
        return catalogue.clips().all();
    }

    /// Judges clips against the project's timeline, with what was measured on this machine.
    public StrainJudge judge() {
        return new StrainJudge(settings.timelineFormat(), measurements.all());
    }

    /// Shows the other workstations of a shared project what is open here to be changed.
    public void showEditing(Set<String> subjects) {
        catalogue.editing().show(subjects);
    }

    /// What other workstations have open to change it: who, by subject.
    public Map<String, List<String>> editedElsewhere() {
        return catalogue.editing().others();
    }

    public List<Activity> activity(int most) {
        return catalogue.activity().latest(most);
    }

    /// What [#undo] would take back.
    public Optional<String> whatUndoTakesBack() {
        return catalogue.activity().whatUndoTakesBack();
    }

    public Optional<String> undo() {
        return turn(catalogue.activity().nextUndo(), catalogue.activity()::undo);
    }

    /// What [#redo] would do again.
    public Optional<String> whatRedoDoesAgain() {
        return catalogue.activity().whatRedoDoesAgain();
    }

    /// Does again what was taken back last, unless something else was changed since.
    public Optional<String> redo() {
        return turn(catalogue.activity().nextRedo(), catalogue.activity()::redo);
    }

    /// Files first, then the catalogue.
    private Optional<String> turn(Optional<Undo> next, Function<Optional<Undo>, Optional<String>> catalogued) {
        Optional<Undo> ofFile = next.flatMap(timelineFiles::beforeUndo);
        Optional<Renames> renamed = next.flatMap(renaming::beforeUndo);
        Optional<String> turned = catalogued.apply(ofFile);
        renamed.ifPresent(Renames::done);
        turned.ifPresent(_ -> stocktaking.refresh());
        return turned;
    }

    /// Hears of what other programs change in the project, and of a database that goes away, until it is
    /// closed.
    public Overheard overhear(Overheard.Listener listener) {
        return catalogue.overhear(listener);
    }

    /// Whether the person may change anything: who joined with a role that only sees may not.
    public boolean mayChange() {
        return catalogue.mayChange();
    }

    public void log(String what) {
        catalogue.activity().write(what);
    }

    @Override
    public void close() {
        catalogue.close();
        machine.ifPresent(MachineLock::close);
    }
}
