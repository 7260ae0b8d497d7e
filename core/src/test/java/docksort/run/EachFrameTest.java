package docksort.run;

import static org.assertj.core.api.Assertions.assertThat;

import docksort.Clips;
import docksort.Footage;
import docksort.WithMedia;
import docksort.engine.Cancellation;
import docksort.engine.CopyMaker;
import docksort.engine.CopyOrder;
import docksort.engine.FrameSamples;
import docksort.engine.Inspection;
import docksort.engine.Inspector;
import docksort.engine.MediaEngine;
import docksort.engine.ProcessControl;
import docksort.media.ClipFacts;
import docksort.media.ClipSource;
import docksort.media.CopyForm;
import docksort.media.FrameRate;
import docksort.media.Frames;
import docksort.media.Raster;
import docksort.media.VideoTarget;
import docksort.media.Wrapper;
import docksort.run.CopyCheck.Finding;
import docksort.run.CopyCheck.Verdict;
import docksort.run.PictureCheck.Reference;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.assertj.core.api.SoftAssertions;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.EnumSource;

/// One frame in the middle that is not what it should be, in copies of every codec: each true copy is one, and
/// each that was made wrong on purpose is none.
@WithMedia
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class EachFrameTest {
    private static final int FRAMES = 50;
    private static final Raster SMALL = new Raster(320, 180);

    /// What is done to a copy before it is coded again, and what is said of it.
    private static final Map<String, String> WRONG = new LinkedHashMap<>();

    static {
        WRONG.put("split[a][b];[a][b]freezeframes=first=19:last=19:replace=18", "frame 19 shows frame 18");
        WRONG.put("select='not(eq(n,21))',setpts=N/25/TB,tpad=stop=1:stop_mode=clone", "frame 21 shows frame 22");
        WRONG.put(
                "split[a][b];[a][b]freezeframes=first=19:last=19:replace=20,split[c][d];"
                    + "[0:V:0]setpts=N/25/TB,select=1[o];[c]nullsink;[d][o]freezeframes=first=20:last=20:replace=19",
                "frame 19 shows frame 20, frame 20 shows frame 19");
        WRONG.put("split[a][b];[a][b]freezeframes=first=30:last=45:replace=30", "frame 31 shows frame 30");
        WRONG.put("eq=contrast=0.89:enable='between(n,20,29)'", "frame 20 has 0.8");
        WRONG.put("negate=enable='eq(n,20)'", "frame 20 differs by");
        WRONG.put("drawbox=x=100:y=60:w=16:h=16:t=fill:color=white:enable='eq(n,20)'", "a part of frame 20 differs by");
        WRONG.put("gblur=sigma=6:enable='eq(n,20)'", "frame 20 differs by");
        WRONG.put(
                "split[a][b];[a]trim=start_frame=4,setpts=PTS-STARTPTS[d];[b][d]overlay=enable='eq(n,20)'",
                "frame 20 differs by");
        WRONG.put("hue=s=0:enable='eq(n,20)'", "the colours of frame 20 differ by");
        WRONG.put("swapuv=enable='between(n,20,22)'", "the colours of frame 20 differ by");
        WRONG.put("hue=s=0.7:enable='eq(n,20)'", "the colours of frame 20 differ by");
    }

    @TempDir
    static Path folder = Path.of("");

    private final MediaEngine engine = MediaEngine.locate();
    private final PictureCheck pictures = new PictureCheck(engine);
    private Path original = Path.of("");

    @BeforeAll
    void shoot() throws InterruptedException {
        original = new Footage(engine)
                .clip(
                        folder.resolve("original.mov"),
                        "640x360",
                        "25",
                        FRAMES,
                        "-c:v",
                        "libx264",
                        "-g",
                        "25",
                        "-bf",
                        "2",
                        "-pix_fmt",
                        "yuv420p");
    }

    @AfterAll
    void close() {
        engine.close();
    }

    private ClipFacts facts(Path file) throws InterruptedException {
        return ((Inspection.Known) new Inspector(engine)
                        .inspect(new ClipSource.SingleFile(file), FrameRate.FPS_25, new Cancellation()))
                .facts();
    }

    private CopyOrder made(Path from, ClipFacts facts, CopyForm form, String name) throws InterruptedException {
        return made(from, facts, form, name, "mov");
    }

    private CopyOrder made(Path from, ClipFacts facts, CopyForm form, String name, String ending)
            throws InterruptedException {
        Path output = folder.resolve(name + "." + ending);
        var order = new CopyOrder(new ClipSource.SingleFile(from), facts, form, "", Map.of(), output)
                .telling(folder.resolve(name + ".frames"))
                .hashing(folder.resolve(".dock-sort-" + name + ".part"));
        assertThat(new CopyMaker(engine).make(List.of(order), (_, _) -> {}, ProcessControl.of(new Cancellation())))
                .isInstanceOf(CopyMaker.Outcome.Written.class);
        return order;
    }

    private Reference reference(CopyOrder... orders) {
        return pictures.reference(
                orders[0].source(),
                orders[0].facts().video().orElseThrow(),
                Stream.of(orders).map(CopyOrder::form).toList(),
                List.of());
    }

    private List<Finding> check(Reference reference, CopyOrder order, Path copy) throws InterruptedException {
        return verdict(reference, order, copy).findings();
    }

    private Verdict verdict(Reference reference, CopyOrder order, Path copy) throws InterruptedException {
        return pictures.check(
                        reference,
                        order.form(),
                        new ClipSource.SingleFile(copy),
                        new Frames(0, Frames.Origin.COUNTED),
                        new Told(order.pictures(), order.packets().filter(_ -> copy.equals(order.output()))),
                        true,
                        ProcessControl.of(new Cancellation()))
                .orElseThrow();
    }

    @ParameterizedTest
    @EnumSource(
            value = VideoTarget.class,
            names = {"PRORES_PROXY", "VC3_LB", "MOTION_JPEG", "H264_INTRA"})
    void oneFrameThatIsWrongIsFound(VideoTarget target) throws InterruptedException {
        ClipFacts facts = facts(original);
        CopyOrder order = made(original, facts, Clips.form(facts, target, SMALL), "copy");
        Reference reference = reference(order);
        assertThat(check(reference, order, order.output()))
                .allMatch(Finding::passes)
                .extracting(Finding::found)
                .anyMatch(found -> found.startsWith("the original's in all 50 frames, least in frame"))
                .anyMatch(found -> found.equals("the original's at 2 places"))
                .contains("as they were coded");
        var softly = new SoftAssertions();
        for (Map.Entry<String, String> each : WRONG.entrySet()) {
            Path wrong = codedAgain(order, each.getKey());
            softly.assertThat(told(check(reference, order, wrong)))
                    .as(target + ": " + each.getKey())
                    .contains(each.getValue());
        }
        softly.assertAll();
    }

    /// The fields of one frame changed places, came a field late, or its lines stand lower: the mean of both
    /// fields is much the same each time.
    @ParameterizedTest
    @EnumSource(
            value = VideoTarget.class,
            names = {"PRORES_PROXY", "H264_LONG"})
    void oneFrameWhoseFieldsAreWrongIsFound(VideoTarget target) throws InterruptedException {
        Path fields = folder.resolve("fields.mov");
        engine.run(List.of(
                "-f",
                "lavfi",
                "-i",
                "testsrc2=s=720x576:r=50,interlace=scan=tff",
                "-frames:v",
                Integer.toString(FRAMES),
                "-c:v",
                "prores",
                "-profile:v",
                "2",
                "-flags",
                "+ildct",
                "-pix_fmt",
                "yuv422p10le",
                "file:" + fields));
        ClipFacts facts = facts(fields);
        CopyOrder order = made(fields, facts, Clips.form(facts, target, new Raster(720, 576)), "copy");
        assertThat(order.form().interlaced()).isTrue();
        Reference reference = reference(order);
        assertThat(check(reference, order, order.output()))
                .allMatch(Finding::passes)
                .extracting(Finding::found)
                .anyMatch(found -> found.startsWith("the original's in all 50 frames, least in the "));
        var softly = new SoftAssertions();
        Map.of(
                        "il=luma_swap=1:chroma_swap=1:enable='eq(n,20)'",
                        "the upper field of frame 20",
                        "split[a][b];[b]phase=mode=t[c];[a][c]overlay=format=auto:enable='eq(n,20)'",
                        "field of frame 20",
                        "split[a][b];[b]pad=iw:ih+2:0:2,crop=iw:ih-2:0:0[c];[a][c]overlay=enable='eq(n,20)'",
                        "frame 20 stands some lines too low",
                        "split[a][b];[a][b]freezeframes=first=19:last=19:replace=18",
                        "the upper field of frame 19 shows the upper field of frame 18")
                .forEach((filters, words) -> {
                    try {
                        Path wrong = codedAgain(order, filters, "-flags", "+ildct");
                        softly.assertThat(told(check(reference, order, wrong)))
                                .as(target + ": " + filters)
                                .contains(words);
                    } catch (InterruptedException e) {
                        throw new IllegalStateException(e);
                    }
                });
        softly.assertAll();
    }

    /// One byte, in pictures that decode with it and look no different, in sound, and in what the container
    /// says.
    @ParameterizedTest
    @CsvSource({
        "H264_LONG,MP4",
        "HEVC_LONG,MP4",
        "HEVC_LONG,MOV",
        "AV1_LONG,MP4",
        "H264_INTRA_10,MXF",
        "PRORES_PROXY,MOV",
        "VC3_LB,MXF",
        "CINEFORM,MOV"
    })
    void aByteThatIsAnotherOnTheDiskIsFound(VideoTarget target, Wrapper wrapper)
            throws InterruptedException, IOException {
        Path sounding = new Footage(engine)
                .clipWithSound(folder.resolve("sounding.mov"), "640x360", "25", FRAMES, "-c:v", "libx264");
        ClipFacts facts = facts(sounding);
        CopyOrder order = made(sounding, facts, Clips.form(facts, target, SMALL, wrapper), "flipped", wrapper.name());
        Reference reference = reference(order);
        assertThat(check(reference, order, order.output())).allMatch(Finding::passes);
        byte[] bytes = Files.readAllBytes(order.output());
        var random = new Random(20);
        for (int i = 0; i < 8; i++) {
            byte[] others = bytes.clone();
            int place = bytes.length / 5 + random.nextInt(bytes.length / 2);
            others[place] ^= (byte) (1 << random.nextInt(8));
            Files.write(order.output(), others);
            assertThat(check(reference, order, order.output()))
                    .as("byte %d of %d", place, bytes.length)
                    .filteredOn(finding -> !finding.passes())
                    .extracting(Finding::fact)
                    .containsAnyOf("packets", "decoding");
        }
    }

    private static String told(List<Finding> findings) {
        return findings.stream()
                .filter(finding -> !finding.passes())
                .map(Finding::found)
                .collect(Collectors.joining("; "));
    }

    /// A sky that comes out one level brighter differs as one that stands lower would.
    @Test
    void aRampThatIsALevelBrighterStandsWhereItStood() throws IOException {
        var sky = new byte[FrameSamples.PLACES + 2 * FrameSamples.COLOUR_PLACES];
        var brighter = new byte[sky.length];
        for (int i = 0; i < FrameSamples.PLACES; i++) {
            sky[i] = (byte) (200 - 2 * (i / FrameSamples.WIDTH));
            brighter[i] = (byte) (sky[i] + 1);
        }
        assertThat(Levels.lines(
                        FrameSamples.kept(new ByteArrayInputStream(sky)).orElseThrow(),
                        FrameSamples.kept(new ByteArrayInputStream(brighter)).orElseThrow(),
                        1080))
                .isZero();
    }

    @Test
    void theFrameThatLosesMostIsKept() throws InterruptedException {
        ClipFacts facts = facts(original);
        CopyOrder order = made(original, facts, Clips.form(facts, VideoTarget.PRORES_PROXY, SMALL), "copy");
        Path softer = codedAgain(order, "gblur=sigma=0.8:enable='eq(n,33)'");
        Verdict verdict = verdict(reference(order), order, softer);
        assertThat(verdict.findings()).allMatch(Finding::passes);
        assertThat(verdict.leastAlike()).contains(33L);
    }

    /// By the encoder of the copy, at its most.
    private Path codedAgain(CopyOrder order, String filters, String... more) throws InterruptedException {
        Path wrong = folder.resolve("wrong.mov");
        var line = new ArrayList<>(List.of("-i", "file:" + order.output(), "-filter_complex", "[0:V:0]" + filters));
        line.addAll(List.of("-frames:v", Integer.toString(FRAMES), "-c:v", "prores_ks", "-profile:v", "3"));
        line.addAll(List.of(more));
        line.addAll(List.of("-pix_fmt", "yuv422p10le", "file:" + wrong));
        engine.run(line);
        return wrong;
    }

    /// Pictures of standard definition whose matrix one of the copies cannot carry: whichever copy is checked
    /// first, what it takes of the original is of no harm to the others.
    @Test
    void copiesOfOneOriginalAreHeldAgainstItEachByItsOwnMatrix() throws InterruptedException {
        Path standard = folder.resolve("standard.mov");
        engine.run(List.of(
                "-f",
                "lavfi",
                "-i",
                "testsrc2=s=720x576:r=25",
                "-frames:v",
                "25",
                "-vf",
                "scale=out_color_matrix=bt601",
                "-c:v",
                "libx264",
                "-pix_fmt",
                "yuv420p",
                "-colorspace",
                "bt470bg",
                "file:" + standard));
        ClipFacts facts = facts(standard);
        var raster = new Raster(720, 576);
        CopyOrder hd = made(standard, facts, Clips.form(facts, VideoTarget.VC3_LB, raster), "hd");
        CopyOrder own = made(standard, facts, Clips.form(facts, VideoTarget.PRORES_PROXY, raster), "own");
        for (List<CopyOrder> order : List.of(List.of(hd, own), List.of(own, hd))) {
            Reference reference = reference(hd, own);
            for (CopyOrder each : order) {
                assertThat(check(reference, each, each.output()))
                        .as(each.form().target().orElseThrow().label())
                        .allMatch(Finding::passes);
            }
        }
    }

    /// Single coloured pixels that flicker: what an encoder of groups of pictures leaves standing for a frame is no
    /// frame that was repeated.
    @ParameterizedTest
    @EnumSource(
            value = VideoTarget.class,
            names = {"H264_LONG", "HEVC_LONG", "AV1_LONG"})
    void aTrueCopyOfFlickeringPixelsPasses(VideoTarget target) throws InterruptedException {
        Path life = folder.resolve("life.mov");
        engine.run(List.of(
                "-f",
                "lavfi",
                "-i",
                "life=s=640x360:r=25:seed=7:mold=10:life_color=#C83232:death_color=#00FF00:mold_color=blue",
                "-frames:v",
                Integer.toString(FRAMES),
                "-c:v",
                "libx264",
                "-pix_fmt",
                "yuv444p",
                "file:" + life));
        ClipFacts facts = facts(life);
        CopyOrder order = made(life, facts, Clips.form(facts, target, SMALL, Wrapper.MP4), "life", "mp4");
        assertThat(check(reference(order), order, order.output())).allMatch(Finding::passes);
    }

    /// Something small and faint that moves, in a copy of which every frame is coded by itself: one place in four
    /// hundred changes, and that by an eighth of black to white.
    @ParameterizedTest
    @EnumSource(
            value = VideoTarget.class,
            names = {"PRORES_PROXY", "VC3_LB", "MOTION_JPEG", "CINEFORM"})
    void aRepeatedFrameOfSomethingSmallIsFound(VideoTarget target) throws InterruptedException {
        Path dim = folder.resolve("dim.mov");
        engine.run(List.of(
                "-filter_complex",
                "color=0x707070:s=640x360:r=25[sky];color=0x909090:s=20x14:r=25[spot];[sky][spot]overlay=x=12*n:y=100",
                "-frames:v",
                Integer.toString(FRAMES),
                "-c:v",
                "libx264",
                "-pix_fmt",
                "yuv420p",
                "file:" + dim));
        ClipFacts facts = facts(dim);
        CopyOrder order = made(dim, facts, Clips.form(facts, target, SMALL), "dim");
        Reference reference = reference(order);
        assertThat(check(reference, order, order.output())).allMatch(Finding::passes);
        Path wrong = codedAgain(order, "split[a][b];[a][b]freezeframes=first=19:last=19:replace=18");
        assertThat(told(check(reference, order, wrong))).contains("what moves in frame 19 is where it is in frame 18");
    }

    /// What goes to the encoder is the same with and without being told of.
    @Test
    void tellingOfFramesChangesNoByteOfACopy() throws InterruptedException, IOException {
        ClipFacts facts = facts(original);
        for (VideoTarget target :
                List.of(VideoTarget.PRORES_PROXY, VideoTarget.VC3_LB, VideoTarget.MOTION_JPEG, VideoTarget.H264_LONG)) {
            CopyOrder told = made(original, facts, Clips.form(facts, target, SMALL), "told");
            var plain = new CopyOrder(told.source(), facts, told.form(), "", Map.of(), folder.resolve("plain.mov"));
            new CopyMaker(engine).make(List.of(plain), (_, _) -> {}, ProcessControl.of(new Cancellation()));
            assertThat(Files.mismatch(told.output(), plain.output()))
                    .as(target.label())
                    .isEqualTo(-1);
            assertThat(Files.size(told.pictures().orElseThrow())).isEqualTo(FRAMES * 96 * 54 * 3 / 2);
            assertThat(told.packets().orElseThrow()).isNotEmptyFile();
        }
    }

    /// The frames that were told of are wrong as well: the copy itself was made of another stretch, or the
    /// chain to its encoder took video range for full range.
    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "trim=start_frame=3,setpts=PTS-STARTPTS,tpad=stop=3:stop_mode=clone | stretch",
                "scale=640:360:in_range=pc:out_range=tv,setrange=tv | levels",
                "scale=640:360:in_range=tv:out_range=pc,setrange=tv | levels",
                "hue=s=0 | colours",
                "hue=s=0.8 | colours",
                "swapuv | colours"
            })
    void whatEveryFrameHasWrongIsFoundByTheOriginal(String chain, String fact) throws InterruptedException {
        Path later = folder.resolve("later.mov");
        engine.run(List.of(
                "-i",
                "file:" + original,
                "-vf",
                chain,
                "-c:v",
                "libx264",
                "-g",
                "25",
                "-pix_fmt",
                "yuv420p",
                "file:" + later));
        ClipFacts facts = facts(original);
        CopyForm form = Clips.form(facts, VideoTarget.PRORES_PROXY, SMALL);
        CopyOrder wrong = made(later, facts(later), form, "stretch");
        var order = new CopyOrder(
                new ClipSource.SingleFile(original),
                facts,
                form,
                "",
                Map.of(),
                wrong.output(),
                false,
                Optional.of(folder.resolve("stretch.frames")),
                Optional.empty());
        assertThat(check(reference(order), order, wrong.output()))
                .filteredOn(finding -> !finding.passes())
                .extracting(Finding::fact)
                .contains(fact)
                .doesNotContain("pictures");
    }
}
