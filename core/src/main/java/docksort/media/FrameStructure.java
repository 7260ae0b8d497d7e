package docksort.media;

import java.util.List;

/// The coded pictures of a stream, or of a stretch of it, in decode order. What decides whether scrubbing hurts
/// is read from here, never from a codec's name.
///
/// Two-way pictures are recognised by reordering: a picture shown before one that was decoded earlier is
/// two-way. That is what a player must wait for, and needs no decoding.
///
/// @param timeBase seconds of one tick of the frames' time stamps
public record FrameStructure(List<CodedFrame> frames, Extent extent, Rational timeBase) {
    public static final FrameStructure NONE = new FrameStructure(List.of(), Extent.STRETCH, Rational.of(1));

    public FrameStructure {
        if (!timeBase.isPositive()) {
            throw new IllegalArgumentException("a time base must be positive: " + timeBase);
        }
        frames = List.copyOf(frames);
    }

    /// WHOLE: every picture of the stream is in the list. STRETCH: only a window of it was read.
    public enum Extent {
        WHOLE,
        STRETCH
    }

    public boolean isKnown() {
        return !frames.isEmpty();
    }

    public boolean isAllIntra() {
        return isKnown() && frames.stream().allMatch(CodedFrame::key);
    }

    /// Frames from one keyframe to the next: the mean as an exact fraction, and the longest. The stretch after
    /// the last keyframe is cut off by the end and counts only towards the longest, unless there is no other.
    public KeyframeInterval keyframeInterval() {
        long intervals = 0;
        long frameSum = 0;
        long tickSum = 0;
        long worst = 0;
        int open = -1;
        for (int i = 0; i < frames.size(); i++) {
            if (frames.get(i).key()) {
                if (open >= 0) {
                    intervals++;
                    frameSum += i - open;
                    tickSum += frames.get(i).shownAtTicks() - frames.get(open).shownAtTicks();
                    worst = Math.max(worst, i - open);
                }
                open = i;
            }
        }
        if (!isKnown()) {
            return new KeyframeInterval(Rational.ZERO, 0, Rational.ZERO);
        }
        int tail = frames.size() - Math.max(open, 0);
        worst = Math.max(worst, tail);
        if (intervals == 0) {
            intervals = 1;
            frameSum = tail;
            tickSum = lastShown() - frames.get(Math.max(open, 0)).shownAtTicks();
        }
        return new KeyframeInterval(
                new Rational(frameSum, intervals),
                worst,
                timeBase.times(new Rational(Math.max(0, tickSum), intervals)));
    }

    private long lastShown() {
        return frames.stream().mapToLong(CodedFrame::shownAtTicks).max().orElse(0);
    }

    /// @param meanFrames frames from one keyframe to the next
    /// @param worstFrames the most frames
    /// @param meanSeconds time from one keyframe to the next, by the frames' time stamps
    public record KeyframeInterval(Rational meanFrames, long worstFrames, Rational meanSeconds) {}

    /// The most two-way pictures between two others, in decode order.
    public int longestTwoWayRun() {
        int run = 0;
        int longest = 0;
        for (FrameKind kind : kinds()) {
            run = kind == FrameKind.TWO_WAY ? run + 1 : 0;
            longest = Math.max(longest, run);
        }
        return longest;
    }

    /// The kind of each picture, in decode order.
    public List<FrameKind> kinds() {
        var kinds = new java.util.ArrayList<FrameKind>(frames.size());
        long latestShown = Long.MIN_VALUE;
        for (CodedFrame frame : frames) {
            if (frame.key()) {
                kinds.add(FrameKind.INTRA);
            } else {
                kinds.add(frame.shownAtTicks() < latestShown ? FrameKind.TWO_WAY : FrameKind.PREDICTED);
            }
            latestShown = Math.max(latestShown, frame.shownAtTicks());
        }
        return List.copyOf(kinds);
    }

    /// How a picture depends on others, as far as order tells.
    public enum FrameKind {
        INTRA,
        PREDICTED,
        TWO_WAY
    }
}
