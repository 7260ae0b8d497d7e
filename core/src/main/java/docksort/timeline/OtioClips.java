package docksort.timeline;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import docksort.media.Rational;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/// Clips of an OpenTimelineIO tree with where they stand.
final class OtioClips {
    private final List<Node> clips = new ArrayList<>();

    private OtioClips() {}

    record Node(ObjectNode json, Where where) {}

    /// @param track empty outside tracks
    /// @param begins seconds since the outermost track began
    /// @param transition that came just before
    /// @param overlap with the neighbours on both sides
    record Where(
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

        static TimelineEvent.Transition transition(JsonNode part) {
            return OtioValues.schema(part).startsWith("Transition.")
                    ? new TimelineEvent.Transition(
                            OtioValues.seconds(part.path("in_offset")).orElse(Rational.ZERO),
                            OtioValues.seconds(part.path("out_offset")).orElse(Rational.ZERO))
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

    static List<Node> of(ObjectNode timeline) {
        var walk = new OtioClips();
        walk.collect(timeline, Where.START, 0);
        return walk.clips;
    }

    /// Children of a track follow each other, those of everything else lie over each other.
    private void collect(JsonNode node, Where where, int depth) {
        if (depth > OtioValues.DEEPEST) {
            return;
        }
        if (node instanceof ObjectNode object) {
            String schema = OtioValues.schema(object);
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
                        next = next.after(child, OtioValues.duration(child, depth));
                    }
                } else if (!entry.getKey().equals("metadata")) {
                    collect(entry.getValue(), inside, depth + 1);
                }
            }
        } else if (node instanceof ArrayNode array) {
            int number = 1;
            for (JsonNode child : array) {
                boolean outermost = OtioValues.schema(child).startsWith("Track.") && where.track.isEmpty();
                Where numbered = outermost ? Where.outside(Integer.toString(number), where.kind, where.begins) : where;
                collect(child, numbered, depth + 1);
                number++;
            }
        }
    }

    private static Where ofTrack(ObjectNode track, Where where) {
        String kind = track.path("kind").asText("Track");
        String name = track.path("name").asText("");
        return Where.outside(
                name.isBlank() ? (kind + " " + where.track).strip() : name,
                kind.equalsIgnoreCase("Audio") ? TimelineEvent.Kind.SOUND : TimelineEvent.Kind.PICTURE,
                where.begins);
    }
}
