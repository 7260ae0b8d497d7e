package docksort.bench;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.net.URI;
import java.nio.file.Path;
import java.util.Set;
import java.util.TreeSet;

/// Files that an OpenTimelineIO timeline leads to, read without the program.
final class TimelineAddresses {
    private TimelineAddresses() {}

    /// The files that the uses of media in a timeline lead to, read past the program: of several
    /// references the active one.
    static Set<Path> of(Path timeline) throws IOException {
        var found = new TreeSet<Path>();
        for (JsonNode use : new ObjectMapper().readTree(timeline.toFile()).findParents("OTIO_SCHEMA")) {
            if (use.path("OTIO_SCHEMA").asText().startsWith("Clip.")) {
                String active = use.path("active_media_reference_key").asText("DEFAULT_MEDIA");
                JsonNode reference = use.has("media_references")
                        ? use.path("media_references").path(active)
                        : use.path("media_reference");
                found.add(Path.of(URI.create(reference.path("target_url").asText())));
            }
        }
        return found;
    }
}
