package docksort.sort;

import docksort.arrival.Clip;
import docksort.strain.Strain;
import java.util.List;

/// What was decided for one clip, and by what.
///
/// @param recipes the recipes it gets; none means that it is left as it is
/// @param rule the number of the rule that caught it, from 1, 0 for none
/// @param sentence what the rule asks, empty where none caught it
/// @param byHand whether a person decided
public record Sorted(Clip clip, Strain strain, List<Recipe> recipes, int rule, String sentence, boolean byHand) {
    public Sorted {
        recipes = List.copyOf(recipes);
    }

    public String why() {
        if (byHand) {
            return "by hand";
        }
        return rule == 0 ? "no rule" : "rule " + rule;
    }
}
