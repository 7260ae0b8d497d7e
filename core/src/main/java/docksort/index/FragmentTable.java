package docksort.index;

import docksort.index.Boxes.Box;
import docksort.index.MovTrack.Edit;
import docksort.media.FrameStructure;
import java.nio.ByteBuffer;
import java.util.Arrays;
import java.util.Optional;

/// The pictures of one track of a fragmented file, as its movie fragments list them (ISO/IEC 14496-12, 8.8).
/// Recorders write such files so that a recording that was cut off keeps everything up to then.
final class FragmentTable implements Samples {
    private static final int MOST_SAMPLES = 4_000_000;

    private static final int BASE_OFFSET = 0x1;
    private static final int DESCRIPTION = 0x2;
    private static final int DEFAULT_DURATION = 0x8;
    private static final int DEFAULT_SIZE = 0x10;
    private static final int DEFAULT_FLAGS = 0x20;
    private static final int RUN_OFFSET = 0x1;
    private static final int RUN_FIRST_FLAGS = 0x4;
    private static final int RUN_DURATION = 0x100;
    private static final int RUN_SIZE = 0x200;
    private static final int RUN_FLAGS = 0x400;
    private static final int RUN_SHIFT = 0x800;
    private static final int NOT_A_KEY = 0x10000;

    private final int trackId;
    private final int defaultDuration;
    private final int defaultSize;
    private final int defaultFlags;
    private final Edit edit;
    private long[] times = new long[256];
    private long[] starts = new long[256];
    private int[] sizes = new int[256];
    private boolean[] keys = new boolean[256];
    private int count;
    private long nextTime;

    /// @param defaults the `trex` box of the track
    FragmentTable(Box defaults, Edit edit) {
        ByteBuffer in = defaults.read();
        in.position(4);
        trackId = in.getInt();
        in.getInt();
        defaultDuration = in.getInt();
        defaultSize = in.getInt();
        defaultFlags = in.getInt();
        this.edit = edit;
    }

    int trackId() {
        return trackId;
    }

    /// Takes the pictures of one `moof` box.
    ///
    /// @param at where the box begins in the file
    /// @return false when there are more than are kept
    boolean add(Box fragment, long at) {
        for (Box track : fragment.children()) {
            Optional<Box> header = track.child("tfhd");
            if (!track.type().equals("traf") || header.isEmpty()) {
                continue;
            }
            ByteBuffer in = header.get().read();
            int flags = in.getInt() & 0xFF_FFFF;
            if (in.getInt() != trackId) {
                continue;
            }
            long base = (flags & BASE_OFFSET) != 0 ? in.getLong() : at;
            in.position(in.position() + ((flags & DESCRIPTION) != 0 ? 4 : 0));
            int duration = (flags & DEFAULT_DURATION) != 0 ? in.getInt() : defaultDuration;
            int size = (flags & DEFAULT_SIZE) != 0 ? in.getInt() : defaultSize;
            int sampleFlags = (flags & DEFAULT_FLAGS) != 0 ? in.getInt() : defaultFlags;
            track.child("tfdt").ifPresent(this::startAt);
            long place = base;
            for (Box run : track.children()) {
                if (run.type().equals("trun")) {
                    place = addRun(run, base, place, duration, size, sampleFlags);
                    if (place < 0) {
                        return false;
                    }
                }
            }
        }
        return true;
    }

    private void startAt(Box box) {
        ByteBuffer in = box.read();
        int version = in.get();
        in.position(4);
        nextTime = version == 1 ? in.getLong() : in.getInt() & 0xFFFF_FFFFL;
    }

    private long addRun(Box run, long base, long before, int duration, int size, int sampleFlags) {
        ByteBuffer in = run.read();
        int flags = in.getInt() & 0xFF_FFFF;
        int entries = in.getInt();
        long place = (flags & RUN_OFFSET) != 0 ? base + in.getInt() : before;
        int firstFlags = (flags & RUN_FIRST_FLAGS) != 0 ? in.getInt() : sampleFlags;
        int each = 4 * Integer.bitCount(flags & (RUN_DURATION | RUN_SIZE | RUN_FLAGS | RUN_SHIFT));
        for (int i = 0; i < entries && in.remaining() >= each; i++) {
            if (count == MOST_SAMPLES) {
                return -1;
            }
            long lasts = ((flags & RUN_DURATION) != 0 ? in.getInt() : duration) & 0xFFFF_FFFFL;
            int bytes = Math.max(0, (flags & RUN_SIZE) != 0 ? in.getInt() : size);
            int own = (flags & RUN_FLAGS) != 0 ? in.getInt() : i == 0 ? firstFlags : sampleFlags;
            int shift = (flags & RUN_SHIFT) != 0 ? in.getInt() : 0;
            put(nextTime + shift, place, bytes, (own & NOT_A_KEY) == 0);
            nextTime += lasts;
            place += bytes;
        }
        return place;
    }

    private void put(long shown, long place, int bytes, boolean key) {
        if (count == times.length) {
            times = Arrays.copyOf(times, count * 2);
            starts = Arrays.copyOf(starts, count * 2);
            sizes = Arrays.copyOf(sizes, count * 2);
            keys = Arrays.copyOf(keys, count * 2);
        }
        times[count] = shown;
        starts[count] = place;
        sizes[count] = bytes;
        keys[count++] = key;
    }

    /// Leaves out pictures behind the end of a file that was cut off.
    ///
    /// @return how many those are
    int endWithin(long fileBytes) {
        int listed = count;
        while (count > 0 && starts[count - 1] + sizes[count - 1] > fileBytes) {
            count--;
        }
        return listed - count;
    }

    @Override
    public int count() {
        return count;
    }

    @Override
    public boolean claimsAllKeys() {
        for (int i = 0; i < count; i++) {
            if (!keys[i]) {
                return false;
            }
        }
        return true;
    }

    @Override
    public void shown(FrameStructure.Visitor visitor) {
        for (int i = 0; i < count; i++) {
            if (times[i] >= edit.from() && times[i] < edit.end()) {
                visitor.frame(i, times[i] - edit.from(), keys[i], sizes[i]);
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
        for (int i = 0; i < wanted.length; i++) {
            places[i] = starts[wanted[i]];
        }
        return places;
    }
}
