package docksort.bench;

import docksort.arrival.Clip;
import docksort.arrival.ScanListener;
import docksort.catalogue.CopyState;
import docksort.catalogue.WorkingCopy;
import docksort.dispatch.Addressing;
import docksort.dispatch.Conform;
import docksort.dispatch.DepartureCheck;
import docksort.dispatch.DepartureReport;
import docksort.dispatch.PullList;
import docksort.engine.Cancellation;
import docksort.engine.MediaEngine;
import docksort.files.Documents;
import docksort.media.Raster;
import docksort.problem.CoreException;
import docksort.project.Departures;
import docksort.project.LockedRun;
import docksort.project.Project;
import docksort.run.Terms;
import docksort.sort.Recipe;
import docksort.stock.ServingOrder;
import docksort.timeline.TimelineDocument;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Queue;
import java.util.Random;
import java.util.Set;
import java.util.TreeSet;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.concurrent.atomic.AtomicLong;
import java.util.concurrent.locks.LockSupport;
import java.util.concurrent.locks.ReadWriteLock;
import java.util.concurrent.locks.ReentrantReadWriteLock;
import java.util.logging.Level;
import java.util.logging.Logger;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/// Several threads do to one project, in an order that chance makes, what a window's users do at the same
/// time: start, take up, stop, queue, leave out, bring forward, retry, take back, forget, switch, check,
/// let leave, pack, close. With the real database and the real engine, on clips of a few frames. Nothing
/// may stand still, nothing that was wanted may be lost, and no timeline may leave otherwise than it was
/// checked.
public final class SeamsDrill {
    private static final int CLIPS = 3;
    private static final int THREADS = 4;
    private static final int STANDSTILL_SECONDS = 90;
    private static final int LONGEST_REST_MILLIS = 150;

    private static final List<Recipe> RECIPES = List.of(Recipe.LIGHT_PRORES_HALF, Recipe.FULL_VC3);

    private final Path work;
    private final MediaEngine engine;
    private final long seed;
    private final ReadWriteLock open = new ReentrantReadWriteLock(true); // read to use the project, written to close it
    private final Object runs = new Object(); // as the window's steps: one at a time starts and closes runs
    private final AtomicInteger round = new AtomicInteger();
    private final Map<DrillAct, AtomicInteger> done = new EnumMap<>(DrillAct.class);
    private final AtomicInteger refused = new AtomicInteger();
    private final AtomicInteger left = new AtomicInteger();
    private final AtomicLong made = new AtomicLong();
    private final Queue<String> broken = new ConcurrentLinkedQueue<>();
    private volatile Project project;
    private volatile Optional<LockedRun> run = Optional.empty();

    private SeamsDrill(Path work, MediaEngine engine, long seed) {
        this.work = work;
        this.engine = engine;
        this.seed = seed;
        for (DrillAct act : DrillAct.values()) {
            done.put(act, new AtomicInteger());
        }
        this.project = opened();
    }

    private Project opened() {
        return Project.open(work.resolve("project"), engine, InstantSource.system());
    }

    /// @param args a work folder, how many rounds, and the seed
    public static void main(String[] args) throws Exception {
        if (args.length != 3) {
            System.err.println("usage: SeamsDrill WORK ROUNDS SEED");
            System.exit(2);
        }
        Logger.getLogger("").setLevel(Level.SEVERE);
        try (MediaEngine engine = MediaEngine.locate()) {
            Path work = Documents.ensureFolder(Path.of(args[0])).toRealPath();
            long seed = Long.parseLong(args[2]);
            System.out.println("seed " + seed);
            var drill = new SeamsDrill(work, engine, seed);
            drill.shoot();
            drill.drill(Integer.parseInt(args[1]));
            drill.finish();
            drill.tell();
            System.exit(drill.broken.isEmpty() ? 0 : 1);
        }
    }

    private void shoot() throws InterruptedException {
        Path card = Documents.ensureFolder(work.resolve("volume/Card"));
        var events = new ArrayList<String>();
        for (int i = 1; i <= CLIPS; i++) {
            Path clip = card.resolve("L00" + i + ".mov");
            engine.run(List.of(
                    "-f",
                    "lavfi",
                    "-i",
                    "testsrc2=size=320x180:rate=25,hue=h=" + 30 * i,
                    "-frames:v",
                    "8",
                    "-c:v",
                    "mjpeg",
                    "file:" + clip));
            events.add("""
                {"OTIO_SCHEMA": "Clip.1", "name": "L00%d", "media_reference":
                 {"OTIO_SCHEMA": "ExternalReference.1", "target_url": "%s"}}\
                """.formatted(i, clip.toUri()));
        }
        Documents.replace(work.resolve("cut.otio"), """
            {"OTIO_SCHEMA": "Timeline.1", "name": "cut", "tracks": {"OTIO_SCHEMA": "Stack.1", "children": [
             {"OTIO_SCHEMA": "Track.1", "kind": "Video", "name": "V1", "children": [%s]}]}}
            """.formatted(String.join(",", events))
                .getBytes(StandardCharsets.UTF_8));
        project.arrivals().add(card, ScanListener.none(), new Cancellation());
        project.settings().deliver(new Raster(1920, 1080));
    }

