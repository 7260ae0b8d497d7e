package docksort.sort;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import docksort.Clips;
import docksort.arrival.Clip;
import docksort.media.CopyForm;
import docksort.media.VideoTarget;
import docksort.sort.PastCopies.Spread;
import docksort.strain.TimelineFormat;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/// Sizes and times of copies, reckoned on paper from what was made before. The clip has 1920 × 1080 and
/// 84 frames, the copy 960 × 540: 2,073,600 and 518,400 pixels.
class PredictionTest {
    private static final Circumstances HERE =
            new Circumstances(TimelineFormat.HD_25, EnumSet.noneOf(VideoTarget.class));
    private static final Clip CLIP = Clips.named("next").clip();
    private static final CopyForm FORM =
            ((Recipe.Resolution.Possible) Recipe.LIGHT_PRORES_HALF.resolve(CLIP, HERE)).form();

    private static PastCopy made(String source, long pixels, double bytes, double seconds, boolean trial) {
        return new PastCopy(
                Optional.of(VideoTarget.PRORES_PROXY), source, 2_073_600, pixels, 84, 20_000, bytes, seconds, trial);
    }

    private static PastCopies past(Clip clip, PastCopy... all) {
        var of = new ArrayList<PastCopies.Of>();
        for (PastCopy copy : all) {
            of.add(new PastCopies.Of(clip.fingerprint(), Recipe.LIGHT_PRORES_HALF.id(), copy));
        }
        return new PastCopies(of);
    }

    private static void is(Spread spread, double low, double likely, double high) {
        assertThat(spread.low()).isCloseTo(low, within(low * 1e-9));
        assertThat(spread.likely()).isCloseTo(likely, within(likely * 1e-9));
        assertThat(spread.high()).isCloseTo(high, within(high * 1e-9));
    }

    private static final Clip OTHER = Clips.named("other").clip();

    @Test
    void aTrialOfTheClipItselfIsATenthOffAndACopyOfItAFiftieth() {
        is(bytes(past(CLIP, made("H.264", 518_400, 10_000, 0.01, true))), 9_000, 10_000, 11_000);
        is(bytes(past(CLIP, made("H.264", 518_400, 10_000, 0.01, false))), 9_800, 10_000, 10_200);
    }

    private static Spread bytes(PastCopies past) {
        return past.frameBytes(CLIP, Recipe.LIGHT_PRORES_HALF.id(), FORM, 40_000);
    }

    @Test
    void aTrialOfAnotherRasterIsOnlyOneOfItsKind() {
        // 10,000 of the usual 20,000 bytes is half; of 40,000 that is 20,000, give or take half of it.
        is(bytes(past(CLIP, made("H.264", 999, 10_000, 0.01, true))), 10_000, 20_000, 30_000);
    }

    @Test
    void limitsAreCloserFromThreeCopiesOn() {
        PastCopy small = made("H.264", 518_400, 8_000, 0.01, false);
        PastCopy large = made("H.264", 518_400, 16_000, 0.01, false);
        is(bytes(past(OTHER, small, large)), 8_000, 24_000, 48_000); // 0.4 and 0.8 of the usual, half wider
        is(bytes(past(OTHER, small, large, large)), 13_600, 80_000 / 3.0, 36_800); // 15 % wider
    }

    @Test
    void copiesOfTheSameSourceCodecAreBelievedBeforeOthers() {
        PastCopy same = made("H.264", 518_400, 10_000, 0.01, false);
        PastCopy another = made("HEVC", 518_400, 20_000, 0.01, false);
        is(bytes(past(OTHER, same, another)), 10_000, 20_000, 30_000);
        is(bytes(past(OTHER, another)), 20_000, 40_000, 60_000);
    }

    @Test
    void timeGrowsWithPixelsReadAndWritten() {
        String recipe = Recipe.LIGHT_PRORES_HALF.id();
        // 0.01 s for a frame of 2,592,000 pixels, 84 frames; one copy alone is half off either way.
        is(
                past(OTHER, made("H.264", 518_400, 10_000, 0.01, false))
                        .seconds(CLIP, recipe, FORM)
                        .orElseThrow(),
                0.42,
                0.84,
                1.26);
        // A copy of it that was four times as large worked on 4,147,200 pixels for a frame: 1.6 times as many.
        is(
                past(OTHER, made("H.264", 2_073_600, 10_000, 0.016, false))
                        .seconds(CLIP, recipe, FORM)
                        .orElseThrow(),
                0.42,
                0.84,
                1.26);
        is(
                past(CLIP, made("H.264", 518_400, 10_000, 0.02, true))
                        .seconds(CLIP, recipe, FORM)
                        .orElseThrow(),
                1.26,
                1.68,
                2.1);
        assertThat(PastCopies.NONE.seconds(CLIP, recipe, FORM)).isEmpty();
    }

    @ParameterizedTest
    @CsvSource({"0.2, 1 s", "89.4, 89 s", "90, 2 min", "149, 2 min", "5399, 90 min", "5400, 1.5 h", "36000, 10.0 h"})
    void timesAreToldInTheLargestUnitThatLeavesTwo(double seconds, String words) {
        assertThat(PredictedTime.words(seconds)).isEqualTo(words);
    }

    @Test
    void timesAndBytesOfSeveralCopiesAreAddedUp() {
        PredictedTime sum = new PredictedTime(1, 2, 4, 1).plus(new PredictedTime(10, 20, 40, 2));
        assertThat(sum).isEqualTo(new PredictedTime(11, 22, 44, 3));
        assertThat(sum.label()).isEqualTo("11 s to 44 s, and 3 not known yet");
        assertThat(List.of(PredictedTime.NONE.label(), new PredictedTime(0, 0, 0, 2).label()))
                .containsExactly("no time", "not known yet");
        PredictedBytes bytes = new PredictedBytes(1, 2, 4, 8).plus(new PredictedBytes(16, 32, 64, 128));
        assertThat(bytes).isEqualTo(new PredictedBytes(17, 34, 68, 136));
        assertThat(List.of(
                        bytes.least().bytes(),
                        bytes.likely().bytes(),
                        bytes.most().bytes()))
                .containsExactly(153L, 170L, 204L);
        assertThat(bytes.isExact()).isFalse();
        assertThat(PredictedBytes.NONE.isExact()).isTrue();
    }
}
