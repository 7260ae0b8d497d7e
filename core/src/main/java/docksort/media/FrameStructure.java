package docksort.media;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/// The coded pictures of a stream, or of stretches of it, in decode order. What decides whether scrubbing hurts
/// is read from here, never from a codec's name.
///
/// Two-way pictures are recognised by reordering: a picture shown before one that was decoded earlier is
/// two-way. That is what a player must wait for, and needs no decoding.
///
/// Held as packed bytes, about four for a picture, with what is derived from them worked out once: a project
/// keeps ten thousand of these in memory.
public final class FrameStructure {
    public static final FrameStructure NONE = of(List.of(), Extent.STRETCH, Rational.of(1));

    private final byte[] packed;
    private final int count;
    private final Extent extent;
    private final Rational timeBase;
    private final int[] stretchStarts;
    private final boolean leadingStandAlone;
    private final Digest digest;

    private FrameStructure(Builder from) {
        packed = FramePacking.pack(from.shown, from.sizes, from.count);
        count = from.count;
        extent = from.extent;
        timeBase = from.timeBase;
        stretchStarts = Arrays.copyOf(from.starts, from.startCount);
        leadingStandAlone = from.leadingStandAlone;
        digest = Digest.of(from);
    }

    /// The structure of one run of pictures.
    ///
    /// @param timeBase seconds of one tick of the frames' time stamps
    public static FrameStructure of(List<CodedFrame> frames, Extent extent, Rational timeBase) {
        var builder = new Builder(extent, timeBase);
        frames.forEach(frame -> builder.add(frame.shownAtTicks(), frame.key(), frame.bytes()));
        return builder.build();
    }

    /// WHOLE: every picture of the stream is known. STRETCH: only windows of it were read.
    public enum Extent {
        WHOLE,
        STRETCH
    }

    /// Whether the groups of pictures can be decoded on their own.
    public enum Grouping {
        /// Every picture depends only on pictures since the keyframe before it in decode order.
        CLOSED("closed"),
        /// Pictures shown before a keyframe but stored after it need the group before.
        OPEN("open"),
        /// There is no second keyframe to tell by.
        UNKNOWN("not known");

        private final String label;

        Grouping(String label) {
            this.label = label;
        }

        public String label() {
            return label;
        }
    }

    public Extent extent() {
        return extent;
    }

    /// Seconds of one tick of the frames' time stamps.
    public Rational timeBase() {
        return timeBase;
    }

    public int count() {
        return count;
    }

    public boolean isKnown() {
        return count > 0;
    }

    public boolean isAllIntra() {
        return isKnown() && digest.keys == count;
    }

    /// All pictures, unpacked anew for each call.
    public List<CodedFrame> frames() {
        return frames(0, count);
    }

    /// @param from first picture, inclusive
    /// @param most at most so many
    public List<CodedFrame> frames(int from, int most) {
        var found = new ArrayList<CodedFrame>(Math.min(most, count));
        FramePacking.unpack(packed, count, (index, shown, key, bytes) -> {
            if (index >= from && index - from < most) {
                found.add(new CodedFrame(shown, key, bytes));
            }
        });
        return found;
    }

    /// Hears of every picture in decode order, without an object for each.
    public void forEach(Visitor visitor) {
        FramePacking.unpack(packed, count, visitor);
    }

    /// Hears of one picture.
    @FunctionalInterface
    public interface Visitor {
        void frame(int index, long shownAtTicks, boolean key, int bytes);
    }

    /// Where each stretch that was read begins, as places in decode order; the first is 0. One where the
    /// pictures
    /// follow each other without a break.
    public int[] stretchStarts() {
        return stretchStarts.clone();
    }

    /// Whether pictures shown before their keyframe need nothing from the group before (MPEG-2: the closed_gop
    /// flag; HEVC: RADL pictures).
    public boolean leadingStandAlone() {
        return leadingStandAlone;
    }

