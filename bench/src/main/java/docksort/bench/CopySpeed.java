package docksort.bench;

import docksort.arrival.Clip;
import docksort.arrival.ScanListener;
import docksort.engine.Cancellation;
import docksort.engine.CopyCommand;
import docksort.engine.CopyMaker;
import docksort.engine.CopyOrder;
import docksort.engine.MediaEngine;
import docksort.engine.ProcessControl;
import docksort.files.Documents;
import docksort.media.CopyForm;
import docksort.project.LockedRun;
import docksort.project.Project;
import docksort.run.RunLine;
import docksort.run.Terms;
import docksort.sort.PlannedCopy;
import docksort.sort.Recipe;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.logging.Level;
import java.util.logging.Logger;
import java.util.stream.Collectors;

/// Making copies against the best plain script: two ffmpeg at a time over the same list, one command for
/// each copy, with the same encoders and settings. Both are taken several times in turn in one run; what
/// is told are ratios of medians.
///
/// 1. A queue of 24 mixed clips with two copies each, once with two light copies (to cut with, and to
/// look at far away), once with a light and a full one. Ours is the making alone, by two workers as a run
/// does it; the whole run, with every check and the queue, is told beside it. 2. Long clips to one copy
/// each: one whose engine keeps all processors busy, by one worker, and one whose engine does not, which
/// is made in segments.
///
/// The best that one decode for both copies can do is told too: with the seconds of decoding D and of
/// both commands S it is 1 - D / S, since D of S is done twice.
public final class CopySpeed {
    private static final List<Recipe> TWO_LIGHT = List.of(Recipe.LIGHT_PRORES_HALF, Recipe.REVIEW);
    private static final List<Recipe> LIGHT_AND_FULL = List.of(Recipe.LIGHT_PRORES_HALF, Recipe.FULL_VC3);
    private static final int LONG_FRAMES = 1_500;

    private final Path work;
    private final int rounds;
    private final MediaEngine engine;
    private int scripts;

    private CopySpeed(Path work, int rounds, MediaEngine engine) {
        this.work = work;
        this.rounds = rounds;
        this.engine = engine;
    }

    /// @param args a work folder, rounds, and which of the two is wanted, both where nothing is said
    public static void main(String[] args) throws Exception {
        if (args.length < 2) {
            System.err.println("usage: CopySpeed WORK ROUNDS [mixed|long]");
            System.exit(2);
        }
        Logger.getLogger("").setLevel(Level.WARNING);
        try (MediaEngine engine = MediaEngine.locate()) {
            System.out.println(engine.version() + ", " + Runtime.getRuntime().availableProcessors() + " processors");
            var bench = new CopySpeed(
                    Documents.ensureFolder(Path.of(args[0])).toRealPath(), Integer.parseInt(args[1]), engine);
            String which = args.length > 2 ? args[2] : "";
            if (!which.equals("long")) {
                Path card = new MixedCard(engine).paint(bench.work.resolve("mixed/Card"));
                bench.mixed(card, "two light copies", TWO_LIGHT);
                bench.mixed(card, "a light and a full copy", LIGHT_AND_FULL);
            }
            if (!which.equals("mixed")) {
                bench.oneLongClip("H.264", H264, Terms.fixed(1), 1.03);
                bench.oneLongClip("CineForm", CINEFORM, Terms.fixed(2), 1);
            }
        }
    }

    private void mixed(Path card, String what, List<Recipe> recipes) throws Exception {
        double[] script = new double[rounds];
        double[] making = new double[rounds];
        double[] whole = new double[rounds];
        Map<String, double[]> checks = new TreeMap<>(); // seconds and frames of the last round, by recipe
        double decoding = 0;
        int count = 0;
        for (int round = 0; round < rounds; round++) {
            Path place = work.resolve("project-" + recipes.getLast().id() + "-" + round);
            try (Project project = Project.open(place, engine, InstantSource.system())) {
                project.arrivals().add(card, ScanListener.none(), new Cancellation());
                project.plans().choose(project.clips(), Optional.of(recipes));
                List<List<CopyOrder>> groups =
                        groups(project.plans().loadSheet().wanted());
                count = groups.size();
                script[round] = parallel(groups);
                if (round == 0) {
                    decoding = decoded(groups);
                }
                making[round] = made(groups);
                project.queue().enqueue(project.plans().loadSheet());
                long start = System.nanoTime();
                try (LockedRun run =
                        project.runs().start(Terms.fixed(2), () -> {}).orElseThrow()) {
                    if (!run.run().awaitEnd(Duration.ofMinutes(30))) {
                        throw new IllegalStateException("the run did not end");
                    }
                    whole[round] = (System.nanoTime() - start) / 1e9;
                    List<RunLine> lines =
                            project.runs().report(run.run().started()).lines();
                    if (lines.stream().anyMatch(line -> !line.state().equals("ready"))) {
                        throw new IllegalStateException("not all copies were made: " + lines);
                    }
                    checks.clear();
                    for (RunLine line : lines) {
                        double[] sum = checks.computeIfAbsent(line.recipe(), _ -> new double[2]);
                        sum[0] += line.checkingSeconds();
                        sum[1] += line.frames();
                    }
                }
            }
        }
        SideBySide.tell(count + " mixed clips, " + what + " each", making, script, 0.64);
        System.out.printf(
                Locale.ROOT,
                "  decoding alone, two at a time: %.1f s; one decode for both can do %.2f at best%n",
                decoding,
                1 - decoding / script[0]);
        SideBySide.tell("  the whole run with all checks", whole, script, 1.10);
        checks.forEach((recipe, sum) -> System.out.printf(
                Locale.ROOT,
                "  checks of %s, by two workers: %.1f s, %.2f ms a frame%n",
                recipe,
                sum[0],
                sum[0] * 1_000 / sum[1]));
    }

