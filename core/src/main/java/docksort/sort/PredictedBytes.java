package docksort.sort;

import docksort.media.AudioStream;
import docksort.media.ByteSize;
import docksort.media.ClipFacts;
import docksort.media.Raster;
import docksort.media.Rational;
import docksort.media.VideoTarget;

/// How large a copy will be.
///
/// @param pictureLow fewest bytes of picture
/// @param pictureHigh most bytes of picture; equal to the fewest where the codec has a fixed frame size
/// @param soundBytes bytes of uncompressed sound
public record PredictedBytes(long pictureLow, long pictureHigh, long soundBytes) {
    public static final PredictedBytes NONE = new PredictedBytes(0, 0, 0);

    /// Bytes per macroblock and frame of ProRes Proxy at its target: 38 Mb/s for 1920x1080 at 25 frames (the
    /// codec owner's
    /// published white paper, from memory). It is a target: quiet pictures need less, and small rasters somewhat
    /// more.
    private static final Rational PRORES_PROXY_TARGET = new Rational(38_000_000L / 8 / 25, 8_160);

    private static final Rational PRORES_LOW = new Rational(1, 4);
    private static final Rational PRORES_HIGH = new Rational(3, 2);

    public static PredictedBytes of(VideoTarget target, Raster raster, ClipFacts facts, long frames) {
        long sound = facts.audio().stream()
                .mapToLong(stream -> soundBytes(stream, facts))
                .sum();
        if (target.isVc3()) {
            long exact = target.vc3FrameBytes(raster) * frames;
            return new PredictedBytes(exact, exact, sound);
        }
        Rational middle = PRORES_PROXY_TARGET.times(Rational.of(raster.macroblocks() * frames));
        return new PredictedBytes(
                middle.times(PRORES_LOW).rounded(), middle.times(PRORES_HIGH).rounded(), sound);
    }

    /// PCM: rate x channels x bits/8 x seconds.
    private static long soundBytes(AudioStream stream, ClipFacts facts) {
        int bytesPerSample = stream.bitsPerSample() > 16 ? 3 : 2;
        long perSecond = (long) stream.samplesPerSecond() * stream.channels() * bytesPerSample;
        return Rational.of(perSecond).times(facts.seconds()).rounded();
    }

    public PredictedBytes plus(PredictedBytes other) {
        return new PredictedBytes(
                pictureLow + other.pictureLow, pictureHigh + other.pictureHigh, soundBytes + other.soundBytes);
    }

    public boolean isExact() {
        return pictureLow == pictureHigh;
    }

    public ByteSize likely() {
        return new ByteSize((pictureLow + pictureHigh) / 2 + soundBytes);
    }

    public ByteSize most() {
        return new ByteSize(pictureHigh + soundBytes);
    }

    public ByteSize least() {
        return new ByteSize(pictureLow + soundBytes);
    }
}
