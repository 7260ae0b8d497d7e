package docksort.sort;

import docksort.arrival.ClipId;
import java.util.List;
import java.util.Map;

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

    /// What one click does about it. It is only offered when the plan is better after it: the warning is gone, no
    /// other has come, and nothing else that was wanted is lost.
    public sealed interface Remedy {
        /// What the click is called, or advice where there is nothing to click.
        String words();

        /// The same with what would change.
        default String inWords() {
            return words();
        }

        /// Gives clips other recipes.
        ///
        /// @param recipes ids of all that each clip gets then, by clip
        /// @param effect what would change, in words
        record Choose(Map<ClipId, List<String>> recipes, String words, String effect) implements Remedy {
            public Choose {
                recipes = Map.copyOf(recipes);
            }

            @Override
            public String inWords() {
                return words + " " + effect;
            }
        }

        /// Makes only the first copies, as many as fit.
        record OnlyWhatFits(String words) implements Remedy {}

        /// Chooses another folder for copies.
        record OtherFolder(String words) implements Remedy {}

        record Advice(String words) implements Remedy {}
    }
}
