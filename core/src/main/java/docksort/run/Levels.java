package docksort.run;

import docksort.engine.FrameSamples;
import docksort.engine.FrameSamples.Sample;
import java.util.function.IntPredicate;

/// A straight line through the levels of two samples of one picture: its slope is 1 for the same levels.
final class Levels {
    private static final double CLIPPED = 4; // levels this near to black or white do not tell
    private static final double SPREAD = 12; // below it, a flat picture tells no slope

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

    /// The largest of the absolute differences, in levels of 255.
    static int largest(Sample a, Sample b) {
        int largest = 0;
        for (int i = 0; i < FrameSamples.WIDTH * FrameSamples.HEIGHT; i++) {
            largest = Math.max(largest, Math.abs(a.at(i) - b.at(i)));
        }
        return largest;
    }
}
