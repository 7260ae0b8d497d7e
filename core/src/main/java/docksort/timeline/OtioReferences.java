package docksort.timeline;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.util.Map;
import java.util.Optional;
import java.util.function.Predicate;

/// Media references of a clip, read and written. In a Clip.2 the copy's reference stands beside the
/// original's under a key of its own and the active key is turned. A Clip.1 has one place only: there the
/// reference keeps the one it replaced in its metadata. Turned back, what was added is taken out again.
final class OtioReferences {
    static final String OWN = "docksort";
    private static final String ACTIVE_KEY = "active_media_reference_key";
    private static final String USUAL_KEY = "DEFAULT_MEDIA";

    private OtioReferences() {}

    static JsonNode active(JsonNode clip) {
        JsonNode references = clip.path("media_references");
        if (references.isObject()) {
            return references.path(clip.path(ACTIVE_KEY).asText(USUAL_KEY));
        }
        return clip.path("media_reference");
    }

    static boolean isMedia(JsonNode reference) {
        return !address(reference).isEmpty();
    }

    static String address(JsonNode reference) {
        if (OtioValues.schema(reference).startsWith("ImageSequenceReference.")) {
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

    static void turnKey(
            ObjectNode clip,
            ObjectNode references,
            MediaTarget target,
            Predicate<JsonNode> wanted,
            Predicate<JsonNode> toOriginal) {
        JsonNode like = like(references, active(clip), toOriginal);
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

    static JsonNode replaced(
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

    static JsonNode own(JsonNode reference) {
        return reference.path("metadata").path(OWN);
    }

    private static boolean isOurs(JsonNode reference) {
        return own(reference).isObject();
    }

    /// A whole copy has the frames and the timecode of its original, so it has the available range that the
    /// original's reference states; otherwise one is made from what the file holds.
    private static ObjectNode newReference(MediaTarget target, JsonNode like) {
        ObjectNode reference = JsonNodeFactory.instance.objectNode();
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
        reference.set(
                "available_image_bounds",
                bounds.isMissingNode() ? JsonNodeFactory.instance.nullNode() : bounds.deepCopy());
        reference.put("target_url", target.address());
        return reference;
    }

    private static JsonNode availableRange(MediaTarget target) {
        if (target.available().isEmpty()) {
            return JsonNodeFactory.instance.nullNode();
        }
        MediaTarget.Held held = target.available().get();
        double rate = held.rate().exact().toDouble();
        ObjectNode range = JsonNodeFactory.instance.objectNode();
        range.put("OTIO_SCHEMA", "TimeRange.1");
        range.set("duration", rationalTime(held.frames(), rate));
        range.set("start_time", rationalTime(held.start(), rate));
        return range;
    }

    private static ObjectNode rationalTime(long frames, double rate) {
        ObjectNode time = JsonNodeFactory.instance.objectNode();
        time.put("OTIO_SCHEMA", "RationalTime.1");
        time.put("rate", rate);
        time.put("value", (double) frames);
        return time;
    }

    private static void readdress(JsonNode node, String address) {
        if (!(node instanceof ObjectNode reference)) {
            return;
        }
        if (OtioValues.schema(reference).startsWith("ImageSequenceReference.")) {
            boolean slash = reference.path("target_url_base").asText("").endsWith("/");
            int end = Math.max(address.lastIndexOf('/'), address.lastIndexOf('\\'));
            reference.put("target_url_base", address.substring(0, Math.max(0, slash ? end + 1 : end)));
        } else {
            reference.put("target_url", address);
        }
    }
}
