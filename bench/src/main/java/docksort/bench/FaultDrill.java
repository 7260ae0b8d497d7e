package docksort.bench;

import docksort.arrival.ScanListener;
import docksort.catalogue.CopyState;
import docksort.catalogue.WorkingCopy;
import docksort.engine.Cancellation;
import docksort.engine.MediaEngine;
import docksort.files.Documents;
import docksort.project.Project;
import docksort.run.Pace;
import docksort.run.Terms;
import docksort.sort.Recipe;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.TreeMap;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import java.util.concurrent.locks.LockSupport;
import java.util.logging.Level;
import java.util.logging.Logger;
import java.util.stream.Stream;

/// Lets faults happen to a run at random moments: the program is killed, an encoder is killed or frozen,
/// the volume for copies is filled or goes away, the originals go away. After each, nothing may have a
/// final name that is not whole, nothing may be lost from the queue, originals are as they were, and no
/// child is left. At the end the copies are the same, byte for byte, as those of a run that nothing
/// happened to.
public final class FaultDrill {
    private static final int CLIPS = 4;
    private static final int FRAMES = 60;
    private static final List<Recipe> RECIPES = List.of(Recipe.LIGHT_PRORES_HALF, Recipe.FULL_VC3);
    private static final long LONGEST_RUN_SECONDS = 120;

    private enum Fault {
        KILL_PROGRAM,
        KILL_ENCODER,
        FREEZE_ENCODER,
        FILL_VOLUME,
        TAKE_COPIES_AWAY,
        TAKE_ORIGINALS_AWAY
    }

    private final Path work;
    private final MediaEngine engine;
    private final Random random;
    private final Path card;
    private final Map<Fault, Integer> done = new EnumMap<>(Fault.class);
    private final List<String> broken = new ArrayList<>();
    private boolean mounts;
    private Map<String, String> wanted = Map.of();
    private Map<String, String> originals = Map.of();

    private FaultDrill(Path work, MediaEngine engine, long seed) {
        this.work = work;
        this.engine = engine;
        this.random = new Random(seed);
        this.card = work.resolve("volume/Card");
    }

    /// @param args a work folder, how many faults, and the seed of their moments
    public static void main(String[] args) throws Exception {
        if (args.length != 3) {
            System.err.println("usage: FaultDrill WORK FAULTS SEED");
            System.exit(2);
        }
        Logger.getLogger("").setLevel(Level.SEVERE);
        try (MediaEngine engine = MediaEngine.locate()) {
            Path work = Documents.ensureFolder(Path.of(args[0])).toRealPath();
            var drill = new FaultDrill(work, engine, Long.parseLong(args[2]));
            drill.shoot();
            drill.wanted = drill.undisturbed();
            drill.drill(Integer.parseInt(args[1]));
            drill.tell(Integer.parseInt(args[1]));
            System.exit(drill.broken.isEmpty() ? 0 : 1);
        }
    }

    private void shoot() throws IOException, InterruptedException {
        Documents.ensureFolder(card);
        for (int i = 1; i <= CLIPS; i++) {
            engine.run(List.of(
                    "-f",
                    "lavfi",
                    "-i",
                    "testsrc2=size=640x360:rate=25,hue=h=" + 30 * i,
                    "-frames:v",
                    Integer.toString(FRAMES),
                    "-c:v",
                    "libx264",
                    "-preset",
                    "ultrafast",
                    "-timecode",
                    "01:00:00:00",
                    "file:" + card.resolve("L00" + i + ".mov")));
        }
        originals = sums(card);
    }

    private Path planned(String name) throws InterruptedException {
        Path place = work.resolve(name);
        try (Project project = Project.open(place, engine, InstantSource.system())) {
            project.arrivals().add(card, ScanListener.none(), new Cancellation());
            project.plans().choose(project.clips(), Optional.of(RECIPES));
            project.queue().enqueue(project.plans().loadSheet());
        }
        return place;
    }

    private Map<String, String> undisturbed() throws IOException, InterruptedException {
        Path place = planned("undisturbed");
        try (Project project = Project.open(place, engine, InstantSource.system());
                var run = project.runs().start(Terms.fixed(2), () -> {}).orElseThrow()) {
            if (!run.run().awaitEnd(Duration.ofMinutes(10))) {
                throw new IllegalStateException("the undisturbed run did not end");
            }
        }
        Map<String, String> made = sums(place.resolve("copies"));
        if (made.size() != CLIPS * RECIPES.size()) {
            throw new IllegalStateException("the undisturbed run made " + made.keySet());
        }
        return made;
    }

