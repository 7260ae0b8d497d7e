package docksort.engine;

import static org.assertj.core.api.Assertions.assertThat;

import docksort.Footage;
import docksort.WithMedia;
import docksort.index.ContainerSays;
import docksort.index.MxfHeader;
import docksort.media.ClipFacts;
import docksort.media.ClipSource;
import docksort.media.CodedFrame;
import docksort.media.Contradiction;
import docksort.media.FrameRate;
import docksort.media.FrameStructure;
import docksort.media.FrameStructure.Extent;
import docksort.media.Raster;
import docksort.media.ScanType;
import docksort.media.VideoFacts;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/// Container against stream, index against packets: real files in which the two differ, and real files in
/// which both must say the same. The packets as the engine lists them are the independent reading of
/// every index.
@WithMedia
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class TwoSourcesTest {
    private static final String[] X264 = {"-c:v", "libx264", "-preset", "ultrafast", "-pix_fmt", "yuv420p"};

    @TempDir
    static Path folder = Path.of("");

    private final MediaEngine engine = MediaEngine.locate();
    private final Footage footage = new Footage(engine);

    @AfterAll
    void close() {
        engine.close();
    }

    private ClipFacts facts(Path file) throws InterruptedException {
        return ((Inspection.Known) new Inspector(engine)
                        .inspect(new ClipSource.SingleFile(file), FrameRate.FPS_25, new Cancellation()))
                .facts();
    }

    private VideoFacts video(Path file) throws InterruptedException {
        return facts(file).video().orElseThrow();
    }

    private List<String> contradictions(Path file) throws InterruptedException {
        return facts(file).findings().contradictions().stream()
                .map(Contradiction::label)
                .toList();
    }

    private Path clip(String name, String raster, int frames, String[] codec, String... more)
            throws InterruptedException {
        var line = new ArrayList<>(List.of(codec));
        line.addAll(List.of(more));
        return footage.clip(folder.resolve(name), raster, "25", frames, line.toArray(String[]::new));
    }

    /// The same packets in another wrapper, with the stream's own statement rewritten on the way.
    private Path rewritten(Path from, String name, String filter) throws InterruptedException {
        Path to = folder.resolve(name);
        engine.run(List.of("-i", "file:" + from, "-c", "copy", "-bsf:v", filter, "file:" + to));
        return to;
    }

    @ParameterizedTest
    @ValueSource(strings = {"mov", "mkv"})
    void aspectAndColourThatContainerAndStreamStateDifferentlyAreFound(String ending) throws InterruptedException {
        String[] tagged = {
            "-vf", "setsar=64/45,setparams=color_primaries=bt709:color_trc=bt709:colorspace=bt709:range=tv"
        };
        Path agreed = clip("agreed." + ending, "720x576", 8, X264, tagged);
        assertThat(contradictions(agreed)).isEmpty();
        Path differ = rewritten(
                agreed,
                "differ." + ending,
                "h264_metadata=sample_aspect_ratio=1/1:colour_primaries=9:matrix_coefficients=9");
        assertThat(contradictions(differ))
                .anySatisfy(line -> assertThat(line).contains("pixel aspect", "64/45", "stream 1"))
                .anySatisfy(line -> assertThat(line).contains("colour primaries", "bt709", "stream bt2020"))
                .anySatisfy(line -> assertThat(line).contains("colour matrix", "bt709", "stream bt2020nc"));
        assertThat(video(differ).pixelAspect()).hasToString("64/45");
        assertThat(video(differ).colour().primaries()).isEqualTo("bt2020");
    }

    @ParameterizedTest
    @ValueSource(strings = {"h264", "hevc"})
    void whatTheStreamStatesIsReadAboveHdWithoutDecoding(String codec) throws InterruptedException {
        String[] encoder = codec.equals("h264")
                ? X264
                : new String[] {
                    "-c:v", "libx265", "-preset", "ultrafast", "-x265-params", "log-level=none", "-tag:v", "hvc1"
                };
        Path agreed = clip(
                codec + "-uhd.mov",
                "3840x2160",
                2,
                encoder,
                "-vf",
                "setparams=color_primaries=bt709:color_trc=bt709:colorspace=bt709");
        assertThat(contradictions(agreed)).isEmpty();
        Path differ = rewritten(agreed, codec + "-uhd-2020.mov", codec + "_metadata=colour_primaries=9");
        assertThat(contradictions(differ)).singleElement().asString().contains("primaries", "bt709", "bt2020");
        assertThat(video(differ).scan()).isEqualTo(ScanType.PROGRESSIVE);
    }

    @Test
    void aRasterThatOnlyTheContainerStatesIsNotBelieved() throws InterruptedException, IOException {
        Path file = clip("raster.mov", "320x180", 5, X264);
        byte[] bytes = Files.readAllBytes(file);
        int description = find(bytes, "avc1".getBytes(StandardCharsets.US_ASCII));
        ByteBuffer.wrap(bytes).putShort(description + 4 + 24, (short) 640);
        Files.write(file, bytes);
        assertThat(contradictions(file)).anySatisfy(line -> assertThat(line).contains("640×180", "320×180"));
        assertThat(video(file).raster()).isEqualTo(new Raster(320, 180));
    }

    @Test
    void fieldsThatTheStreamDeniesAreShownAndKept() throws InterruptedException, IOException {
        Path file = clip("fields.mov", "720x576", 5, X264, "-vf", "setfield=tff", "-flags", "+ilme+ildct");
        assertThat(video(file).scan()).isEqualTo(ScanType.TOP_FIELD_FIRST);
        Path mxf = clip("fields.mxf", "720x576", 12, new String[] {"-c:v", "mpeg2video"}, "-g", "12");
        byte[] bytes = Files.readAllBytes(mxf);
        bytes[find(bytes, new byte[] {0x32, 0x0C, 0, 1, 0}) + 4] = 3; // mixed fields
        Files.write(mxf, bytes);
        assertThat(contradictions(mxf)).anySatisfy(line -> assertThat(line).startsWith("scan:"));
        assertThat(video(mxf).scan().isInterlaced()).isTrue();
    }

    private static int find(byte[] in, byte[] wanted) {
        for (int i = 0; i <= in.length - wanted.length; i++) {
            if (Arrays.mismatch(in, i, i + wanted.length, wanted, 0, wanted.length) < 0) {
                return i;
            }
        }
        throw new AssertionError("not in the file: " + Arrays.toString(wanted));
    }

    @ParameterizedTest
    @ValueSource(strings = {"960x540", "3840x2160"})
    void theDisplayAnHdrClipWasGradedOnIsRead(String raster) throws InterruptedException {
        Path file = clip(
                "hdr-" + raster + ".mp4",
                raster,
                2,
                new String[] {"-c:v", "libx265", "-preset", "ultrafast", "-pix_fmt", "yuv420p10le"},
                "-x265-params",
                "log-level=none:colorprim=bt2020:transfer=smpte2084:colormatrix=bt2020nc:max-cll=1000,400:"
                        + "master-display=G(13250,34500)B(7500,3000)R(34000,16000)WP(15635,16450)L(10000000,50)");
        VideoFacts video = video(file);
        assertThat(video.colour().transfer()).isEqualTo("smpte2084");
        assertThat(video.hdr().mastering()).isEqualTo("1000 cd/m²");
        assertThat(video.hdr().light()).isEqualTo("MaxCLL 1000, MaxFALL 400");
    }

    @Test
    void hevcThatCallsEveryPictureAKeyframeIsNotBelieved() throws InterruptedException, IOException {
        String[] x265 = {"-c:v", "libx265", "-preset", "ultrafast", "-tag:v", "hvc1"};
        Path file = clip(
                "claims.mov",
                "320x180",
                60,
                x265,
                "-x265-params",
                "log-level=none:keyint=20:min-keyint=20:bframes=0:scenecut=0:open-gop=0");
        byte[] bytes = Files.readAllBytes(file);
        String text = new String(bytes, StandardCharsets.ISO_8859_1);
        Files.write(file, text.replace("stss", "free").getBytes(StandardCharsets.ISO_8859_1));
        assertThat(contradictions(file)).anySatisfy(line -> assertThat(line).contains("3 of the first 60"));
        assertThat(video(file).structure().keyframeInterval().meanFrames()).hasToString("20");
    }

    @Test
    void aFragmentedFileIsReadWholeAndSaysWhatACutOneLost() throws InterruptedException, IOException {
        String[] shape = {"-g", "24", "-bf", "2", "-sc_threshold", "0", "-movflags", "frag_keyframe+empty_moov"};
        String[] x264 = {"-c:v", "libx264", "-pix_fmt", "yuv420p"};
        Path fragmented = clip("fragmented.mp4", "320x180", 240, x264, shape);
        Path plain = folder.resolve("plain.mp4");
        engine.run(List.of("-i", "file:" + fragmented, "-c", "copy", "file:" + plain));
        FrameStructure structure = video(fragmented).structure();
        assertThat(structure.extent()).isEqualTo(Extent.WHOLE);
        assertThat(inFrames(structure)).isEqualTo(inFrames(video(plain).structure()));
        assertThat(video(fragmented).frames().count()).isEqualTo(240);
        byte[] bytes = Files.readAllBytes(fragmented);
        Path cut = Files.write(folder.resolve("cut.mp4"), Arrays.copyOf(bytes, bytes.length * 6 / 10));
        ClipFacts left = facts(cut);
        assertThat(left.video().orElseThrow().structure().count()).isBetween(90, 200);
        assertThat(left.complaints()).anySatisfy(line -> assertThat(line).contains("missing at the end"));
    }

    @ParameterizedTest
    @ValueSource(ints = {0, 2})
    void theIndexTablesOfMxfTellWhatItsPacketsTell(int twoWay) throws InterruptedException, IOException {
        Path file = clip(
                "index-" + twoWay + ".mxf",
                "720x576",
                300,
                new String[] {"-c:v", "mpeg2video", "-b:v", "5M"},
                "-g",
                "12",
                "-bf",
                Integer.toString(twoWay));
        FrameStructure byIndex = MxfHeader.structure(file).orElseThrow();
        Path copy = folder.resolve("packets-" + twoWay + ".mkv");
        engine.run(List.of("-i", "file:" + file, "-c", "copy", "file:" + copy));
        FrameStructure byPackets = video(copy).structure();
        assertThat(video(file).structure()).isEqualTo(byIndex);
        assertThat(byIndex.extent()).isEqualTo(Extent.WHOLE);
        assertThat(byIndex.count()).isEqualTo(300);
        List<String> packets = inFrames(byPackets); // the engine reads a stretch where it cannot know of the order
        assertThat(packets).hasSizeGreaterThanOrEqualTo(250);
        assertThat(inFrames(byIndex).subList(0, packets.size())).isEqualTo(packets);
    }

    /// Order of showing and keyframes, without the units of time, which containers choose for themselves.
    private static List<String> inFrames(FrameStructure structure) {
        List<CodedFrame> frames = structure.frames();
        List<Long> order =
                frames.stream().map(CodedFrame::shownAtTicks).sorted().toList();
        return frames.stream()
                .map(frame -> order.indexOf(frame.shownAtTicks()) + (frame.key() ? " key" : ""))
                .toList();
    }

    @Test
    void theWidestGapThatAListOfKeyframesTellsIsLookedAt() throws InterruptedException, IOException {
        // Ten minutes with a keyframe every second; from 400 s on, none for 25 seconds.
        String keys = "expr:not(mod(n,25))*not(between(t,400.5,425))";
        Path file = folder.resolve("gap.mkv");
        var line = new ArrayList<>(List.of("-f", "lavfi", "-i", "nullsrc=size=320x180:rate=25,noise=alls=60:allf=t"));
        line.addAll(List.of("-frames:v", "15000", "-g", "100000", "-sc_threshold", "0", "-bf", "0"));
        line.addAll(List.of(X264));
        line.addAll(List.of("-qp", "12", "-force_key_frames", keys, "file:" + file));
        engine.run(line);
        assertThat(Files.size(file)).isGreaterThan(48L * 1024 * 1024);
        ContainerSays says = ContainerSays.read(file);
        assertThat(says.keyframes()).hasSizeBetween(570, 580);
        assertThat(says.widestGap().orElseThrow().fromSeconds()).isEqualTo(400.0);
        FrameStructure structure = video(file).structure();
        assertThat(structure.extent()).isEqualTo(Extent.STRETCH);
        assertThat(structure.keyframeInterval().worstFrames()).isEqualTo(650);
        Path avi = folder.resolve("keys.avi");
        clip("keys.avi", "320x180", 100, X264, "-g", "25", "-sc_threshold", "0", "-bf", "0");
        assertThat(ContainerSays.read(avi).keyframes()).containsExactly(0.0, 1.0, 2.0, 3.0);
    }
}
