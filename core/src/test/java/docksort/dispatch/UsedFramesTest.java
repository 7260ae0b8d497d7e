package docksort.dispatch;

import static org.assertj.core.api.Assertions.assertThat;

import docksort.media.FrameRange;
import docksort.media.FrameRate;
import docksort.media.Rational;
import docksort.timeline.Mention;
import docksort.timeline.SourceUse;
import docksort.timeline.TimelineEvent;
import docksort.timeline.TimelineEvent.Overlap;
import docksort.timeline.TimelineEvent.Transition;
import java.util.Optional;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/// Frames of an event against a recording of 100 frames, counted on paper.
class UsedFramesTest {
    private static final long HAS = 100;

    private static UsedFrames used(long first, long end) {
        return new UsedFrames(first, end, Optional.empty());
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', nullValues = "none", textBlock = """
          0 | 100 | 0+100 | none
         99 | 100 | 99+1  | none
         -5 |  10 | 0+10  | it uses 5 frames before the recording begins
         -1 | 101 | 0+100 | it uses 1 frame before the recording begins and 1 frame after it ends
         90 | 120 | 90+10 | it uses 20 frames after it ends
        100 | 110 | none  | it uses frames 100 to 109; the recording has 0 to 99
         -5 |   0 | none  | it uses frames -5 to -1; the recording has 0 to 99
         -5 |   1 | 0+1   | it uses 5 frames before the recording begins
        """)
    void whatARecordingHasOfItAndWhatItLacks(long first, long end, String within, String lacking) {
        assertThat(used(first, end).within(HAS).map(FrameRange::toString)).isEqualTo(Optional.ofNullable(within));
        assertThat(used(first, end).lacking(HAS)).isEqualTo(Optional.ofNullable(lacking));
    }

    /// Transitions of 0.08 s before and 0.12 s after the event, which is 2 and 3 frames at 25 a second:
    /// twice that at double speed, the other way round backwards, and the next whole frame at a third of
    /// it.
    @ParameterizedTest
    @CsvSource({"1, 38, 63", "2, 36, 66", "-1, 37, 62", "-2, 34, 64", "1/3, 39, 61"})
    void transitionsNeedMoreAtBothEnds(String speed, long first, long end) {
        var use = new SourceUse.Times(
                Rational.ZERO, Rational.of(1), FrameRate.FPS_25, Rational.parse(speed), Optional.empty());
        var event = new TimelineEvent(
                1,
                "V1",
                "A001",
                Rational.ZERO,
                20,
                TimelineEvent.Kind.PICTURE,
                Mention.NONE,
                Transition.NONE,
                new Overlap(new Rational(2, 25), new Rational(3, 25)),
                use);
        assertThat(used(40, 60).with(event, FrameRate.FPS_25)).isEqualTo(used(first, end));
    }
}
