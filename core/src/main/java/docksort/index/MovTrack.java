package docksort.index;

import docksort.index.Boxes.Box;
import docksort.media.Colour;
import docksort.media.FrameStructure;
import docksort.media.Rational;
import docksort.media.ScanType;
import java.nio.ByteBuffer;
import java.util.List;
import java.util.Optional;

/// One picture track of a MOV or MP4 file: what its description states and its sample table.
///
/// @param fourCc the description's codec code, for instance `avc1`
/// @param says what the description states
/// @param setUp the record that sets up an H.264 or HEVC decoder, empty for other codecs
/// @param nalLengthBytes bytes of the length before each unit of an H.264 or HEVC sample, 0 for other codecs
/// @param timeScale ticks a second
public record MovTrack(
        String fourCc, PictureSays says, ByteBuffer setUp, int nalLengthBytes, long timeScale, Samples samples) {

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

    /// The engine's name of a codec whose parameter sets can be read, empty for others.
    public String codec() {
        return switch (fourCc) {
            case "avc1", "avc3", "ai55", "ai5q", "ai15", "ai1q" -> "h264";
            case "hvc1", "hev1" -> "hevc";
            default -> "";
        };
    }

    /// Whether one picture costs little whatever its raster, because the codec is all-intra and cut in slices.
    public boolean isCheapToDecode() {
        return fourCc.startsWith("ap") || fourCc.startsWith("AV");
    }

    /// Whether the codec says in each picture, or in each group, whether pictures shown before their keyframe need
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
        Optional<Box> table = track.at("mdia", "minf", "stbl");
        Optional<Edit> edit = Edit.of(track, movieScale, mediaScale(track));
        return isPicture(track) && table.isPresent()
                ? SampleTable.read(table.get(), edit, fileBytes, complaints)
                        .flatMap(samples -> described(track, samples))
                : Optional.empty();
    }

    /// An empty table for the fragments of a picture track, empty for other tracks and for those of which the
    /// header itself lists pictures.
    static Optional<FragmentTable> fragments(Box track, Box movieExtends, long movieScale) {
        boolean listsNone = track.at("mdia", "minf", "stbl", "stsz")
                .filter(sizes ->
                        sizes.content().limit() >= 12 && sizes.content().getInt(8) == 0)
                .isPresent();
        Optional<Edit> edit = Edit.of(track, movieScale, mediaScale(track));
        Optional<Integer> id = track.child("tkhd").map(MovTrack::trackId);
        if (!isPicture(track) || !listsNone || edit.isEmpty() || id.isEmpty()) {
            return Optional.empty();
        }
        return movieExtends.children().stream()
                .filter(box -> box.type().equals("trex") && box.content().limit() >= 24)
                .map(box -> new FragmentTable(box, edit.get()))
                .filter(fragments -> fragments.trackId() == id.get())
                .findFirst();
    }

    private static int trackId(Box header) {
        return header.content().getInt(header.content().get(0) == 1 ? 20 : 12);
    }

    private static long mediaScale(Box track) {
        return track.at("mdia", "mdhd").map(MovTrack::timeScale).orElse(0L);
    }

    private static boolean isPicture(Box track) {
        return track.at("mdia", "hdlr")
                        .filter(handler -> handler.content().limit() >= 12)
                        .map(handler -> {
                            ByteBuffer in = handler.read();
                            in.position(8);
                            return Boxes.type(in);
                        })
                        .filter("vide"::equals)
                        .isPresent()
                && mediaScale(track) > 0;
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
                // The duration counts the movie's ticks, which may be coarser than a frame: round up, and take none
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

    static Optional<MovTrack> described(Box track, Samples samples) {
        Optional<Box> first = track.at("mdia", "minf", "stbl", "stsd").flatMap(MovTrack::firstDescription);
        if (first.isEmpty()) {
            return Optional.empty();
        }
        Box description = first.get();
        ByteBuffer in = description.read();
        if (in.remaining() < PICTURE_DESCRIPTION_BYTES) {
            return Optional.empty();
        }
        int width = in.getShort(24) & 0xFFFF;
        int height = in.getShort(26) & 0xFFFF;
        var extensions =
                new Box("extensions", in.slice(PICTURE_DESCRIPTION_BYTES, in.limit() - PICTURE_DESCRIPTION_BYTES));
        var says = new PictureSays(
                PictureSays.raster(width, height),
                extensions
                        .child("pasp")
                        .filter(box -> box.content().limit() >= 8)
                        .flatMap(MovTrack::aspect),
                extensions
                        .child("fiel")
                        .filter(box -> box.content().limit() >= 2)
                        .map(MovTrack::fields)
                        .orElse(ScanType.UNKNOWN),
                extensions.child("colr").map(MovTrack::colour).orElse(Colour.UNSTATED));
        ByteBuffer setUp = extensions
                .child("avcC")
                .or(() -> extensions.child("hvcC"))
                .map(Box::read)
                .orElse(ByteBuffer.allocate(0));
        return Optional.of(
                new MovTrack(description.type(), says, setUp, nalLength(extensions), mediaScale(track), samples));
    }

    private static Optional<Rational> aspect(Box box) {
        ByteBuffer in = box.read();
        long horizontal = in.getInt() & 0xFFFF_FFFFL;
        long vertical = in.getInt() & 0xFFFF_FFFFL;
        return PictureSays.aspect(horizontal, vertical);
    }

    private static Colour colour(Box box) {
        ByteBuffer in = box.read();
        if (in.remaining() < 10) {
            return Colour.UNSTATED;
        }
        String kind = Boxes.type(in);
        return kind.equals("nclx") || kind.equals("nclc")
                ? PictureSays.colour(in.getShort(), in.getShort(), in.getShort(), "")
                : Colour.UNSTATED;
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
