package docksort.desktop.workshop;

import docksort.arrival.Arrival;
import docksort.catalogue.Activity;
import docksort.catalogue.Overheard;
import docksort.catalogue.Password;
import docksort.desktop.work.Jobs;
import docksort.engine.MediaEngine;
import docksort.project.Library;
import docksort.project.Project;
import docksort.project.Template;
import java.nio.file.Path;
import java.time.Duration;
import java.time.InstantSource;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.Executor;
import java.util.function.Consumer;
import java.util.function.Function;

/// The one bridge between the window and a project: opens it, gives each kind of wish its desk, and ends
/// all that goes on when it closes. Wishes come in on the window's thread, are carried out elsewhere, and
/// what came of them goes back as immutable snapshots.
public final class Workshop implements AutoCloseable {
    private static final Duration PATIENCE = Duration.ofSeconds(20);
    private static final int MOST_DEEDS = 20_000;

    private final MediaEngine engine;
    private final Project project;
    private final Troubles troubles;
    private final Contests contests;
    private final Editing editing;
    private final ProjectThread thread;
    private final UndoOrder undo = new UndoOrder();
    private final Jobs jobs;
    private final ViewFeed feed;
    private final DispatchDesk dispatch;
    private final MeasuringDesk measuring;
    private final SortDesk sort;
    private final RunDesk runs;
    private final StockDesk stock;
    private final ArrivalsDesk arrivals;
    private final CameraPairsDesk cameraPairs;
    private final PictureDesk pictures;
    private final PairDesk pairs;
    private final SharedWatch shared;
    private final NewsWatch news;
    private final LibraryDesk library;
    private final SharingDesk sharing;
    private Optional<Overheard> others = Optional.empty();

    private Workshop(MediaEngine engine, Project project, Executor window) {
        this.engine = engine;
        this.project = project;
        troubles = new Troubles(window);
        contests = new Contests(window);
        thread = new ProjectThread(troubles);
        jobs = new Jobs(window, thread.besides(), troubles::tell);
        var incoming = new Incoming(window);
        feed = new ViewFeed(project, thread, window, incoming, this::turns);
        var errands = new Errands(project, thread, feed, undo, jobs, window, contests);
        dispatch = new DispatchDesk(project, thread, feed, errands, undo, window);
        measuring = new MeasuringDesk(project, thread, feed, jobs, window);
        sort = new SortDesk(project, thread, feed, errands, measuring, dispatch);
        runs = new RunDesk(project, thread, feed, errands, window, troubles);
        stock = new StockDesk(
                project, thread, feed, errands, window, () -> runs.shown().get().running());
        arrivals = new ArrivalsDesk(project, thread, feed, errands, undo, jobs, window, incoming, runs, troubles);
        cameraPairs = new CameraPairsDesk(project, errands);
        pictures = new PictureDesk(engine, thread);
        pairs = new PairDesk(engine, project.looks()::shown, window);
        library = new LibraryDesk(project, thread, errands, window);
        sharing = new SharingDesk(project, errands);
        shared = new SharedWatch(thread, feed, troubles, window);
        editing = new Editing(project, thread, window);
        news = new NewsWatch(project, thread, troubles, shared, runs, editing, dispatch, arrivals);
    }

    /// Whether a folder holds a project.
    public static boolean isThere(Path folder) {
        return Project.isIn(folder);
    }

    /// Opens a project, or begins one with the built-in rules. Blocks; call it off the window's thread.
    ///
    /// @param window runs what belongs on the window's thread
    public static Workshop open(Path folder, Executor window) {
        return open(folder, Template.NONE, window);
    }

    /// Opens a shared project with a password that was typed.
    public static Workshop open(Path folder, Password password, Executor window) {
        return open(window, engine -> Project.open(folder, engine, InstantSource.system(), password));
    }

    /// Opens a project, or begins one as another one is, or with what the personal library holds.
    public static Workshop begin(Path folder, Optional<Path> like, Executor window) {
        Template template = Project.isIn(folder)
                ? Template.NONE
                : like.map(Template::like).orElseGet(() -> Template.of(Library.ofThisPerson()));
        return open(folder, template, window);
    }

    private static Workshop open(Path folder, Template template, Executor window) {
        return open(window, engine -> Project.begin(folder, engine, InstantSource.system(), template));
    }

