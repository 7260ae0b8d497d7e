package docksort.desktop;

import docksort.arrival.Arrival;
import docksort.arrival.ArrivalId;
import docksort.arrival.Clip;
import docksort.arrival.ClipId;
import docksort.arrival.ScanListener;
import docksort.arrival.Settling;
import docksort.arrival.Unreadable;
import docksort.arrival.Whereabouts;
import docksort.catalogue.CopyState;
import docksort.catalogue.Root;
import docksort.desktop.work.Job;
import docksort.desktop.work.Jobs;
import docksort.engine.Cancellation;
import docksort.engine.MediaEngine;
import docksort.engine.SystemNotice;
import docksort.files.PictureShelf;
import docksort.files.Room;
import docksort.link.Relink;
import docksort.media.FrameRate;
import docksort.media.Measured;
import docksort.media.Rational;
import docksort.problem.CoreException;
import docksort.problem.Faults;
import docksort.problem.Problem;
import docksort.project.Project;
import docksort.run.Pace;
import docksort.run.RunSnapshot;
import docksort.sort.LoadSheet;
import docksort.sort.PlannedCopy;
import docksort.sort.Planning;
import docksort.sort.Recipe;
import docksort.sort.SortBook;
import docksort.sort.Tried;
import docksort.stock.ServingOrder;
import docksort.stock.StockLine;
import docksort.stock.StockWatch;
import docksort.strain.TimelineFormat;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.RejectedExecutionException;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.function.BiConsumer;
import java.util.function.Consumer;
import java.util.function.Function;
import java.util.function.Supplier;
import javafx.application.Platform;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.beans.property.SimpleObjectProperty;
import javafx.collections.FXCollections;
import javafx.collections.ObservableList;

/// The one bridge between the window and the core. Wishes come in on the interface thread and are carried
/// out on a thread of its own, one after the other; what came of them goes back as immutable snapshots,
/// at most one at a time.
public final class Workshop implements AutoCloseable {
    private final ExecutorService steps = Executors.newSingleThreadExecutor(
            Thread.ofPlatform().daemon().name("project-steps").factory());
    private final ExecutorService measuring = Executors.newSingleThreadExecutor(
            Thread.ofPlatform().daemon().name("measuring").factory());
    private final ScheduledExecutorService watching = Executors.newSingleThreadScheduledExecutor(
            Thread.ofPlatform().daemon().name("watching").factory());
    // Threads of the system: what counts checksums on a virtual one would keep short questions waiting.
    private final ExecutorService looks = Executors.newCachedThreadPool(
            Thread.ofPlatform().daemon().name("beside-", 0).factory());
    private final MediaEngine engine;
    private final Project project;
    private final PairDesk pairs;
    private final PictureShelf shelf = PictureShelf.ofUser();

    private final DispatchDesk dispatch = new DispatchDesk(this);
    private final StockWatch stockWatch = new StockWatch(this::diskChanged);
    private final Jobs jobs = new Jobs(Platform::runLater, looks, this::tell);
    private final ReadOnlyObjectWrapper<Optional<ProjectView>> view = new ReadOnlyObjectWrapper<>(Optional.empty());
    private final ReadOnlyObjectWrapper<RunSnapshot> run = new ReadOnlyObjectWrapper<>(RunSnapshot.NONE);
    private final ReadOnlyObjectWrapper<MeasureProgress> measure = new ReadOnlyObjectWrapper<>(MeasureProgress.NONE);
    private final ReadOnlyObjectWrapper<ScanProgress> scan = new ReadOnlyObjectWrapper<>(ScanProgress.NONE);
    private final ObjectProperty<Optional<Problem>> problem = new SimpleObjectProperty<>(Optional.empty());
    private final ReadOnlyObjectWrapper<Optional<Relink>> relink = new ReadOnlyObjectWrapper<>(Optional.empty());
    private final ObservableList<Clip> scanned = FXCollections.observableArrayList();

    // Written on the steps thread only; read by any thread, each read on its own.
    private volatile Optional<Project.LockedRun> current = Optional.empty();
    private volatile Pace pace = Pace.NOW;
    private volatile boolean checksAll = true; // asked for on the window's thread, which never waits for the project
    private final List<Consumer<ProjectView>> takers = new CopyOnWriteArrayList<>();
    private final AtomicBoolean reloadIsDue = new AtomicBoolean();
    private volatile long reloadMillis; // what the last one took
    private final BiConsumer<String, String> notice = new SystemNotice();
    private volatile Cancellation scanCancellation = new Cancellation();
    private final List<Job> measured = new ArrayList<>(); // on the interface thread
    private final AtomicBoolean runNews = new AtomicBoolean();
    private final AtomicBoolean closing = new AtomicBoolean();
    private final List<Clip> arriving = new ArrayList<>();

