package docksort.engine;

import docksort.media.ClipFacts;
import docksort.media.ClipSource;
import docksort.media.CopyForm;
import java.nio.file.Path;
import java.util.Map;
import java.util.TreeMap;

/// One copy to encode: from what, into what, to where. All choices are made; nothing is left to the encoder's
/// defaults.
///
/// @param name the clip's name, for a burn-in
/// @param tags what the copy tells of itself, written into its metadata where the container takes it
/// @param output a partial file; it is overwritten
public record CopyOrder(
        ClipSource source, ClipFacts facts, CopyForm form, String name, Map<String, String> tags, Path output) {
    public CopyOrder {
        tags = java.util.Collections.unmodifiableMap(new TreeMap<>(tags));
    }
}
