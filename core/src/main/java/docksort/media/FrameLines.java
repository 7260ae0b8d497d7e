package docksort.media;

import java.math.BigDecimal;
import java.math.RoundingMode;

/// Shows in a copy's picture what a delivery of another shape keeps of it. The copy has the raster that it would
/// have without: a picture that was cut would lie in other places on a timeline than its original.
///
/// @param aspect width over height of what is kept, as it is shown
public record FrameLines(Rational aspect, Outside outside) {
    private static final Rational LEAST = new Rational(1, 5);
    private static final Rational MOST = Rational.of(5);
    private static final Rational WIDE = new Rational(13, 10); // what is said by two numbers is narrower

    public FrameLines {
        if (aspect.compareTo(LEAST) < 0 || aspect.compareTo(MOST) > 0) {
            throw new IllegalArgumentException("frame lines have a shape from 1:5 to 5:1");
        }
    }

    /// What becomes of the rest of the picture.
    public enum Outside {
        LINE("a line around it"),
        DIMMED("the rest dimmed"),
        BLACK("the rest black");

        private final String label;

        Outside(String label) {
            this.label = label;
        }

        public String label() {
            return label;
        }
    }

    /// Part of a picture, in samples.
    public record Area(int x, int y, int width, int height) {}

    /// Reads "2.39", "16:9" or "9/16".
    ///
    /// @throws IllegalArgumentException for anything else
    public static FrameLines parse(String text, Outside outside) {
        Rational aspect;
        try {
            aspect = Rational.parse(text.strip());
        } catch (IllegalArgumentException e) {
            throw new IllegalArgumentException(
                    "the shape of frame lines is written as 2.39 or as 16:9, was \"" + text.strip() + "\"", e);
        }
        return new FrameLines(aspect, outside);
    }

    /// What is kept: in the middle, as large as it can be, its distances from the edges even, so that no colour
    /// sample and no pair of lines of two fields lies on both sides.
    public Area kept(Raster raster, Rational pixelAspect) {
        Rational width = Rational.of(raster.width());
        Rational height = Rational.of(raster.height());
        Rational high = width.times(pixelAspect).dividedBy(aspect);
        if (high.compareTo(height) <= 0) {
            int edge = edge(height.minus(high), raster.height());
            return new Area(0, edge, raster.width(), raster.height() - 2 * edge);
        }
        Rational wide = height.times(aspect).dividedBy(pixelAspect);
        int edge = edge(width.minus(wide), raster.width());
        return new Area(edge, 0, raster.width() - 2 * edge, raster.height());
    }

    private static int edge(Rational both, int side) {
        long pairs = both.dividedBy(Rational.of(4)).rounded();
        return 2 * (int) Math.min(pairs, (side - 1) / 4); // something is kept
    }

    /// "2.39" or "16:9".
    public String shape() {
        try {
            BigDecimal places = BigDecimal.valueOf(aspect.numerator())
                    .divide(BigDecimal.valueOf(aspect.denominator()))
                    .setScale(2, RoundingMode.UNNECESSARY);
            if (aspect.compareTo(WIDE) >= 0) {
                return places.toPlainString();
            }
        } catch (ArithmeticException e) {
            // Two numbers say it.
        }
        return aspect.numerator() + ":" + aspect.denominator();
    }

    /// "frame lines 2.39, the rest dimmed"
    public String label() {
        return "frame lines " + shape() + ", " + outside.label();
    }
}
