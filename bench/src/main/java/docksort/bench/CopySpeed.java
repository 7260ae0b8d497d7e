package docksort.bench;

import docksort.arrival.Clip;
import docksort.arrival.ScanListener;
import docksort.engine.Cancellation;
import docksort.engine.Conduct;
import docksort.engine.CopyCommand;
import docksort.engine.CopyMaker;
import docksort.engine.CopyOrder;
import docksort.engine.MediaEngine;
import docksort.files.Documents;
import docksort.media.ClipSource;
import docksort.media.CopyForm;
import docksort.project.Project;
import docksort.run.RunLine;
import docksort.run.Terms;
import docksort.sort.PlannedCopy;
import docksort.sort.Recipe;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Duration;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.stream.Collectors;

/// Making copies against the best plain script: two ffmpeg at a time over the same list, one command for each
/// copy, with the same encoders and settings. Both are taken several times in turn in one run; what is told are
/// ratios of medians.
///
/// 1. A queue of mixed clips with two copies each. Ours is the making alone, by two workers as a run does it;
/// the whole run, with every check and the queue, is told beside it. 2. One long clip to one copy.
public final class CopySpeed {
    private static final int CLIPS = 24;
    private static final List<Recipe> RECIPES = List.of(Recipe.LIGHT_PRORES_HALF, Recipe.FULL_VC3);
    private static final int LONG_FRAMES = 1_500;

    private final Path footage;
    private final Path work;
    private final int rounds;
    private final MediaEngine engine;
    private int scripts;

    private CopySpeed(Path footage, Path work, int rounds, MediaEngine engine) {
        this.footage = footage;
        this.work = work;
        this.rounds = rounds;
        this.engine = engine;
    }

    /// @param args a folder with arrivals two levels down (as the demo footage is), a work folder, rounds, and
    ///     which of the two is wanted, both where nothing is said
    public static void main(String[] args) throws Exception {
        if (args.length < 3) {
            System.err.println("usage: CopySpeed FOOTAGE WORK ROUNDS [mixed|long]");
            System.exit(2);
        }
        java.util.logging.Logger.getLogger("").setLevel(java.util.logging.Level.WARNING);
        try (MediaEngine engine = MediaEngine.locate()) {
            System.out.println(engine.version() + ", " + Runtime.getRuntime().availableProcessors() + " processors");
            var bench = new CopySpeed(
                    Path.of(args[0]).toRealPath(),
                    Documents.ensureFolder(Path.of(args[1])),
                    Integer.parseInt(args[2]),
                    engine);
            String which = args.length > 3 ? args[3] : "";
            if (!which.equals("long")) {
                bench.mixed();
            }
            if (!which.equals("mixed")) {
                bench.oneLongClip();
            }
        }
    }

    private void mixed() throws Exception {
        double[] script = new double[rounds];
        double[] making = new double[rounds];
        double[] whole = new double[rounds];
        double checking = 0;
        int count = 0;
        for (int round = 0; round < rounds; round++) {
            Path place = work.resolve("mixed-" + round);
            try (Project project = Project.open(place, engine, InstantSource.system())) {
                SideBySide.addArrivals(project, footage);
                List<Clip> clips = chosen(project);
                count = clips.size();
                project.plans().choose(project.clips(), Optional.of(List.of()));
                project.plans().choose(clips, Optional.of(RECIPES));
                List<List<CopyOrder>> groups =
                        groups(project.plans().loadSheet().wanted());
                script[round] = parallel(groups);
                making[round] = made(groups);
                project.plans().enqueue(project.plans().loadSheet());
                long start = System.nanoTime();
                try (Project.LockedRun run =
                        project.startRun(Terms.fixed(2), () -> {}).orElseThrow()) {
                    if (!run.run().awaitEnd(Duration.ofMinutes(30))) {
                        throw new IllegalStateException("the run did not end");
                    }
                    whole[round] = (System.nanoTime() - start) / 1e9;
                    List<RunLine> lines = project.report(run.run().started()).lines();
                    if (lines.stream().anyMatch(line -> !line.state().equals("ready"))) {
                        throw new IllegalStateException("not all copies were made: " + lines);
                    }
                    checking =
                            lines.stream().mapToDouble(RunLine::checkingSeconds).sum();
                }
            }
        }
        SideBySide.tell(count + " mixed clips, two copies each", making, script, 0.75);
        SideBySide.tell("  the whole run with all checks", whole, script, Double.POSITIVE_INFINITY);
        System.out.printf(Locale.ROOT, "  of it in checks, by two workers: %.1f s%n", checking);
    }

    /// The clips that both recipes can be made of, the ones with the most work first.
    private static List<Clip> chosen(Project project) {
        project.plans().choose(project.clips(), Optional.of(RECIPES));
        Map<Clip, Long> possible = project.plans().loadSheet().copies().stream()
                .filter(copy -> copy.form().isPresent() && copy.clip().source() instanceof ClipSource.SingleFile)
                .collect(Collectors.groupingBy(PlannedCopy::clip, Collectors.counting()));
        return possible.entrySet().stream()
                .filter(entry -> entry.getValue() == RECIPES.size())
                .map(Map.Entry::getKey)
                .sorted(Comparator.comparingLong((Clip clip) ->
                        -clip.facts().video().orElseThrow().raster().pixels()
                                * clip.facts().video().orElseThrow().frames().count()))
                .limit(CLIPS)
                .toList();
    }