    /// Every clip decoded once and nothing made of it, two at a time.
    private double decoded(List<List<CopyOrder>> groups) throws IOException, InterruptedException {
        return typed(groups.stream()
                .map(group -> "-i "
                        + SideBySide.quoted("file:" + group.getFirst().source().head()) + " -map 0:V:0 -f null -")
                .toList());
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
                                new CopyMaker(engine).make(group, (_, _) -> {}, ProcessControl.of(new Cancellation()));
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
        return typed(groups.stream()
                .flatMap(List::stream)
                .map(order -> CopyCommand.arguments(order).stream()
                        .map(SideBySide::quoted)
                        .collect(Collectors.joining(" ")))
                .toList());
    }

    private double typed(List<String> commands) throws IOException, InterruptedException {
        Path folder = Documents.ensureFolder(work.resolve("typed-" + scripts++));
        int number = 0;
        for (String command : commands) {
            String line = SideBySide.quoted(engine.ffmpegProgram()) + " -nostdin -v error -y " + command + "\n";
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

    /// One engine keeps all processors busy with it.
    private static final List<String> H264 = List.of("-c:v", "libx264", "-preset", "ultrafast", "-pix_fmt", "yuv420p");

    /// It is decoded by few threads.
    private static final List<String> CINEFORM = List.of("-c:v", "cfhd", "-pix_fmt", "yuv422p10le");

    /// @param wanted ratio at most
    private void oneLongClip(String what, List<String> codec, Terms terms, double wanted) throws Exception {
        Path card = Documents.ensureFolder(work.resolve(what + "/Card"));
        Path file = card.resolve("LONG.mov");
        var line = new ArrayList<>(List.of("-f", "lavfi", "-i", "testsrc2=size=1920x1080:rate=25,noise=alls=8:allf=t"));
        line.addAll(List.of("-frames:v", Integer.toString(LONG_FRAMES)));
        line.addAll(codec);
        line.add("file:" + file);
        engine.run(line);
        double[] bare = new double[rounds];
        double[] ours = new double[rounds];
        double[] whole = new double[rounds];
        int segments = 0;
        for (int round = 0; round < rounds; round++) {
            Path place = work.resolve(what + "-" + round);
            try (Project project = Project.open(place, engine, InstantSource.system())) {
                project.arrivals().add(card, ScanListener.none(), new Cancellation());
                project.plans().choose(project.clips(), Optional.of(List.of(Recipe.LIGHT_PRORES_HALF)));
                List<List<CopyOrder>> groups =
                        groups(project.plans().loadSheet().wanted());
                bare[round] = parallel(groups);
                project.queue().enqueue(project.plans().loadSheet());
                long start = System.nanoTime();
                try (LockedRun run = project.runs().start(terms, () -> {}).orElseThrow()) {
                    if (!run.run().awaitEnd(Duration.ofMinutes(30))) {
                        throw new IllegalStateException("the run did not end");
                    }
                    whole[round] = (System.nanoTime() - start) / 1e9;
                    RunLine made =
                            project.runs().report(run.run().started()).lines().getFirst();
                    ours[round] = made.makingSeconds();
                    segments = made.segments();
                }
            }
        }
        SideBySide.tell("one long clip (" + what + ") to one copy, segments: " + segments, ours, bare, wanted);
        SideBySide.tell("  with its check", whole, bare, Double.POSITIVE_INFINITY);
        Files.delete(file);
    }
}
