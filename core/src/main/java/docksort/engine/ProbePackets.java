package docksort.engine;

import com.fasterxml.jackson.databind.JsonNode;
import docksort.index.SlicePeek;
import docksort.media.FrameStructure;
import docksort.media.FrameStructure.Extent;
import docksort.media.Rational;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/// The packets of an answer as pictures: when each is shown, and how the stream is built.
final class ProbePackets {
    private static final int MOST_KEYS_PEEKED = 3_000;

    private final ProbeAnswer streams;
    private final List<KeyPacket> keyPackets = new ArrayList<>();
    private int count;
    private boolean lacksShownTimes;
    private boolean partlyTimed;
    private boolean clockRestarts;
    private FrameStructure structure = FrameStructure.NONE;

    private ProbePackets(ProbeAnswer streams) {
        this.streams = streams;
    }

    /// @param streams what is known of the streams
    /// @param answer that holds the packets
    /// @param videoIndex stream to read; negative where the packets are of one stream
    static ProbePackets of(ProbeAnswer streams, ProbeAnswer answer, int videoIndex, Extent extent) {
        var packets = new ProbePackets(streams);
        packets.structure = packets.structure(answer.root(), videoIndex, extent);
        return packets;
    }

    /// A picture that its container marks as a keyframe.
    record KeyPacket(int picture, SlicePeek.Packet packet) {}

    FrameStructure structure() {
        return structure;
    }

    int count() {
        return count;
    }

    List<KeyPacket> keyPackets() {
        return keyPackets;
    }

    /// Whether the container times only decoding.
    boolean lacksShownTimes() {
        return lacksShownTimes;
    }

    boolean partlyTimed() {
        return partlyTimed;
    }

    /// Whether another recording follows in the same stream.
    boolean clockRestarts() {
        return clockRestarts;
    }

    private FrameStructure structure(JsonNode answer, int videoIndex, Extent extent) {
        Rational timeBase = streams.videoStream()
                .flatMap(stream -> ProbeStream.rational(stream.path("time_base")))
                .filter(Rational::isPositive)
                .orElse(new Rational(1, 1000));
        var found = new FrameStructure.Builder(extent, timeBase);
        long gap = Rational.of(2).dividedBy(timeBase).rounded();
        long backwards = Rational.of(1).dividedBy(timeBase).rounded();
        long offset = 0;
        long step = 1;
        long latest = Long.MIN_VALUE;
        int timed = 0;
        Map<Integer, Long> shownAt = shownTimes(answer.path("packets"), videoIndex, answer.has("streams"));
        for (JsonNode packet : answer.path("packets")) {
            count++;
            boolean other = videoIndex >= 0 && packet.path("stream_index").asInt() != videoIndex;
            if (other || (videoIndex < 0 && answer.has("streams"))) {
                continue;
            }
            timed += packet.has("pts") ? 1 : 0;
            String flags = packet.path("flags").asText("");
            if (flags.contains("D")) {
                continue; // a packet outside the edit list: decoded, never shown
            }
            long shown = shownAt.getOrDefault(count, (long) found.count()) + offset;
            boolean key = flags.contains("K");
            if (key && latest != Long.MIN_VALUE && shown - latest > gap && extent == Extent.STRETCH) {
                found.breakHere();
            }
            if (key && latest != Long.MIN_VALUE && latest - shown > backwards) {
                // Another recording follows in the same stream, and its clock begins anew.
                offset += latest + step - shown;
                shown = latest + step;
                clockRestarts = true;
            }
            step = shown > latest && latest != Long.MIN_VALUE ? shown - latest : step;
            latest = Math.max(latest, shown);
            int bytes = Math.max(0, packet.path("size").asInt(0));
            if (key && keyPackets.size() < MOST_KEYS_PEEKED) {
                var place = new SlicePeek.Packet(packet.path("pos").asLong(-1), bytes);
                keyPackets.add(new KeyPacket(found.count(), place));
            }
            found.add(shown, key, bytes);
        }
        lacksShownTimes = found.count() > 0 && timed < found.count() / 2;
        partlyTimed = timed > 0 && timed < found.count() && streams.hasTwoWay();
        return found.build();
    }

    /// When packets are shown, by their place among all. A packet of a program or transport stream may
    /// hold several pictures, of which only the first has times. Of MPEG-1 and MPEG-2 the others follow:
    /// a picture that others lean on is shown when the next such is decoded, every other one when it is
    /// decoded itself (ISO/IEC 13818-2, 6.1.1.11).
    private Map<Integer, Long> shownTimes(JsonNode packets, int videoIndex, boolean hasStreams) {
        boolean mpeg = streams.codec()
                .filter(codec -> codec.name().startsWith("mpeg") && codec.name().endsWith("video"))
                .isPresent();
        var shown = new HashMap<Integer, Long>();
        int waiting = -1;
        long latest = 0;
        long step = 1;
        int number = 0;
        for (JsonNode packet : packets) {
            number++;
            boolean other = videoIndex >= 0 && packet.path("stream_index").asInt() != videoIndex;
            if (other || (videoIndex < 0 && hasStreams)) {
                continue;
            }
            long decoded = packet.path("dts").asLong(latest);
            boolean isLeanedOn = !packet.has("pts") || packet.path("pts").asLong() > decoded;
            if (waiting >= 0 && isLeanedOn) {
                shown.put(waiting, decoded);
                waiting = -1;
            }
            if (packet.has("pts") || !mpeg) {
                JsonNode at = packet.has("pts") ? packet.path("pts") : packet.path("dts");
                decoded = at.isMissingNode() && number > 1 ? latest + step : decoded;
                shown.put(number, at.isMissingNode() ? decoded : at.asLong());
            } else if (packet.has("dts")) {
                waiting = number;
            }
            step = decoded > latest && latest > 0 ? decoded - latest : step;
            latest = decoded;
        }
        if (waiting >= 0) {
            shown.put(waiting, latest + step);
        }
        return shown;
    }
}
