package docksort.sort;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.core.StreamReadConstraints;
import com.fasterxml.jackson.core.StreamReadFeature;
import com.fasterxml.jackson.databind.DeserializationFeature;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.SerializationFeature;
import com.fasterxml.jackson.databind.json.JsonMapper;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import com.networknt.schema.JsonSchema;
import com.networknt.schema.JsonSchemaFactory;
import com.networknt.schema.SpecVersion;
import docksort.media.BurnIn;
import docksort.media.BurnIns;
import docksort.media.ColourDecision;
import docksort.media.ColourDecision.Channels;
import docksort.media.FrameLines;
import docksort.media.FrameRate;
import docksort.media.KeptFile;
import docksort.media.KeptImage;
import docksort.media.Look;
import docksort.media.Raster;
import docksort.media.SoundForm;
import docksort.media.SoundMix;
import docksort.media.Watermark;
import docksort.media.Wrapper;
import docksort.problem.CoreException.InputRefused;
import docksort.problem.Problem;
import java.io.IOException;
import java.io.InputStream;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/// Recipes and rules as a JSON file that can be edited by hand and passed on. Its form is described by
/// `recipes-and-rules.schema.json`; what a schema cannot say (parts that do not go together) is checked
/// after.
public final class SortBookFile {
    public static final String SCHEMA = "recipes-and-rules.schema.json";
    private static final String FORMAT = "dock-sort recipes and rules";
    private static final int VERSION = 1;
    private static final int MOST_COMPLAINTS = 5;

    private static final ObjectMapper JSON = JsonMapper.builder(JsonFactory.builder()
                    .streamReadConstraints(StreamReadConstraints.builder()
                            .maxNestingDepth(30)
                            .maxDocumentLength(8L * 1024 * 1024)
                            .build())
                    .enable(StreamReadFeature.STRICT_DUPLICATE_DETECTION)
                    .build())
            .enable(DeserializationFeature.FAIL_ON_TRAILING_TOKENS)
            .enable(SerializationFeature.INDENT_OUTPUT)
            .build();

    private SortBookFile() {}

    private static final JsonSchema CHECKED = schema();

    private static JsonSchema schema() {
        try (InputStream in = SortBookFile.class.getResourceAsStream(SCHEMA)) {
            if (in == null) {
                throw new IllegalStateException("the schema is not among the program's files");
            }
            return JsonSchemaFactory.getInstance(SpecVersion.VersionFlag.V202012)
                    .getSchema(in);
        } catch (IOException e) {
            throw new IllegalStateException("the schema cannot be read", e);
        }
    }

    /// @param name what the text is called in messages, for instance a path
    /// @throws InputRefused with the place of every fault, when the text is no such file
    public static SortBook read(byte[] text, String name) {
        return read(text, name, List.of());
    }

    /// @param known recipes that its rules may name beside its own ones: those that they do name come with it
    public static SortBook read(byte[] text, String name, List<Recipe> known) {
        JsonNode root;
        try {
            root = JSON.readTree(text);
        } catch (JsonProcessingException e) {
            var at = e.getLocation();
            String place = at == null ? "" : "line " + at.getLineNr() + ", column " + at.getColumnNr() + ": ";
            throw refused(name, place + e.getOriginalMessage());
        } catch (IOException e) {
            throw refused(name, String.valueOf(e.getMessage()));
        }
        List<String> faults = CHECKED.validate(root).stream()
                .map(fault -> place(fault.getInstanceLocation().toString()) + fault.getError())
                .sorted()
                .toList();
        if (!faults.isEmpty()) {
            String more =
                    faults.size() > MOST_COMPLAINTS ? " (and " + (faults.size() - MOST_COMPLAINTS) + " more)" : "";
            throw refused(name, faults.stream().limit(MOST_COMPLAINTS).collect(Collectors.joining("; ")) + more);
        }
        return book(root, name, known);
    }

    private static String place(String pointer) {
        String path = pointer.startsWith("$") ? pointer.substring(1) : pointer;
        return path.isEmpty() ? "" : path.replaceFirst("^[./]", "") + ": ";
    }

