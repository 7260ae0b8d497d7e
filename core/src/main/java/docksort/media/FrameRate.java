package docksort.media;

import java.util.List;
import java.util.Locale;

/// Frames per second as an exact fraction in lowest terms: 30000/1001, never 29.97.
public record FrameRate(int numerator, int denominator) implements Comparable<FrameRate> {
    public static final FrameRate FPS_25 = new FrameRate(25, 1);

    /// The rates that timelines and recorders use, ascending (SMPTE ST 12-1 and ST 2048-1 families; the
    /// higher ones common practice, no source).
    public static final List<FrameRate> COMMON = List.of(
            new FrameRate(24000, 1001),
            new FrameRate(24, 1),
            FPS_25,
            new FrameRate(30000, 1001),
            new FrameRate(30, 1),
            new FrameRate(48000, 1001),
            new FrameRate(48, 1),
            new FrameRate(50, 1),
            new FrameRate(60000, 1001),
            new FrameRate(60, 1),
            new FrameRate(72, 1),
            new FrameRate(90, 1),
            new FrameRate(96, 1),
            new FrameRate(100, 1),
            new FrameRate(120000, 1001),
            new FrameRate(120, 1),
            new FrameRate(150, 1),
            new FrameRate(180, 1),
            new FrameRate(200, 1),
            new FrameRate(240000, 1001),
            new FrameRate(240, 1));

    public FrameRate {
        if (numerator <= 0 || denominator <= 0) {
            throw new IllegalArgumentException("frame rate must be positive, was " + numerator + "/" + denominator);
        }
        var reduced = new Rational(numerator, denominator);
        numerator = (int) reduced.numerator();
        denominator = (int) reduced.denominator();
    }

    /// Reads `25`, `30000/1001`, `29.97` or `23.976`; the decimal names of the 1001 family become their
    /// exact fraction.
    ///
    /// @throws IllegalArgumentException when the text is not a positive rate
    public static FrameRate parse(String text) {
        Rational exact = Rational.parse(text.strip());
        if (text.contains(".")) {
            for (FrameRate rate : COMMON) {
                if (exact.minus(rate.exact()).absolute().compareTo(new Rational(1, 200)) < 0) {
                    return rate;
                }
            }
        }
        if (exact.numerator() > Integer.MAX_VALUE || exact.denominator() > Integer.MAX_VALUE) {
            throw new IllegalArgumentException("not a frame rate: " + text);
        }
        return new FrameRate((int) exact.numerator(), (int) exact.denominator());
    }

    /// The member of [#COMMON] that lies nearest to a measured rate.
    public static FrameRate nearestCommon(Rational measured) {
        return COMMON.stream()
                .min((a, b) -> measured.minus(a.exact())
                        .absolute()
                        .compareTo(measured.minus(b.exact()).absolute()))
                .orElseThrow();
    }

    /// Whether timelines or recorders use it.
    public boolean isCommon() {
        return COMMON.contains(this);
    }

    public Rational exact() {
        return new Rational(numerator, denominator);
    }

    /// Frames counted per second of timecode: 30 for 30000/1001 (SMPTE ST 12-1).
    public int nominal() {
        return (int) exact().rounded();
    }

    /// Whether drop-frame counting is defined for this rate: multiples of 30000/1001 (SMPTE ST 12-1).
    public boolean allowsDropFrame() {
        return denominator == 1001 && nominal() % 30 == 0;
    }

    public Rational secondsOf(long frames) {
        return Rational.of(frames).dividedBy(exact());
    }

    /// The number of frames that starts within a time, rounded to the nearest.
    public long framesIn(Rational seconds) {
        return seconds.times(exact()).rounded();
    }

    /// As the trade says it: `25`, `29.97`, `23.976`.
    public String label() {
        if (denominator == 1) {
            return Integer.toString(numerator);
        }
        String three = String.format(Locale.ROOT, "%.3f", exact().toDouble());
        return nominal() == 24 ? three : String.format(Locale.ROOT, "%.2f", exact().toDouble());
    }

    /// "59.94 fps", or where another rate has the same label, what sets them apart: "60000/1001 fps".
    public String labelBeside(FrameRate other) {
        boolean alike = label().equals(other.label()) && !equals(other);
        return (alike ? toString() : label()) + " fps";
    }

    @Override
    public int compareTo(FrameRate other) {
        return exact().compareTo(other.exact());
    }

    @Override
    public String toString() {
        return denominator == 1 ? Integer.toString(numerator) : numerator + "/" + denominator;
    }
}
