package docksort.engine;

import docksort.media.FrameRate;
import docksort.media.Rational;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;

/// Time stamps of a stream's pictures, held against the rates of the trade.
///
/// A container rounds the exact place of a picture to its tick: 1001/60000 s become 16, 17, 17, 16
/// milliseconds. A rate fits when all stamps lie within one tick of an even row of exact places, wherever
/// that row begins, whatever fraction a demuxer makes of them.
final class Stamps {
    private static final long MOST = 1L << 30; // numerators beyond it are no time base of a container

    /// Of frames that an even row would lose, before it counts as too slow for them.
    private static final int ONE_IN = 50;

    private final long[] ticks;
    private final Rational timeBase;

    /// @param ticks ascending, at least two, not all the same
    /// @param timeBase seconds of a tick
    Stamps(long[] ticks, Rational timeBase) {
        this.ticks = ticks.clone();
        this.timeBase = timeBase;
    }

    /// The rate that all stamps fit within their rounding; where several do, what headers state, then the
    /// nearest to what was measured.
    Optional<FrameRate> rateOfTheTrade(Rational measured, Optional<FrameRate> stated, Optional<FrameRate> average) {
        List<FrameRate> fitting = FrameRate.COMMON.stream().filter(this::fits).toList();
        return Stream.of(stated, average)
                .flatMap(Optional::stream)
                .filter(fitting::contains)
                .findFirst()
                .or(() -> fitting.stream()
                        .min(Comparator.comparing(
                                rate -> rate.exact().minus(measured).absolute())));
    }

    private boolean fits(FrameRate rate) {
        // In units that make both a tick and a frame whole numbers.
        Rational frame = Rational.of(1).dividedBy(rate.exact().times(timeBase));
        if (frame.numerator() > MOST || frame.denominator() > MOST || isTooLong(frame)) {
            return false;
        }
        long least = 0;
        long most = 0;
        for (int i = 0; i < ticks.length; i++) {
            long off = (ticks[i] - ticks[0]) * frame.denominator() - i * frame.numerator();
            least = Math.min(least, off);
            most = Math.max(most, off);
        }
        // One tick, and a twentieth for stamps that another container rounded before; where ticks are as coarse as
        // frames, two fifths of a frame, because one missing frame shifts those behind it by a whole one.
        return (most - least) * 20 <= frame.denominator() * 21 && (most - least) * 5 <= frame.numerator() * 2;
    }

    private boolean isTooLong(Rational frame) {
        long span = Math.max(ticks[ticks.length - 1] - ticks[0], ticks.length);
        return span > Long.MAX_VALUE / 64 / Math.max(frame.numerator(), frame.denominator());
    }

    /// The slowest rate of the trade at which hardly a picture falls on the place of another: what a stream
    /// of variable rate is conformed to. A single short gap does not make it faster.
    FrameRate rateToConformTo() {
        List<FrameRate> rates = FrameRate.COMMON;
        FrameRate slowest =
                rates.stream().filter(this::keepsPictures).findFirst().orElse(rates.getLast());
        return rates.stream()
                .filter(rate -> isNearlySame(rate, slowest))
                .min(Comparator.comparing(this::distance))
                .orElse(slowest);
    }

    private static boolean isNearlySame(FrameRate one, FrameRate other) {
        return one.exact()
                        .minus(other.exact())
                        .absolute()
                        .times(Rational.of(200))
                        .compareTo(other.exact())
                <= 0;
    }

    private boolean keepsPictures(FrameRate rate) {
        Rational places = rate.exact().times(timeBase);
        if (isTooLong(places)) {
            return false;
        }
        long lost = 0;
        for (int i = 1; i < ticks.length; i++) {
            boolean apart = ticks[i] > ticks[i - 1]; // those of one moment are lost at any rate
            lost += apart && place(i, places) == place(i - 1, places) ? 1 : 0;
        }
        return lost <= Math.max(1, ticks.length / ONE_IN);
    }

    /// @param places of an even row in a tick
    private long place(int picture, Rational places) {
        long twice = 2 * (ticks[picture] - ticks[0]) * places.numerator();
        return Math.floorDiv(twice + places.denominator(), 2 * places.denominator());
    }

    /// How far pictures lie beside the places of a row, all together, in parts of a place.
    private Rational distance(FrameRate rate) {
        Rational places = rate.exact().times(timeBase);
        long off = 0;
        for (int i = 0; i < ticks.length; i++) {
            off += Math.abs((ticks[i] - ticks[0]) * places.numerator() - place(i, places) * places.denominator())
                    * 1_000
                    / places.denominator();
        }
        return Rational.of(off);
    }
}
