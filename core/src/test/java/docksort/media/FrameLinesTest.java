package docksort.media;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import docksort.media.FrameLines.Area;
import docksort.media.FrameLines.Outside;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class FrameLinesTest {
    /// By arithmetic on paper: 1920 / 2.39 = 803.3 lines, which leaves 138.3 at either edge; 1080 * 9 / 16 = 607.5
    /// samples, which leaves 656.25; 720 samples of 64/45 are 1024 wide, of which 2.39 takes 428.5 lines of 576.
    @ParameterizedTest
    @CsvSource({
        "2.39, 1920x1080, 1, 0, 138, 1920, 804",
        "9:16, 1920x1080, 1, 656, 0, 608, 1080",
        "16:9, 1920x1080, 1, 0, 0, 1920, 1080",
        "16:9, 1080x1920, 1, 0, 656, 1080, 608",
        "2.39, 720x576, 64/45, 0, 74, 720, 428",
        "4:3, 1440x1080, 4/3, 180, 0, 1080, 1080",
        "5, 4x4, 1, 0, 0, 4, 4",
        "5, 16x16, 1, 0, 6, 16, 4"
    })
    void whatIsKeptIsInTheMiddle(String shape, String raster, String pixels, int x, int y, int width, int height) {
        FrameLines frame = FrameLines.parse(shape, Outside.LINE);
        assertThat(frame.kept(Raster.parse(raster), Rational.parse(pixels))).isEqualTo(new Area(x, y, width, height));
    }

    @ParameterizedTest
    @CsvSource({
        "2.39, 2.39",
        "239/100, 2.39",
        "2.4, 2.40",
        "1.85, 1.85",
        "16:9, 16:9",
        "9/16, 9:16",
        "4:5, 4:5",
        "1, 1:1"
    })
    void aShapeIsSaidAsItIsRead(String typed, String said) {
        FrameLines frame = FrameLines.parse(typed, Outside.DIMMED);
        assertThat(frame.shape()).isEqualTo(said);
        assertThat(FrameLines.parse(said, Outside.DIMMED)).isEqualTo(frame);
    }

    @ParameterizedTest
    @ValueSource(strings = {"", "wide", "0", "6", "1:9", "-2", "16:0", "NaN"})
    void anotherShapeIsRefused(String typed) {
        assertThatThrownBy(() -> FrameLines.parse(typed, Outside.LINE))
                .isInstanceOf(IllegalArgumentException.class)
                .hasMessageContaining("frame lines");
    }

    @Test
    void whatIsDrawnInWordsAloneHasTheMarkThatItHadBefore() {
        var word = new BurnIn(BurnIn.What.NAME, BurnIn.At.TOP, "");
        assertThat(BurnIns.of(word)).hasToString("[BurnIn[what=NAME, at=TOP, text=]]");
        assertThat(BurnIns.NONE).hasToString("[]");
    }
}
