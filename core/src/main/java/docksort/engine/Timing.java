package docksort.engine;

import docksort.media.FrameRate;
import docksort.media.FrameStructure;
import docksort.media.Rational;
import docksort.media.VideoFacts.RateKind;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;

/// The rate of a stream and whether it holds, decided from time stamps. What headers state only helps to
/// name it exactly: a container that counts milliseconds makes a demuxer state 19001/317 for 60000/1001.
record Timing(FrameRate rate, RateKind kind) {

    /// @param stated the lowest rate that fits all time stamps, by the demuxer
    /// @param average frames over duration, by the container's index
    /// @param whole whether the structure holds every frame of the stream
    /// @return empty when neither time stamps nor headers give a rate
    static Optional<Timing> of(
            FrameStructure structure,
            Rational timeBase,
            Optional<FrameRate> stated,
            Optional<FrameRate> average,
            boolean whole) {
        var shown = new long[structure.count()];
        structure.forEach((index, at, _, _) -> shown[index] = at);
        Arrays.sort(shown);
        if (structure.stretchStarts().length > 1) {
            return of(firstStretch(structure), timeBase, stated, average, false);
        }
        if (shown.length < 3) {
            return average.or(() -> stated).map(rate -> new Timing(rate, RateKind.CONSTANT));
        }
        // Reordered pictures at the end of a window may miss neighbours that were not read: leave the last few
        // out.
        int count = whole ? shown.length : Math.max(3, shown.length - 8);
        long first = shown[0];
        long span = shown[count - 1] - first;
        if (span <= 0) {
            return average.or(() -> stated).map(rate -> new Timing(rate, RateKind.CONSTANT));
        }
        Rational measured = Rational.of(count - 1).dividedBy(timeBase.times(Rational.of(span)));
        boolean indexAgrees = average.map(rate -> near(rate.exact(), measured, 200)
                        || (isHalfOf(measured, rate)
                                && stated.filter(own -> near(own.exact(), measured, 200))
                                        .isPresent()))
                .orElse(true);
        var stamps = new Stamps(Arrays.copyOf(shown, count), timeBase);
        Optional<FrameRate> ofTheTrade =
                indexAgrees ? stamps.rateOfTheTrade(measured, stated, average) : Optional.empty();
        if (ofTheTrade.isPresent()) {
            return ofTheTrade.map(rate -> new Timing(rate, RateKind.CONSTANT));
        }
        boolean even = true;
        for (int i = 1; i < count; i++) {
            // Off the even grid by more than two ticks and by more than a twentieth of a frame; where ticks are as
            // coarse as frames, by more than two fifths of a frame, because one missing frame shifts some by at
            // least half.
            long off = Math.abs((shown[i] - first) * (count - 1) - span * i);
            even &= (off <= 2L * (count - 1) || off * 20 <= span) && off * 5 <= 2 * span;
        }
        return Optional.of(
                even && indexAgrees
                        ? new Timing(exact(measured, stated, average), RateKind.CONSTANT)
                        : new Timing(stamps.rateToConformTo(), RateKind.VARIABLE));
    }

    /// Some containers count fields where others count frames.
    private static boolean isHalfOf(Rational measured, FrameRate average) {
        return near(average.exact(), measured.times(Rational.of(2)), 200);
    }

    private static FrameStructure firstStretch(FrameStructure structure) {
        return FrameStructure.of(
                structure.frames(0, structure.stretchStarts()[1]), structure.extent(), structure.timeBase());
    }

    private static FrameRate exact(Rational measured, Optional<FrameRate> stated, Optional<FrameRate> average) {
        FrameRate common = FrameRate.nearestCommon(measured);
        for (Optional<FrameRate> candidate : List.of(stated, average, Optional.of(common))) {
            if (candidate.isPresent() && near(candidate.get().exact(), measured, 2_000)) {
                return candidate.get();
            }
        }
        return average.orElse(common);
    }

    private static boolean near(Rational a, Rational b, int onePartIn) {
        return a.minus(b).absolute().times(Rational.of(onePartIn)).compareTo(b) <= 0;
    }
}