    // Only touched on the steps thread.
    private List<Clip> clips = List.of();
    private Whereabouts whereabouts = Whereabouts.NONE;

    private final Map<ArrivalId, Settling> settling = new HashMap<>(); // only touched by the look for news

    private static final int WATCH_SECONDS = 4;
    private static final int FILL_MILLIS = 400;
    private static final int NEWS_MILLIS = 150;
    private static final int HAND_OVER_SECONDS = 20;
    private static final Duration PATIENCE = Duration.ofSeconds(20);
    private static final Duration SETTLED_AFTER = Duration.ofSeconds(6);

    // What is heard of faults on any thread is shown as what else goes wrong.
    private final Runnable faults = Faults.listen(this::show);

    private Workshop(MediaEngine engine, Project project) {
        this.engine = engine;
        this.project = project;
        this.pairs = new PairDesk(engine);
    }

    /// Opens a project. Blocks; call it off the interface thread.
    public static Workshop open(Path folder) {
        MediaEngine engine = MediaEngine.locate();
        try {
            var workshop = new Workshop(engine, Project.open(folder, engine, InstantSource.system()));
            workshop.step(() -> {
                workshop.project.refreshStock();
                workshop.reload(true);
                for (Arrival arrival : workshop.project.brokenOff()) {
                    workshop.lookAgain0(arrival, Optional.empty()); // what a power cut left undone
                }
                workshop.dispatch.openLast();
                if (workshop.project.queued() > 0) {
                    workshop.startQueue(); // a run that was interrupted carries on
                }
            });
            workshop.watching.scheduleWithFixedDelay(workshop::look, WATCH_SECONDS, WATCH_SECONDS, TimeUnit.SECONDS);
            return workshop;
        } catch (RuntimeException e) {
            engine.close();
            throw e;
        }
    }

    /// Folders that are arrivals already. Blocks; call it before the window works with the project.
    public List<Path> knownArrivals() {
        return project.arrivals().stream().map(docksort.arrival.Arrival::folder).toList();
    }

    public ReadOnlyObjectProperty<Optional<ProjectView>> view() {
        return view.getReadOnlyProperty();
    }

    /// Hands over every new view, and the one there is at once. Takers are called one after the other on
    /// the window's thread, which does what else waits in between. They cannot be taken back: they live
    /// as long as the window.
    public void eachView(Consumer<ProjectView> taker) {
        takers.add(taker);
        view.get().ifPresent(taker);
    }

    /// Takes until all have the view.
    private void handOver(ProjectView shown) throws InterruptedException {
        var done = new CountDownLatch(1);
        // Counted on the window's thread: who comes before has a place, who comes after finds the view.
        Platform.runLater(() -> handOverNext(shown, new ArrayDeque<>(takers), done));
        // A window that was closed takes nothing more.
        long end = System.nanoTime() + TimeUnit.SECONDS.toNanos(HAND_OVER_SECONDS);
        boolean taken = false;
        while (!taken && !closing.get() && System.nanoTime() < end) {
            taken = done.await(NEWS_MILLIS, TimeUnit.MILLISECONDS);
        }
        if (!taken && !closing.get()) {
            System.getLogger(Workshop.class.getName())
                    .log(System.Logger.Level.WARNING, "the window did not take a view in time");
        }
    }

    private static void handOverNext(ProjectView shown, Deque<Consumer<ProjectView>> left, CountDownLatch done) {
        Consumer<ProjectView> next = left.poll();
        if (next == null) {
            done.countDown();
            return;
        }
        try {
            next.accept(shown);
        } finally {
            Platform.runLater(() -> handOverNext(shown, left, done));
        }
    }

    public ReadOnlyObjectProperty<RunSnapshot> run() {
        return run.getReadOnlyProperty();
    }

    public ReadOnlyObjectProperty<ScanProgress> scan() {
        return scan.getReadOnlyProperty();
    }

    /// What went wrong last, until it is put away.
    public ObjectProperty<Optional<Problem>> problem() {
        return problem;
    }

    public ReadOnlyObjectProperty<Optional<Relink>> relink() {
        return relink.getReadOnlyProperty();
    }

    /// Clips of the arrivals that are being looked into, before they are part of the project.
    public ObservableList<Clip> scanned() {
        return scanned;
    }

    // Arrivals

