package docksort.sort;

import docksort.sort.Warning.Remedy;
import java.util.List;

/// What could be done about a mistake, before it is known whether it helps.
sealed interface Cure {
    /// Another recipe of the same kind, the first of these that is one.
    record Instead(List<Recipe> recipes, String otherwise) implements Cure {}

    /// Without these copies.
    record LeaveOut(String words) implements Cure {}

    record Just(Remedy remedy) implements Cure {}

    static Cure advice(String words) {
        return new Just(new Remedy.Advice(words));
    }
}
