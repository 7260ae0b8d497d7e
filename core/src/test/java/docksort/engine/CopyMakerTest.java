package docksort.engine;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import docksort.Clips;
import docksort.Footage;
import docksort.WithMedia;
import docksort.media.ClipFacts;
import docksort.media.ClipSource;
import docksort.media.CopyForm;
import docksort.media.FrameRate;
import docksort.media.Raster;
import docksort.media.VideoFacts;
import docksort.media.VideoTarget;
import docksort.media.Wrapper;
import docksort.run.CopyCheck;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/// Copies by the real encoder, held against the figures that are predicted and shown before anything runs.
@WithMedia
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class CopyMakerTest {
    private static final FrameRate RATE = FrameRate.FPS_25;

    @TempDir
    static Path folder = Path.of("");

    private final MediaEngine engine = MediaEngine.locate();

    @AfterAll
    void close() {
        engine.close();
    }

    private ClipFacts facts(Path file) throws InterruptedException {
        var inspection = new Inspector(engine).inspect(new ClipSource.SingleFile(file), RATE, new Cancellation());
        return ((Inspection.Known) inspection).facts();
    }

    private ClipFacts copied(Path original, VideoTarget target, Raster raster, Map<String, String> tags)
            throws InterruptedException {
        ClipFacts facts = facts(original);
        Path copy = folder.resolve("copy.mov");
        var order = new CopyOrder(
                new ClipSource.SingleFile(original), facts, Clips.form(facts, target, raster), "copy", tags, copy);
        assertThat(new CopyMaker(engine).make(List.of(order), (_, _) -> {}, ProcessControl.of(new Cancellation())))
                .isInstanceOf(CopyMaker.Outcome.Written.class);
        return facts(copy);
    }

    /// Expected bytes: SMPTE ST 2019-1, from memory.
    @ParameterizedTest
    @CsvSource({
        "VC3_LB, 256, 120, progressive, 8192",
        "VC3_LB, 960, 540, progressive, 49152",
        "VC3_LB, 1280, 720, progressive, 81920",
        "VC3_LB, 1440, 1080, progressive, 143360",
        "VC3_LB, 1920, 1080, progressive, 188416",
        "VC3_LB, 2048, 858, progressive, 159744",
        "VC3_LB, 3840, 2160, progressive, 749568",
        "VC3_SQ, 256, 120, progressive, 8192",
        "VC3_SQ, 960, 540, progressive, 151552",
        "VC3_SQ, 1280, 720, progressive, 266240",
        "VC3_SQ, 1440, 1080, progressive, 454656",
        "VC3_SQ, 1920, 1080, progressive, 606208",
        "VC3_SQ, 2048, 858, progressive, 512000",
        "VC3_SQ, 3840, 2160, progressive, 2408448",
        "VC3_HQ, 256, 120, progressive, 16384",
        "VC3_HQ, 960, 540, progressive, 229376",
        "VC3_HQ, 1280, 720, progressive, 405504",
        "VC3_HQ, 1440, 1080, progressive, 688128",
        "VC3_HQ, 1920, 1080, progressive, 917504",
        "VC3_HQ, 2048, 858, progressive, 778240",
        "VC3_HQ, 3840, 2160, progressive, 3641344",
        "VC3_HQX, 256, 120, progressive, 16384",
        "VC3_HQX, 960, 540, progressive, 229376",
        "VC3_HQX, 1280, 720, progressive, 405504",
        "VC3_HQX, 1440, 1080, progressive, 688128",
        "VC3_HQX, 1920, 1080, progressive, 917504",
        "VC3_HQX, 2048, 858, progressive, 778240",
        "VC3_HQX, 3840, 2160, progressive, 3641344",
        "VC3_444, 256, 120, progressive, 28672",
        "VC3_444, 960, 540, progressive, 458752",
        "VC3_444, 1280, 720, progressive, 811008",
        "VC3_444, 1440, 1080, progressive, 1376256",
        "VC3_444, 1920, 1080, progressive, 1835008",
        "VC3_444, 2048, 858, progressive, 1552384",
        "VC3_444, 3840, 2160, progressive, 7286784",
        "VC3_HD, 1920, 1080, progressive, 917504",
        "VC3_HD_X, 1920, 1080, progressive, 917504",
        "VC3_HD, 1920, 1080, tff, 917504",
        "VC3_HD_X, 1920, 1080, tff, 917504",
        "VC3_HD, 1280, 720, progressive, 458752",
        "VC3_HD_X, 1280, 720, progressive, 458752",
        "VC3_HD_LOW, 1920, 1080, progressive, 188416",
        "VC3_HD_MIDDLE, 1920, 1080, progressive, 606208",
        "VC3_HD_MIDDLE, 1920, 1080, tff, 606208",
        "VC3_HD_MIDDLE, 1280, 720, progressive, 303104"
    })
    void theRealEncoderMakesFramesOfThePredictedSize(VideoTarget target, int width, int height, String scan, long bytes)
            throws InterruptedException {
        boolean interlaced = scan.equals("tff");
        Path original = interlaced
                ? new Footage(engine)
                        .clip(
                                folder.resolve("i.mov"),
                                width + "x" + height,
                                "25",
                                4,
                                "-vf",
                                "setfield=tff",
                                "-c:v",
                                "prores_ks",
                                "-pix_fmt",
                                "yuv422p10le",
                                "-flags",
                                "+ildct")
                : new Footage(engine)
                        .clip(
                                folder.resolve("p.mov"),
                                width + "x" + height,
                                "25",
                                4,
                                "-c:v",
                                "mjpeg",
                                "-pix_fmt",
                                "yuvj420p");
        VideoFacts copy = copied(original, target, new Raster(width, height), Map.of())
                .video()
                .orElseThrow();
        assertThat(target.vc3FrameBytes(new Raster(width, height))).isEqualTo(bytes);
        assertThat(copy.structure().frames())
                .hasSize(4)
                .allSatisfy(frame -> assertThat((long) frame.bytes()).isEqualTo(bytes));
        assertThat(copy.pixels().bitDepth()).isEqualTo(target.bitDepth());
        assertThat(isInterlaced(folder.resolve("copy.mov")))
                .as("by decoding a frame: MOV states no scan for VC-3")
                .isEqualTo(interlaced);
    }

    private boolean isInterlaced(Path file) throws InterruptedException {
        var said = new ArrayList<String>();
        try {
            engine.probe(
                    List.of(
                            "-v",
                            "error",
                            "-select_streams",
                            "v",
                            "-read_intervals",
                            "%+#1",
                            "-show_entries",
                            "frame=interlaced_frame",
                            "-of",
                            "csv=p=0",
                            "file:" + file),
                    ChildProcesses.OutputReader.lines(said::add),
                    new Cancellation());
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        return said.getFirst().startsWith("1");
    }

    @Test
    void aCopyTellsOfItselfAndKeepsReelAspectTimecodeAndColour() throws InterruptedException {
        Path original = new Footage(engine)
                .clip(
                        folder.resolve("tagged.mov"),
                        "720x576",
                        "25",
                        5,
                        "-vf",
                        "setsar=64/45,setparams=color_primaries=bt709:color_trc=bt709:colorspace=bt709",
                        "-c:v",
                        "mpeg2video",
                        "-timecode",
                        "10:00:00:00",
                        "-metadata:s:v:0",
                        "reel_name=N01");
        ClipFacts made = copied(
                original,
                VideoTarget.PRORES_PROXY,
                new Raster(360, 288),
                Map.of("docksort.source", "5-" + "a".repeat(32)));
        assertThat(made.reel()).contains("N01");
        VideoFacts video = made.video().orElseThrow();
        assertThat(video.pixelAspect()).hasToString("64/45");
        assertThat(video.colour().primaries()).isEqualTo("bt709");
        assertThat(made.startTimecode().orElseThrow()).hasToString("10:00:00:00");
        assertThat(made.tags()).containsEntry("docksort.source", "5-" + "a".repeat(32));
    }

    @Test
    void aTurnedClipIsMadeUpright() throws InterruptedException {
        Path lying = new Footage(engine).clip(folder.resolve("lying.mov"), "640x360", "25", 5, "-c:v", "libx264");
        Path turned = folder.resolve("turned.mov");
        engine.run(List.of("-display_rotation", "90", "-i", "file:" + lying, "-c", "copy", "file:" + turned));
        assertThat(facts(turned).video().orElseThrow().rotationDegrees()).isEqualTo(270);
        VideoFacts copy = copied(turned, VideoTarget.VC3_LB, new Raster(360, 640), Map.of())
                .video()
                .orElseThrow();
        assertThat(copy.raster()).hasToString("360×640");
        assertThat(copy.rotationDegrees()).isZero();
    }

    @Test
    void copiesFromOneDecodeAreTheSameAsCopiesMadeAlone() throws Exception {
        Path original = new Footage(engine)
                .clip(folder.resolve("both.mov"), "1280x720", "25", 30, "-c:v", "libx264", "-pix_fmt", "yuv420p");
        ClipFacts facts = facts(original);
        List<CopyOrder> together = List.of(
                order(original, facts, VideoTarget.VC3_HD, new Raster(1280, 720), "full.mov"),
                order(original, facts, VideoTarget.VC3_LB, new Raster(640, 360), "light.mov"));
        assertThat(CopyCommand.goTogether(together.get(0), together.get(1))).isTrue();
        assertThat(new CopyMaker(engine).make(together, (_, _) -> {}, ProcessControl.of(new Cancellation())))
                .isInstanceOf(CopyMaker.Outcome.Written.class);
        for (CopyOrder order : together) {
            byte[] made = Files.readAllBytes(order.output());
            assertThat(new CopyMaker(engine).make(List.of(order), (_, _) -> {}, ProcessControl.of(new Cancellation())))
                    .isInstanceOf(CopyMaker.Outcome.Written.class);
            assertThat(Files.readAllBytes(order.output()))
                    .as("%s", order.output())
                    .isEqualTo(made);
        }
        assertThat(CopyCommand.arguments(together, Optional.empty(), 4))
                .as("the cap is of the one input")
                .containsSequence("-readrate", "4")
                .containsOnlyOnce("-i");
    }

    /// The engine's MXF leaves out frames that have no sound, and sound that has no frame.
    @ParameterizedTest
    @CsvSource({"1, 30000/1001", "4, 30000/1001", "1, 25", "4, 25"})
    void soundThatIsShorterOrLongerTakesNoFrameFromMxf(int seconds, String rate) throws InterruptedException {
        Path original = folder.resolve("uneven.mov");
        engine.run(List.of(
                "-f",
                "lavfi",
                "-i",
                "testsrc2=size=256x144:rate=" + rate + ",trim=end_frame=53",
                "-f",
                "lavfi",
                "-i",
                "sine=sample_rate=44100:duration=" + seconds,
                "-c:v",
                "mjpeg",
                "-c:a",
                "pcm_s16le",
                "file:" + original));
        ClipFacts facts = facts(original);
        CopyForm form = Clips.form(facts, VideoTarget.VC3_LB, new Raster(256, 144), Wrapper.MXF);
        var order = new CopyOrder(
                new ClipSource.SingleFile(original), facts, form, "uneven", Map.of(), folder.resolve("uneven.mxf"));
        assertThat(new CopyMaker(engine).make(List.of(order), (_, _) -> {}, ProcessControl.of(new Cancellation())))
                .isInstanceOf(CopyMaker.Outcome.Written.class);
        ClipFacts made = facts(order.output());
        assertThat(made.video().orElseThrow().frames().count()).isEqualTo(53);
        assertThat(made.audio().getFirst().seconds().toDouble())
                .isCloseTo(FrameRate.parse(rate).secondsOf(53).toDouble(), within(0.001));
        assertThat(CopyCheck.check(facts, form, made).findings()).allMatch(CopyCheck.Finding::passes);
    }

    @Test
    void whatIsToldOutsideTheWindowIsNeverPartOfAScript() {
        String title = "the \"run\" is; over";
        assertThat(SystemNotice.command(file -> false, title, "$(ls)")).isEmpty();
        for (String program : List.of("/usr/bin/notify-send", "/usr/bin/osascript")) {
            assertThat(SystemNotice.command(Path.of(program)::equals, title, "$(ls)"))
                    .hasValueSatisfying(
                            line -> assertThat(line).startsWith(program).endsWith(title, "$(ls)"));
        }
    }

    private static CopyOrder order(Path original, ClipFacts facts, VideoTarget target, Raster raster, String name) {
        return new CopyOrder(
                new ClipSource.SingleFile(original),
                facts,
                Clips.form(facts, target, raster),
                "copy",
                Map.of(),
                folder.resolve(name));
    }

    /// A real engine with less room for memory than a picture of 3840x2160 in ProRes takes.
    @Test
    void anEngineThatIsRefusedMemoryIsToldFromOneThatFails() throws Exception {
        Path original = new Footage(engine)
                .clip(folder.resolve("uhd.mov"), "3840x2160", "25", 10, "-c:v", "mjpeg", "-pix_fmt", "yuvj422p");
        ClipFacts facts = facts(original);
        Path narrow = Files.createDirectories(folder.resolve("narrow"));
        Path ffmpeg = engine.ffmpegProgram().toAbsolutePath();
        for (String program : List.of("ffmpeg", "ffprobe")) {
            Path script = narrow.resolve(program);
            Files.writeString(
                    script,
                    "#!/bin/sh\nulimit -v 800000\nLD_LIBRARY_PATH=\"$(dirname '" + ffmpeg + "')\" exec '"
                            + ffmpeg.resolveSibling(program) + "' \"$@\"\n");
            assertThat(script.toFile().setExecutable(true)).isTrue();
        }
        try (MediaEngine refused = MediaEngine.inFolder(narrow)) {
            CopyOrder order = order(original, facts, VideoTarget.PRORES_422, new Raster(3840, 2160), "refused.mov");
            assertThat(new CopyMaker(refused).make(List.of(order), (_, _) -> {}, ProcessControl.of(new Cancellation())))
                    .isInstanceOfSatisfying(CopyMaker.Outcome.Failed.class, failed -> {
                        assertThat(failed.lack()).isEqualTo(CopyMaker.Lack.MEMORY);
                        assertThat(failed.problem().why()).isEqualTo("there was not enough memory");
                    });
        }
    }

    /// A volume that goes away between the look for it and the making is back when somebody asks why.
    @Test
    void anOriginalThatIsNotThereIsWhatACopyLacks() throws Exception {
        Path original = new Footage(engine).clip(folder.resolve("gone.mov"), "320x180", "25", 5, "-c:v", "mjpeg");
        ClipFacts facts = facts(original);
        Files.delete(original);
        CopyOrder order = order(original, facts, VideoTarget.PRORES_422, new Raster(320, 180), "copy.mov");
        assertThat(new CopyMaker(engine).make(List.of(order), (_, _) -> {}, ProcessControl.of(new Cancellation())))
                .isInstanceOfSatisfying(
                        CopyMaker.Outcome.Failed.class,
                        failed -> assertThat(failed.lack()).isEqualTo(CopyMaker.Lack.ORIGINAL));
        Path noMedia = Files.writeString(original, "no media");
        CopyOrder broken = order(noMedia, facts, VideoTarget.PRORES_422, new Raster(320, 180), "copy.mov");
        assertThat(new CopyMaker(engine).make(List.of(broken), (_, _) -> {}, ProcessControl.of(new Cancellation())))
                .isInstanceOfSatisfying(
                        CopyMaker.Outcome.Failed.class,
                        failed -> assertThat(failed.lack()).isEqualTo(CopyMaker.Lack.NOTHING));
    }

    @Test
    void cancellingEndsTheChildAtOnce() throws InterruptedException {
        Path original = new Footage(engine)
                .clip(folder.resolve("long.mov"), "1280x720", "25", 500, "-c:v", "libx264", "-preset", "ultrafast");
        ClipFacts facts = facts(original);
        var cancellation = new Cancellation();
        var order = new CopyOrder(
                new ClipSource.SingleFile(original),
                facts,
                Clips.form(facts, VideoTarget.VC3_HD, new Raster(1280, 720)),
                "cut",
                Map.of(),
                folder.resolve("cut.mov"));
        var outcome = new CopyMaker(engine)
                .make(
                        List.of(order),
                        (frames, _) -> {
                            if (frames > 0) {
                                cancellation.cancel();
                            }
                        },
                        ProcessControl.of(cancellation));
        assertThat(outcome).isEqualTo(new CopyMaker.Outcome.Cancelled());
        assertThat(ProcessHandle.current().descendants().filter(this::isAtWorkHere))
                .isEmpty();
    }

    private boolean isAtWorkHere(ProcessHandle child) {
        return child.isAlive() && child.info().commandLine().orElse("").contains(String.valueOf(folder.getFileName()));
    }
}
