package docksort.catalogue;

import docksort.media.FrameStructure;
import docksort.media.Rational;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.DataInputStream;
import java.io.DataOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.zip.DeflaterOutputStream;
import java.util.zip.InflaterInputStream;

/// Coded frames as deflated bytes: flags, time base, where stretches start, count, then for each frame the step
/// in
/// ticks, and its size with the keyframe flag in the lowest bit. A frame costs about three bytes.
final class StructureBytes {
    private static final int WHOLE = 1;
    private static final int LEADING_STAND_ALONE = 2;

    private StructureBytes() {}

    static byte[] write(FrameStructure structure) {
        var bytes = new ByteArrayOutputStream();
        try (var out = new DataOutputStream(new DeflaterOutputStream(bytes))) {
            out.writeByte((structure.extent() == FrameStructure.Extent.WHOLE ? WHOLE : 0)
                    | (structure.leadingStandAlone() ? LEADING_STAND_ALONE : 0));
            out.writeLong(structure.timeBase().numerator());
            out.writeLong(structure.timeBase().denominator());
            int[] starts = structure.stretchStarts();
            writeVar(out, starts.length);
            for (int start : starts) {
                writeVar(out, start);
            }
            out.writeInt(structure.count());
            var before = new long[1];
            var failed = new IOException[1];
            structure.forEach((_, shown, key, size) -> {
                try {
                    writeVar(out, zigzag(shown - before[0]));
                    writeVar(out, ((long) size << 1) | (key ? 1 : 0));
                } catch (IOException e) {
                    failed[0] = e;
                }
                before[0] = shown;
            });
            if (failed[0] != null) {
                throw failed[0];
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        return bytes.toByteArray();
    }

    static FrameStructure read(byte[] bytes) {
        try (var in = new DataInputStream(new InflaterInputStream(new ByteArrayInputStream(bytes)))) {
            int flags = in.readUnsignedByte();
            var extent = (flags & WHOLE) != 0 ? FrameStructure.Extent.WHOLE : FrameStructure.Extent.STRETCH;
            var builder = new FrameStructure.Builder(extent, new Rational(in.readLong(), in.readLong()))
                    .leadingStandAlone((flags & LEADING_STAND_ALONE) != 0);
            var starts = new java.util.HashSet<Integer>();
            for (long left = readVar(in); left > 0; left--) {
                starts.add((int) readVar(in));
            }
            int count = in.readInt();
            long at = 0;
            for (int i = 0; i < count; i++) {
                if (starts.contains(i)) {
                    builder.breakHere();
                }
                at += unzigzag(readVar(in));
                long size = readVar(in);
                builder.add(at, (size & 1) == 1, (int) (size >>> 1));
            }
            return builder.build();
        } catch (IOException e) {
            throw new UncheckedIOException("the catalogue's frame structure is damaged", e);
        }
    }

    private static long zigzag(long value) {
        return (value << 1) ^ (value >> 63);
    }

    private static long unzigzag(long value) {
        return (value >>> 1) ^ -(value & 1);
    }

    private static void writeVar(DataOutputStream out, long value) throws IOException {
        long rest = value;
        while ((rest & ~0x7FL) != 0) {
            out.writeByte((int) ((rest & 0x7F) | 0x80));
            rest >>>= 7;
        }
        out.writeByte((int) rest);
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
