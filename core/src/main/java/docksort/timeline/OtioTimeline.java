package docksort.timeline;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonGenerator;
import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.core.StreamReadFeature;
import com.fasterxml.jackson.core.json.JsonReadFeature;
import com.fasterxml.jackson.core.json.JsonWriteFeature;
import com.fasterxml.jackson.core.util.DefaultIndenter;
import com.fasterxml.jackson.core.util.DefaultPrettyPrinter;
import com.fasterxml.jackson.databind.DeserializationFeature;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.cfg.JsonNodeFeature;
import com.fasterxml.jackson.databind.json.JsonMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import docksort.files.Documents;
import docksort.media.FrameRate;
import docksort.media.Raster;
import docksort.media.Rational;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;

/// A timeline in OpenTimelineIO JSON (Clip.1 and Clip.2, ExternalReference.1, ImageSequenceReference.1 of
/// the published schema, from memory; other versions and unknown objects are walked through). It is kept
/// as the tree that was read: only media references are ever written to, so everything else, unknown
/// fields included, comes out as it came in, numbers digit for digit. Turned back to originals, the
/// document is the one it was.
public final class OtioTimeline implements TimelineDocument {

    private static final Set<String> REEL_KEYS = Set.of("reel", "reel_name", "reelname", "tape", "tape_name");

    private static final ObjectMapper MAPPER = JsonMapper.builder(JsonFactory.builder()
                    .enable(StreamReadFeature.STRICT_DUPLICATE_DETECTION)
                    .enable(JsonReadFeature.ALLOW_NON_NUMERIC_NUMBERS)
                    .disable(JsonWriteFeature.WRITE_NAN_AS_STRINGS)
                    .build())
            .enable(DeserializationFeature.USE_BIG_DECIMAL_FOR_FLOATS)
            .enable(DeserializationFeature.FAIL_ON_TRAILING_TOKENS)
            .disable(JsonNodeFeature.STRIP_TRAILING_BIGDECIMAL_ZEROES)
            .build();

    private final Path file;
    private final ObjectNode root;
    private final Version version;
    private final List<OtioClips.Node> clips;

    private OtioTimeline(Path file, ObjectNode root, Version version) {
        this.file = file;
        this.root = root;
        this.version = version;
        this.clips = OtioClips.of(root);
    }

    /// @throws InputRefused when the file cannot be read or is not an OpenTimelineIO timeline
    public static OtioTimeline open(Path file) {
        String again = "Export it again as OpenTimelineIO JSON (.otio).";
        Path absolute = file.toAbsolutePath().normalize();
        var version = new Version(absolute);
        byte[] bytes = Documents.read(file);
        try (JsonParser parser = MAPPER.createParser(bytes)) {
            JsonNode read = MAPPER.readTree(parser);
            if (read instanceof ObjectNode node && OtioValues.schema(node).startsWith("Timeline.")) {
                return new OtioTimeline(absolute, node, version);
            }
            throw TimelineDocument.refused(file, "it is JSON, but not an OpenTimelineIO timeline", again);
        } catch (JsonProcessingException e) {
            var at = e.getLocation();
            String where = at == null ? "" : " in line " + at.getLineNr() + ", column " + at.getColumnNr();
            throw TimelineDocument.refused(file, "it is not valid JSON" + where, again);
        } catch (IOException e) {
            throw TimelineDocument.refused(file, String.valueOf(e.getMessage()), again);
        }
    }

    @Override
    public Path file() {
        return file;
    }

    @Override
    public String name() {
        return root.path("name").asText(String.valueOf(file.getFileName()));
    }

    @Override
    public Version version() {
        return version;
    }

    /// That of its start, or of the first clip, gap or other part that states one.
    @Override
    public Optional<FrameRate> rate() {
        Optional<FrameRate> start = OtioValues.rateOf(root.path("global_start_time"));
        return start.isPresent() ? start : firstRate(root.path("tracks"), 0);
    }

