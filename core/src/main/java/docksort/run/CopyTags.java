package docksort.run;

import docksort.arrival.Clip;
import docksort.catalogue.WorkingCopy;
import java.util.Map;

/// What a copy tells of itself in its own metadata, so that it can be recognised without any catalogue.
public final class CopyTags {
    /// Fingerprint of the original.
    public static final String SOURCE = "docksort.source";

    /// Id of the recipe it was made by.
    public static final String RECIPE = "docksort.recipe";

    /// First frame and number of frames of the original that it holds.
    public static final String RANGE = "docksort.range";

    /// Name of the original.
    public static final String CLIP = "docksort.clip";

    private CopyTags() {}

    static Map<String, String> of(Clip clip, WorkingCopy copy) {
        long frames = clip.facts().video().map(v -> v.frames().count()).orElse(0L);
        return Map.of(
                SOURCE, clip.fingerprint().toString(),
                RECIPE, copy.recipeId(),
                RANGE, "0+" + frames,
                CLIP, clip.name().replaceAll("\\p{Cntrl}", "_"));
    }
}