    public CompletableFuture<Void> addArrivals(List<Path> folders) {
        return step(() -> {
            var cancellation = new Cancellation();
            dispatch.somethingElseHappened();
            scanCancellation = cancellation;
            var problems = new ArrayList<Problem>();
            for (Path folder : folders) {
                if (cancellation.isCancelled()) {
                    break;
                }
                try {
                    Set<ClipId> arrived = new HashSet<>();
                    project.addArrival(folder, listener(folder), cancellation)
                            .clips()
                            .forEach(clip -> arrived.add(clip.id()));
                    queueArrived(arrived);
                } catch (CoreException e) {
                    problems.add(e.problem()); // the other folders go on
                }
                showNow(scan, ScanProgress.NONE);
                reload(true);
            }
            if (!problems.isEmpty()) {
                show(problems.getFirst());
            }
        });
    }

    public void cancelScan() {
        scanCancellation.cancel();
    }

    /// Looks at an arrival's folder again; files that are as before are not opened.
    public CompletableFuture<Void> lookAgain(Arrival arrival) {
        return step(() -> lookAgain0(arrival, Optional.empty()));
    }

    private void lookAgain0(Arrival arrival, Optional<Set<Path>> settled) throws InterruptedException {
        var cancellation = new Cancellation();
        scanCancellation = cancellation;
        try {
            Set<ClipId> before = new HashSet<>();
            project.clips().forEach(clip -> before.add(clip.id()));
            project.lookAgain(arrival, settled, listener(arrival.folder()), cancellation);
            Set<ClipId> arrived = new HashSet<>();
            project.clips().stream()
                    .map(Clip::id)
                    .filter(id -> !before.contains(id))
                    .forEach(arrived::add);
            queueArrived(arrived);
            project.refreshStock();
        } finally {
            showNow(scan, ScanProgress.NONE);
        }
        reload(true);
    }

    /// Takes new files of an arrival in by itself, once they have stopped growing, or no longer.
    public CompletableFuture<Void> watch(Arrival arrival, boolean on) {
        return step(() -> {
            project.watch(arrival, on);
            reload(false);
        });
    }

    /// Looks, on a thread of its own, at what may have come or changed; the next look waits for the end
    /// of this one, and a volume that does not answer keeps nothing else waiting.
    private void look() {
        if (closing.get()) {
            return;
        }
        try {
            if (dispatch.hasChangedOnDisk()) {
                step(() -> {
                            dispatch.readAgain();
                            reload(false);
                        })
                        .get();
            }
            lookForNews();
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        } catch (ExecutionException | RuntimeException e) {
            if (!closing.get()) {
                tell(e);
            }
        }
    }

    private void lookForNews() throws InterruptedException, ExecutionException {
        Set<ArrivalId> watched = project.watched();
        settling.keySet().retainAll(watched);
        for (Arrival arrival : project.arrivals()) {
            if (!watched.contains(arrival.id()) || !project.isThere(arrival)) {
                continue; // a volume that is away is told in Stock
            }
            Set<Path> settled = settling.computeIfAbsent(arrival.id(), _ -> new Settling(SETTLED_AFTER))
                    .look(project.news(arrival), InstantSource.system().instant());
            if (!settled.isEmpty()) {
                step(() -> lookAgain0(arrival, Optional.of(settled))).get();
            }
        }
    }

    /// Says how to read clips that state no frame rate.
    public CompletableFuture<Void> readAt(List<Clip> chosen, FrameRate rate) {
        return step(() -> {
            project.readAt(chosen, rate);
            dispatch.somethingElseHappened();
            reload(true);
        });
    }

    public CompletableFuture<Void> setFormat(TimelineFormat format) {
        return step(() -> {
            project.setTimelineFormat(format);
            reload(false);
        });
    }

    // Measuring

    public ReadOnlyObjectProperty<MeasureProgress> measureProgress() {
        return measure.getReadOnlyProperty();
    }

    /// Measures how clips play and how long jumps in them take, one after the other, beside everything
    /// else.
    public CompletableFuture<Void> measure(List<Clip> chosen) {
        List<Clip> wanted =
                chosen.stream().filter(clip -> clip.facts().isDecodable()).toList();
        return measuring("Measuring " + subject(wanted), cancellation -> {
            for (int i = 0; i < wanted.size(); i++) {
                showNow(measure, new MeasureProgress(wanted.get(i).name(), i, wanted.size(), true));
                if (!project.measurements().measure(wanted.get(i), cancellation)) {
                    break;
                }
                step(() -> reload(false));
            }
        });
    }

    /// Whether a trial copy of a clip can be made.
    public static boolean canTestLevers(Clip clip) {
        return docksort.project.Measurements.canTestLevers(clip);
    }

