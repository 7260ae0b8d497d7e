package docksort.sort;

import docksort.arrival.Clip;
import docksort.media.AudioStream;
import docksort.media.ByteSize;
import docksort.media.CopyForm;
import docksort.media.FrameRange;
import docksort.media.Raster;
import docksort.media.Rational;
import docksort.media.VideoFacts;
import docksort.media.VideoTarget;
import docksort.media.Wrapper;

/// How large a copy will be.
///
/// @param pictureLow fewest bytes of picture
/// @param pictureLikely bytes of picture at the codec's target, or as far as was learned
/// @param pictureHigh most bytes of picture; equal to the fewest where the codec has a fixed frame size
/// @param soundBytes bytes of sound
public record PredictedBytes(long pictureLow, long pictureLikely, long pictureHigh, long soundBytes) {
    public static final PredictedBytes NONE = new PredictedBytes(0, 0, 0, 0);

    private static final long[] PRORES_MACROBLOCKS = {1_620, 2_700, 6_075, Long.MAX_VALUE};

    // Bits a macroblock and frame: smaller rasters get more (libavcodec/proresenc_kostya.c,
    // `prores_mb_limits` and
    // `br_tab`, FFmpeg 8.0, from memory). At 1920x1080 and 25 frames Proxy's are the 38 Mb/s of the codec
    // owner's published white paper (from memory), HQ's the 184. They are targets.
    private static final long[] PROXY_BITS = {300, 242, 220, 194};
    private static final long[] LT_BITS = {720, 560, 490, 440};
    private static final long[] STANDARD_BITS = {1_050, 808, 710, 632};
    private static final long[] HQ_BITS = {1_566, 1_216, 1_070, 950};
    private static final long[] FOUR_BITS = {2_350, 1_828, 1_600, 1_425};

    /// Quiet pictures need less than the target; busy ones may get more. Wide, until something was made.
    static final double LOW = 0.2;

    static final double HIGH = 2;

    /// Of codecs that go by quality nothing is known beforehand but an order of size.
    static final double QUALITY_LOW = 0.1;

    static final double QUALITY_HIGH = 4;

    private static final long AAC_BITS = 256_000;

    static PredictedBytes of(CopyForm form, Clip clip, String recipe, PastCopies pastCopies) {
        long sound = form.sound().streams(clip.facts().audio()).stream()
                .mapToLong(stream -> soundBytes(stream, form, clip))
                .sum();
        if (form.isRewrap()) {
            return rewrapped(clip, sound);
        }
        if (form.isSoundAlone()) {
            return new PredictedBytes(0, 0, 0, sound);
        }
        VideoTarget target = form.target().orElseThrow();
        if (target.isVc3()) {
            long exact = Math.multiplyExact(target.vc3FrameBytes(form.raster()), form.frames());
            return new PredictedBytes(exact, exact, exact, sound);
        }
        double each = usualFrameBytes(target, form.raster());
        PastCopies.Spread spread = pastCopies.frameBytes(clip, recipe, form, each);
        return new PredictedBytes(
                Math.round(spread.low() * form.frames()),
                Math.round(spread.likely() * form.frames()),
                Math.round(spread.high() * form.frames()),
                sound);
    }

    /// Frames have the bytes they have; where only some were read, the file's size is the most.
    private static PredictedBytes rewrapped(Clip clip, long sound) {
        VideoFacts picture = clip.facts().video().orElseThrow();
        long known = picture.structure().bytes();
        boolean all = picture.structure().count() == picture.frames().count();
        long file = clip.facts().size().bytes();
        return all ? new PredictedBytes(known, known, known, sound) : new PredictedBytes(file / 2, file, file, sound);
    }

    /// Bytes of one frame at the codec's target; for codecs that go by quality, what is common (no source).
    static double usualFrameBytes(VideoTarget target, Raster raster) {
        return switch (target) {
            case PRORES_PROXY -> proRes(PROXY_BITS, raster);
            case PRORES_LT -> proRes(LT_BITS, raster);
            case PRORES_422 -> proRes(STANDARD_BITS, raster);
            case PRORES_HQ -> proRes(HQ_BITS, raster);
            case PRORES_4444 -> proRes(FOUR_BITS, raster);
            case MOTION_JPEG -> raster.pixels() * 0.25;
            case H264_INTRA -> raster.pixels() * 0.12;
            case H264_INTRA_10 -> raster.pixels() * 0.2;
            case H264_LONG -> raster.pixels() * 0.012;
            case HEVC_LONG -> raster.pixels() * 0.010;
            case AV1_LONG -> raster.pixels() * 0.008;
            case CINEFORM -> raster.pixels() * 0.35;
            case CINEFORM_ALPHA -> raster.pixels() * 0.7;
            default -> target.vc3FrameBytes(raster);
        };
    }

    private static double proRes(long[] bits, Raster raster) {
        int row = 0;
        while (raster.macroblocks() > PRORES_MACROBLOCKS[row]) {
            row++;
        }
        return bits[row] * raster.macroblocks() / 8.0;
    }

    /// PCM: rate x channels x bits/8 x seconds.
    private static long soundBytes(AudioStream stream, CopyForm form, Clip clip) {
        Rational seconds = form.range()
                .map(FrameRange::count)
                .flatMap(frames -> clip.facts().video().map(VideoFacts::rate).map(rate -> rate.secondsOf(frames)))
                .orElse(clip.facts().seconds());
        if (form.wrapper() == Wrapper.MP4) {
            return Rational.of(AAC_BITS / 8).times(seconds).rounded();
        }
        int rate = form.wrapper() == Wrapper.MXF ? 48_000 : form.sound().rateFor(stream);
        long perSecond = (long) rate * stream.channels() * (form.sound().bitsFor(stream) / 8);
        return Rational.of(perSecond).times(seconds).rounded();
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
