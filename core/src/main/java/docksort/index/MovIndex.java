package docksort.index;

import docksort.index.Boxes.Box;
import java.io.IOException;
import java.nio.BufferUnderflowException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/// The index of a MOV or MP4 file, read whole: a few reads whatever the file's length, because the header
/// box says where every picture lies and when it is shown (ISO/IEC 14496-12 for MP4, the QuickTime File
/// Format for MOV).
///
/// Of fragmented files the headers of all fragments are read. Files with neither (compressed headers,
/// pictures both in the header and in fragments) give none; their packets have to be read.
///
/// @param trackCount how many tracks of any kind there are
/// @param tracks picture tracks, in order
/// @param complaints what of the index does not hold together
public record MovIndex(int trackCount, List<MovTrack> tracks, List<String> complaints) {
    /// How many pictures of the first track the index lists behind the end of the file.
    public long missingAtEnd(Path file) throws IOException {
        return tracks.isEmpty() ? 0 : tracks.getFirst().samples().behind(Files.size(file));
    }

    private static final long LARGEST_HEADER = 192L * 1024 * 1024; // sample tables of a day at 60 fps
    private static final int MOST_TOP_BOXES = 2_000;
    private static final int MOST_FRAGMENTS = 200_000; // two days in fragments of a second
    private static final long LARGEST_FRAGMENT_HEADER = 16L * 1024 * 1024;

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
            Optional<TopBox> header = next(channel, 0, "moov");
            if (header.isEmpty() || header.get().contentBytes() > LARGEST_HEADER) {
                return Optional.empty();
            }
            ByteBuffer content =
                    read(channel, header.get().content(), (int) header.get().contentBytes());
            var movie = new Box("moov", content);
            if (movie.child("cmov").isPresent()) {
                return Optional.empty();
            }
            Optional<Box> fragmented = movie.child("mvex");
            return fragmented.isPresent()
                    ? fragmented(channel, movie, fragmented.get(), header.get().end())
                    : index(movie, channel.size());
        }
    }

    /// A box of the file itself.
    private record TopBox(String type, long at, long content, long end) {
        long contentBytes() {
            return end - content;
        }
    }

    /// The next box of a type, or the first fragment, whichever comes first.
    private static Optional<TopBox> next(FileChannel channel, long from, String wanted) throws IOException {
        long size = channel.size();
        long at = from;
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
            boolean fragment = type.equals("moof") && !wanted.equals("moof");
            if (length < headerBytes || length > size - at || fragment) {
                return Optional.empty();
            }
            if (type.equals(wanted)) {
                return Optional.of(new TopBox(type, at, at + headerBytes, at + length));
            }
            at += length;
        }
        return Optional.empty();
    }

    private static Optional<MovIndex> fragmented(FileChannel channel, Box movie, Box movieExtends, long from)
            throws IOException {
        try {
            return fragments(channel, movie, movieExtends, from);
        } catch (BufferUnderflowException | IndexOutOfBoundsException e) {
            return Optional.empty(); // a header that ends in its middle: the engine reads the packets instead
        }
    }

    private static Optional<MovIndex> fragments(FileChannel channel, Box movie, Box movieExtends, long from)
            throws IOException {
        long movieScale = movie.child("mvhd").map(MovTrack::timeScale).orElse(0L);
        List<Box> boxes = movie.children().stream()
                .filter(box -> box.type().equals("trak"))
                .toList();
        Optional<Box> picture = boxes.stream()
                .filter(box -> MovTrack.fragments(box, movieExtends, movieScale).isPresent())
                .findFirst();
        if (picture.isEmpty()) {
            return Optional.empty();
        }
        FragmentTable table =
                MovTrack.fragments(picture.get(), movieExtends, movieScale).orElseThrow();
        Optional<TopBox> fragment = next(channel, from, "moof");
        for (int i = 0; i < MOST_FRAGMENTS && fragment.isPresent(); i++) {
            TopBox at = fragment.get();
            boolean taken = at.contentBytes() <= LARGEST_FRAGMENT_HEADER
                    && table.add(new Box("moof", read(channel, at.content(), (int) at.contentBytes())), at.at());
            if (!taken) {
                return Optional.empty();
            }
            fragment = next(channel, at.end(), "moof");
        }
        int lost = table.endWithin(channel.size());
        List<String> complaints = lost == 0
                ? List.of()
                : List.of(lost + " pictures are missing at the end: the recording or the copy of it was cut off");
        return fragment.isPresent() || table.count() == 0
                ? Optional.empty()
                : MovTrack.described(picture.get(), table)
                        .map(track -> new MovIndex(boxes.size(), List.of(track), complaints));
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

    /// Whether a movie has its media in other files: data references without the flag "in this file"
    /// (ISO/IEC 14496-12, 8.7.2), or alternatives that it only names (QuickTime File Format, reference
    /// movies).
    private static boolean isReference(Box movie) {
        return movie.child("rmra").isPresent()
                || movie.children().stream()
                        .filter(box -> box.type().equals("trak"))
                        .flatMap(track -> track.at("mdia", "minf", "dinf").stream())
                        .flatMap(dinf -> dinf.child("dref").stream())
                        .anyMatch(MovIndex::leadsElsewhere);
    }

    private static boolean leadsElsewhere(Box references) {
        ByteBuffer in = references.read();
        if (in.remaining() < 20) {
            return false;
        }
        in.position(8);
        return Boxes.in(in.slice()).stream()
                .anyMatch(one -> one.content().limit() >= 4 && (one.content().getInt(0) & 1) == 0);
    }

    /// Whether a MOV or MP4 only leads to other files.
    ///
    /// @throws IOException when the file cannot be read
    public static boolean isReference(Path file) throws IOException {
        try (FileChannel channel = FileChannel.open(file, StandardOpenOption.READ)) {
            Optional<TopBox> header = next(channel, 0, "moov");
            return header.isPresent()
                    && header.get().contentBytes() <= LARGEST_HEADER
                    && isReference(new Box("moov", read(channel, header.get().content(), (int)
                            header.get().contentBytes())));
        } catch (BufferUnderflowException | IndexOutOfBoundsException e) {
            return false;
        }
    }

    private static Optional<MovIndex> index(Box movie, long fileBytes) {
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
