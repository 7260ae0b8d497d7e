package docksort.strain;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import docksort.Clips;
import docksort.media.CopyForm;
import docksort.media.Raster;
import docksort.media.VideoTarget;
import java.nio.charset.StandardCharsets;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;

class PlaybackBudgetTest {
    /// VC-3 HD, 185 class at 25 fps: 917504 bytes a frame are 22.9 MB/s (SMPTE ST 2019-1, from memory).
    private static final CopyForm FORM =
            Clips.form(Clips.named("c").facts(), VideoTarget.VC3_HD, new Raster(1920, 1080));

    @Test
    void streamsAreHeldAgainstVolumeAndDecoding() {
        BayProfile bay = BayProfile.of("bay", 100e6, Map.of(VideoTarget.VC3_HD, 1920 * 1080 * 200.0));
        PlaybackBudget three = PlaybackBudget.of(3, FORM, 917_504, Optional.empty(), Optional.of(bay));
        assertThat(three.bytesPerSecond()).isEqualTo(22_937_600);
        assertThat(three.volumeShare().orElseThrow()).isEqualTo(3 * 22_937_600 / 100e6);
        assertThat(three.decodingShare().orElseThrow()).isEqualTo(0.375);
        assertThat(three.fits()).isTrue();
        assertThat(three.most()).as("70 of 100 MB/s").contains(3);
        assertThat(three.sentence())
                .isEqualTo("3 streams need 68.8 MB/s of 100 measured and 38 % of the decoding: plays, at most 3");
        PlaybackBudget slow = PlaybackBudget.of(3, FORM, 917_504, Optional.of(60e6), Optional.of(bay));
        assertThat(slow.fits())
                .as("the measured volume goes before the profile's")
                .isFalse();
        assertThat(slow.most()).contains(1);
        PlaybackBudget unknown = PlaybackBudget.of(1, FORM, 917_504, Optional.empty(), Optional.empty());
        assertThat(unknown.sentence())
                .isEqualTo("1 stream needs 22.9 MB/s (volume not measured) (decoding not measured)");
    }

    @Test
    void whatIsNoBayProfileIsRefused() {
        for (String text : new String[] {"", "{}", "[1]", "{\"format\":\"x\"}", "{\"pixelsPerSecond\":{\"NONE\":1}}"}) {
            assertThatThrownBy(() -> BayProfile.read(text.getBytes(StandardCharsets.UTF_8), "/media/bay.json"))
                    .hasMessageContaining("/media/bay.json is no bay profile");
        }
    }
}
