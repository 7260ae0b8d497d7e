package docksort.engine;

import static org.assertj.core.api.Assertions.assertThat;

import docksort.WithMedia;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

@WithMedia
class PixelFormatsTest {
    /// Depth, subsampling and alpha by libavutil/pixdesc.c, FFmpeg 8.0 (`ffmpeg -pix_fmts` prints the
    /// same).
    @ParameterizedTest
    @CsvSource({
        "yuv420p, 0, 8-bit 4:2:0",
        "yuvj420p, 0, 8-bit 4:2:0",
        "yuv422p10le, 0, 10-bit 4:2:2",
        "yuv444p12be, 0, 12-bit 4:4:4",
        "yuva444p12le, 0, 12-bit 4:4:4 alpha",
        "yuv411p, 8, 8-bit 4:1:1",
        "p010le, 0, 10-bit 4:2:0",
        "p210le, 0, 10-bit 4:2:2",
        "nv12, 0, 8-bit 4:2:0",
        "gbrp10le, 0, 10-bit RGB",
        "gbrap12le, 0, 12-bit RGB alpha",
        "gbrpf32le, 0, 32-bit RGB",
        "rgb24, 0, 8-bit RGB",
        "rgb48le, 12, 12-bit RGB",
        "rgba64be, 0, 16-bit RGB alpha",
        "gray10le, 0, 10-bit grey",
        "ya8, 0, 8-bit grey alpha",
        "bayer_rggb8, 0, of a sensor",
        "'', 0, unknown"
    })
    void namesOfTheEngineAreUnderstood(String name, int stated, String label) throws InterruptedException {
        try (MediaEngine engine = MediaEngine.locate()) {
            assertThat(engine.pixelFormats().named(name, stated).label()).isEqualTo(label);
        }
    }
}
