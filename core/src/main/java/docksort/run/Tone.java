package docksort.run;

import docksort.engine.FrameSamples;
import docksort.engine.FrameSamples.Sample;
import java.util.Optional;

/// Which level a copy shows for each level of its original: a grade that another program or a camera gave it. The
/// curve never falls; it is the nearest of those to the means of the copy's levels (pool adjacent violators, M. Ayer
/// and others, An empirical distribution function for sampling with incomplete information, 1955).
final class Tone {
    private static final int LEVELS = 256;
    private static final double SPREAD = 12; // of levels; below it a flat picture tells no grade
    private static final double EXPLAINED = 0.9; // of what varies in the copy, by the levels of the original

    private final long[] places = new long[LEVELS];
    private final double[] sums = new double[LEVELS];
    private double squares;

    /// Takes the levels of two samples of one picture.
    void add(Sample original, Sample copy) {
        for (int i = 0; i < FrameSamples.PLACES; i++) {
            int level = original.at(i);
            places[level]++;
            sums[level] += copy.at(i);
            squares += (double) copy.at(i) * copy.at(i);
        }
    }

    /// The level of the copy for each of the original.
    ///
    /// @return empty where the levels of the original do not tell those of the copy: it shows something else, or
    ///     there is too little to tell
    Optional<byte[]> curve() {
        double[] mean = new double[LEVELS]; // of each pool of levels
        double[] weight = new double[LEVELS];
        int[] wide = new int[LEVELS];
        int pools = 0;
        for (int level = 0; level < LEVELS; level++) {
            mean[pools] = places[level] == 0 ? 0 : sums[level] / places[level];
            weight[pools] = places[level];
            wide[pools] = 1;
            while (pools > 0 && (weight[pools] == 0 || weight[pools - 1] == 0 || mean[pools] < mean[pools - 1])) {
                double both = weight[pools - 1] + weight[pools];
                mean[pools - 1] =
                        both == 0 ? 0 : (mean[pools - 1] * weight[pools - 1] + mean[pools] * weight[pools]) / both;
                weight[pools - 1] = both;
                wide[pools - 1] += wide[pools];
                pools--;
            }
            pools++;
        }
        return isTold(mean, weight, pools) ? Optional.of(levels(mean, wide, pools)) : Optional.empty();
    }

    private boolean isTold(double[] mean, double[] weight, int pools) {
        double all = 0;
        double sum = 0;
        double explained = 0;
        for (int i = 0; i < pools; i++) {
            all += weight[i];
            sum += weight[i] * mean[i];
            explained += weight[i] * mean[i] * mean[i];
        }
        double middle = sum / all;
        double varies = squares / all - middle * middle;
        return varies > SPREAD * SPREAD && explained / all - middle * middle >= EXPLAINED * varies;
    }

    private static byte[] levels(double[] mean, int[] wide, int pools) {
        var curve = new byte[LEVELS];
        int level = 0;
        for (int i = 0; i < pools; i++) {
            for (int end = level + wide[i]; level < end; level++) {
                curve[level] = (byte) Math.round(mean[i]);
            }
        }
        return curve;
    }
}
