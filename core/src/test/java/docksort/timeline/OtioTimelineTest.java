package docksort.timeline;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import docksort.Decisions;
import docksort.media.FrameRate;
import docksort.media.Raster;
import docksort.media.Rational;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.function.Predicate;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class OtioTimelineTest {
    private static final ObjectMapper JSON = new ObjectMapper();

    @TempDir
    Path folder = Path.of("");

    @Provide
    Arbitrary<Random> decisions() {
        return Decisions.rows(600);
    }

    /// Nesting, schemas nobody knows, names of every script, odd rates: all of it comes out as it came
    /// in, also after every event went to a copy, the file was saved and read again, and every event went
    /// back.
    @Property(tries = 200)
    void everyFieldSurvivesAndBackIsWhatItWas(@ForAll("decisions") Random random) throws IOException {
        JsonNode before = JSON.readTree(JSON.writeValueAsBytes(new Generated(random).timeline()));
        Path file = Files.createTempFile("cut", ".otio");
        Files.write(file, JSON.writeValueAsBytes(before));
        OtioTimeline timeline = OtioTimeline.open(file);
        assertThat(JSON.readTree(timeline.bytes())).isEqualTo(before);
        List<TimelineEvent> events = timeline.events();
        int turned = 0;
        for (TimelineEvent event : events) {
            String original = event.media().address();
            if (!original.isEmpty()) {
                boolean changed = timeline.point(event.number(), copy(event.number(), original), isAt(original));
                assertThat(changed).isTrue();
                turned++;
            }
        }
        timeline.save(file);
        OtioTimeline again = OtioTimeline.open(file);
        assertThat(again.events().stream()
                        .filter(event -> event.media().address().startsWith("file:///copies/")))
                .hasSize(turned);
        for (int i = 0; i < events.size(); i++) {
            TimelineEvent was = events.get(i);
            TimelineEvent is = again.events().get(i);
            assertThat(is.name()).isEqualTo(was.name());
            assertThat(is.use()).as("same frames, same range").isEqualTo(was.use());
            String original = was.media().address();
            if (!original.isEmpty()) {
                assertThat(is.media().others()).contains(original);
                assertThat(again.point(is.number(), original(original), isAt(original)))
                        .isTrue();
            }
        }
        assertThat(JSON.readTree(again.bytes())).isEqualTo(before);
        Files.delete(file);
    }

    private static Predicate<String> isAt(String original) {
        return original::equals;
    }

    private static MediaTarget copy(int number, String original) {
        return new MediaTarget(
                "light",
                "file:///copies/" + number + ".mov",
                original,
                number + ".mov",
                Optional.empty(),
                Map.of(),
                false);
    }

    private static MediaTarget original(String address) {
        return new MediaTarget(MediaTarget.ORIGINAL, address, address, "o.mov", Optional.empty(), Map.of(), false);
    }

    /// A timeline of the schema's common objects, and of some that nobody knows.
    private static final class Generated {
        private static final List<Double> RATES =
                List.of(23.976023976023978, 24.0, 25.0, 29.97002997002997, 50.0, 59.94005994005994, 12.5, 100.0);
        private static final List<String> NAMES =
                List.of("A001", "夜の鏡", "зеркало", "Spiegel \"groß\"", "e\u0301toile", "a/b\\c", "", "🔭");
        private final Random random;
        private int media;

        Generated(Random random) {
            this.random = random;
        }

        ObjectNode timeline() {
            ObjectNode root = object("Timeline.1");
            root.set("global_start_time", random.nextBoolean() ? JSON.nullNode() : time(86_400));
            root.set("tracks", stack(0));
            root.putObject("x_of_nobody").put("n", random.nextDouble());
            return root;
        }

        private ObjectNode object(String schema) {
            ObjectNode node = JSON.createObjectNode();
            node.put("OTIO_SCHEMA", schema);
            node.put("name", NAMES.get(random.nextInt(NAMES.size())));
            ObjectNode metadata = node.putObject("metadata");
            if (random.nextInt(3) == 0) {
                metadata.putObject("house")
                        .put("note", NAMES.get(random.nextInt(NAMES.size())))
                        .put("n", random.nextLong());
            }
            return node;
        }

        private ObjectNode stack(int depth) {
            ObjectNode stack = object("Stack.1");
            stack.putNull("source_range");
            ArrayNode children = stack.putArray("children");
            for (int i = 0; i <= random.nextInt(3); i++) {
                ObjectNode track = object("Track.1");
                track.put("kind", random.nextInt(4) == 0 ? "Audio" : "Video");
                ArrayNode parts = track.putArray("children");
                for (int j = 0; j <= random.nextInt(6); j++) {
                    parts.add(part(depth));
                }
                children.add(track);
            }
            return stack;
        }

        private ObjectNode part(int depth) {
            return switch (random.nextInt(9)) {
                case 0 -> ranged(object("Gap.1"));
                case 1 -> transition();
                case 2 -> depth < 3 ? stack(depth + 1) : ranged(object("Gap.1"));
                case 3 -> ranged(object("HouseThing.7"));
                default -> clip();
            };
        }

        private ObjectNode transition() {
            ObjectNode transition = object("Transition.1");
            transition.put("transition_type", "SMPTE_Dissolve");
            transition.set("in_offset", time(6));
            transition.set("out_offset", time(7));
            return transition;
        }

        private ObjectNode clip() {
            ObjectNode clip = ranged(object(random.nextBoolean() ? "Clip.2" : "Clip.1"));
            ArrayNode effects = clip.putArray("effects");
            switch (random.nextInt(5)) {
                case 0 -> effects.add(object("LinearTimeWarp.1").put("time_scalar", random.nextDouble() * 4 - 2));
                case 1 -> effects.add(object("FreezeFrame.1").put("time_scalar", 0));
                case 2 -> effects.add(object("HouseEffect.3").put("amount", 7));
                default -> {}
            }
            ArrayNode markers = clip.putArray("markers");
            if (random.nextBoolean()) {
                markers.add(object("Marker.2").put("color", "RED"));
            }
            ObjectNode reference = reference();
            if (clip.path("OTIO_SCHEMA").asText().equals("Clip.1")) {
                clip.set("media_reference", reference);
            } else {
                ObjectNode references = clip.putObject("media_references");
                references.set("DEFAULT_MEDIA", reference);
                if (random.nextInt(4) == 0) {
                    references.set("audio only", object("HouseReference.1").put("where", "x"));
                }
                if (random.nextInt(8) > 0) {
                    clip.put("active_media_reference_key", "DEFAULT_MEDIA");
                }
            }
            return clip;
        }

        private ObjectNode reference() {
            if (random.nextInt(6) == 0) {
                return object("MissingReference.1");
            }
            if (random.nextInt(6) == 0) {
                return object("ImageSequenceReference.1")
                        .put("target_url_base", "file:///media/" + ++media + (random.nextBoolean() ? "/" : ""))
                        .put("name_prefix", "DOME_")
                        .put("name_suffix", ".png")
                        .put("start_frame", 1)
                        .put("frame_zero_padding", 4);
            }
            ObjectNode reference = object("ExternalReference.1");
            if (random.nextBoolean()) {
                reference.set("available_range", range());
            }
            reference.put("target_url", (random.nextBoolean() ? "file:///media/" : "../media/") + ++media + "%20x.mov");
            return reference;
        }

        private ObjectNode ranged(ObjectNode node) {
            if (random.nextInt(5) > 0) {
                node.set("source_range", range());
            }
            return node;
        }

        private ObjectNode range() {
            ObjectNode range = JSON.createObjectNode();
            range.put("OTIO_SCHEMA", "TimeRange.1");
            range.set("duration", time(1 + random.nextInt(200)));
            range.set("start_time", time(random.nextInt(2_000_000)));
            return range;
        }

        private ObjectNode time(double value) {
            return JSON.createObjectNode()
                    .put("OTIO_SCHEMA", "RationalTime.1")
                    .put("rate", RATES.get(random.nextInt(RATES.size())))
                    .put("value", random.nextInt(9) == 0 ? value + 0.25 : value);
        }
    }

    private OtioTimeline opened(String children) throws IOException {
        return OtioTimeline.open(Files.writeString(folder.resolve("x.otio"), """
            {"OTIO_SCHEMA": "Timeline.1", "name": "x", "metadata": {"house": {"width": 960, "height": 540}},
             "tracks": {"OTIO_SCHEMA": "Stack.1", "children": [
               {"OTIO_SCHEMA": "Track.1", "kind": "Video", "name": "V1", "children": [%s]}]}}
            """.formatted(children)));
    }

    private static String range(int start, int count, String rate) {
        return """
            {"OTIO_SCHEMA": "TimeRange.1", "start_time": {"OTIO_SCHEMA": "RationalTime.1", "rate": %s, "value": %d},
             "duration": {"OTIO_SCHEMA": "RationalTime.1", "rate": %s, "value": %d}}\
            """.formatted(rate, start, rate, count);
    }

    @Test
    void placesTransitionsSpeedsAndExactRatesAreRead() throws IOException {
        OtioTimeline timeline = opened("""
            {"OTIO_SCHEMA": "Gap.1", "source_range": %s},
            {"OTIO_SCHEMA": "Clip.2", "name": "a", "metadata": {"house": {"Reel": "N01"}}, "source_range": %s,
             "effects": [{"OTIO_SCHEMA": "LinearTimeWarp.1", "time_scalar": -2.0}],
             "media_references": {"DEFAULT_MEDIA": {"OTIO_SCHEMA": "ExternalReference.1", "target_url": "a.mov"}}},
            {"OTIO_SCHEMA": "Transition.1", "in_offset": {"OTIO_SCHEMA": "RationalTime.1", "rate": 24, "value": 6},
             "out_offset": {"OTIO_SCHEMA": "RationalTime.1", "rate": 24, "value": 12}},
            {"OTIO_SCHEMA": "Stack.1", "children": [{"OTIO_SCHEMA": "Clip.1", "name": "b",
             "source_range": {"x": 1}, "media_reference": {"OTIO_SCHEMA": "MissingReference.1"}}]}
            """.formatted(range(0, 48, "24"), range(100, 24, "23.976023976023978")));
        TimelineEvent a = timeline.events().getFirst();
        assertThat(a.begins()).isEqualTo(Rational.of(2));
        assertThat(a.media().reel()).isEqualTo("N01");
        var use = (SourceUse.Times) a.use();
        assertThat(use.rate()).isEqualTo(new FrameRate(24000, 1001));
        assertThat(use.start()).isEqualTo(new Rational(100 * 1001, 24000));
        assertThat(use.speed()).isEqualTo(Rational.of(-2));
        TimelineEvent b = timeline.events().get(1);
        assertThat(b.use()).isEqualTo(new SourceUse.Whole());
        assertThat(b.media().clipName())
                .as("a missing reference leaves the name")
                .isEqualTo("b");
        assertThat(b.transition().length()).isEqualTo(new Rational(3, 4));
        assertThat(b.begins()).isEqualTo(Rational.of(2).plus(new Rational(24 * 1001, 24000)));
        assertThat(timeline.raster()).contains(new Raster(960, 540));
        assertThat(timeline.rate()).contains(new FrameRate(24, 1));
    }

    /// A timeline that arrives on copies gets a reference to the original beside, and loses it on the way
    /// back.
    @Test
    void aTimelineThatArrivesOnCopiesGoesToOriginalsAndBack() throws IOException {
        for (String clip : List.of(
                "{\"OTIO_SCHEMA\": \"Clip.2\", \"media_references\": {\"DEFAULT_MEDIA\": %s}}",
                "{\"OTIO_SCHEMA\": \"Clip.1\", \"media_reference\": %s}")) {
            OtioTimeline timeline = opened(
                    clip.formatted("{\"OTIO_SCHEMA\": \"ExternalReference.1\", \"target_url\": \"/copies/1.mov\"}"));
            JsonNode before = JSON.readTree(timeline.bytes());
            timeline.point(1, original("file:///o.mov"), isAt("file:///o.mov"));
            assertThat(timeline.events().getFirst().media().address()).isEqualTo("file:///o.mov");
            timeline.point(1, copy(1, "file:///o.mov"), isAt("file:///o.mov"));
            assertThat(JSON.readTree(timeline.bytes())).isEqualTo(before);
        }
    }

    @Test
    void absurdNumbersAreNoTimes() throws IOException {
        OtioTimeline timeline = opened("{\"OTIO_SCHEMA\": \"Clip.1\", \"source_range\": "
                + range(1, 1, "1e999999").replace("\"value\": 1", "\"value\": -9e300") + "}");
        assertThat(timeline.events().getFirst().use()).isEqualTo(new SourceUse.Whole());
    }
}