    /// Frames from one keyframe to the next, as they are shown: the mean as an exact fraction, and the longest.
    /// In
    /// stored order the first open group is shorter by its leading pictures, which tells nothing. The stretch
    /// after the
    /// last keyframe is cut off by the end and counts only towards the longest, unless there is no other.
    public KeyframeInterval keyframeInterval() {
        return digest.interval;
    }

    /// @param meanFrames frames from one keyframe to the next
    /// @param worstFrames the most frames
    /// @param meanSeconds time from one keyframe to the next, by the frames' time stamps
    /// @param worstSeconds the longest time
    public record KeyframeInterval(Rational meanFrames, long worstFrames, Rational meanSeconds, Rational worstSeconds) {
        static final KeyframeInterval NONE = new KeyframeInterval(Rational.ZERO, 0, Rational.ZERO, Rational.ZERO);
    }

    /// The most two-way pictures between two others, in decode order.
    public int longestTwoWayRun() {
        return digest.longestTwoWayRun;
    }

    /// How many pictures, at most, are decoded before one that is shown earlier than they are: what a decoder
    /// must hold back.
    public int reorderDepth() {
        return digest.reorderDepth;
    }

    public Grouping grouping() {
        return digest.grouping;
    }

    /// Frames that must be decoded to show one random frame.
    public ScrubCost scrubCost() {
        return digest.cost;
    }

    /// The kind of each picture, in decode order.
    public List<FrameKind> kinds() {
        var kinds = new ArrayList<FrameKind>(count);
        var latest = new long[] {Long.MIN_VALUE};
        forEach((_, shown, key, _) -> {
            kinds.add(kind(shown, key, latest[0]));
            latest[0] = Math.max(latest[0], shown);
        });
        return List.copyOf(kinds);
    }

    static FrameKind kind(long shown, boolean key, long latestShown) {
        if (key) {
            return FrameKind.INTRA;
        }
        return shown < latestShown ? FrameKind.TWO_WAY : FrameKind.PREDICTED;
    }

    /// How a picture depends on others, as far as order tells.
    public enum FrameKind {
        INTRA,
        PREDICTED,
        TWO_WAY
    }

    @Override
    public boolean equals(Object other) {
        return other instanceof FrameStructure that
                && count == that.count
                && extent == that.extent
                && timeBase.equals(that.timeBase)
                && leadingStandAlone == that.leadingStandAlone
                && Arrays.equals(stretchStarts, that.stretchStarts)
                && Arrays.equals(packed, that.packed);
    }

    @Override
    public int hashCode() {
        return Arrays.hashCode(packed) * 31 + count;
    }

    @Override
    public String toString() {
        return count + " pictures, " + extent;
    }

    /// Collects pictures in decode order without an object for each.
    public static final class Builder {
        private final Extent extent;
        private final Rational timeBase;
        private long[] shown = new long[256];
        private int[] sizes = new int[256];
        private int count;
        private int[] starts = {0};
        private int startCount = 1;
        private boolean leadingStandAlone;

        public Builder(Extent extent, Rational timeBase) {
            if (!timeBase.isPositive()) {
                throw new IllegalArgumentException("a time base must be positive: " + timeBase);
            }
            this.extent = extent;
            this.timeBase = timeBase;
        }

        /// @param bytes size of the picture; of more than 1 GiB only 1 GiB is kept
        public Builder add(long shownAtTicks, boolean key, int bytes) {
            if (count == shown.length) {
                shown = Arrays.copyOf(shown, count * 2);
                sizes = Arrays.copyOf(sizes, count * 2);
            }
            shown[count] = shownAtTicks;
            sizes[count++] = (Math.clamp(bytes, 0, 1 << 30) << 1) | (key ? 1 : 0);
            return this;
        }

        /// The next picture does not follow the last one: a new stretch begins.
        public Builder breakHere() {
            if (count > starts[startCount - 1]) {
                starts = Arrays.copyOf(starts, startCount + 1);
                starts[startCount++] = count;
            }
            return this;
        }

        /// See [FrameStructure#leadingStandAlone].
        public Builder leadingStandAlone(boolean stand) {
            leadingStandAlone = stand;
            return this;
        }

        public int count() {
            return count;
        }

