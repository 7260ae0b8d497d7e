package docksort.sort;

import docksort.arrival.Clip;
import docksort.strain.Strain;
import java.util.List;

/// What was decided for one clip, and by what.
///
/// @param recipes the recipes it gets; none means that it is left as it is
/// @param rule the number of the rule that caught it, 0 for none
/// @param byHand whether a person decided
public record Sorted(Clip clip, Strain strain, List<Recipe> recipes, int rule, boolean byHand) {
    public Sorted {
        recipes = List.copyOf(recipes);
    }

    public String why() {
        if (byHand) {
            return "set by hand";
        }
        return rule == 0 ? "no rule catches it" : "rule " + rule;
    }
}
