package docksort.bench;

import docksort.arrival.Clip;
import docksort.arrival.ScanListener;
import docksort.catalogue.CopyState;
import docksort.catalogue.Desk;
import docksort.catalogue.Root;
import docksort.catalogue.SharedAddress;
import docksort.catalogue.WorkingCopy;
import docksort.engine.Cancellation;
import docksort.engine.MediaEngine;
import docksort.files.Documents;
import docksort.problem.CoreException.CatalogueUnavailable;
import docksort.project.Project;
import docksort.project.Sharing;
import docksort.run.Terms;
import docksort.sort.Recipe;
import io.zonky.test.db.postgres.embedded.EmbeddedPostgres;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.time.Duration;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.Collections;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.TreeMap;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.TimeUnit;
import java.util.logging.Level;
import java.util.logging.Logger;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/// Four machines make the copies of one shared project, and three desks, whose clocks are 10 minutes apart, choose in
/// it, while workers are killed, or frozen until others take over from them and woken up again, connections are cut,
/// the server is stopped at once and started again, and a volume goes away on one machine; some of this at the same
/// time. Nothing may be lost, nothing partial may have a name, the finished copies are the same, byte for byte, as
/// those of one machine alone, and every choice of every desk is there or was refused to its face.
public final class SharedDrill {
    private static final int CLIPS = 12;
    private static final int CLIPS_OF_MANY_FAULTS = 48; // most of the time goes into faults, not into new projects
    private static final int MANY_FAULTS = 50;
    private static final int FRAMES = 50;
    private static final int WORKERS = 4;
    private static final int DESKS = 3;
    private static final List<Recipe> RECIPES = List.of(Recipe.LIGHT_PRORES_HALF, Recipe.FULL_VC3);
    private static final List<List<Recipe>> CHOICES =
            List.of(RECIPES, List.of(Recipe.FULL_VC3), List.of(Recipe.LIGHT_PRORES_HALF), List.of());
    private static final InstantSource CLOCK = InstantSource.system();

    private enum Fault {
        KILL_WORKER,
        FREEZE_WORKER,
        CUT_CONNECTIONS,
        STOP_SERVER,
        VOLUME_AWAY
    }

    private final Path work;
    private final MediaEngine engine;
    private final int clips;
    private final Random random;
    private final Path card;
    private final Map<Fault, Integer> done = new EnumMap<>(Fault.class);
    private final Set<String> broken = ConcurrentHashMap.newKeySet();
    private final Map<String, Integer> choices = new TreeMap<>();
    private final Process[] workers = new Process[WORKERS];
    private final Set<Integer> struck = ConcurrentHashMap.newKeySet(); // frozen, or without their volume
    private final EmbeddedPostgres server;
    private Map<String, String> wanted = Map.of();

    private SharedDrill(Path work, MediaEngine engine, int clips, long seed) throws IOException {
        this.work = work;
        this.engine = engine;
        this.clips = clips;
        this.random = new Random(seed);
        this.card = Documents.ensureFolder(work.resolve("volume/Card"));
        this.server = EmbeddedPostgres.builder()
                .setDataDirectory(work.resolve("data"))
                .setCleanDataDirectory(false)
                .setPgBinaryResolver((system, architecture) -> binaries(system + "-" + architecture))
                .setServerConfig("fsync", "off") // the system goes on when the server is killed
                .start();
    }

    /// The server's binaries where they stand first in the class path: the jar of the command line names them
    /// too.
    private static InputStream binaries(String system) {
        return Objects.requireNonNull(
                SharedDrill.class.getResourceAsStream("/postgres-" + system.toLowerCase(Locale.ROOT) + ".txz"),
                () -> "no database server for " + system + " comes with the build");
    }

    /// @param args a work folder, how many faults, and the seed of their moments
    public static void main(String[] args) throws Exception {
        if (args.length != 3) {
            System.err.println("usage: SharedDrill WORK FAULTS SEED");
            System.exit(2);
        }
        Logger.getLogger("").setLevel(Level.OFF);
        try {
            Set<String> broken = drill(Path.of(args[0]), Integer.parseInt(args[1]), Long.parseLong(args[2]));
            System.exit(broken.isEmpty() ? 0 : 1);
        } catch (Exception e) {
            e.printStackTrace(); // desks still sit there: nothing ends by itself
            System.exit(2);
        }
    }

