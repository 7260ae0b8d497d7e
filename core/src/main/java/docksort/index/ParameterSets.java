package docksort.index;

import docksort.media.Colour;
import docksort.media.Raster;
import docksort.media.Rational;
import docksort.media.ScanType;
import java.nio.ByteBuffer;
import java.util.Optional;

/// Reads what an H.264, HEVC or MPEG-2 stream states of its own picture in its parameter sets, whatever the
/// container says and without decoding.
///
/// Sources: Rec. ITU-T H.264 7.3.2.1.1, E.1.1 and table E-1; Rec. ITU-T H.265 7.3.2.2, 7.3.3, 7.3.7 and E.2.1;
/// Rec. ITU-T H.262 6.2.2 and 6.3.3; the records are those of ISO/IEC 14496-15, 5.3.3 and 8.3.3.
public final class ParameterSets {
    private static final int MOST_SETS = 64;

    private ParameterSets() {}

    /// @param codec the engine's name for it
    /// @param setUp a decoder configuration record, or parameter sets behind start codes
    /// @return empty where the codec has none, or they do not hold together
    public static Optional<PictureSays> of(String codec, ByteBuffer setUp) {
        ByteBuffer in = setUp.duplicate();
        boolean record = in.remaining() > 6 && in.get(in.position()) == 1;
        return switch (codec) {
            case "h264" -> record ? avcRecord(in) : behindStartCodes(in, codec);
            case "hevc" -> record ? hevcRecord(in) : behindStartCodes(in, codec);
            case "mpeg2video" -> mpeg2(in);
            default -> Optional.empty();
        };
    }

    private static Optional<PictureSays> avcRecord(ByteBuffer in) {
        in.position(in.position() + 5);
        int sets = in.get() & 0x1F;
        if (sets == 0 || in.remaining() < 2) {
            return Optional.empty();
        }
        return avc(unit(in));
    }

    private static Optional<PictureSays> hevcRecord(ByteBuffer in) {
        if (in.remaining() < 23) {
            return Optional.empty();
        }
        in.position(in.position() + 22);
        int arrays = in.get() & 0xFF;
        for (int i = 0; i < arrays && in.remaining() >= 3; i++) {
            int type = in.get() & 0x3F;
            int count = in.getShort() & 0xFFFF;
            for (int u = 0; u < Math.min(count, MOST_SETS) && in.remaining() >= 2; u++) {
                ByteBuffer unit = unit(in);
                if (type == HEVC_SPS) {
                    return hevc(unit);
                }
            }
        }
        return Optional.empty();
    }

    /// A unit behind its length of two bytes.
    private static ByteBuffer unit(ByteBuffer in) {
        int length = Math.min(in.getShort() & 0xFFFF, in.remaining());
        ByteBuffer unit = in.slice(in.position(), length);
        in.position(in.position() + length);
        return unit;
    }

    private static final int AVC_SPS = 7;
    private static final int HEVC_SPS = 33;

    private static Optional<PictureSays> behindStartCodes(ByteBuffer in, String codec) {
        for (int i = in.position(); i + 5 < in.limit(); i++) {
            if (in.get(i) != 0 || in.get(i + 1) != 0 || in.get(i + 2) != 1) {
                continue;
            }
            int head = in.get(i + 3) & 0xFF;
            // Only heads as encoders write them, so that chance bytes of another track are not taken for one.
            boolean avc = codec.equals("h264") && head >> 7 == 0 && head >> 5 != 0 && (head & 0x1F) == AVC_SPS;
            boolean hevc = codec.equals("hevc") && head == HEVC_SPS << 1 && in.get(i + 4) == 1;
            if (avc || hevc) {
                ByteBuffer unit = in.slice(i + 3, Math.min(1_024, in.limit() - i - 3));
                return avc ? avc(unit) : hevc(unit);
            }
        }
        return Optional.empty();
    }

    private static Optional<PictureSays> avc(ByteBuffer unit) {
        if (unit.remaining() < 5) {
            return Optional.empty();
        }
        unit.get();
        Bits bits = Bits.ofUnit(unit);
        int profile = bits.number(8);
        bits.skip(16);
        bits.exponential();
        int chroma = 1;
        if (hasChroma(profile)) {
            chroma = bits.exponential();
            bits.skip(chroma == 3 ? 1 : 0);
            bits.skipExponential(2);
            bits.skip(1);
            if (bits.flag()) {
                for (int i = 0; i < (chroma == 3 ? 12 : 8); i++) {
                    if (bits.flag()) {
                        skipAvcScaling(bits, i < 6 ? 16 : 64);
                    }
                }
            }
        }
        bits.exponential();
        switch (bits.exponential()) {
            case 0 -> bits.exponential();
            case 1 -> {
                bits.skip(1);
                bits.skipExponential(2);
                bits.skipExponential(Math.min(255, bits.exponential()));
            }
            default -> {}
        }
        bits.exponential();
        bits.skip(1);
        int width = (bits.exponential() + 1) * 16;
        int mapUnits = bits.exponential() + 1;
        boolean framesOnly = bits.flag();
        bits.skip(framesOnly ? 1 : 2);
        int lines = framesOnly ? 1 : 2;
        int height = mapUnits * 16 * lines;
        int across = chroma == 1 || chroma == 2 ? 2 : 1;
        int down = (chroma == 1 ? 2 : 1) * lines;
        Optional<Raster> raster = cropped(bits, width, height, across, down);
        return said(bits, raster, framesOnly ? ScanType.PROGRESSIVE : ScanType.UNKNOWN);
    }

