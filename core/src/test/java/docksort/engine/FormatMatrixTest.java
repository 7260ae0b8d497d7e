package docksort.engine;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import docksort.FormatMatrix;
import docksort.FormatMatrix.Case;
import docksort.WithMedia;
import docksort.media.ClipFacts;
import docksort.media.ClipSource;
import docksort.media.FrameRate;
import docksort.media.FrameStructure;
import docksort.media.FrameStructure.Grouping;
import docksort.media.Rational;
import docksort.media.ScanType;
import docksort.media.VideoFacts;
import docksort.media.VideoFacts.RateKind;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.stream.Collectors;
import org.assertj.core.api.SoftAssertions;
import org.assertj.core.data.Offset;
import org.assertj.core.data.Percentage;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/// What is inspected of files of many kinds, held against two readers that share nothing with it: the
/// program `mediainfo` for what headers say, and the decoder, which decodes every picture and counts.
/// What was asked of the encoder is the third.
@WithMedia
class FormatMatrixTest {
    private static final ObjectMapper JSON = new ObjectMapper();

    @TempDir
    static Path folder = Path.of("");

    private static @org.jspecify.annotations.Nullable MediaEngine located;

    @BeforeAll
    static void locate() {
        located = MediaEngine.locate();
    }

    @AfterAll
    static void close() {
        engine().close();
    }

    private static MediaEngine engine() {
        return Objects.requireNonNull(located);
    }

    static List<Case> cases() {
        return FormatMatrix.cases();
    }

    @Test
    void theMatrixIsLargeEnough() {
        assertThat(cases()).hasSizeGreaterThanOrEqualTo(60);
    }

    @ParameterizedTest
    @MethodSource("cases")
    void agreesWithTheIndependentReaders(Case one) throws Exception {
        Path file = FormatMatrix.make(one, folder, engine());
        Inspection inspection =
                new Inspector(engine()).inspect(new ClipSource.SingleFile(file), FrameRate.FPS_25, new Cancellation());
        assertThat(inspection).isInstanceOf(Inspection.Known.class);
        ClipFacts facts = ((Inspection.Known) inspection).facts();
        VideoFacts video = facts.video().orElseThrow();
        var softly = new SoftAssertions();
        asked(one, facts, video, softly);
        headers(one, file, facts, video, softly);
        decoded(file, video, softly);
        softly.assertAll();
    }

    /// What the encoder was asked for.
    private static void asked(Case one, ClipFacts facts, VideoFacts video, SoftAssertions softly) {
        var structure = video.structure();
        softly.assertThat(video.raster().toString().replace('×', 'x'))
                .as("raster")
                .isEqualTo(one.raster());
        if (!one.wants("vfr")) {
            softly.assertThat(video.rate()).as("rate").isEqualTo(FrameRate.parse(one.rate()));
            softly.assertThat(video.frames().count()).as("frames").isEqualTo(one.frames());
        }
        softly.assertThat(video.rateKind())
                .as("rate kind")
                .isEqualTo(one.wants("vfr") ? RateKind.VARIABLE : RateKind.CONSTANT);
        softly.assertThat(structure.isAllIntra()).as("all-intra").isEqualTo(one.wants("intra"));
        one.value("gop")
                .ifPresent(gop -> softly.assertThat(structure.keyframeInterval().meanFrames())
                        .as("keyframe interval")
                        .isEqualTo(Rational.parse(gop)));
        one.value("b")
                .ifPresent(b -> softly.assertThat(structure.longestTwoWayRun())
                        .as("B-frames")
                        .isEqualTo(Integer.parseInt(b)));
        one.value("sar")
                .ifPresent(sar -> softly.assertThat(video.pixelAspect())
                        .as("pixel aspect")
                        .isEqualTo(Rational.parse(sar)));
        one.value("tc")
                .ifPresent(tc -> softly.assertThat(
                                facts.startTimecode().map(Object::toString).orElse("none"))
                        .as("timecode")
                        .isEqualTo(tc));
        one.value("bits")
                .ifPresent(bits ->
                        softly.assertThat(video.pixels().bitDepth()).as("depth").isEqualTo(Integer.parseInt(bits)));
        softly.assertThat(video.pixels().alpha()).as("alpha").isEqualTo(one.wants("alpha"));
        if (one.wants("tff")) {
            softly.assertThat(video.scan()).as("scan").isEqualTo(ScanType.TOP_FIELD_FIRST);
        } else if (one.wants("bff")) {
            softly.assertThat(video.scan()).as("scan").isEqualTo(ScanType.BOTTOM_FIELD_FIRST);
        } else {
            softly.assertThat(video.scan().isInterlaced()).as("interlaced").isFalse();
        }
        if (one.wants("open") || one.wants("closed")) {
            softly.assertThat(structure.grouping())
                    .as("groups")
                    .isEqualTo(one.wants("open") ? Grouping.OPEN : Grouping.CLOSED);
        }
        int channels = facts.audio().stream().mapToInt(a -> a.channels()).sum();
        softly.assertThat(channels).as("sound channels").isEqualTo(one.channels());
        softly.assertThat(facts.findings().contradictions())
                .as("contradictions")
                .isEmpty();
    }

