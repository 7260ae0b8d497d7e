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
/// @param pictureLikely bytes of picture at the codec's target
/// @param pictureHigh most bytes of picture; equal to the fewest where the codec has a fixed frame size
/// @param soundBytes bytes of uncompressed sound
public record PredictedBytes(long pictureLow, long pictureLikely, long pictureHigh, long soundBytes) {
    public static final PredictedBytes NONE = new PredictedBytes(0, 0, 0, 0);

    /// Picture made for this many macroblocks or fewer gets this many bits a macroblock and frame in ProRes
    /// Proxy: smaller rasters get more (libavcodec/proresenc_kostya.c, `prores_mb_limits` and `br_tab`, FFmpeg
    /// 8.0). At 1920x1080 and 25 frames that is the 38 Mb/s of the codec owner's published white paper (from
    /// memory). It is a target.
    private static final long[][] PRORES_PROXY_BITS = {{1_620, 300}, {2_700, 242}, {6_075, 220}, {Long.MAX_VALUE, 194}};

    /// Quiet pictures need less than the target; the quick encoder goes above it for busy ones. Wide, until
    /// what was made before is used to narrow it.
    private static final Rational PRORES_LOW = new Rational(1, 5);

    private static final Rational PRORES_HIGH = new Rational(2, 1);

    public static PredictedBytes of(VideoTarget target, Raster raster, ClipFacts facts, long frames) {
        long sound = facts.audio().stream()
                .mapToLong(stream -> soundBytes(stream, facts))
                .sum();
        if (target.isVc3()) {
            long exact = target.vc3FrameBytes(raster) * frames;
            return new PredictedBytes(exact, exact, exact, sound);
        }
        Rational middle =
                new Rational(proResBits(raster.macroblocks()), 8).times(Rational.of(raster.macroblocks() * frames));
        return new PredictedBytes(
                middle.times(PRORES_LOW).rounded(),
                middle.rounded(),
                middle.times(PRORES_HIGH).rounded(),
                sound);
    }

    private static long proResBits(long macroblocks) {
        int row = 0;
        while (macroblocks > PRORES_PROXY_BITS[row][0]) {
            row++;
        }
        return PRORES_PROXY_BITS[row][1];
    }

    /// PCM: rate x channels x bits/8 x seconds.
    private static long soundBytes(AudioStream stream, ClipFacts facts) {
        int bytesPerSample = stream.bitsPerSample() > 16 ? 3 : 2;
        long perSecond = (long) stream.samplesPerSecond() * stream.channels() * bytesPerSample;
        return Rational.of(perSecond).times(facts.seconds()).rounded();
    }

    public PredictedBytes plus(PredictedBytes other) {
        return new PredictedBytes(
                pictureLow + other.pictureLow,
                pictureLikely + other.pictureLikely,
                pictureHigh + other.pictureHigh,
                soundBytes + other.soundBytes);
    }

    public boolean isExact() {
        return pictureLow == pictureHigh;
    }

    public ByteSize likely() {
        return new ByteSize(pictureLikely + soundBytes);
    }

    public ByteSize most() {
        return new ByteSize(pictureHigh + soundBytes);
    }

    public ByteSize least() {
        return new ByteSize(pictureLow + soundBytes);
    }
}
