package docksort.engine;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.StreamReadConstraints;
import com.fasterxml.jackson.core.StreamReadFeature;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import docksort.media.AudioStream;
import docksort.media.ByteSize;
import docksort.media.ClipFacts;
import docksort.media.ClipSource;
import docksort.media.Codec;
import docksort.media.CodedFrame;
import docksort.media.Colour;
import docksort.media.FrameRate;
import docksort.media.FrameStructure;
import docksort.media.Frames;
import docksort.media.Raster;
import docksort.media.Rational;
import docksort.media.ScanType;
import docksort.media.Timecode;
import docksort.media.VideoFacts;
import docksort.media.VideoFacts.RateKind;
import java.io.IOException;
import java.io.InputStream;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;

/// Reads one answer of ffprobe and makes facts of it. What it says is untrusted: nothing is taken without a
/// range check, and what is missing stays missing.
final class ProbeReader {
    private static final ObjectMapper JSON = new ObjectMapper(JsonFactory.builder()
            .streamReadConstraints(StreamReadConstraints.builder()
                    .maxNestingDepth(50)
                    .maxStringLength(200_000)
                    .maxDocumentLength(64L * 1024 * 1024)
                    .build())
            .disable(StreamReadFeature.AUTO_CLOSE_SOURCE) // the stream's owner drains and closes it
            .build());

    private static final String OWN_TAGS = "docksort.";

    private JsonNode root = JSON.createObjectNode();
    private List<CodedFrame> frames = List.of();
    private int packetCount;

    void read(InputStream answer) throws IOException {
        JsonNode read = JSON.readTree(answer);
        if (read != null && read.isObject()) {
            root = read;
        }
        frames = framesOf(read == null ? root : read, videoIndex());
    }

    boolean hasStreams() {
        return !root.path("streams").isEmpty()
                && (videoStream().isPresent() || !audioStreams().isEmpty());
    }

    int packetCount() {
        return packetCount;
    }

    /// Whether the codec leaves open how frames depend on each other, so that a short window proves little.
    boolean needsLongerWindow() {
        return videoStream().map(v -> !codec(v).isIntraByNature()).orElse(false);
    }

    void replacePackets(ProbeReader other) {
        frames = other.frames;
        packetCount = other.packetCount;
    }

    ClipFacts facts(ClipSource source, long bytes, FrameRate stillsRate, int window, List<String> complaints) {
        boolean whole = packetCount < window;
        Optional<VideoFacts> video = videoStream().map(stream -> video(stream, source, stillsRate, whole));
        List<AudioStream> audio = audioStreams().stream().map(this::audio).toList();
        Rational seconds = video.map(VideoFacts::seconds)
                .or(() -> rational(root.path("format").path("duration")))
                .orElse(Rational.ZERO);
        return new ClipFacts(
                container(source),
                video,
                audio,
                seconds,
                video.flatMap(this::timecode),
                tag("reel_name").or(() -> tag("reel")),
                tag("creation_time"),
                new ByteSize(bytes),
                complaints,
                ownTags());
    }

    private VideoFacts video(JsonNode stream, ClipSource source, FrameRate stillsRate, boolean whole) {
        Codec codec = codec(stream);
        var raster =
                new Raster(stream.path("width").asInt(), stream.path("height").asInt());
        Rational timeBase =
                rational(stream.path("time_base")).filter(Rational::isPositive).orElse(new Rational(1, 1000));
        var structure = new FrameStructure(
                frames, whole ? FrameStructure.Extent.WHOLE : FrameStructure.Extent.STRETCH, timeBase);
        boolean stills = source instanceof ClipSource.NumberedStills;
        Timing timing = stills
                ? new Timing(stillsRate, RateKind.INTERPRETED)
                : Timing.of(
                                structure,
                                timeBase,
                                statedRate(stream, "r_frame_rate"),
                                statedRate(stream, "avg_frame_rate"),
                                whole)
                        .orElse(new Timing(stillsRate, RateKind.INTERPRETED));
        return new VideoFacts(
                codec,
                raster,
                rational(stream.path("sample_aspect_ratio"))
                        .filter(Rational::isPositive)
                        .orElse(Rational.of(1)),
                rotation(stream),
                scan(stream),
                PixelFormats.parse(
                        stream.path("pix_fmt").asText(""),
                        stream.path("bits_per_raw_sample").asInt(0)),
                colour(stream),
                timing.rate(),
                timing.kind(),
                frameCount(stream, source, timing, timeBase, whole),
                stills ? FrameStructure.NONE : structure);
    }

