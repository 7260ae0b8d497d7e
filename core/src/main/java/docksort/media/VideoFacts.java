package docksort.media;

/// What is known of a clip's picture.
///
/// @param raster the stored raster, before rotation and pixel aspect
/// @param codedRaster the raster the codec works on, where it is larger than what is shown of it
/// @param pixelAspect width of a pixel over its height; 1 is square
/// @param rotationDegrees clockwise turn a player applies: 0, 90, 180, 270
/// @param rate the rate the picture is to be counted at; for variable-rate footage the constant rate it
/// conforms to
/// @param frames how many frames there are
/// @param structure coded pictures of the stream or of a stretch
public record VideoFacts(
        Codec codec,
        Raster raster,
        Raster codedRaster,
        Rational pixelAspect,
        int rotationDegrees,
        ScanType scan,
        PixelFormat pixels,
        Colour colour,
        Hdr hdr,
        FrameRate rate,
        RateKind rateKind,
        Frames frames,
        FrameStructure structure) {

    public VideoFacts {
        if (!pixelAspect.isPositive()) {
            throw new IllegalArgumentException("pixel aspect must be positive: " + pixelAspect);
        }
    }

    /// CONSTANT and VARIABLE are read from time stamps. UNSTATED: the medium states none (numbered
    /// stills), and the rate here is only a place-holder until somebody says how to read it; then it is
    /// INTERPRETED.
    public enum RateKind {
        CONSTANT("constant"),
        VARIABLE("variable"),
        UNSTATED("not stated"),
        INTERPRETED("interpreted");

        private final String label;

        RateKind(String label) {
            this.label = label;
        }

        public String label() {
            return label;
        }
    }

    /// Whether it has no luma of its own: red, green and blue, beside each other on a sensor or not, or
    /// grey that is tagged as one of them.
    public boolean isRgb() {
        return pixels.isMosaic()
                || pixels.chroma() == PixelFormat.Chroma.RGB
                || colour.matrix().equals("gbr");
    }

    public boolean isSquare() {
        return pixelAspect.equals(Rational.of(1));
    }

    /// The stored raster, turned upright.
    public Raster uprightRaster() {
        return rotationDegrees % 180 == 0 ? raster : raster.turned();
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
        return with(rate, rateKind, frames, other);
    }

    public VideoFacts withFrames(Frames other) {
        return with(rate, rateKind, other, structure);
    }

    /// Whether it holds a rate that neither timelines nor recorders use, for instance 15.
    public boolean hasOddRate() {
        return rateKind == RateKind.CONSTANT && !rate.isCommon();
    }

    /// Frames that state no time are counted at the chosen rate. Those that hold an odd rate keep their
    /// times: at another one they are conformed, as those of a variable rate are.
    VideoFacts interpretedAt(FrameRate chosen) {
        if (!hasOddRate() || chosen.equals(rate)) {
            return with(chosen, RateKind.INTERPRETED, frames, structure);
        }
        var conformed =
                new Frames(chosen.framesIn(seconds()), Frames.Origin.ESTIMATED, frames.firstAt(), frames.reach());
        return with(chosen, RateKind.VARIABLE, conformed, structure);
    }

    private VideoFacts with(FrameRate newRate, RateKind newKind, Frames newFrames, FrameStructure newStructure) {
        return new VideoFacts(
                codec,
                raster,
                codedRaster,
                pixelAspect,
                rotationDegrees,
                scan,
                pixels,
                colour,
                hdr,
                newRate,
                newKind,
                newFrames,
                newStructure);
    }
}