    /// @param faults how many; each kind comes about as often
    /// @return promises that did not hold, in words
    static Set<String> drill(Path folder, int faults, long seed) throws Exception {
        try (MediaEngine engine = MediaEngine.locate()) {
            int clips = faults < MANY_FAULTS ? CLIPS : CLIPS_OF_MANY_FAULTS;
            var drill = new SharedDrill(Documents.ensureFolder(folder).toRealPath(), engine, clips, seed);
            try (drill.server) {
                drill.shoot();
                drill.wanted = drill.alone();
                drill.drill(faults);
                drill.tell();
            }
            return Set.copyOf(drill.broken);
        }
    }

    /// Kills the server as `pg_ctl stop -m immediate` does, and starts it again over the same data.
    private void stopServer() throws Exception {
        long pid = Long.parseLong(Files.readAllLines(work.resolve("data/postmaster.pid"))
                .getFirst()
                .strip());
        Path postgres = Path.of("/proc/" + pid + "/exe").toRealPath();
        FaultDrill.command("kill", "-QUIT", Long.toString(pid));
        while (ProcessHandle.of(pid).isPresent()) {
            FaultDrill.pause(50);
        }
        FaultDrill.pause(random.nextInt(4_000));
        var start = new ArrayList<String>();
        if (System.getProperty("user.name").equals("root")) {
            start.addAll(List.of("unshare", "-U")); // it refuses to run as root
        }
        start.addAll(List.of(
                postgres.resolveSibling("pg_ctl").toString(),
                "-D",
                work.resolve("data").toString(),
                "-o",
                "-p " + server.getPort() + " -F",
                "-l",
                work.resolve("server.log").toString(),
                "-w",
                "start"));
        if (FaultDrill.command(start.toArray(String[]::new)) != 0) {
            throw new IllegalStateException("the server does not start again: " + work.resolve("server.log"));
        }
    }

    private SharedAddress address(String schema) {
        return SharedAddress.parse(
                "postgresql://postgres@localhost:" + server.getPort() + "/postgres?connect_timeout=2", schema);
    }

    private void shoot() throws InterruptedException {
        for (int i = 1; i <= clips; i++) {
            engine.run(List.of(
                    "-f",
                    "lavfi",
                    "-i",
                    "testsrc2=size=640x360:rate=25,hue=h=" + 7 * i,
                    "-frames:v",
                    Integer.toString(FRAMES),
                    "-c:v",
                    "libx264",
                    "-preset",
                    "ultrafast",
                    "-timecode",
                    "01:00:00:00",
                    "file:" + card.resolve(String.format("L%03d.mov", i))));
        }
    }

    private Map<String, String> alone() throws IOException, InterruptedException {
        Path place = work.resolve("alone");
        try (Project project = Project.open(place, engine, CLOCK)) {
            plan(project);
            try (var run = project.runs().start(Terms.fixed(2), () -> {}).orElseThrow()) {
                if (!run.run().awaitEnd(Duration.ofMinutes(10))) {
                    throw new IllegalStateException("one machine alone did not come to its end");
                }
            }
        }
        Map<String, String> made = FaultDrill.sums(place.resolve("copies"));
        if (made.size() != clips * RECIPES.size()) {
            throw new IllegalStateException("one machine alone made " + made.keySet());
        }
        return made;
    }

    private void plan(Project project) throws InterruptedException {
        project.arrivals().add(card, ScanListener.none(), new Cancellation());
        project.plans().choose(project.clips(), Optional.of(RECIPES));
        project.queue().enqueue(project.plans().loadSheet());
    }

    // One project after the other