    private Frames frameCount(JsonNode stream, ClipSource source, Timing timing, Rational timeBase, boolean whole) {
        if (source instanceof ClipSource.NumberedStills stills) {
            return new Frames(stills.count(), Frames.Origin.COUNTED);
        }
        if (timing.kind() == RateKind.VARIABLE) {
            return new Frames(timing.rate().framesIn(duration(stream, timeBase)), Frames.Origin.ESTIMATED);
        }
        if (whole && !frames.isEmpty()) {
            return new Frames(frames.size(), Frames.Origin.COUNTED);
        }
        long stated = stream.path("nb_frames").asLong(0);
        if (stated > 0) {
            return new Frames(stated, Frames.Origin.STATED);
        }
        long ticks = stream.path("duration_ts").asLong(0);
        if (ticks > 0 && timeBase.times(timing.rate().exact()).equals(Rational.of(1))) {
            return new Frames(ticks, Frames.Origin.STATED);
        }
        return new Frames(timing.rate().framesIn(duration(stream, timeBase)), Frames.Origin.ESTIMATED);
    }

    private Rational duration(JsonNode stream, Rational timeBase) {
        long ticks = stream.path("duration_ts").asLong(0);
        if (ticks > 0) {
            return timeBase.times(Rational.of(ticks));
        }
        return rational(root.path("format").path("duration"))
                .filter(Rational::isPositive)
                .orElse(Rational.ZERO);
    }

    private List<CodedFrame> framesOf(JsonNode answer, int videoIndex) {
        var found = new ArrayList<CodedFrame>();
        packetCount = 0;
        for (JsonNode packet : answer.path("packets")) {
            packetCount++;
            if (videoIndex >= 0 && packet.path("stream_index").asInt() != videoIndex) {
                continue;
            }
            if (videoIndex < 0 && answer.has("streams")) {
                continue;
            }
            JsonNode shown = packet.has("pts") ? packet.path("pts") : packet.path("dts");
            String flags = packet.path("flags").asText("");
            if (flags.contains("D")) {
                continue; // a packet outside the edit list: decoded, never shown
            }
            found.add(new CodedFrame(
                    shown.asLong(found.size()),
                    flags.contains("K"),
                    Math.max(0, packet.path("size").asInt(0))));
        }
        return found;
    }

    private int videoIndex() {
        return videoStream().map(v -> v.path("index").asInt()).orElse(-1);
    }

    private Optional<JsonNode> videoStream() {
        for (JsonNode stream : root.path("streams")) {
            boolean cover = stream.path("disposition").path("attached_pic").asInt() == 1;
            if (stream.path("codec_type").asText().equals("video")
                    && !cover
                    && stream.path("width").asInt() > 0) {
                return Optional.of(stream);
            }
        }
        return Optional.empty();
    }

    private List<JsonNode> audioStreams() {
        var found = new ArrayList<JsonNode>();
        for (JsonNode stream : root.path("streams")) {
            if (stream.path("codec_type").asText().equals("audio")) {
                found.add(stream);
            }
        }
        return found;
    }

    private AudioStream audio(JsonNode stream) {
        int raw = stream.path("bits_per_raw_sample").asInt(0);
        int bits = raw > 0 ? raw : stream.path("bits_per_sample").asInt(0);
        Rational timeBase = rational(stream.path("time_base")).orElse(new Rational(1, 1000));
        return new AudioStream(
                stream.path("codec_name").asText("unknown"),
                Math.clamp(stream.path("channels").asInt(0), 0, 1_024),
                stream.path("channel_layout").asText(""),
                Math.max(0, stream.path("sample_rate").asInt(0)),
                Math.clamp(bits, 0, 64),
                duration(stream, timeBase));
    }

    private static Codec codec(JsonNode stream) {
        String profile = stream.path("profile").asText("");
        return new Codec(
                stream.path("codec_name").asText("unknown"),
                profile.equals("unknown") ? "" : profile,
                Math.max(0, stream.path("level").asInt(0)));
    }

