package docksort.strain;

import static org.assertj.core.api.Assertions.assertThat;

import docksort.Clips;
import docksort.media.ClipFacts;
import docksort.media.PixelFormat;
import docksort.media.Raster;
import org.junit.jupiter.api.Test;

class StrainJudgeTest {
    private static final StrainJudge JUDGE = new StrainJudge(TimelineFormat.HD_25);

    private static ClipFacts clip(Raster raster, int interval, int bytes) {
        return Clips.named("c")
                .raster(raster.width() + "x" + raster.height())
                .chroma(PixelFormat.Chroma.C420)
                .interval(interval)
                .frames(600)
                .frameBytes(bytes)
                .facts();
    }

    private static Verdict verdict(int width, int height, int interval, int bytes) {
        return JUDGE.judge(clip(new Raster(width, height), interval, bytes)).verdict();
    }

    @Test
    void bitRateAloneNeverDecides() {
        for (int interval : new int[] {1, 12, 250}) {
            assertThat(verdict(1920, 1080, interval, 400_000)).isEqualTo(verdict(1920, 1080, interval, 40_000));
        }
    }

    @Test
    void keyframeIntervalAndRasterDo() {
        assertThat(verdict(1920, 1080, 1, 40_000)).isEqualTo(Verdict.EASY);
        assertThat(verdict(1920, 1080, 12, 40_000)).isEqualTo(Verdict.FAIR);
        assertThat(verdict(1920, 1080, 250, 40_000)).isEqualTo(Verdict.HARD);
        assertThat(verdict(640, 360, 12, 40_000)).isEqualTo(Verdict.EASY);
        assertThat(verdict(3840, 2160, 12, 40_000)).isEqualTo(Verdict.HARD);
    }

    @Test
    void theHeaviestReasonStandsFirstWithItsFigureAndRemedy() {
        Strain strain = JUDGE.judge(clip(new Raster(2560, 1440), 300, 40_000));
        assertThat(strain.reasons().getFirst().figure())
                .as("mean of 150.5, rounded")
                .isEqualTo("151");
        assertThat(strain.firstReason()).contains("300 at worst").contains("Keyframe every 12.0 s, at most 12.0");
        assertThat(strain.reasons().getFirst().remedy()).contains("working copy");
        assertThat(strain.reasons())
                .anySatisfy(reason -> assertThat(reason.text()).contains("wide on a timeline of 1920"));
    }
}
