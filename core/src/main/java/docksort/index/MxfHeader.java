package docksort.index;

import docksort.media.Colour;
import docksort.media.FrameStructure;
import docksort.media.FrameStructure.Extent;
import docksort.media.Raster;
import docksort.media.Rational;
import docksort.media.ScanType;
import java.io.IOException;
import java.nio.BufferUnderflowException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/// The picture's descriptor and the index tables of an MXF file (SMPTE ST 377-1, 7 and 11 and annex G;
/// labels: SMPTE ST 400, from memory).
public final class MxfHeader {
    private static final long SMPTE_LABEL = 0x060E2B34_00000000L;
    private static final int MOST_SETS = 4_000;
    private static final int MOST_PARTITIONS = 100_000;
    private static final int MOST_ENTRIES = 12_000_000;
    private static final int LARGEST_INDEX = 256 * 1024 * 1024;

    // Flags of an index entry. A picture that heads an open group has a sequence header and is no random
    // access.
    private static final int RANDOM_ACCESS = 0x80;
    private static final int SEQUENCE_HEADER = 0x40;
    private static final int PREDICTED = 0x30;

    private MxfHeader() {}

    /// Whether the first bytes of a file are those of an MXF file without a run-in.
    public static boolean isLikely(byte[] head) {
        return head.length >= 16 && ByteBuffer.wrap(head).getInt(0) == 0x060E2B34;
    }

    /// One key, length and value.
    private record Klv(long left, long right, ByteBuffer value) {
        /// The label's item, without what says how it is coded.
        boolean isSet(long item) {
            return (left >>> 16 & 0xFFFF) == 0x0253 && right >>> 8 == item >>> 8;
        }
    }

    private static Optional<Klv> next(ByteBuffer in) {
        if (in.remaining() < 18) {
            return Optional.empty();
        }
        long left = in.getLong();
        long right = in.getLong();
        long length = length(in);
        if ((left & 0xFFFFFFFF_00000000L) != SMPTE_LABEL || length < 0 || length > in.remaining()) {
            return Optional.empty();
        }
        var klv = new Klv(left, right, in.slice(in.position(), (int) length));
        in.position(in.position() + (int) length);
        return Optional.of(klv);
    }

    private static long length(ByteBuffer in) {
        int first = in.get() & 0xFF;
        if (first < 0x80) {
            return first;
        }
        long length = 0;
        for (int i = 0; i < (first & 0x7F); i++) {
            length = length << 8 | (in.get() & 0xFF);
        }
        return length;
    }

    private interface Items {
        void item(int tag, ByteBuffer value);
    }

    private static void items(ByteBuffer set, Items into) {
        ByteBuffer in = set.duplicate();
        while (in.remaining() >= 4) {
            int tag = in.getShort() & 0xFFFF;
            int length = Math.min(in.getShort() & 0xFFFF, in.remaining());
            into.item(tag, in.slice(in.position(), length));
            in.position(in.position() + length);
        }
    }

    static PictureSays picture(ByteBuffer head) {
        ByteBuffer in = head.duplicate();
        Optional<Klv> klv = next(in);
        for (int i = 0; i < MOST_SETS && klv.isPresent(); i++) {
            long set = klv.get().right();
            boolean descriptor = klv.get().isSet(0x0D01010101012800L)
                    || klv.get().isSet(0x0D01010101012900L)
                    || klv.get().isSet(0x0D01010101015100L);
            if (descriptor && set != 0) {
                return descriptor(klv.get().value());
            }
            klv = next(in);
        }
        return PictureSays.NOTHING;
    }

    private static PictureSays descriptor(ByteBuffer set) {
        var numbers = new long[6];
        var aspect = new ArrayList<Rational>();
        var codes = new String[] {"", "", ""};
        Arrays.fill(numbers, -1);
        items(set, (tag, value) -> {
            switch (tag) {
                case 0x3203 -> numbers[0] = value.getInt();
                case 0x3202 -> numbers[1] = value.getInt();
                case 0x3209 -> numbers[4] = value.getInt();
                case 0x3208 -> numbers[5] = value.getInt();
                case 0x320C -> numbers[2] = value.get();
                case 0x3212 -> numbers[3] = value.get();
                case 0x320E ->
                    PictureSays.aspect(value.getInt(), value.getInt()).ifPresent(aspect::add);
                case 0x3219 -> codes[0] = PRIMARIES.getOrDefault(value.get(13), "");
                case 0x3210 -> codes[1] = TRANSFERS.getOrDefault(value.get(13), "");
                case 0x321A -> codes[2] = MATRICES.getOrDefault(value.get(13), "");
                default -> {}
            }
        });
        // Two fields, each with a height of its own: separate and segmented ones.
        boolean halves = numbers[2] == 1 || numbers[2] == 4;
        int lines = halves ? 2 : 1;
        Optional<Raster> display = PictureSays.raster(numbers[4], numbers[5] * lines);
        // Stored rasters are whole blocks; without a display raster they tell little more than the aspect.
        Optional<Raster> raster = display.or(() -> PictureSays.raster(numbers[0], numbers[1] * lines));
        return new PictureSays(
                display,
                aspect.isEmpty() ? Optional.empty() : PictureSays.aspect(Optional.of(aspect.getFirst()), raster),
                scan(numbers[2], numbers[3]),
                new Colour(codes[0], codes[1], codes[2], ""));
    }