    /// Finds out which lever helps, for one clip after the other; those of which no trial copy can be
    /// made are left out.
    public CompletableFuture<Void> testLevers(List<Clip> chosen) {
        List<Clip> wanted = chosen.stream()
                .filter(clip -> clip.facts().isDecodable())
                .filter(docksort.project.Measurements::canTestLevers)
                .toList();
        return measuring("Testing levers of " + subject(wanted), cancellation -> {
            for (int i = 0; i < wanted.size() && !cancellation.isCancelled(); i++) {
                Clip clip = wanted.get(i);
                int done = i;
                project.measurements()
                        .lever(
                                clip,
                                what -> showNow(
                                        measure,
                                        new MeasureProgress(clip.name() + ": " + what, done, wanted.size(), true)),
                                cancellation);
                step(() -> reload(false));
            }
        });
    }

    /// Measures how fast a volume is read.
    public CompletableFuture<Void> measureVolume(Whereabouts.OnVolume on) {
        return measuring("Reading " + on.volume().name(), cancellation -> {
            showNow(measure, new MeasureProgress("reading " + on.volume().name(), 0, 0, true));
            project.measurements().readSpeed(on.clips(), cancellation);
            step(() -> reload(false));
        });
    }

    /// Ends what is measured or tried now; what waits behind it goes on.
    public void stopMeasuring() {
        measured.stream().findFirst().ifPresent(Job::stop);
    }

    private static String subject(List<Clip> clips) {
        return clips.size() == 1 ? clips.getFirst().name() : clips.size() + " clips";
    }

    private interface Measuring {
        void run(Cancellation cancellation) throws InterruptedException;
    }

    /// One after the other: figures that are taken beside one another are wrong.
    private CompletableFuture<Void> measuring(String what, Measuring work) {
        var end = new CompletableFuture<Void>();
        Runnable begin = () -> begun(what, work, end);
        if (Platform.isFxApplicationThread()) {
            begin.run();
        } else {
            Platform.runLater(begin);
        }
        return end;
    }

    private void begun(String what, Measuring work, CompletableFuture<Void> end) {
        Job job = jobs.begin(
                measuring,
                what,
                "",
                (_, cancellation) -> {
                    try {
                        work.run(cancellation);
                    } finally {
                        showNow(measure, MeasureProgress.NONE);
                    }
                    return cancellation.isCancelled() ? Optional.<Boolean>empty() : Optional.of(true);
                },
                _ -> {});
        measured.add(job);
        job.state().subscribe(state -> {
            if (state.isOver()) {
                measured.remove(job);
                end.complete(null);
            }
        });
    }

    private ScanListener listener(Path folder) {
        String name = String.valueOf(folder.getFileName());
        return new ScanListener() {
            @Override
            public void progress(int done, int all) {
                showNow(scan, new ScanProgress(name, done, all, true));
            }

            @Override
            public void clip(Clip clip) {
                synchronized (arriving) {
                    arriving.add(clip);
                    if (arriving.size() > 1) {
                        return;
                    }
                }
                // Some at a time: filling the list anew for each of ten thousand clips would stop the window.
                CompletableFuture.delayedExecutor(FILL_MILLIS, TimeUnit.MILLISECONDS, Platform::runLater)
                        .execute(() -> {
                            synchronized (arriving) {
                                scanned.addAll(arriving);
                                arriving.clear();
                            }
                        });
            }

            @Override
            public void unreadable(Unreadable file) {
                // Shown with the arrival, when all of it is known.
            }
        };
    }

    // Sort

    public CompletableFuture<Void> choose(List<Clip> chosen, Optional<List<Recipe>> recipes) {
        return step(() -> {
            project.plans().choose(chosen, recipes);
            dispatch.somethingElseHappened();
            reload(false);
        });
    }

    /// What a recipe is called, or its id where it is gone.
    public String recipeLabel(String id) {
        return view.get()
                .flatMap(shown -> shown.book().byId(id))
                .map(Recipe::label)
                .orElse(id);
    }

    /// Puts other recipes and rules in the place of the project's.
    ///
    /// @param what what was changed, for the log and for undo
    public CompletableFuture<Void> change(SortBook book, String what) {
        return step(() -> {
            project.plans().change(book, what);
            dispatch.somethingElseHappened();
            reload(false);
        });
    }

    /// Takes in recipes, and rules where wanted, from a file.
    public CompletableFuture<Void> takeInRecipes(Path file, boolean itsRules) {
        return step(() -> {
            project.plans().takeIn(file, itsRules);
            dispatch.somethingElseHappened();
            reload(false);
        });
    }

    public CompletableFuture<Void> writeOutRecipes(Path file) {
        return step(() -> {
            project.plans().writeOut(file);
            project.log("Wrote recipes and rules into " + file.getFileName());
            reload(false);
        });
    }

    /// Lets new copies go into another folder; those there are stay where they are.
    public CompletableFuture<Void> copiesInto(Path folder) {
        return step(() -> {
            project.copiesInto(folder);
            dispatch.somethingElseHappened();
            reload(false);
        });
    }

