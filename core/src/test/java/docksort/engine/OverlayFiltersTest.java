package docksort.engine;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import docksort.Clips;
import docksort.WithMedia;
import docksort.media.BurnIns;
import docksort.media.ClipFacts;
import docksort.media.ClipSource;
import docksort.media.CopyForm;
import docksort.media.FrameLines;
import docksort.media.FrameLines.Outside;
import docksort.media.FrameRate;
import docksort.media.Raster;
import docksort.media.VideoFacts.RateKind;
import docksort.media.VideoTarget;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/// What comes out of the filters with frame lines beside what comes out without: 640x360 of 2.39 has 268 lines in
/// the middle and 46 at either edge.
@WithMedia
class OverlayFiltersTest {
    private static final int WIDTH = 640;
    private static final int HEIGHT = 360;
    private static final int EDGE = 46;
    private static final int FRAMES = 3;

    @TempDir
    Path folder = Path.of("");

    private final MediaEngine engine = MediaEngine.locate();

    @AfterEach
    void close() {
        engine.close();
    }

    @ParameterizedTest
    @CsvSource({
        "yuv422p10le, tv, PRORES_PROXY, yuv422p10le, BLACK",
        "yuv420p, tv, H264_LONG, yuv420p, BLACK",
        "yuv444p10le, tv, PRORES_4444, yuv444p10le, DIMMED",
        "yuva444p10le, tv, PRORES_4444, yuva444p10le, BLACK",
        "yuv420p, pc, MOTION_JPEG, yuvj422p, DIMMED",
        "gbrp, pc, VC3_LB, yuv422p, DIMMED",
        "gbrp, pc, CINEFORM_ALPHA, gbrp12le, BLACK",
        "yuv422p10le, tv, CINEFORM, yuv422p10le, LINE"
    })
    void whatIsKeptStaysAsItIs(String pixels, String range, VideoTarget target, String coded, Outside outside)
            throws Exception {
        Path clip = folder.resolve("clip.mkv");
        engine.run(List.of(
                "-f",
                "lavfi",
                "-i",
                "testsrc2=size=640x360:rate=25,format=" + pixels,
                "-frames:v",
                Integer.toString(FRAMES),
                "-color_range",
                range,
                "-c:v",
                "ffv1",
                "file:" + clip));
        var source = new ClipSource.SingleFile(clip);
        ClipFacts facts = ((Inspection.Known)
                        new Inspector(engine).inspect(source, FrameRate.FPS_25, new Cancellation()))
                .facts();
        CopyForm plain = Clips.form(facts, target, new Raster(WIDTH, HEIGHT));
        var lines = new BurnIns(List.of(), Optional.of(FrameLines.parse("2.39", outside)), Optional.empty());
        int[] without = samples(source, facts, plain, coded);
        int[] with = samples(source, facts, Clips.drawing(plain, lines), coded);

        boolean rgb = coded.startsWith("gbr");
        boolean deep = coded.contains("1");
        int most = !deep ? 255 : rgb ? 4095 : 1023;
        boolean full = rgb || (range.equals("pc") && coded.startsWith("yuvj"));
        double black = full ? 0 : most * 16 / 255.0;
        double white = full ? most : most * 235 / 255.0;
        int frame = without.length / FRAMES;
        for (int i = 0; i < FRAMES; i++) {
            for (int y = 0; y < HEIGHT; y++) {
                for (int x = 0; x < WIDTH; x += 7) {
                    int at = i * frame + y * WIDTH + x;
                    String place = "frame %d, line %d, sample %d".formatted(i, y, x);
                    if (y >= EDGE && y < HEIGHT - EDGE) {
                        assertThat(with[at]).as(place).isCloseTo(without[at], within(rgb ? most / 200 : 0));
                    } else if (outside == Outside.BLACK) {
                        assertThat((double) with[at]).as(place).isCloseTo(black, within(most / 250.0));
                    } else if (outside == Outside.DIMMED) {
                        // Black over it, of six tenths.
                        assertThat((double) with[at])
                                .as(place)
                                .isCloseTo(black + (without[at] - black) * 0.4, within(most / 100.0));
                    } else {
                        int away = y < EDGE ? EDGE - 1 - y : y - (HEIGHT - EDGE);
                        double line = away < 2 ? white : black;
                        double share = away < 4 ? 0.9 : 0;
                        assertThat((double) with[at])
                                .as(place)
                                .isCloseTo(line * share + without[at] * (1 - share), within(most / 100.0));
                    }
                }
            }
        }
    }