    private static ScanType scan(long layout, long dominance) {
        return switch ((int) layout) {
            case 0, 4 -> ScanType.PROGRESSIVE;
            case 1, 3 -> dominance == 2 ? ScanType.BOTTOM_FIELD_FIRST : ScanType.TOP_FIELD_FIRST;
            default -> ScanType.UNKNOWN;
        };
    }

    private static final Map<Byte, String> PRIMARIES =
            Map.of((byte) 1, "smpte170m", (byte) 2, "bt470bg", (byte) 3, "bt709", (byte) 4, "bt2020");
    private static final Map<Byte, String> TRANSFERS =
            Map.of((byte) 2, "bt709", (byte) 6, "linear", (byte) 10, "smpte2084", (byte) 11, "arib-std-b67");
    private static final Map<Byte, String> MATRICES =
            Map.of((byte) 1, "smpte170m", (byte) 2, "bt709", (byte) 6, "bt2020nc");

    /// Whether the end of a file is missing: its header says where the footer lies, or the file is still
    /// open and no footer follows (SMPTE ST 377-1, 7.1 and 7.2).
    static boolean lacksEnd(FileChannel channel) throws IOException {
        try {
            ByteBuffer pack = MovIndex.read(channel, 0, (int) Math.min(4_096, channel.size()));
            Optional<Klv> header = next(pack);
            if (header.isEmpty() || header.get().value().limit() < 32) {
                return false;
            }
            long footer = header.get().value().getLong(24);
            boolean open = (header.get().right() >>> 8 & 0xFF) % 2 == 1;
            boolean listed = partitions(channel).length > 1;
            return footer > 0 ? footer >= channel.size() - 16 : open && !listed;
        } catch (BufferUnderflowException | IndexOutOfBoundsException e) {
            return false;
        }
    }

    /// One stretch of an index table.
    private record Segment(long start, Rational editRate, ByteBuffer entries, int entryBytes) {
        int count() {
            return entries.limit() / entryBytes;
        }
    }

    /// The whole structure as the index tables have it: a read of each partition's head, whatever the
    /// file's length.
    ///
    /// @return empty where the tables are missing, have gaps, or list no single pictures
    public static Optional<FrameStructure> structure(Path file) throws IOException {
        try (FileChannel channel = FileChannel.open(file, StandardOpenOption.READ)) {
            return structure(segments(channel));
        } catch (BufferUnderflowException | IndexOutOfBoundsException | IllegalArgumentException e) {
            return Optional.empty();
        }
    }

    private static Optional<FrameStructure> structure(List<Segment> found) {
        List<Segment> segments = found.stream()
                .sorted(Comparator.comparingLong(Segment::start).thenComparingInt(s -> -s.count()))
                .toList();
        int total = 0;
        for (Segment segment : segments) {
            total += segment.start() == total ? segment.count() : 0;
        }
        if (total == 0 || total > MOST_ENTRIES) {
            return Optional.empty();
        }
        var shown = new long[total];
        var keys = new boolean[total];
        var places = new long[total];
        Arrays.fill(shown, -1);
        int at = 0;
        boolean closed = true;
        for (Segment segment : segments) {
            if (segment.start() != at) {
                continue; // the same stretch again: footers repeat what bodies list
            }
            for (int i = 0; i < segment.count(); i++, at++) {
                int entry = i * segment.entryBytes();
                int decodedAt = at + segment.entries().get(entry);
                if (decodedAt < 0 || decodedAt >= total || shown[decodedAt] >= 0) {
                    return Optional.empty();
                }
                shown[decodedAt] = at;
                int flags = segment.entries().get(entry + 2);
                keys[at] = (flags & PREDICTED) == 0 && (flags & (RANDOM_ACCESS | SEQUENCE_HEADER)) != 0;
                closed &= !keys[at] || (flags & RANDOM_ACCESS) != 0;
                places[at] = segment.entries().getLong(entry + 3);
            }
        }
        Rational rate = segments.getFirst().editRate();
        var builder =
                new FrameStructure.Builder(Extent.WHOLE, Rational.of(1).dividedBy(rate)).leadingStandAlone(closed);
        for (int i = 0; i < total; i++) {
            long bytes = i + 1 < total ? places[i + 1] - places[i] : 0;
            builder.add(shown[i], keys[i], Math.clamp(bytes, 0, Integer.MAX_VALUE));
        }
        return Optional.of(builder.build());
    }

