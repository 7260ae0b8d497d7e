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
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import docksort.files.Documents;
import docksort.media.FrameRate;
import docksort.media.Raster;
import docksort.media.Rational;
import docksort.problem.CoreException.InputRefused;
import java.io.IOException;
import java.math.BigDecimal;
import java.math.RoundingMode;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;

/// A timeline in OpenTimelineIO JSON (Clip.1 and Clip.2, ExternalReference.1, ImageSequenceReference.1 of the
/// published schema, from memory; other versions and unknown objects are walked through). It is kept as the
/// tree that was read: only media references are ever written to, so everything else, unknown fields included,
/// comes out as it came in, numbers digit for digit.
///
/// In a Clip.2 the copy's reference stands beside the original's under a key of its own and the active key is
/// turned. A Clip.1 has one place only: there the reference keeps the one it replaced in its metadata. Turned
/// back, what was added is taken out again, so that the document is the one it was.
public final class OtioTimeline implements TimelineDocument {
    private static final String OWN = "docksort";
    private static final String ACTIVE_KEY = "active_media_reference_key";
    private static final String USUAL_KEY = "DEFAULT_MEDIA";
    private static final Set<String> REEL_KEYS = Set.of("reel", "reel_name", "reelname", "tape", "tape_name");
    private static final int DEEPEST = 200;
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
    private final List<Node> clips = new ArrayList<>();

    private OtioTimeline(Path file, ObjectNode root, Version version) {
        this.file = file;
        this.root = root;
        this.version = version;
        collect(root, Where.START, 0);
    }

