package docksort.bench;

import docksort.arrival.Arrival;
import docksort.arrival.ArrivalId;
import docksort.arrival.ArrivalScan;
import docksort.arrival.Clip;
import docksort.arrival.SameScene;
import docksort.arrival.ScanListener;
import docksort.arrival.ScanResult;
import docksort.engine.Cancellation;
import docksort.engine.CopyCommand;
import docksort.engine.CopyOrder;
import docksort.engine.Inspector;
import docksort.engine.MediaEngine;
import docksort.files.Documents;
import docksort.media.FrameRate;
import docksort.project.LockedRun;
import docksort.project.Project;
import docksort.project.Runs;
import docksort.sort.PlannedCopy;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.FileVisitResult;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.SimpleFileVisitor;
import java.nio.file.attribute.BasicFileAttributes;
import java.time.Duration;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.logging.Level;
import java.util.logging.Logger;
import java.util.stream.Collectors;

/// Two comparisons with what a person would type, each taken several times in turn in one run, as ratios
/// of the medians:
///
/// 1. Inspecting a tree, against a shell loop that calls ffprobe twice for each file: format and streams,
/// then a window of packets. 2. Making copies, checked and published, against a shell script of the same
/// ffmpeg commands one after the other.
public final class SideBySide {
    private static final Logger QUIET = Logger.getLogger("");

    private static final int FEWEST_FILES = 450; // two of the demo have one name
    private static final int QUICK_ROUNDS = 15;

    private final Path footage;
    private final Path work;
    private final int rounds;

    private SideBySide(Path footage, Path work, int rounds) {
        this.footage = footage;
        this.work = work;
        this.rounds = rounds;
    }

    /// @param args a folder with arrivals two levels down (as the demo footage is), a work folder, and
    ///     rounds
    public static void main(String[] args) throws IOException, InterruptedException {
        if (args.length != 3) {
            System.err.println("usage: SideBySide FOOTAGE WORK ROUNDS");
            System.exit(2);
        }
        QUIET.setLevel(Level.WARNING);
        var run = new SideBySide(
                Path.of(args[0]).toRealPath(), Documents.ensureFolder(Path.of(args[1])), Integer.parseInt(args[2]));
        try (MediaEngine engine = MediaEngine.locate()) {
            System.out.println(engine.version() + ", " + Runtime.getRuntime().availableProcessors() + " processors");
            run.inspecting(engine);
            run.making(engine);
        }
    }

    /// Hard links to every readable clip, enough of them that starting the loop does not count.
    private Path many() throws IOException {
        Path tree = work.resolve("many");
        if (Files.exists(tree)) {
            return tree;
        }
        Documents.ensureFolder(tree);
        try (var files = Files.walk(footage)) {
            List<Path> media = files.filter(f -> f.toString().matches("(?i).*\\.(mov|mp4|mxf)"))
                    .filter(f -> f.toFile().length() > 200_000)
                    .toList();
            for (int copy = 0; copy * media.size() < FEWEST_FILES; copy++) {
                Path folder = Documents.ensureFolder(tree.resolve("card " + copy));
                for (Path file : media) {
                    Path link = folder.resolve(copy + "_" + file.getFileName());
                    if (!Files.exists(link)) {
                        Files.createLink(link, file);
                    }
                }
            }
        }
        return tree;
    }

    private void inspecting(MediaEngine engine) throws IOException, InterruptedException {
        Path tree = many();
        String probe = quoted(engine.ffprobeProgram());
        String headers = "  " + probe + " -v error -of json -show_format -show_streams \"$f\" > /dev/null 2>&1\n";
        String packets = "  " + probe
                + " -v error -of json -select_streams v:0 -show_entries packet=pts,size,flags -read_intervals"
                + " '%+#1500' \"$f\" > /dev/null 2>&1\n";
        String loop = "for f in " + quoted(tree) + "/*/*; do\n";
        Path both = script("inspect.sh", loop + headers + packets + "done\n");
        Path one = script("headers.sh", loop + headers + "done\n");
        double[] shell = new double[rounds];
        double[] single = new double[rounds];
        double[] ours = new double[rounds];
        int files = 0;
        for (int round = 0; round < rounds; round++) {
            shell[round] = seconds(both, engine);
            long start = System.nanoTime();
            ScanResult result = new ArrivalScan(new Inspector(engine), SameScene.UNSEEN, 2)
                    .scan(
                            ArrivalId.fresh(),
                            tree,
                            ArrivalScan.Before.NOTHING,
                            FrameRate.FPS_25,
                            ScanListener.none(),
                            new Cancellation());
            ours[round] = (System.nanoTime() - start) / 1e9;
            single[round] = seconds(one, engine);
            files = result.stamps().size();
        }
        tell("inspecting " + files + " files", ours, shell, 0.6);
        tell("  for information: headers alone", ours, single, Double.POSITIVE_INFINITY);
        lookingAgain(engine, tree);
    }

