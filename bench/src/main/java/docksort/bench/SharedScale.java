package docksort.bench;

import docksort.arrival.Clip;
import docksort.arrival.ClipId;
import docksort.catalogue.Activity;
import docksort.catalogue.Catalogue;
import docksort.catalogue.ClaimStore.Claim;
import docksort.catalogue.CopyState;
import docksort.catalogue.Desk;
import docksort.catalogue.Overheard;
import docksort.catalogue.SharedAddress;
import docksort.catalogue.WorkingCopy;
import docksort.engine.MediaEngine;
import docksort.files.Documents;
import docksort.project.Project;
import docksort.project.Sharing;
import docksort.sort.CopyKind;
import io.zonky.test.db.postgres.embedded.EmbeddedPostgres;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicLong;
import java.util.concurrent.locks.LockSupport;
import java.util.logging.Level;
import java.util.logging.Logger;
import java.util.stream.IntStream;

/// One shared catalogue of very many clips, each with two copies: how long it takes to share and to open, how
/// soon others hear of a change while desks choose and workers claim and finish copies, and how many copies a
/// second can be claimed. No media are made: a worker finishes what it claimed at once. All of it runs on this
/// one machine, the server too.
public final class SharedScale {
    private static final InstantSource CLOCK = InstantSource.system();
    private static final String MARK = "begun at ";
    private static final int CLAIMS = 300;
    private static final int AGAIN = 9;
    private static final int WARM_SECONDS = 10;
    private static final int AT_ONCE = 4; // copies of a clip are claimed together

    private static final int MOST_SHARED = 200_000; // more are filled in without a file, to spare the time

    private static final int MOST_QUEUED = 100_000; // by all workers together

    private final SharedAddress address;
    private final int clips;
    private final ConcurrentLinkedQueue<Long> heardNanos = new ConcurrentLinkedQueue<>();
    private final AtomicLong claimed = new AtomicLong();
    private volatile boolean over;

    private static final int ROWS_AT_ONCE = 2_000;
    private static final String SCHEMA = "scale";

    private SharedScale(SharedAddress address, int clips) {
        this.address = address;
        this.clips = clips;
    }

    /// @param args a work folder, how many clips, desks and workers, and for how many seconds
    public static void main(String[] args) throws Exception {
        if (args.length != 5) {
            System.err.println("usage: SharedScale WORK CLIPS DESKS WORKERS SECONDS");
            System.exit(2);
        }
        Logger.getLogger("").setLevel(Level.WARNING);
        Path work = Documents.ensureFolder(Path.of(args[0])).toRealPath();
        int clips = Integer.parseInt(args[1]);
        try (EmbeddedPostgres server = EmbeddedPostgres.builder()
                .setDataDirectory(work.resolve("data"))
                .setCleanDataDirectory(true)
                .start()) {
            var address =
                    SharedAddress.parse("postgresql://postgres@localhost:" + server.getPort() + "/postgres", SCHEMA);
            if (clips > MOST_SHARED) {
                fill(clips, address);
            } else {
                share(work, clips, address);
            }
            var scale = new SharedScale(address, clips);
            scale.open();
            driverAlone(server.getJdbcUrl("postgres", "postgres"));
            scale.view(work);
            scale.claims(Integer.parseInt(args[3]));
            scale.work(Integer.parseInt(args[2]), Integer.parseInt(args[3]), Integer.parseInt(args[4]));
        }
    }

    private static void share(Path work, int clips, SharedAddress address) {
        var desk = new Desk("bench", "somebody");
        try (Catalogue alone = Catalogue.open(work.resolve("catalogue.db"), CLOCK, desk)) {
            BigStock.fill(alone, clips);
            long begin = System.nanoTime();
            Map<String, Long> rows = alone.share(address, CLOCK, desk);
            System.out.printf(
                    Locale.ROOT,
                    "shared %d rows, each compared, in %.1f s%n",
                    rows.values().stream().mapToLong(Long::longValue).sum(),
                    seconds(begin));
        }
    }