    private void drill(int faults) throws Exception {
        int count = 0;
        for (int number = 1; count < faults; number++) {
            Path place = work.resolve("round-" + number);
            SharedAddress address = address("round_" + number);
            try (Project project = Project.open(place.resolve("desk0"), engine, CLOCK)) {
                plan(project);
                project.sharing().share(address);
            }
            join(place, address);
            for (int i = 0; i < WORKERS; i++) {
                workers[i] = work(place, i);
            }
            var sitting = new ArrayList<Sitting>();
            for (int i = 0; i < DESKS; i++) {
                sitting.add(new Sitting(place.resolve("desk" + i), i, random.nextLong()));
            }
            try {
                count = letHappen(count, faults, place, address);
                finish(address, sitting, number);
            } finally {
                for (Process worker : workers) {
                    worker.destroy();
                }
                for (Process worker : workers) {
                    if (!worker.waitFor(30, TimeUnit.SECONDS)) {
                        worker.destroyForcibly();
                    }
                }
            }
            check(place, sitting, "round " + number);
        }
        System.out.println();
    }

    /// Until this project's copies are made.
    private int letHappen(int before, int faults, Path place, SharedAddress address) throws Exception {
        int count = before;
        var left = new ArrayList<Fault>();
        try (var meanwhile = Executors.newVirtualThreadPerTaskExecutor()) {
            do {
                FaultDrill.pause(300 + random.nextInt(1_500));
                for (int i = 0; i < WORKERS; i++) {
                    if (!workers[i].isAlive()) {
                        breaks("worker " + i + " ended by itself: " + workers[i].exitValue());
                        workers[i] = work(place, i);
                    }
                }
                if (left.isEmpty()) {
                    left.addAll(List.of(Fault.values()));
                    Collections.shuffle(left, random);
                }
                Fault fault = left.removeLast();
                happen(fault, place, address, meanwhile);
                done.merge(fault, 1, Integer::sum);
                count++;
                System.out.print(fault.name().charAt(0));
                System.out.flush();
            } while (count < faults && left(address) > 0);
        }
        return count;
    }

    private void join(Path place, SharedAddress address) throws IOException {
        Map<String, Path> places;
        try (Project desk = Project.open(place.resolve("desk0"), engine, CLOCK)) {
            places = desk.roots().all().stream().collect(Collectors.toMap(Root::name, Root::path));
        }
        for (int i = 1; i < DESKS; i++) {
            Sharing.join(
                    place.resolve("desk" + i),
                    address,
                    new Sharing.Joining(new Desk("desk" + i, "person " + i), places, false, false),
                    CLOCK);
        }
        for (int i = 0; i < WORKERS; i++) {
            Map<String, Path> here = new HashMap<>(places);
            Path link = place.resolve("mount" + i);
            Files.createSymbolicLink(link, work.resolve("volume"));
            here.replaceAll((_, path) -> path.startsWith(work.resolve("volume"))
                    ? link.resolve(work.resolve("volume").relativize(path))
                    : path);
            Sharing.join(
                    place.resolve("worker" + i),
                    address,
                    new Sharing.Joining(new Desk("worker" + i, ""), here, false, false),
                    CLOCK);
        }
    }

    private Process work(Path place, int number) throws IOException {
        var builder = new ProcessBuilder(
                ProcessHandle.current().info().command().orElseThrow(),
                "--enable-native-access=ALL-UNNAMED",
                "--sun-misc-unsafe-memory-access=allow",
                "-XX:TieredStopAtLevel=1",
                "-Xmx200m",
                "-cp",
                System.getProperty("java.class.path"),
                "docksort.cli.Main",
                "work",
                "--project",
                place.resolve("worker" + number).toString(),
                "--workers",
                "1",
                "--look",
                "1");
        builder.redirectErrorStream(true);
        builder.redirectOutput(ProcessBuilder.Redirect.appendTo(
                work.resolve("worker" + number + ".log").toFile()));
        return builder.start();
    }

