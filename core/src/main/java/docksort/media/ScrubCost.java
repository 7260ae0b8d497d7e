package docksort.media;

import java.util.Arrays;
import java.util.Locale;

/// Frames that must be decoded to show one random frame.
///
/// For every frame of the structure the walk of a player is followed: jump to the last keyframe that is shown
/// no later than the wanted frame, then decode in stored order until the wanted frame has been decoded. In open
/// groups the pictures stored after a keyframe but shown before it are reached from the keyframe before. A
/// closed group of n frames without two-way pictures costs (n+1)/2 on average; all-intra footage costs 1
/// (common practice, no source).
///
/// @param mean over all frames of the structure, exact
/// @param worst the dearest frame
public record ScrubCost(Rational mean, long worst) {
    public static final ScrubCost ONE = new ScrubCost(Rational.of(1), 1);

    /// @param shown when each picture is shown, in decode order
    /// @param sizes anything with the keyframe flag in the lowest bit
    static ScrubCost of(long[] shown, int[] sizes, int count) {
        long[] keyShown = new long[count];
        int[] keyStored = new int[count];
        int keys = 0;
        for (int i = 0; i < count; i++) {
            // Keyframes are kept in order of showing; one that is out of order cannot be found by a player's
            // search.
            if ((sizes[i] & 1) == 1 && (keys == 0 || shown[i] > keyShown[keys - 1])) {
                keyShown[keys] = shown[i];
                keyStored[keys++] = i;
            }
        }
        long sum = 0;
        long worst = 0;
        for (int i = 0; i < count; i++) {
            int at = Arrays.binarySearch(keyShown, 0, keys, shown[i]);
            int key = at >= 0 ? at : -at - 2;
            while (key >= 0 && keyStored[key] > i) {
                key--;
            }
            long cost = i - (key < 0 ? 0 : keyStored[key]) + 1L;
            sum += cost;
            worst = Math.max(worst, cost);
        }
        return new ScrubCost(new Rational(sum, count), worst);
    }

    /// "12.4", or "301" where a tenth tells nothing.
    public String meanLabel() {
        double value = mean.toDouble();
        return value == Math.rint(value) || value >= 100
                ? String.format(Locale.ROOT, "%.0f", value)
                : String.format(Locale.ROOT, "%.1f", value);
    }
}
