package docksort.engine;

import static org.assertj.core.api.Assertions.assertThat;

import docksort.Footage;
import docksort.WithMedia;
import docksort.media.ClipFacts;
import docksort.media.ClipSource;
import docksort.media.FrameRate;
import docksort.media.FrameStructure;
import docksort.media.VideoFacts;
import docksort.media.VideoFacts.RateKind;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

@WithMedia
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class InspectorTest {
    @TempDir
    static Path folder = Path.of("");

    private final MediaEngine engine = MediaEngine.locate();
    private final Footage footage = new Footage(engine);

    @BeforeAll
    void theEngineStarts() throws InterruptedException {
        assertThat(engine.version()).startsWith("ffmpeg version");
    }

    @AfterAll
    void close() {
        engine.close();
    }

    private Inspection look(Path file) throws InterruptedException {
        return new Inspector(engine).inspect(new ClipSource.SingleFile(file), FrameRate.FPS_25, new Cancellation());
    }

    private ClipFacts facts(Path file) throws InterruptedException {
        return ((Inspection.Known) look(file)).facts();
    }

    private VideoFacts video(Path file) throws InterruptedException {
        return facts(file).video().orElseThrow();
    }

    @Test
    void theSameCodecNameIsLongGopOrAllIntraByItsStream() throws InterruptedException {
        VideoFacts longGop = video(footage.clip(
                folder.resolve("long.mov"),
                "320x180",
                "25",
                60,
                "-c:v",
                "libx264",
                "-g",
                "20",
                "-bf",
                "2",
                "-sc_threshold",
                "0"));
        VideoFacts intra =
                video(footage.clip(folder.resolve("intra.mov"), "320x180", "25", 20, "-c:v", "libx264", "-g", "1"));
        assertThat(longGop.codec().name()).isEqualTo(intra.codec().name()).isEqualTo("h264");
        assertThat(intra.structure().isAllIntra()).isTrue();
        assertThat(longGop.structure().isAllIntra()).isFalse();
        assertThat(longGop.structure().keyframeInterval().meanFrames()).hasToString("20");
        assertThat(longGop.structure().longestTwoWayRun()).isEqualTo(2);
    }

    @Test
    void ratesAreExactAndTimecodeKeepsItsDropFlag() throws InterruptedException {
        ClipFacts facts = facts(footage.clip(
                folder.resolve("drop.mov"),
                "320x180",
                "30000/1001",
                31,
                "-c:v",
                "libx264",
                "-timecode",
                "00:59:58;00"));
        VideoFacts video = facts.video().orElseThrow();
        assertThat(video.rate()).isEqualTo(new FrameRate(30000, 1001));
        assertThat(video.rateKind()).isEqualTo(RateKind.CONSTANT);
        assertThat(facts.startTimecode().orElseThrow()).hasToString("00:59:58;00");
        assertThat(video.frames().count()).isEqualTo(31);
    }

    @Test
    void roundedTimeStampsOfMatroskaAreStillOneConstantRate() throws InterruptedException {
        VideoFacts video = video(footage.clip(folder.resolve("a.mkv"), "320x180", "30000/1001", 90, "-c:v", "libx264"));
        assertThat(video.rate()).isEqualTo(new FrameRate(30000, 1001));
        assertThat(video.rateKind()).isEqualTo(RateKind.CONSTANT);
    }

    @Test
    void variableRateIsReadFromTimeStampsAndConformsToItsFastest() throws InterruptedException {
        VideoFacts video = video(footage.clip(
                folder.resolve("vfr.mp4"),
                "320x180",
                "60",
                100,
                "-vf",
                "select='not(eq(mod(n,7),3))'",
                "-fps_mode",
                "vfr",
                "-c:v",
                "libx264"));
        assertThat(video.rateKind()).isEqualTo(RateKind.VARIABLE);
        assertThat(video.rate()).isEqualTo(new FrameRate(60, 1));
    }

    @Test
    void depthChromaAlphaAndAspectAreRead() throws InterruptedException {
        VideoFacts deep = video(footage.clip(
                folder.resolve("deep.mov"),
                "320x180",
                "25",
                5,
                "-c:v",
                "prores_ks",
                "-profile:v",
                "4444",
                "-pix_fmt",
                "yuva444p10le"));
        assertThat(deep.pixels().alpha()).isTrue();
        assertThat(deep.pixels().chroma().label()).isEqualTo("4:4:4");
        VideoFacts wide = video(footage.clip(
                folder.resolve("wide.mov"),
                "288x216",
                "25",
                5,
                "-vf",
                "setsar=4/3",
                "-c:v",
                "libx264",
                "-pix_fmt",
                "yuv422p10le"));
        assertThat(wide.pixelAspect()).hasToString("4/3");
        assertThat(wide.displayRaster()).hasToString("384×216");
        assertThat(wide.pixels().bitDepth()).isEqualTo(10);
        assertThat(wide.pixels().chroma().label()).isEqualTo("4:2:2");
    }

    @Test
    void aLargeLongGopFileIsReadInAStretchThatSaysSo() throws InterruptedException {
        // Noise hardly compresses: this is larger than what is read whole.
        Path file = folder.resolve("large.mkv");
        footage.clip(
                file,
                "320x180",
                "50",
                1600,
                "-vf",
                "noise=alls=100:allf=t",
                "-c:v",
                "libx264",
                "-preset",
                "ultrafast",
                "-g",
                "100",
                "-qp",
                "2");
        assertThat(file.toFile().length()).isGreaterThan(48L * 1024 * 1024);
        VideoFacts video = video(file);
        assertThat(video.structure().extent()).isEqualTo(FrameStructure.Extent.STRETCH);
        assertThat(video.structure().keyframeInterval().meanFrames()).hasToString("100");
        assertThat(video.frames().count()).isEqualTo(1600);
        Path indexed = folder.resolve("large.mov");
        engine.run(List.of("-i", "file:" + file, "-c", "copy", "file:" + indexed));
        VideoFacts whole = video(indexed);
        assertThat(whole.structure().extent())
                .as("an index is read whole, however large the file")
                .isEqualTo(FrameStructure.Extent.WHOLE);
        assertThat(whole.structure().count()).isEqualTo(1600);
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "with space.mov",
                "it's \"quoted\".mov",
                "-leading.mov",
                "Ночь 夜 ★.mov",
                "new\nline.mov",
                "per%cent %03d.mov",
                "concat:a|b.mov"
            })
    void everyFileNameIsTakenLiterally(String name) throws InterruptedException, IOException {
        Path plain = footage.clip(
                folder.resolve("plain-" + Integer.toHexString(name.hashCode()) + ".mov"),
                "320x180",
                "25",
                5,
                "-c:v",
                "libx264");
        Path odd = Files.move(plain, folder.resolve(name));
        assertThat(video(odd).frames().count()).isEqualTo(5);
    }

    @Test
    void unreadableFilesAreNamedWithTheReason() throws InterruptedException, IOException {
        Path whole = footage.clip(folder.resolve("whole.mov"), "320x180", "25", 50, "-c:v", "libx264");
        byte[] bytes = Files.readAllBytes(whole);
        assertThat(reason(Files.write(folder.resolve("cut.mov"), Arrays.copyOf(bytes, bytes.length / 2))))
                .contains("index is missing");
        assertThat(reason(Files.write(folder.resolve("empty.mov"), new byte[0])))
                .contains("empty");
        assertThat(reason(Files.writeString(folder.resolve("text.mov"), "shot list, take 3")))
                .contains("text, not media");
        assertThat(reason(folder.resolve("gone.mov"))).contains("not there");
        byte[] noise = new byte[200_000];
        new Random(7).nextBytes(noise);
        assertThat(reason(Files.write(folder.resolve("noise.mov"), noise))).isNotBlank();
    }

    @Test
    void aPlaylistThatNamesOtherFilesIsNotFollowed() throws InterruptedException, IOException {
        footage.clip(folder.resolve("secret.ts"), "320x180", "25", 5, "-c:v", "libx264");
        Path list = folder.resolve("list.mov");
        byte[] head = ("#EXTM3U\n#EXT-X-TARGETDURATION:1\n#EXTINF:1,\nfile:" + folder.resolve("secret.ts")
                        + "\n#EXT-X-ENDLIST\n")
                .getBytes(StandardCharsets.UTF_8);
        byte[] bytes = Arrays.copyOf(head, head.length + 4); // zero bytes at the end: not plain text
        assertThat(look(Files.write(list, bytes))).isInstanceOf(Inspection.Unreadable.class);
    }

    private String reason(Path file) throws InterruptedException {
        var unreadable = (Inspection.Unreadable) look(file);
        assertThat(unreadable.problem().what()).contains(file.toString());
        assertThat(unreadable.problem().untouched()).contains("as it was");
        return unreadable.problem().why();
    }

    @Test
    void aContainerThatCallsEveryPictureAKeyframeIsNotBelieved() throws InterruptedException, IOException {
        Path file = footage.clip(
                folder.resolve("claims.mov"), "320x180", "25", 60, "-c:v", "libx264", "-g", "20", "-bf", "0");
        byte[] bytes = Files.readAllBytes(file);
        String text = new String(bytes, StandardCharsets.ISO_8859_1);
        // Without its list of keyframes the index says that decoding can start at every picture.
        Files.write(file, text.replace("stss", "free").getBytes(StandardCharsets.ISO_8859_1));
        var known = (Inspection.Known)
                new Inspector(engine).inspect(new ClipSource.SingleFile(file), FrameRate.FPS_25, new Cancellation());
        assertThat(known.facts().findings().contradictions())
                .anySatisfy(two -> assertThat(two.label()).contains("keyframes").contains("3 of the first 60"));
        FrameStructure structure = known.facts().video().orElseThrow().structure();
        assertThat(structure.isAllIntra()).isFalse();
        assertThat(structure.keyframeInterval().meanFrames()).hasToString("20");
    }
}
