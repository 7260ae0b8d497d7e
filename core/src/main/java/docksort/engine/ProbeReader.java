package docksort.engine;

import com.fasterxml.jackson.databind.JsonNode;
import docksort.index.SlicePeek;
import docksort.index.SlicePeek.Coded;
import docksort.media.ClipFacts;
import docksort.media.ClipSource;
import docksort.media.Codec;
import docksort.media.FrameRate;
import docksort.media.FrameStructure;
import docksort.media.FrameStructure.Extent;
import docksort.media.Frames;
import docksort.media.Rational;
import docksort.media.ScanType;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/// Reads a clip by what ffprobe answers, one question after the other: first its header and some packets,
/// then, where that leaves something open, more packets, decoded pictures or an index.
final class ProbeReader {
    /// Codecs whose decoder says of each picture whether it has fields.
    private static final Set<String> WITH_FIELDS = Set.of(
            "dvvideo",
            "mjpeg",
            "mpeg4",
            "mpeg1video",
            "mpeg2video",
            "h264",
            "hevc",
            "dnxhd",
            "prores",
            "vc1",
            "wmv3",
            "ffv1");

    private final PixelFormats pixelFormats;
    private ProbeAnswer answer = ProbeAnswer.NONE;
    private ProbePackets packets = ProbePackets.of(ProbeAnswer.NONE, ProbeAnswer.NONE, -1, Extent.STRETCH);
    private FrameStructure structure = FrameStructure.NONE;
    private int packetCount;
    private boolean whole;
    private boolean orderByDecoding;
    private boolean fromFirst;
    private boolean doubtful;
    private long missingAtEnd;
    private boolean clockRestarts;
    private Optional<FirstPicture> seen = Optional.empty();

    /// @param pixelFormats all that the engine knows
    ProbeReader(PixelFormats pixelFormats) {
        this.pixelFormats = pixelFormats;
    }

    void read(InputStream from) throws IOException {
        answer = ProbeAnswer.read(from);
        takePackets(answer, answer.videoIndex(), Extent.STRETCH);
    }

    private void takePackets(ProbeAnswer holder, int videoIndex, Extent extent) {
        packets = ProbePackets.of(answer, holder, videoIndex, extent);
        structure = packets.structure();
        packetCount = packets.count();
        clockRestarts |= packets.clockRestarts();
    }

    boolean hasStreams() {
        return answer.hasStreams();
    }

    int packetCount() {
        return packetCount;
    }

    /// Whether the codec leaves open how frames depend on each other, so that a short window proves little.
    boolean needsLongerWindow() {
        return answer.videoStream()
                .map(v -> !ProbeStream.codec(v).isIntraByNature())
                .orElse(false);
    }

    /// Whether the container times only decoding, so that reordering has to be seen in decoded pictures.
    /// Some containers give such times as if they were those of showing; the decoder knows of reordering
    /// all the same.
    boolean needsShownOrder() {
        return needsLongerWindow()
                && (packets.lacksShownTimes() || (answer.hasTwoWay() && structure.reorderDepth() == 0 && !isShort()));
    }

    private boolean isShort() {
        return structure.count() < 3;
    }

    void setStructure(FrameStructure found) {
        structure = found;
        whole = found.extent() == Extent.WHOLE;
    }

    /// Jumps may land where decoding cannot begin.
    void decodeFromFirst() {
        fromFirst = true;
    }

    /// Holds the marks of keyframes against the pictures themselves; see [StreamStructure] for files with
    /// an index.
    void checkKeyframes(Path file, Disagreements disagreements) throws IOException {
        // A packet of a program stream may begin within the picture before.
        boolean can =
                answer.codec().filter(codec -> codec.name().equals("h264")).isPresent()
                        && !answer.format().equals("mpeg");
        if (!can || packets.keyPackets().isEmpty()) {
            return;
        }
        List<Optional<Coded>> looked = SlicePeek.look(
                file,
                packets.keyPackets().stream()
                        .map(ProbePackets.KeyPacket::packet)
                        .toList());
        List<Integer> pictures = packets.keyPackets().stream()
                .map(ProbePackets.KeyPacket::picture)
                .toList();
        StreamStructure.withoutRecoveryPoints(structure, pictures, looked, disagreements)
                .ifPresent(without -> {
                    structure = without;
                    fromFirst = true;
                });
    }

    /// The index lists pictures that are not there.
    void doubtCount(long behindTheEnd) {
        doubtful = true;
        missingAtEnd = behindTheEnd;
    }

    /// What decoded pictures say of themselves.
    void takePicture(ProbeReader decoded) {
        seen = FirstPicture.of(decoded.answer.root(), answer.videoIndex());
    }

