package docksort.catalogue;

import docksort.media.CodedFrame;
import docksort.media.FrameStructure;
import docksort.media.Rational;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.DataInputStream;
import java.io.DataOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.ArrayList;
import java.util.zip.DeflaterOutputStream;
import java.util.zip.InflaterInputStream;

/// Coded frames as deflated bytes: extent, time base, count, then for each frame the step in ticks, and its
/// size with the keyframe flag in the lowest bit. A frame costs about three bytes.
final class StructureBytes {
    private StructureBytes() {}

    static byte[] write(FrameStructure structure) {
        var bytes = new ByteArrayOutputStream();
        try (var out = new DataOutputStream(new DeflaterOutputStream(bytes))) {
            out.writeBoolean(structure.extent() == FrameStructure.Extent.WHOLE);
            out.writeLong(structure.timeBase().numerator());
            out.writeLong(structure.timeBase().denominator());
            out.writeInt(structure.frames().size());
            long before = 0;
            for (CodedFrame frame : structure.frames()) {
                writeVar(out, zigzag(frame.shownAtTicks() - before));
                writeVar(out, ((long) frame.bytes() << 1) | (frame.key() ? 1 : 0));
                before = frame.shownAtTicks();
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        return bytes.toByteArray();
    }

    static FrameStructure read(byte[] bytes) {
        try (var in = new DataInputStream(new InflaterInputStream(new ByteArrayInputStream(bytes)))) {
            var extent = in.readBoolean() ? FrameStructure.Extent.WHOLE : FrameStructure.Extent.STRETCH;
            var timeBase = new Rational(in.readLong(), in.readLong());
            int count = in.readInt();
            var frames = new ArrayList<CodedFrame>(Math.min(count, 100_000));
            long at = 0;
            for (int i = 0; i < count; i++) {
                at += unzigzag(readVar(in));
                long size = readVar(in);
                frames.add(new CodedFrame(at, (size & 1) == 1, (int) (size >>> 1)));
            }
            return new FrameStructure(frames, extent, timeBase);
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
