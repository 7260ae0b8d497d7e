package docksort.project;

import static org.assertj.core.api.Assertions.assertThat;

import docksort.FormatMatrix;
import docksort.FormatMatrix.Case;
import docksort.FrameNumbers;
import docksort.Recorder;
import docksort.WithMedia;
import docksort.arrival.ArrivalId;
import docksort.arrival.Clip;
import docksort.arrival.ClipId;
import docksort.arrival.ScanListener;
import docksort.catalogue.CopyState;
import docksort.catalogue.WorkingCopy;
import docksort.engine.Cancellation;
import docksort.engine.CopyMaker;
import docksort.engine.CopyOrder;
import docksort.engine.FrameSamples;
import docksort.engine.FrameSamples.Sample;
import docksort.engine.Inspection;
import docksort.engine.Inspector;
import docksort.engine.MediaEngine;
import docksort.engine.ProcessControl;
import docksort.media.ClipSource;
import docksort.media.Fingerprint;
import docksort.media.FrameRange;
import docksort.media.FrameRate;
import docksort.media.Rational;
import docksort.media.VideoFacts;
import docksort.media.Wrapper;
import docksort.run.RunLine;
import docksort.run.Terms;
import docksort.sort.Circumstances;
import docksort.sort.CopyKind;
import docksort.sort.Encoding;
import docksort.sort.Placing;
import docksort.sort.Recipe;
import docksort.sort.Scaling;
import docksort.sort.SortBook;
import docksort.strain.TimelineFormat;
import java.io.ByteArrayInputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.Consumer;
import java.util.stream.Collectors;
import java.util.stream.LongStream;
import javax.sound.sampled.AudioSystem;
import org.assertj.core.api.SoftAssertions;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/// Every frame of these clips carries its number, see [FrameNumbers]. A copy is true when the numbers
/// read back from it are those of the original, at both ends and at ten frames between.
@WithMedia
class FrameExactTest {
    private static final int FRAMES = 120;
    private static final Fingerprint FINGERPRINT = new Fingerprint(1, "0".repeat(32));

    @TempDir
    Path folder = Path.of("");

    private final MediaEngine engine = MediaEngine.locate();

    @AfterEach
    void close() {
        engine.close();
    }

    private void shoot(String name, String size, String rate, String after, String... encoder)
            throws InterruptedException {
        var line = new ArrayList<String>(List.of("-f", "lavfi", "-i", "testsrc2=size=" + size + ":rate=" + rate));
        line.addAll(List.of("-frames:v", Integer.toString(FRAMES), "-vf", FrameNumbers.painted() + after));
        line.addAll(List.of(encoder));
        line.add("file:" + folder.resolve("volume/card/" + name));
        engine.run(line);
    }

    @Test
    void everyCopyShowsTheFramesOfItsOriginal() throws Exception {
        Files.createDirectories(folder.resolve("volume/card"));
        shoot("long.mov", "640x360", "25", "", "-c:v", "libx264", "-g", "50", "-bf", "3", "-pix_fmt", "yuv420p");
        shoot("open.mp4", "640x360", "30000/1001", "", "-c:v", "libx264", "-g", "30", "-x264-params", "open-gop=1");
        shoot(
                "deep.mov",
                "480x270",
                "24000/1001",
                "",
                "-c:v",
                "libx265",
                "-pix_fmt",
                "yuv420p10le",
                "-x265-params",
                "log-level=none:keyint=48:bframes=4",
                "-tag:v",
                "hvc1");
        shoot("fast.mov", "640x360", "100", "", "-c:v", "libx264", "-g", "100", "-pix_fmt", "yuv420p");
        shoot("odd.mkv", "641x359", "25", "", "-c:v", "ffv1", "-pix_fmt", "yuv444p");
        shoot("woven.mov", "720x576", "25", ",setfield=tff", "-c:v", "mpeg2video", "-q:v", "3", "-flags", "+ildct");
        shoot("wide.mov", "720x576", "25", ",setsar=64/45", "-c:v", "mjpeg", "-q:v", "3");
        shoot("film.mxf", "640x360", "24", "", "-c:v", "mpeg2video", "-q:v", "3", "-bf", "2", "-g", "12");
        shoot("late.mp4", "640x360", "25", "", "-c:v", "libx264", "-bf", "2", "-output_ts_offset", "1.5");
        shoot("turned.mov", "640x360", "25", "", "-c:v", "libx264", "-pix_fmt", "yuv420p", "-movflags", "+faststart");
        List<Recipe> recipes = List.of(
                recipe("proxy", CopyKind.LIGHT, Encoding.PRORES_PROXY, Wrapper.MOV, new Scaling.PerSide(2)),
                recipe("full", CopyKind.FULL, Encoding.PRORES_422, Wrapper.MOV, new Scaling.Full()),
                recipe("review", CopyKind.LIGHT, Encoding.H264_LONG, Wrapper.MP4, new Scaling.Full()));
        var random = new Random(5);
        try (Project project = Project.open(folder.resolve("project"), engine, InstantSource.system())) {
            List<WorkingCopy> copies = made(
                    project,
                    recipes,
                    line -> assertThat(line.together())
                            .as("three copies of a clip come from one decode")
                            .isEqualTo(3));
            Map<?, Clip> clips = project.clips().stream().collect(Collectors.toMap(Clip::id, clip -> clip));
            assertThat(copies).hasSize(30);
            for (WorkingCopy copy : copies) {
                assertThat(copy.state()).as("%s: %s", copy.file(), copy.note()).isEqualTo(CopyState.READY);
                Clip clip = Objects.requireNonNull(clips.get(copy.clip()));
                FrameRate rate = clip.facts().video().orElseThrow().rate();
                var frames = new TreeSet<>(List.of(0L, FRAMES - 1L));
                random.longs(10, 1, FRAMES - 1).forEach(frames::add);
                assertThat(FrameNumbers.of(copy.file(), rate, List.copyOf(frames), engine))
                        .as("%s", copy.file())
                        .isEqualTo(frames.stream().map(Long::intValue).toList());
            }
        }
    }