    private void happen(Fault fault, Path place, SharedAddress address, ExecutorService meanwhile) throws Exception {
        int number = random.nextInt(WORKERS);
        while (struck.contains(number)) {
            FaultDrill.pause(20);
            number = (number + 1) % WORKERS;
        }
        int one = number;
        Process worker = workers[one];
        int frozen = random.nextInt(6_000);
        int away = random.nextInt(3_000);
        switch (fault) {
            case KILL_WORKER -> {
                worker.destroyForcibly().waitFor();
                age(address, "worker" + one);
                workers[one] = work(place, one);
            }
            case FREEZE_WORKER ->
                meanwhile(meanwhile, one, () -> {
                    List<ProcessHandle> all = Stream.concat(Stream.of(worker.toHandle()), worker.descendants())
                            .toList();
                    signal("-STOP", all);
                    try {
                        age(address, "worker" + one); // as if it had been a minute
                        FaultDrill.pause(1_000 + frozen);
                    } finally {
                        signal("-CONT", all);
                    }
                });
            case CUT_CONNECTIONS -> {
                int some = random.nextInt(3);
                execute("SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE application_name LIKE"
                        + " 'dock-sort%' AND pid % 3 " + (random.nextBoolean() ? "= " : "<> ") + some);
            }
            case STOP_SERVER -> stopServer();
            case VOLUME_AWAY ->
                meanwhile(meanwhile, one, () -> {
                    Path link = place.resolve("mount" + one);
                    Files.deleteIfExists(link);
                    FaultDrill.pause(500 + away);
                    Files.createSymbolicLink(link, work.resolve("volume"));
                });
        }
    }

    private interface Strike {
        void happens() throws Exception;
    }

    /// At one worker, while other things happen to the others.
    private void meanwhile(ExecutorService meanwhile, int worker, Strike strike) {
        struck.add(worker);
        meanwhile.execute(() -> {
            try {
                strike.happens();
            } catch (Exception e) {
                breaks("a fault could not be made: " + e);
            } finally {
                struck.remove(worker);
            }
        });
    }

    private void breaks(String promise) {
        if (broken.add(promise)) {
            System.out.println("\nBROKEN: " + promise);
        }
    }

    private static void signal(String which, List<ProcessHandle> processes) throws Exception {
        for (ProcessHandle process : processes) {
            FaultDrill.command("kill", which, Long.toString(process.pid()));
        }
    }

    private void age(SharedAddress address, String workstation) throws SQLException {
        execute("UPDATE " + address.schema() + ".copy_claim SET renewed_at = renewed_at - interval '2 minutes' WHERE"
                + " workstation = '" + workstation + "'");
    }

    /// As soon as the server is there.
    private void execute(String sql) throws SQLException {
        for (int tried = 1; ; tried++) {
            try (Connection connection = connection();
                    var statement = connection.createStatement()) {
                statement.execute(sql);
                return;
            } catch (SQLException e) {
                if (tried == 100) {
                    throw e;
                }
                FaultDrill.pause(200);
            }
        }
    }

    // The desks

    /// Somebody who chooses for clips of his own all the time, and knows what he was told.
    private final class Sitting implements AutoCloseable {
        private final Project project;
        private final int number;
        private final Random wishes;
        private final Thread thread;
        private volatile boolean over;
        private final Map<String, Set<List<String>>> expected = new ConcurrentHashMap<>();

        Sitting(Path folder, int number, long seed) {
            Duration apart = Duration.ofMinutes(10L * (number - 1));
            this.project = Project.open(folder, engine, () -> CLOCK.instant().plus(apart));
            this.number = number;
            this.wishes = new Random(seed);
            List<Clip> mine = mine(project.clips());
            mine.forEach(clip -> expected.put(clip.id().value(), Set.of(ids(RECIPES))));
            this.thread = Thread.ofPlatform().start(() -> choose(mine));
        }

        private List<Clip> mine(List<Clip> clips) {
            return clips.stream()
                    .filter(clip -> Math.floorMod(clip.name().hashCode(), DESKS) == number)
                    .toList();
        }

        private void choose(List<Clip> mine) {
            while (!over && !mine.isEmpty()) {
                Clip clip = mine.get(wishes.nextInt(mine.size()));
                List<Recipe> wish = CHOICES.get(wishes.nextInt(CHOICES.size()));
                String id = clip.id().value();
                try {
                    project.plans().choose(List.of(clip), Optional.of(wish));
                    expected.put(id, Set.of(ids(wish)));
                    count("kept");
                } catch (CatalogueUnavailable e) {
                    if (e.problem().untouched().contains("not known")) {
                        var either = ConcurrentHashMap.<List<String>>newKeySet();
                        either.addAll(expected.get(id));
                        either.add(ids(wish));
                        expected.put(id, either);
                        count("not known");
                    } else {
                        count("refused");
                    }
                } catch (RuntimeException e) {
                    breaks("desk " + number + ": " + e);
                }
                FaultDrill.pause(20 + wishes.nextInt(200));
            }
        }

