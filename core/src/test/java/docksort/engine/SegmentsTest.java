package docksort.engine;

import static org.assertj.core.api.Assertions.assertThat;

import docksort.Clips;
import docksort.Footage;
import docksort.WithMedia;
import docksort.media.BurnIn;
import docksort.media.BurnIns;
import docksort.media.ClipFacts;
import docksort.media.ClipSource;
import docksort.media.CopyForm;
import docksort.media.FrameLines;
import docksort.media.FrameRange;
import docksort.media.FrameRate;
import docksort.media.Raster;
import docksort.media.Rational;
import docksort.media.VideoTarget;
import docksort.media.Wrapper;
import java.io.IOException;
import java.io.RandomAccessFile;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.api.parallel.Isolated;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.EnumSource;

/// Copies made in segments by the real engine, held against the same copies made in one piece.
@Isolated("looks at how busy processors are")
@WithMedia
class SegmentsTest {
    private static final int FRAMES = 75;
    private static final Idleness.Trial QUICK =
            new Idleness.Trial(Duration.ofMillis(100), Duration.ofMillis(600), Duration.ofMillis(700));

    @TempDir
    Path folder = Path.of("");

    private final MediaEngine engine = MediaEngine.locate();

    @AfterEach
    void close() {
        engine.close();
    }

    private ClipFacts facts(Path file) throws InterruptedException {
        var inspection =
                new Inspector(engine).inspect(new ClipSource.SingleFile(file), FrameRate.FPS_25, new Cancellation());
        return ((Inspection.Known) inspection).facts();
    }

    private static CopyOrder order(Path original, ClipFacts facts, CopyForm form, Path output) {
        return new CopyOrder(
                new ClipSource.SingleFile(original), facts, form, "A001", Map.of("docksort.source", "5-a"), output);
    }

    private void inOnePiece(CopyOrder... orders) throws InterruptedException {
        assertThat(new CopyMaker(engine).make(List.of(orders), (_, _) -> {}, ProcessControl.of(new Cancellation())))
                .isInstanceOf(CopyMaker.Outcome.Written.class);
    }

    private boolean inSegments(int number, CopyOrder... orders) throws InterruptedException {
        return new SegmentMaker(engine, List.of(orders), number, (_, _) -> {})
                .make(ProcessControl.of(new Cancellation()));
    }

    private List<String> files() throws IOException {
        try (Stream<Path> all = Files.list(folder)) {
            return all.map(file -> String.valueOf(file.getFileName())).sorted().toList();
        }
    }

    /// Frame numbers, times, sizes and checksums of what a file holds, as the engine's own muxer for that
    /// tells.
    private List<String> packets(Path file, String streams, boolean decoded) throws Exception {
        Path told = folder.resolve("told.txt");
        var line = new ArrayList<>(List.of("-i", "file:" + file, "-map", streams));
        line.addAll(decoded ? List.of() : List.of("-c", "copy"));
        line.addAll(List.of("-f", "framemd5", "-y", "file:" + told));
        engine.run(line);
        List<String> lines = Files.readAllLines(told);
        Files.delete(told);
        return lines;
    }

    @ParameterizedTest
    @EnumSource(
            value = VideoTarget.class,
            names = {"PRORES_PROXY", "PRORES_4444", "VC3_LB", "VC3_444", "MOTION_JPEG"})
    void theJoinedCopyIsTheSameFileAsTheOneMadeInOnePiece(VideoTarget target) throws Exception {
        Path original = new Footage(engine)
                .clipWithSound(
                        folder.resolve("long-gop.mov"),
                        "640x360",
                        "30000/1001",
                        FRAMES,
                        "-c:v",
                        "libx264",
                        "-g",
                        "12",
                        "-bf",
                        "2",
                        "-pix_fmt",
                        "yuv420p",
                        "-c:a",
                        "aac",
                        "-timecode",
                        "09:59:59;20",
                        "-metadata:s:v:0",
                        "reel_name=N01");
        ClipFacts facts = facts(original);
        CopyForm form = Clips.form(facts, target, new Raster(320, 180));
        Path copy = folder.resolve("copy.mov");
        inOnePiece(order(original, facts, form, copy));
        byte[] whole = Files.readAllBytes(copy);

        assertThat(inSegments(3, order(original, facts, form, copy))).isTrue();

        assertThat(Files.readAllBytes(copy)).isEqualTo(whole);
        assertThat(files()).containsExactly("copy.mov", "long-gop.mov");
    }