    /// Rates that vary are conformed: there a frame of the copy shows what the original shows at that time.
    @Test
    void everyKindOfClipIsCopiedFrameForFrame() throws Exception {
        Path card = Files.createDirectories(folder.resolve("volume/card"));
        Map<String, Case> cases = new HashMap<>();
        for (Case one : FormatMatrix.cases()) {
            FormatMatrix.make(one, card, engine);
            cases.put(one.name(), one);
        }
        List<Recipe> recipes = List.of(
                recipe("proxy", CopyKind.LIGHT, Encoding.PRORES_PROXY, Wrapper.MOV, new Scaling.PerSide(2)),
                recipe("full", CopyKind.FULL, Encoding.PRORES_HQ, Wrapper.MOV, new Scaling.Full()));
        var random = new Random(7);
        try (Project project = Project.open(folder.resolve("project"), engine, InstantSource.system())) {
            List<WorkingCopy> copies = made(project, recipes, _ -> {});
            Map<?, Clip> clips = project.clips().stream().collect(Collectors.toMap(Clip::id, clip -> clip));
            assertThat(copies).hasSize(2 * cases.size());
            var softly = new SoftAssertions();
            for (WorkingCopy copy : copies) {
                Clip clip = Objects.requireNonNull(clips.get(copy.clip()));
                Case one = Objects.requireNonNull(
                        cases.get(clip.source().head().getFileName().toString()));
                softly.assertThat(copy.state())
                        .as("%s: %s", copy.file(), copy.note())
                        .isEqualTo(CopyState.READY);
                if (copy.state() != CopyState.READY) {
                    continue;
                }
                VideoFacts picture = clip.facts().video().orElseThrow();
                long last = picture.frames().count() - 1;
                var frames = new TreeSet<>(List.of(0L, last));
                random.longs(10, 0, last).forEach(frames::add);
                List<Integer> found = FrameNumbers.of(copy.file(), picture.rate(), List.copyOf(frames), engine);
                List<Integer> wanted = one.wants("vfr")
                        ? shown(clip, frames)
                        : frames.stream().map(Long::intValue).toList();
                softly.assertThat(found).as("%s", copy.file()).isEqualTo(wanted);
            }
            softly.assertAll();
        }
    }

