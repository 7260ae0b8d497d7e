package docksort.stock;

import docksort.arrival.ClipId;
import docksort.media.FrameRange;
import docksort.sort.Recipe;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;

/// What finished copies are held against besides their files.
///
/// @param marks marks of the recipes as they are now, by id
/// @param used what timelines use of each clip, with handles, merged
public record Standards(Map<String, String> marks, Map<ClipId, List<FrameRange>> used) {
    public static Standards of(List<Recipe> recipes, Map<ClipId, List<FrameRange>> used) {
        return new Standards(recipes.stream().collect(Collectors.toMap(Recipe::id, Recipe::mark)), used);
    }
}
