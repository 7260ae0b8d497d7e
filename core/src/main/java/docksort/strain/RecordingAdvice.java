package docksort.strain;

import docksort.media.ClipFacts;
import docksort.media.FrameRate;
import docksort.media.FrameStructure;
import docksort.media.FrameStructure.Extent;
import docksort.media.Rational;
import docksort.media.ScrubCost;
import docksort.media.VideoFacts;
import docksort.media.VideoFacts.RateKind;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/// How to record next time so that no working copy is needed: keyframe every 2 s, that is twice the frame rate in
/// frames, one two-way picture at most, High profile, constant frame rate (common practice, no source).
///
/// @param points what to set, each with its arithmetic and what it is now; empty where it was recorded so
/// @param interval the advised frames from keyframe to keyframe
/// @param would what a random frame would cost then
public record RecordingAdvice(List<String> points, int interval, ScrubCost would) {
    private static final int SECONDS_BETWEEN_KEYFRAMES = 2;

    public RecordingAdvice {
        points = List.copyOf(points);
    }

    /// @return empty for clips that are not recordings of this kind: all-intra ones, sound, camera clips with a
    /// reel
    ///     or timecode
    public static Optional<RecordingAdvice> of(ClipFacts facts) {
        boolean camera = facts.startTimecode().isPresent() || facts.reel().isPresent();
        if (facts.video().isEmpty() || camera || !facts.isLongGop()) {
            return Optional.empty();
        }
        VideoFacts video = facts.video().get();
        FrameStructure structure = video.structure();
        FrameRate rate = video.rate();
        int interval = intervalFor(rate);
        var points = new ArrayList<String>();
        long worst = structure.keyframeInterval().worstFrames();
        if (worst > interval) {
            points.add("Keyframe every " + SECONDS_BETWEEN_KEYFRAMES + " s: " + SECONDS_BETWEEN_KEYFRAMES + " x "
                    + rate.label() + " fps = " + interval + " frames. Now up to " + worst + ".");
        }
        if (structure.longestTwoWayRun() > 1) {
            points.add("One B-frame at most. Now " + structure.longestTwoWayRun() + " in a row.");
        }
        if (video.codec().name().equals("h264") && !video.codec().profile().startsWith("High")) {
            points.add("High profile. Now " + video.codec().profile() + ".");
        }
        if (video.rateKind() == RateKind.VARIABLE) {
            points.add("Constant frame rate. Now variable.");
        }
        int twoWay = Math.min(1, structure.longestTwoWayRun());
        return Optional.of(new RecordingAdvice(points, interval, whatIf(interval, twoWay)));
    }

    /// Frames in two seconds.
    public static int intervalFor(FrameRate rate) {
        return (int) rate.exact().times(Rational.of(SECONDS_BETWEEN_KEYFRAMES)).rounded();
    }

    /// What a random frame costs in closed groups of a length, with a number of two-way pictures between two
    /// others.
    public static ScrubCost whatIf(int interval, int twoWay) {
        if (interval < 1 || twoWay < 0) {
            throw new IllegalArgumentException("no such group: " + interval + ", " + twoWay);
        }
        var builder = new FrameStructure.Builder(Extent.WHOLE, new Rational(1, 25));
        for (int group = 0; group < 2; group++) {
            long base = (long) group * interval;
            builder.add(base, true, 1);
            for (int at = 1; at < interval; ) {
                int anchor = Math.min(at + twoWay, interval - 1);
                builder.add(base + anchor, false, 1);
                for (int b = at; b < anchor; b++) {
                    builder.add(base + b, false, 1);
                }
                at = anchor + 1;
            }
        }
        return builder.build().scrubCost();
    }
}
