package docksort.index;

import docksort.index.Boxes.Box;
import java.io.IOException;
import java.nio.BufferUnderflowException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/// The index of a MOV or MP4 file, read whole: a few reads whatever the file's length, because the header box
/// says
/// where every picture lies and when it is shown (ISO/IEC 14496-12 for MP4, the QuickTime File Format for MOV).
///
/// Files without such an index (fragmented ones, compressed headers) give none; their packets have to be read.
///
/// @param trackCount how many tracks of any kind there are
/// @param tracks picture tracks, in order
/// @param complaints what of the index does not hold together
public record MovIndex(int trackCount, List<MovTrack> tracks, List<String> complaints) {
    private static final long LARGEST_HEADER = 192L * 1024 * 1024; // sample tables of a day at 60 fps
    private static final int MOST_TOP_BOXES = 2_000;

    public MovIndex {
        tracks = List.copyOf(tracks);
        complaints = List.copyOf(complaints);
    }

    /// Whether the first bytes of a file are those of a MOV or MP4.
    public static boolean isLikely(byte[] head) {
        if (head.length < 8) {
            return false;
        }
        return switch (Boxes.type(ByteBuffer.wrap(head, 4, 4))) {
            case "ftyp", "moov", "mdat", "wide", "free", "skip", "pnot" -> true;
            default -> false;
        };
    }

    /// @return empty when the file has no index that can be read whole
    /// @throws IOException when the file cannot be read
    public static Optional<MovIndex> read(Path file) throws IOException {
        try (FileChannel channel = FileChannel.open(file, StandardOpenOption.READ)) {
            Optional<ByteBuffer> header = header(channel);
            return header.isEmpty() ? Optional.empty() : index(header.get(), channel.size());
        }
    }

    private static Optional<ByteBuffer> header(FileChannel channel) throws IOException {
        long size = channel.size();
        long at = 0;
        for (int i = 0; i < MOST_TOP_BOXES && at + 8 <= size; i++) {
            ByteBuffer head = read(channel, at, (int) Math.min(16, size - at));
            long length = head.getInt() & 0xFFFF_FFFFL;
            String type = Boxes.type(head);
            int headerBytes = 8;
            if (length == 1 && head.remaining() >= 8) {
                length = head.getLong();
                headerBytes = 16;
            } else if (length == 0) {
                length = size - at;
            }
            if (length < headerBytes || type.equals("moof")) {
                return Optional.empty();
            }
            if (type.equals("moov")) {
                long content = length - headerBytes;
                return content > LARGEST_HEADER || at + length > size
                        ? Optional.empty()
                        : Optional.of(read(channel, at + headerBytes, (int) content));
            }
            at += length;
        }
        return Optional.empty();
    }

    static ByteBuffer read(FileChannel channel, long from, int length) throws IOException {
        ByteBuffer into = ByteBuffer.allocate(length);
        while (into.hasRemaining()) {
            int read = channel.read(into, from + into.position());
            if (read < 0) {
                throw new IOException("the file became shorter while it was read");
            }
        }
        return into.flip();
    }

    private static Optional<MovIndex> index(ByteBuffer content, long fileBytes) {
        var movie = new Box("moov", content);
        if (movie.child("mvex").isPresent() || movie.child("cmov").isPresent()) {
            return Optional.empty();
        }
        var tracks = new ArrayList<MovTrack>();
        var complaints = new ArrayList<String>();
        int count = 0;
        long movieScale = movie.child("mvhd").map(MovTrack::timeScale).orElse(0L);
        for (Box box : movie.children()) {
            if (!box.type().equals("trak")) {
                continue;
            }
            count++;
            try {
                MovTrack.read(box, movieScale, fileBytes, complaints).ifPresent(tracks::add);
            } catch (BufferUnderflowException | IndexOutOfBoundsException e) {
                complaints.add("a track of the index ends in its middle");
            }
        }
        return tracks.isEmpty() ? Optional.empty() : Optional.of(new MovIndex(count, tracks, complaints));
    }
}
