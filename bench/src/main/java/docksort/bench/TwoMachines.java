package docksort.bench;

import docksort.arrival.ScanListener;
import docksort.catalogue.Desk;
import docksort.catalogue.Root;
import docksort.catalogue.SharedAddress;
import docksort.engine.Cancellation;
import docksort.engine.MediaEngine;
import docksort.files.Documents;
import docksort.project.Project;
import docksort.project.Sharing;
import docksort.sort.Recipe;
import io.zonky.test.db.postgres.embedded.EmbeddedPostgres;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.locks.LockSupport;
import java.util.logging.Level;
import java.util.logging.Logger;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/// The same copies made by one program with two workers on a project of its own, and by two programs with one
/// worker each on a shared project, in turn: from the start of the programs until the last copy has its name.
public final class TwoMachines {
    private static final InstantSource CLOCK = InstantSource.system();
    private static final List<Recipe> RECIPES = List.of(Recipe.LIGHT_PRORES_HALF, Recipe.FULL_VC3);
    private static final int FRAMES = 250;

    private final Path work;
    private final MediaEngine engine;
    private final EmbeddedPostgres server;
    private final int clips;
    private final Path card;

    private TwoMachines(Path work, MediaEngine engine, EmbeddedPostgres server, int clips) throws IOException {
        this.work = work;
        this.engine = engine;
        this.server = server;
        this.clips = clips;
        this.card = Documents.ensureFolder(work.resolve("Card"));
    }

    /// @param args a work folder, how many clips and how many rounds
    public static void main(String[] args) throws Exception {
        if (args.length != 3) {
            System.err.println("usage: TwoMachines WORK CLIPS ROUNDS");
            System.exit(2);
        }
        Logger.getLogger("").setLevel(Level.OFF);
        Path work = Documents.ensureFolder(Path.of(args[0])).toRealPath();
        try (MediaEngine engine = MediaEngine.locate();
                EmbeddedPostgres server = EmbeddedPostgres.builder()
                        .setDataDirectory(work.resolve("data"))
                        .start()) {
            new TwoMachines(work, engine, server, Integer.parseInt(args[1])).compare(Integer.parseInt(args[2]));
        }
    }

    private void compare(int rounds) throws Exception {
        shoot();
        var ratios = new double[rounds];
        for (int round = 0; round < rounds; round++) {
            double one = one(work.resolve("one" + round));
            double two = two(work.resolve("two" + round), "two_" + round);
            ratios[round] = one / two;
            System.out.printf(
                    Locale.ROOT,
                    "one program with two workers %.1f s, two with one each %.1f s: %.2f of its speed%n",
                    one,
                    two,
                    ratios[round]);
        }
        Arrays.sort(ratios);
        System.out.printf(
                Locale.ROOT,
                "%d copies, median of %d rounds in turn: %.2f (%.2f to %.2f; wanted at least 0.95)%n",
                clips * RECIPES.size(),
                rounds,
                ratios[rounds / 2],
                ratios[0],
                ratios[rounds - 1]);
    }

    private void shoot() throws InterruptedException {
        for (int i = 1; i <= clips; i++) {
            engine.run(List.of(
                    "-f",
                    "lavfi",
                    "-i",
                    "testsrc2=size=1280x720:rate=25,hue=h=" + 15 * i,
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

    private Map<String, Path> plan(Path place, Optional<SharedAddress> address) throws InterruptedException {
        try (Project project = Project.open(place, engine, CLOCK)) {
            project.arrivals().add(card, ScanListener.none(), new Cancellation());
            project.plans().choose(project.clips(), Optional.of(RECIPES));
            project.queue().enqueue(project.plans().loadSheet());
            address.ifPresent(project.sharing()::share);
            return project.roots().all().stream().collect(Collectors.toMap(Root::name, Root::path));
        }
    }

    private double one(Path place) throws Exception {
        plan(place, Optional.empty());
        return seconds(place, List.of(command("make", place, "2")));
    }

    private double two(Path place, String schema) throws Exception {
        SharedAddress address =
                SharedAddress.parse("postgresql://postgres@localhost:" + server.getPort() + "/postgres", schema);
        Map<String, Path> places = plan(place, Optional.of(address));
        var commands = new ArrayList<List<String>>();
        for (int i = 0; i < 2; i++) {
            Path worker = place.resolveSibling(schema + "-worker" + i);
            Sharing.join(worker, address, new Sharing.Joining(new Desk("worker" + i, ""), places, false, false), CLOCK);
            commands.add(command("work", worker, "1"));
        }
        return seconds(place, commands);
    }

    private static List<String> command(String name, Path place, String workers) {
        return List.of(
                ProcessHandle.current().info().command().orElseThrow(),
                "--enable-native-access=ALL-UNNAMED",
                "--sun-misc-unsafe-memory-access=allow",
                "-Xmx300m",
                "-cp",
                System.getProperty("java.class.path"),
                "docksort.cli.Main",
                name,
                "--project",
                place.toString(),
                "--workers",
                workers);
    }

    private double seconds(Path place, List<List<String>> commands) throws IOException, InterruptedException {
        long begin = System.nanoTime();
        var programs = new ArrayList<Process>();
        for (List<String> command : commands) {
            programs.add(new ProcessBuilder(command)
                    .redirectErrorStream(true)
                    .redirectOutput(place.resolveSibling("log").toFile())
                    .start());
        }
        Path copies = place.resolve("copies");
        while (made(copies) < (long) clips * RECIPES.size()) {
            if (programs.stream().noneMatch(Process::isAlive) && made(copies) < (long) clips * RECIPES.size()) {
                throw new IllegalStateException("ended early: " + Files.readString(place.resolveSibling("log")));
            }
            LockSupport.parkNanos(TimeUnit.MILLISECONDS.toNanos(20));
        }
        double took = (System.nanoTime() - begin) / 1e9;
        for (Process program : programs) {
            program.destroy();
            program.waitFor();
        }
        return took;
    }

    /// A copy gets its name once it is checked.
    private static long made(Path copies) throws IOException {
        if (!Files.isDirectory(copies)) {
            return 0;
        }
        try (Stream<Path> files = Files.walk(copies)) {
            return files.filter(file -> file.toString().matches(".*/[^.][^/]*[.](mov|mxf)"))
                    .count();
        } catch (UncheckedIOException e) {
            return 0; // one got its name meanwhile: looked at again
        }
    }
}
