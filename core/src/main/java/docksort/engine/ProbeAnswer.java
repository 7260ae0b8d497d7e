package docksort.engine;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.StreamReadConstraints;
import com.fasterxml.jackson.core.StreamReadFeature;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import docksort.media.ClipSource;
import docksort.media.Codec;
import docksort.media.Rational;
import java.io.IOException;
import java.io.InputStream;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.stream.Stream;

/// One answer of ffprobe: its streams and their tags. What it says is untrusted, and what is missing stays
/// missing.
final class ProbeAnswer {
    private static final ObjectMapper JSON = new ObjectMapper(JsonFactory.builder()
            .streamReadConstraints(StreamReadConstraints.builder()
                    .maxNestingDepth(50)
                    .maxStringLength(200_000)
                    .maxDocumentLength(64L * 1024 * 1024)
                    .build())
            .disable(StreamReadFeature.AUTO_CLOSE_SOURCE) // the stream's owner drains and closes it
            .build());

    private static final String OWN_TAGS = "docksort.";

    static final ProbeAnswer NONE = new ProbeAnswer(JSON.createObjectNode());

    private static final Rational MOST_LATE = Rational.of(60); // more is a clock that has nothing to do with it
    private final JsonNode root;

    private ProbeAnswer(JsonNode root) {
        this.root = root;
    }

    static ProbeAnswer read(InputStream answer) throws IOException {
        JsonNode read = JSON.readTree(answer);
        return read != null && read.isObject() ? new ProbeAnswer(read) : NONE;
    }

    boolean hasStreams() {
        return !root.path("streams").isEmpty()
                && (videoStream().isPresent() || !audioStreams().isEmpty());
    }

    Optional<JsonNode> videoStream() {
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

    List<JsonNode> audioStreams() {
        var found = new ArrayList<JsonNode>();
        for (JsonNode stream : root.path("streams")) {
            if (stream.path("codec_type").asText().equals("audio")) {
                found.add(stream);
            }
        }
        return found;
    }

    int videoIndex() {
        return videoStream().map(v -> v.path("index").asInt()).orElse(-1);
    }

    boolean hasTwoWay() {
        return videoStream()
                .map(stream -> stream.path("has_b_frames").asInt(0) > 0)
                .orElse(false);
    }

    /// A tag of the picture's stream, of any other stream, or of the container, whichever states it first.
    Optional<String> tag(String name) {
        return placesOf(name).stream().findFirst();
    }

    List<String> placesOf(String name) {
        var places = new ArrayList<JsonNode>();
        videoStream().ifPresent(places::add);
        root.path("streams").forEach(places::add);
        places.add(root.path("format"));
        var values = new ArrayList<String>();
        places.forEach(place -> placesOf(place, name).forEach(values::add));
        return values;
    }

    static Stream<String> placesOf(JsonNode place, String name) {
        return Stream.of(name, name.toUpperCase(Locale.ROOT))
                .map(key -> place.path("tags").path(key).asText("").strip())
                .filter(value -> !value.isEmpty());
    }

    /// The container's own tags by which copies describe themselves; others are left.
    Map<String, String> ownTags() {
        var own = new TreeMap<String, String>();
        root.path("format").path("tags").properties().forEach(tag -> {
            if (tag.getKey().startsWith(OWN_TAGS) && own.size() < 16) {
                String value = tag.getValue().asText("");
                own.put(tag.getKey(), value.length() > 400 ? value.substring(0, 400) : value);
            }
        });
        return own;
    }

    String container(ClipSource source) {
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

    Optional<String> outOfReach() {
        return videoStream()
                .filter(stream -> stream.path("codec_name").asText("").isEmpty()
                        || stream.path("codec_name").asText("").equals("unknown"))
                .map(stream -> "no decoder here for its codec \""
                        + stream.path("codec_tag_string").asText("?") + "\"");
    }

    boolean isMov() {
        return format().startsWith("mov");
    }

    Optional<Codec> codec() {
        return videoStream().map(ProbeStream::codec);
    }

    /// The engine's name of the container.
    String format() {
        return root.path("format").path("format_name").asText("");
    }

    JsonNode formatNode() {
        return root.path("format");
    }

    JsonNode root() {
        return root;
    }

    /// When the picture begins, counted from the beginning of the file.
    Optional<Rational> firstAt() {
        return videoStream().flatMap(this::firstAt);
    }

    /// Less than a millisecond is how coarse some containers count.
    private Optional<Rational> firstAt(JsonNode stream) {
        Optional<Rational> own = ProbeStream.rational(stream.path("start_time"));
        Optional<Rational> file = ProbeStream.rational(root.path("format").path("start_time"));
        return own.flatMap(at -> file.map(at::minus))
                .filter(late -> late.compareTo(new Rational(1, 1_000)) > 0 && late.compareTo(MOST_LATE) < 0);
    }
}
