package docksort.strain;

import static org.assertj.core.api.Assertions.assertThat;

import docksort.media.FrameRate;
import docksort.media.Measured;
import docksort.media.Raster;
import docksort.media.Rational;
import docksort.strain.CardClass.Fit;
import docksort.strain.Lever.Limit;
import docksort.strain.ShootingMode.Shape;
import java.time.Duration;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class AdviceTest {
    @ParameterizedTest
    @CsvSource({"25, 50", "30, 60", "60, 120", "30000/1001, 60", "24000/1001, 48"})
    void theAdvisedIntervalIsTwiceTheRate(String rate, int frames) {
        // Common practice, no source: keyframe interval 2 s.
        assertThat(RecordingAdvice.intervalFor(FrameRate.parse(rate))).isEqualTo(frames);
    }

    @Test
    void whatIfFollowsTheFormulaOfClosedGroups() {
        for (int n : new int[] {1, 2, 50, 120, 600}) {
            // (n+1)/2, common practice, no source.
            assertThat(RecordingAdvice.whatIf(n, 0).mean()).isEqualTo(new Rational(n + 1L, 2));
            assertThat(RecordingAdvice.whatIf(n, 0).worst()).isEqualTo(n);
        }
        assertThat(RecordingAdvice.whatIf(120, 1).worst()).isEqualTo(120);
    }

    @Test
    void aCardOfClassThirtyRecordsProxiesOnlyBesideFourKAtTwentyFour() {
        // Common practice, no source (check values): UHD 60 in 10 bit wants V60 or V90; at 120 cameras record
        // none.
        assertThat(ShootingMode.USUAL)
                .filteredOn(mode -> mode.name().startsWith("4K 24"))
                .allMatch(mode -> CardClass.V30.fit(mode) == Fit.MAIN_AND_PROXY);
        assertThat(ShootingMode.USUAL)
                .filteredOn(mode -> mode.name().startsWith("UHD 30"))
                .allMatch(mode -> CardClass.V30.fit(mode) == Fit.MAIN_ONLY);
        assertThat(ShootingMode.USUAL)
                .filteredOn(mode -> mode.name().contains("60, 10 bit"))
                .allMatch(mode -> CardClass.needed(mode).equals(Optional.of(CardClass.V60)));
        assertThat(ShootingMode.USUAL)
                .filteredOn(mode -> mode.name().contains("120"))
                .allMatch(mode -> CardClass.V90.fit(mode) == Fit.NO_PROXY_MADE);
        // SD Association, Video Speed Class: V30 is at least 30 MB/s, that is 240 Mb/s.
        assertThat(CardClass.V30.fit(mode(240, Optional.of(0)))).isEqualTo(Fit.MAIN_AND_PROXY);
        assertThat(CardClass.V30.fit(mode(240, Optional.of(1)))).isEqualTo(Fit.MAIN_ONLY);
        assertThat(CardClass.V30.fit(mode(241, Optional.empty()))).isEqualTo(Fit.TOO_SLOW);
    }

    private static ShootingMode mode(int main, Optional<Integer> proxy) {
        return new ShootingMode("", Optional.empty(), main, proxy);
    }

    /// Arithmetic on paper. Twice the pictures of UHD 30 in 10 bit at 230 Mb/s are nearest to UHD 60 at 400; 6144 x
    /// 3240 at 24 in 12 bit has 19,906,560 · 24 · 12 = 5,733,089,280 bits a second, UHD 60 in 10 bit 8,294,400 · 60
    /// · 10 = 4,976,640,000: 400 · 1.152 = 460.8, and its small file 28 · 24/60 = 11.2.
    @Test
    void aShapeHasItsOwnDataRatesOrThoseOfTheNearestInProportion() {
        var shape = Shape.of(new Raster(6144, 3240), FrameRate.parse("24"), 12);
        ShootingMode.Found scaled = ShootingMode.of(shape, List.of());
        assertThat(scaled.from().orElseThrow().name()).isEqualTo("UHD 50 or 60, 10 bit");
        assertThat(scaled.mode().mainMegabits()).isEqualTo(461);
        assertThat(scaled.mode().proxyMegabits()).contains(12);

        ShootingMode.Found usual = ShootingMode.of(Shape.of(new Raster(3840, 2160), FrameRate.FPS_25, 8), List.of());
        assertThat(usual.from()).isEmpty();
        assertThat(usual.mode().mainMegabits()).isEqualTo(100);

        var own = new ShootingMode("camera B", Optional.of(shape), 700, Optional.empty());
        assertThat(ShootingMode.of(shape, List.of(own))).isEqualTo(new ShootingMode.Found(own, Optional.empty()));
        assertThat(own.fills(512)).as("512 · 8000 / 700 s").isEqualTo(Duration.ofSeconds(5851));
    }

    private static Lever lever(double asItIs, double reduced, double trial, double megabytes) {
        return new Lever(
                Measured.of(asItIs * 0.98, asItIs, asItIs * 1.02),
                Measured.of(reduced * 0.98, reduced, reduced * 1.02),
                false,
                Measured.of(trial * 0.98, trial, trial * 1.02),
                Measured.of(megabytes * 1e6),
                25,
                10e6,
                "trial");
    }

    @Test
    void theLimitIsNamedFromTheFiguresAlone() {
        assertThat(lever(10, 11, 80, 200).limit()).isEqualTo(Limit.DECODING);
        assertThat(lever(10, 11, 80, 200).advice())
                .contains("Make a working copy")
                .contains("8.0 times");
        assertThat(lever(10, 21, 80, 200).limit()).isEqualTo(Limit.PIXELS);
        assertThat(lever(10, 11, 80, 9).limit()).isEqualTo(Limit.STORAGE);
        assertThat(lever(60, 90, 200, 200).limit()).isEqualTo(Limit.NONE);
        assertThat(lever(10, 11, 11, 200).advice()).contains("does not help here");
    }
}
