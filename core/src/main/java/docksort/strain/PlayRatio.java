package docksort.strain;

import docksort.media.FrameRate;
import docksort.media.Measured;
import java.util.Locale;

/// Decode speed measured on one machine over the clip's frame rate. Below 1 it stutters.
///
/// @param framesPerSecond decoded frames a second, measured over a stretch after settling
/// @param seconds how long the stretch is when played
public record PlayRatio(Measured framesPerSecond, double rate, int seconds) {
    public static PlayRatio of(Measured framesPerSecond, FrameRate rate, int seconds) {
        return new PlayRatio(framesPerSecond, rate.exact().toDouble(), seconds);
    }

    public double value() {
        return framesPerSecond.median() / rate;
    }

    /// "0.62", "12"
    public String label() {
        return String.format(Locale.ROOT, value() >= 10 ? "%.0f" : value() >= 2 ? "%.1f" : "%.2f", value());
    }

    /// "15.5 of 25 fps"
    public String inFrames() {
        return String.format(
                Locale.ROOT,
                "%.1f of %s fps",
                framesPerSecond.median(),
                rate == Math.rint(rate)
                        ? String.format(Locale.ROOT, "%.0f", rate)
                        : String.format(Locale.ROOT, "%.2f", rate));
    }
}
