package docksort.dispatch;

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
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import docksort.arrival.Clip;
import docksort.arrival.ClipId;
import docksort.catalogue.WorkingCopy;
import docksort.dispatch.TimelineEvent.Standing;
import docksort.files.Documents;
import docksort.media.FrameRange;
import docksort.media.Timecode;
import docksort.media.VideoFacts;
import docksort.problem.CoreException.InputRefused;
import docksort.problem.Problem;
import docksort.stock.Served;
import docksort.stock.StockLine;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.atomic.AtomicLong;

/// A timeline in OpenTimelineIO JSON (Clip.1 and Clip.2, ExternalReference.1, ImageSequenceReference.1 of the
/// published schema, from memory). It is kept as the tree that was read: only media references are ever written
/// to, so everything else, unknown fields included, comes out as it came in, numbers digit for digit.
///
/// In a Clip.2 a copy stands beside the original under a key of its own and the active key is turned. A Clip.1
/// has one place only: there the copy's reference carries the original's in its metadata. Not safe for use by
/// several threads.
public final class Timeline {
    private static final String OWN_METADATA = "docksort";
    private static final String ACTIVE_KEY = "active_media_reference_key";
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
    /// Time stamp of the file as it was last read or written; earlier states of the same timeline share it.
    private final AtomicLong modified;

    private Timeline(Path file, ObjectNode root, AtomicLong modified) {
        this.file = file;
        this.root = root;
        this.modified = modified;
    }

    /// @throws InputRefused when the file cannot be read or is not an OpenTimelineIO timeline
    public static Timeline open(Path file) {
        long stamp = Documents.modified(file);
        byte[] bytes = Documents.read(file);
        try (JsonParser parser = MAPPER.createParser(bytes)) {
            JsonNode read = MAPPER.readTree(parser);
            if (read instanceof ObjectNode node && schema(node).startsWith("Timeline.")) {
                return new Timeline(file.toAbsolutePath().normalize(), node, new AtomicLong(stamp));
            }
            throw refused(file, "it is JSON, but not an OpenTimelineIO timeline");
        } catch (JsonProcessingException e) {
            var at = e.getLocation();
            String where = at == null ? "" : " in line " + at.getLineNr() + ", column " + at.getColumnNr();
            throw refused(file, "it is not valid JSON" + where);
        } catch (IOException e) {
            throw refused(file, String.valueOf(e.getMessage()));
        }
    }

    private static InputRefused refused(Path file, String why) {
        return new InputRefused(new Problem(
                "Cannot open the timeline " + file,
                why,
                "The file and the project are as they were.",
                "Export it again as OpenTimelineIO JSON (.otio)."));
    }

    public Path file() {
        return file;
    }

    public String name() {
        return root.path("name").asText(String.valueOf(file.getFileName()));
    }

    /// Every use of a clip, in the order of the file.
    ///
    /// @param stock the project's clips and copies
    public List<TimelineEvent> events(List<StockLine> stock) {
        var index = new Index(stock);
        var events = new ArrayList<TimelineEvent>();
        for (Node node : clipNodes()) {
            JsonNode reference = activeReference(node.json);
            Optional<Found> found = index.find(reference, folder());
            Standing standing = found.map(Found::standing)
                    .orElse(isMedia(reference) ? new Standing.Foreign() : new Standing.WithoutMedia());
            events.add(new TimelineEvent(
                    events.size() + 1,
                    node.track,
                    node.json.path("name").asText(""),
                    Math.round(node.json
                            .path("source_range")
                            .path("duration")
                            .path("value")
                            .asDouble(0)),
                    found.map(Found::clip),
                    standing,
                    address(reference)));
        }
        return events;
    }

    /// The frames that the timeline uses of each clip of the project, one range for each event.
    ///
    /// @param stock the project's clips and copies
    public Map<ClipId, List<FrameRange>> used(List<StockLine> stock) {
        var index = new Index(stock);
        Map<ClipId, List<FrameRange>> used = new LinkedHashMap<>();
        for (Node node : clipNodes()) {
            JsonNode reference = activeReference(node.json);
            index.find(reference, folder())
                    .ifPresent(found -> usedRange(node.json, reference, found.clip())
                            .ifPresent(
                                    range -> used.computeIfAbsent(found.clip().id(), _ -> new ArrayList<>())
                                            .add(range)));
        }
        return used;
    }

