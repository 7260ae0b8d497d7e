package docksort.index;

import docksort.media.Colour;
import docksort.media.Raster;
import docksort.media.Rational;
import docksort.media.ScanType;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.DoubleStream;

/// The headers and the cues of a Matroska file (RFC 9559; EBML: RFC 8794).
final class MkvHeader {
    private static final int SEGMENT = 0x18538067;
    private static final int SEEK_HEAD = 0x114D9B74;
    private static final int SEEK = 0x4DBB;
    private static final int SEEK_ID = 0x53AB;
    private static final int SEEK_POSITION = 0x53AC;
    private static final int INFO = 0x1549A966;
    private static final int TIMESTAMP_SCALE = 0x2AD7B1;
    private static final int TRACKS = 0x1654AE6B;
    private static final int TRACK_ENTRY = 0xAE;
    private static final int TRACK_NUMBER = 0xD7;
    private static final int TRACK_TYPE = 0x83;
    private static final int CODEC_PRIVATE = 0x63A2;
    private static final int VIDEO = 0xE0;
    private static final int CUES = 0x1C53BB6B;
    private static final int CUE_POINT = 0xBB;
    private static final int CUE_TIME = 0xB3;
    private static final int CUE_TRACK_POSITIONS = 0xB7;
    private static final int CUE_TRACK = 0xF7;
    private static final int CLUSTER = 0x1F43B675;

    private static final int LARGEST_CUES = 32 * 1024 * 1024;
    private static final int MOST_ELEMENTS = 1_000_000;

    private MkvHeader() {}

    private record Element(int id, ByteBuffer content) {
        long number() {
            long value = 0;
            for (int i = 0; i < Math.min(8, content.limit()); i++) {
                value = value << 8 | (content.get(i) & 0xFF);
            }
            return value;
        }

        List<Element> children() {
            return in(content.duplicate());
        }

        Optional<Element> child(int wanted) {
            return children().stream().filter(e -> e.id == wanted).findFirst();
        }

        long number(int child, long otherwise) {
            return child(child).map(Element::number).orElse(otherwise);
        }
    }

    static ContainerSays read(FileChannel channel, ByteBuffer head) throws IOException {
        ByteBuffer in = head.duplicate();
        int segmentStart = segment(in);
        List<Element> top = segmentStart < 0 ? List.of() : in(in);
        Optional<Element> track = top.stream()
                .filter(e -> e.id == TRACKS)
                .flatMap(tracks -> tracks.children().stream())
                .filter(e -> e.id == TRACK_ENTRY && e.number(TRACK_TYPE, 0) == 1)
                .findFirst();
        if (track.isEmpty()) {
            return new ContainerSays(PictureSays.NOTHING, head);
        }
        ByteBuffer setUp = track.get()
                .child(CODEC_PRIVATE)
                .map(Element::content)
                .filter(bytes -> bytes.limit() > 6)
                .orElse(head);
        return new ContainerSays(
                track.get().child(VIDEO).map(MkvHeader::picture).orElse(PictureSays.NOTHING),
                setUp,
                keyframes(channel, segmentStart, top, track.get().number(TRACK_NUMBER, 1)));
    }

    /// Moves behind the head of the segment.
    ///
    /// @return where its content begins, -1 where there is none
    private static int segment(ByteBuffer in) {
        while (in.remaining() > 12) {
            int id = id(in);
            long length = length(in);
            if (id == SEGMENT) {
                return in.position();
            }
            if (length < 0 || length > in.remaining()) {
                return -1;
            }
            in.position(in.position() + (int) length);
        }
        return -1;
    }

    /// Elements up to the first that is not whole or holds pictures.
    private static List<Element> in(ByteBuffer in) {
        var found = new ArrayList<Element>();
        while (in.remaining() >= 2 && found.size() < MOST_ELEMENTS) {
            int id = id(in);
            long length = in.hasRemaining() ? length(in) : -1;
            if (id <= 0 || id == CLUSTER || length < 0 || length > in.remaining()) {
                break;
            }
            found.add(new Element(id, in.slice(in.position(), (int) length)));
            in.position(in.position() + (int) length);
        }
        return found;
    }

