package docksort.bench;

import docksort.arrival.Arrival;
import docksort.arrival.Clip;
import docksort.arrival.ScanListener;
import docksort.arrival.Unreadable;
import docksort.engine.Cancellation;
import docksort.engine.MediaEngine;
import docksort.files.Documents;
import docksort.project.Project;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.logging.Level;
import java.util.logging.Logger;

/// Scans thousands of files in whatever heap the virtual machine was given: how the used heap goes, how
/// soon the first clip is there, and what a second look costs against a bare walk over the same tree.
public final class ManyFiles {
    private static final int ROUNDS = 15;

    private ManyFiles() {}

    /// @param args a work folder and how many files
    public static void main(String[] args) throws IOException, InterruptedException {
        if (args.length != 2) {
            System.err.println("usage: ManyFiles WORK FILES");
            System.exit(2);
        }
        Logger.getLogger("").setLevel(Level.WARNING);
        Path work = Path.of(args[0]);
        int count = Integer.parseInt(args[1]);
        try (MediaEngine engine = MediaEngine.locate()) {
            Path tree = linked(engine, work, count);
            try (Project project = Project.open(work.resolve("project"), engine, InstantSource.system())) {
                scan(project, tree);
                lookAgain(project, tree);
                report(project, work);
            }
        }
    }

    /// Hard links to one clip of 250 pictures, a thousand to a folder.
    private static Path linked(MediaEngine engine, Path work, int count) throws IOException, InterruptedException {
        Path clip = work.resolve("clip.mov");
        engine.run(List.of(
                "-y",
                "-f",
                "lavfi",
                "-i",
                "testsrc2=size=320x180:rate=25",
                "-frames:v",
                "250",
                "-c:v",
                "libx264",
                "file:" + clip));
        Path tree = Documents.ensureFolder(work.resolve("many"));
        for (int i = 0; i < count; i++) {
            Path folder = Documents.ensureFolder(tree.resolve("card " + i / 1_000));
            Files.createLink(folder.resolve("clip " + i + ".mov"), clip);
        }
        return tree;
    }

    private static void scan(Project project, Path tree) throws InterruptedException {
        long start = System.nanoTime();
        var first = new double[1];
        project.arrivals()
                .add(
                        tree,
                        new ScanListener() {
                            @Override
                            public void progress(int done, int all) {
                                if (done > 0 && done % Math.max(1, all / 10) == 0) {
                                    System.out.println(String.format(
                                            Locale.ROOT,
                                            "%6d of %d files, %6.1f s, %4d MB of %d MB heap used",
                                            done,
                                            all,
                                            seconds(start),
                                            used(),
                                            Runtime.getRuntime().maxMemory() >> 20));
                                }
                            }

                            @Override
                            public synchronized void clip(Clip clip) {
                                first[0] = first[0] == 0 ? seconds(start) : first[0];
                            }

                            @Override
                            public void unreadable(Unreadable file) {
                                throw new IllegalStateException(file.toString());
                            }
                        },
                        new Cancellation());
        System.out.println(String.format(
                Locale.ROOT,
                "scanned in %.1f s, the first clip after %.2f s, %d clips in the project",
                seconds(start),
                first[0],
                project.clips().size()));
    }

    private static void lookAgain(Project project, Path tree) throws IOException, InterruptedException {
        Arrival arrival = project.arrivals().all().getFirst();
        double[] walk = new double[ROUNDS];
        double[] again = new double[ROUNDS];
        for (int round = -10; round < ROUNDS; round++) { // the first ones warm up
            long start = System.nanoTime();
            SideBySide.walk(tree);
            long between = System.nanoTime();
            project.arrivals().lookAgain(arrival, Optional.empty(), ScanListener.none(), new Cancellation());
            if (round >= 0) {
                walk[round] = (between - start) / 1e9;
                again[round] = seconds(between);
            }
        }
        SideBySide.tell("second look, in seconds", again, walk, 3);
    }

    /// What came in, without pictures, as a page and as a table.
    private static void report(Project project, Path work) throws InterruptedException {
        for (String name : List.of("report.html", "report.csv")) {
            long start = System.nanoTime();
            Path file = work.resolve(name);
            project.arrivalReports().write(project.arrivals().all(), file, false, (_, _) -> {}, new Cancellation());
            double taken = seconds(start);
            System.out.println(String.format(
                    Locale.ROOT,
                    "%s of %d clips in %.1f s, %d kB (wanted: below 10 s)%s",
                    name,
                    project.clips().size(),
                    taken,
                    file.toFile().length() / 1000,
                    taken > 10 ? "  MISSED" : ""));
        }
    }

    private static double seconds(long since) {
        return (System.nanoTime() - since) / 1e9;
    }

    private static long used() {
        return (Runtime.getRuntime().totalMemory() - Runtime.getRuntime().freeMemory()) >> 20;
    }
}
