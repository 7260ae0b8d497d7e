package docksort.sort;

import java.time.Duration;
import java.util.Locale;
import java.util.Optional;

/// How long copies will take on this machine, one after the other with all of it.
///
/// @param unknown copies of a kind that was never made here, which are not in the figures
public record PredictedTime(double lowSeconds, double likelySeconds, double highSeconds, int unknown) {
    public static final PredictedTime NONE = new PredictedTime(0, 0, 0, 0);

    static PredictedTime of(Optional<PastCopies.Spread> seconds) {
        return seconds.map(s -> new PredictedTime(s.low(), s.likely(), s.high(), 0))
                .orElse(new PredictedTime(0, 0, 0, 1));
    }

    public PredictedTime plus(PredictedTime other) {
        return new PredictedTime(
                lowSeconds + other.lowSeconds,
                likelySeconds + other.likelySeconds,
                highSeconds + other.highSeconds,
                unknown + other.unknown);
    }

    public boolean isKnown() {
        return unknown == 0;
    }

    public Duration likely() {
        return Duration.ofMillis(Math.round(likelySeconds * 1_000));
    }

    /// "12 min", or with its limits "9 to 16 min".
    public String label() {
        if (likelySeconds == 0) {
            return unknown == 0 ? "no time" : "not known yet";
        }
        String low = words(lowSeconds);
        String high = words(highSeconds);
        String known = low.equals(high) ? "about " + high : low + " to " + high;
        return unknown == 0 ? known : known + ", and " + unknown + " not known yet";
    }

    /// Seconds in the largest unit that leaves a number of at least two.
    static String words(double seconds) {
        if (seconds < 90) {
            return Math.max(1, Math.round(seconds)) + " s";
        }
        if (seconds < 5_400) {
            return Math.round(seconds / 60) + " min";
        }
        return String.format(Locale.ROOT, "%.1f h", seconds / 3_600);
    }
}
