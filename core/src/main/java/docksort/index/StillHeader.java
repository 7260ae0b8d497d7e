package docksort.index;

import docksort.media.Raster;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.channels.FileChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/// The raster a still's header states, without decoding it.
///
/// Sources: PNG third edition, 11.2.1 (IHDR); ITU-T T.81, B.2.2 (frame header); SMPTE ST 268 (DPX image
/// header); OpenEXR file layout (attribute dataWindow); TIFF 6.0 (tags 254, 256 and 257); TIFF technical
/// note 1 (tag 330, SubIFDs).
public final class StillHeader {
    private static final int WINDOW = 128 * 1024;
    private static final int MOST_DIRECTORIES = 16;

    private StillHeader() {}

    /// @return empty when the file is none of these or does not say
    public static Optional<Raster> raster(Path file) throws IOException {
        try (FileChannel channel = FileChannel.open(file, StandardOpenOption.READ)) {
            ByteBuffer in = MovIndex.read(channel, 0, (int) Math.min(2_048, channel.size()));
            if (in.remaining() < 26) {
                return Optional.empty();
            }
            return switch (in.getInt(0)) {
                case 0x89504E47 -> sides(in.getInt(16), in.getInt(20));
                case 0x53445058 -> dpx(in, ByteOrder.BIG_ENDIAN);
                case 0x58504453 -> dpx(in, ByteOrder.LITTLE_ENDIAN);
                case 0x762F3101 -> exr(in);
                case 0x49492A00 -> tiff(channel, in, ByteOrder.LITTLE_ENDIAN);
                case 0x4D4D002A -> tiff(channel, in, ByteOrder.BIG_ENDIAN);
                default ->
                    in.getShort(0) == (short) 0xFFD8
                            ? jpeg(MovIndex.read(channel, 0, (int) Math.min(WINDOW, channel.size())))
                            : Optional.empty();
            };
        }
    }

    private static Optional<Raster> sides(long width, long height) {
        return width > 0 && height > 0 && width <= 65_536 && height <= 65_536
                ? Optional.of(new Raster((int) width, (int) height))
                : Optional.empty();
    }

    private static Optional<Raster> dpx(ByteBuffer in, ByteOrder order) {
        ByteBuffer ordered = in.duplicate().order(order);
        return ordered.limit() < 780 ? Optional.empty() : sides(ordered.getInt(772), ordered.getInt(776));
    }

    private static Optional<Raster> exr(ByteBuffer in) {
        String text = StandardCharsets.ISO_8859_1.decode(in.duplicate()).toString();
        String name = "dataWindow\0box2i\0";
        int at = text.indexOf(name);
        if (at < 0 || at + name.length() + 20 > in.limit()) {
            return Optional.empty();
        }
        ByteBuffer box = in.duplicate().order(ByteOrder.LITTLE_ENDIAN);
        int from = at + name.length() + 4;
        return sides(
                (long) box.getInt(from + 8) - box.getInt(from) + 1,
                (long) box.getInt(from + 12) - box.getInt(from + 4) + 1);
    }

    private static Optional<Raster> jpeg(ByteBuffer in) {
        int at = 2;
        while (at + 9 < in.limit() && (in.get(at) & 0xFF) == 0xFF) {
            int marker = in.get(at + 1) & 0xFF;
            boolean frame = marker >= 0xC0 && marker <= 0xCF && marker != 0xC4 && marker != 0xC8 && marker != 0xCC;
            if (frame) {
                return sides(in.getShort(at + 7) & 0xFFFF, in.getShort(at + 5) & 0xFFFF);
            }
            at += 2 + Math.max(2, in.getShort(at + 2) & 0xFFFF);
        }
        return Optional.empty();
    }

    private static Optional<Raster> tiff(FileChannel channel, ByteBuffer head, ByteOrder order) throws IOException {
        long at = head.duplicate().order(order).getInt(4) & 0xFFFF_FFFFL;
        Directory first = directory(channel, at, order);
        if (!first.reduced()) {
            return sides(first.width, first.height);
        }
        // The picture itself lies in a directory below that of its thumbnail.
        for (long below : first.below(channel, order)) {
            Directory other = directory(channel, below, order);
            if (!other.reduced()) {
                return sides(other.width, other.height);
            }
        }
        return Optional.empty();
    }

    /// @param below where its sub-directories are listed, or where the only one is
    private record Directory(long kind, long width, long height, long children, long below) {
        boolean reduced() {
            return (kind & 1) != 0;
        }

        List<Long> below(FileChannel channel, ByteOrder order) throws IOException {
            if (children == 1) {
                return List.of(below);
            }
            int bytes = (int) Math.min(children * 4, 4L * MOST_DIRECTORIES);
            if (bytes <= 0 || below + bytes > channel.size()) {
                return List.of();
            }
            ByteBuffer list = MovIndex.read(channel, below, bytes).order(order);
            var places = new ArrayList<Long>();
            while (list.remaining() >= 4) {
                places.add(list.getInt() & 0xFFFF_FFFFL);
            }
            return places;
        }
    }

    private static Directory directory(FileChannel channel, long at, ByteOrder order) throws IOException {
        if (at + 2 > channel.size()) {
            return new Directory(0, 0, 0, 0, 0);
        }
        int count = MovIndex.read(channel, at, 2).order(order).getShort() & 0xFFFF;
        int bytes = (int) Math.min(count * 12L, channel.size() - at - 2);
        ByteBuffer entries = MovIndex.read(channel, at + 2, bytes).order(order);
        long kind = 0;
        long width = 0;
        long height = 0;
        long children = 0;
        long below = 0;
        while (entries.remaining() >= 12) {
            int tag = entries.getShort() & 0xFFFF;
            int type = entries.getShort();
            long values = entries.getInt() & 0xFFFF_FFFFL;
            int from = entries.position();
            long value = type == 3 ? entries.getShort(from) & 0xFFFF : entries.getInt(from) & 0xFFFF_FFFFL;
            entries.position(from + 4);
            switch (tag) {
                case 254 -> kind = value;
                case 256 -> width = value;
                case 257 -> height = value;
                case 330 -> {
                    children = values;
                    below = value;
                }
                default -> {}
            }
        }
        return new Directory(kind, width, height, children, below);
    }
}