    /// The whole second look, catalogue and all, in turn with a bare walk.
    private void lookingAgain(MediaEngine engine, Path tree) throws IOException, InterruptedException {
        Path place = work.resolve("again-" + ProcessHandle.current().pid());
        try (Project project = Project.open(place, engine, InstantSource.system())) {
            project.arrivals().add(tree, ScanListener.none(), new Cancellation());
            Arrival arrival = project.arrivals().all().getFirst();
            double[] walk = new double[QUICK_ROUNDS];
            double[] again = new double[QUICK_ROUNDS];
            for (int round = -25; round < QUICK_ROUNDS; round++) { // the first ones warm up
                long start = System.nanoTime();
                walk(tree);
                long between = System.nanoTime();
                ScanResult result = project.arrivals()
                        .lookAgain(arrival, Optional.empty(), ScanListener.none(), new Cancellation());
                long end = System.nanoTime();
                if (!result.stamps().isEmpty()) {
                    throw new IllegalStateException(
                            "the second look opened " + result.stamps().keySet());
                }
                if (round >= 0) {
                    walk[round] = (between - start) / 1e9;
                    again[round] = (end - between) / 1e9;
                }
            }
            tell("second look, in seconds", again, walk, 3);
        }
    }

    static long walk(Path tree) throws IOException {
        var bytes = new long[1];
        Files.walkFileTree(tree, new SimpleFileVisitor<>() {
            @Override
            public FileVisitResult visitFile(Path file, BasicFileAttributes attributes) {
                bytes[0] += attributes.size() + attributes.lastModifiedTime().toMillis() % 2;
                return FileVisitResult.CONTINUE;
            }
        });
        return bytes[0];
    }

    private void making(MediaEngine engine) throws IOException, InterruptedException {
        double[] shell = new double[rounds];
        double[] ours = new double[rounds];
        for (int round = 0; round < rounds; round++) {
            Path place = work.resolve("project-" + ProcessHandle.current().pid() + "-" + round);
            try (Project project = Project.open(place, engine, InstantSource.system())) {
                addArrivals(project, footage);
                List<PlannedCopy> wanted = project.plans().loadSheet().wanted();
                shell[round] = seconds(script("make.sh", commands(wanted, engine)), engine);
                project.queue().enqueue(project.plans().loadSheet());
                long start = System.nanoTime();
                try (LockedRun run =
                        project.runs().start(Runs.DEFAULT_WORKERS, () -> {}).orElseThrow()) {
                    if (!run.run().awaitEnd(Duration.ofMinutes(30))) {
                        throw new IllegalStateException("the run did not end");
                    }
                }
                ours[round] = (System.nanoTime() - start) / 1e9;
            }
        }
        tell("making copies", ours, shell, 1.05);
    }

    /// Every folder two levels down, as the demo footage has them.
    static void addArrivals(Project project, Path footage) throws IOException, InterruptedException {
        try (var arrivals = Files.walk(footage, 2)) {
            for (Path arrival : arrivals.filter(
                            f -> Files.isDirectory(f) && footage.relativize(f).getNameCount() == 2)
                    .sorted()
                    .toList()) {
                project.arrivals().add(arrival, ScanListener.none(), new Cancellation());
            }
        }
        project.arrivals()
                .readAt(
                        project.clips().stream()
                                .filter(clip -> clip.facts().isRateOpen())
                                .toList(),
                        FrameRate.FPS_25);
    }

    /// The same encodings, to the same volume, each typed as one line.
    private String commands(List<PlannedCopy> wanted, MediaEngine engine) {
        var lines = new ArrayList<String>();
        for (PlannedCopy copy : wanted) {
            Clip clip = copy.clip();
            if (copy.form().isPresent()) {
                var order = new CopyOrder(
                        clip.source(),
                        clip.facts(),
                        copy.form().get(),
                        clip.name(),
                        Map.of(),
                        work.resolve("typed.mov"));
                lines.add(quoted(engine.ffmpegProgram()) + " -nostdin -v error -y "
                        + CopyCommand.arguments(order).stream()
                                .map(SideBySide::quoted)
                                .collect(Collectors.joining(" ")));
            }
        }
        return String.join("\n", lines) + "\n";
    }

    static String quoted(Object word) {
        return "'" + word.toString().replace("'", "'\\''") + "'";
    }

    private Path script(String name, String body) {
        Path script = work.resolve(name);
        Documents.replace(
                script, ("set -e\n" + body).replace("set -e\nfor", "for").getBytes(StandardCharsets.UTF_8));
        return script;
    }

    static double seconds(Path script, MediaEngine engine) throws IOException, InterruptedException {
        var builder = new ProcessBuilder("sh", script.toString());
        builder.environment()
                .put("LD_LIBRARY_PATH", String.valueOf(engine.ffmpegProgram().getParent()));
        builder.inheritIO();
        long start = System.nanoTime();
        int code = builder.start().waitFor();
        if (code != 0) {
            throw new IllegalStateException(script + " ended with " + code);
        }
        return (System.nanoTime() - start) / 1e9;
    }

    static void tell(String what, double[] ours, double[] shell, double wanted) {
        double ratio = median(ours) / median(shell);
        System.out.println(String.format(
                Locale.ROOT,
                "%-34s ours %.4g s %s, by hand %.4g s %s, ratio %.2f%s%s",
                what,
                median(ours),
                spread(ours),
                median(shell),
                spread(shell),
                ratio,
                Double.isInfinite(wanted) ? "" : String.format(Locale.ROOT, " (wanted: at most %.2f)", wanted),
                ratio <= wanted ? "" : "  MISSED"));
    }

    private static double median(double[] values) {
        double[] sorted = values.clone();
        Arrays.sort(sorted);
        return sorted[sorted.length / 2];
    }

    private static String spread(double[] values) {
        return String.format(
                Locale.ROOT,
                "[%.4g..%.4g]",
                Arrays.stream(values).min().orElse(0),
                Arrays.stream(values).max().orElse(0));
    }
}
