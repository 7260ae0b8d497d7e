package docksort.media;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/// Bytes a frame after SMPTE ST 2019-1, from memory; the real encoder is held against the same figures in
/// CopyMakerTest.
class Vc3FrameBytesTest {
    @ParameterizedTest
    @CsvSource({
        "VC3_HD_LOW, 1920, 1080, 188416",
        "VC3_HD_MIDDLE, 1920, 1080, 606208",
        "VC3_SQ, 960, 540, 151552",
        "VC3_SQ, 1280, 720, 266240",
        "VC3_SQ, 1920, 1080, 606208",
        "VC3_SQ, 3840, 2160, 2408448",
        "VC3_444, 960, 540, 458752",
        "VC3_444, 1280, 720, 811008",
        "VC3_444, 1920, 1080, 1835008",
        "VC3_444, 3840, 2160, 7286784",
        "VC3_LB, 960, 540, 49152",
        "VC3_LB, 1280, 720, 81920",
        "VC3_LB, 1920, 1080, 188416",
        "VC3_LB, 3840, 2160, 749568",
        "VC3_HQ, 960, 540, 229376",
        "VC3_HQ, 1280, 720, 405504",
        "VC3_HQX, 1920, 1080, 917504",
        "VC3_HQX, 3840, 2160, 3641344",
        "VC3_HD, 1920, 1080, 917504",
        "VC3_HD_X, 1920, 1080, 917504",
        "VC3_LB, 256, 120, 8192"
    })
    void meetsThePublishedTable(VideoTarget target, int width, int height, long bytes) {
        assertThat(target.vc3FrameBytes(new Raster(width, height))).isEqualTo(bytes);
    }

    @Test
    void theHdFamilyHasNoOtherRasters() {
        assertThatThrownBy(() -> VideoTarget.VC3_HD.vc3FrameBytes(new Raster(960, 540)))
                .hasMessageContaining("960×540");
        assertThat(VideoTarget.VC3_HD.existsAt(new Raster(1920, 1080), ScanType.TOP_FIELD_FIRST))
                .isTrue();
        assertThat(VideoTarget.VC3_HD.existsAt(new Raster(1280, 720), ScanType.TOP_FIELD_FIRST))
                .isFalse();
    }
}
