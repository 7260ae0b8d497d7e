package docksort.index;

import docksort.index.Boxes.Box;
import docksort.index.MovTrack.Edit;
import docksort.media.FrameStructure;
import java.nio.ByteBuffer;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;

/// The samples of one track: when each is shown, whether decoding can start at it, its size and place in the file
/// (ISO/IEC 14496-12, 8.6 and 8.7).
final class SampleTable implements Samples {
    private static final int MOST_SAMPLES = 12_000_000; // two days at 60 fps

    private final int count;
    private final Box durations;
    private final Optional<Box> offsets;
    private final Optional<Box> sync;
    private final Optional<Box> partialSync;
    private final int[] sizes;
    private final long[] chunkPlaces;
    private final int[] samplesOfChunk;
    private final Edit edit;

    private SampleTable(
            int[] sizes,
            Box durations,
            Optional<Box> offsets,
            Optional<Box> sync,
            Optional<Box> partialSync,
            long[] chunkPlaces,
            int[] samplesOfChunk,
            Edit edit) {
        this.count = sizes.length;
        this.sizes = sizes;
        this.durations = durations;
        this.offsets = offsets;
        this.sync = sync;
        this.partialSync = partialSync;
        this.chunkPlaces = chunkPlaces;
        this.samplesOfChunk = samplesOfChunk;
        this.edit = edit;
    }

    @Override
    public int count() {
        return count;
    }

    /// A table without a list of keyframes says so.
    @Override
    public boolean claimsAllKeys() {
        return sync.isEmpty();
    }

    @Override
    public void shown(FrameStructure.Visitor visitor) {
        var times = new Runs(durations.read());
        Optional<Runs> shifts = offsets.map(box -> new Runs(box.read()));
        boolean[] keys = keys();
        long decoded = 0;
        for (int i = 0; i < count; i++) {
            // Shifts are signed in both versions of the box: files of version 0 with negative ones exist.
            long at = decoded + shifts.map(runs -> (long) runs.next()).orElse(0L);
            decoded += times.next() & 0xFFFF_FFFFL;
            if (at >= edit.from() && at < edit.end()) {
                visitor.frame(i, at - edit.from(), keys[i], sizes[i]);
            }
        }
    }

    boolean[] keys() {
        var keys = new boolean[count];
        if (sync.isEmpty()) {
            Arrays.fill(keys, true);
            return keys;
        }
        mark(sync.get(), keys);
        // MOV lists keyframes with leading pictures apart (QuickTime File Format, partial sync sample atom).
        partialSync.ifPresent(box -> mark(box, keys));
        return keys;
    }

    private void mark(Box box, boolean[] keys) {
        ByteBuffer in = box.read();
        in.position(4);
        long entries = in.getInt() & 0xFFFF_FFFFL;
        for (long i = 0; i < entries && in.remaining() >= 4; i++) {
            int number = in.getInt();
            if (number >= 1 && number <= count) {
                keys[number - 1] = true;
            }
        }
    }

    @Override
    public int size(int sample) {
        return sizes[sample];
    }

    @Override
    public long[] places(int[] wanted) {
        var places = new long[wanted.length];
        Arrays.fill(places, -1);
        int chunk = 0;
        int firstOfChunk = 0;
        for (int i = 0; i < wanted.length; i++) {
            while (chunk < samplesOfChunk.length && firstOfChunk + samplesOfChunk[chunk] <= wanted[i]) {
                firstOfChunk += samplesOfChunk[chunk++];
            }
            if (chunk == samplesOfChunk.length) {
                break;
            }
            long at = chunkPlaces[chunk];
            for (int s = firstOfChunk; s < wanted[i]; s++) {
                at += sizes[s];
            }
            places[i] = at;
        }
        return places;
    }