    /// Parts of 30, 50 and 40 frames, in halves: a stretch ends where a part does, too. Of a recording whose
    /// pictures lean on others none is cut.
    @ParameterizedTest
    @CsvSource({"0, 120, CINEFORM, mjpeg, true", "7, 100, PRORES_PROXY, prores, true", "0, 120, VC3_LB, mpeg4, false"})
    void aRecordingInSeveralFilesIsCutWhereOneEnds(
            long first, long count, VideoTarget target, String codec, boolean cut) throws Exception {
        var files = new ArrayList<Path>();
        for (int part : List.of(30, 50, 40)) {
            Path file = folder.resolve("part" + files.size() + ".mov");
            // Each from another moment on, so that no part is like another.
            engine.run(List.of(
                    "-f",
                    "lavfi",
                    "-i",
                    "testsrc2=size=320x180:rate=25,trim=start_frame=" + 50 * files.size() + ",setpts=PTS-STARTPTS",
                    "-f",
                    "lavfi",
                    "-i",
                    "aevalsrc=0.3*sin(" + 300 * (files.size() + 1) + "*2*PI*t):s=48000",
                    "-frames:v",
                    Integer.toString(part),
                    "-t",
                    Double.toString(part / 25.0),
                    "-c:v",
                    codec,
                    "-c:a",
                    "pcm_s16le",
                    "file:" + file));
            files.add(file);
        }
        List<Rational> seconds = List.of(new Rational(30, 25), Rational.of(2), new Rational(40, 25));
        var spanned = new ClipSource.Spanned(files, seconds);
        ClipFacts facts = ((Inspection.Known)
                        new Inspector(engine).inspect(spanned, FrameRate.FPS_25, new Cancellation()))
                .facts();
        Optional<FrameRange> range = count == 120 ? Optional.empty() : Optional.of(new FrameRange(first, count));
        CopyForm form = ranged(Clips.form(facts, target, new Raster(320, 180)), Wrapper.MOV, BurnIns.NONE, range);
        var order = new CopyOrder(spanned, facts, form, "part", Map.of(), folder.resolve("copy.mov"));
        assertThat(Segments.most(List.of(order)) > 1).isEqualTo(cut);
        if (!cut) {
            return;
        }
        assertThat(Segments.stretches(order, 2))
                .extracting(FrameRange::count)
                .containsExactlyElementsOf(first == 0 ? List.of(30L, 30L, 20L, 40L) : List.of(23L, 27L, 23L, 27L));
        inOnePiece(order);
        List<String> pictures = packets(order.output(), "0", true);
        assertThat(inSegments(2, order)).isTrue();
        assertThat(packets(order.output(), "0", true)).isEqualTo(pictures).hasSizeGreaterThan(100);
        CopyForm named = ranged(form, Wrapper.MOV, BurnIns.of(new BurnIn(BurnIn.What.FRAME, BurnIn.At.TOP, "")), range);
        assertThat(Segments.most(List.of(new CopyOrder(spanned, facts, named, "N", Map.of(), order.output()))))
                .isEqualTo(1);
    }