    /// Makes some seconds of a clip by each recipe and holds them against the original.
    public CompletableFuture<List<Tried>> compare(Clip clip, List<Recipe> recipes) {
        var done = new CompletableFuture<List<Tried>>();
        measuring("Comparing recipes on " + clip.name(), cancellation -> {
                    int[] step = new int[1];
                    done.complete(project.plans()
                            .compare(
                                    clip,
                                    recipes,
                                    what -> showNow(
                                            measure,
                                            new MeasureProgress(
                                                    clip.name() + ": " + what, step[0]++, recipes.size() + 1, true)),
                                    cancellation));
                })
                .whenComplete((_, _) -> done.complete(List.of())); // nothing, where it failed and was told of
        return done;
    }

    /// Bytes a second that the slowest measured volume of the project was read with, empty where none was.
    public Optional<Double> volumeSpeed() {
        return view.get().stream()
                .flatMap(shown -> shown.insight().measured().values().stream())
                .flatMap(measured -> measured.volumeBytesPerSecond().stream())
                .map(Measured::median)
                .min(Double::compare);
    }

    /// Keeps how many frames range copies hold before and after what the timeline uses.
    public CompletableFuture<Void> setHandles(long frames) {
        return step(() -> {
            dispatch.setHandles(frames);
            reload(false);
        });
    }

    /// What would change with another book.
    public CompletableFuture<List<LoadSheet.Change>> preview(SortBook book) {
        return answered(() -> {
            Planning now = project.plans().planning();
            return LoadSheet.plan(clips, now).changes(LoadSheet.plan(clips, now.with(book)));
        });
    }

    /// What the selected clips would come to with each recipe.
    public CompletableFuture<List<PlannedCopy>> planned(List<Clip> chosen, List<Recipe> recipes) {
        return answered(() -> {
            Planning now = project.plans().planning();
            return recipes.stream()
                    .flatMap(recipe ->
                            chosen.stream().flatMap(clip -> LoadSheet.planned(clip, recipe, "", now).stream()))
                    .toList();
        });
    }

    /// Makes about a second of each copy that is wanted, to learn its size and time.
    public CompletableFuture<Void> tryOut(List<PlannedCopy> wanted) {
        return measuring("Trying " + wanted.size() + (wanted.size() == 1 ? " copy" : " copies"), cancellation -> {
                    int done = 0;
                    for (PlannedCopy copy : wanted) {
                        if (cancellation.isCancelled()) {
                            break;
                        }
                        showNow(
                                measure,
                                new MeasureProgress("trying " + copy.clip().name(), done++, wanted.size(), true));
                        project.plans().tryOut(copy.clip(), copy.recipe(), cancellation);
                    }
                })
                .thenCompose(_ -> step(() -> reload(false)));
    }

    // Run

    /// Puts as many copies as fit into the queue, from the first on, and starts to work on them.
    public CompletableFuture<Void> startWhatFits(Pace when) {
        return step(() -> {
            pace = when;
            Planning now = project.plans().planning();
            project.plans().enqueue(LoadSheet.plan(clips, now).thatFit(now));
            startQueue();
            reload(false);
        });
    }

    /// Puts what the rules want of clips that just came in into the queue, where the rules say so.
    private void queueArrived(Set<ClipId> arrived) {
        if (arrived.isEmpty() || !project.plans().book().queueNewArrivals()) {
            return;
        }
        Planning now = project.plans().planning();
        LoadSheet sheet = LoadSheet.plan(project.clips(), now).only(arrived, now);
        if (project.plans().enqueue(sheet) > 0) {
            startQueue();
        }
    }

    /// Puts what the load sheet wants into the queue and starts to work on it.
    public CompletableFuture<Void> startRun() {
        return startRun(Pace.NOW);
    }

    /// @param when when it works, and how hard
    public CompletableFuture<Void> startRun(Pace when) {
        return step(() -> {
            pace = when;
            project.plans().enqueue(project.plans().loadSheet(clips));
            startQueue();
            reload(false);
        });
    }

    public CompletableFuture<Void> retryFailed() {
        return step(() -> {
            project.retryFailed();
            startQueue();
            reload(false);
        });
    }

    private void startQueue() {
        if (current.map(locked -> locked.run().takeUp(clips)).orElse(false)) {
            current.ifPresent(locked -> locked.run().pace(pace));
            return;
        }
        current.ifPresent(Project.LockedRun::close);
        current = Optional.empty();
        Optional<Project.LockedRun> started = project.startRun(project.usualTerms(pace), this::runChanged);
        if (started.isEmpty()) {
            show(new Problem(
                    "The run was not started",
                    "another program is running this project's queue",
                    "Nothing was changed.",
                    "Wait for it, or end it."));
        }
        current = started;
        runChanged();
    }

