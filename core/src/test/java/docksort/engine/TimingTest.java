package docksort.engine;

import static org.assertj.core.api.Assertions.assertThat;

import docksort.media.CodedFrame;
import docksort.media.FrameRate;
import docksort.media.FrameStructure;
import docksort.media.Rational;
import docksort.media.VideoFacts.RateKind;
import java.util.Optional;
import java.util.function.LongUnaryOperator;
import java.util.stream.LongStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class TimingTest {
    private static FrameStructure stamps(int count, Rational timeBase, LongUnaryOperator ticks) {
        return FrameStructure.of(
                LongStream.range(0, count)
                        .mapToObj(i -> new CodedFrame(ticks.applyAsLong(i), true, 1))
                        .toList(),
                FrameStructure.Extent.WHOLE,
                timeBase);
    }

    private static Timing timing(FrameStructure structure, Optional<FrameRate> average) {
        return Timing.of(structure, structure.timeBase(), Optional.empty(), average, true)
                .orElseThrow();
    }

    @Test
    void millisecondsThatJumpBetween33And34AreOneConstantRate() {
        var matroska = stamps(300, new Rational(1, 1000), i -> Math.round(i * 1001.0 / 30));
        assertThat(timing(matroska, Optional.empty()))
                .isEqualTo(new Timing(new FrameRate(30000, 1001), RateKind.CONSTANT));
    }

    /// The fraction that a demuxer makes of milliseconds is none of any timeline (19001/317 is within 2
    /// parts in a million of 60000/1001).
    @ParameterizedTest
    @CsvSource({
        "60000/1001, 1000, 19001/317",
        "120000/1001, 1000, 29011/242",
        "24000/1001, 1000, 24000/1001",
        "240000/1001, 1000, 240000/1001",
        "120000/1001, 600, 120/1",
        "48000/1001, 1000, 48/1",
        "240/1, 1000, 240/1"
    })
    void allStampsWithinATickOfAnEvenRowAreThatRate(String rate, int ticks, String demuxed) {
        FrameRate exact = FrameRate.parse(rate);
        var rounded = stamps(
                600,
                new Rational(1, ticks),
                i -> exact.secondsOf(i).times(Rational.of(ticks)).rounded());
        assertThat(timing(rounded, Optional.of(FrameRate.parse(demuxed))))
                .isEqualTo(new Timing(exact, RateKind.CONSTANT));
    }

    @Test
    void oneShortGapOrAHandThatTremblesMakesNoOtherRate() {
        var gap = stamps(90, new Rational(1, 12_000), i -> i * 400 - (i == 40 ? 300 : 0));
        assertThat(timing(gap, Optional.empty())).isEqualTo(new Timing(new FrameRate(30, 1), RateKind.VARIABLE));
        var trembling = stamps(90, new Rational(1, 1000), i -> Math.round(i * 100 / 3.0 + 12 * Math.sin((double) i)));
        assertThat(timing(trembling, Optional.empty()).rate()).isEqualTo(new FrameRate(30, 1));
    }

    @Test
    void aContainerThatCountsFieldsHasHalfAsManyFrames() {
        var fields = stamps(50, new Rational(1, 50), i -> 2 * i);
        assertThat(Timing.of(
                        fields,
                        fields.timeBase(),
                        Optional.of(FrameRate.FPS_25),
                        Optional.of(new FrameRate(50, 1)),
                        true))
                .contains(new Timing(FrameRate.FPS_25, RateKind.CONSTANT));
    }

    @Test
    void oneMissingFrameMakesItVariable() {
        var dropped = stamps(100, new Rational(1, 25), i -> i < 50 ? i : i + 1);
        assertThat(timing(dropped, Optional.empty())).isEqualTo(new Timing(FrameRate.FPS_25, RateKind.VARIABLE));
    }

    @Test
    void anEvenWindowIsNotBelievedAgainstTheIndexOfTheWholeFile() {
        var even = stamps(100, new Rational(1, 60), i -> i);
        assertThat(timing(even, Optional.of(new FrameRate(47, 1))).kind()).isEqualTo(RateKind.VARIABLE);
        assertThat(timing(even, Optional.of(new FrameRate(60, 1))).kind()).isEqualTo(RateKind.CONSTANT);
    }

    @Test
    void unusualConstantRatesStayExact() {
        var odd = stamps(100, new Rational(1, 90000), i -> i * 7200);
        assertThat(timing(odd, Optional.of(new FrameRate(25, 2))).rate()).isEqualTo(new FrameRate(25, 2));
    }

    @Test
    void withoutTimeStampsTheHeadersStandAndWithoutThemNothing() {
        assertThat(Timing.of(
                        FrameStructure.NONE, Rational.of(1), Optional.of(FrameRate.FPS_25), Optional.empty(), true))
                .contains(new Timing(FrameRate.FPS_25, RateKind.CONSTANT));
        assertThat(Timing.of(FrameStructure.NONE, Rational.of(1), Optional.empty(), Optional.empty(), true))
                .isEmpty();
        assertThat(Timing.of(
                        stamps(5, Rational.of(1), _ -> 7), Rational.of(1), Optional.empty(), Optional.empty(), true))
                .isEmpty();
    }
}
