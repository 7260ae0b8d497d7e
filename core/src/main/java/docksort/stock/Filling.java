package docksort.stock;

import docksort.arrival.Clip;
import docksort.sort.Recipe;
import java.util.List;

/// Recordings of which the camera wrote no small file, and a recipe that makes copies as large as those
/// that it wrote of the others.
///
/// @param recipe one of the project's, or one that is made for it
public record Filling(Recipe recipe, List<Clip> clips) {
    public Filling {
        clips = List.copyOf(clips);
    }
}
