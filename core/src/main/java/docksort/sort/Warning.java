package docksort.sort;

import docksort.arrival.ClipId;
import java.util.List;

/// A mistake that the load sheet would make, with the clips it concerns and what would mend it.
public record Warning(Weight weight, String text, Remedy remedy, List<ClipId> clips) {
    public Warning {
        clips = List.copyOf(clips);
    }

    /// How much it matters.
    public enum Weight {
        /// The run must not start with it.
        STOPS,
        /// Somebody would be sorry.
        MISTAKE,
        /// Good to know; it may be meant so.
        NOTE
    }

    public boolean stops() {
        return weight == Weight.STOPS;
    }

    /// What one click does about it.
    public sealed interface Remedy {
        /// What the click is called, or advice where there is nothing to click.
        String words();

        /// Gives the concerned clips another recipe.
        record UseRecipe(String recipeId, String words) implements Remedy {}

        /// Leaves the concerned clips as they are.
        record LeaveAsIs(String words) implements Remedy {}

        /// Makes only the first copies, as many as fit.
        record OnlyWhatFits(String words) implements Remedy {}

        /// Chooses another folder for copies.
        record OtherFolder(String words) implements Remedy {}

        record Advice(String words) implements Remedy {}
    }
}