    private static int id(ByteBuffer in) {
        int first = in.get() & 0xFF;
        int more = Integer.numberOfLeadingZeros(first) - 24;
        if (more > 3 || in.remaining() < more) {
            return -1;
        }
        int id = first;
        for (int i = 0; i < more; i++) {
            id = id << 8 | (in.get() & 0xFF);
        }
        return id;
    }

    /// @return -1 for "not known" and for what is not a length
    private static long length(ByteBuffer in) {
        int first = in.get() & 0xFF;
        int more = Integer.numberOfLeadingZeros(first) - 24;
        if (more > 7 || in.remaining() < more) {
            return -1;
        }
        long length = first & ((1 << (7 - more)) - 1);
        boolean ones = length == (1 << (7 - more)) - 1;
        for (int i = 0; i < more; i++) {
            int next = in.get() & 0xFF;
            ones &= next == 0xFF;
            length = length << 8 | next;
        }
        return ones ? -1 : length;
    }

    private static PictureSays picture(Element video) {
        Optional<Raster> raster = PictureSays.raster(video.number(0xB0, 0), video.number(0xBA, 0));
        boolean stretches = video.number(0x54B2, 0) == 0 || video.number(0x54B2, 0) == 3;
        Optional<Rational> display =
                stretches ? PictureSays.aspect(video.number(0x54B0, 0), video.number(0x54BA, 0)) : Optional.empty();
        return new PictureSays(
                raster,
                PictureSays.aspect(display, raster),
                scan(video),
                video.child(0x55B0).map(MkvHeader::colour).orElse(Colour.UNSTATED));
    }

    private static ScanType scan(Element video) {
        if (video.number(0x9A, 0) == 2) {
            return ScanType.PROGRESSIVE;
        }
        return switch (video.number(0x9A, 0) == 1 ? (int) video.number(0x9D, 2) : 2) {
            case 1, 9 -> ScanType.TOP_FIELD_FIRST;
            case 6, 14 -> ScanType.BOTTOM_FIELD_FIRST;
            default -> ScanType.UNKNOWN;
        };
    }

    private static Colour colour(Element colour) {
        String range = switch ((int) colour.number(0x55B9, 0)) {
            case 1 -> "tv";
            case 2 -> "pc";
            default -> "";
        };
        return PictureSays.colour(
                (int) colour.number(0x55BB, 2), (int) colour.number(0x55BA, 2), (int) colour.number(0x55B1, 2), range);
    }

    private static List<Double> keyframes(FileChannel channel, int segmentStart, List<Element> top, long track)
            throws IOException {
        long scale = top.stream()
                .filter(e -> e.id == INFO)
                .mapToLong(info -> info.number(TIMESTAMP_SCALE, 1_000_000))
                .findFirst()
                .orElse(1_000_000);
        Optional<Element> cues = top.stream().filter(e -> e.id == CUES).findFirst();
        if (cues.isEmpty()) {
            cues = cuesElsewhere(channel, segmentStart, top);
        }
        return cues.stream()
                .flatMap(e -> e.children().stream())
                .filter(e -> e.id == CUE_POINT)
                .filter(point -> point.children().stream()
                        .anyMatch(e -> e.id == CUE_TRACK_POSITIONS && e.number(CUE_TRACK, 0) == track))
                .flatMapToDouble(point -> DoubleStream.of((double) point.number(CUE_TIME, 0) * scale / 1e9))
                .sorted()
                .boxed()
                .toList();
    }

    private static Optional<Element> cuesElsewhere(FileChannel channel, int segmentStart, List<Element> top)
            throws IOException {
        Optional<Element> seek = top.stream()
                .filter(e -> e.id == SEEK_HEAD)
                .flatMap(e -> e.children().stream())
                .filter(e -> e.id == SEEK && e.number(SEEK_ID, 0) == CUES)
                .findFirst();
        long at = segmentStart + seek.map(e -> e.number(SEEK_POSITION, -1)).orElse(-1L);
        if (seek.isEmpty() || at < segmentStart || at > channel.size() - 12) {
            return Optional.empty();
        }
        ByteBuffer head = MovIndex.read(channel, at, 12);
        boolean cues = id(head) == CUES;
        long length = length(head);
        long content = at + head.position();
        return cues && length > 0 && length <= Math.min(LARGEST_CUES, channel.size() - content)
                ? Optional.of(new Element(CUES, MovIndex.read(channel, content, (int) length)))
                : Optional.empty();
    }
}
