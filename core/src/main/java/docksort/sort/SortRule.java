package docksort.sort;

import docksort.sort.Fact.Is;
import java.util.List;
import java.util.stream.Collectors;

/// Which clips get which recipes. Rules are tried in order; the first that catches a clip decides.
///
/// @param when what must all hold; a rule without conditions catches every clip
/// @param make ids of the recipes a caught clip gets, each once; none leaves it as it is
public record SortRule(List<Condition> when, List<String> make) {
    private static final int MOST = 12;

    public static final List<SortRule> BUILT_IN = List.of(
            new SortRule(
                    List.of(new Condition(Fact.KIND, Is.EXACTLY, "image sequence")), List.of(Recipe.FULL_VC3.id())),
            new SortRule(
                    List.of(new Condition(Fact.RASTER, Is.LARGER_THAN, "1920x1080")),
                    List.of(Recipe.LIGHT_VC3_FIT.id())),
            new SortRule(
                    List.of(new Condition(Fact.STRAIN, Is.EXACTLY, "hard")), List.of(Recipe.LIGHT_PRORES_HALF.id())));

    public SortRule {
        when = List.copyOf(when);
        make = List.copyOf(make);
        if (when.size() > MOST || make.size() > MOST) {
            throw new IllegalArgumentException("a rule has at most " + MOST + " conditions and recipes");
        }
    }

    public String sentence() {
        return when.isEmpty()
                ? "any clip"
                : when.stream().map(Condition::sentence).collect(Collectors.joining(", "));
    }
}