    private static Optional<FrameRate> firstRate(JsonNode node, int depth) {
        Optional<FrameRate> own = OtioValues.rateOf(node.path("source_range").path("duration"));
        if (own.isPresent() || depth > OtioValues.DEEPEST) {
            return own;
        }
        for (JsonNode child : node.path("children")) {
            Optional<FrameRate> found = firstRate(child, depth + 1);
            if (found.isPresent()) {
                return found;
            }
        }
        return Optional.empty();
    }

    /// The schema has no place for it; programs write it into metadata as `raster`, `resolution`, or
    /// `width` and `height` (common practice, no source).
    @Override
    public Optional<Raster> raster() {
        return rasterIn(root.path("metadata"), 0)
                .or(() -> rasterIn(root.path("tracks").path("metadata"), 0));
    }

    private static Optional<Raster> rasterIn(JsonNode node, int depth) {
        if (!node.isObject() || depth > 2) {
            return Optional.empty();
        }
        String text = node.path("raster").asText(node.path("resolution").asText(""));
        if (text.isEmpty() && node.path("width").canConvertToInt()) {
            text = node.path("width").asInt() + "x" + node.path("height").asInt();
        }
        if (text.matches("\\d{1,5}x\\d{1,5}") && !text.matches("0+x.*|.*x0+")) {
            return Optional.of(Raster.parse(text));
        }
        for (JsonNode child : node) {
            Optional<Raster> found = rasterIn(child, depth + 1);
            if (found.isPresent()) {
                return found;
            }
        }
        return Optional.empty();
    }

    @Override
    public List<TimelineEvent> events() {
        var events = new ArrayList<TimelineEvent>();
        for (OtioClips.Node node : clips) {
            JsonNode reference = OtioReferences.active(node.json());
            JsonNode range = node.json().path("source_range");
            events.add(new TimelineEvent(
                    events.size() + 1,
                    node.where().track(),
                    node.json().path("name").asText(""),
                    node.where().begins(),
                    OtioValues.frames(range.path("duration")),
                    node.where().kind(),
                    mention(node.json(), reference),
                    node.where().transition(),
                    node.where().overlap(),
                    use(node.json(), reference)));
        }
        return events;
    }

    private static Mention mention(ObjectNode clip, JsonNode active) {
        var others = new ArrayList<String>();
        for (JsonNode reference : clip.path("media_references")) {
            others.add(OtioReferences.address(reference));
        }
        others.add(OtioReferences.address(
                active.path("metadata").path(OtioReferences.OWN).path("kept")));
        String now = OtioReferences.address(active);
        others.removeIf(address -> address.isEmpty() || address.equals(now));
        String reel = reel(clip.path("metadata"), 0)
                .or(() -> reel(active.path("metadata"), 0))
                .orElse("");
        // Without media the clip's name may be that of a title or a generator.
        boolean named = !now.isEmpty() || OtioValues.schema(active).startsWith("MissingReference.");
        return new Mention(
                now,
                others.stream().distinct().toList(),
                reel,
                named ? clip.path("name").asText("") : "",
                active.path("metadata").path(OtioReferences.OWN).path("source").asText(""));
    }

    private static Optional<String> reel(JsonNode metadata, int depth) {
        if (!metadata.isObject() || depth > 2) {
            return Optional.empty();
        }
        for (Map.Entry<String, JsonNode> entry : metadata.properties()) {
            if (REEL_KEYS.contains(entry.getKey().toLowerCase(Locale.ROOT))
                    && entry.getValue().isTextual()) {
                return Optional.of(entry.getValue().asText());
            }
        }
        for (JsonNode child : metadata) {
            Optional<String> found = reel(child, depth + 1);
            if (found.isPresent()) {
                return found;
            }
        }
        return Optional.empty();
    }

