package docksort.media;

import java.util.List;
import java.util.Locale;
import java.util.stream.Collectors;

/// A primary correction, as editing and grading programs exchange it (ASC Color Decision List, version 1.2, from
/// memory). For each of red, green and blue, 0 for black to 1 for white:
///
///     out = clamp(in * slope + offset) ^ power
///
/// and then, with the luma weights of Rec. ITU-R BT.709, out = clamp(luma + saturation * (out - luma)).
///
/// @param slope of red, green and blue, none below 0
/// @param offset of red, green and blue
/// @param power of red, green and blue, all above 0
/// @param saturation 1 for as it is
public record ColourDecision(Channels slope, Channels offset, Channels power, double saturation) {
    public static final ColourDecision NONE =
            new ColourDecision(Channels.of(1), Channels.of(0), Channels.of(1), /* saturation= */ 1);

    /// Weights of red, green and blue in luma, Rec. ITU-R BT.709.
    public static final Channels LUMA = new Channels(0.2126, 0.7152, 0.0722);

    private static final double MOST = 16;
    private static final double MOST_SATURATION = 2;

    public record Channels(double red, double green, double blue) {
        static Channels of(double all) {
            return new Channels(all, all, all);
        }

        public List<Double> all() {
            return List.of(red, green, blue);
        }

        private boolean areWithin(double least, double most) {
            return all().stream().allMatch(each -> each >= least && each <= most);
        }

        @Override
        public String toString() {
            return all().stream().map(ColourDecision::text).distinct().count() == 1
                    ? text(red)
                    : all().stream().map(ColourDecision::text).collect(Collectors.joining("/"));
        }
    }

    /// @throws IllegalArgumentException for values that no picture survives, or that this program does not apply
    public ColourDecision {
        if (!slope.areWithin(0, MOST)) {
            throw new IllegalArgumentException("slopes are 0 to 16, were " + slope);
        }
        if (!offset.areWithin(-MOST, MOST)) {
            throw new IllegalArgumentException("offsets are -16 to 16, were " + offset);
        }
        if (!power.areWithin(1 / MOST, MOST)) {
            throw new IllegalArgumentException("powers are 0.0625 to 16, were " + power);
        }
        if (!(saturation >= 0 && saturation <= MOST_SATURATION)) {
            throw new IllegalArgumentException("saturation is 0 to 2, was " + text(saturation));
        }
    }

    /// Red, green and blue, 0 to 1, as they come out.
    public Channels apply(Channels in) {
        double red = one(in.red, slope.red, offset.red, power.red);
        double green = one(in.green, slope.green, offset.green, power.green);
        double blue = one(in.blue, slope.blue, offset.blue, power.blue);
        double luma = LUMA.red * red + LUMA.green * green + LUMA.blue * blue;
        return new Channels(
                Math.clamp(luma + saturation * (red - luma), 0, 1),
                Math.clamp(luma + saturation * (green - luma), 0, 1),
                Math.clamp(luma + saturation * (blue - luma), 0, 1));
    }

    private static double one(double in, double slope, double offset, double power) {
        return Math.pow(Math.clamp(in * slope + offset, 0, 1), power);
    }

    /// "slope 1.1, offset 0.02, power 0.9, saturation 0.8"
    public String label() {
        return "slope " + slope + ", offset " + offset + ", power " + power + ", saturation " + text(saturation);
    }

    /// The values in one word.
    public String mark() {
        return (slope + ":" + offset + ":" + power + ":" + text(saturation)).replace(' ', '_');
    }

    private static String text(double value) {
        String text = String.format(Locale.ROOT, "%.6f", value);
        return text.replaceFirst("\\.?0+$", "").replaceFirst("^-0$", "0");
    }
}