    private static InputRefused refused(String name, String why) {
        return new InputRefused(new Problem(
                name + " has no recipes and rules that can be used",
                why,
                "Recipes and rules are as they were.",
                "Correct it there, or export it again."));
    }

    private interface PastCopy<T> {
        T make();
    }

    /// One part of the file, with its place where it cannot be used.
    private static <T> T part(String name, String place, PastCopy<T> part) {
        try {
            return part.make();
        } catch (IllegalArgumentException | ArithmeticException e) {
            throw refused(name, place + ": " + e.getMessage());
        }
    }

    private static SortBook book(JsonNode root, String name, List<Recipe> known) {
        var recipes = new ArrayList<Recipe>();
        for (JsonNode recipe : root.path("recipes")) {
            recipes.add(part(name, "recipes[" + recipes.size() + "]", () -> recipe(recipe)));
        }
        var rules = new ArrayList<SortRule>();
        for (JsonNode rule : root.path("rules")) {
            rules.add(part(name, "rules[" + rules.size() + "]", () -> rule(rule)));
        }
        known.stream()
                .filter(recipe -> rules.stream().anyMatch(rule -> rule.make().contains(recipe.id())))
                .filter(recipe -> recipes.stream().noneMatch(own -> own.id().equals(recipe.id())))
                .toList()
                .forEach(recipes::add);
        return part(
                name,
                "the file as a whole",
                () -> new SortBook(recipes, rules, root.path("queueNewArrivals").asBoolean(false)));
    }

    private static Recipe recipe(JsonNode in) {
        JsonNode sound = in.path("sound");
        var muted = new ArrayList<Integer>();
        sound.path("muted").forEach(channel -> muted.add(channel.asInt()));
        var burnIns = new ArrayList<BurnIn>();
        in.path("burnIns")
                .forEach(burnIn -> burnIns.add(new BurnIn(
                        read(BurnIn.What.class, burnIn.path("what"), BurnIn.What.NAME),
                        read(BurnIn.At.class, burnIn.path("at"), BurnIn.At.BOTTOM),
                        burnIn.path("text").asText(""))));
        Encoding encoding = read(Encoding.class, in.path("codec"), Encoding.PRORES_PROXY);
        return new Recipe(
                in.path("id").asText(),
                in.path("name").asText(),
                read(CopyKind.class, in.path("kind"), CopyKind.LIGHT),
                encoding,
                read(Wrapper.class, in.path("container"), encoding.isSoundOnly() ? Wrapper.WAV : Wrapper.MOV),
                scaling(in.path("raster")),
                in.path("keepsAlpha").asBoolean(true),
                in.path("squarePixels").asBoolean(false),
                in.has("conformTo")
                        ? Optional.of(FrameRate.parse(in.path("conformTo").asText()))
                        : Optional.empty(),
                in.path("deinterlaces").asBoolean(false),
                look(in),
                new SoundForm(
                        sound.path("bits").asInt(0),
                        sound.path("samplesPerSecond").asInt(0),
                        muted,
                        mix(sound.path("mix"))),
                new BurnIns(burnIns, frame(in.path("frameLines")), watermark(in.path("watermark"))),
                in.path("naming").asText(Recipe.USUAL_NAMING),
                read(Placing.class, in.path("place"), Placing.BY_ARRIVAL),
                in.path("hardware").asBoolean(false));
    }

    private static SoundMix mix(JsonNode in) {
        boolean streams = in.path(0).isArray();
        var parts = new ArrayList<String>();
        in.forEach(part -> parts.add(streams ? joined(part) : part.asText()));
        return SoundMix.parse(String.join(streams ? ";" : ",", parts));
    }

    private static String joined(JsonNode stream) {
        var channels = new ArrayList<String>();
        stream.forEach(channel -> channels.add(channel.asText()));
        return String.join(",", channels);
    }

    private static Optional<FrameLines> frame(JsonNode in) {
        return in.isMissingNode()
                ? Optional.empty()
                : Optional.of(FrameLines.parse(
                        in.path("aspect").asText(),
                        read(FrameLines.Outside.class, in.path("outside"), FrameLines.Outside.LINE)));
    }