    // One project after the other, each disturbed until all of it is made

    private void drill(int faults) throws Exception {
        int count = 0;
        for (int number = 1; count < faults; number++) {
            Path place = planned("drill-" + number);
            Path copies = Documents.ensureFolder(place.resolve("copies"));
            mounts = mount(copies);
            begin(place);
            try {
                boolean all = false;
                while (!all && count < faults) {
                    Fault fault = Fault.values()[random.nextInt(Fault.values().length)];
                    count++;
                    disturb(place, copies, fault);
                    check(place, copies, "fault " + count + ", " + fault);
                    all = left(place) == 0;
                    System.out.print(fault.name().charAt(0));
                    System.out.flush();
                }
                finish(place, copies, number);
            } finally {
                if (mounts) {
                    command("umount", "-l", copies.toString());
                }
            }
        }
        System.out.println();
    }

    /// A run that makes nothing yet: from then on the project knows which volume its copies lie on.
    private void begin(Path place) {
        var later = new Pace(Optional.of(Instant.now().plusSeconds(3_600)), Optional.empty(), false, 0);
        try (Project project = Project.open(place, engine, InstantSource.system())) {
            project.runs()
                    .start(Terms.fixed(1).at(later), () -> {})
                    .orElseThrow()
                    .close();
        }
    }

    private static boolean mount(Path copies) throws IOException, InterruptedException {
        return command("mount", "-t", "tmpfs", "-o", "size=400m", "tmpfs", copies.toString()) == 0;
    }

    static int command(String... words) throws IOException, InterruptedException {
        return new ProcessBuilder(words)
                .redirectErrorStream(true)
                .redirectOutput(ProcessBuilder.Redirect.DISCARD)
                .start()
                .waitFor();
    }

    /// Starts a run as its users do, and lets one thing happen to it at a moment nobody chose.
    private void disturb(Path place, Path copies, Fault fault) throws Exception {
        var builder = new ProcessBuilder(
                ProcessHandle.current().info().command().orElseThrow(),
                "--enable-native-access=ALL-UNNAMED",
                "--sun-misc-unsafe-memory-access=allow",
                "-XX:TieredStopAtLevel=1",
                "-cp",
                System.getProperty("java.class.path"),
                "docksort.cli.Main",
                "make",
                "--project",
                place.toString(),
                "--workers",
                "2",
                "--retry",
                "--wait",
                "5");
        builder.environment().put(MediaEngine.SILENCE_VARIABLE, "4");
        builder.redirectErrorStream(true);
        builder.redirectOutput(
                ProcessBuilder.Redirect.appendTo(work.resolve("drill.log").toFile()));
        Process program = builder.start();
        pause(1_000 + random.nextInt(4_000));
        if (program.isAlive()) {
            done.merge(fault, 1, Integer::sum);
            happen(fault, program, copies);
        }
        if (!program.waitFor(LONGEST_RUN_SECONDS, TimeUnit.SECONDS)) {
            broken.add("after " + fault + " the run did not come to its end");
            program.destroyForcibly().waitFor();
        }
    }

    private void happen(Fault fault, Process program, Path copies) throws Exception {
        switch (fault) {
            case KILL_PROGRAM -> {
                List<ProcessHandle> children = program.descendants().toList();
                program.destroyForcibly();
                for (ProcessHandle child : children) {
                    try {
                        child.onExit().get(10, TimeUnit.SECONDS);
                    } catch (TimeoutException e) {
                        broken.add("child " + child.pid() + " outlived the program");
                        child.destroyForcibly();
                    }
                }
            }
            case KILL_ENCODER -> encoders(program).findFirst().ifPresent(ProcessHandle::destroyForcibly);
            case FREEZE_ENCODER -> {
                Optional<ProcessHandle> frozen = encoders(program).findFirst();
                if (frozen.isPresent()) {
                    command("kill", "-STOP", Long.toString(frozen.get().pid()));
                }
            }
            case FILL_VOLUME -> {
                Path filler = copies.resolve("filler");
                if (mounts) {
                    command("sh", "-c", "head -c 1G /dev/zero > '" + filler + "'");
                    pause(1_500);
                    Files.deleteIfExists(filler);
                }
            }
            case TAKE_COPIES_AWAY -> away(copies, mounts);
            case TAKE_ORIGINALS_AWAY -> away(card, false);
        }
    }

