package docksort.media;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class RasterAndRateTest {
    @ParameterizedTest
    @CsvSource({
        "1920x1080, 2, 960×540",
        "1920x1080, 8, 240×136", // 135 lines would be odd
        "3840x2160, 4, 960×540",
        "1439x1081, 1, 1440×1082",
        "2, 2, 2×2"
    })
    void fractionsAreEvenOnBothSides(String raster, int divisor, String expected) {
        if (raster.contains("x")) {
            assertThat(Raster.parse(raster).dividedBy(divisor)).hasToString(expected);
        } else {
            assertThat(new Raster(2, 2).dividedBy(divisor)).hasToString(expected);
        }
    }

    @ParameterizedTest
    @CsvSource({
        "2560x1440, 1080, 1920×1080",
        "4096x2160, 1080, 2048×1080",
        "640x360, 720, 640×360",
        "1080x1920, 1080, 1080×1920", // upright: as many lines as the same one lying
        "1080x1920, 540, 540×960",
        "1081x1923, 541, 542×962", // 1923 x 541 / 1081 = 962.4
        "1080x1080, 540, 540×540"
    })
    void fittingKeepsTheAspectAndNeverEnlarges(String raster, int lines, String expected) {
        assertThat(Raster.parse(raster).fittedToLines(lines)).hasToString(expected);
    }

    @ParameterizedTest
    @CsvSource({
        "4096x2160, 1920x1080, 1920×1012", // 2160 x 1920 / 4096 = 1012.5
        "1080x1920, 1920x1080, 608×1080", // 1080 x 1080 / 1920 = 607.5
        "1920x1080, 1080x1920, 1080×608",
        "640x360, 1920x1080, 640×360"
    })
    void withinAnotherNeitherSideIsLonger(String raster, String box, String expected) {
        assertThat(Raster.parse(raster).within(Raster.parse(box))).hasToString(expected);
    }

    @Test
    void largerMeansWiderOrTallerAndNotEqual() {
        var hd = new Raster(1920, 1080);
        assertThat(hd.exceeds(hd)).isFalse();
        assertThat(new Raster(1920, 1280).exceeds(hd)).isTrue();
        assertThat(new Raster(1440, 1080).exceeds(hd)).isFalse();
    }

    @ParameterizedTest
    @CsvSource({"29.97, 30000/1001", "23.976, 24000/1001", "59.94, 60000/1001", "25, 25", "50/2, 25", "12.5, 25/2"})
    void decimalNamesOfRatesBecomeTheirExactFraction(String text, String exact) {
        assertThat(FrameRate.parse(text)).hasToString(exact);
    }

    @ParameterizedTest
    @CsvSource({"0", "-25", "abc", "25/0", "99999999999"})
    void refusesWhatIsNoRate(String text) {
        assertThatThrownBy(() -> FrameRate.parse(text)).isInstanceOf(IllegalArgumentException.class);
    }

    @Test
    void rationalsCompareAndRoundExactly() {
        assertThat(new Rational(1, 3).plus(new Rational(1, 6))).isEqualTo(new Rational(1, 2));
        assertThat(new Rational(-5, 2).rounded()).isEqualTo(-3);
        assertThat(new Rational(3, -6)).isEqualTo(new Rational(-1, 2));
        assertThat(Rational.parse("12.345")).isEqualTo(new Rational(2469, 200));
        assertThat(new Rational(Long.MAX_VALUE, 3)).isGreaterThan(new Rational(Long.MAX_VALUE - 1, 3));
        assertThatThrownBy(() -> new Rational(1, 0)).hasMessageContaining("1/0");
    }

    @ParameterizedTest
    @CsvSource({"999, 999 B", "1000, 1.0 kB", "41234000000, 41.2 GB", "999600, 1.0 MB", "85000000000000, 85.0 TB"})
    void sizesAreDecimal(long bytes, String label) {
        assertThat(new ByteSize(bytes)).hasToString(label);
    }
}
