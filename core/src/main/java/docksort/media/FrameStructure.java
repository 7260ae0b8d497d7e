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
/// Held as packed bytes, one to three for a picture, with what is derived from them worked out once: a project
/// keeps a hundred thousand of these in memory.
public final class FrameStructure {
    public static final FrameStructure NONE = of(List.of(), Extent.STRETCH, Rational.of(1));

    private final byte[] packed;
    private final int count;
    private final Extent extent;
    private final Rational timeBase;
    private final int[] stretchStarts;
    private final boolean leadingStandAlone;
    private final StructureDigest digest;

    /// A structure as it was kept: nothing is worked out anew, and the pictures stay packed until somebody asks
    /// for them.
    ///
    /// @param packed what [#packed] gave
    /// @param digest what [#digest] gave
    public FrameStructure(
            byte[] packed,
            int count,
            Extent extent,
            Rational timeBase,
            int[] stretchStarts,
            boolean leadingStandAlone,
            StructureDigest digest) {
        this.packed = packed.clone();
        this.count = count;
        this.extent = extent;
        this.timeBase = timeBase;
        this.stretchStarts = stretchStarts.clone();
        this.leadingStandAlone = leadingStandAlone;
        this.digest = digest;
    }

    /// The pictures as bytes, to keep them.
    public byte[] packed() {
        return packed.clone();
    }

    /// What is derived from the pictures, to keep it.
    public StructureDigest digest() {
        return digest;
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

    /// Bytes of all pictures.
    public long bytes() {
        return digest.bytes();
    }

    public boolean isKnown() {
        return count > 0;
    }

    public boolean isAllIntra() {
        return isKnown() && digest.keys() == count;
    }

    /// All pictures, unpacked anew for each call.
    public List<CodedFrame> frames() {
        return frames(0, count);
    }

    /// @param from first picture, inclusive
    /// @param most at most so many
    public List<CodedFrame> frames(int from, int most) {
        var found = new ArrayList<CodedFrame>(Math.min(most, count));
        int end = (int) Math.min(count, (long) from + most);
        FramePacking.unpack(packed, end, (index, shown, key, bytes) -> {
            if (index >= from) {
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

    /// Where each stretch that was read begins, as places in decode order; the first is 0. One where the pictures
    /// follow each other without a break.
    public int[] stretchStarts() {
        return stretchStarts.clone();
    }

    /// Whether pictures shown before their keyframe need nothing from the group before (MPEG-2: the closed_gop
    /// flag; HEVC: RADL pictures).
    public boolean leadingStandAlone() {
        return leadingStandAlone;
    }

    /// Frames from one keyframe to the next, as they are shown: the mean as an exact fraction, and the longest. In
    /// stored order the first open group is shorter by its leading pictures, which tells nothing. The stretch after
    /// the last keyframe is cut off by the end and counts only towards the longest, unless there is no other.
    public KeyframeInterval keyframeInterval() {
        return digest.interval();
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
        return digest.longestTwoWayRun();
    }

    /// How many pictures, at most, are decoded before one that is shown earlier than they are: what a decoder
    /// must hold back.
    public int reorderDepth() {
        return digest.reorderDepth();
    }

    public Grouping grouping() {
        return digest.grouping();
    }

    /// Frames that must be decoded to show one random frame.
    public ScrubCost scrubCost() {
        return digest.cost();
    }

    /// The kind of each picture, in decode order.
    public List<FrameKind> kinds() {
        return kinds(frames());
    }

    /// As for [#kinds()], of pictures from the first on.
    public static List<FrameKind> kinds(List<CodedFrame> frames) {
        var kinds = new ArrayList<FrameKind>(frames.size());
        long latest = Long.MIN_VALUE;
        for (CodedFrame frame : frames) {
            kinds.add(kind(frame.shownAtTicks(), frame.key(), latest));
            latest = Math.max(latest, frame.shownAtTicks());
        }
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
        final Extent extent;
        final Rational timeBase;
        long[] shown = new long[256];
        int[] sizes = new int[256];
        int count;
        int[] starts = {0};
        int startCount = 1;
        boolean leadingStandAlone;

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
            return new FrameStructure(
                    FramePacking.pack(shown, sizes, count),
                    count,
                    extent,
                    timeBase,
                    Arrays.copyOf(starts, startCount),
                    leadingStandAlone,
                    StructureDigest.of(this));
        }
    }
}