    private static Optional<Watermark> watermark(JsonNode in) {
        return in.isMissingNode()
                ? Optional.empty()
                : Optional.of(new Watermark(
                        new KeptImage(
                                new KeptFile(
                                        in.path("digest").asText(),
                                        in.path("name").asText()),
                                Raster.parse(in.path("size").asText())),
                        read(BurnIn.At.class, in.path("at"), BurnIn.At.CENTRE),
                        in.path("high").asInt(),
                        in.path("seen").asInt(100)));
    }

    private static Look look(JsonNode in) {
        JsonNode look = in.path("look");
        Optional<ColourDecision> decision = Optional.empty();
        if (look.has("slope") || look.has("offset") || look.has("power") || look.has("saturation")) {
            decision = Optional.of(new ColourDecision(
                    channels(look.path("slope"), ColourDecision.NONE.slope()),
                    channels(look.path("offset"), ColourDecision.NONE.offset()),
                    channels(look.path("power"), ColourDecision.NONE.power()),
                    look.path("saturation").asDouble(1)));
        }
        JsonNode table = look.path("table");
        return new Look(
                in.path("toSdr").asBoolean(false),
                decision,
                table.isMissingNode()
                        ? Optional.empty()
                        : Optional.of(new KeptFile(
                                table.path("digest").asText(),
                                table.path("name").asText())));
    }

    private static Channels channels(JsonNode in, Channels otherwise) {
        return in.isMissingNode()
                ? otherwise
                : new Channels(
                        in.get(0).asDouble(), in.get(1).asDouble(), in.get(2).asDouble());
    }

    private static Scaling scaling(JsonNode in) {
        if (in.has("perSide")) {
            return new Scaling.PerSide(in.path("perSide").asInt());
        }
        if (in.has("fitLines")) {
            var lines = new ArrayList<Integer>();
            in.path("fitLines").forEach(line -> lines.add(line.asInt()));
            return new Scaling.FitLines(lines);
        }
        return in.asText("").equals("fit-timeline") ? new Scaling.FitTimeline() : new Scaling.Full();
    }

    private static SortRule rule(JsonNode in) {
        var when = new ArrayList<Condition>();
        in.path("when")
                .forEach(condition -> when.add(new Condition(
                        read(Fact.class, condition.path("fact"), Fact.NAME),
                        read(Fact.Is.class, condition.path("is"), Fact.Is.EXACTLY),
                        condition.path("value").asText())));
        var make = new ArrayList<String>();
        in.path("make").forEach(id -> make.add(id.asText()));
        return new SortRule(when, make);
    }

    /// A constant by its name in small letters with dashes.
    private static <E extends Enum<E>> E read(Class<E> type, JsonNode text, E otherwise) {
        return text.isMissingNode()
                ? otherwise
                : Enum.valueOf(type, text.asText().toUpperCase(Locale.ROOT).replace('-', '_'));
    }

    private static String word(Enum<?> constant) {
        return constant.name().toLowerCase(Locale.ROOT).replace('_', '-');
    }

    public static byte[] write(SortBook book) {
        ObjectNode root = JSON.createObjectNode();
        root.put("format", FORMAT);
        root.put("version", VERSION);
        ArrayNode recipes = root.putArray("recipes");
        book.own().forEach(recipe -> recipes.add(node(recipe)));
        ArrayNode rules = root.putArray("rules");
        book.rules().forEach(rule -> rules.add(node(rule)));
        root.put("queueNewArrivals", book.queueNewArrivals());
        try {
            return JSON.writeValueAsBytes(root);
        } catch (JsonProcessingException e) {
            throw new IllegalStateException("recipes and rules cannot be written", e);
        }
    }

    /// What a recipe is, as text that is the same for the same recipe.
    public static String text(Recipe recipe) {
        return node(recipe).toString();
    }