    private List<List<CopyOrder>> groups(List<PlannedCopy> wanted) {
        Map<Clip, List<CopyOrder>> groups = new LinkedHashMap<>();
        for (PlannedCopy copy : wanted) {
            CopyForm form = copy.form().orElseThrow();
            Clip clip = copy.clip();
            List<CopyOrder> group = groups.computeIfAbsent(clip, _ -> new ArrayList<>());
            group.add(new CopyOrder(
                    clip.source(),
                    clip.facts(),
                    form,
                    clip.name(),
                    Map.of(),
                    work.resolve("made-" + groups.size() + "-" + group.size() + ".mov")));
        }
        return List.copyOf(groups.values());
    }

    /// Two workers, each with all copies of one clip at a time.
    private double made(List<List<CopyOrder>> groups) throws InterruptedException {
        var left = new ConcurrentLinkedQueue<>(groups);
        var failed = new ConcurrentLinkedQueue<CopyMaker.Outcome>();
        long start = System.nanoTime();
        var workers = new ArrayList<Thread>();
        for (int i = 0; i < 2; i++) {
            workers.add(Thread.ofPlatform().start(() -> {
                try {
                    for (List<CopyOrder> group = left.poll(); group != null; group = left.poll()) {
                        CopyMaker.Outcome outcome =
                                new CopyMaker(engine).make(group, _ -> {}, Conduct.of(new Cancellation()));
                        if (!(outcome instanceof CopyMaker.Outcome.Written)) {
                            failed.add(outcome);
                        }
                    }
                } catch (InterruptedException e) {
                    Thread.currentThread().interrupt();
                }
            }));
        }
        for (Thread worker : workers) {
            worker.join();
        }
        if (!failed.isEmpty()) {
            throw new IllegalStateException(failed.toString());
        }
        return (System.nanoTime() - start) / 1e9;
    }

    /// The same encodings, each typed as one line, two at a time.
    private double parallel(List<List<CopyOrder>> groups) throws IOException, InterruptedException {
        Path folder = Documents.ensureFolder(work.resolve("typed-" + scripts++));
        int number = 0;
        for (CopyOrder order : groups.stream().flatMap(List::stream).toList()) {
            String line = SideBySide.quoted(engine.ffmpegProgram()) + " -nostdin -v error -y "
                    + CopyCommand.arguments(order).stream()
                            .map(SideBySide::quoted)
                            .collect(Collectors.joining(" "))
                    + "\n";
            Documents.replace(
                    folder.resolve(String.format(Locale.ROOT, "%03d.sh", number++)),
                    line.getBytes(StandardCharsets.UTF_8));
        }
        Path script = work.resolve("parallel.sh");
        Documents.replace(
                script,
                ("ls " + SideBySide.quoted(folder) + "/*.sh | xargs -P 2 -n 1 sh -e\n")
                        .getBytes(StandardCharsets.UTF_8));
        return SideBySide.seconds(script, engine);
    }

    private void oneLongClip() throws Exception {
        Path card = Documents.ensureFolder(work.resolve("long/Card"));
        Path file = card.resolve("LONG.mov");
        engine.run(List.of(
                "-f",
                "lavfi",
                "-i",
                "testsrc2=size=1920x1080:rate=25,noise=alls=8:allf=t",
                "-frames:v",
                Integer.toString(LONG_FRAMES),
                "-c:v",
                "libx264",
                "-preset",
                "ultrafast",
                "-pix_fmt",
                "yuv420p",
                "file:" + file));
        double[] bare = new double[rounds];
        double[] ours = new double[rounds];
        double[] whole = new double[rounds];
        for (int round = 0; round < rounds; round++) {
            Path place = work.resolve("long-" + round);
            try (Project project = Project.open(place, engine, InstantSource.system())) {
                project.addArrival(card, ScanListener.none(), new Cancellation());
                project.plans().choose(project.clips(), Optional.of(List.of(Recipe.LIGHT_PRORES_HALF)));
                List<List<CopyOrder>> groups =
                        groups(project.plans().loadSheet().wanted());
                bare[round] = parallel(groups);
                project.plans().enqueue(project.plans().loadSheet());
                long start = System.nanoTime();
                try (Project.LockedRun run =
                        project.startRun(Terms.fixed(1), () -> {}).orElseThrow()) {
                    if (!run.run().awaitEnd(Duration.ofMinutes(30))) {
                        throw new IllegalStateException("the run did not end");
                    }
                    whole[round] = (System.nanoTime() - start) / 1e9;
                    ours[round] = project.report(run.run().started())
                            .lines()
                            .getFirst()
                            .makingSeconds();
                }
            }
        }
        SideBySide.tell("one long clip, one copy", ours, bare, 1.03);
        SideBySide.tell("  with its check", whole, bare, Double.POSITIVE_INFINITY);
    }
}