    private static void headers(Case one, Path file, ClipFacts facts, VideoFacts video, SoftAssertions softly)
            throws Exception {
        Process reader = new ProcessBuilder("mediainfo", "--Output=JSON", file.toString()).start();
        JsonNode answer = JSON.readTree(reader.getInputStream());
        JsonNode picture = track(answer, "Video");
        softly.assertThat(video.raster().width())
                .as("mediainfo width")
                .isEqualTo(picture.path("Width").asInt());
        softly.assertThat(video.raster().height())
                .as("mediainfo height")
                .isEqualTo(picture.path("Height").asInt());
        if (picture.has("FrameCount") && !one.wants("vfr")) {
            softly.assertThat(video.frames().count())
                    .as("mediainfo frames")
                    .isEqualTo(picture.path("FrameCount").asLong());
        }
        if (picture.has("FrameRate") && !one.wants("vfr")) {
            softly.assertThat(video.rate().exact().toDouble())
                    .as("mediainfo rate")
                    .isCloseTo(picture.path("FrameRate").asDouble(), Percentage.withPercentage(0.1));
        }
        if (picture.has("BitDepth") && !one.name().startsWith("prores-4444")) {
            softly.assertThat(video.pixels().bitDepth())
                    .as("mediainfo depth")
                    .isEqualTo(picture.path("BitDepth").asInt());
        }
        if (picture.has("PixelAspectRatio")) {
            softly.assertThat(video.pixelAspect().toDouble())
                    .as("mediainfo pixel aspect")
                    .isCloseTo(picture.path("PixelAspectRatio").asDouble(), Offset.offset(0.002));
        }
        if (picture.path("ScanType").asText("").equals("Interlaced")) {
            softly.assertThat(video.scan().isInterlaced()).as("mediainfo scan").isTrue();
        }
        JsonNode sound = track(answer, "Audio");
        softly.assertThat(facts.audio().isEmpty()).as("mediainfo sound").isEqualTo(sound.isMissingNode());
        if (!sound.isMissingNode() && facts.audio().size() == 1) {
            softly.assertThat(facts.audio().getFirst().channels())
                    .as("mediainfo channels")
                    .isEqualTo(sound.path("Channels").asInt());
        }
    }

    private static JsonNode track(JsonNode answer, String type) {
        for (JsonNode track : answer.path("media").path("track")) {
            if (track.path("@type").asText().equals(type)) {
                return track;
            }
        }
        return JSON.missingNode();
    }

    /// Every picture decoded: their number, where keyframes lie, and the longest run of B pictures as
    /// shown.
    private static void decoded(Path file, VideoFacts video, SoftAssertions softly) throws Exception {
        var builder = new ProcessBuilder(
                engine().ffprobeProgram().toString(),
                "-v",
                "error",
                "-select_streams",
                "v:0",
                "-show_entries",
                "frame=key_frame,pict_type",
                "-of",
                "csv=p=0",
                file.toString());
        builder.environment()
                .put("LD_LIBRARY_PATH", String.valueOf(engine().ffprobeProgram().getParent()));
        builder.redirectError(ProcessBuilder.Redirect.DISCARD);
        List<String[]> pictures = new String(builder.start().getInputStream().readAllBytes(), StandardCharsets.UTF_8)
                .lines()
                .filter(line -> !line.isBlank())
                .map(line -> line.split(","))
                .toList();
        if (video.rateKind() == RateKind.CONSTANT) {
            softly.assertThat(video.frames().count()).as("decoded frames").isEqualTo(pictures.size());
        }
        var structure = video.structure();
        if (structure.extent() == FrameStructure.Extent.STRETCH) {
            return;
        }
        if (video.codec().name().equals("cfhd") || video.codec().name().equals("qtrle")) {
            return; // their decoders mark no keyframes
        }
        long keys = pictures.stream().filter(p -> p[0].equals("1")).count();
        softly.assertThat(structure.frames().stream().filter(f -> f.key()).count())
                .as("decoded keyframes")
                .isEqualTo(keys);
        if (keys > 1) {
            int first = -1;
            int last = -1;
            for (int i = 0; i < pictures.size(); i++) {
                if (pictures.get(i)[0].equals("1")) {
                    first = first < 0 ? i : first;
                    last = i;
                }
            }
            softly.assertThat(structure.keyframeInterval().meanFrames())
                    .as("decoded keyframe interval")
                    .isEqualTo(new Rational(last - first, keys - 1));
        }
        Map<Boolean, Long> kinds =
                pictures.stream().collect(Collectors.partitioningBy(p -> p[1].equals("B"), Collectors.counting()));
        boolean ordered =
                video.codec().name().equals("h264") || video.codec().name().equals("mpeg2video");
        if (ordered) {
            softly.assertThat(structure.kinds().stream()
                            .filter(k -> k == FrameStructure.FrameKind.TWO_WAY)
                            .count())
                    .as("decoded B pictures")
                    .isEqualTo(kinds.getOrDefault(true, 0L));
        }
    }
}