    /// Media starts where its available range says; without one, where the clip's timecode does.
    private static Optional<FrameRange> usedRange(JsonNode event, JsonNode reference, Clip clip) {
        Optional<VideoFacts> video = clip.facts().video();
        if (video.isEmpty()) {
            return Optional.empty();
        }
        double rate = video.get().rate().exact().toDouble();
        long frames = video.get().frames().count();
        JsonNode range = event.path("source_range");
        if (!range.isObject()) {
            return Optional.of(new FrameRange(0, Math.max(1, frames)));
        }
        double start = seconds(range.path("start_time")) * rate;
        JsonNode available = reference.path("available_range").path("start_time");
        double mediaStart = available.isObject()
                ? seconds(available) * rate
                : clip.facts().startTimecode().map(Timecode::frameOfDay).orElse(0L);
        double first = start - (start >= mediaStart ? mediaStart : 0);
        double count = seconds(range.path("duration")) * rate * speed(event);
        long from = Math.round(first);
        long end = (long) Math.ceil(first + Math.max(1, count) - 1e-6);
        return from < 0 || from >= frames
                ? Optional.empty()
                : Optional.of(new FrameRange(from, Math.clamp(end - from, 1, frames - from)));
    }

    private static double seconds(JsonNode time) {
        double rate = time.path("rate").asDouble(0);
        return rate > 0 ? time.path("value").asDouble(0) / rate : 0;
    }

    /// How many seconds of media one second of the event uses; reversed media uses as many.
    private static double speed(JsonNode event) {
        double speed = 1;
        for (JsonNode effect : event.path("effects")) {
            if (effect.path("time_scalar").isNumber()) {
                speed *= Math.abs(effect.path("time_scalar").asDouble(1));
            }
        }
        return speed;
    }

    /// Gives every event the file that serves its clip now. Events whose media is not the project's stay as
    /// they
    /// are.
    ///
    /// @param stock the project's clips, with what serves each
    /// @return how many events changed
    public int switchTo(List<StockLine> stock) {
        var index = new Index(stock);
        int changed = 0;
        for (Node node : clipNodes()) {
            Optional<Found> found = index.find(activeReference(node.json), folder());
            if (found.isPresent() && turn(node.json, found.get())) {
                changed++;
            }
        }
        return changed;
    }

    private boolean turn(ObjectNode clip, Found found) {
        ObjectNode before = clip.deepCopy();
        boolean several = clip.path("media_references") instanceof ObjectNode;
        switch (found.line.served()) {
            case Served.ByOriginal _ -> {
                if (several) {
                    turnKeyToOriginal(clip, found);
                } else {
                    clip.set("media_reference", originalOf(clip.path("media_reference"), found));
                }
            }
            case Served.ByCopy(WorkingCopy copy) -> {
                if (several) {
                    keepOriginalBeside(clip, found);
                    ObjectNode references = (ObjectNode) clip.get("media_references");
                    JsonNode original = originalReference(clip, found).orElse(activeReference(clip));
                    references.set(copy.kind().label(), copyReference(found.clip(), copy, original));
                    clip.put(ACTIVE_KEY, copy.kind().label());
                } else {
                    JsonNode original = originalOf(clip.path("media_reference"), found);
                    ObjectNode reference = copyReference(found.clip(), copy, original);
                    ((ObjectNode) reference.path("metadata").path(OWN_METADATA)).set("original", original);
                    clip.set("media_reference", reference);
                }
            }
        }
        return !before.equals(clip);
    }

    private void turnKeyToOriginal(ObjectNode clip, Found found) {
        keepOriginalBeside(clip, found);
        clip.path("media_references").properties().stream()
                .filter(entry -> leadsToOriginal(entry.getValue(), found))
                .findFirst()
                .ifPresent(entry -> clip.put(ACTIVE_KEY, entry.getKey()));
    }

    /// A timeline may arrive on copies, without a reference to the original: then one is added.
    private void keepOriginalBeside(ObjectNode clip, Found found) {
        if (originalReference(clip, found).isEmpty()) {
            ObjectNode references = (ObjectNode) clip.get("media_references");
            references.set("original", newReference(found.clip().source().head(), found.clip(), activeReference(clip)));
        }
    }