    /// Two copies from one decode whose frames are evened out: with sources within their graphs the engine waited
    /// for ever.
    @Test
    @Timeout(120)
    void copiesOfAVariableRateComeToTheirEnd() throws Exception {
        Path clip = folder.resolve("varies.mkv");
        engine.run(List.of(
                "-f",
                "lavfi",
                "-i",
                "testsrc2=size=256x144:rate=30,setpts='PTS+0.012*sin(N)/TB'",
                "-frames:v",
                "90",
                "-fps_mode",
                "passthrough",
                "-c:v",
                "libx264",
                "-bf",
                "0",
                "file:" + clip));
        var source = new ClipSource.SingleFile(clip);
        ClipFacts facts = ((Inspection.Known)
                        new Inspector(engine).inspect(source, FrameRate.FPS_25, new Cancellation()))
                .facts();
        assertThat(facts.video().orElseThrow().rateKind()).isEqualTo(RateKind.VARIABLE);
        var lines = new BurnIns(List.of(), Optional.of(FrameLines.parse("2.39", Outside.LINE)), Optional.empty());
        List<CopyOrder> orders = Stream.of(VideoTarget.PRORES_PROXY, VideoTarget.H264_LONG)
                .map(target -> new CopyOrder(
                                source,
                                facts,
                                Clips.drawing(Clips.form(facts, target, new Raster(128, 72)), lines),
                                "varies",
                                Map.of(),
                                folder.resolve(target + ".mov"))
                        .telling(folder.resolve(target + ".frames")))
                .toList();
        assertThat(new CopyMaker(engine).make(orders, (_, _) -> {}, ProcessControl.of(new Cancellation())))
                .isInstanceOf(CopyMaker.Outcome.Written.class);
    }

    /// The first plane of each frame: luma, or green.
    private int[] samples(ClipSource.SingleFile source, ClipFacts facts, CopyForm form, String coded) throws Exception {
        var order = new CopyOrder(source, facts, form, "clip", Map.of(), folder.resolve("copy"));
        Path raw = folder.resolve("raw");
        var line = new ArrayList<>(List.of("-i", "file:" + source.head()));
        OverlayFilters.sources(form.burnIns(), form.raster(), form.pixelAspect())
                .forEach(overlay -> line.addAll(List.of("-f", "lavfi", "-i", overlay)));
        String filters = PictureFilters.of(
                order, facts.video().orElseThrow(), form.target().orElseThrow(), 1);
        line.addAll(List.of("-filter_complex", "[0:V:0]" + filters + "[out]", "-map", "[out]"));
        line.addAll(List.of("-pix_fmt", coded, "-f", "rawvideo", "-y", "file:" + raw));
        engine.run(line);
        ByteBuffer bytes = ByteBuffer.wrap(Files.readAllBytes(raw)).order(ByteOrder.LITTLE_ENDIAN);
        int size = coded.contains("1") ? 2 : 1;
        int frame = bytes.remaining() / FRAMES;
        var samples = new int[FRAMES * WIDTH * HEIGHT];
        for (int i = 0; i < samples.length; i++) {
            int at = i / (WIDTH * HEIGHT) * frame + i % (WIDTH * HEIGHT) * size;
            samples[i] = size == 2 ? bytes.getShort(at) : bytes.get(at) & 0xFF;
        }
        return samples;
    }
}
