package docksort.sort;

import docksort.media.CopyForm;
import docksort.media.VideoTarget;
import java.util.Optional;

/// What one copy, or a trial of some frames of it, came to on one machine.
///
/// @param target empty where the picture was taken over as it is
/// @param source the source's codec family
/// @param sourcePixels pixels of one of its frames
/// @param pixels pixels of one frame of the copy
/// @param frames how many were made
/// @param usualFrameBytes what one frame has at the codec's target
/// @param frameBytes what one had
/// @param secondsPerFrame how long one took, with the machine to itself
/// @param trial whether it was a trial
public record PastCopy(
        Optional<VideoTarget> target,
        String source,
        long sourcePixels,
        long pixels,
        long frames,
        double usualFrameBytes,
        double frameBytes,
        double secondsPerFrame,
        boolean trial) {
    double bytesRatio() {
        return usualFrameBytes > 0 ? frameBytes / usualFrameBytes : 1;
    }

    /// Of what the work grows with: pixels, or bytes where nothing is coded.
    double secondsPerUnit() {
        return secondsPerFrame / (target.isPresent() ? sourcePixels + pixels : Math.max(1, frameBytes));
    }

    /// What one frame of a copy has at the codec's target.
    ///
    /// @param found what one had, for a picture that was taken over
    public static double usual(CopyForm form, double found) {
        return form.target()
                .map(target -> PredictedBytes.usualFrameBytes(target, form.raster()))
                .orElse(found);
    }
}
