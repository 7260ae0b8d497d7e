package docksort.media;

import java.util.Arrays;
import java.util.Locale;

/// A figure that was measured several times: the median, and the lowest and highest.
///
/// @param runs how often it was measured
public record Measured(double median, double lowest, double highest, int runs) {
    public Measured {
        if (runs < 1 || !(lowest <= median && median <= highest)) {
            throw new IllegalArgumentException("not measured: " + median + ", " + lowest + " to " + highest);
        }
    }

    /// @param values at least one
    public static Measured of(double... values) {
        double[] sorted = values.clone();
        Arrays.sort(sorted);
        int middle = sorted.length / 2;
        double median = sorted.length % 2 == 1 ? sorted[middle] : (sorted[middle - 1] + sorted[middle]) / 2;
        return new Measured(median, sorted[0], sorted[sorted.length - 1], sorted.length);
    }

    public Measured dividedBy(double unit) {
        return new Measured(median / unit, lowest / unit, highest / unit, runs);
    }

    /// Whether it lies above another by more than both spread.
    public boolean isClearlyAbove(Measured other) {
        return lowest > other.highest;
    }

    /// "3.2 (3.1 to 3.4)"
    public String label() {
        return runs == 1 ? figure(median) : figure(median) + " (" + figure(lowest) + " to " + figure(highest) + ")";
    }

    private static String figure(double value) {
        return String.format(Locale.ROOT, value >= 100 ? "%.0f" : value >= 10 ? "%.1f" : "%.2f", value);
    }
}