    private static void fill(int clips, SharedAddress address) {
        long begin = System.nanoTime();
        try (Catalogue shared = Catalogue.begin(address, CLOCK, new Desk("bench", "somebody"))) {
            BigStock.fill(shared, clips);
        }
        System.out.printf(Locale.ROOT, "filled %d clips in %.1f s%n", clips, seconds(begin));
    }

    private void open() {
        for (int round = 0; round < (clips > MOST_SHARED ? 1 : 3); round++) {
            long begin = System.nanoTime();
            try (Catalogue catalogue = Catalogue.open(address, CLOCK, new Desk("reader", ""))) {
                double opened = seconds(begin);
                int clips = catalogue.clips().all().size();
                double listed = seconds(begin);
                int copies = catalogue.copies().all().size();
                System.out.printf(
                        Locale.ROOT,
                        "open %.2f s, %d clips by %.2f s, %d copies by %.2f s (wanted below 3)%n",
                        opened,
                        clips,
                        listed,
                        copies,
                        seconds(begin));
                again(catalogue);
            }
        }
    }

    /// The least that opening can take here: all columns of the same rows by as many connections, nothing made of
    /// them.
    private static void driverAlone(String url) throws Exception {
        for (int round = 0; round < 3; round++) {
            long begin = System.nanoTime();
            try (ExecutorService both = Executors.newVirtualThreadPerTaskExecutor()) {
                var halves = new ArrayList<Future<Long>>();
                for (String half : List.of("id < '", "id >= '")) {
                    halves.add(both.submit(
                            () -> columns(url, SCHEMA + ".clip", half) + columns(url, SCHEMA + ".copy", half)));
                }
                long columns = 0;
                for (Future<Long> each : halves) {
                    columns += each.get();
                }
                System.out.printf(
                        Locale.ROOT,
                        "the driver alone, by two connections: %d columns in %.2f s%n",
                        columns,
                        seconds(begin));
            }
        }
    }

    private static long columns(String url, String table, String half) throws SQLException {
        long columns = 0;
        try (Connection connection = DriverManager.getConnection(url)) {
            connection.setAutoCommit(false); // an answer comes in pieces within a transaction only
            try (Statement statement = connection.createStatement()) {
                statement.setFetchSize(ROWS_AT_ONCE);
                String middle;
                try (ResultSet row = statement.executeQuery("SELECT id FROM " + table
                        + " ORDER BY id LIMIT 1 OFFSET (SELECT count(*) / 2 FROM " + table + ")")) {
                    if (!row.next()) {
                        return 0;
                    }
                    middle = row.getString(1);
                }
                try (ResultSet rows =
                        statement.executeQuery("SELECT * FROM " + table + " WHERE " + half + middle + "'")) {
                    int width = rows.getMetaData().getColumnCount();
                    while (rows.next()) {
                        for (int i = 1; i <= width; i++) {
                            columns += rows.getObject(i) == null ? 0 : 1;
                        }
                    }
                }
            }
        }
        return columns;
    }

    /// What it takes to read clips and copies again after somebody changed one.
    private void again(Catalogue catalogue) {
        try (Catalogue other = Catalogue.open(address, CLOCK, new Desk("other", ""))) {
            WorkingCopy one = catalogue.copies().all().getLast();
            var millis = new ArrayList<Double>();
            for (int i = 0; i < AGAIN; i++) {
                other.copies().update(List.of(one.withState(CopyState.READY, "changed " + i)));
                long begin = System.nanoTime();
                catalogue.clips().all();
                catalogue.copies().all();
                millis.add(seconds(begin) * 1_000);
            }
            millis.sort(null);
            System.out.printf(
                    Locale.ROOT,
                    "both read again after one copy changed: %.0f ms in the median%n",
                    millis.get(AGAIN / 2));
        }
    }

