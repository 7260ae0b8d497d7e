package docksort.engine;

import docksort.index.ContainerSays.Gap;
import docksort.index.MovIndex;
import docksort.index.MovTrack;
import docksort.index.ParameterSets;
import docksort.index.PictureSays;
import docksort.media.Hdr;
import docksort.media.Raster;
import docksort.media.Rational;
import docksort.media.ScanType;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/// What ffprobe is asked about a file, as its arguments.
final class ProbeQuestions {
    private static final int PACKETS_OF_WINDOW = 1_500;
    private static final double MOST_SECONDS_OF_GAP = 120;
    private static final int MOST_PACKETS_FOR_ONE_PICTURE = 24; // one of each track, because sound may come first
    private static final String OF_PICTURES =
            "frame=stream_index,width,height,sample_aspect_ratio,interlaced_frame,top_field_first,"
                    + "color_range,color_space,color_primaries,color_transfer:frame_side_data";
    static final int PICTURES_DECODED = 250;
    private static final long DEAR_PIXELS = 2_400_000; // beyond HD one picture costs more than everything else together

    private ProbeQuestions() {}

    static List<String> packets(int most) {
        return List.of("-show_entries", "packet=stream_index,pts,dts,size,flags,pos", "-read_intervals", "%+#" + most);
    }

    /// The index has the packets already. One picture is decoded where the stream's parameter sets leave
    /// open what it says of itself, unless codec and raster make that dear.
    static List<String> onePictureOf(MovIndex index) {
        return isPictureNeeded(index.tracks().getFirst())
                ? List.of(
                        "-show_entries",
                        OF_PICTURES,
                        "-read_intervals",
                        "%+#" + Math.clamp(index.trackCount(), 1, MOST_PACKETS_FOR_ONE_PICTURE))
                : List.of();
    }

    /// What decoded pictures say where the container leaves something open.
    static List<String> firstPictures() {
        return List.of(
                "-select_streams",
                "V:0",
                "-show_entries",
                OF_PICTURES,
                "-read_intervals",
                "%+#" + MOST_PACKETS_FOR_ONE_PICTURE);
    }

    private static boolean isPictureNeeded(MovTrack track) {
        Optional<PictureSays> sets = ParameterSets.of(track.codec(), track.setUp());
        if (sets.isPresent()) {
            // Fields, and the display that a picture of high dynamic range was graded on, stand in messages
            // beside the pictures.
            return sets.get().scan() == ScanType.UNKNOWN
                    || !Hdr.kind(sets.get().colour()).isEmpty();
        }
        long pixels = track.says().raster().map(Raster::pixels).orElse(0L);
        return pixels <= DEAR_PIXELS || track.isCheapToDecode();
    }

    static List<String> decodedWindow() {
        return List.of(
                "-select_streams",
                "V:0",
                "-show_entries",
                "frame=pict_type,key_frame,pkt_size",
                "-read_intervals",
                "%+#" + PICTURES_DECODED);
    }

    /// Three windows, so that a long recording is not judged by its first minute. Where the container
    /// lists its keyframes, one of them is the widest gap between two.
    static List<String> windows(Rational seconds, Optional<Gap> widest) {
        int each = PACKETS_OF_WINDOW / 3;
        double length = seconds.toDouble();
        String later = "";
        if (length >= 120) {
            String packets = "+#" + each;
            double gapAt = widest.map(Gap::fromSeconds).orElse(length * 2 / 3);
            double other = Math.abs(gapAt - length / 3) < length / 6 ? length * 2 / 3 : length / 3;
            String gap = widest.map(
                            g -> String.format(Locale.ROOT, "+%.3f", Math.min(g.seconds(), MOST_SECONDS_OF_GAP) + 1))
                    .orElse(packets);
            String first = gapAt < other ? at(gapAt, gap) : at(other, packets);
            later = first + (gapAt < other ? at(other, packets) : at(gapAt, gap));
        }
        return List.of(
                "-select_streams",
                "V:0",
                "-show_entries",
                "packet=stream_index,pts,dts,size,flags,pos",
                "-read_intervals",
                "%+#" + (later.isEmpty() ? PACKETS_OF_WINDOW : each) + later);
    }

    private static String at(double seconds, String length) {
        return String.format(Locale.ROOT, ",%.3f%%%s", seconds, length);
    }
}