    /// @throws InputRefused when the file cannot be read or is not an OpenTimelineIO timeline
    public static OtioTimeline open(Path file) {
        String again = "Export it again as OpenTimelineIO JSON (.otio).";
        Path absolute = file.toAbsolutePath().normalize();
        var version = new Version(absolute);
        byte[] bytes = Documents.read(file);
        try (JsonParser parser = MAPPER.createParser(bytes)) {
            JsonNode read = MAPPER.readTree(parser);
            if (read instanceof ObjectNode node && schema(node).startsWith("Timeline.")) {
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
        Optional<FrameRate> start = rateOf(root.path("global_start_time"));
        return start.isPresent() ? start : firstRate(root.path("tracks"), 0);
    }

    private static Optional<FrameRate> firstRate(JsonNode node, int depth) {
        Optional<FrameRate> own = rateOf(node.path("source_range").path("duration"));
        if (own.isPresent() || depth > DEEPEST) {
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

    /// The schema has no place for it; programs write it into metadata as `raster`, `resolution`, or `width`
    /// and `height` (common practice, no source).
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
        for (Node node : clips) {
            JsonNode reference = activeReference(node.json);
            JsonNode range = node.json.path("source_range");
            events.add(new TimelineEvent(
                    events.size() + 1,
                    node.where.track,
                    node.json.path("name").asText(""),
                    node.where.begins,
                    frames(range.path("duration")),
                    node.where.kind,
                    mention(node.json, reference),
                    node.where.transition,
                    node.where.overlap,
                    use(node.json, reference)));
        }
        return events;
    }

    private static long frames(JsonNode time) {
        return number(time.path("value")).map(Rational::rounded).orElse(0L);
    }

    private static Mention mention(ObjectNode clip, JsonNode active) {
        var others = new ArrayList<String>();
        for (JsonNode reference : clip.path("media_references")) {
            others.add(address(reference));
        }
        others.add(address(active.path("metadata").path(OWN).path("kept")));
        String now = address(active);
        others.removeIf(address -> address.isEmpty() || address.equals(now));
        String reel = reel(clip.path("metadata"), 0)
                .or(() -> reel(active.path("metadata"), 0))
                .orElse("");
        // Without media the clip's name may be that of a title or a generator.
        boolean named = !now.isEmpty() || schema(active).startsWith("MissingReference.");
        return new Mention(
                now,
                others.stream().distinct().toList(),
                reel,
                named ? clip.path("name").asText("") : "",
                active.path("metadata").path(OWN).path("source").asText(""));
    }

    private static Optional<String> reel(JsonNode metadata, int depth) {
        if (!metadata.isObject() || depth > 2) {
            return Optional.empty();
        }
        for (Map.Entry<String, JsonNode> entry : metadata.properties()) {
            if (REEL_KEYS.contains(entry.getKey().toLowerCase(java.util.Locale.ROOT))
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
        Optional<Rational> start = seconds(range.path("start_time"));
        Optional<Rational> duration = seconds(range.path("duration"));
        Optional<FrameRate> rate = rateOf(range.path("duration"));
        if (start.isEmpty() || duration.isEmpty() || rate.isEmpty()) {
            return new SourceUse.Whole();
        }
        JsonNode available = reference.path("available_range");
        Optional<SourceUse.Available> media = seconds(available.path("start_time"))
                .flatMap(from -> seconds(available.path("duration"))
                        .flatMap(length -> rateOf(available.path("duration"))
                                .map(fps -> new SourceUse.Available(from, length, fps))));
        return new SourceUse.Times(start.get(), duration.get(), rate.get(), speed(clip), media);
    }

    /// Effects that change the speed multiply, a freeze is 0.
    private static Rational speed(ObjectNode clip) {
        Rational speed = Rational.of(1);
        for (JsonNode effect : clip.path("effects")) {
            Optional<Rational> scalar = number(effect.path("time_scalar"));
            if (scalar.isPresent()) {
                try {
                    speed = speed.times(scalar.get());
                } catch (ArithmeticException e) {
                    return speed; // more than 64 bits hold is no speed of a clip
                }
            } else if (schema(effect).startsWith("FreezeFrame.")) {
                speed = Rational.ZERO;
            }
        }
        return speed;
    }

    private static Optional<Rational> seconds(JsonNode time) {
        return rateOf(time)
                .flatMap(rate -> number(time.path("value")).flatMap(value -> {
                    try {
                        return Optional.of(value.dividedBy(rate.exact()));
                    } catch (ArithmeticException e) {
                        return Optional.empty();
                    }
                }));
    }

    /// Rates are written as floating point: 23.976023976023978 is 24000/1001.
    private static Optional<FrameRate> rateOf(JsonNode time) {
        try {
            return number(time.path("rate"))
                    .filter(Rational::isPositive)
                    .map(rate -> FrameRate.parse(new BigDecimal(rate.numerator())
                            .divide(new BigDecimal(rate.denominator()), 6, RoundingMode.HALF_EVEN)
                            .toPlainString()));
        } catch (IllegalArgumentException | ArithmeticException e) {
            return Optional.empty();
        }
    }

    private static Optional<Rational> number(JsonNode node) {
        boolean endless = node.isFloatingPointNumber() && !Double.isFinite(node.doubleValue());
        if (!node.isNumber() || endless) {
            return Optional.empty();
        }
        BigDecimal value = node.decimalValue();
        // What 64 bits cannot count in millionths is no time of a timeline; a large exponent is not even tried.
        if (value.precision() - value.scale() > 12) {
            return Optional.empty();
        }
        return Optional.of(
                Rational.parse(value.setScale(6, RoundingMode.HALF_EVEN).toPlainString()));
    }

    @Override
    public boolean point(int number, MediaTarget target, Predicate<String> leadsToOriginal) {
        ObjectNode clip = clips.get(number - 1).json;
        ObjectNode before = clip.deepCopy();
        Predicate<JsonNode> toOriginal = reference -> isMedia(reference) && leadsToOriginal.test(address(reference));
        Predicate<JsonNode> wanted =
                target.isOriginal() ? toOriginal : reference -> same(address(reference), target.address());
        if (clip.path("media_references") instanceof ObjectNode references) {
            turnKey(clip, references, target, wanted, toOriginal);
        } else {
            clip.set("media_reference", replaced(clip.path("media_reference"), target, wanted, toOriginal));
        }
        return !before.equals(clip);
    }

    private static void turnKey(
            ObjectNode clip,
            ObjectNode references,
            MediaTarget target,
            Predicate<JsonNode> wanted,
            Predicate<JsonNode> toOriginal) {
        JsonNode like = like(references, activeReference(clip), toOriginal);
        boolean keyWasAbsent = !clip.has(ACTIVE_KEY)
                || references.properties().stream()
                        .anyMatch(entry ->
                                own(entry.getValue()).path("keyWasAbsent").asBoolean());
        String key = references.properties().stream()
                .filter(entry -> wanted.test(entry.getValue()))
                .map(Map.Entry::getKey)
                .findFirst()
                .orElseGet(() -> freeKey(references, target.kind()));
        if (!wanted.test(references.path(key))) {
            ObjectNode reference = newReference(target, like);
            if (keyWasAbsent) {
                ((ObjectNode) own(reference)).put("keyWasAbsent", true);
            }
            references.set(key, reference);
        }
        boolean ours = isOurs(references.path(key));
        if (!target.isOriginal() && ours && !target.original().isEmpty() && !any(references, toOriginal)) {
            references.set(MediaTarget.ORIGINAL, newReference(originalOf(target), like)); // it arrived on copies
        }
        references.properties().stream()
                .filter(entry -> !entry.getKey().equals(key)
                        && isOurs(entry.getValue())
                        && !(ours && !target.isOriginal() && toOriginal.test(entry.getValue())))
                .map(Map.Entry::getKey)
                .toList()
                .forEach(references::remove);
        if (keyWasAbsent && key.equals(USUAL_KEY)) {
            clip.remove(ACTIVE_KEY);
        } else {
            clip.put(ACTIVE_KEY, key);
        }
        if (target.anew()) {
            readdress(references.path(key), target.address());
            for (JsonNode reference : references) {
                if (!target.original().isEmpty() && toOriginal.test(reference)) {
                    readdress(reference, target.original());
                }
            }
        }
    }

    private static boolean any(ObjectNode references, Predicate<JsonNode> test) {
        return references.properties().stream().anyMatch(entry -> test.test(entry.getValue()));
    }

    private static String freeKey(ObjectNode references, String kind) {
        String key = kind;
        for (int n = 2; references.has(key) && !isOurs(references.path(key)); n++) {
            key = kind + "-" + n;
        }
        return key;
    }

    private static JsonNode like(ObjectNode references, JsonNode active, Predicate<JsonNode> toOriginal) {
        return references.properties().stream()
                .map(Map.Entry::getValue)
                .filter(toOriginal)
                .findFirst()
                .orElse(active);
    }

    private static JsonNode replaced(
            JsonNode now, MediaTarget target, Predicate<JsonNode> wanted, Predicate<JsonNode> toOriginal) {
        JsonNode kept = isOurs(now) ? own(now).path("kept") : now;
        JsonNode next;
        if (wanted.test(kept)) {
            next = kept.deepCopy();
        } else {
            ObjectNode reference = newReference(target, toOriginal.test(kept) || !kept.isObject() ? kept : now);
            if (kept.isObject()) {
                ((ObjectNode) own(reference)).set("kept", kept.deepCopy());
            }
            next = reference;
        }
        if (target.anew()) {
            readdress(next, target.address());
            if (!target.original().isEmpty() && toOriginal.test(own(next).path("kept"))) {
                readdress(own(next).path("kept"), target.original());
            }
        }
        return next;
    }

    private static MediaTarget originalOf(MediaTarget copy) {
        return new MediaTarget(
                MediaTarget.ORIGINAL,
                copy.original(),
                copy.original(),
                copy.original().substring(copy.original().lastIndexOf('/') + 1),
                Optional.empty(),
                Map.of(),
                copy.anew());
    }

    private static JsonNode own(JsonNode reference) {
        return reference.path("metadata").path(OWN);
    }

    private static boolean isOurs(JsonNode reference) {
        return own(reference).isObject();
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

    /// A whole copy has the frames and the timecode of its original, so it has the available range that the
    /// original's reference states; otherwise one is made from what the file holds.
    private static ObjectNode newReference(MediaTarget target, JsonNode like) {
        ObjectNode reference = MAPPER.createObjectNode();
        reference.put("OTIO_SCHEMA", "ExternalReference.1");
        ObjectNode own = reference.putObject("metadata").putObject(OWN);
        own.put("kind", target.kind());
        target.notes().entrySet().stream()
                .sorted(Map.Entry.comparingByKey())
                .forEach(note -> own.put(note.getKey(), note.getValue()));
        reference.put("name", target.fileName());
        JsonNode range = like.path("available_range");
        boolean whole = target.available().map(MediaTarget.Held::whole).orElse(true);
        reference.set("available_range", range.isObject() && whole ? range.deepCopy() : availableRange(target));
        JsonNode bounds = like.path("available_image_bounds");
        reference.set("available_image_bounds", bounds.isMissingNode() ? MAPPER.nullNode() : bounds.deepCopy());
        reference.put("target_url", target.address());
        return reference;
    }

    private static JsonNode availableRange(MediaTarget target) {
        if (target.available().isEmpty()) {
            return MAPPER.nullNode();
        }
        MediaTarget.Held held = target.available().get();
        double rate = held.rate().exact().toDouble();
        ObjectNode range = MAPPER.createObjectNode();
        range.put("OTIO_SCHEMA", "TimeRange.1");
        range.set("duration", rationalTime(held.frames(), rate));
        range.set("start_time", rationalTime(held.start(), rate));
        return range;
    }

    private static ObjectNode rationalTime(long frames, double rate) {
        ObjectNode time = MAPPER.createObjectNode();
        time.put("OTIO_SCHEMA", "RationalTime.1");
        time.put("rate", rate);
        time.put("value", (double) frames);
        return time;
    }

    private static void readdress(JsonNode node, String address) {
        if (!(node instanceof ObjectNode reference)) {
            return;
        }
        if (schema(reference).startsWith("ImageSequenceReference.")) {
            boolean slash = reference.path("target_url_base").asText("").endsWith("/");
            int end = Math.max(address.lastIndexOf('/'), address.lastIndexOf('\\'));
            reference.put("target_url_base", address.substring(0, Math.max(0, slash ? end + 1 : end)));
        } else {
            reference.put("target_url", address);
        }
    }

    @Override
    public void markReview(String words) {
        ObjectNode metadata = root.path("metadata") instanceof ObjectNode there ? there : root.putObject("metadata");
        if (words.isEmpty()) {
            if (metadata.path(OWN) instanceof ObjectNode own) {
                own.remove("review");
                if (own.isEmpty()) {
                    metadata.remove(OWN);
                }
            }
        } else {
            ObjectNode own = metadata.path(OWN) instanceof ObjectNode there ? there : metadata.putObject(OWN);
            own.put("review", words);
        }
    }

    @Override
    public String reviewMark() {
        return root.path("metadata").path(OWN).path("review").asText("");
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

    // Walking the tree

    private record Node(ObjectNode json, Where where) {}

    /// @param track empty outside tracks
    /// @param begins seconds since the outermost track began
    /// @param transition that came just before
    /// @param overlap with the neighbours on both sides
    private record Where(
            String track,
            TimelineEvent.Kind kind,
            Rational begins,
            TimelineEvent.Transition transition,
            TimelineEvent.Overlap overlap) {
        static final Where START = outside("", TimelineEvent.Kind.PICTURE, Rational.ZERO);

        static Where outside(String track, TimelineEvent.Kind kind, Rational begins) {
            return new Where(track, kind, begins, TimelineEvent.Transition.NONE, TimelineEvent.Overlap.NONE);
        }

        /// With what comes next in the row.
        Where before(Optional<JsonNode> next) {
            return new Where(
                    track,
                    kind,
                    begins,
                    transition,
                    new TimelineEvent.Overlap(
                            transition.before(),
                            next.map(Where::transition)
                                    .map(TimelineEvent.Transition::after)
                                    .orElse(Rational.ZERO)));
        }

        private static TimelineEvent.Transition transition(JsonNode part) {
            return schema(part).startsWith("Transition.")
                    ? new TimelineEvent.Transition(
                            seconds(part.path("in_offset")).orElse(Rational.ZERO),
                            seconds(part.path("out_offset")).orElse(Rational.ZERO))
                    : TimelineEvent.Transition.NONE;
        }

        /// Behind a part of a track; a transition lies over its neighbours and takes no time of its own.
        Where after(JsonNode part, Rational length) {
            try {
                return new Where(track, kind, begins.plus(length), transition(part), TimelineEvent.Overlap.NONE);
            } catch (ArithmeticException e) {
                return this;
            }
        }
    }

    /// Children of a track follow each other, those of everything else lie over each other.
    private void collect(JsonNode node, Where where, int depth) {
        if (depth > DEEPEST) {
            return;
        }
        if (node instanceof ObjectNode object) {
            String schema = schema(object);
            if (schema.startsWith("Clip.")) {
                clips.add(new Node(object, where));
                return;
            }
            Where inside = schema.startsWith("Track.") ? ofTrack(object, where) : where;
            for (Map.Entry<String, JsonNode> entry : object.properties()) {
                boolean inRow = schema.startsWith("Track.") && entry.getKey().equals("children");
                if (inRow) {
                    Where next = inside;
                    for (int i = 0; i < entry.getValue().size(); i++) {
                        JsonNode child = entry.getValue().get(i);
                        collect(
                                child,
                                next.before(Optional.ofNullable(entry.getValue().get(i + 1))),
                                depth + 1);
                        next = next.after(child, duration(child, depth));
                    }
                } else if (!entry.getKey().equals("metadata")) {
                    collect(entry.getValue(), inside, depth + 1);
                }
            }
        } else if (node instanceof ArrayNode array) {
            int number = 1;
            for (JsonNode child : array) {
                boolean outermost = schema(child).startsWith("Track.") && where.track.isEmpty();
                Where numbered = outermost ? Where.outside(Integer.toString(number), where.kind, where.begins) : where;
                collect(child, numbered, depth + 1);
                number++;
            }
        }
    }

    private static Rational duration(JsonNode node, int depth) {
        Optional<Rational> stated = seconds(node.path("source_range").path("duration"));
        if (stated.isPresent()) {
            return stated.get();
        }
        String schema = schema(node);
        Rational length = Rational.ZERO;
        if (schema.startsWith("Clip.")) {
            return seconds(activeReference(node).path("available_range").path("duration"))
                    .orElse(length);
        }
        if (depth > DEEPEST) {
            return length;
        }
        for (JsonNode child : node.path("children")) {
            Rational of = duration(child, depth + 1);
            if (schema.startsWith("Track.")) {
                length = length.plus(of);
            } else if (of.compareTo(length) > 0) {
                length = of;
            }
        }
        return length;
    }

    private static Where ofTrack(ObjectNode track, Where where) {
        String kind = track.path("kind").asText("Track");
        String name = track.path("name").asText("");
        return Where.outside(
                name.isBlank() ? (kind + " " + where.track).strip() : name,
                kind.equalsIgnoreCase("Audio") ? TimelineEvent.Kind.SOUND : TimelineEvent.Kind.PICTURE,
                where.begins);
    }

    private static String schema(JsonNode node) {
        return node.path("OTIO_SCHEMA").asText("");
    }

    private static JsonNode activeReference(JsonNode clip) {
        JsonNode references = clip.path("media_references");
        if (references.isObject()) {
            return references.path(clip.path(ACTIVE_KEY).asText(USUAL_KEY));
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
}