    /// What the view of a window costs, anew and after somebody else changed a copy or chose for a clip.
    private void view(Path work) {
        Path folder = work.resolve("suite");
        Sharing.join(folder, address, new Sharing.Joining(new Desk("suite", "another"), Map.of(), true, false), CLOCK);
        try (MediaEngine engine = MediaEngine.locate();
                Project project = Project.open(folder, engine, CLOCK);
                Catalogue other = Catalogue.open(address, CLOCK, new Desk("other", ""))) {
            String anew = String.format(Locale.ROOT, "%.2f s", view(project) / 1e9);
            WorkingCopy one = other.copies().all().getLast();
            var ofCopy = new ArrayList<Long>();
            var ofChoice = new ArrayList<Long>();
            for (int i = 0; i < AGAIN; i++) {
                other.copies().update(List.of(one.withState(CopyState.READY, "viewed " + i)));
                ofCopy.add(view(project));
                other.choices().choose(List.of(one.clip()), Optional.of(List.of("r" + i)), "chosen");
                ofChoice.add(view(project));
            }
            ofCopy.sort(null);
            ofChoice.sort(null);
            System.out.printf(
                    Locale.ROOT,
                    "clips, load sheet and stock lines of a view: %s anew; in the median %.0f ms after one copy"
                            + " changed, %.0f ms after a choice for one clip%n",
                    anew,
                    ofCopy.get(AGAIN / 2) / 1e6,
                    ofChoice.get(AGAIN / 2) / 1e6);
        }
    }

    private static long view(Project project) {
        long begin = System.nanoTime();
        List<Clip> clips = project.clips();
        project.plans().loadSheet(clips);
        project.stocktaking().lines(clips, project.settings().servingOrder());
        return System.nanoTime() - begin;
    }

    private static double seconds(long since) {
        return (System.nanoTime() - since) / 1e9;
    }

    private void work(int desks, int workers, int lasting) throws Exception {
        var ready = new CountDownLatch(desks + workers);
        try (ExecutorService all = Executors.newVirtualThreadPerTaskExecutor()) {
            var running = new ArrayList<Future<?>>();
            for (int i = 0; i < desks; i++) {
                int number = i;
                running.add(all.submit(() -> sit(number, ready)));
            }
            for (int i = 0; i < workers; i++) {
                int number = i;
                int of = workers;
                running.add(all.submit(() -> make(number, of, ready)));
            }
            ready.await();
            LockSupport.parkNanos(TimeUnit.SECONDS.toNanos(WARM_SECONDS)); // programs that were just begun are slow
            heardNanos.clear();
            claimed.set(0);
            long begin = System.nanoTime();
            LockSupport.parkNanos(TimeUnit.SECONDS.toNanos(lasting));
            double took = seconds(begin);
            over = true;
            tell(desks, workers, took);
            for (Future<?> each : running) {
                each.get(60, TimeUnit.SECONDS);
            }
        }
    }

    /// Claims alone, of copies one at a time, by all workers at once.
    private void claims(int workers) throws Exception {
        var many = new AtomicLong();
        var nanos = new AtomicLong();
        try (ExecutorService all = Executors.newVirtualThreadPerTaskExecutor()) {
            var running = new ArrayList<Future<?>>();
            for (int i = 0; i < workers; i++) {
                int number = i;
                running.add(all.submit(() -> {
                    try (Catalogue catalogue = Catalogue.open(address, CLOCK, new Desk("claims" + number, ""))) {
                        List<String> mine = ids(number, workers, CLAIMS);
                        catalogue
                                .copies()
                                .enqueue(
                                        catalogue.copies().of(mine).stream()
                                                .map(copy -> copy.withState(CopyState.WAITING, ""))
                                                .toList(),
                                        "again");
                        long begin = System.nanoTime();
                        for (String id : mine) {
                            if (catalogue.claims().take(List.of(id)).get(id) instanceof Claim.Ours) {
                                many.incrementAndGet();
                            }
                        }
                        nanos.accumulateAndGet(System.nanoTime() - begin, Math::max);
                        catalogue.claims().release(mine);
                    }
                    return null;
                }));
            }
            for (Future<?> each : running) {
                each.get(5, TimeUnit.MINUTES);
            }
        }
        System.out.printf(
                Locale.ROOT,
                "%d workers: %.0f claims of one copy each a second (wanted 200)%n",
                workers,
                many.get() * 1e9 / nanos.get());
    }

