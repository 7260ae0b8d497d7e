package docksort.index;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;

/// Looks at the first bytes of coded pictures to learn what the index leaves open or may have wrong:
/// whether they are intra pictures, and whether pictures shown before their keyframe can do without the
/// group before.
///
/// Sources: Rec. ITU-T H.264 7.3.3 and table 7-6; Rec. ITU-T H.265 7.3.6.1 and table 7-1; Rec. ITU-T
/// H.262 6.2.2.6 and 6.3.9.
public final class SlicePeek {
    private static final int PEEKED_BYTES = 4_096; // parameter sets and messages may stand before the picture
    private static final int MOST_UNITS = 64;
    private static final int MOST_HEADER_BYTES = 64; // of a container before a packet's own
    private static final int TRANSPORT_BYTES = 188;
    private static final List<Integer> TRANSPORT_STRIDES = List.of(TRANSPORT_BYTES, 192); // with a time stamp
    private static final byte SYNC = 0x47;

    private SlicePeek() {}

    /// What the first bytes of a picture say.
    ///
    /// @param intra whether it is an intra picture
    /// @param entry whether the stream itself marks it as a place where decoding can start
    /// @param leadingNeedsBefore whether it is a picture shown before its keyframe that needs the group
    ///     before, or heads a group with such pictures
    public record Coded(boolean intra, boolean entry, boolean leadingNeedsBefore) {}

    /// @param samples sample numbers from 0, ascending
    /// @return one answer for each sample, empty where its bytes do not tell
    public static List<Optional<Coded>> look(Path file, MovTrack track, int[] samples) throws IOException {
        var found = new ArrayList<Optional<Coded>>(samples.length);
        long[] places = track.samples().places(samples);
        try (FileChannel channel = FileChannel.open(file, StandardOpenOption.READ)) {
            for (int i = 0; i < samples.length; i++) {
                int bytes = Math.min(PEEKED_BYTES, track.samples().size(samples[i]));
                boolean inside = places[i] >= 0 && bytes > 0 && places[i] <= channel.size() - bytes;
                found.add(inside ? coded(track, MovIndex.read(channel, places[i], bytes)) : Optional.empty());
            }
        }
        return found;
    }

    /// A packet of H.264 as a demuxer found it.
    ///
    /// @param at where its container begins to hold it: headers of the container may stand before its bytes
    /// @param bytes how many it has
    public record Packet(long at, int bytes) {}

    /// What the first slice of packets in files without an index says.
    ///
    /// @return one answer for each packet, empty where its bytes do not tell
    public static List<Optional<Coded>> look(Path file, List<Packet> packets) throws IOException {
        var found = new ArrayList<Optional<Coded>>(packets.size());
        try (FileChannel channel = FileChannel.open(file, StandardOpenOption.READ)) {
            for (Packet packet : packets) {
                long left = channel.size() - packet.at();
                found.add(
                        packet.at() < 0 || left < 16
                                ? Optional.empty()
                                : avc(MovIndex.read(channel, packet.at(), (int) Math.min(PEEKED_BYTES, left)), packet));
            }
        }
        return found;
    }

    private static Optional<Coded> avc(ByteBuffer in, Packet packet) {
        ByteBuffer stream = ofTransport(in);
        OptionalInt begins = lengths(stream, packet.bytes());
        if (begins.isPresent()) {
            stream.position(begins.getAsInt());
            return units(stream, 4, SlicePeek::avc);
        }
        for (int i = 0; i + 8 < stream.limit(); i++) {
            if (stream.get(i) == 0 && stream.get(i + 1) == 0 && stream.get(i + 2) == 1) {
                Optional<Coded> found = avc(stream.slice(i + 3, stream.limit() - i - 3));
                if (found.isPresent()) {
                    return found;
                }
            }
        }
        return Optional.empty();
    }

    /// Where a chain of units behind their lengths begins: the only place from which lengths lead to the
    /// packet's end.
    private static OptionalInt lengths(ByteBuffer in, int bytes) {
        int unproven = -1;
        for (int from = 0; from <= MOST_HEADER_BYTES && from + 5 < in.limit(); from++) {
            long at = 0;
            int units = 0;
            while (at < bytes && from + at + 5 <= in.limit() && units < MOST_UNITS) {
                int place = (int) (from + at);
                long length = in.getInt(place) & 0xFFFF_FFFFL;
                if (length == 0 || length > bytes - at - 4 || !isUnit(in.get(place + 4))) {
                    break;
                }
                at += 4 + length;
                units++;
            }
            if (units > 0 && at == bytes) {
                return OptionalInt.of(from);
            }
            boolean goesOn = units > 0 && at < bytes && from + at + 5 > in.limit();
            unproven = goesOn && unproven < 0 ? from : unproven;
        }
        return unproven < 0 ? OptionalInt.empty() : OptionalInt.of(unproven);
    }

