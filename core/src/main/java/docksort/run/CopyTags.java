package docksort.run;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.core.type.TypeReference;
import com.fasterxml.jackson.databind.ObjectMapper;
import docksort.arrival.Clip;
import docksort.catalogue.WorkingCopy;
import docksort.files.Documents;
import docksort.media.CopyForm;
import docksort.media.FrameRange;
import docksort.media.Wrapper;
import docksort.problem.CoreException;
import docksort.sort.Recipe;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Map;
import java.util.TreeMap;

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

    /// The look that is baked in, in words; only where there is one.
    public static final String LOOK = "docksort.look";

    /// The recipe's [Recipe#mark], which tells whether it was changed since.
    public static final String RECIPE_MARK = "docksort.recipe-mark";

    /// Version of the program that made it.
    public static final String MADE_BY = "docksort.version";

    static Map<String, String> of(Clip clip, WorkingCopy copy, Recipe recipe) {
        long frames = clip.facts().video().map(v -> v.frames().count()).orElse(0L);
        var tags = new TreeMap<>(Map.of(
                RECIPE_MARK, recipe.mark(),
                MADE_BY, ProgramVersion.TEXT,
                SOURCE, clip.fingerprint().toString(),
                RECIPE, copy.recipeId(),
                RANGE, copy.range().map(FrameRange::toString).orElse("0+" + frames),
                CLIP, clip.name().replaceAll("\\p{Cntrl}", "_")));
        if (recipe.look().isBaked()) {
            tags.put(LOOK, recipe.look().label());
        }
        return tags;
    }

    /// Writes the tags into a small file beside the copy, where the copy's container cannot hold them.
    static void besideWhereNeeded(WorkingCopy copy, CopyForm form, Map<String, String> tags) {
        if (form.wrapper() == Wrapper.MXF || form.wrapper() == Wrapper.WAV) {
            Documents.replace(besides(copy.file()), text(tags));
        }
    }

    /// `A001.mxf` is told of by `A001.mxf.docksort.json`.
    public static Path besides(Path copy) {
        return copy.resolveSibling(copy.getFileName() + ".docksort.json");
    }

    /// What such a small file says; nothing where there is none, or it says nothing that makes sense.
    public static Map<String, String> read(Path sidecar) {
        if (!Files.isRegularFile(sidecar)) {
            return Map.of();
        }
        try {
            return new ObjectMapper().readValue(Documents.read(sidecar), new TypeReference<>() {});
        } catch (IOException | CoreException e) {
            return Map.of(); // then the copy is recognised by other means
        }
    }

    private static byte[] text(Map<String, String> tags) {
        try {
            return new ObjectMapper().writerWithDefaultPrettyPrinter().writeValueAsBytes(new TreeMap<>(tags));
        } catch (JsonProcessingException e) {
            throw new IllegalStateException("tags cannot be written", e);
        }
    }
}
