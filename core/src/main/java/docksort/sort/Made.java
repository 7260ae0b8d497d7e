package docksort.sort;

import docksort.media.CopyForm;
import docksort.media.VideoTarget;

/// What one copy, or a trial of some frames of it, came to on one machine.
///
/// @param source the source's codec family
/// @param sourcePixels pixels of one of its frames
/// @param pixels pixels of one frame of the copy
/// @param frames how many were made
/// @param usualFrameBytes what one frame has at the codec's target
/// @param frameBytes what one had
/// @param secondsPerFrame how long one took, with the machine to itself
/// @param trial whether it was a trial
public record Made(
        VideoTarget target,
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

    double secondsPerPixel() {
        return secondsPerFrame / (sourcePixels + pixels);
    }

    /// What one frame of a copy has at the codec's target.
    public static double usual(CopyForm form) {
        return PredictedBytes.usualFrameBytes(form.target().orElseThrow(), form.raster());
    }
}
