package docksort.media;

/// A stretch of a clip in frames.
///
/// @param first its first frame, counted from 0
/// @param count how many, at least 1
public record FrameRange(long first, long count) {
    public FrameRange {
        if (first < 0 || count < 1) {
            throw new IllegalArgumentException(
                    "a range has a first frame and at least one, was " + first + "+" + count);
        }
    }

    public long end() {
        return first + count;
    }

    public boolean contains(FrameRange other) {
        return other.first >= first && other.end() <= end();
    }

    /// Whether the two overlap or follow each other without a gap.
    public boolean touches(FrameRange other) {
        return first <= other.end() && other.first <= end();
    }

    public FrameRange with(FrameRange other) {
        long from = Math.min(first, other.first);
        return new FrameRange(from, Math.max(end(), other.end()) - from);
    }

    /// With frames added before and after, as far as the clip has them.
    public FrameRange widened(long handles, long clipFrames) {
        long from = Math.clamp(first - handles, 0, clipFrames - 1);
        long to = Math.clamp(end() + handles, from + 1, clipFrames);
        return new FrameRange(from, to - from);
    }

    @Override
    public String toString() {
        return first + "+" + count;
    }
}