    /// Begins nothing more, or goes on; what is in the making is finished.
    public void pauseRun(boolean on) {
        beside(() -> current.ifPresent(locked -> locked.run().pause(on)));
    }

    /// Holds everything still where it is, or lets it go on.
    public void holdRun(boolean on) {
        beside(() -> current.ifPresent(locked -> locked.run().hold(on)));
    }

    /// Leaves copies out of the run; they stay wanted.
    public void skipCopies(List<String> copyIds) {
        beside(() -> current.ifPresent(locked -> locked.run().skip(copyIds)));
    }

    /// Brings copies that wait to the front of the queue, or to its end.
    public void moveCopies(List<String> copyIds, boolean first) {
        beside(() -> current.ifPresent(locked -> locked.run().move(copyIds, first)));
    }

    /// Puts copies that wait in front of another.
    public void moveCopiesBefore(List<String> copyIds, String target) {
        beside(() -> current.ifPresent(locked -> locked.run().moveBefore(copyIds, target)));
    }

    /// Puts copies that failed or were left out back into the queue.
    public CompletableFuture<Void> retryCopies(List<String> copyIds) {
        return step(() -> {
            project.retry(copyIds);
            startQueue();
            reload(false);
        });
    }

    /// Whether all of a copy is decoded in its check, from the next run on.
    public CompletableFuture<Void> checkAll(boolean all) {
        checksAll = all;
        return step(() -> project.checkAll(all));
    }

    public boolean checksAll() {
        return checksAll;
    }

    /// Writes what the latest run did, as HTML or CSV by the ending.
    public CompletableFuture<Void> writeReport(Path file) {
        return step(() -> {
            Optional<Instant> latest = project.runs().stream().findFirst();
            if (latest.isEmpty()) {
                throw new docksort.problem.CoreException.InputRefused(new Problem(
                        "No report was written",
                        "no copy has come to its end in a run yet",
                        "Nothing was changed.",
                        "Start a run in Sort."));
            }
            project.report(latest.get()).write(file);
            project.log("Wrote the report " + file);
        });
    }

    public void stopRun() {
        beside(() -> current.ifPresent(locked -> locked.run().stop()));
    }

    /// Takes copies out of the queue.
    public void cancelCopies(List<String> copyIds) {
        beside(() -> current.ifPresent(locked -> locked.run().cancel(copyIds)));
    }

    /// A run says so of every small step; the window hears of it a few times a second.
    private void runChanged() {
        if (!runNews.getAndSet(true)) {
            CompletableFuture.delayedExecutor(NEWS_MILLIS, TimeUnit.MILLISECONDS, looks)
                    .execute(() -> attempt(this::tellOfRun));
        }
    }

    private void tellOfRun() {
        runNews.set(false);
        Optional<Project.LockedRun> told = current;
        RunSnapshot now = told.map(locked -> locked.run().snapshot()).orElse(RunSnapshot.NONE);
        Platform.runLater(() -> {
            RunSnapshot was = run.get();
            run.set(now);
            if (was.running() && !now.running()) {
                told.ifPresent(locked -> runEnded(locked, now));
            } else if (now.finished() != was.finished()) {
                reloadSoon();
            }
        });
    }

    /// Closes the run that ended, which another one may have followed by now.
    private void runEnded(Project.LockedRun locked, RunSnapshot run) {
        step(() -> {
            // Other programs may run the queue now.
            project.keepWorkers(locked.run().bestWorkers());
            locked.close();
            String what = run.ready() + " made and checked, " + run.count(CopyState.FAILED) + " failed";
            project.log("Run: " + what);
            reload(false);
            long waiting = run.count(CopyState.WAITING);
            notice.accept("Dock Sort: the run is over", waiting == 0 ? what : what + ", " + waiting + " still waiting");
        });
    }

    /// While many copies come to their end, the rest of the window follows once a second, or so much less
    /// often that following takes no more than a sixth of a processor.
    private void reloadSoon() {
        if (!reloadIsDue.getAndSet(true)) {
            long wait = Math.clamp(5 * reloadMillis, 1_000, 15_000);
            CompletableFuture.delayedExecutor(wait, TimeUnit.MILLISECONDS, steps)
                    .execute(() -> attempt(() -> {
                        reloadIsDue.set(false);
                        long begin = System.nanoTime();
                        reload(false);
                        reloadMillis = TimeUnit.NANOSECONDS.toMillis(System.nanoTime() - begin);
                    }));
        }
    }

    // Stock and relink

    public CompletableFuture<Void> refreshStock() {
        return step(() -> {
            project.refreshStock();
            reload(false);
        });
    }

