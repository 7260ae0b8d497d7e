package docksort.media;

import java.util.Arrays;

/// Coded pictures as bytes: for each the step in ticks from the one before, then its size with the keyframe
/// flag in
/// the lowest bit, both as variable-length numbers of seven bits a byte (as in LEB128; the step folded so that
/// small
/// negative ones stay small).
final class FramePacking {
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
        return Arrays.copyOf(out, at);
    }

    static void unpack(byte[] packed, int count, FrameStructure.Visitor visitor) {
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
