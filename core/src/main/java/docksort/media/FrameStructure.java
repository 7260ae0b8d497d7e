package docksort.media;

import java.util.List;

/// The coded pictures of a stream, or of a stretch of it, in decode order. What decides whether scrubbing hurts
/// is read
/// from here, never from a codec's name.
///
/// Two-way pictures are recognised by reordering: a picture shown before one that was decoded earlier is two-way.
/// That
/// is
/// what a player must wait for, and needs no decoding.
public record FrameStructure(List<CodedFrame> frames, Extent extent) {
    public static final FrameStructure NONE = new FrameStructure(List.of(), Extent.STRETCH);

    public FrameStructure {
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
    /// the last
    /// keyframe is cut off by the end and counts only towards the longest, unless there is no other.
    public KeyframeInterval keyframeInterval() {
        long intervals = 0;
        long sum = 0;
        long worst = 0;
        int open = -1;
        for (int i = 0; i < frames.size(); i++) {
            if (frames.get(i).key()) {
                if (open >= 0) {
                    intervals++;
                    sum += i - open;
                    worst = Math.max(worst, i - open);
                }
                open = i;
            }
        }
        int tail = frames.size() - Math.max(open, 0);
        if (isKnown() && intervals == 0) {
            intervals++;
            sum += tail;
        }
        worst = Math.max(worst, isKnown() ? tail : 0);
        return new KeyframeInterval(intervals == 0 ? Rational.ZERO : new Rational(sum, intervals), worst);
    }

    public record KeyframeInterval(Rational meanFrames, long worstFrames) {}

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