    /// What the Stock station asks and changes.
    public StockDesk stockDesk() {
        return new StockDesk(this);
    }

    /// The work that goes on beside the steps.
    public Jobs jobs() {
        return jobs;
    }

    /// Work on the project that may take a while.
    interface Errand<T> {
        T run(Project project, BiConsumer<Integer, Integer> progress, Cancellation cancellation)
                throws InterruptedException;
    }

    /// Begins work beside the steps of the project, of which nothing is kept when it is stopped.
    ///
    /// @param then gets what came of it on the interface thread
    <T> Job begin(String what, Errand<T> errand, Consumer<T> then) {
        return jobs.begin(what, "", whole(errand), then);
    }

    /// Asks the project something whose answer is wanted at once.
    ///
    /// @param kind a question of the same kind that waits for its answer gets none
    <T> void ask(String kind, Question<T> question, Consumer<T> then) {
        jobs.ask(kind, whole((asked, _, _) -> question.ask(asked)), then);
    }

    interface Question<T> {
        T ask(Project project) throws InterruptedException;
    }

    private <T> Jobs.Work<T> whole(Errand<T> errand) {
        return (progress, cancellation) -> {
            T answer = errand.run(project, progress, cancellation);
            return cancellation.isCancelled() ? Optional.empty() : Optional.of(answer);
        };
    }

    /// What only the steps may read, read in its turn.
    <T> T onSteps(Supplier<T> read) throws InterruptedException {
        try {
            return CompletableFuture.supplyAsync(read, steps).get();
        } catch (ExecutionException e) {
            throw new IllegalStateException("cannot read what the steps keep", e.getCause());
        }
    }

    /// Changes the stock as one step.
    ///
    /// @param then gets the answer on the interface thread, after the window shows the change
    <T> void change(Function<Project, T> change, Consumer<T> then) {
        step(() -> {
            T answer = change.apply(project);
            dispatch.somethingElseHappened();
            reload(true);
            Platform.runLater(() -> then.accept(answer));
        });
    }

    public CompletableFuture<Void> serve(ServingOrder order) {
        return step(() -> {
            project.setServingOrder(order);
            reload(false);
        });
    }

    public CompletableFuture<Void> previewRelink(Root root, Path path) {
        return step(() -> showNow(relink, Optional.of(project.previewRelink(root, path))));
    }

    public void dropRelink() {
        relink.set(Optional.empty());
    }

    public CompletableFuture<Void> carryOut(Relink wanted) {
        return step(() -> {
            project.relink(wanted);
            dispatch.somethingElseHappened();
            showNow(relink, Optional.empty());
            reload(true);
        });
    }

    // Dispatch

    public DispatchDesk dispatchDesk() {
        return dispatch;
    }

    /// Frames of recordings and copies for the pair view.
    public PairDesk pairDesk() {
        return pairs;
    }

    Project project() {
        return project;
    }

    /// The project's clips as the last view has them. Called on the steps thread.
    List<Clip> clips() {
        return clips;
    }

    // Everything

    public CompletableFuture<Void> undo() {
        return step(() -> {
            if (!dispatch.takeBack()) {
                project.undo();
                dispatch.readAgain();
            }
            reload(true);
        });
    }

    private Optional<String> whatUndoTakesBack() {
        return dispatch.whatIsTakenBack().or(project::whatUndoTakesBack);
    }

    /// A small picture from a place in a clip, from the shelf where it was made before.
    ///
    /// @param place 0 for its start, 1 for its end
    /// @param drawn makes something to show of it, off the interface thread
    public <T> CompletableFuture<Optional<T>> picture(Clip clip, Rational place, int width, Function<byte[], T> drawn) {
        return answered(() -> {
            try {
                return pictureBytes(clip, place, width).map(drawn);
            } catch (CoreException e) {
                return Optional.empty(); // a clip without a picture; what ails it is told with its facts
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
                return Optional.empty();
            }
        });
    }

    private Optional<byte[]> pictureBytes(Clip clip, Rational place, int width) throws InterruptedException {
        String name = clip.fingerprint() + "-" + place.toString().replace('/', '-') + "-" + width;
        Optional<byte[]> kept = shelf.get(name);
        if (kept.isPresent()) {
            return kept;
        }
        Optional<byte[]> made =
                engine.picture(clip.source(), clip.facts().seconds().times(place), width);
        made.ifPresent(bytes -> shelf.put(name, bytes));
        return made;
    }