        public FrameStructure build() {
            return new FrameStructure(this);
        }
    }

    /// What is derived from the pictures.
    private record Digest(
            int keys,
            KeyframeInterval interval,
            int longestTwoWayRun,
            int reorderDepth,
            Grouping grouping,
            ScrubCost cost) {

        static Digest of(Builder from) {
            int keys = 0;
            int run = 0;
            int longestRun = 0;
            boolean leading = false;
            long latest = Long.MIN_VALUE;
            long keyShown = Long.MIN_VALUE;
            int keysSinceStart = 0;
            boolean repeated = false;
            int start = 0;
            for (int i = 0; i < from.count; i++) {
                if (start < from.startCount && from.starts[start] == i) {
                    latest = Long.MIN_VALUE;
                    keysSinceStart = 0;
                    start++;
                }
                boolean key = (from.sizes[i] & 1) == 1;
                if (key) {
                    keys++;
                    keysSinceStart++;
                    repeated |= keysSinceStart > 1;
                    keyShown = from.shown[i];
                } else if (keysSinceStart > 1 && from.shown[i] < keyShown) {
                    leading = true;
                }
                run = kind(from.shown[i], key, latest) == FrameKind.TWO_WAY ? run + 1 : 0;
                longestRun = Math.max(longestRun, run);
                latest = Math.max(latest, from.shown[i]);
            }
            Grouping grouping =
                    !repeated ? Grouping.UNKNOWN : leading && !from.leadingStandAlone ? Grouping.OPEN : Grouping.CLOSED;
            return new Digest(
                    keys,
                    interval(from),
                    longestRun,
                    depth(from),
                    grouping,
                    from.count == 0 ? ScrubCost.ONE : ScrubCost.of(from.shown, from.sizes, from.count));
        }

        private static KeyframeInterval interval(Builder from) {
            if (from.count == 0) {
                return KeyframeInterval.NONE;
            }
            long intervals = 0;
            long frameSum = 0;
            long tickSum = 0;
            long worst = 0;
            long worstTicks = 0;
            long tail = 0;
            long tailTicks = 0;
            for (int stretch = 0; stretch < from.startCount; stretch++) {
                int begin = from.starts[stretch];
                int end = stretch + 1 < from.startCount ? from.starts[stretch + 1] : from.count;
                if (begin == end) {
                    continue;
                }
                long[] order = Arrays.copyOfRange(from.shown, begin, end);
                Arrays.sort(order);
                int open = -1;
                long openShown = 0;
                for (int i = begin; i < end; i++) {
                    if ((from.sizes[i] & 1) == 0) {
                        continue;
                    }
                    int rank = Arrays.binarySearch(order, from.shown[i]);
                    if (open >= 0 && rank > open) {
                        intervals++;
                        frameSum += rank - open;
                        long ticks = from.shown[i] - openShown;
                        tickSum += ticks;
                        worst = Math.max(worst, rank - open);
                        worstTicks = Math.max(worstTicks, ticks);
                    }
                    open = rank;
                    openShown = from.shown[i];
                }
                int last = Math.max(0, open);
                tail = Math.max(tail, order.length - last);
                tailTicks = Math.max(tailTicks, order[order.length - 1] - order[last]);
            }
            if (intervals == 0) {
                intervals = 1;
                frameSum = tail;
                tickSum = tailTicks;
            }
            return new KeyframeInterval(
                    new Rational(frameSum, intervals),
                    Math.max(worst, tail),
                    from.timeBase.times(new Rational(tickSum, intervals)),
                    from.timeBase.times(Rational.of(Math.max(worstTicks, tailTicks))));
        }

        /// For each picture, how many pictures decoded before it are shown after it.
        private static int depth(Builder from) {
            int depth = 0;
            int window = 32; // deeper than any standard's decoded picture buffer
            for (int i = 1; i < from.count; i++) {
                int held = 0;
                for (int j = Math.max(0, i - window); j < i; j++) {
                    held += from.shown[j] > from.shown[i] ? 1 : 0;
                }
                depth = Math.max(depth, held);
            }
            return depth;
        }
    }
}