    /// A folder is gone for a while. A mounted one is moved as a mount, so that an empty folder stands in
    /// its place.
    private void away(Path folder, boolean mounted) throws Exception {
        Path aside = work.resolve(mounted ? "mount away" : "folder away");
        if (mounted) {
            Documents.ensureFolder(aside);
            if (command("mount", "--move", folder.toString(), aside.toString()) != 0) {
                return; // not allowed where mounts are shared
            }
            pause(1_500);
            command("mount", "--move", aside.toString(), folder.toString());
        } else {
            Files.move(folder, aside);
            pause(1_500);
            Files.move(aside, folder);
        }
    }

    private static Stream<ProcessHandle> encoders(Process program) {
        return program.descendants()
                .filter(each ->
                        each.info().command().filter(c -> c.endsWith("ffmpeg")).isPresent());
    }

    static void pause(long millis) {
        long end = System.nanoTime() + TimeUnit.MILLISECONDS.toNanos(millis);
        while (System.nanoTime() < end) {
            LockSupport.parkNanos(end - System.nanoTime());
        }
    }

    // What must hold

    private void check(Path place, Path copies, String after) throws Exception {
        if (!sums(card).equals(originals)) {
            broken.add(after + ": an original is not as it was");
        }
        sums(copies).forEach((name, sum) -> {
            if (!sum.equals(wanted.get(name))) {
                broken.add(after + ": " + name + " has its final name and is not what it should be");
            }
        });
        try (Project project = Project.open(place, engine, InstantSource.system())) {
            List<WorkingCopy> all = project.stocktaking().lines().stream()
                    .flatMap(line -> line.copies().stream())
                    .toList();
            if (all.size() != wanted.size()) {
                broken.add(after + ": the queue had " + wanted.size() + " copies and has " + all.size());
            }
            for (WorkingCopy copy : all) {
                if (copy.state() == CopyState.READY && !Files.exists(copy.file())) {
                    broken.add(after + ": " + copy.file() + " is said to be ready and is not there");
                }
            }
        }
    }

    private long left(Path place) {
        try (Project project = Project.open(place, engine, InstantSource.system())) {
            return project.stocktaking().lines().stream()
                    .flatMap(line -> line.copies().stream())
                    .filter(copy -> copy.state() != CopyState.READY)
                    .count();
        }
    }

    private void finish(Path place, Path copies, int number) throws Exception {
        try (Project project = Project.open(place, engine, InstantSource.system())) {
            project.queue().retryFailed();
            try (var run = project.runs().start(Terms.fixed(2), () -> {}).orElseThrow()) {
                if (!run.run().awaitEnd(Duration.ofMinutes(10))) {
                    broken.add("project " + number + " could not be finished");
                }
            }
        }
        if (!sums(copies).equals(wanted)) {
            broken.add("project " + number + " has other copies than an undisturbed run");
        }
        try (Stream<Path> files = Files.walk(copies)) {
            files.filter(file -> file.toString().endsWith(".part"))
                    .forEach(file -> broken.add("project " + number + " kept " + file));
        }
    }

    /// Files with a final name, by their place in the folder.
    static Map<String, String> sums(Path folder) throws IOException {
        var sums = new TreeMap<String, String>();
        try (Stream<Path> files = Files.walk(folder)) {
            for (Path file : files.filter(Files::isRegularFile)
                    .filter(file -> !file.toString().endsWith(".part"))
                    .toList()) {
                sums.put(folder.relativize(file).toString(), sum(file));
            }
        }
        return sums;
    }

    private static String sum(Path file) throws IOException {
        try {
            return HexFormat.of().formatHex(MessageDigest.getInstance("SHA-256").digest(Files.readAllBytes(file)));
        } catch (NoSuchAlgorithmException e) {
            throw new IllegalStateException(e);
        }
    }

    private void tell(int planned) {
        int all = done.values().stream().mapToInt(Integer::intValue).sum();
        System.out.println(all + " faults happened while a run was at work: " + done);
        if (all < planned / 2) {
            broken.add("only " + all + " of " + planned + " faults met a run at work: this drill tells nothing");
        }
        if (!mounts) {
            System.out.println("No volume could be mounted here: none was filled, and folders were moved instead.");
        }
        broken.forEach(what -> System.out.println("BROKEN  " + what));
        System.out.println(
                broken.isEmpty()
                        ? "Nothing partial under a final name, nothing lost, no child left, the same copies."
                        : broken.size() + " promises were broken; the runs' words are in " + work.resolve("drill.log"));
    }
}