    private static boolean hasChroma(int profile) {
        return switch (profile) {
            case 100, 110, 122, 244, 44, 83, 86, 118, 128, 138, 139, 134, 135 -> true;
            default -> false;
        };
    }

    private static void skipAvcScaling(Bits bits, int size) {
        int last = 8;
        int next = 8;
        for (int i = 0; i < size; i++) {
            if (next != 0) {
                next = (last + bits.signedExponential() + 256) & 0xFF;
            }
            last = next == 0 ? last : next;
        }
    }

    private static Optional<Raster> cropped(Bits bits, int width, int height, int across, int down) {
        if (!bits.flag()) {
            return PictureSays.raster(width, height);
        }
        long x = (long) across * (bits.exponential() + (long) bits.exponential());
        long y = (long) down * (bits.exponential() + (long) bits.exponential());
        return PictureSays.raster(width - x, height - y);
    }

    /// The usability information, which H.264 and HEVC share up to the colour.
    private static Optional<PictureSays> said(Bits bits, Optional<Raster> raster, ScanType scan) {
        Optional<Rational> aspect = Optional.empty();
        Colour colour = Colour.UNSTATED;
        if (bits.flag()) {
            aspect = bits.flag() ? statedAspect(bits) : Optional.empty();
            bits.skip(bits.flag() ? 1 : 0);
            if (bits.flag()) {
                bits.skip(3);
                String range = bits.flag() ? "pc" : "tv";
                colour = bits.flag()
                        ? PictureSays.colour(bits.number(8), bits.number(8), bits.number(8), range)
                        : PictureSays.colour(UNSTATED, UNSTATED, UNSTATED, range);
            }
        }
        return bits.isSpent() || raster.isEmpty()
                ? Optional.empty()
                : Optional.of(new PictureSays(raster, aspect, scan, colour));
    }

    private static final int UNSTATED = 2; // in each table of ISO/IEC 23091-2

    private static Optional<Rational> statedAspect(Bits bits) {
        int known = bits.number(8);
        if (known == 255) {
            return PictureSays.aspect(bits.number(16), bits.number(16));
        }
        return known >= 1 && known <= ASPECTS.length
                ? PictureSays.aspect(ASPECTS[known - 1][0], ASPECTS[known - 1][1])
                : Optional.empty();
    }

    private static final int[][] ASPECTS = {
        {1, 1}, {12, 11}, {10, 11}, {16, 11}, {40, 33}, {24, 11}, {20, 11}, {32, 11}, {80, 33}, {18, 11}, {15, 11},
        {64, 33}, {160, 99}, {4, 3}, {3, 2}, {2, 1}
    };

    private static Optional<PictureSays> hevc(ByteBuffer unit) {
        if (unit.remaining() < 15) {
            return Optional.empty();
        }
        unit.getShort();
        Bits bits = Bits.ofUnit(unit);
        bits.skip(4);
        int layers = bits.number(3);
        bits.skip(1 + 40);
        boolean progressive = bits.flag();
        boolean interlaced = bits.flag();
        bits.skip(46 + 8);
        var profiles = new boolean[layers];
        var levels = new boolean[layers];
        for (int i = 0; i < layers; i++) {
            profiles[i] = bits.flag();
            levels[i] = bits.flag();
        }
        bits.skip(layers > 0 ? 2 * (8 - layers) : 0);
        for (int i = 0; i < layers; i++) {
            bits.skip((profiles[i] ? 88 : 0) + (levels[i] ? 8 : 0));
        }
        bits.exponential();
        int chroma = bits.exponential();
        bits.skip(chroma == 3 ? 1 : 0);
        int width = bits.exponential();
        int height = bits.exponential();
        Optional<Raster> raster = cropped(bits, width, height, chroma == 1 || chroma == 2 ? 2 : 1, chroma == 1 ? 2 : 1);
        bits.skipExponential(2);
        int orderBits = bits.exponential() + 4;
        skipHevcTools(bits, layers, orderBits);
        return said(bits, raster, progressive && !interlaced ? ScanType.PROGRESSIVE : ScanType.UNKNOWN);
    }

