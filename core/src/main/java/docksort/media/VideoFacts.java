package docksort.media;

/// What is known of a clip's picture.
///
/// @param raster the stored raster, before rotation and pixel aspect
/// @param pixelAspect width of a pixel over its height; 1 is square
/// @param rotationDegrees clockwise turn a player applies: 0, 90, 180, 270
/// @param rate the rate the picture is to be counted at; for variable-rate footage the constant rate it conforms to
/// @param frames how many frames there are
/// @param structure coded pictures of the stream or of a stretch
public record VideoFacts(
        Codec codec,
        Raster raster,
        Rational pixelAspect,
        int rotationDegrees,
        ScanType scan,
        PixelFormat pixels,
        Colour colour,
        FrameRate rate,
        RateKind rateKind,
        Frames frames,
        FrameStructure structure) {

    public VideoFacts {
        if (!pixelAspect.isPositive()) {
            throw new IllegalArgumentException("pixel aspect must be positive: " + pixelAspect);
        }
    }

    /// CONSTANT and VARIABLE are read from time stamps; INTERPRETED means that the medium states none (numbered
    /// stills) and somebody said how to read it.
    public enum RateKind {
        CONSTANT("constant"),
        VARIABLE("variable"),
        INTERPRETED("interpreted");

        private final String label;

        RateKind(String label) {
            this.label = label;
        }

        public String label() {
            return label;
        }
    }

    public boolean isSquare() {
        return pixelAspect.equals(Rational.of(1));
    }

    /// The raster as it is looked at: turned upright, pixels made square by widening.
    public Raster displayRaster() {
        long width = pixelAspect.times(Rational.of(raster.width())).rounded();
        var square = new Raster(Math.clamp(width, 1, 65_536), raster.height());
        return rotationDegrees % 180 == 0 ? square : square.turned();
    }

    public Rational seconds() {
        return rate.secondsOf(frames.count());
    }

    public long pixelsPerSecond() {
        return Rational.of(raster.pixels()).times(rate.exact()).rounded();
    }

    public VideoFacts withStructure(FrameStructure other) {
        return new VideoFacts(
                codec, raster, pixelAspect, rotationDegrees, scan, pixels, colour, rate, rateKind, frames, other);
    }
}
