package docksort.engine;

import java.util.Arrays;
import java.util.OptionalDouble;
import java.util.OptionalInt;

/// How loud a clip or one of its channels is from one millisecond to the next: by it two recordings of the same
/// sound are laid over each other.
public final class Envelope {
    static final int PER_SECOND = 1_000;

    private static final int MOST = 120 * PER_SECOND;
    /// Milliseconds that sound is looked for before and after.
    public static final int WIDEST = 300;

    private static final double TELLS = 0.6; // correlation below which the two are not the same sound
    private static final double BETTER = 0.1; // by which another place must fit better than where it should be
    private static final double EVEN = 0.002; // of full scale: what hardly changes tells no place
    private static final double LIVELY = 0.02; // of full scale: what changes by that much is not even

    private float[] values = new float[4_096];
    private int count;

    Envelope() {}

    void add(double rootMeanSquare) {
        if (count == MOST) {
            return;
        }
        if (count == values.length) {
            values = Arrays.copyOf(values, count * 2);
        }
        values[count++] = (float) rootMeanSquare;
    }

    /// How many milliseconds later another recording has this sound, negative for earlier.
    ///
    /// @param tolerance milliseconds that it may be beside its place
    /// @return empty where it is in its place, or where silence or an even tone does not tell
    public OptionalInt late(Envelope other, int tolerance) {
        int length = Math.min(count, other.count);
        if (length < 4 * WIDEST || spread(values, length) < EVEN || spread(other.values, length) < EVEN) {
            return OptionalInt.empty();
        }
        int best = 0;
        double most = -1;
        double near = -1;
        for (int late = -WIDEST; late <= WIDEST; late++) {
            double alike = correlation(other, late, length);
            if (alike > most) {
                most = alike;
                best = late;
            }
            if (Math.abs(late) <= tolerance) {
                near = Math.max(near, alike);
            }
        }
        if (Math.abs(best) <= tolerance || most <= TELLS || most - near <= BETTER) {
            return OptionalInt.empty();
        }
        // An even tone lies as well over itself where it is some of its periods late.
        for (int late = best - tolerance; late <= best + tolerance; late++) {
            if (correlation(this, late, length) >= most - BETTER) {
                return OptionalInt.empty();
            }
        }
        return OptionalInt.of(best);
    }

    /// How well another recording's envelope lies over this one, about its place.
    ///
    /// @param tolerance milliseconds that it may be beside its place
    /// @return from -1 to 1, 0 where one is even and the other is not; empty where silence or an even sound
    ///     does not tell
    public OptionalDouble likeness(Envelope other, int tolerance) {
        int length = Math.min(count, other.count);
        if (length < 4 * WIDEST) {
            return OptionalDouble.empty();
        }
        double less = Math.min(spread(values, length), spread(other.values, length));
        double more = Math.max(spread(values, length), spread(other.values, length));
        if (less < EVEN) {
            return more < LIVELY ? OptionalDouble.empty() : OptionalDouble.of(0);
        }
        double most = -1;
        for (int late = -tolerance; late <= tolerance; late++) {
            most = Math.max(most, correlation(other, late, length));
        }
        return OptionalDouble.of(most);
    }

    private static double spread(float[] values, int length) {
        double sum = 0;
        double squares = 0;
        for (int i = 0; i < length; i++) {
            sum += values[i];
            squares += (double) values[i] * values[i];
        }
        double mean = sum / length;
        return Math.sqrt(Math.max(0, squares / length - mean * mean));
    }

    /// Pearson's correlation of what lies over each other.
    private double correlation(Envelope other, int late, int length) {
        int from = Math.max(0, -late);
        int to = Math.min(length, length - late);
        double n = to - from;
        double x = 0;
        double y = 0;
        double xx = 0;
        double yy = 0;
        double xy = 0;
        for (int i = from; i < to; i++) {
            double a = values[i];
            double b = other.values[i + late];
            x += a;
            y += b;
            xx += a * a;
            yy += b * b;
            xy += a * b;
        }
        double both = Math.sqrt(Math.max(0, xx - x * x / n)) * Math.sqrt(Math.max(0, yy - y * y / n));
        return both <= 0 ? 0 : (xy - x * y / n) / both;
    }
}