    /// All of a sequence of stills, and a range of it.
    @ParameterizedTest
    @CsvSource({"0, 120, PRORES_PROXY", "13, 100, VC3_LB"})
    void stillsAreCutAtAnyOfThem(long first, long count, VideoTarget target) throws Exception {
        engine.run(List.of(
                "-f",
                "lavfi",
                "-i",
                "testsrc2=size=640x360:rate=25",
                "-frames:v",
                "120",
                "-start_number",
                "1001",
                "file:" + folder.resolve("N.%06d.png")));
        var stills = new ClipSource.NumberedStills(folder, "N.", 6, ".png", 1_001, 1_120, List.of());
        ClipFacts facts = ((Inspection.Known)
                        new Inspector(engine).inspect(stills, FrameRate.FPS_25, new Cancellation()))
                .facts();
        Optional<FrameRange> range = count == 120 ? Optional.empty() : Optional.of(new FrameRange(first, count));
        CopyForm form = ranged(Clips.form(facts, target, new Raster(320, 180)), Wrapper.MOV, BurnIns.NONE, range);
        var order = new CopyOrder(stills, facts, form, "N", Map.of(), folder.resolve("copy.mov"));
        assertThat(Segments.most(List.of(order))).isEqualTo(2);
        inOnePiece(order);
        byte[] whole = Files.readAllBytes(order.output());
        assertThat(inSegments(3, order)).isTrue();
        assertThat(Files.readAllBytes(order.output())).isEqualTo(whole);
        CopyForm counted =
                ranged(form, Wrapper.MOV, BurnIns.of(new BurnIn(BurnIn.What.FRAME, BurnIn.At.TOP, "")), range);
        assertThat(Segments.most(List.of(new CopyOrder(stills, facts, counted, "N", Map.of(), order.output()))))
                .isEqualTo(1);
    }

    @Test
    void aRangeWithWordsDrawnInAndAWholeCopyBesideItInMxfAreTheSame() throws Exception {
        Path original = new Footage(engine)
                .clipWithSound(
                        folder.resolve("hd.mov"),
                        "1920x1080",
                        "25",
                        FRAMES,
                        "-c:v",
                        "mjpeg",
                        "-pix_fmt",
                        "yuvj422p",
                        "-c:a",
                        "pcm_s24le",
                        "-timecode",
                        "10:00:00:00");
        ClipFacts facts = facts(original);
        CopyForm light = Clips.form(facts, VideoTarget.PRORES_PROXY, new Raster(960, 540));
        CopyForm full = Clips.form(facts, VideoTarget.VC3_HD, new Raster(1920, 1080));
        var range = Optional.of(new FrameRange(20, 41));
        var words = new BurnIns(
                List.of(
                        new BurnIn(BurnIn.What.TIMECODE, BurnIn.At.TOP, ""),
                        new BurnIn(BurnIn.What.FRAME, BurnIn.At.BOTTOM, "")),
                Optional.of(FrameLines.parse("2.39", FrameLines.Outside.LINE)),
                Optional.empty());
        CopyOrder one = order(original, facts, ranged(light, Wrapper.MOV, words, range), folder.resolve("one.mov"));
        CopyOrder two =
                order(original, facts, ranged(full, Wrapper.MXF, BurnIns.NONE, range), folder.resolve("two.mxf"));
        inOnePiece(one, two);
        byte[] light1 = Files.readAllBytes(one.output());
        List<String> full1 = packets(two.output(), "0", false);
        ClipFacts facts1 = facts(two.output());

        assertThat(inSegments(4, one, two)).isTrue();

        assertThat(Files.readAllBytes(one.output())).isEqualTo(light1);
        assertThat(packets(two.output(), "0", false)).isEqualTo(full1);
        assertThat(facts(two.output())).isEqualTo(facts1);
    }

    private static CopyForm ranged(CopyForm form, Wrapper wrapper, BurnIns words, Optional<FrameRange> range) {
        return new CopyForm(
                form.target(),
                wrapper,
                form.raster(),
                form.pixelAspect(),
                form.rate(),
                range.map(FrameRange::count).orElse(form.frames()),
                form.framesMayRound(),
                form.interlaced(),
                form.deinterlace(),
                form.look(),
                form.keepsAlpha(),
                form.sound(),
                words,
                range,
                form.hardware());
    }