    @Test
    void aClipInManyFilesIsCopiedFrameForFrame() throws Exception {
        Path card = Files.createDirectories(folder.resolve("volume/card"));
        part("C0001.mov", 0, 50, "10:00:00:00");
        part("C0002.mov", 50, 90, "10:00:02:00");
        part("C0003.mov", 90, FRAMES, "10:00:03:15");
        Recorder.fillUp(card.resolve("C0001.mov"), (1L << 32) - 20_000_000);
        Recorder.fillUp(card.resolve("C0002.mov"), (1L << 32) - 10_000_000);
        shoot("still_%03d.png", "320x180", "25", "", "-start_number", "1", "-c:v", "png");
        List<Recipe> recipes = List.of(
                recipe("proxy", CopyKind.LIGHT, Encoding.PRORES_PROXY, Wrapper.MOV, new Scaling.PerSide(2)),
                recipe("full", CopyKind.FULL, Encoding.PRORES_422, Wrapper.MOV, new Scaling.Full()));
        try (Project project = Project.open(folder.resolve("project"), engine, InstantSource.system())) {
            project.arrivals().add(card, ScanListener.none(), new Cancellation());
            assertThat(project.clips()).hasSize(2);
            project.arrivals()
                    .readAt(
                            project.clips().stream()
                                    .filter(clip -> clip.facts().isRateOpen())
                                    .toList(),
                            FrameRate.FPS_25);
            List<WorkingCopy> copies = run(project, recipes, _ -> {});
            assertThat(copies).hasSize(4);
            List<Long> all = LongStream.range(0, FRAMES).boxed().toList();
            for (WorkingCopy copy : copies) {
                assertThat(copy.state()).as("%s: %s", copy.file(), copy.note()).isEqualTo(CopyState.READY);
                assertThat(FrameNumbers.of(copy.file(), FrameRate.FPS_25, all, engine))
                        .as("%s", copy.file())
                        .isEqualTo(all.stream().map(Long::intValue).toList());
            }
        }
    }

    private void part(String name, int from, int to, String timecode) throws InterruptedException {
        String cut = ",trim=start_frame=%d:end_frame=%d,setpts=PTS-STARTPTS".formatted(from, to);
        shoot(name, "640x360", "25", cut, "-c:v", "libx264", "-g", "25", "-bf", "2", "-timecode", timecode);
    }

    /// The number on what the original shows when a frame of its conformed copy begins, to the nearest
    /// frame, by the time stamps of its decoded frames.
    private List<Integer> shown(Clip clip, Set<Long> frames) throws Exception {
        Path file = clip.source().head();
        FrameRate rate = clip.facts().video().orElseThrow().rate();
        var reader = new ProcessBuilder(
                        engine.ffprobeProgram().toString(),
                        "-v",
                        "error",
                        "-select_streams",
                        "v:0",
                        "-show_entries",
                        "frame=best_effort_timestamp_time",
                        "-of",
                        "csv=p=0",
                        file.toString())
                .redirectError(ProcessBuilder.Redirect.DISCARD);
        reader.environment()
                .put("LD_LIBRARY_PATH", String.valueOf(engine.ffprobeProgram().getParent()));
        List<Rational> times = new String(reader.start().getInputStream().readAllBytes(), StandardCharsets.UTF_8)
                .lines()
                .filter(line -> !line.isBlank())
                .map(line -> Rational.parse(line.split(",", 2)[0]))
                .toList();
        List<Integer> numbers = FrameNumbers.of(
                file, rate, LongStream.range(0, times.size()).boxed().toList(), engine);
        assertThat(numbers).as("frames of %s", file).hasSameSizeAs(times);
        return frames.stream()
                .map(frame -> {
                    int at = 0;
                    while (at + 1 < times.size()
                            && times.get(at + 1)
                                            .minus(times.getFirst())
                                            .times(rate.exact())
                                            .rounded()
                                    <= frame) {
                        at++;
                    }
                    return numbers.get(at);
                })
                .toList();
    }

    private List<WorkingCopy> made(Project project, List<Recipe> recipes, Consumer<RunLine> each)
            throws InterruptedException {
        project.arrivals().add(folder.resolve("volume/card"), ScanListener.none(), new Cancellation());
        return run(project, recipes, each);
    }

    private static List<WorkingCopy> run(Project project, List<Recipe> recipes, Consumer<RunLine> each)
            throws InterruptedException {
        project.book().change(new SortBook(recipes, List.of(), false), "test");
        project.plans().choose(project.clips(), Optional.of(recipes));
        project.queue().enqueue(project.plans().loadSheet());
        try (var run = project.runs().start(Terms.fixed(2), () -> {}).orElseThrow()) {
            assertThat(run.run().awaitEnd(Duration.ofMinutes(10))).isTrue();
            project.runs().report(run.run().started()).lines().forEach(each);
        }
        return project.stocktaking().lines().stream()
                .flatMap(line -> line.copies().stream())
                .toList();
    }

    private static Recipe recipe(String id, CopyKind kind, Encoding encoding, Wrapper wrapper, Scaling scaling) {
        return Recipe.of(id, id, kind, encoding, wrapper, scaling).placed("{clip}_{recipe}", Placing.ONE_FOLDER);
    }

