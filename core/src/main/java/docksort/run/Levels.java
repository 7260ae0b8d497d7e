package docksort.run;

import docksort.engine.FrameSamples;
import docksort.engine.FrameSamples.Sample;
import java.util.function.IntPredicate;

/// Straight lines through the levels and the colour differences of two samples of one picture: their slopes are 1 for
/// the same ones.
final class Levels {
    private static final double CLIPPED = 4; // levels this near to black or white do not tell
    private static final double SPREAD = 12; // below it, a flat picture tells no slope
    private static final double COLOURED = 12; // below it, a picture is too grey to tell how saturated it is

    private static final int MOVED = 16; // levels that a place changes by where something moves
    private static final double MOST_OF_THEM = 0.75;
    private static final double EXPLAINED = 0.4; // of all that differs, by a move

    private double n;
    private double x;
    private double y;
    private double xx;
    private double xy;
    private double colours;
    private double coloured; // squares of the original's colour differences
    private double kept; // by those of the copy

    /// @param counts whether a place of a sample is looked at
    void add(Sample original, Sample copy, IntPredicate counts) {
        for (int i = 0; i < FrameSamples.PLACES; i++) {
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
        for (int i = 0; i < 2 * FrameSamples.COLOUR_PLACES; i++) {
            double a = original.colour(i);
            double b = copy.colour(i);
            if (Math.max(Math.abs(a), Math.abs(b)) < 128 - CLIPPED && countsColour(i, counts)) {
                colours++;
                coloured += a * a;
                kept += a * b;
            }
        }
    }

    /// @param index of a colour difference
    /// @param counts whether a place of the luma is looked at
    private static boolean countsColour(int index, IntPredicate counts) {
        int place = index % FrameSamples.COLOUR_PLACES;
        int half = FrameSamples.WIDTH / 2;
        int first = 2 * (place / half) * FrameSamples.WIDTH + 2 * (place % half);
        return counts.test(first)
                && counts.test(first + 1)
                && counts.test(first + FrameSamples.WIDTH)
                && counts.test(first + FrameSamples.WIDTH + 1);
    }

    /// Whether there is enough colour for [#saturation].
    boolean isColoured() {
        return colours > 0 && Math.sqrt(coloured / colours) > COLOURED;
    }

    /// How much of the original's colour the copy has: 0 for a grey one, less than 0 where colours changed places.
    double saturation() {
        return kept / coloured;
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
        for (int i = 0; i < FrameSamples.PLACES; i++) {
            if (counts.test(i)) {
                sum += Math.abs(a.at(i) - b.at(i));
                places++;
            }
        }
        return (double) sum / places;
    }

    /// The same of the colour differences.
    static double colourDifference(Sample a, Sample b, IntPredicate counts) {
        long sum = 0;
        int places = 0;
        for (int i = 0; i < 2 * FrameSamples.COLOUR_PLACES; i++) {
            if (countsColour(i, counts)) {
                sum += Math.abs(a.colour(i) - b.colour(i));
                places++;
            }
        }
        return places == 0 ? 0 : (double) sum / places;
    }

    /// Whether what moves between two pictures is, in a copy of the first, mostly where it is in the second.
    ///
    /// @param fewest places that have to move
    static boolean movesWith(Sample own, Sample neighbour, Sample copy, int fewest) {
        int moving = 0;
        int others = 0;
        for (int i = 0; i < FrameSamples.PLACES; i++) {
            if (Math.abs(own.at(i) - neighbour.at(i)) >= MOVED) {
                moving++;
                if (Math.abs(copy.at(i) - neighbour.at(i)) < Math.abs(copy.at(i) - own.at(i))) {
                    others++;
                }
            }
        }
        return moving >= fewest && others > moving * MOST_OF_THEM;
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
        for (int i = 0; i < FrameSamples.PLACES; i++) {
            largest = Math.max(largest, Math.abs(a.at(i) - b.at(i)));
        }
        return largest;
    }
}