    private static ObjectNode node(Recipe recipe) {
        ObjectNode out = JSON.createObjectNode();
        out.put("id", recipe.id());
        out.put("name", recipe.name());
        out.put("kind", word(recipe.kind()));
        out.put("codec", word(recipe.encoding()));
        out.put("container", word(recipe.wrapper()));
        switch (recipe.scaling()) {
            case Scaling.Full() -> out.put("raster", "full");
            case Scaling.FitTimeline() -> out.put("raster", "fit-timeline");
            case Scaling.PerSide(int divisor) -> out.putObject("raster").put("perSide", divisor);
            case Scaling.FitLines(List<Integer> lines) -> {
                ArrayNode into = out.putObject("raster").putArray("fitLines");
                lines.forEach(into::add);
            }
        }
        out.put("keepsAlpha", recipe.keepsAlpha());
        out.put("squarePixels", recipe.squarePixels());
        recipe.conformTo().ifPresent(rate -> out.put("conformTo", rate.toString()));
        out.put("deinterlaces", recipe.deinterlaces());
        out.put("toSdr", recipe.look().toSdr());
        if (recipe.look().isBaked()) {
            out.set("look", node(recipe.look()));
        }
        out.set("sound", node(recipe.sound()));
        ArrayNode burnIns = out.putArray("burnIns");
        recipe.burnIns().words().forEach(burnIn -> {
            ObjectNode into = burnIns.addObject();
            into.put("what", word(burnIn.what())).put("at", word(burnIn.at()));
            if (!burnIn.text().isEmpty()) {
                into.put("text", burnIn.text());
            }
        });
        recipe.burnIns()
                .frame()
                .ifPresent(frame -> out.putObject("frameLines")
                        .put(
                                "aspect",
                                frame.aspect().numerator() + ":"
                                        + frame.aspect().denominator())
                        .put("outside", word(frame.outside())));
        recipe.burnIns()
                .watermark()
                .ifPresent(mark -> out.putObject("watermark")
                        .put("digest", mark.image().file().digest())
                        .put("name", mark.image().file().name())
                        .put(
                                "size",
                                mark.image().size().width() + "x"
                                        + mark.image().size().height())
                        .put("at", word(mark.at()))
                        .put("high", mark.high())
                        .put("seen", mark.seen()));
        out.put("naming", recipe.naming());
        out.put("place", word(recipe.placing()));
        out.put("hardware", recipe.hardware());
        return out;
    }

    private static ObjectNode node(Look look) {
        ObjectNode out = JSON.createObjectNode();
        look.decision().ifPresent(values -> {
            values.slope().all().forEach(out.putArray("slope")::add);
            values.offset().all().forEach(out.putArray("offset")::add);
            values.power().all().forEach(out.putArray("power")::add);
            out.put("saturation", values.saturation());
        });
        look.table()
                .ifPresent(table ->
                        out.putObject("table").put("digest", table.digest()).put("name", table.name()));
        return out;
    }

    private static ObjectNode node(SoundForm sound) {
        ObjectNode out = JSON.createObjectNode();
        if (sound.bits() != 0) {
            out.put("bits", sound.bits());
        }
        if (sound.samplesPerSecond() != 0) {
            out.put("samplesPerSecond", sound.samplesPerSecond());
        }
        if (!sound.muted().isEmpty()) {
            ArrayNode muted = out.putArray("muted");
            sound.muted().forEach(muted::add);
        }
        if (!sound.mix().isKept()) {
            ArrayNode mix = out.putArray("mix");
            String[] streams = sound.mix().toString().split("; ", -1);
            for (String stream : streams) {
                ArrayNode in = streams.length > 1 ? mix.addArray() : mix;
                Stream.of(stream.split(", ", -1)).forEach(in::add);
            }
        }
        return out;
    }

    private static ObjectNode node(SortRule rule) {
        ObjectNode out = JSON.createObjectNode();
        ArrayNode when = out.putArray("when");
        rule.when()
                .forEach(condition -> when.addObject()
                        .put("fact", word(condition.fact()))
                        .put("is", word(condition.is()))
                        .put("value", condition.value()));
        ArrayNode make = out.putArray("make");
        rule.make().forEach(make::add);
        return out;
    }
}