    /// A white frame and a click at the same moment, every second; also where frames come irregularly and
    /// are conformed, and where there is sound before the first of them.
    @Test
    void aClickStaysWithItsFlashToHalfAFrame() throws Exception {
        Files.createDirectories(folder.resolve("volume/card"));
        sounding("even.mov", 0, "", "-c:v", "libx264", "-g", "50", "-c:a", "pcm_s16le");
        sounding("aac.mp4", 0, "", "-c:v", "libx264", "-g", "50", "-c:a", "aac", "-b:a", "192k");
        // Every third frame is missing for a while: the rate varies.
        sounding(
                "varying.mp4",
                0,
                ",select='not(between(t\\,1.1\\,1.9)*eq(mod(n\\,3)\\,1))'",
                "-fps_mode",
                "vfr",
                "-c:v",
                "libx264",
                "-c:a",
                "aac",
                "-b:a",
                "192k");
        // The picture begins after the sound.
        for (String name : List.of("late.mov", "late.ts", "late.mkv")) {
            sounding(name, 0.2, ",select='gte(n\\,5)'", "-fps_mode", "passthrough", "-c:v", "libx264", "-c:a", "aac");
        }
        List<Recipe> recipes = List.of(
                recipe("proxy", CopyKind.LIGHT, Encoding.PRORES_PROXY, Wrapper.MOV, new Scaling.PerSide(2)),
                recipe("review", CopyKind.LIGHT, Encoding.H264_LONG, Wrapper.MP4, new Scaling.Full()));
        try (Project project = Project.open(folder.resolve("project"), engine, InstantSource.system())) {
            List<WorkingCopy> copies = made(project, recipes, _ -> {});
            assertThat(copies).hasSize(12);
            for (WorkingCopy copy : copies) {
                assertThat(copy.state()).as("%s: %s", copy.file(), copy.note()).isEqualTo(CopyState.READY);
                List<Double> flashes = flashes(copy.file());
                List<Double> clicks = clicks(copy.file());
                assertThat(flashes).as("%s", copy.file()).hasSize(4);
                assertThat(clicks).as("%s", copy.file()).hasSize(4);
                for (int i = 0; i < 4; i++) {
                    assertThat(clicks.get(i) - flashes.get(i))
                            .as("%s, flash %d at %s", copy.file(), i, flashes.get(i))
                            .isBetween(-0.5 / 25, 0.5 / 25);
                }
            }
        }
    }

    /// A stretch of a clip as the engine makes it, without a project around it.
    private Path stretch(Path original, FrameRange range) throws InterruptedException {
        var source = new ClipSource.SingleFile(original);
        var facts = (Inspection.Known) new Inspector(engine).inspect(source, FrameRate.FPS_25, new Cancellation());
        var clip = new Clip(ClipId.fresh(), ArrivalId.fresh(), source, facts.facts(), FINGERPRINT);
        Recipe recipe = recipe("part", CopyKind.RANGE, Encoding.PRORES_422, Wrapper.MOV, new Scaling.Full());
        Recipe.Resolution resolution = recipe.resolve(clip, Circumstances.of(TimelineFormat.HD_25), Optional.of(range));
        assertThat(resolution).as("%s", original).isInstanceOf(Recipe.Resolution.Possible.class);
        Path copy = folder.resolve(original.getFileName() + "-part.mov");
        var order = new CopyOrder(
                source, facts.facts(), ((Recipe.Resolution.Possible) resolution).form(), "part", Map.of(), copy);
        assertThat(new CopyMaker(engine).make(List.of(order), (_, _) -> {}, ProcessControl.of(new Cancellation())))
                .as("%s", original)
                .isInstanceOf(CopyMaker.Outcome.Written.class);
        return copy;
    }

    @Test
    void aRangeOfEveryKindOfClipBeginsWithItsFrame() throws Exception {
        Path card = Files.createDirectories(folder.resolve("volume/card"));
        var softly = new SoftAssertions();
        for (Case one : FormatMatrix.cases()) {
            if (one.wants("vfr")) {
                continue; // there a range has no fixed frames, and none is made
            }
            int first = one.frames() / 2;
            Path copy = stretch(FormatMatrix.make(one, card, engine), new FrameRange(first, 4));
            softly.assertThat(FrameNumbers.of(copy, FrameRate.parse(one.rate()), List.of(0L, 1L, 2L, 3L), engine))
                    .as(one.name())
                    .isEqualTo(List.of(first, first + 1, first + 2, first + 3));
        }
        softly.assertAll();
    }

