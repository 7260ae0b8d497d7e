package docksort.look;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import docksort.media.ColourDecision;
import docksort.media.ColourDecision.Channels;
import docksort.media.Look;
import docksort.problem.CoreException.InputRefused;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.util.Locale;
import java.util.Optional;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class LookTableTest {
    private static final String CORNERS = """
        # made by hand
        TITLE "Night"
        LUT_3D_SIZE 2
        DOMAIN_MIN 0.0 0.0 0.0
        DOMAIN_MAX 1 1 1

        0 0 0
        1 0 0
        0 1 0
        1 1 0
        0 0 1
        1 0 1
        0 1 1
        1 1 1
        """;

    private static LookTable table(String text) {
        return LookTable.parse(text.getBytes(StandardCharsets.UTF_8), "night.cube");
    }

    private static void same(Channels found, double red, double green, double blue) {
        assertThat(found.all().stream().mapToDouble(Double::doubleValue).toArray())
                .containsExactly(new double[] {red, green, blue}, within(1e-6));
    }

    /// Corners by their place in the file, red fastest; what lies between them by arithmetic on paper: in the
    /// tetrahedron of red before green before blue it is 0.5 x black + 0.25 x red + 0.15 x yellow + 0.1 x white.
    @Test
    void redChangesFastestAndBetweenCornersIsTheMeanOfATetrahedron() {
        LookTable as = table(CORNERS);
        same(as.apply(new Channels(0.2, 0.7, 0.4)), 0.2, 0.7, 0.4);
        LookTable other = table(CORNERS.replace("\n1 0 0\n", "\n0.5 0.25 0\n").replace("\n1 1 0\n", "\n0.8 0.6 0.4\n"));
        same(other.apply(new Channels(1, 0, 0)), 0.5, 0.25, 0);
        same(
                other.apply(new Channels(0.5, 0.25, 0.1)),
                0.25 * 0.5 + 0.15 * 0.8 + 0.1,
                0.25 * 0.25 + 0.15 * 0.6 + 0.1,
                0.15 * 0.4 + 0.1);
        same(other.apply(new Channels(0.1, 0.5, 0.25)), 0.1, 0.5, 0.25);
        same(other.apply(new Channels(-3, 0.5, 9)), 0, 0.5, 1);
    }

    /// A table of a linear mapping gives that mapping everywhere, in all six tetrahedra of all cells.
    @Test
    void aLinearMappingStaysOne() {
        int size = 5;
        var text = new StringBuilder("LUT_3D_SIZE 5\n");
        for (int i = 0; i < size * size * size; i++) {
            double red = i % size / 4.0;
            double green = i / size % size / 4.0;
            int layer = i / (size * size);
            double blue = layer / 4.0;
            text.append(String.format(
                    Locale.ROOT, "%f %f %f%n", 0.5 * red + 0.2 * blue, 0.7 * green + 0.1, 1 - 0.3 * red - 0.6 * blue));
        }
        LookTable linear = table(text.toString());
        var random = new Random(33);
        for (int i = 0; i < 500; i++) {
            var in = new Channels(random.nextDouble(), random.nextDouble(), random.nextDouble());
            same(
                    linear.apply(in),
                    0.5 * in.red() + 0.2 * in.blue(),
                    0.7 * in.green() + 0.1,
                    1 - 0.3 * in.red() - 0.6 * in.blue());
        }
    }

    @Test
    void theSameValuesAreOneTableHoweverTheyAreWritten() {
        LookTable one = table(CORNERS);
        LookTable same = table("\uFEFFLUT_3D_SIZE 2\r\nLUT_3D_INPUT_RANGE 0 1\r\n"
                + CORNERS.substring(CORNERS.indexOf("\n0 0 0") + 1).replace("1 0 0", "\t1.000 0e0  -0 "));
        assertThat(one.named("a").digest())
                .isEqualTo(table(new String(one.text(), StandardCharsets.UTF_8))
                        .named("b")
                        .digest());
        assertThat(same.named("a").digest()).isEqualTo(one.named("b").digest());
        assertThat(table(CORNERS.replace("\n1 1 1\n", "\n1 1 0.9\n")).named("a").digest())
                .isNotEqualTo(one.named("a").digest());
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
        LUT_3D_SIZE 2             | LUT_1D_SIZE 2           | one-dimensional
        LUT_3D_SIZE 2             | LUT_3D_SIZE 1           | line 3 has the size "1"
        LUT_3D_SIZE 2             | LUT_3D_SIZE 900000000   | sizes are 2 to 129
        LUT_3D_SIZE 2             | LUT_3D_SIZE 3           | 8 lines of values in place of the 27
        LUT_3D_SIZE 2             | # none                  | no LUT_3D_SIZE stands before
        DOMAIN_MAX 1 1 1          | DOMAIN_MAX 1 1 2        | other than 0 to 1
        1 0 1                     | 1 0 1;0 0 0             | more than the 8 lines
        1 0 1                     | 1 0                     | line 12 has 2 numbers
        1 0 1                     | 1 0 NaN                 | line 12 has "NaN" in place of a number
        1 0 1                     | 1 0 1e9                 | "1e9" in place of a number
        1 0 1                     | TITLE "late"            | among the values
        TITLE "Night"             | SHAPER 1                | line 2 is not known
        """)
    void whatIsNoTableIsRefusedWithItsPlace(String was, String is, String words) {
        assertThatThrownBy(() -> table(CORNERS.replace(was, is.replace(";", "\n"))))
                .isInstanceOf(InputRefused.class)
                .hasMessageContaining("night.cube")
                .hasMessageContaining(words)
                .hasMessageContaining("as they were");
    }

    /// On the screen, values and table one after the other, each pixel by itself.
    @Test
    void aPictureOnTheScreenHasTheLook() {
        var half = new ColourDecision(
                new Channels(0.5, 1, 1), new Channels(0, 0, 0), new Channels(1, 1, 1), /* saturation= */ 1);
        LookTable swapped = table(CORNERS.replace("\n1 0 0\n", "\n0 0 1\n")
                .replaceFirst("\n0 0 1\n1 0 1", "\n1 0 0\n1 0 1")); // red and blue change places in pure colours
        var look = new ShownLook(
                new Look(false, Optional.of(half), Optional.of(swapped.named("t"))), Optional.of(swapped));
        ByteBuffer shown = look.over(ByteBuffer.wrap(new byte[] {0, 0, (byte) 255, 77, 0, 0, 0, 1}));
        byte[] found = new byte[8];
        shown.get(found);
        assertThat(found).as("half a red is half a blue").containsExactly((byte) 128, 0, 0, 77, 0, 0, 0, 1);
        assertThat(ShownLook.luma(ByteBuffer.wrap(new byte[] {100, (byte) 200, 50, 0}))
                        .get(0))
                .as("0.0722 x 100 + 0.7152 x 200 + 0.2126 x 50 = 160.9")
                .isEqualTo((byte) 161);
    }
}