        void rest() throws InterruptedException {
            over = true;
            thread.join(Duration.ofMinutes(1));
        }

        @Override
        public void close() {
            project.close();
        }
    }

    private static List<String> ids(List<Recipe> recipes) {
        return recipes.stream().map(Recipe::id).toList();
    }

    private synchronized void count(String what) {
        choices.merge(what, 1, Integer::sum);
    }

    // What must hold

    private long left(SharedAddress address) {
        try (Connection connection = connection();
                var statement = connection.createStatement();
                var counted = statement.executeQuery("SELECT count(*) FROM " + address.schema()
                        + ".copy WHERE state IN ('WAITING', 'MAKING', 'CHECKING')")) {
            counted.next();
            return counted.getLong(1);
        } catch (SQLException e) {
            return 1; // the server is only just back
        }
    }

    private Connection connection() throws SQLException {
        return DriverManager.getConnection(
                "jdbc:postgresql://localhost:" + server.getPort() + "/postgres?user=postgres");
    }

    private void finish(SharedAddress address, List<Sitting> sitting, int number) throws InterruptedException {
        long end = System.nanoTime() + TimeUnit.MINUTES.toNanos(4);
        while (left(address) > 0 && System.nanoTime() < end) {
            FaultDrill.pause(500);
        }
        if (left(address) > 0) {
            breaks("round " + number + " does not come to its end");
        }
        for (Sitting each : sitting) {
            each.rest();
        }
    }

    private void check(Path place, List<Sitting> sitting, String round) throws Exception {
        Map<String, String> made = FaultDrill.sums(place.resolve("desk0/copies"));
        if (!made.equals(wanted)) {
            var differs = new TreeMap<>(made);
            wanted.forEach(
                    (name, sum) -> differs.merge(name, "missing", (is, _) -> is.equals(sum) ? "" : "other bytes"));
            differs.values().removeIf(String::isEmpty);
            breaks(round + ": the copies are not those of one machine alone: " + differs);
        }
        try (Stream<Path> files = Files.walk(place.resolve("desk0/copies"))) {
            List<String> partial = files.map(file -> String.valueOf(file.getFileName()))
                    .filter(name -> name.endsWith(".part"))
                    .toList();
            if (!partial.isEmpty()) {
                System.out.print("(" + partial.size() + " partial left for a sweep)");
            }
        }
        try (Project project = Project.open(place.resolve("desk0"), engine, CLOCK)) {
            List<WorkingCopy> copies = project.stocktaking().lines().stream()
                    .flatMap(line -> line.copies().stream())
                    .toList();
            if (copies.size() != wanted.size() || copies.stream().anyMatch(copy -> copy.state() != CopyState.READY)) {
                breaks(round + ": "
                        + copies.stream().collect(Collectors.groupingBy(WorkingCopy::state, Collectors.counting())));
            }
            for (WorkingCopy copy : copies) {
                if (!Files.isRegularFile(copy.file())) {
                    breaks(round + ": " + copy.file() + " is said to be there and is not");
                }
            }
            Map<String, List<String>> now = new HashMap<>();
            project.plans().choices().forEach((clip, ids) -> now.put(clip.value(), ids));
            for (Sitting each : sitting) {
                each.expected.forEach((id, either) -> {
                    if (!either.contains(now.getOrDefault(id, List.of()))) {
                        breaks(round + ", desk " + each.number + ": chose " + either + " for " + id + ", and it is "
                                + now.get(id));
                    }
                });
            }
        }
        sitting.forEach(Sitting::close);
    }

    private void tell() {
        System.out.println("faults " + done);
        System.out.println("choices " + choices);
        System.out.println(broken.isEmpty() ? "every promise held" : broken.size() + " promises broken:");
        broken.forEach(each -> System.out.println("  " + each));
    }
}
