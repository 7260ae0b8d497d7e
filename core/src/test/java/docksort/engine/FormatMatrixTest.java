package docksort.engine;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import docksort.media.ClipFacts;
import docksort.media.ClipSource;
import docksort.media.FrameRate;
import docksort.media.FrameStructure.Grouping;
import docksort.media.Rational;
import docksort.media.ScanType;
import docksort.media.VideoFacts;
import docksort.media.VideoFacts.RateKind;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.assertj.core.api.SoftAssertions;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/// What is inspected of files of many kinds, held against two readers that share nothing with it: the program
/// `mediainfo` for what headers say, and the decoder, which decodes every picture and counts. What was asked of
/// the
/// encoder is the third.
class FormatMatrixTest {
    private static final ObjectMapper JSON = new ObjectMapper();
    private static final String X264 = "-c:v libx264 -preset ultrafast -pix_fmt yuv420p -x264-params scenecut=0:";
    private static final String X265 =
            "-c:v libx265 -preset ultrafast -pix_fmt yuv420p -x265-params log-level=none:scenecut=0:";

    /// name | frames | rate | raster | channels | arguments | what must be found
    private static final String CASES = """
        h264-g1.mov | 30 | 25 | 192x108 | 0 | {x264}keyint=1:bframes=0 | intra
        h264-g12.mov | 60 | 25 | 192x108 | 1 | {x264}keyint=12:min-keyint=12:bframes=0 | gop=12 b=0 closed
        h264-g12-b1.mov | 60 | 24000/1001 | 192x108 | 2 | {x264}keyint=12:min-keyint=12:bframes=1:b-adapt=0 | gop=12 b=1 closed
        h264-g50-b3.mov | 120 | 25 | 192x108 | 0 | {x264}keyint=50:min-keyint=50:bframes=3:b-adapt=0:b-pyramid=none | gop=50 b=3 closed
        h264-g250.mov | 510 | 50 | 128x72 | 0 | {x264}keyint=250:min-keyint=250:bframes=0 | gop=250 b=0 closed
        h264-g600.mp4 | 1210 | 60 | 128x72 | 2 | {x264}keyint=600:min-keyint=600:bframes=2:b-adapt=0:b-pyramid=none | gop=600 b=2 closed
        h264-open.mp4 | 60 | 25 | 192x108 | 0 | {x264}keyint=12:min-keyint=12:bframes=3:b-adapt=0:open-gop=1 | open
        h264-open.mkv | 60 | 25 | 192x108 | 0 | {x264}keyint=12:min-keyint=12:bframes=3:b-adapt=0:open-gop=1 | open
        h264-tff.mov | 40 | 25 | 720x576 | 2 | -vf setfield=tff -flags +ilme+ildct {x264}keyint=12:bframes=0 | tff
        h264-bff.mp4 | 40 | 30000/1001 | 720x480 | 2 | {x264}keyint=12:bframes=0:bff=1 | bff
        h264-wide.mov | 40 | 25 | 720x576 | 0 | -vf setsar=64/45 {x264}keyint=12 | sar=64/45
        h264-wide.mkv | 40 | 25 | 720x576 | 0 | -vf setsar=64/45 {x264}keyint=12 | sar=64/45
        h264-wide.mp4 | 40 | 30000/1001 | 720x480 | 0 | -vf setsar=8/9 {x264}keyint=12 | sar=8/9
        h264-drop.mov | 60 | 30000/1001 | 192x108 | 0 | {x264}keyint=12 -timecode 01:00:00;02 | tc=01:00:00;02
        h264-nondrop.mov | 60 | 30000/1001 | 192x108 | 0 | {x264}keyint=12 -timecode 01:00:00:02 | tc=01:00:00:02
        h264-drop60.mp4 | 60 | 60000/1001 | 192x108 | 0 | {x264}keyint=12 -timecode 10:00:00;04 | tc=10:00:00;04
        h264-100.mov | 60 | 100 | 192x108 | 0 | {x264}keyint=12 | rate=100
        h264-120.mp4 | 60 | 120 | 192x108 | 0 | {x264}keyint=12 | rate=120
        h264-vfr.mp4 | 90 | 60 | 192x108 | 2 | -vf select='not(mod(n,3))+eq(mod(n,7),1)' -fps_mode vfr {x264}keyint=60 | vfr
        h264-vfr.mkv | 90 | 60 | 192x108 | 0 | -vf select='not(mod(n,3))+eq(mod(n,7),1)' -fps_mode vfr {x264}keyint=60 | vfr
        h264.avi | 60 | 25 | 192x108 | 2 | {x264}keyint=12:min-keyint=12:bframes=0 -c:a pcm_s16le | gop=12 b=0
        h264-b2.avi | 60 | 25 | 192x108 | 0 | {x264}keyint=12:min-keyint=12:bframes=2:b-adapt=0:b-pyramid=none | gop=12 b=2
        h264.ts | 60 | 25 | 192x108 | 2 | {x264}keyint=12:min-keyint=12:bframes=1:b-adapt=0 -c:a mp2 | gop=12 b=1 closed
        h264-tff.ts | 40 | 25 | 720x576 | 0 | -vf setfield=tff -flags +ilme+ildct {x264}keyint=12:bframes=0 | tff
        h264.mkv | 60 | 30 | 192x108 | 6 | {x264}keyint=12:min-keyint=12:bframes=3:b-adapt=0:b-pyramid=none -c:a pcm_s24le | gop=12 b=3 closed
        h264.mxf | 60 | 25 | 192x108 | 8 | {x264}keyint=12:min-keyint=12:bframes=1:b-adapt=0 -c:a pcm_s24le -ar 48000 | gop=12
        h264-422-10.mov | 30 | 25 | 192x108 | 8 | {x264}keyint=12 -pix_fmt yuv422p10le -c:a pcm_s24le | bits=10
        h264-444.mp4 | 30 | 25 | 192x108 | 0 | {x264}keyint=12 -pix_fmt yuv444p | bits=8
        h264-odd.mp4 | 30 | 25 | 190x106 | 0 | {x264}keyint=12 | bits=8
        hevc-8.mov | 60 | 25 | 192x108 | 2 | {x265}keyint=12:min-keyint=12:bframes=0:open-gop=0 -tag:v hvc1 | gop=12 b=0 closed
        hevc-10.mp4 | 60 | 24 | 192x108 | 2 | {x265}keyint=12:min-keyint=12:bframes=3:b-adapt=0:b-pyramid=0:open-gop=0 -pix_fmt yuv420p10le | gop=12 b=3 closed bits=10
        hevc-open.mp4 | 60 | 25 | 192x108 | 0 | {x265}keyint=12:min-keyint=12:bframes=3:b-adapt=0:open-gop=1 | open
        hevc-radl.mp4 | 60 | 25 | 192x108 | 0 | {x265}keyint=12:min-keyint=12:bframes=3:b-adapt=0:open-gop=0:radl=2 | closed
        hevc-12.mkv | 24 | 25 | 192x108 | 0 | {x265}keyint=12:open-gop=0 -pix_fmt yuv420p12le | bits=12
        hevc-422-10.mov | 24 | 50 | 192x108 | 2 | {x265}keyint=12:open-gop=0 -pix_fmt yuv422p10le | bits=10
        hevc.ts | 60 | 25 | 192x108 | 0 | {x265}keyint=12:min-keyint=12:bframes=0:open-gop=0 | gop=12 b=0
        hevc-intra.mov | 20 | 25 | 192x108 | 0 | {x265}keyint=1 | intra
        prores-proxy.mov | 20 | 25 | 192x108 | 2 | -c:v prores -profile:v 0 -pix_fmt yuv422p10le -c:a pcm_s16le | intra bits=10
        prores-hq.mov | 20 | 24000/1001 | 192x108 | 8 | -c:v prores_ks -profile:v 3 -pix_fmt yuv422p10le -c:a pcm_s24le | intra bits=10
        prores-4444.mov | 12 | 25 | 192x108 | 0 | -c:v prores_ks -profile:v 4 -pix_fmt yuva444p10le | intra alpha
        prores-tff.mov | 20 | 25 | 720x576 | 2 | -c:v prores_ks -profile:v 2 -pix_fmt yuv422p10le -flags +ildct -top 1 -vf setfield=tff -c:a pcm_s16le | intra tff
        prores.mkv | 20 | 25 | 192x108 | 0 | -c:v prores -pix_fmt yuv422p10le | intra
        prores.mxf | 20 | 25 | 192x108 | 2 | -c:v prores_ks -profile:v 2 -pix_fmt yuv422p10le -c:a pcm_s16le -ar 48000 | intra
        vc3-lb.mov | 20 | 25 | 960x540 | 2 | -c:v dnxhd -profile:v dnxhr_lb -pix_fmt yuv422p -c:a pcm_s16le | intra bits=8
        vc3-hqx.mov | 12 | 25 | 960x540 | 0 | -c:v dnxhd -profile:v dnxhr_hqx -pix_fmt yuv422p10le | intra bits=10
        vc3-hd.mxf | 8 | 25 | 1920x1080 | 2 | -c:v dnxhd -b:v 120M -pix_fmt yuv422p -c:a pcm_s16le -ar 48000 | intra bits=8
        vc3-hd-tff.mov | 8 | 25 | 1920x1080 | 0 | -c:v dnxhd -b:v 120M -pix_fmt yuv422p -flags +ildct+ilme -top 1 -vf setfield=tff | intra tff
        mpeg2.mxf | 60 | 25 | 720x576 | 2 | -c:v mpeg2video -g 12 -bf 2 -b:v 5M -c:a pcm_s16le -ar 48000 | b=2
        mpeg2-closed.mxf | 60 | 25 | 192x108 | 0 | -c:v mpeg2video -g 12 -bf 0 -flags +cgop -sc_threshold 1000000000 | b=0
        mpeg2-intra.mxf | 30 | 25 | 192x108 | 0 | -c:v mpeg2video -g 1 -pix_fmt yuv422p | intra
        mpeg2.ts | 60 | 25 | 192x108 | 2 | -c:v mpeg2video -g 15 -bf 2 -c:a mp2 | b=2
        mpeg2.mkv | 60 | 30000/1001 | 192x108 | 0 | -c:v mpeg2video -g 15 -bf 1 | b=1
        mpeg2.mov | 60 | 25 | 192x108 | 0 | -c:v mpeg2video -g 12 -bf 2 | b=2
        mjpeg.mov | 20 | 25 | 192x108 | 1 | -c:v mjpeg -pix_fmt yuvj422p -c:a pcm_s16le | intra
        mjpeg.avi | 20 | 30 | 192x108 | 2 | -c:v mjpeg -pix_fmt yuvj420p -c:a pcm_s16le | intra
        mjpeg.mkv | 20 | 25 | 192x108 | 0 | -c:v mjpeg -pix_fmt yuvj420p | intra
        vp9.mkv | 40 | 25 | 192x108 | 2 | -c:v libvpx-vp9 -deadline realtime -cpu-used 8 -g 12 -keyint_min 12 -lag-in-frames 0 -c:a libopus | gop=12 b=0
        vp9.mp4 | 40 | 30 | 192x108 | 0 | -c:v libvpx-vp9 -deadline realtime -cpu-used 8 -g 12 -keyint_min 12 -lag-in-frames 0 | gop=12 b=0
        vp9.webm | 24 | 50 | 192x108 | 0 | -c:v libvpx-vp9 -deadline realtime -cpu-used 8 -g 12 | bits=8
        av1.mkv | 24 | 25 | 192x108 | 0 | -c:v libsvtav1 -preset 13 -g 12 -svtav1-params pred-struct=1 | gop=12
        av1.mp4 | 24 | 25 | 192x108 | 2 | -c:v libsvtav1 -preset 13 -g 12 -pix_fmt yuv420p10le -svtav1-params pred-struct=1 | gop=12 bits=10
        ffv1.mkv | 12 | 25 | 192x108 | 2 | -c:v ffv1 -g 1 -pix_fmt yuv422p10le -c:a flac | intra bits=10
        ffv1-12.mkv | 12 | 25 | 192x108 | 0 | -c:v ffv1 -g 1 -pix_fmt yuv422p12le | intra bits=12
        ffv1-444.avi | 12 | 25 | 192x108 | 0 | -c:v ffv1 -g 1 -pix_fmt yuv444p | intra bits=8
        cineform.mov | 12 | 25 | 192x112 | 0 | -c:v cfhd -pix_fmt yuv422p10le | intra bits=10
        png-alpha.mov | 12 | 25 | 192x108 | 0 | -c:v png -pix_fmt rgba | intra alpha
        rle-alpha.mov | 12 | 25 | 192x108 | 0 | -c:v qtrle -pix_fmt argb | alpha
        """;

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
        return java.util.Objects.requireNonNull(located);
    }

    record Case(String name, int frames, String rate, String raster, int channels, String arguments, String found) {
        @Override
        public String toString() {
            return name;
        }

        boolean wants(String word) {
            return List.of(found.split(" ")).contains(word);
        }

        Optional<String> value(String key) {
            return Stream.of(found.split(" "))
                    .filter(word -> word.startsWith(key + "="))
                    .map(word -> word.substring(key.length() + 1))
                    .findFirst();
        }
    }

    static List<Case> cases() {
        return CASES.lines()
                .map(line -> line.split(" \\| "))
                .map(c ->
                        new Case(c[0], Integer.parseInt(c[1]), c[2], c[3], Integer.parseInt(c[4]), c[5], c[6].strip()))
                .toList();
    }

    @Test
    void theMatrixIsLargeEnough() {
        assertThat(cases()).hasSizeGreaterThanOrEqualTo(60);
    }

    @ParameterizedTest
    @MethodSource("cases")
    void agreesWithTheIndependentReaders(Case one) throws Exception {
        Path file = make(one);
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

    private static Path make(Case one) throws InterruptedException {
        Path file = folder.resolve(one.name);
        var line = new ArrayList<String>(
                List.of("-f", "lavfi", "-i", "testsrc2=size=" + one.raster + ":rate=" + one.rate));
        if (one.channels > 0) {
            double seconds = FrameRate.parse(one.rate).secondsOf(one.frames).toDouble();
            line.addAll(List.of(
                    "-f", "lavfi", "-i", "sine=sample_rate=48000:duration=" + seconds, "-ac", one.channels + ""));
        }
        if (!one.wants("vfr")) {
            line.addAll(List.of("-frames:v", one.frames + ""));
        } else {
            line.addAll(List.of(
                    "-t", FrameRate.parse(one.rate).secondsOf(one.frames).toDouble() + ""));
        }
        line.addAll(Arrays.asList(
                one.arguments.replace("{x264}", X264).replace("{x265}", X265).split(" ")));
        line.add("file:" + file);
        engine().run(line);
        return file;
    }

    /// What the encoder was asked for.
    private static void asked(Case one, ClipFacts facts, VideoFacts video, SoftAssertions softly) {
        var structure = video.structure();
        softly.assertThat(video.raster().toString().replace('×', 'x'))
                .as("raster")
                .isEqualTo(one.raster);
        if (!one.wants("vfr")) {
            softly.assertThat(video.rate()).as("rate").isEqualTo(FrameRate.parse(one.rate));
            softly.assertThat(video.frames().count()).as("frames").isEqualTo(one.frames);
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
        softly.assertThat(channels).as("sound channels").isEqualTo(one.channels);
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
                    .isCloseTo(
                            picture.path("FrameRate").asDouble(), org.assertj.core.data.Percentage.withPercentage(0.1));
        }
        if (picture.has("BitDepth") && !one.name.startsWith("prores-4444")) {
            softly.assertThat(video.pixels().bitDepth())
                    .as("mediainfo depth")
                    .isEqualTo(picture.path("BitDepth").asInt());
        }
        if (picture.has("PixelAspectRatio")) {
            softly.assertThat(video.pixelAspect().toDouble())
                    .as("mediainfo pixel aspect")
                    .isCloseTo(picture.path("PixelAspectRatio").asDouble(), org.assertj.core.data.Offset.offset(0.002));
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

    /// Every picture decoded: their number, where keyframes lie, and the longest run of B pictures as shown.
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
        List<String[]> pictures = new String(
                        builder.start().getInputStream().readAllBytes(), java.nio.charset.StandardCharsets.UTF_8)
                .lines()
                .filter(line -> !line.isBlank())
                .map(line -> line.split(","))
                .toList();
        if (video.rateKind() == RateKind.CONSTANT) {
            softly.assertThat(video.frames().count()).as("decoded frames").isEqualTo(pictures.size());
        }
        var structure = video.structure();
        if (structure.extent() == docksort.media.FrameStructure.Extent.STRETCH) {
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
                            .filter(k -> k == docksort.media.FrameStructure.FrameKind.TWO_WAY)
                            .count())
                    .as("decoded B pictures")
                    .isEqualTo(kinds.getOrDefault(true, 0L));
        }
    }
}
