package docksort.run;

import docksort.arrival.Clip;
import docksort.catalogue.WorkingCopy;
import docksort.media.FrameRange;
import docksort.media.VideoFacts;
import java.util.Optional;

/// One copy of a run as it stands now.
///
/// @param clipName the clip it is made of
/// @param framesDone frames encoded so far
/// @param framesAll frames it will have
/// @param framesPerSecond how fast it is encoded now, 0 when it is not
/// @param clipRate frames a second that it plays at, 0 for sound alone
/// @param bytes what its file has so far
/// @param framePixels pixels that are decoded and encoded for one frame, for adding up unlike copies
public record CopyProgress(
        WorkingCopy copy,
        String clipName,
        long framesDone,
        long framesAll,
        double framesPerSecond,
        double clipRate,
        long bytes,
        long framePixels) {
    /// Of a copy of which nothing is made yet.
    ///
    /// @param clip empty where the project has it no more
    public static CopyProgress before(WorkingCopy copy, Optional<Clip> clip) {
        Optional<VideoFacts> video = clip.flatMap(c -> c.facts().video());
        long frames = copy.range()
                .map(FrameRange::count)
                .orElseGet(() -> video.map(v -> v.frames().count()).orElse(0L));
        return new CopyProgress(
                copy,
                clip.map(Clip::name).orElse(copy.clip().value()),
                0,
                frames,
                0,
                video.map(v -> v.rate().exact().toDouble()).orElse(0.0),
                0,
                video.map(v -> v.raster().pixels()).orElse(1L));
    }

    /// The same copy as it is now, whoever made it.
    public CopyProgress asItIs(WorkingCopy now) {
        boolean made = now.state().serves();
        return with(now, made ? framesAll : 0, framesAll, 0, made ? now.place().bytes() : 0);
    }

    /// How many seconds of the clip are made in one second, 0 when nothing is.
    public double timesRealTime() {
        return clipRate > 0 ? framesPerSecond / clipRate : 0;
    }

    double workDone() {
        return (double) framesDone * framePixels;
    }

    double workAll() {
        return (double) framesAll * framePixels;
    }

    CopyProgress still() {
        return with(copy, framesDone, framesAll, 0, bytes);
    }

    CopyProgress with(WorkingCopy next, long done, long all, double speed, long size) {
        return new CopyProgress(next, clipName, done, all, speed, clipRate, size, framePixels);
    }
}