    private static void skipHevcTools(Bits bits, int layers, int orderBits) {
        bits.skipExponential(3 * (bits.flag() ? layers + 1 : 1));
        bits.skipExponential(6);
        boolean scaled = bits.flag();
        boolean ownLists = scaled && bits.flag();
        if (ownLists) {
            skipHevcScaling(bits);
        }
        bits.skip(2);
        if (bits.flag()) {
            bits.skip(8);
            bits.skipExponential(2);
            bits.skip(1);
        }
        int sets = bits.exponential();
        int before = 0;
        for (int i = 0; i < Math.min(sets, MOST_SETS) && !bits.isSpent(); i++) {
            before = skipReferences(bits, i > 0, before);
        }
        if (bits.flag()) {
            int pictures = bits.exponential();
            for (int i = 0; i < Math.min(pictures, 32); i++) {
                bits.skip(orderBits + 1);
            }
        }
        bits.skip(2);
    }

    private static void skipHevcScaling(Bits bits) {
        for (int size = 0; size < 4; size++) {
            for (int matrix = 0; matrix < 6; matrix += size == 3 ? 3 : 1) {
                if (bits.flag()) {
                    bits.skipExponential((size > 1 ? 1 : 0) + Math.min(64, 1 << (4 + 2 * size)));
                } else {
                    bits.exponential();
                }
            }
        }
    }

    /// @param before how many pictures the set before this one has
    /// @return how many this one has
    private static int skipReferences(Bits bits, boolean mayLean, int before) {
        if (mayLean && bits.flag()) {
            bits.skip(1);
            bits.exponential();
            int count = 0;
            for (int i = 0; i <= before && !bits.isSpent(); i++) {
                boolean used = bits.flag();
                boolean kept = used || bits.flag();
                count += kept ? 1 : 0;
            }
            return count;
        }
        int earlier = Math.min(16, bits.exponential());
        int later = Math.min(16, bits.exponential());
        for (int i = 0; i < earlier + later; i++) {
            bits.exponential();
            bits.skip(1);
        }
        return earlier + later;
    }

    private static final int SEQUENCE_HEADER = 0xB3;
    private static final int EXTENSION = 0xB5;

    /// The sequence header and its extensions. Its aspect is that of the display.
    private static Optional<PictureSays> mpeg2(ByteBuffer in) {
        PictureSays says = PictureSays.NOTHING;
        for (int i = in.position(); i + 12 < in.limit(); i++) {
            if (in.get(i) != 0 || in.get(i + 1) != 0 || in.get(i + 2) != 1) {
                continue;
            }
            int code = in.get(i + 3) & 0xFF;
            var bits = new Bits(in.slice(i + 4, Math.min(32, in.limit() - i - 4)));
            if (code == SEQUENCE_HEADER) {
                Optional<Raster> raster = PictureSays.raster(bits.number(12), bits.number(12));
                says = new PictureSays(raster, mpeg2Aspect(bits.number(4), raster), ScanType.UNKNOWN, Colour.UNSTATED);
            } else if (code == EXTENSION && says.raster().isPresent()) {
                says = extended(says, bits);
            } else if (code == 0 && says.raster().isPresent()) {
                break; // the first picture: no more headers of the sequence
            }
        }
        return says.raster().isPresent() ? Optional.of(says) : Optional.empty();
    }

    private static Optional<Rational> mpeg2Aspect(int code, Optional<Raster> raster) {
        return switch (code) {
            case 1 -> Optional.of(Rational.of(1));
            case 2 -> PictureSays.aspect(Optional.of(new Rational(4, 3)), raster);
            case 3 -> PictureSays.aspect(Optional.of(new Rational(16, 9)), raster);
            case 4 -> PictureSays.aspect(Optional.of(new Rational(221, 100)), raster);
            default -> Optional.empty();
        };
    }

    private static PictureSays extended(PictureSays says, Bits bits) {
        int kind = bits.number(4);
        if (kind == 1) {
            bits.skip(8);
            ScanType scan = bits.flag() ? ScanType.PROGRESSIVE : ScanType.UNKNOWN;
            return new PictureSays(says.raster(), says.pixelAspect(), scan, says.colour());
        }
        if (kind == 2) {
            bits.skip(3);
            if (bits.flag()) {
                Colour colour = PictureSays.colour(bits.number(8), bits.number(8), bits.number(8), "");
                return new PictureSays(says.raster(), says.pixelAspect(), says.scan(), colour);
            }
        }
        return says;
    }
}