    /// Whether a picture has to be decoded to learn of its fields, or its time: what a container says of
    /// them is often what its writer's maker once chose for all.
    boolean lacksPicture(StatedPicture said) {
        return answer.videoStream()
                .filter(stream -> WITH_FIELDS.contains(ProbeStream.codec(stream).name()))
                .filter(stream ->
                        FirstPicture.of(answer.root(), answer.videoIndex()).isEmpty())
                .filter(stream -> lacksGroupTimecode(stream)
                        || said.stream(ProbeStream.codec(stream).name(), ProbeStream.raster(stream), Optional.empty())
                                        .scan()
                                == ScanType.UNKNOWN)
                .isPresent();
    }

    private boolean lacksGroupTimecode(JsonNode stream) {
        return ProbeStream.codec(stream).name().equals("mpeg2video")
                && answer.tag("timecode").isEmpty();
    }

    boolean isWhole() {
        return whole;
    }

    /// The packets that were read are all there are.
    void setWhole() {
        whole = true;
        takePackets(answer, answer.videoIndex(), Extent.WHOLE);
    }

    void replacePackets(ProbeReader other) {
        takePackets(other.answer, -1, Extent.STRETCH);
        packetCount = other.packetCount;
    }

    /// Takes the order of pictures from a decoded window.
    ///
    /// @param window how many packets were asked for
    void takeShownOrder(ProbeReader decoded, int window) {
        var kinds = new StringBuilder();
        JsonNode pictures = decoded.answer.root().path("frames");
        var keys = new boolean[pictures.size()];
        var sizes = new int[pictures.size()];
        for (JsonNode picture : pictures) {
            int i = kinds.length();
            keys[i] = picture.path("key_frame").asInt() == 1;
            sizes[i] = Math.max(0, picture.path("pkt_size").asInt(0));
            String kind = picture.path("pict_type").asText("?");
            kinds.append(kind.isEmpty() ? '?' : kind.charAt(0));
        }
        if (kinds.isEmpty()) {
            return;
        }
        Rational step = answer.videoStream()
                .flatMap(ProbeStream::usualRate)
                .map(rate -> Rational.of(1).dividedBy(rate.exact()))
                .orElse(new Rational(1, 25));
        Extent extent = kinds.length() < window ? Extent.WHOLE : Extent.STRETCH;
        FrameStructure shown = StreamStructure.fromShownOrder(kinds.toString(), keys, sizes, step, extent);
        orderByDecoding = shown.longestTwoWayRun() > 0;
        if (orderByDecoding) {
            setStructure(shown); // otherwise pictures are shown as they are decoded, and packets tell more
        }
    }

    /// Whether decoding told an order that time stamps do not.
    boolean isOrderedByDecoding() {
        return orderByDecoding;
    }

    String fourCc() {
        return answer.videoStream()
                .map(v -> v.path("codec_tag_string").asText(""))
                .orElse("");
    }

    Optional<Codec> codec() {
        return answer.codec();
    }

    /// When the picture begins, counted from the beginning of the file.
    Optional<Rational> firstAt() {
        return answer.firstAt();
    }

    Rational containerSeconds() {
        return ProbeStream.rational(answer.root().path("format").path("duration"))
                .filter(Rational::isPositive)
                .orElse(Rational.ZERO);
    }

    ClipFacts facts(
            ClipSource source,
            long bytes,
            FrameRate stillsRate,
            StatedPicture said,
            Disagreements disagreements,
            List<String> complaints) {
        var known = new ProbeFacts.Known(structure, whole, doubtful, missingAtEnd, clockRestarts, reach(), seen);
        return new ProbeFacts(answer, pixelFormats, known)
                .read(source, bytes, stillsRate, said, disagreements, complaints);
    }

    private Frames.Reach reach() {
        String format = answer.format();
        boolean stream = format.equals("mpegts") || format.equals("mpeg");
        boolean bare = Set.of("h264", "hevc", "mpegvideo").contains(format)
                || (packets.lacksShownTimes()
                        && answer.hasTwoWay()
                        && !stream); // its decoder gives pictures out later than it takes them
        if (orderByDecoding || bare || clockRestarts || (packets.partlyTimed() && !stream)) {
            return Frames.Reach.COUNT;
        }
        if (stream) {
            return Frames.Reach.NEARLY; // it aims so far ahead that what recovers is whole by then
        }
        // The engine's Dirac decoder drops pictures after a jump (measured with FFmpeg 8.0.1).
        boolean drops =
                answer.codec().filter(codec -> codec.name().equals("dirac")).isPresent();
        return fromFirst || drops ? Frames.Reach.FIRST : Frames.Reach.JUMP;
    }
}
