package docksort.sort;

import docksort.arrival.Clip;
import docksort.media.CopyForm;
import docksort.media.FrameRange;
import java.util.Optional;

/// One copy of the load sheet.
///
/// @param why the rule that asked for it, or that it was set by hand
/// @param resolution what the recipe comes to for this clip, or why it cannot be made
/// @param already whether the stock has such a copy, so that nothing is made
public record PlannedCopy(
        Clip clip,
        Recipe recipe,
        String why,
        Recipe.Resolution resolution,
        PredictedBytes bytes,
        PredictedTime time,
        boolean already) {

    /// Whether it is to be made.
    public boolean isWanted() {
        return !already && resolution instanceof Recipe.Resolution.Possible;
    }

    PlannedCopy inStock() {
        return new PlannedCopy(clip, recipe, why, resolution, bytes, time, true);
    }

    public Optional<CopyForm> form() {
        return resolution instanceof Recipe.Resolution.Possible possible
                ? Optional.of(possible.form())
                : Optional.empty();
    }

    public Optional<FrameRange> range() {
        return form().flatMap(CopyForm::range);
    }
}