    private static Workshop open(Executor window, Function<MediaEngine, Project> opening) {
        MediaEngine engine = MediaEngine.locate();
        try {
            var workshop = new Workshop(engine, opening.apply(engine), window);
            workshop.begin();
            return workshop;
        } catch (RuntimeException e) {
            engine.close();
            throw e;
        }
    }

    private void begin() {
        // Asked before anything new is begun, which is not complete either while it is looked through.
        List<Arrival> broken = project.arrivals().brokenOff();
        thread.step(() -> {
            project.stocktaking().refresh();
            feed.reload(true);
            for (Arrival arrival : broken) {
                arrivals.lookAgain(arrival); // what a power cut left undone
            }
            dispatch.openLast();
            if (project.sharing().address().isEmpty() && project.queue().size() > 0) {
                runs.startQueue(); // a run that was interrupted carries on
            }
        });
        others = Optional.of(project.overhear(shared));
        news.begin();
        library.look();
    }

    /// Folders that are arrivals already. Blocks; call it before the window works with the project.
    public List<Path> knownArrivals() {
        return project.arrivals().all().stream().map(Arrival::folder).toList();
    }

    public Views views() {
        return feed;
    }

    /// The work that goes on beside the steps of the project.
    public Jobs jobs() {
        return jobs;
    }

    /// What two people want differently.
    public Contests contests() {
        return contests;
    }

    /// What is open to be changed, here and elsewhere.
    public Editing editing() {
        return editing;
    }

    public Troubles troubles() {
        return troubles;
    }

    /// Whether the project's database answers.
    public SharedWatch shared() {
        return shared;
    }

    public ArrivalsDesk arrivals() {
        return arrivals;
    }

    public CameraPairsDesk cameraPairs() {
        return cameraPairs;
    }

    public MeasuringDesk measuring() {
        return measuring;
    }

    public SortDesk sort() {
        return sort;
    }

    public RunDesk runs() {
        return runs;
    }

    public StockDesk stock() {
        return stock;
    }

    public DispatchDesk dispatch() {
        return dispatch;
    }

    /// Frames of recordings and copies for the pair view.
    public PairDesk pairs() {
        return pairs;
    }

    public LibraryDesk library() {
        return library;
    }

    public SharingDesk sharing() {
        return sharing;
    }

    public PictureDesk pictures() {
        return pictures;
    }

    public CompletableFuture<Void> undo() {
        return thread.step(() -> {
            if (!dispatch.takeBack()) {
                project.undo().ifPresent(_ -> undo.projectTakenBack());
                dispatch.readChanged();
            }
            feed.reload(true);
        });
    }

    /// Does again what was taken back last.
    public CompletableFuture<Void> redo() {
        return thread.step(() -> {
            if (!dispatch.doAgain()) {
                project.redo().ifPresent(_ -> undo.projectDoneAgain());
                dispatch.readChanged();
            }
            feed.reload(true);
        });
    }

    private ProjectView.Turns turns() {
        return new ProjectView.Turns(
                dispatch.whatIsTakenBack().or(project::whatUndoTakesBack),
                dispatch.whatIsDoneAgain().or(project::whatRedoDoesAgain));
    }

    /// Hands over what was done in the project, the latest first.
    public void deeds(Consumer<List<Activity>> then) {
        jobs.ask("deeds", (_, _) -> Optional.of(project.activity(MOST_DEEDS)), then);
    }

    /// Ends what goes on, waits until it has ended, and closes the project. What is done is kept. Takes
    /// as long as what is at work needs to stop; not for the window's thread. A second call does nothing.
    @Override
    public void close() {
        if (!thread.stop()) {
            return;
        }
        others.ifPresent(Overheard::close);
        stock.close();
        news.stop();
        try {
            runs.close();
            boolean ended = jobs.close(PATIENCE)
                    && measuring.ended(PATIENCE)
                    && arrivals.ended(PATIENCE)
                    && thread.ended(PATIENCE);
            if (!ended) {
                System.getLogger(Workshop.class.getName())
                        .log(
                                System.Logger.Level.WARNING,
                                "something did not end in time, for instance on a dead volume");
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
        pairs.close();
        engine.close();
        project.close();
        troubles.close();
    }

    static String nameOf(Path path) {
        return path.getFileName() == null ? path.toString() : path.getFileName().toString();
    }
}
