package docksort.index;

import docksort.index.Boxes.Box;
import docksort.media.FrameStructure;
import docksort.media.Rational;
import docksort.media.ScanType;
import java.nio.ByteBuffer;
import java.util.List;
import java.util.Optional;

/// One picture track of a MOV or MP4 file: what its description states and its sample table.
///
/// @param fourCc the description's codec code, for instance `avc1`
/// @param width stored width the description states, in pixels
/// @param pixelAspect what the pixel aspect box states
/// @param colour primaries, transfer and matrix as ISO/IEC 23091-2 code points, where the colour box has them
/// @param scan what the field box states
/// @param nalLengthBytes bytes of the length before each unit of an H.264 or HEVC sample, 0 for other codecs
/// @param timeScale ticks a second
public record MovTrack(
        String fourCc,
        int width,
        int height,
        Optional<Rational> pixelAspect,
        Optional<ColourCodes> colour,
        Optional<ScanType> scan,
        int nalLengthBytes,
        long timeScale,
        SampleTable samples) {

    /// Code points of ISO/IEC 23091-2.
    public record ColourCodes(int primaries, int transfer, int matrix) {}

    /// The pictures as the index has them. Pictures outside the edit list are left out.
    ///
    /// @param leadingStandAlone see [FrameStructure#leadingStandAlone]
    public FrameStructure structure(boolean leadingStandAlone) {
        var builder = new FrameStructure.Builder(FrameStructure.Extent.WHOLE, new Rational(1, timeScale))
                .leadingStandAlone(leadingStandAlone);
        samples.shown((_, shown, key, bytes) -> builder.add(shown, key, bytes));
        return builder.build();
    }

    /// Hears of the shown pictures in decode order, by their sample number from 0.
    public void samplesShown(FrameStructure.Visitor visitor) {
        samples.shown(visitor);
    }

    /// Whether the codec says in each picture, or in each group, whether pictures shown before their keyframe
    /// need
    /// the group before. H.264 does not; there they are taken to.
    public boolean marksLeading() {
        return switch (fourCc) {
            case "hvc1", "hev1", "m2v1", "mp2v", "mpg2", "hdv1", "hdv2", "hdv3" -> true;
            default -> false;
        };
    }

    static long timeScale(Box header) {
        ByteBuffer in = header.read();
        int version = in.get();
        in.position(version == 1 ? 20 : 12);
        return in.getInt() & 0xFFFF_FFFFL;
    }

    /// @return empty for tracks without pictures
    static Optional<MovTrack> read(Box track, long movieScale, long fileBytes, List<String> complaints) {
        Optional<Box> media = track.child("mdia");
        boolean picture = media.flatMap(m -> m.child("hdlr"))
                .filter(handler -> handler.content().limit() >= 12)
                .map(handler -> {
                    ByteBuffer in = handler.read();
                    in.position(8);
                    return Boxes.type(in);
                })
                .filter("vide"::equals)
                .isPresent();
        Optional<Box> table = media.flatMap(m -> m.at("minf", "stbl"));
        Optional<Box> description = table.flatMap(t -> t.child("stsd")).flatMap(MovTrack::firstDescription);
        long scale =
                media.flatMap(m -> m.child("mdhd")).map(MovTrack::timeScale).orElse(0L);
        if (!picture || table.isEmpty() || description.isEmpty() || scale <= 0) {
            return Optional.empty();
        }
        Optional<Edit> edit = Edit.of(track, movieScale, scale);
        Optional<SampleTable> samples = SampleTable.read(table.get(), edit, fileBytes, complaints);
        return samples.flatMap(found -> described(description.get(), scale, found));
    }

    /// The one stretch of the media that is shown, in ticks of the media.
    ///
    /// @param from first tick, inclusive
    /// @param end first tick that is not shown any more
    record Edit(long from, long end) {
        /// The only edit that is not empty, or none; files with several are not read here.
        static Optional<Edit> of(Box track, long movieScale, long scale) {
            Optional<Box> list = track.at("edts", "elst");
            if (list.isEmpty() || movieScale <= 0) {
                return Optional.of(new Edit(0, Long.MAX_VALUE));
            }
            ByteBuffer in = list.get().read();
            int version = in.get();
            in.position(4);
            long count = in.getInt() & 0xFFFF_FFFFL;
            Optional<Edit> only = Optional.empty();
            for (long i = 0; i < count && in.remaining() >= (version == 1 ? 20 : 12); i++) {
                long duration = version == 1 ? in.getLong() : in.getInt() & 0xFFFF_FFFFL;
                long from = version == 1 ? in.getLong() : in.getInt();
                int rate = in.getInt();
                if (from == -1) {
                    continue;
                }
                if (only.isPresent() || rate != 0x10000 || from < 0 || duration < 0) {
                    return Optional.empty();
                }
                // The duration counts the movie's ticks, which may be coarser than a frame: round up, and take
                // none
                // for all.
                long length = duration == 0 || duration > Long.MAX_VALUE / scale / 2
                        ? Long.MAX_VALUE / 2
                        : Math.ceilDiv(duration * scale, movieScale);
                only = Optional.of(new Edit(from, from + length));
            }
            return only.isPresent() ? only : Optional.of(new Edit(0, Long.MAX_VALUE));
        }
    }

    private static Optional<Box> firstDescription(Box descriptions) {
        ByteBuffer in = descriptions.read();
        if (in.remaining() < 16) {
            return Optional.empty();
        }
        in.position(8);
        return Boxes.in(in.slice()).stream().findFirst();
    }

    private static final int PICTURE_DESCRIPTION_BYTES = 78; // before the extensions (ISO/IEC 14496-12, 12.1.3)

    private static Optional<MovTrack> described(Box description, long scale, SampleTable samples) {
        ByteBuffer in = description.read();
        if (in.remaining() < PICTURE_DESCRIPTION_BYTES) {
            return Optional.empty();
        }
        int width = in.getShort(24) & 0xFFFF;
        int height = in.getShort(26) & 0xFFFF;
        var extensions =
                new Box("extensions", in.slice(PICTURE_DESCRIPTION_BYTES, in.limit() - PICTURE_DESCRIPTION_BYTES));
        return Optional.of(new MovTrack(
                description.type(),
                width,
                height,
                extensions
                        .child("pasp")
                        .filter(box -> box.content().limit() >= 8)
                        .flatMap(MovTrack::aspect),
                extensions.child("colr").flatMap(MovTrack::colourCodes),
                extensions
                        .child("fiel")
                        .filter(box -> box.content().limit() >= 2)
                        .map(MovTrack::fields),
                nalLength(extensions),
                scale,
                samples));
    }

    private static Optional<Rational> aspect(Box box) {
        ByteBuffer in = box.read();
        long horizontal = in.getInt() & 0xFFFF_FFFFL;
        long vertical = in.getInt() & 0xFFFF_FFFFL;
        return horizontal > 0 && vertical > 0 ? Optional.of(new Rational(horizontal, vertical)) : Optional.empty();
    }

    private static Optional<ColourCodes> colourCodes(Box box) {
        ByteBuffer in = box.read();
        if (in.remaining() < 10) {
            return Optional.empty();
        }
        String kind = Boxes.type(in);
        return kind.equals("nclx") || kind.equals("nclc")
                ? Optional.of(new ColourCodes(in.getShort(), in.getShort(), in.getShort()))
                : Optional.empty();
    }

    /// One or two fields, and their order: 1 and 6 show the top field first, 9 and 14 the bottom one (QuickTime
    /// File Format, video sample description extensions).
    private static ScanType fields(Box box) {
        int count = box.content().get(0);
        return switch (count == 1 ? -1 : box.content().get(1)) {
            case -1 -> ScanType.PROGRESSIVE;
            case 1, 9 -> ScanType.TOP_FIELD_FIRST;
            case 6, 14 -> ScanType.BOTTOM_FIELD_FIRST;
            default -> ScanType.UNKNOWN;
        };
    }

    private static int nalLength(Box extensions) {
        Optional<Integer> avc = extensions
                .child("avcC")
                .filter(box -> box.content().limit() > 4)
                .map(box -> (box.content().get(4) & 3) + 1);
        return avc.or(() -> extensions
                        .child("hvcC")
                        .filter(box -> box.content().limit() > 21)
                        .map(box -> (box.content().get(21) & 3) + 1))
                .orElse(0);
    }
}
