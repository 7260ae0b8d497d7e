package docksort.bench;

import docksort.arrival.ScanListener;
import docksort.engine.Cancellation;
import docksort.engine.MediaEngine;
import docksort.files.Documents;
import docksort.media.Wrapper;
import docksort.project.LockedRun;
import docksort.project.Project;
import docksort.run.RunLine;
import docksort.run.Terms;
import docksort.sort.CopyKind;
import docksort.sort.Encoding;
import docksort.sort.Recipe;
import docksort.sort.Scaling;
import docksort.sort.SortBook;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.logging.Level;
import java.util.logging.Logger;

/// A run of very many tiny clips: what the queue adds to the engine's own time for each, and whether memory
/// grows.
public final class ManyCopies {
    private static final int WORKERS = 2;
    private static final Recipe RECIPE =
            Recipe.of("tiny", "Tiny", CopyKind.LIGHT, Encoding.PRORES_PROXY, Wrapper.MOV, new Scaling.Full());

    private ManyCopies() {}

    /// @param args a work folder and how many clips
    public static void main(String[] args) throws Exception {
        if (args.length != 2) {
            System.err.println("usage: ManyCopies WORK CLIPS");
            System.exit(2);
        }
        Logger.getLogger("").setLevel(Level.WARNING);
        Path work = Documents.ensureFolder(Path.of(args[0])).toRealPath();
        int clips = Integer.parseInt(args[1]);
        try (MediaEngine engine = MediaEngine.locate();
                Project project = Project.open(work.resolve("project"), engine, InstantSource.system())) {
            enqueue(project, card(work, clips, engine));
            var memory = new ArrayList<Long>();
            long start = System.nanoTime();
            try (LockedRun run =
                    project.runs().start(Terms.fixed(WORKERS), () -> {}).orElseThrow()) {
                while (!run.run().awaitEnd(Duration.ofSeconds(5))) {
                    memory.add(used());
                    run.run().snapshot();
                }
                double wall = (System.nanoTime() - start) / 1e9;
                tell(project.runs().report(run.run().started()).lines(), wall, memory);
            }
        }
    }

    /// Takes a card in and puts a copy of each of its clips into the queue.
    static void enqueue(Project project, Path card) throws InterruptedException {
        project.arrivals().add(card, ScanListener.none(), new Cancellation());
        project.book().change(new SortBook(List.of(RECIPE), List.of(), false), "bench");
        project.plans().choose(project.clips(), Optional.of(List.of(RECIPE)));
        project.queue().enqueue(project.plans().loadSheet());
    }

    static Path card(Path work, int clips, MediaEngine engine) throws Exception {
        Path card = Documents.ensureFolder(work.resolve("volume/Card"));
        Path first = card.resolve("T00000.mov");
        engine.run(List.of(
                "-f",
                "lavfi",
                "-i",
                "testsrc2=size=160x90:rate=25",
                "-frames:v",
                "5",
                "-c:v",
                "mjpeg",
                "file:" + first));
        for (int i = 1; i < clips; i++) {
            Files.copy(first, card.resolve(String.format(Locale.ROOT, "T%05d.mov", i)));
        }
        return card;
    }

    private static long used() {
        System.gc();
        return (Runtime.getRuntime().totalMemory() - Runtime.getRuntime().freeMemory()) / 1_000_000;
    }

    private static void tell(List<RunLine> lines, double wall, List<Long> memory) {
        double engine = lines.stream()
                .mapToDouble(line -> line.makingSeconds() + line.checkingSeconds())
                .sum();
        double own = (wall - engine / WORKERS) / lines.size();
        long failed =
                lines.stream().filter(line -> !line.state().equals("ready")).count();
        System.out.printf(
                Locale.ROOT,
                "%d copies in %.1f s, %d failed; the engine's own %.0f ms a copy, the queue adds %.0f ms (wanted: below"
                        + " 60)%s%n",
                lines.size(),
                wall,
                failed,
                1_000 * engine / lines.size(),
                1_000 * own,
                own < 0.06 && failed == 0 ? "" : "  MISSED");
        int third = Math.max(1, memory.size() / 3);
        System.out.printf(
                Locale.ROOT,
                "live memory, mean of the first, middle and last third: %.0f, %.0f, %.0f MB%n",
                mean(memory.subList(0, third)),
                mean(memory.subList(third, Math.min(memory.size(), 2 * third))),
                mean(memory.subList(Math.min(memory.size() - 1, 2 * third), memory.size())));
    }

    private static double mean(List<Long> values) {
        return values.stream().mapToLong(Long::longValue).average().orElse(0);
    }
}