    private Optional<JsonNode> originalReference(ObjectNode clip, Found found) {
        return clip.path("media_references").properties().stream()
                .map(Map.Entry::getValue)
                .filter(reference -> leadsToOriginal(reference, found))
                .findFirst();
    }

    private boolean leadsToOriginal(JsonNode reference, Found found) {
        return found.index
                .find(reference, folder())
                .filter(other ->
                        other.clip().id().equals(found.clip().id()) && other.standing instanceof Standing.OnOriginal)
                .isPresent();
    }

    private JsonNode originalOf(JsonNode reference, Found found) {
        if (found.standing instanceof Standing.OnOriginal) {
            return reference;
        }
        JsonNode kept = reference.path("metadata").path(OWN_METADATA).path("original");
        return kept.isObject() ? kept : newReference(found.clip().source().head(), found.clip(), reference);
    }

    private ObjectNode copyReference(Clip clip, WorkingCopy copy, JsonNode original) {
        ObjectNode reference = newReference(copy.file(), clip, original);
        ObjectNode own = MAPPER.createObjectNode();
        own.put("kind", copy.kind().label());
        own.put("source", clip.fingerprint().toString());
        ((ObjectNode) reference.get("metadata")).set(OWN_METADATA, own);
        return reference;
    }

    /// A reference with the available range of the original's where that states one at the clip's rate, because
    /// a copy has the same frames and timecode; otherwise one made from the clip's facts.
    private ObjectNode newReference(Path target, Clip clip, JsonNode like) {
        ObjectNode reference = MAPPER.createObjectNode();
        reference.put("OTIO_SCHEMA", "ExternalReference.1");
        reference.set("metadata", MAPPER.createObjectNode());
        reference.put("name", String.valueOf(target.getFileName()));
        JsonNode range = like.path("available_range");
        reference.set("available_range", range.isObject() ? range.deepCopy() : availableRange(clip));
        reference.set(
                "available_image_bounds",
                like.path("available_image_bounds").isMissingNode()
                        ? MAPPER.nullNode()
                        : like.path("available_image_bounds").deepCopy());
        reference.put("target_url", MediaUrl.write(target, folder(), address(like)));
        return reference;
    }

    private static JsonNode availableRange(Clip clip) {
        Optional<VideoFacts> video = clip.facts().video();
        if (video.isEmpty()) {
            return MAPPER.nullNode();
        }
        ObjectNode range = MAPPER.createObjectNode();
        range.put("OTIO_SCHEMA", "TimeRange.1");
        long start = clip.facts().startTimecode().map(Timecode::frameOfDay).orElse(0L);
        double rate = video.get().rate().exact().toDouble();
        range.set("duration", rationalTime(video.get().frames().count(), rate));
        range.set("start_time", rationalTime(start, rate));
        return range;
    }

    private static ObjectNode rationalTime(long frames, double rate) {
        ObjectNode time = MAPPER.createObjectNode();
        time.put("OTIO_SCHEMA", "RationalTime.1");
        time.put("rate", rate);
        time.put("value", (double) frames);
        return time;
    }

    /// The timeline as text, in the layout that the reference implementation writes: four spaces.
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

    /// Replaces a file by this timeline in one step.
    ///
    /// @throws InputRefused when the file is no timeline by its name, or another program has changed the opened
    /// file since
    public void save(Path target) {
        Path absolute = target.toAbsolutePath().normalize();
        if (!absolute.toString().toLowerCase(Locale.ROOT).endsWith(".otio")) {
            throw new InputRefused(new Problem(
                    "The timeline was not saved as " + target,
                    "its name must end with .otio",
                    "Nothing was written.",
                    "Choose another name."));
        }
        if (absolute.equals(file) && Documents.modified(file) != modified.get()) {
            throw new InputRefused(new Problem(
                    "The timeline was not saved over " + file,
                    "another program has changed it since it was opened",
                    "Nothing was written.",
                    "Save under another name, or open it again."));
        }
        Documents.replace(absolute, bytes());
        if (absolute.equals(file)) {
            modified.set(Documents.modified(file));
        }
    }

