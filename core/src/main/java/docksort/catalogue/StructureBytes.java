package docksort.catalogue;

import docksort.media.FrameStructure;
import docksort.media.Rational;
import docksort.media.ScrubCost;
import docksort.media.StructureDigest;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.DataInputStream;
import java.io.DataOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.HashSet;
import java.util.zip.InflaterInputStream;

/// A frame structure as bytes: form, flags, time base, where stretches start, how many pictures, what is
/// derived from them, then the pictures as they are packed in memory. So the facts of a clip are read without a
/// look at its pictures.
///
/// The form of the first catalogues held the pictures alone, all of it in a zlib stream (RFC 1950), which
/// begins with another number. It is read still, and never written.
final class StructureBytes {
    private static final int FORM = 2;
    private static final int WHOLE = 1;
    private static final int LEADING_STAND_ALONE = 2;

    private StructureBytes() {}

    static byte[] write(FrameStructure structure) {
        var bytes = new ByteArrayOutputStream();
        try (var out = new DataOutputStream(bytes)) {
            out.writeByte(FORM);
            out.writeByte((structure.extent() == FrameStructure.Extent.WHOLE ? WHOLE : 0)
                    | (structure.leadingStandAlone() ? LEADING_STAND_ALONE : 0));
            write(out, structure.timeBase());
            int[] starts = structure.stretchStarts();
            out.writeInt(starts.length);
            for (int start : starts) {
                out.writeInt(start);
            }
            out.writeInt(structure.count());
            write(out, structure.digest());
            byte[] packed = structure.packed();
            out.writeInt(packed.length);
            out.write(packed);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        return bytes.toByteArray();
    }

    private static void write(DataOutputStream out, StructureDigest digest) throws IOException {
        out.writeInt(digest.keys());
        out.writeLong(digest.bytes());
        write(out, digest.interval().meanFrames());
        out.writeLong(digest.interval().worstFrames());
        write(out, digest.interval().meanSeconds());
        write(out, digest.interval().worstSeconds());
        out.writeInt(digest.longestTwoWayRun());
        out.writeInt(digest.reorderDepth());
        out.writeUTF(digest.grouping().name());
        write(out, digest.cost().mean());
        out.writeLong(digest.cost().worst());
    }

    private static void write(DataOutputStream out, Rational value) throws IOException {
        out.writeLong(value.numerator());
        out.writeLong(value.denominator());
    }

    static FrameStructure read(byte[] bytes) {
        try (var in = new DataInputStream(new ByteArrayInputStream(bytes))) {
            if (in.readUnsignedByte() != FORM) {
                return readFirstForm(bytes);
            }
            int flags = in.readUnsignedByte();
            Rational timeBase = rational(in);
            int[] starts = new int[length(in)];
            for (int i = 0; i < starts.length; i++) {
                starts[i] = in.readInt();
            }
            int count = in.readInt();
            StructureDigest digest = digest(in);
            byte[] packed = new byte[length(in)];
            in.readFully(packed);
            return new FrameStructure(
                    packed, count, extent(flags), timeBase, starts, (flags & LEADING_STAND_ALONE) != 0, digest);
        } catch (IOException | IllegalArgumentException e) {
            throw new IllegalStateException("the catalogue's frame structure is damaged", e);
        }
    }

    private static int length(DataInputStream in) throws IOException {
        int length = in.readInt();
        if (length < 0 || length > in.available()) {
            throw new IOException("a length of " + length + " where " + in.available() + " bytes are left");
        }
        return length;
    }

    private static StructureDigest digest(DataInputStream in) throws IOException {
        return new StructureDigest(
                in.readInt(),
                in.readLong(),
                new FrameStructure.KeyframeInterval(rational(in), in.readLong(), rational(in), rational(in)),
                in.readInt(),
                in.readInt(),
                FrameStructure.Grouping.valueOf(in.readUTF()),
                new ScrubCost(rational(in), in.readLong()));
    }

    private static Rational rational(DataInputStream in) throws IOException {
        return new Rational(in.readLong(), in.readLong());
    }

    private static FrameStructure.Extent extent(int flags) {
        return (flags & WHOLE) != 0 ? FrameStructure.Extent.WHOLE : FrameStructure.Extent.STRETCH;
    }

    private static FrameStructure readFirstForm(byte[] bytes) throws IOException {
        try (var in = new DataInputStream(new InflaterInputStream(new ByteArrayInputStream(bytes)))) {
            int flags = in.readUnsignedByte();
            var builder = new FrameStructure.Builder(extent(flags), rational(in))
                    .leadingStandAlone((flags & LEADING_STAND_ALONE) != 0);
            var starts = new HashSet<Integer>();
            for (long left = readVar(in); left > 0; left--) {
                starts.add((int) readVar(in));
            }
            int count = in.readInt();
            long at = 0;
            for (int i = 0; i < count; i++) {
                if (starts.contains(i)) {
                    builder.breakHere();
                }
                long step = readVar(in);
                at += (step >>> 1) ^ -(step & 1);
                long size = readVar(in);
                builder.add(at, (size & 1) == 1, (int) (size >>> 1));
            }
            return builder.build();
        }
    }

    private static long readVar(DataInputStream in) throws IOException {
        long value = 0;
        for (int shift = 0; shift < 64; shift += 7) {
            int next = in.readUnsignedByte();
            value |= (long) (next & 0x7F) << shift;
            if ((next & 0x80) == 0) {
                return value;
            }
        }
        throw new IOException("a number is too long");
    }
}
