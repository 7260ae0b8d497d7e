package docksort.index;

import docksort.media.Colour;
import docksort.media.Raster;
import docksort.media.Rational;
import docksort.media.ScanType;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.channels.FileChannel;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/// The headers of an AVI file and its index of the first gigabyte (the AVI RIFF form of the multimedia
/// programming interface, 1991, and the OpenDML extensions 1.02, 1996, for the pixel aspect).
///
/// The index lists pictures in the order of decoding and tells no other; where reordering is possible, pictures
/// are decoded to learn of it.
final class AviHeader {
    private static final int LIST = 0x4C495354;
    private static final int MOVI = 0x6D6F7669;
    private static final int INDEX = 0x69647831;
    private static final int KEYFRAME = 0x10;
    private static final int LARGEST_INDEX = 64 * 1024 * 1024;

    private AviHeader() {}

    /// The picture's track as the header list describes it.
    private record Track(int number, PictureSays says, double secondsEach) {}

    static ContainerSays read(FileChannel channel, ByteBuffer head) throws IOException {
        Optional<Track> track = track(head);
        if (track.isEmpty()) {
            return new ContainerSays(PictureSays.NOTHING, head);
        }
        return new ContainerSays(track.get().says(), head, keyframes(channel, track.get()));
    }

    private static Optional<Track> track(ByteBuffer head) {
        ByteBuffer in = head.duplicate();
        in.position(12);
        if (in.remaining() < 12 || in.getInt() != LIST) {
            return Optional.empty();
        }
        int listBytes = Integer.reverseBytes(in.getInt());
        in.getInt();
        in.limit(Math.clamp((long) in.position() + listBytes, in.position(), in.limit()));
        int number = -1;
        while (in.remaining() >= 12) {
            int id = in.getInt();
            int bytes = Integer.reverseBytes(in.getInt());
            if (bytes < 0 || bytes > in.remaining()) {
                break;
            }
            ByteBuffer chunk = in.slice(in.position(), bytes);
            in.position(Math.min(in.limit(), in.position() + bytes + (bytes & 1)));
            if (id == LIST && bytes > 4 && chunk.getInt() == 0x7374726C) { // strl
                number++;
                Optional<Track> found = stream(chunk, number);
                if (found.isPresent()) {
                    return found;
                }
            }
        }
        return Optional.empty();
    }

    private static Optional<Track> stream(ByteBuffer list, int number) {
        boolean picture = false;
        double each = 0;
        Optional<Raster> raster = Optional.empty();
        Optional<Rational> aspect = Optional.empty();
        while (list.remaining() >= 8) {
            int id = list.getInt();
            int bytes = Integer.reverseBytes(list.getInt());
            if (bytes < 0 || bytes > list.remaining()) {
                break;
            }
            ByteBuffer chunk = list.slice(list.position(), bytes).order(ByteOrder.LITTLE_ENDIAN);
            list.position(Math.min(list.limit(), list.position() + bytes + (bytes & 1)));
            if (id == 0x73747268 && bytes >= 28) { // strh
                picture = chunk.getInt(0) == 0x73646976; // "vids" read from its end
                long rate = chunk.getInt(24) & 0xFFFF_FFFFL;
                each = rate > 0 ? (double) (chunk.getInt(20) & 0xFFFF_FFFFL) / rate : 0;
            } else if (id == 0x73747266 && bytes >= 12 && picture) { // strf
                raster = PictureSays.raster(chunk.getInt(4), Math.abs((long) chunk.getInt(8)));
            } else if (id == 0x76707270 && bytes >= 24) { // vprp
                Optional<Rational> display =
                        PictureSays.aspect(chunk.getShort(22) & 0xFFFF, chunk.getShort(20) & 0xFFFF);
                aspect = PictureSays.aspect(display, raster);
            }
        }
        return picture && each > 0
                ? Optional.of(
                        new Track(number, new PictureSays(raster, aspect, ScanType.UNKNOWN, Colour.UNSTATED), each))
                : Optional.empty();
    }

    private static List<Double> keyframes(FileChannel channel, Track track) throws IOException {
        long at = 12;
        for (int i = 0; i < 64 && at + 12 <= channel.size(); i++) {
            ByteBuffer head = MovIndex.read(channel, at, 12);
            int id = head.getInt();
            long bytes = Integer.reverseBytes(head.getInt()) & 0xFFFF_FFFFL;
            if (id == INDEX && bytes <= Math.min(LARGEST_INDEX, channel.size() - at - 8)) {
                return keyframes(MovIndex.read(channel, at + 8, (int) bytes), track);
            }
            boolean known = id == LIST || i < 8;
            if (!known || (id == LIST && head.getInt() == MOVI && bytes == 0)) {
                break;
            }
            at += 8 + bytes + (bytes & 1);
        }
        return List.of();
    }

    private static List<Double> keyframes(ByteBuffer index, Track track) {
        var found = new ArrayList<Double>();
        long frame = 0;
        while (index.remaining() >= 16) {
            int number = (index.get() - '0') * 10 + (index.get() - '0');
            index.getShort();
            int flags = Integer.reverseBytes(index.getInt());
            index.getLong();
            if (number == track.number()) {
                if ((flags & KEYFRAME) != 0) {
                    found.add(frame * track.secondsEach());
                }
                frame++;
            }
        }
        return found;
    }
}