    /// The coded frames of CineForm carry their number, which begins anew in each segment.
    @Test
    void fieldsAndPicturesThatBeginAfterTheSoundAreTheSame() throws Exception {
        Path fields = new Footage(engine)
                .clip(
                        folder.resolve("fields.mov"),
                        "1920x1080",
                        "25",
                        40,
                        "-vf",
                        "setfield=tff",
                        "-c:v",
                        "prores_ks",
                        "-pix_fmt",
                        "yuv422p10le",
                        "-flags",
                        "+ildct");
        ClipFacts facts = facts(fields);
        CopyOrder interlaced = order(
                fields, facts, Clips.form(facts, VideoTarget.VC3_HD, new Raster(1920, 1080)), folder.resolve("i.mov"));
        inOnePiece(interlaced);
        byte[] whole = Files.readAllBytes(interlaced.output());
        assertThat(inSegments(2, interlaced)).isTrue();
        assertThat(Files.readAllBytes(interlaced.output())).isEqualTo(whole);

        Path late = folder.resolve("late.mov");
        Path sound = new Footage(engine)
                .clipWithSound(
                        folder.resolve("sound.mov"), "320x180", "25", FRAMES, "-c:v", "mjpeg", "-c:a", "pcm_s16le");
        engine.run(List.of(
                "-i",
                "file:" + sound,
                "-itsoffset",
                "0.4",
                "-i",
                "file:" + sound,
                "-map",
                "1:v",
                "-map",
                "0:a",
                "-c",
                "copy",
                "file:" + late));
        ClipFacts lateFacts = facts(late);
        assertThat(lateFacts.video().orElseThrow().frames().firstAt()).isPresent();
        CopyOrder cine = order(
                late,
                lateFacts,
                Clips.form(lateFacts, VideoTarget.CINEFORM, new Raster(320, 180)),
                folder.resolve("c.mov"));
        inOnePiece(cine);
        List<String> pictures = packets(cine.output(), "0:v", true);
        List<String> heard = packets(cine.output(), "0:a", true);
        assertThat(inSegments(3, cine)).isTrue();
        assertThat(packets(cine.output(), "0:v", true)).isEqualTo(pictures).hasSizeGreaterThan(FRAMES);
        assertThat(packets(cine.output(), "0:a", true)).isEqualTo(heard);
    }

    @ParameterizedTest
    @CsvSource({"mov, PRORES_PROXY, 9", "mov, H264_INTRA, 1", "mov, H264_LONG, 1", "ts, PRORES_PROXY, 1"})
    void onlyWhatIsExactIsCut(String ending, VideoTarget target, int most) throws InterruptedException {
        Path original = new Footage(engine)
                .clip(folder.resolve("o." + ending), "320x180", "25", FRAMES, "-c:v", "mpeg2video", "-g", "1");
        ClipFacts facts = facts(original);
        CopyOrder order =
                order(original, facts, Clips.form(facts, target, new Raster(320, 180)), folder.resolve("x.mov"));
        assertThat(Segments.most(List.of(order))).isEqualTo(most);
        assertThat(Segments.most(List.of(order.holdingToEnd()))).isEqualTo(1);
    }

    @Test
    void segmentsFollowOneAnotherWithoutAGap() {
        assertThat(Segments.split(new FrameRange(7, 10), 3))
                .containsExactly(new FrameRange(7, 3), new FrameRange(10, 3), new FrameRange(13, 4));
    }

    @ParameterizedTest
    @CsvSource({
        "leaves a third idle, 1.3, 2, 80, 300e6, 2",
        "leaves next to nothing idle, 1.95, 2, 80, 300e6, 1",
        "waits for its volume, 0.4, 2, 80, 300e6, 1",
        "others wait, 1.3, 0, 80, 300e6, 1",
        "short, 1.3, 2, 30, 100e6, 1",
        "joining costs more, 1.3, 2, 80, 4e9, 1",
        "many processors, 2, 16, 600, 1e9, 8",
        "very many processors, 1, 64, 600, 1e9, 16"
    })
    void itIsCutWhereThatPays(String what, double used, double processors, double seconds, double bytes, int segments)
            throws InterruptedException {
        var idleness = new Idleness(Idleness.Trial.USUAL, slow(original(5)), 100, () -> processors, new Brake());
        assertThat(idleness.wanted(used, processors, seconds, bytes)).as(what).isEqualTo(segments);
    }