    /// The same timeline as it stands now, independent of later changes.
    public Timeline copy() {
        return new Timeline(file, root.deepCopy(), modified);
    }

    // Walking the tree

    private record Node(ObjectNode json, String track) {}

    private List<Node> clipNodes() {
        var found = new ArrayList<Node>();
        collect(root, "", found);
        return found;
    }

    private static void collect(JsonNode node, String track, List<Node> found) {
        if (node instanceof ObjectNode object) {
            String schema = schema(object);
            if (schema.startsWith("Clip.")) {
                found.add(new Node(object, track));
                return;
            }
            String inside = schema.startsWith("Track.") ? trackName(object, track) : track;
            object.properties().forEach(entry -> {
                if (!entry.getKey().equals("metadata")) {
                    collect(entry.getValue(), inside, found);
                }
            });
        } else if (node instanceof ArrayNode array) {
            int number = 1;
            for (JsonNode child : array) {
                String name = child instanceof ObjectNode o && schema(o).startsWith("Track.") && track.isEmpty()
                        ? Integer.toString(number)
                        : track;
                collect(child, name, found);
                number++;
            }
        }
    }

    private static String trackName(ObjectNode track, String number) {
        String name = track.path("name").asText("");
        return name.isBlank() ? (track.path("kind").asText("Track") + " " + number).strip() : name;
    }

    private static String schema(JsonNode node) {
        return node.path("OTIO_SCHEMA").asText("");
    }

    private static JsonNode activeReference(JsonNode clip) {
        JsonNode references = clip.path("media_references");
        if (references.isObject()) {
            return references.path(clip.path(ACTIVE_KEY).asText("DEFAULT_MEDIA"));
        }
        return clip.path("media_reference");
    }

    private static boolean isMedia(JsonNode reference) {
        return !address(reference).isEmpty();
    }

    private static String address(JsonNode reference) {
        if (schema(reference).startsWith("ImageSequenceReference.")) {
            int padding = Math.clamp(reference.path("frame_zero_padding").asInt(0), 0, 12);
            String number = Integer.toString(reference.path("start_frame").asInt(0));
            String base = reference.path("target_url_base").asText("");
            return base
                    + (base.isEmpty() || base.endsWith("/") ? "" : "/")
                    + reference.path("name_prefix").asText("")
                    + "0".repeat(Math.max(0, padding - number.length()))
                    + number
                    + reference.path("name_suffix").asText("");
        }
        return reference.path("target_url").asText("");
    }

    private Path folder() {
        Path folder = file.getParent();
        return folder == null ? Path.of("") : folder;
    }

    private record Found(StockLine line, Standing standing, Index index) {
        Clip clip() {
            return line.clip();
        }
    }

    /// Finds the clip that a reference leads to: by path, or, where media has moved as a whole, by folder and
    /// file name together if only one clip of the project has both.
    private static final class Index {
        private final Map<Path, Found> byPath = new HashMap<>();
        private final Map<String, List<Found>> byName = new HashMap<>();

        Index(List<StockLine> stock) {
            for (StockLine line : stock) {
                add(line.clip().source().head(), new Found(line, new Standing.OnOriginal(), this));
                for (WorkingCopy copy : line.copies()) {
                    add(copy.file(), new Found(line, new Standing.OnCopy(copy.kind()), this));
                }
            }
        }

        private void add(Path file, Found found) {
            byPath.putIfAbsent(file.normalize(), found);
            byName.computeIfAbsent(lastTwo(file), _ -> new ArrayList<>()).add(found);
        }

        private static String lastTwo(Path file) {
            Path folder = file.getParent();
            return (folder == null ? "" : folder.getFileName()) + "/" + file.getFileName();
        }

        Optional<Found> find(JsonNode reference, Path folder) {
            Optional<Path> path = MediaUrl.toPath(address(reference), folder);
            if (path.isEmpty()) {
                return Optional.empty();
            }
            Found exact = byPath.get(path.get());
            if (exact != null) {
                return Optional.of(exact);
            }
            List<Found> named = byName.getOrDefault(lastTwo(path.get()), List.of());
            return named.size() == 1 ? Optional.of(named.getFirst()) : Optional.empty();
        }
    }
}