    private static SourceUse use(ObjectNode clip, JsonNode reference) {
        JsonNode range = clip.path("source_range");
        Optional<Rational> start = OtioValues.seconds(range.path("start_time"));
        Optional<Rational> duration = OtioValues.seconds(range.path("duration"));
        Optional<FrameRate> rate = OtioValues.rateOf(range.path("duration"));
        if (start.isEmpty() || duration.isEmpty() || rate.isEmpty()) {
            return new SourceUse.Whole();
        }
        JsonNode available = reference.path("available_range");
        Optional<SourceUse.Available> media = OtioValues.seconds(available.path("start_time"))
                .flatMap(from -> OtioValues.seconds(available.path("duration"))
                        .flatMap(length -> OtioValues.rateOf(available.path("duration"))
                                .map(fps -> new SourceUse.Available(from, length, fps))));
        return new SourceUse.Times(start.get(), duration.get(), rate.get(), speed(clip), media);
    }

    /// Effects that change the speed multiply, a freeze is 0.
    private static Rational speed(ObjectNode clip) {
        Rational speed = Rational.of(1);
        for (JsonNode effect : clip.path("effects")) {
            Optional<Rational> scalar = OtioValues.number(effect.path("time_scalar"));
            if (scalar.isPresent()) {
                try {
                    speed = speed.times(scalar.get());
                } catch (ArithmeticException e) {
                    return speed; // more than 64 bits hold is no speed of a clip
                }
            } else if (OtioValues.schema(effect).startsWith("FreezeFrame.")) {
                speed = Rational.ZERO;
            }
        }
        return speed;
    }

    @Override
    public boolean point(int number, MediaTarget target, Predicate<String> leadsToOriginal) {
        ObjectNode clip = clips.get(number - 1).json();
        ObjectNode before = clip.deepCopy();
        Predicate<JsonNode> toOriginal = reference ->
                OtioReferences.isMedia(reference) && leadsToOriginal.test(OtioReferences.address(reference));
        Predicate<JsonNode> wanted = target.isOriginal()
                ? toOriginal
                : reference -> same(OtioReferences.address(reference), target.address());
        if (clip.path("media_references") instanceof ObjectNode references) {
            OtioReferences.turnKey(clip, references, target, wanted, toOriginal);
        } else {
            clip.set(
                    "media_reference",
                    OtioReferences.replaced(clip.path("media_reference"), target, wanted, toOriginal));
        }
        return !before.equals(clip);
    }

    private boolean same(String one, String other) {
        MediaPath folder = folder();
        return MediaPath.readings(one).stream()
                .map(path -> path.from(folder).key())
                .anyMatch(key -> MediaPath.readings(other).stream()
                        .anyMatch(path -> path.from(folder).key().equals(key)));
    }

    private MediaPath folder() {
        Path folder = file.getParent();
        return MediaPath.of(folder == null ? file : folder);
    }

    @Override
    public void markReview(String words) {
        ObjectNode metadata = root.path("metadata") instanceof ObjectNode there ? there : root.putObject("metadata");
        if (words.isEmpty()) {
            if (metadata.path(OtioReferences.OWN) instanceof ObjectNode own) {
                own.remove("review");
                if (own.isEmpty()) {
                    metadata.remove(OtioReferences.OWN);
                }
            }
        } else {
            ObjectNode own = metadata.path(OtioReferences.OWN) instanceof ObjectNode there
                    ? there
                    : metadata.putObject(OtioReferences.OWN);
            own.put("review", words);
        }
    }

    @Override
    public String reviewMark() {
        return root.path("metadata").path(OtioReferences.OWN).path("review").asText("");
    }

    /// As text, in the layout that the reference implementation writes: four spaces.
    @Override
    public byte[] bytes() {
        var indenter = new DefaultIndenter("    ", "\n");
        var printer = new DefaultPrettyPrinter().withObjectIndenter(indenter).withArrayIndenter(indenter);
        try {
            String text = MAPPER.writer(printer)
                    .without(JsonGenerator.Feature.AUTO_CLOSE_TARGET)
                    .writeValueAsString(root);
            return (text + "\n").getBytes(StandardCharsets.UTF_8);
        } catch (JsonProcessingException e) {
            throw new IllegalStateException("a timeline that was read cannot be written", e);
        }
    }

    @Override
    public OtioTimeline copy() {
        return new OtioTimeline(file, root.deepCopy(), version);
    }
}
