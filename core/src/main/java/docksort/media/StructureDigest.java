package docksort.media;

import java.util.Arrays;

/// What is derived from the coded pictures of a stream.
///
/// @param keys how many pictures stand alone
/// @param bytes size of all pictures
public record StructureDigest(
        int keys,
        long bytes,
        FrameStructure.KeyframeInterval interval,
        int longestTwoWayRun,
        int reorderDepth,
        FrameStructure.Grouping grouping,
        ScrubCost cost) {

    static StructureDigest of(FrameStructure.Builder from) {
        int keys = 0;
        long bytes = 0;
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
            bytes += from.sizes[i] >>> 1;
            if (key) {
                keys++;
                keysSinceStart++;
                repeated |= keysSinceStart > 1;
                keyShown = from.shown[i];
            } else if (keysSinceStart > 1 && from.shown[i] < keyShown) {
                leading = true;
            }
            run = FrameStructure.kind(from.shown[i], key, latest) == FrameStructure.FrameKind.TWO_WAY ? run + 1 : 0;
            longestRun = Math.max(longestRun, run);
            latest = Math.max(latest, from.shown[i]);
        }
        FrameStructure.Grouping grouping = !repeated
                ? FrameStructure.Grouping.UNKNOWN
                : leading && !from.leadingStandAlone ? FrameStructure.Grouping.OPEN : FrameStructure.Grouping.CLOSED;
        return new StructureDigest(
                keys,
                bytes,
                interval(from),
                longestRun,
                depth(from),
                grouping,
                from.count == 0 ? ScrubCost.ONE : ScrubCost.of(from.shown, from.sizes, from.count));
    }

    private static FrameStructure.KeyframeInterval interval(FrameStructure.Builder from) {
        if (from.count == 0) {
            return FrameStructure.KeyframeInterval.NONE;
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
        return new FrameStructure.KeyframeInterval(
                new Rational(frameSum, intervals),
                Math.max(worst, tail),
                from.timeBase.times(new Rational(tickSum, intervals)),
                from.timeBase.times(Rational.of(Math.max(worstTicks, tailTicks))));
    }

    /// For each picture, how many pictures decoded before it are shown after it.
    private static int depth(FrameStructure.Builder from) {
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
