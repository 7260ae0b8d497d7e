package docksort.media;

/// An image that is laid over a copy's picture.
///
/// @param high how high it is, in parts of a hundred of the picture's height
/// @param seen how much of it is seen, in parts of a hundred; what is clear in the image stays clear
public record Watermark(KeptImage image, BurnIn.At at, int high, int seen) {
    public Watermark {
        if (high < 1 || high > 100) {
            throw new IllegalArgumentException("an image is 1 to 100 % of the picture high, was " + high + " %");
        }
        if (seen < 1 || seen > 100) {
            throw new IllegalArgumentException("1 to 100 % of an image are seen, was " + seen + " %");
        }
    }

    /// Where it lies: as high as it was asked for, and as wide as that makes it; smaller where it would be wider
    /// than the picture.
    public FrameLines.Area area(Raster raster, Rational pixelAspect) {
        double wide = raster.height()
                * (high / 100.0)
                * image.size().width()
                / image.size().height()
                / pixelAspect.toDouble();
        double fits = Math.min(1, raster.width() / wide);
        int tall = Math.max(1, (int) Math.round(raster.height() * (high / 100.0) * fits));
        int broad = Math.max(1, (int) Math.round(wide * fits));
        int sideways = Math.min(raster.width() / 40, raster.width() - broad);
        int upwards = Math.min(raster.height() / 30, raster.height() - tall);
        int x = switch (at) {
            case TOP_LEFT, BOTTOM_LEFT -> sideways;
            case TOP, CENTRE, BOTTOM -> (raster.width() - broad) / 2;
            case TOP_RIGHT, BOTTOM_RIGHT -> raster.width() - broad - sideways;
        };
        int y = switch (at) {
            case TOP_LEFT, TOP, TOP_RIGHT -> upwards;
            case CENTRE -> (raster.height() - tall) / 2;
            case BOTTOM_LEFT, BOTTOM, BOTTOM_RIGHT -> raster.height() - tall - upwards;
        };
        return new FrameLines.Area(x, y, broad, tall);
    }

    /// "Night.png top right"
    public String label() {
        return image.file().name() + " " + at.label();
    }

    /// What it does to a picture, whatever its name is.
    @Override
    public String toString() {
        return "Watermark[" + image.file().digest() + ", " + at + ", " + high + ", " + seen + "]";
    }
}