    /// Longer than the moment before a frame at which a jump without an index aims.
    @Test
    void aRangeFarIntoAStreamWithoutAnIndexBeginsWithItsFrameAndItsSound() throws Exception {
        Path card = Files.createDirectories(folder.resolve("volume/card"));
        for (double late : new double[] {0, 0.4}) {
            Path file = card.resolve("far-" + late + ".ts");
            engine.run(List.of(
                    "-itsoffset",
                    Double.toString(late),
                    "-f",
                    "lavfi",
                    "-i",
                    "testsrc2=size=192x108:rate=25:duration=40," + FrameNumbers.painted(),
                    "-f",
                    "lavfi",
                    "-i",
                    "sine=sample_rate=48000:duration=40",
                    "-c:v",
                    "libx264",
                    "-g",
                    "50",
                    "-bf",
                    "2",
                    "-c:a",
                    "mp2",
                    "file:" + file));
            for (int first : List.of(1, 200, 480, 800)) {
                assertThat(FrameNumbers.of(
                                stretch(file, new FrameRange(first, 3)), FrameRate.FPS_25, List.of(0L, 1L, 2L), engine))
                        .as("frame %d, picture %s s late", first, late)
                        .isEqualTo(List.of(first, first + 1, first + 2));
            }
        }
        for (String name : List.of("late.mov", "late.ts", "late.mkv")) {
            sounding(name, 0.2, ",select='gte(n\\,5)'", "-fps_mode", "passthrough", "-c:v", "libx264", "-c:a", "aac");
            // Two flashes lie in it, at frames 30 and 55 of the clip.
            Path copy = stretch(card.resolve(name), new FrameRange(20, 50));
            List<Double> flashes = flashes(copy);
            List<Double> clicks = clicks(copy);
            assertThat(flashes).as(name).hasSize(2);
            assertThat(clicks).as(name).hasSize(2);
            for (int i = 0; i < 2; i++) {
                assertThat(clicks.get(i) - flashes.get(i))
                        .as("%s, flash %d", name, i)
                        .isBetween(-0.5 / 25, 0.5 / 25);
            }
        }
    }

    /// @param late seconds that the picture begins after the sound
    private void sounding(String name, double late, String after, String... encoder) throws InterruptedException {
        var line = new ArrayList<String>(List.of(
                "-itsoffset",
                Double.toString(late),
                "-f",
                "lavfi",
                "-i",
                "color=c=black:size=640x360:rate=25:duration=4.4,drawbox=color=white:t=fill:enable='eq(mod(n\\,25)\\,10)'"
                        + after,
                "-f",
                "lavfi",
                "-i",
                "aevalsrc='if(lt(mod(t-0.4+4,1),0.004),0.9*sin(2*PI*1000*t),0)':s=48000:d=4.4"));
        line.addAll(List.of(encoder));
        line.add("file:" + folder.resolve("volume/card/" + name));
        engine.run(line);
    }

    /// Seconds at which the picture turns white.
    private List<Double> flashes(Path file) throws InterruptedException {
        var source = new ClipSource.SingleFile(file);
        var facts = (Inspection.Known) new Inspector(engine).inspect(source, FrameRate.FPS_25, new Cancellation());
        double rate = facts.facts().video().orElseThrow().rate().exact().toDouble();
        List<Long> all = LongStream.range(0, 110).boxed().toList();
        List<Sample> samples = new FrameSamples(engine)
                .whole(source, FrameRate.FPS_25, all, Optional.empty(), ProcessControl.of(new Cancellation()))
                .orElseThrow()
                .samples();
        var found = new ArrayList<Double>();
        for (int i = 1; i < samples.size(); i++) {
            if (samples.get(i).at(0) > 127 && samples.get(i - 1).at(0) <= 127) {
                found.add(i / rate);
            }
        }
        return found;
    }

    /// Seconds at which the sound rises above a fifth of its most.
    private List<Double> clicks(Path file) throws Exception {
        Path wav = folder.resolve("clicks.wav");
        engine.run(List.of(
                "-i", "file:" + file, "-map", "0:a:0", "-ac", "1", "-ar", "48000", "-c:a", "pcm_s16le", "file:" + wav));
        var found = new ArrayList<Double>();
        try (var in = AudioSystem.getAudioInputStream(new ByteArrayInputStream(Files.readAllBytes(wav)))) {
            byte[] bytes = in.readAllBytes();
            int quiet = 24_000;
            for (int i = 0; i + 1 < bytes.length; i += 2) {
                int sample = Math.abs((short) ((bytes[i] & 0xFF) | (bytes[i + 1] << 8)));
                if (sample > 6_500 && quiet > 12_000) {
                    found.add(i / 96_000.0);
                }
                quiet = sample > 6_500 ? 0 : quiet + 1;
            }
        }
        return found;
    }
}