    /// Whether a byte may head a unit of a picture: slices, messages, parameter sets, delimiter (Rec. ITU-T
    /// H.264, table 7-1).
    private static boolean isUnit(byte head) {
        int type = head & 0x1F;
        return head >= 0 && type >= 1 && type <= 12;
    }

    /// The bytes of one stream of a transport stream, from the first packet on (ISO/IEC 13818-1, 2.4.3);
    /// other bytes as they are.
    private static ByteBuffer ofTransport(ByteBuffer in) {
        int stride = TRANSPORT_STRIDES.stream()
                .filter(each ->
                        in.limit() > 2 * each && in.get(0) == SYNC && in.get(each) == SYNC && in.get(2 * each) == SYNC)
                .findFirst()
                .orElse(0);
        if (stride == 0) {
            return in;
        }
        int stream = in.getShort(1) & 0x1FFF;
        ByteBuffer out = ByteBuffer.allocate(in.limit());
        for (int at = 0; at + TRANSPORT_BYTES <= in.limit() && in.get(at) == SYNC; at += stride) {
            int control = in.get(at + 3) >> 4 & 3;
            int header = 4 + (control > 1 ? 1 + (in.get(at + 4) & 0xFF) : 0);
            if ((in.getShort(at + 1) & 0x1FFF) == stream && (control & 1) == 1 && header < TRANSPORT_BYTES) {
                out.put(in.slice(at + header, TRANSPORT_BYTES - header));
            }
        }
        return out.flip();
    }

    private static Optional<Coded> coded(MovTrack track, ByteBuffer bytes) {
        return switch (track.fourCc()) {
            case "avc1", "avc3", "ai55", "ai5q", "ai15", "ai1q" -> units(bytes, track.nalLengthBytes(), SlicePeek::avc);
            case "hvc1", "hev1" -> units(bytes, track.nalLengthBytes(), SlicePeek::hevc);
            case "m2v1", "mp2v", "mpg2", "hdv1", "hdv2", "hdv3" -> mpeg2(bytes);
            default -> Optional.empty();
        };
    }

    private interface Unit {
        Optional<Coded> read(ByteBuffer unit);
    }

    /// The answer of the first unit that is a slice.
    private static Optional<Coded> units(ByteBuffer in, int lengthBytes, Unit reader) {
        for (int i = 0; i < MOST_UNITS && lengthBytes > 0 && in.remaining() > lengthBytes + 2; i++) {
            long length = 0;
            for (int b = 0; b < lengthBytes; b++) {
                length = length << 8 | (in.get() & 0xFF);
            }
            Optional<Coded> found = reader.read(in.slice());
            if (found.isPresent() || length <= 0 || length >= in.remaining()) {
                return found;
            }
            in.position(in.position() + (int) length);
        }
        return Optional.empty();
    }

    private static Optional<Coded> avc(ByteBuffer unit) {
        int type = unit.get(0) & 0x1F;
        if (type != 1 && type != 2 && type != 5) {
            return Optional.empty();
        }
        var bits = new Bits(unit.slice(1, unit.limit() - 1));
        bits.exponential(); // first_mb_in_slice
        int slice = bits.exponential() % 5;
        return Optional.of(new Coded(slice == 2 || slice == 4, type == 5, false));
    }

    private static Optional<Coded> hevc(ByteBuffer unit) {
        int type = (unit.get(0) >> 1) & 0x3F;
        if (type > 31) {
            return Optional.empty();
        }
        boolean entry = type >= 16 && type <= 23;
        boolean needsBefore = type == 8 || type == 9; // RASL_N, RASL_R
        var bits = new Bits(unit.slice(2, unit.limit() - 2));
        boolean first = bits.next() == 1;
        if (entry) {
            bits.next(); // no_output_of_prior_pics_flag
        }
        bits.exponential(); // slice_pic_parameter_set_id
        // Extra header bits, which a parameter set may ask for, are taken as absent: no encoder in use writes
        // them.
        return Optional.of(new Coded(entry || (first && bits.exponential() == 2), entry, needsBefore));
    }

    /// Start codes: 00 is a picture, B8 the header of a group with its closed_gop flag.
    private static Optional<Coded> mpeg2(ByteBuffer in) {
        boolean open = false;
        for (int i = in.position(); i + 7 < in.limit(); i++) {
            if (in.get(i) != 0 || in.get(i + 1) != 0 || in.get(i + 2) != 1) {
                continue;
            }
            int code = in.get(i + 3) & 0xFF;
            if (code == 0xB8) {
                open = (in.get(i + 7) & 0x40) == 0; // closed_gop follows 25 bits of time code
            } else if (code == 0) {
                int kind = (in.get(i + 5) >> 3) & 7;
                return Optional.of(new Coded(kind == 1, kind == 1, open));
            }
        }
        return Optional.empty();
    }
}
