package docksort.sort;

import docksort.arrival.Clip;

/// One copy of the load sheet.
///
/// @param why the rule that asked for it, or that it was set by hand
/// @param resolution what the recipe comes to for this clip, or why it cannot be made
/// @param already whether the stock has such a copy, so that nothing is made
public record PlannedCopy(
        Clip clip, Recipe recipe, String why, Recipe.Resolution resolution, PredictedBytes bytes, boolean already) {

    /// Whether it is to be made.
    public boolean isWanted() {
        return !already && resolution instanceof Recipe.Resolution.Possible;
    }
}