    /// The segments of every partition, by the random index at the file's end.
    private static List<Segment> segments(FileChannel channel) throws IOException {
        var found = new ArrayList<Segment>();
        long read = 0;
        for (long at : partitions(channel)) {
            ByteBuffer pack = MovIndex.read(channel, at, (int) Math.min(4_096, channel.size() - at));
            Optional<Klv> klv = next(pack.duplicate());
            if (klv.isEmpty() || klv.get().value().limit() < 64) {
                continue;
            }
            ByteBuffer value = klv.get().value();
            long headerBytes = value.getLong(32);
            long indexBytes = value.getLong(40);
            int grid = Math.max(1, value.getInt(4));
            read += indexBytes;
            if (indexBytes <= 0 || headerBytes < 0 || read > LARGEST_INDEX) {
                continue;
            }
            long behindPack = at + 16 + (pack.get(16) < 0 ? 1 + (pack.get(16) & 0x7F) : 1) + value.limit();
            long start = behindFill(channel, behindPack, grid) + headerBytes;
            if (start < 0 || start > channel.size() - indexBytes) {
                continue;
            }
            ByteBuffer in = MovIndex.read(channel, start, (int) indexBytes);
            for (Optional<Klv> set = next(in); set.isPresent(); set = next(in)) {
                if (set.get().isSet(0x0D01020101100100L)) {
                    segment(set.get().value()).ifPresent(found::add);
                }
            }
        }
        return found;
    }

    /// Behind the filler that follows a partition pack where there is one.
    private static long behindFill(FileChannel channel, long at, int grid) throws IOException {
        if (at > channel.size() - 25) {
            return at;
        }
        ByteBuffer in = MovIndex.read(channel, at, 25);
        boolean fill = (in.getLong() & 0xFFFFFFFF_00000000L) == SMPTE_LABEL && in.getLong() == 0x0301021001000000L;
        return fill && grid > 0 ? at + 16 + lengthBytes(in) + length(in) : at;
    }

    private static int lengthBytes(ByteBuffer in) {
        int first = in.get(in.position()) & 0xFF;
        return first < 0x80 ? 1 : 1 + (first & 0x7F);
    }

    private static long[] partitions(FileChannel channel) throws IOException {
        long size = channel.size();
        int length = size < 64 ? 0 : MovIndex.read(channel, size - 4, 4).getInt();
        if (length < 32 || length > size) {
            return new long[] {0};
        }
        Optional<Klv> pack = next(MovIndex.read(channel, size - length, length));
        if (pack.isEmpty() || pack.get().right() >>> 8 != 0x0D010201_01110100L >>> 8) {
            return new long[] {0};
        }
        ByteBuffer in = pack.get().value();
        var places = new long[Math.min(MOST_PARTITIONS, (in.limit() - 4) / 12)];
        for (int i = 0; i < places.length; i++) {
            in.getInt();
            places[i] = in.getLong();
        }
        return Arrays.stream(places).filter(p -> p >= 0 && p < size - 64).toArray();
    }

    private static Optional<Segment> segment(ByteBuffer set) {
        var start = new long[] {-1};
        var rate = new ArrayList<Rational>();
        var entries = new ArrayList<ByteBuffer>();
        var entryBytes = new int[1];
        items(set, (tag, value) -> {
            switch (tag) {
                case 0x3F0B ->
                    PictureSays.aspect(value.getInt(), value.getInt()).ifPresent(rate::add);
                case 0x3F0C -> start[0] = value.getLong();
                case 0x3F0A -> {
                    value.getInt();
                    entryBytes[0] = value.getInt();
                    entries.add(value.slice());
                }
                default -> {}
            }
        });
        boolean whole = start[0] >= 0 && !rate.isEmpty() && !entries.isEmpty() && entryBytes[0] >= 11;
        return whole
                ? Optional.of(new Segment(start[0], rate.getFirst(), entries.getFirst(), entryBytes[0]))
                : Optional.empty();
    }
}