    private void drill(int rounds) throws InterruptedException {
        var threads = new ArrayList<Thread>();
        for (int i = 0; i < THREADS; i++) {
            var random = new Random(seed * THREADS + i);
            int number = i;
            threads.add(Thread.ofPlatform().name("hand " + i).start(() -> {
                while (round.getAndIncrement() < rounds && broken.isEmpty()) {
                    act(DrillAct.next(random), random, number);
                    rest(random);
                }
            }));
        }
        int seen = -1;
        long since = System.nanoTime();
        while (threads.stream().anyMatch(Thread::isAlive)) {
            threads.getFirst().join(500);
            int now = done.values().stream().mapToInt(AtomicInteger::get).sum();
            if (now != seen) {
                seen = now;
                since = System.nanoTime();
            } else if (System.nanoTime() - since > TimeUnit.SECONDS.toNanos(STANDSTILL_SECONDS)) {
                broken.add("nothing went on for " + STANDSTILL_SECONDS + " s");
                Thread.getAllStackTraces().forEach((thread, frames) -> {
                    System.out.println(thread);
                    Stream.of(frames).limit(12).forEach(frame -> System.out.println("    " + frame));
                });
                return;
            }
        }
    }

    private static void rest(Random random) {
        LockSupport.parkNanos(TimeUnit.MILLISECONDS.toNanos(random.nextInt(LONGEST_REST_MILLIS)));
    }

    private void act(DrillAct act, Random random, int hand) {
        var lock = act == DrillAct.CLOSE ? open.writeLock() : open.readLock();
        lock.lock();
        try {
            carryOut(act, random, hand);
        } catch (CoreException e) {
            refused.incrementAndGet(); // told to a person, and nothing else stops
        } catch (InterruptedException | IOException | RuntimeException e) {
            broken.add(act + ": " + e);
            e.printStackTrace(System.out);
        } finally {
            lock.unlock();
            done.getOrDefault(act, refused).incrementAndGet();
        }
    }

    private void carryOut(DrillAct act, Random random, int hand) throws InterruptedException, IOException {
        switch (act) {
            case START -> start();
            case STOP -> run.ifPresent(each -> each.run().stop());
            case ENQUEUE -> {
                project.plans().choose(some(project.clips(), random), Optional.of(some(RECIPES, random)));
                project.queue().enqueue(project.plans().loadSheet());
                start();
            }
            case LEAVE_OUT -> run.ifPresent(each -> each.run().skip(ids(random)));
            case TAKE_OUT -> run.ifPresent(each -> each.run().cancel(ids(random)));
            case BRING_FORWARD -> run.ifPresent(each -> each.run().move(ids(random), random.nextBoolean()));
            case RETRY -> {
                project.queue().retryFailed();
                start();
            }
            case UNDO -> {
                synchronized (runs) { // one hand at a time: the arrival itself and what is older is never taken back
                    if (project.whatUndoTakesBack()
                            .filter(what -> !what.startsWith("Added"))
                            .isPresent()) {
                        project.undo();
                    }
                }
            }
            case FORGET ->
                project.clearing()
                        .forget(some(copies(), random).stream()
                                .filter(copy -> copy.state().serves())
                                .toList());
            case SWITCH -> turned(random, work.resolve("hand-" + hand + ".otio"));
            case LEAVE -> leave(random, hand);
            case PACK -> pack(random);
            case LOOK -> project.stocktaking().refresh();
            case CLOSE -> {
                close();
                project = opened();
            }
        }
    }

    private static <T> List<T> some(List<T> all, Random random) {
        return all.stream().filter(_ -> random.nextBoolean()).toList();
    }

    private List<WorkingCopy> copies() {
        return project.stocktaking().lines().stream()
                .flatMap(line -> line.copies().stream())
                .toList();
    }

    private List<String> ids(Random random) {
        return copies().stream()
                .filter(_ -> random.nextInt(CLIPS * RECIPES.size()) == 0)
                .map(WorkingCopy::id)
                .toList();
    }

    private void start() {
        synchronized (runs) {
            if (run.filter(each -> each.run().takeUp(project.clips())).isPresent()) {
                return;
            }
            run.ifPresent(this::end);
            run = project.runs().start(Terms.fixed(2), () -> {});
            if (run.isEmpty()) {
                broken.add("the queue is locked, and nobody runs it");
            }
        }
    }

