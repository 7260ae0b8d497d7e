package docksort.strain;

import docksort.media.ClipFacts;
import docksort.media.Codec;
import docksort.media.FrameRate;
import docksort.media.PixelFormat;
import docksort.media.Raster;
import docksort.media.ScrubCost;
import docksort.media.VideoFacts;
import java.util.Optional;

/// What decides how well a file stands in for another: the facts of its picture that count, and how hard it
/// is itself. Small enough to be kept of every copy.
///
/// @param scrubCost empty where the frame structure is not known
/// @param verdict of its facts alone, without what was measured
public record Traits(
        Codec codec,
        Raster raster,
        FrameRate rate,
        PixelFormat pixels,
        Optional<ScrubCost> scrubCost,
        Verdict verdict,
        long bitsPerSecond) {

    /// @return empty for a file without a picture
    public static Optional<Traits> of(ClipFacts facts) {
        // No judgement of how hard a file is rests on the timeline it is for.
        Strain strain = new StrainJudge(TimelineFormat.HD_25).judge(facts);
        return facts.video().map(video -> of(facts, video, strain));
    }

    private static Traits of(ClipFacts facts, VideoFacts video, Strain strain) {
        return new Traits(
                video.codec(),
                video.displayRaster(),
                video.rate(),
                video.pixels(),
                strain.scrubCost(),
                strain.verdict(),
                facts.bitsPerSecond());
    }

    /// "easy, 6.5 decoded for one, 1280×720, H.264 High, 8-bit 4:2:0"
    public String label() {
        return verdict.label() + ", "
                + scrubCost.map(cost -> cost.meanLabel() + " decoded for one").orElse("structure not known") + ", "
                + raster + ", " + codec.label() + ", " + pixels.label();
    }
}