    private static Optional<FrameRate> statedRate(JsonNode stream, String field) {
        return rational(stream.path(field))
                .filter(r ->
                        r.isPositive() && r.numerator() <= Integer.MAX_VALUE && r.denominator() <= Integer.MAX_VALUE)
                .map(r -> new FrameRate((int) r.numerator(), (int) r.denominator()));
    }

    private static ScanType scan(JsonNode stream) {
        return switch (stream.path("field_order").asText("")) {
            case "progressive" -> ScanType.PROGRESSIVE;
            // "tb" and "bt" say that the fields are stored interleaved; their first letter is the field shown first
            // (libavcodec/rawdec.c and fftools/ffmpeg_enc.c, FFmpeg 8.0).
            case "tt", "tb" -> ScanType.TOP_FIELD_FIRST;
            case "bb", "bt" -> ScanType.BOTTOM_FIELD_FIRST;
            default -> ScanType.UNKNOWN;
        };
    }

    private static int rotation(JsonNode stream) {
        for (JsonNode side : stream.path("side_data_list")) {
            if (side.has("rotation")) {
                // The matrix states a counter-clockwise angle; players turn the other way.
                return Math.floorMod(Math.round(-side.path("rotation").asDouble() / 90) * 90, 360);
            }
        }
        return 0;
    }

    private static Colour colour(JsonNode stream) {
        return new Colour(
                stated(stream, "color_primaries"),
                stated(stream, "color_transfer"),
                stated(stream, "color_space"),
                stated(stream, "color_range"));
    }

    private static String stated(JsonNode stream, String field) {
        String value = stream.path(field).asText("");
        return value.equals("unknown") ? "" : value;
    }

    private Optional<Timecode> timecode(VideoFacts video) {
        return tag("timecode").flatMap(text -> {
            try {
                return Optional.of(Timecode.parse(text, video.rate()));
            } catch (IllegalArgumentException e) {
                return Optional.empty();
            }
        });
    }

    /// A tag of the picture's stream, of any other stream, or of the container, whichever states it first.
    private Optional<String> tag(String name) {
        var places = new ArrayList<JsonNode>();
        videoStream().ifPresent(places::add);
        root.path("streams").forEach(places::add);
        places.add(root.path("format"));
        for (JsonNode place : places) {
            JsonNode tags = place.path("tags");
            for (String key : List.of(name, name.toUpperCase(Locale.ROOT))) {
                String value = tags.path(key).asText("");
                if (!value.isBlank()) {
                    return Optional.of(value.strip());
                }
            }
        }
        return Optional.empty();
    }

    /// The container's own tags by which copies describe themselves; others are left.
    private Map<String, String> ownTags() {
        var own = new TreeMap<String, String>();
        root.path("format").path("tags").properties().forEach(tag -> {
            if (tag.getKey().startsWith(OWN_TAGS) && own.size() < 16) {
                String value = tag.getValue().asText("");
                own.put(tag.getKey(), value.length() > 400 ? value.substring(0, 400) : value);
            }
        });
        return own;
    }

    private String container(ClipSource source) {
        if (source instanceof ClipSource.NumberedStills) {
            return "stills";
        }
        String format = root.path("format").path("format_name").asText("unknown");
        String brand =
                root.path("format").path("tags").path("major_brand").asText("").strip();
        return switch (format) {
            case "mov,mp4,m4a,3gp,3g2,mj2" -> brand.equals("qt") || brand.isEmpty() ? "MOV" : "MP4";
            case "matroska,webm" -> "MKV";
            case "mpegts" -> "MPEG-TS";
            case "mpeg" -> "MPEG-PS";
            default -> format.toUpperCase(Locale.ROOT);
        };
    }

    private static Optional<Rational> rational(JsonNode node) {
        String text = node.asText("");
        if (text.isEmpty() || text.equals("N/A") || text.endsWith("/0") || text.endsWith(":0")) {
            return Optional.empty();
        }
        try {
            return Optional.of(Rational.parse(text));
        } catch (IllegalArgumentException e) {
            return Optional.empty();
        }
    }
}
