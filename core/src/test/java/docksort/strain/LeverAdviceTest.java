package docksort.strain;

import static org.assertj.core.api.Assertions.assertThat;

import docksort.media.Measured;
import docksort.strain.Lever.Limit;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class LeverAdviceTest {
    private static Measured about(double fps) {
        return new Measured(fps, fps - 1, fps + 1, 3);
    }

    private static Lever lever(double asItIs, double reduced, double trial, double megabytes) {
        return new Lever(
                about(asItIs), about(reduced), false, about(trial), Measured.of(megabytes * 1e6), 25, 10e6, "light");
    }

    /// Played at 25 fps and 10 MB/s: 12 MB/s are a fifth more than needed, 37.5 fps half as much again.
    @ParameterizedTest
    @CsvSource({
        "20, 21, 60, 11.9, STORAGE",
        "20, 21, 60, 12, DECODING",
        "38.5, 39, 60, 100, NONE", // the lowest of three runs is 37.5
        "38.4, 39, 60, 100, DECODING",
        "20, 28, 60, 100, PIXELS", // 1.4 times as fast
        "20, 27.9, 60, 100, DECODING",
        "4, 5.6, 60, 100, DECODING", // 1.4 times, and within what measuring spreads
        "4, 6.1, 60, 100, PIXELS"
    })
    void theLimitIsWhatIsReachedFirst(double asItIs, double reduced, double trial, double megabytes, Limit limit) {
        assertThat(lever(asItIs, reduced, trial, megabytes).limit()).isEqualTo(limit);
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
        50 | 51 | 60  | 100 | No lever is needed for playing: it decodes at 2.0 times its rate.
        20 | 21 | 60  | 5   | Move the clip to a faster volume: playing needs 10.0 MB/s, the volume gave 5.0.
        20 | 30 | 60  | 100 | Show fewer pixels: half of each side plays at 1.5 times the speed.
        20 | 21 | 60  | 100 | Make a working copy: the trial (light) plays at 3.0 times the speed
        20 | 21 | 28  | 100 | Make a working copy: the trial (light) plays at 1.4 times the speed
        20 | 21 | 27  | 100 | A working copy of this kind does not help here (1.4 times)
        10 | 11 | 120 | 100 | Make a working copy: the trial (light) plays at 12 times the speed
        """)
    void theAdviceRestsOnItsFigures(double asItIs, double reduced, double trial, double megabytes, String words) {
        assertThat(lever(asItIs, reduced, trial, megabytes).advice()).startsWith(words);
    }

    @Test
    void linesAreSharesOfTheFastestAndTheVolumesOfWhatItGives() {
        var lines = lever(20, 30, 79, 40).lines();
        assertThat(lines)
                .extracting(Lever.Line::change)
                .containsExactly(
                        "The original, full size",
                        "The original, half of each side",
                        "Trial copy: light",
                        "Its volume, read in order");
        // The fastest run of all was 80 fps.
        assertThat(lines).extracting(Lever.Line::share).containsExactly(0.25, 0.375, 79 / 80.0, 0.25);
        assertThat(lines.getFirst().figure()).isEqualTo("20.0 (19.0 to 21.0) fps");
    }
}