    private void end(LockedRun over) {
        over.close();
        made.addAndGet(over.run().snapshot().ready());
    }

    private void close() {
        synchronized (runs) {
            run.ifPresent(this::end);
            run = Optional.empty();
        }
        project.close();
    }

    private Conform conform(TimelineDocument document) {
        return project.timelines().conform(document, project.stocktaking().lines());
    }

    /// A timeline of one hand, given the files of some order.
    private TimelineDocument turned(Random random, Path file) {
        TimelineDocument document = project.timelines().open(work.resolve("cut.otio"));
        project.serving().switchTo(conform(document), ServingOrder.ALL.get(random.nextInt(ServingOrder.ALL.size())));
        project.timelineFiles().saveAs(conform(document), file);
        return document;
    }

    private void leave(Random random, int hand) throws IOException {
        TimelineDocument document = turned(random, work.resolve("hand-" + hand + ".otio"));
        DepartureCheck.Purpose purpose =
                random.nextBoolean() ? DepartureCheck.Purpose.FINISHING : DepartureCheck.Purpose.REVIEW;
        DepartureCheck check = project.departures().check(conform(document), purpose, true, (_, _) -> {}, () -> false);
        rest(random); // between two clicks
        DepartureReport report = project.departures()
                .depart(
                        document,
                        check,
                        new Departures.Departure(
                                work.resolve("out/cut-" + round.get() + "-" + hand + ".otio"),
                                Addressing.AS_IT_STANDS,
                                "hand " + hand,
                                Optional.empty()));
        left.incrementAndGet();
        Set<Path> led = TimelineAddresses.of(report.timeline());
        Set<Path> checked =
                check.files().stream().map(DepartureCheck.FileSum::file).collect(Collectors.toCollection(TreeSet::new));
        if (!led.equals(checked)) {
            broken.add(report.timeline() + " leads to " + led + " and was checked with " + checked);
        }
        for (String ending : List.of(".departure.html", ".departure.json")) {
            if (!Files.exists(Path.of(report.timeline() + ending))) {
                broken.add(report.timeline() + " left without " + ending);
            }
        }
    }

    private void pack(Random random) {
        TimelineDocument document = project.timelines().open(work.resolve("cut.otio"));
        Conform conform = conform(document);
        PullList list = project.pulls().pullList(conform, PullList.What.ORIGINALS);
        var asked = new AtomicInteger(random.nextInt(12));
        project.pulls()
                .pack(
                        conform,
                        list,
                        work.resolve("parcel-" + round.get() + "-" + random.nextInt(1_000_000)),
                        (_, _) -> {},
                        () -> asked.decrementAndGet() == 0);
    }

    // What must hold

    private void finish() throws InterruptedException, IOException {
        if (!broken.isEmpty()) {
            return;
        }
        close();
        project = opened();
        List<Clip> clips = project.clips();
        if (clips.size() != CLIPS) {
            broken.add("of " + CLIPS + " clips " + clips.size() + " are there");
        }
        project.plans().choose(clips, Optional.of(RECIPES));
        project.queue().retryFailed();
        project.queue().enqueue(project.plans().loadSheet());
        start();
        if (!run.orElseThrow().run().awaitEnd(Duration.ofMinutes(5))) {
            broken.add("the last run did not come to its end");
        }
        project.stocktaking().refresh();
        for (Clip clip : clips) {
            for (Recipe recipe : RECIPES) {
                if (copies().stream()
                        .noneMatch(copy -> copy.clip().equals(clip.id())
                                && copy.recipeId().equals(recipe.id())
                                && copy.state() == CopyState.READY
                                && Files.exists(copy.file()))) {
                    broken.add("wanted and not there: " + clip.name() + " by " + recipe.id() + " of " + copies());
                }
            }
        }
        Path place = project.roots().copies().path();
        close();
        try (Stream<Path> files = Files.walk(place)) {
            files.filter(file -> file.toString().endsWith(".part")).forEach(file -> broken.add("left behind: " + file));
        }
    }

    private void tell() {
        System.out.println(
                done + ", " + refused + " refused in words, " + left + " left, " + made + " copies made meanwhile");
        if (left.get() == 0 || refused.get() == 0 || made.get() == 0) {
            broken.add("nothing left, was refused or was made: this drill tells nothing");
        }
        broken.forEach(what -> System.out.println("BROKEN  " + what));
        System.out.println(
                broken.isEmpty()
                        ? "Nothing stood still, nothing was lost, and everything left as it was checked."
                        : broken.size() + " promises were broken, with seed " + seed);
    }
}
