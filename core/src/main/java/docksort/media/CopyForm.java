package docksort.media;

import java.util.Optional;

/// What a copy will be, with every choice made: nothing is left to an encoder's defaults.
///
/// @param target codec and profile; empty for sound alone, and where the picture is taken over as it is
/// @param raster upright, even sides
/// @param pixelAspect width of a pixel over its height, after turning
/// @param rate constant
/// @param frames how many the copy has
/// @param framesMayRound whether the count may end one frame apart, because the source's count or rate is not
///     exact
/// @param interlaced whether the copy keeps the source's fields
/// @param deinterlace whether whole pictures are made of fields
/// @param look what is done to the colours; its step for high dynamic range only where the clip has that
/// @param keepsAlpha whether transparency is carried
/// @param range the stretch of the clip that is copied, empty for all of it
/// @param hardware whether an encoder of the graphics processor may be used
public record CopyForm(
        Optional<VideoTarget> target,
        Wrapper wrapper,
        Raster raster,
        Rational pixelAspect,
        FrameRate rate,
        long frames,
        boolean framesMayRound,
        boolean interlaced,
        boolean deinterlace,
        Look look,
        boolean keepsAlpha,
        SoundForm sound,
        BurnIns burnIns,
        Optional<FrameRange> range,
        boolean hardware) {
    public CopyForm {
        if (target.isPresent() && (raster.width() % 2 != 0 || raster.height() % 2 != 0)) {
            throw new IllegalArgumentException("a copy needs even sides, was " + raster);
        }
    }

    /// A stretch of this copy, to be joined with others.
    ///
    /// @param stretch in frames of the clip
    public CopyForm segment(FrameRange stretch) {
        return new CopyForm(
                target,
                Wrapper.MOV,
                raster,
                pixelAspect,
                rate,
                stretch.count(),
                framesMayRound,
                interlaced,
                deinterlace,
                look,
                keepsAlpha,
                sound,
                burnIns,
                Optional.of(stretch),
                hardware);
    }

    /// Whether a picture of high dynamic range is brought down for viewing.
    public boolean toSdr() {
        return look.toSdr();
    }

    public boolean isSoundAlone() {
        return target.isEmpty() && wrapper == Wrapper.WAV;
    }

    /// Whether the picture is taken over without being encoded anew.
    public boolean isRewrap() {
        return target.isEmpty() && wrapper != Wrapper.WAV;
    }

    public boolean isVc3() {
        return target.map(VideoTarget::isVc3).orElse(false);
    }

    /// "VC-3 HD 185/220 1920×1080", with the data rate where it is fixed.
    public String label() {
        if (isSoundAlone()) {
            return wrapper.label() + " sound";
        }
        if (isRewrap()) {
            return "as it is, " + raster + " in " + wrapper.label();
        }
        String in = wrapper == Wrapper.MOV ? "" : " in " + wrapper.label();
        return target.get().label() + " " + raster + in;
    }

    /// The fixed data rate of the picture in bits a second, empty where the codec has none.
    public Optional<Rational> bitsPerSecond() {
        return target.filter(VideoTarget::isVc3)
                .map(codec -> Rational.of(8 * codec.vc3FrameBytes(raster)).times(rate.exact()));
    }
}