    /// Copies of one worker.
    private List<String> ids(int number, int of, int most) {
        return IntStream.iterate(number, i -> i < clips, i -> i + of)
                .limit(most)
                .mapToObj(i -> "c" + i + CopyKind.LIGHT)
                .toList();
    }

    /// Chooses for a clip a few times a second, as ten people in a hurry would, and looks at what the others do
    /// when it hears of it.
    private Void sit(int number, CountDownLatch ready) {
        String own = "desk" + number;
        var seen = new AtomicLong(Long.MAX_VALUE);
        try (Catalogue catalogue = Catalogue.open(address, CLOCK, new Desk(own, "person " + number));
                Overheard _ = catalogue.overhear(() -> look(catalogue, own, seen))) {
            var random = new Random(number);
            seen.set(catalogue.activity().latest(1).getFirst().id());
            ready.countDown();
            while (!over) {
                var clip = new ClipId("c" + random.nextInt(Math.min(clips, 1_000)));
                catalogue.choices().choose(List.of(clip), Optional.of(List.of("recipe")), MARK + System.nanoTime());
                LockSupport.parkNanos(TimeUnit.MILLISECONDS.toNanos(200 + random.nextInt(400)));
            }
        }
        return null;
    }

    /// A change says when it was begun: what it waited for its turn is part of the time until others see it.
    private void look(Catalogue catalogue, String own, AtomicLong seen) {
        List<Activity> deeds = catalogue.activity().latest(200);
        long before = seen.getAndSet(deeds.getFirst().id());
        for (Activity deed : deeds) {
            if (deed.id() > before
                    && !deed.workstation().equals(own)
                    && deed.what().startsWith(MARK)) {
                heardNanos.add(System.nanoTime() - Long.parseLong(deed.what().substring(MARK.length())));
            }
        }
    }

    private Void make(int number, int of, CountDownLatch ready) {
        try (Catalogue catalogue = Catalogue.open(address, CLOCK, new Desk("worker" + number, ""))) {
            var mine = new ArrayList<WorkingCopy>();
            List<String> its = ids(number, of, MOST_QUEUED / of);
            for (int i = 0; i < its.size(); i += 1_000) {
                mine.addAll(catalogue.copies().of(its.subList(i, Math.min(its.size(), i + 1_000))));
            }
            catalogue
                    .copies()
                    .enqueue(
                            mine.stream()
                                    .map(copy -> copy.withState(CopyState.WAITING, ""))
                                    .toList(),
                            "again");
            ready.countDown();
            for (int at = 0; !over && at + AT_ONCE <= mine.size(); at += AT_ONCE) {
                List<WorkingCopy> some = mine.subList(at, at + AT_ONCE);
                List<String> ids = some.stream().map(WorkingCopy::id).toList();
                long ours = catalogue.claims().take(ids).values().stream()
                        .filter(Claim.Ours.class::isInstance)
                        .count();
                for (WorkingCopy copy : some) {
                    catalogue
                            .claims()
                            .publish(
                                    copy.id(),
                                    () -> catalogue.claims().update(List.of(copy.withState(CopyState.READY, "made"))));
                }
                catalogue.claims().release(ids);
                claimed.addAndGet(ours);
            }
        }
        return null;
    }

    private void tell(int desks, int workers, double took) {
        long[] sorted = heardNanos.stream().mapToLong(Long::longValue).sorted().toArray();
        System.out.printf(
                Locale.ROOT,
                "%d desks, %d workers, %.0f s: a change is heard elsewhere after %.0f ms in the median, %.0f ms for 99"
                        + " of 100 (wanted below 200 and 1000; %d times); %.0f copies a second claimed, entered"
                        + " and released (wanted 200 claims)%n",
                desks,
                workers,
                took,
                sorted[sorted.length / 2] / 1e6,
                sorted[(int) (sorted.length * 0.99)] / 1e6,
                sorted.length,
                claimed.get() / took);
    }
}
