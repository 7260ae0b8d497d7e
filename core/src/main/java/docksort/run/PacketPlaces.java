package docksort.run;

import docksort.engine.FrameSamples.Row;
import docksort.media.FrameStructure;
import docksort.media.Rational;
import docksort.media.VideoFacts;
import java.util.NavigableSet;
import java.util.TreeMap;

/// Where in a stream the packets of its frames stand, as far as it was read: which frames stand alone, and up to
/// which packet a decoder must go for the frames behind one.
final class PacketPlaces {
    private final FrameStructure structure;
    private final long[] numbers; // of the frames, in decode order
    private final TreeMap<Long, Integer> keys = new TreeMap<>();

    PacketPlaces(VideoFacts picture) {
        this.structure = picture.structure();
        long[] shown = new long[structure.count()];
        structure.forEach((index, at, _, _) -> shown[index] = at);
        long first = Long.MAX_VALUE;
        for (long at : shown) {
            first = Math.min(first, at);
        }
        this.numbers = new long[shown.length];
        for (int i = 0; i < shown.length; i++) {
            numbers[i] = picture.rate().framesIn(structure.timeBase().times(Rational.of(shown[i] - first)));
        }
        structure.forEach((index, _, key, _) -> {
            if (key) {
                keys.put(numbers[index], index);
            }
        });
    }

    /// Numbers of the frames that stand alone.
    NavigableSet<Long> keys() {
        return keys.navigableKeySet();
    }

    /// Frames in a row, with what is known of the way to them.
    Row row(long first, int count) {
        if (structure.isAllIntra()) {
            return new Row(first, count, 1, count + 1L); // a jump lands on the frame before
        }
        Integer key = keys.get(first);
        if (key == null || structure.extent() != FrameStructure.Extent.WHOLE) {
            return new Row(first, count);
        }
        Long next = keys.higherKey(first);
        int last = key;
        int found = 0;
        for (int i = key; i < numbers.length && found < count; i++) {
            if (numbers[i] >= first && numbers[i] < first + count) {
                found++;
                last = i;
            }
        }
        return found < count
                ? new Row(first, count)
                : new Row(first, count, (next == null ? Long.MAX_VALUE : next) - first, last - key + 1L);
    }
}