    private record Heard(double processors, List<Integer> segmented) implements CopyMaker.Listener {
        @Override
        public void progressed(long frames, List<Long> bytes) {}

        @Override
        public void segmented(int segments) {
            segmented.add(segments);
        }
    }

    private CopyOrder slow(Path original) throws InterruptedException {
        ClipFacts facts = facts(original);
        return order(
                original,
                facts,
                Clips.form(facts, VideoTarget.PRORES_422, new Raster(1280, 720)),
                folder.resolve("s.mov"));
    }

    private Path original(int frames) throws InterruptedException {
        return new Footage(engine)
                .clip(folder.resolve("o.mov"), "1280x720", "25", frames, "-c:v", "mjpeg", "-pix_fmt", "yuvj422p");
    }

    /// A machine with many processors is pretended: the engine cannot keep them busy, and is told so.
    @Test
    void itIsCutWhereOneEngineLeavesProcessorsIdleAndNotWhereItLeavesNoneOrIsToBeGentle() throws Exception {
        CopyOrder order = slow(original(500));
        var maker = new CopyMaker(engine, QUICK);
        var few = new Heard(0.5, new ArrayList<>());
        var many = new Heard(8, new ArrayList<>());
        ProcessControl usual = ProcessControl.of(new Cancellation());
        var gentle = new ProcessControl(new Cancellation(), new Brake(), ProcessControl.Rank.LAST, 0);

        assertThat(written(maker.make(List.of(order), few, usual)).segments()).isEqualTo(1);
        byte[] whole = Files.readAllBytes(order.output());
        CopyMaker.Outcome.Written cut = written(maker.make(List.of(order), many, usual));
        assertThat(Files.readAllBytes(order.output())).isEqualTo(whole);
        assertThat(cut.segments()).isBetween(4, 16);
        assertThat(cut.frames()).isEqualTo(500);
        assertThat(many.segmented()).containsExactly(cut.segments());
        assertThat(few.segmented()).isEmpty();
        assertThat(written(maker.make(List.of(order), many, gentle)).segments()).isEqualTo(1);
    }

    private static CopyMaker.Outcome.Written written(CopyMaker.Outcome outcome) {
        return (CopyMaker.Outcome.Written) outcome;
    }

    /// The engine that makes it in one piece finds out what is to be told of such a clip.
    @Test
    void whatIsBrokenIsMadeInOnePieceAndCancellingLeavesNothing() throws Exception {
        Path original = original(500);
        try (var file = new RandomAccessFile(original.toFile(), "rw")) {
            file.seek(file.length() / 2);
            file.write(new byte[400_000]);
        }
        CopyOrder order = slow(original);
        var maker = new CopyMaker(engine, QUICK);
        var many = new Heard(8, new ArrayList<>());
        CopyMaker.Outcome.Written outcome =
                written(maker.make(List.of(order), many, ProcessControl.of(new Cancellation())));
        assertThat(many.segmented()).hasSize(1);
        assertThat(outcome.segments()).isEqualTo(1);
        assertThat(outcome.complaint()).isNotEmpty();
        assertThat(files()).containsExactly("o.mov", "s.mov");

        Files.delete(order.output());
        var cancellation = new Cancellation();
        var ending = new CopyMaker.Listener() {
            @Override
            public void progressed(long frames, List<Long> bytes) {}

            @Override
            public double processors() {
                return 8;
            }

            @Override
            public void segmented(int segments) {
                cancellation.cancel();
            }
        };
        assertThat(maker.make(List.of(order), ending, ProcessControl.of(cancellation)))
                .isEqualTo(new CopyMaker.Outcome.Cancelled());
        assertThat(files().stream().filter(name -> name.startsWith(".dock-sort-")))
                .isEmpty();
        assertThat(ProcessHandle.current().descendants().filter(ProcessHandle::isAlive))
                .isEmpty();
    }
}
