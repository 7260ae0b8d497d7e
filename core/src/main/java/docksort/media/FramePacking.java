package docksort.media;

import java.util.Arrays;
import java.util.zip.DataFormatException;
import java.util.zip.Deflater;
import java.util.zip.Inflater;

/// Coded pictures as bytes: for each the step in ticks from the one before, then its size with the keyframe flag in
/// the lowest bit, both as variable-length numbers of seven bits a byte (as in LEB128; the step folded so that
/// small negative ones stay small), all of it deflated (RFC 1951), since steps and sizes repeat.
final class FramePacking {
    private static final int MOST_BYTES = 15; // of one picture: 64 and 32 bits, seven a byte

    private FramePacking() {}

    static byte[] pack(long[] shown, int[] sizes, int count) {
        byte[] out = new byte[count * 5 + 16];
        int at = 0;
        long before = 0;
        for (int i = 0; i < count; i++) {
            if (at + 16 > out.length) {
                out = Arrays.copyOf(out, out.length * 2);
            }
            long step = shown[i] - before;
            at = put(out, at, (step << 1) ^ (step >> 63));
            at = put(out, at, sizes[i] & 0xFFFF_FFFFL);
            before = shown[i];
        }
        return deflated(out, at);
    }

    private static byte[] deflated(byte[] bytes, int length) {
        try (var deflater = new Deflater(Deflater.DEFAULT_COMPRESSION, true)) {
            deflater.setInput(bytes, 0, length);
            deflater.finish();
            byte[] out = new byte[length + 64]; // what cannot be made smaller grows by a few bytes
            int at = 0;
            while (!deflater.finished()) {
                if (at == out.length) {
                    out = Arrays.copyOf(out, out.length * 2);
                }
                at += deflater.deflate(out, at, out.length - at);
            }
            return Arrays.copyOf(out, at);
        }
    }

    /// The bytes of at least so many pictures, where there are as many.
    private static byte[] inflated(byte[] packed, int count) throws DataFormatException {
        try (var inflater = new Inflater(true)) {
            inflater.setInput(packed);
            byte[] out = new byte[count * 5 + 16];
            int at = 0;
            while (!inflater.finished() && at < (long) count * MOST_BYTES) {
                if (at == out.length) {
                    out = Arrays.copyOf(out, out.length * 2);
                }
                int more = inflater.inflate(out, at, out.length - at);
                if (more == 0 && !inflater.finished()) {
                    throw new DataFormatException("the end is missing");
                }
                at += more;
            }
            return Arrays.copyOf(out, at);
        }
    }

    /// @param count how many pictures from the first on
    /// @throws IllegalStateException when the bytes are not what [#pack] gave for as many pictures or more
    static void unpack(byte[] deflated, int count, FrameStructure.Visitor visitor) {
        byte[] packed;
        try {
            packed = inflated(deflated, count);
        } catch (DataFormatException e) {
            throw new IllegalStateException("the kept frame structure is damaged", e);
        }
        int at = 0;
        long shown = 0;
        for (int i = 0; i < count; i++) {
            long step = 0;
            for (int shift = 0; ; shift += 7) {
                byte next = packed[at++];
                step |= (long) (next & 0x7F) << shift;
                if (next >= 0) {
                    break;
                }
            }
            long size = 0;
            for (int shift = 0; ; shift += 7) {
                byte next = packed[at++];
                size |= (long) (next & 0x7F) << shift;
                if (next >= 0) {
                    break;
                }
            }
            shown += (step >>> 1) ^ -(step & 1);
            visitor.frame(i, shown, (size & 1) == 1, (int) (size >>> 1));
        }
    }

    private static int put(byte[] out, int from, long value) {
        int at = from;
        long rest = value;
        while ((rest & ~0x7FL) != 0) {
            out[at++] = (byte) ((rest & 0x7F) | 0x80);
            rest >>>= 7;
        }
        out[at++] = (byte) rest;
        return at;
    }
}
