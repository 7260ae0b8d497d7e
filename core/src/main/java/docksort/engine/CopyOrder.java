package docksort.engine;

import docksort.media.ClipFacts;
import docksort.media.ClipSource;
import docksort.media.CopyForm;
import java.nio.file.Path;
import java.util.Collections;
import java.util.Map;
import java.util.TreeMap;

/// One copy to encode: from what, into what, to where. All choices are made; nothing is left to the
/// encoder's defaults.
///
/// @param name the clip's name, for a burn-in
/// @param tags what the copy tells of itself, written into its metadata where the container takes it
/// @param output a partial file; it is overwritten
/// @param heldToEnd whether the last frame that decodes is repeated until the copy has all its frames
public record CopyOrder(
        ClipSource source,
        ClipFacts facts,
        CopyForm form,
        String name,
        Map<String, String> tags,
        Path output,
        boolean heldToEnd) {
    /// Without anything being held.
    public CopyOrder(
            ClipSource source, ClipFacts facts, CopyForm form, String name, Map<String, String> tags, Path output) {
        this(source, facts, form, name, tags, output, false);
    }

    public CopyOrder {
        tags = Collections.unmodifiableMap(new TreeMap<>(tags));
    }

    public CopyOrder holdingToEnd() {
        return new CopyOrder(source, facts, form, name, tags, output, true);
    }
}
