package docksort.media;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;

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

    /// Reads what [#toString] writes; empty for anything else.
    public static Optional<FrameRange> parse(String text) {
        if (!text.matches("\\d{1,15}\\+\\d{1,15}")) {
            return Optional.empty();
        }
        int plus = text.indexOf('+');
        long count = Long.parseLong(text.substring(plus + 1));
        return count < 1
                ? Optional.empty()
                : Optional.of(new FrameRange(Long.parseLong(text.substring(0, plus)), count));
    }

    public long end() {
        return first + count;
    }

    /// Whether it holds a frame.
    public boolean holds(long frame) {
        return frame >= first && frame < end();
    }

    public boolean contains(FrameRange other) {
        return other.first >= first && other.end() <= end();
    }

    public boolean overlaps(FrameRange other) {
        return first < other.end() && other.first < end();
    }

    /// Whether the two overlap or follow each other without a gap.
    public boolean touches(FrameRange other) {
        return first <= other.end() && other.first <= end();
    }

    public FrameRange with(FrameRange other) {
        long from = Math.min(first, other.first);
        return new FrameRange(from, Math.max(end(), other.end()) - from);
    }

    /// What of it lies in none of the others, in order.
    public List<FrameRange> minus(List<FrameRange> others) {
        var left = new ArrayList<FrameRange>();
        long from = first;
        for (FrameRange other : others.stream()
                .sorted(Comparator.comparingLong(FrameRange::first))
                .toList()) {
            if (other.first > from && from < end()) {
                left.add(new FrameRange(from, Math.min(other.first, end()) - from));
            }
            from = Math.max(from, other.end());
        }
        if (from < end()) {
            left.add(new FrameRange(from, end() - from));
        }
        return left;
    }

    /// "frames 12 to 40", both of them in it.
    public String inWords() {
        return count == 1 ? "frame " + first : "frames " + first + " to " + (end() - 1);
    }

    /// With frames added before and after, as far as the clip has them.
    public FrameRange widened(long handles, long clipFrames) {
        long from = Math.clamp(first - handles, 0, clipFrames - 1);
        long to = Math.clamp(end() + handles, from + 1, clipFrames);
        return new FrameRange(from, to - from);
    }

    /// Ranges with frames added before and after, as far as the clip has them; those that touch become one.
    public static List<FrameRange> merged(List<FrameRange> ranges, long handles, long clipFrames) {
        var found = new ArrayList<FrameRange>();
        ranges.stream()
                .filter(range -> range.first < clipFrames)
                .map(range -> range.widened(handles, clipFrames))
                .sorted(Comparator.comparingLong(FrameRange::first))
                .forEach(range -> {
                    if (!found.isEmpty() && found.getLast().touches(range)) {
                        found.add(found.removeLast().with(range));
                    } else {
                        found.add(range);
                    }
                });
        return found;
    }

    @Override
    public String toString() {
        return first + "+" + count;
    }
}