    void reload(boolean clipsToo) throws InterruptedException {
        if (clipsToo) {
            synchronized (arriving) {
                arriving.clear(); // what was still to be shown is among the project's clips now
            }
            clips = project.clips();
            checksAll = project.checksAll();
            whereabouts = Whereabouts.of(clips);
        }
        var shown = new ProjectView(
                project.name(),
                project.timelineFormat(),
                project.arrivals(),
                clips,
                project.unreadable(),
                project.asides().values().stream().mapToInt(Integer::intValue).sum(),
                project.plans().book(),
                Room.of(project.copiesRoot().path()),
                project.dispatchRoom().handles(),
                project.plans().loadSheet(clips),
                project.stock(clips, project.servingOrder()),
                project.servingOrder(),
                project.stockRoom().limits(),
                project.roots(),
                project.activity(20),
                whatUndoTakesBack(),
                new Insight(
                        project.measurements().all(),
                        project.measurements().levers(),
                        whereabouts,
                        project.missingCompanions(clips),
                        project.watched()));
        Platform.runLater(() -> {
            if (clipsToo) {
                scanned.clear();
            }
            view.set(Optional.of(shown));
        });
        handOver(shown);
        dispatch.show(shown.stock());
        stockWatch.folders(foldersOf(shown.stock()));
    }

    private static Set<Path> foldersOf(List<StockLine> stock) {
        Set<Path> folders = new HashSet<>();
        for (StockLine line : stock) {
            Optional.ofNullable(line.clip().source().head().getParent()).ifPresent(folders::add);
            line.copies()
                    .forEach(
                            copy -> Optional.ofNullable(copy.file().getParent()).ifPresent(folders::add));
        }
        return folders;
    }

    /// Something changed where originals or copies lie. A run writes there all the time and says itself
    /// what became of it.
    private void diskChanged() {
        if (!run.get().running()) {
            step(() -> {
                if (project.refreshStock() > 0) {
                    reload(false);
                }
            });
        }
    }

    /// A piece of work on the project.
    @FunctionalInterface
    interface Step {
        void run() throws InterruptedException;
    }

    CompletableFuture<Void> step(Step work) {
        try {
            return CompletableFuture.runAsync(() -> attempt(work), steps);
        } catch (RejectedExecutionException e) {
            return CompletableFuture.completedFuture(null); // the window closes
        }
    }

    /// Something short that may wait for a lock, a process or a disk: not on the window's thread, and not
    /// behind the steps either.
    private void beside(Step work) {
        looks.execute(() -> attempt(work));
    }

    /// The outermost loop: what goes wrong inside is told and the window stays.
    private void attempt(Step work) {
        if (closing.get()) {
            return; // what was asked for last is left out
        }
        try {
            work.run();
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        } catch (RuntimeException | Error e) {
            tell(e);
        }
    }

    private void tell(Throwable fault) {
        if (fault instanceof CoreException known) {
            show(known.problem());
        } else {
            Faults.tell(fault);
        }
    }

    /// A question that is answered beside the steps. A fault in it is told, and ends it.
    private <T> CompletableFuture<T> answered(Supplier<T> question) {
        if (looks.isShutdown()) {
            return new CompletableFuture<>(); // the window closes: nobody waits for it
        }
        CompletableFuture<T> answer = CompletableFuture.supplyAsync(question, looks);
        answer.whenComplete((_, fault) -> {
            if (fault != null && !looks.isShutdown()) {
                Faults.tell(fault);
            }
        });
        return answer;
    }

    private void show(Problem what) {
        Platform.runLater(() -> problem.set(Optional.of(what)));
    }

    static <T> void showNow(ReadOnlyObjectWrapper<T> property, T value) {
        Platform.runLater(() -> property.set(value));
    }

    /// Ends what goes on, waits until it has ended, and closes the project. What is done is kept. Takes
    /// as long as what is at work needs to stop; not for the window's thread. A second call does nothing.
    @Override
    public void close() {
        if (closing.getAndSet(true)) {
            return;
        }
        cancelScan();
        stockWatch.close();
        watching.shutdownNow();
        steps.shutdown(); // what waits is left out, what is at work is not torn
        try {
            current.ifPresent(Project.LockedRun::close);
            boolean ended = jobs.close(PATIENCE)
                    && steps.awaitTermination(PATIENCE.toSeconds(), TimeUnit.SECONDS)
                    && ended(measuring)
                    && ended(looks);
            if (!ended) {
                System.getLogger(Workshop.class.getName())
                        .log(
                                System.Logger.Level.WARNING,
                                "something did not end in time, for instance on a dead volume");
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
        current = Optional.empty();
        pairs.close();
        engine.close();
        project.close();
        faults.run();
    }

    private static boolean ended(ExecutorService workers) throws InterruptedException {
        workers.shutdownNow();
        return workers.awaitTermination(PATIENCE.toSeconds(), TimeUnit.SECONDS);
    }

    static String nameOf(Path path) {
        return path.getFileName() == null ? path.toString() : path.getFileName().toString();
    }
}