    static Optional<SampleTable> read(Box table, Optional<Edit> edit, long fileBytes, List<String> complaints) {
        Optional<Box> sizeBox = table.child("stsz");
        Optional<Box> durations = table.child("stts");
        if (edit.isEmpty() || sizeBox.isEmpty() || durations.isEmpty()) {
            return Optional.empty();
        }
        ByteBuffer in = sizeBox.get().read();
        in.position(4);
        int same = in.getInt();
        long stated = in.getInt() & 0xFFFF_FFFFL;
        long held = same > 0 ? stated : Math.min(stated, in.remaining() / 4);
        if (held < stated) {
            complaints.add("the index announces " + stated + " pictures and holds the sizes of " + held);
        }
        if (held == 0 || held > MOST_SAMPLES || (same > 0 && stated > fileBytes / Math.max(1, same) + 1)) {
            return Optional.empty();
        }
        var sizes = new int[(int) held];
        for (int i = 0; i < sizes.length; i++) {
            sizes[i] = Math.max(0, same > 0 ? same : in.getInt());
        }
        long timed = new Runs(durations.get().read()).total();
        if (timed < held) {
            complaints.add("the index times " + timed + " of " + held + " pictures");
            return Optional.empty();
        }
        long[] chunks = chunkPlaces(table);
        int[] samplesOf = samplesOfChunk(table, chunks.length, sizes.length);
        var samples = new SampleTable(
                sizes,
                durations.get(),
                table.child("ctts"),
                table.child("stss"),
                table.child("stps"),
                chunks,
                samplesOf,
                edit.get());
        samples.endsWithin(fileBytes, complaints);
        return Optional.of(samples);
    }

    private void endsWithin(long fileBytes, List<String> complaints) {
        long last = places(new int[] {count - 1})[0];
        if (last >= 0 && last + sizes[count - 1] > fileBytes) {
            complaints.add("pictures are missing at the end: the index names bytes behind the end of the file");
        }
    }

    private static long[] chunkPlaces(Box table) {
        boolean wide = table.child("co64").isPresent();
        Optional<Box> box = wide ? table.child("co64") : table.child("stco");
        if (box.isEmpty()) {
            return new long[0];
        }
        ByteBuffer in = box.get().read();
        in.position(4);
        long stated = in.getInt() & 0xFFFF_FFFFL;
        var places = new long[(int) Math.min(stated, in.remaining() / (wide ? 8 : 4))];
        for (int i = 0; i < places.length; i++) {
            places[i] = wide ? in.getLong() : in.getInt() & 0xFFFF_FFFFL;
        }
        return places;
    }

    private static int[] samplesOfChunk(Box table, int chunks, int samples) {
        var counts = new int[chunks];
        Optional<Box> box = table.child("stsc");
        if (box.isEmpty()) {
            return counts;
        }
        ByteBuffer in = box.get().read();
        in.position(4);
        int entries = (int) Math.min(in.getInt() & 0xFFFF_FFFFL, in.remaining() / 12);
        long next = 0;
        for (int i = 0; i < entries; i++) {
            long first = (in.getInt() & 0xFFFF_FFFFL) - 1;
            int each = Math.clamp(in.getInt(), 0, samples);
            in.getInt();
            if (first < next) {
                break; // entries ascend; the rest cannot be meant
            }
            next = i + 1 < entries ? (in.getInt(in.position()) & 0xFFFF_FFFFL) - 1 : chunks;
            for (long chunk = first; chunk < Math.min(next, chunks); chunk++) {
                counts[(int) chunk] = each;
            }
            next = Math.max(next, first);
        }
        return counts;
    }

    /// A box of runs: how often, and a value.
    private static final class Runs {
        private final ByteBuffer in;
        private final long entries;
        private long left;
        private int value;

        Runs(ByteBuffer in) {
            this.in = in;
            in.position(4);
            entries = Math.min(in.getInt() & 0xFFFF_FFFFL, in.remaining() / 8);
        }

        /// The next value; the last one for ever where the runs are too short.
        int next() {
            while (left == 0 && in.remaining() >= 8) {
                left = in.getInt() & 0xFFFF_FFFFL;
                value = in.getInt();
            }
            left = Math.max(0, left - 1);
            return value;
        }

        long total() {
            long total = 0;
            for (long i = 0; i < entries; i++) {
                total += in.getInt() & 0xFFFF_FFFFL;
                in.getInt();
            }
            return total;
        }
    }
}
