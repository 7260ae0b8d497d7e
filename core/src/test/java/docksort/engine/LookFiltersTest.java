package docksort.engine;

import static org.assertj.core.api.Assertions.assertThat;

import docksort.Clips;
import docksort.WithMedia;
import docksort.look.LookTable;
import docksort.media.ColourDecision;
import docksort.media.ColourDecision.Channels;
import docksort.media.KeptFile;
import docksort.media.Look;
import docksort.media.VideoFacts;
import docksort.media.VideoTarget;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Random;
import java.util.stream.Stream;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;

/// The engine's filters held against arithmetic: colours of a frame of ten bits, by the matrix of Rec. ITU-R
/// BT.709 to red, green and blue, through the look as this program's own code has it, and back.
@WithMedia
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class LookFiltersTest {
    private static final int SIDE = 64;

    @TempDir
    Path folder = Path.of("");

    private final MediaEngine engine = MediaEngine.locate();

    @AfterAll
    void close() {
        engine.close();
    }

    /// With bends that a linear mapping has not.
    private static LookTable curved(int size) {
        var text = new StringBuilder("LUT_3D_SIZE " + size + "\n");
        double most = size - 1.0;
        for (int i = 0; i < size * size * size; i++) {
            double red = i % size / most;
            double green = i / size % size / most;
            int layer = i / (size * size);
            double blue = layer / most;
            text.append(String.format(
                    Locale.ROOT,
                    "%.6f %.6f %.6f%n",
                    0.8 * Math.pow(red, 0.7) + 0.1 * green,
                    Math.pow(green, 1.3),
                    0.7 * Math.sqrt(blue) + 0.2 * red));
        }
        return LookTable.parse(text.toString().getBytes(StandardCharsets.UTF_8), "curved.cube");
    }

    static Stream<Arguments> looks() {
        var values = new ColourDecision(
                new Channels(1.2, 1, 0.8),
                new Channels(-0.05, 0.02, 0.1),
                new Channels(1.1, 0.9, 1),
                /* saturation= */ 0.7);
        return Stream.of(
                Arguments.of("values", Optional.of(values), Optional.empty()),
                Arguments.of("more colourful", Optional.of(more()), Optional.empty()),
                Arguments.of("table", Optional.empty(), Optional.of(curved(17))),
                Arguments.of("small table", Optional.empty(), Optional.of(curved(2))),
                Arguments.of("both", Optional.of(values), Optional.of(curved(33))));
    }

    private static ColourDecision more() {
        ColourDecision none = ColourDecision.NONE;
        return new ColourDecision(none.slope(), none.offset(), none.power(), /* saturation= */ 1.8);
    }

    @ParameterizedTest(name = "{0}")
    @MethodSource("looks")
    void theEnginesLookIsTheFormulasWithinOneCodeValue(
            String name, Optional<ColourDecision> values, Optional<LookTable> table) throws Exception {
        Optional<KeptFile> named = table.map(its -> its.named("curved 'night', [1].cube"));
        named.ifPresent(its -> KeptFiles.keep(
                KeptFile.Kind.TABLE, its, () -> table.orElseThrow().text()));
        var look = new Look(false, values, named);
        short[][] in = colours();
        Path raw = folder.resolve(name + ".yuv");
        Files.write(raw, bytes(in));
        VideoFacts picture = Clips.named("l").bits(10).clip().facts().video().orElseThrow();
        List<String> filters = LookFilters.of(look, picture, VideoTarget.VC3_444, picture.raster());
        Path out = folder.resolve(name + "-out.yuv");
        String size = SIDE + "x" + SIDE;
        engine.run(Stream.of(
                        List.of("-f", "rawvideo", "-pix_fmt", "yuv444p10le", "-s", size, "-i", "file:" + raw),
                        List.of("-vf", "setparams=range=tv:colorspace=bt709," + String.join(",", filters)),
                        List.of("-pix_fmt", "yuv444p10le", "-f", "rawvideo", "-y", "file:" + out))
                .flatMap(List::stream)
                .toList());
        short[][] found = planes(Files.readAllBytes(out));
        int worst = 0;
        for (int i = 0; i < SIDE * SIDE; i++) {
            Channels colour = rgb(in[0][i], in[1][i], in[2][i]);
            if (values.isPresent()) {
                colour = values.get().apply(colour);
            }
            if (table.isPresent()) {
                colour = table.get().apply(colour);
            }
            int[] wanted = coded(colour);
            for (int plane = 0; plane < 3; plane++) {
                worst = Math.max(worst, Math.abs(wanted[plane] - found[plane][i]));
            }
        }
        assertThat(worst).as("code values of ten bits").isLessThanOrEqualTo(1);
    }

    /// Luma and two differences of colours that are red, green and blue somewhere.
    private static short[][] colours() {
        var random = new Random(64);
        var planes = new short[3][SIDE * SIDE];
        for (int i = 0; i < SIDE * SIDE; i++) {
            int[] coded = coded(new Channels(random.nextDouble(), random.nextDouble(), random.nextDouble()));
            for (int plane = 0; plane < 3; plane++) {
                planes[plane][i] = (short) coded[plane];
            }
        }
        return planes;
    }

    /// Ten bits of video range: black at 64, white at 940, no colour at 512 (Rec. ITU-R BT.709, item 5).
    private static int[] coded(Channels colour) {
        double luma = 0.2126 * colour.red() + 0.7152 * colour.green() + 0.0722 * colour.blue();
        return new int[] {
            (int) Math.round(64 + 876 * luma),
            (int) Math.round(512 + 896 * (colour.blue() - luma) / 1.8556),
            (int) Math.round(512 + 896 * (colour.red() - luma) / 1.5748)
        };
    }

    private static Channels rgb(int luma, int blueDifference, int redDifference) {
        double y = (luma - 64) / 876.0;
        double red = y + 1.5748 * (redDifference - 512) / 896;
        double blue = y + 1.8556 * (blueDifference - 512) / 896;
        double green = (y - 0.2126 * red - 0.0722 * blue) / 0.7152;
        return new Channels(Math.clamp(red, 0, 1), Math.clamp(green, 0, 1), Math.clamp(blue, 0, 1));
    }

    private static byte[] bytes(short[][] planes) {
        ByteBuffer bytes = ByteBuffer.allocate(6 * SIDE * SIDE).order(ByteOrder.LITTLE_ENDIAN);
        for (short[] plane : planes) {
            bytes.asShortBuffer().put(plane);
            bytes.position(bytes.position() + 2 * plane.length);
        }
        return bytes.array();
    }

    private static short[][] planes(byte[] bytes) {
        assertThat(bytes).hasSize(6 * SIDE * SIDE);
        var all = ByteBuffer.wrap(bytes).order(ByteOrder.LITTLE_ENDIAN).asShortBuffer();
        var planes = new short[3][SIDE * SIDE];
        for (short[] plane : planes) {
            all.get(plane);
        }
        return planes;
    }
}
