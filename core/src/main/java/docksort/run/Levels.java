package docksort.run;

import docksort.engine.FrameSamples;
import docksort.engine.FrameSamples.Sample;
import java.util.function.IntPredicate;

/// A straight line through the levels of two samples of one picture: its slope is 1 for the same levels.
final class Levels {
    private static final double CLIPPED = 4; // levels this near to black or white do not tell
    private static final double SPREAD = 12; // below it, a flat picture tells no slope

    private static final int MOVED = 16; // levels that a place changes by where something moves
    private static final int FEWEST_MOVED = 8;
    private static final double MOST_OF_THEM = 0.75;
    private static final double EXPLAINED = 0.4; // of all that differs, by a move

    private double n;
    private double x;
    private double y;
    private double xx;
    private double xy;

    /// @param counts whether a place of a sample is looked at
    void add(Sample original, Sample copy, IntPredicate counts) {
        for (int i = 0; i < FrameSamples.WIDTH * FrameSamples.HEIGHT; i++) {
            double a = original.at(i);
            double b = copy.at(i);
            boolean clipped = Math.min(a, b) < CLIPPED || Math.max(a, b) > 255 - CLIPPED;
            if (!clipped && counts.test(i)) {
                n++;
                x += a;
                y += b;
                xx += a * a;
                xy += a * b;
            }
        }
    }

    boolean isTold() {
        return n > 0 && Math.sqrt(xx / n - x / n * (x / n)) > SPREAD;
    }

    double places() {
        return n;
    }

    double slope() {
        return (n * xy - x * y) / (n * xx - x * x);
    }

    /// Mean of the absolute differences, in levels of 255.
    static double difference(Sample a, Sample b, IntPredicate counts) {
        long sum = 0;
        int places = 0;
        for (int i = 0; i < FrameSamples.WIDTH * FrameSamples.HEIGHT; i++) {
            if (counts.test(i)) {
                sum += Math.abs(a.at(i) - b.at(i));
                places++;
            }
        }
        return (double) sum / places;
    }

    /// Whether what moves between two pictures is, in a copy of the first, mostly where it is in the second.
    static boolean movesWith(Sample own, Sample neighbour, Sample copy) {
        int moving = 0;
        int others = 0;
        for (int i = 0; i < FrameSamples.WIDTH * FrameSamples.HEIGHT; i++) {
            if (Math.abs(own.at(i) - neighbour.at(i)) >= MOVED) {
                moving++;
                if (Math.abs(copy.at(i) - neighbour.at(i)) < Math.abs(copy.at(i) - own.at(i))) {
                    others++;
                }
            }
        }
        return moving >= FEWEST_MOVED && others > moving * MOST_OF_THEM;
    }

    /// About how many lines lower a copy stands than its original, by the difference between the two over how the
    /// original's levels change from line to line (B. D. Lucas and T. Kanade, An iterative image registration
    /// technique, 1981). Sharp edges make it up to half too much.
    ///
    /// @param lines of the pictures that the samples are of
    /// @return negative for higher; 0 for less than one line, and for a difference of another kind or as small
    ///     as rounding makes it
    static double lines(Sample original, Sample copy, int lines) {
        double places = FrameSamples.WIDTH * (FrameSamples.HEIGHT - 2.0);
        double changes = 0;
        double differences = 0;
        double squares = 0;
        double along = 0;
        double all = 0;
        for (int i = FrameSamples.WIDTH; i < FrameSamples.WIDTH * (FrameSamples.HEIGHT - 1); i++) {
            double change = (original.at(i - FrameSamples.WIDTH) - original.at(i + FrameSamples.WIDTH)) / 2.0;
            double difference = copy.at(i) - original.at(i);
            changes += change;
            differences += difference;
            squares += change * change;
            along += difference * change;
            all += difference * difference;
        }
        // Without what is the same everywhere: a ramp that is brighter looks like one that stands lower.
        squares -= changes * changes / places;
        along -= changes * differences / places;
        all -= differences * differences / places;
        boolean explained = squares > 0 && all > places && along * along / squares > all * EXPLAINED;
        double lower = explained ? along / squares * lines / FrameSamples.HEIGHT : 0;
        return Math.abs(lower) >= 1 ? lower : 0;
    }

    /// The largest of the absolute differences, in levels of 255.
    static int largest(Sample a, Sample b) {
        int largest = 0;
        for (int i = 0; i < FrameSamples.WIDTH * FrameSamples.HEIGHT; i++) {
            largest = Math.max(largest, Math.abs(a.at(i) - b.at(i)));
        }
        return largest;
    }
}
