package docksort.sort;

import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;

/// What two people made of one book of recipes and rules at the same time. What only one of them changed is taken
/// over; what both changed otherwise is for the second of them to decide.
///
/// @param together both changes in one book, where they meet as the second person has it; empty where they do not
///     go together at all
/// @param both what both changed otherwise; empty when there is nothing to decide
public record BookMerge(Optional<SortBook> together, List<Both> both) {
    /// Something that two people changed, as it is with either.
    ///
    /// @param what in words: which rule or recipe
    /// @param theirs in words, of who was first
    /// @param mine in words, of who comes second
    public record Both(String what, String theirs, String mine) {}

    private static final String GONE = "deleted";

    public BookMerge {
        both = List.copyOf(both);
    }

    /// @param base what both began with
    /// @param mine what the second person makes of it
    /// @param theirs what it is by now
    public static BookMerge of(SortBook base, SortBook mine, SortBook theirs) {
        var both = new ArrayList<Both>();
        List<Recipe> own = recipes(base, mine, theirs, both);
        List<SortRule> rules = rules(base, mine, theirs, both);
        boolean queueing = mine.queueNewArrivals() != base.queueNewArrivals()
                ? mine.queueNewArrivals()
                : theirs.queueNewArrivals();
        try {
            return new BookMerge(Optional.of(new SortBook(own, rules, queueing)), both);
        } catch (IllegalArgumentException e) {
            // A rule of one names a recipe that the other deleted, for instance.
            both.add(new Both(
                    "Recipes and rules together: " + e.getMessage(),
                    words(theirs.rules(), theirs),
                    words(mine.rules(), mine)));
            return new BookMerge(Optional.empty(), both);
        }
    }

    private static List<Recipe> recipes(SortBook base, SortBook mine, SortBook theirs, List<Both> both) {
        Set<String> ids = new LinkedHashSet<>();
        theirs.own().forEach(recipe -> ids.add(recipe.id()));
        mine.own().forEach(recipe -> ids.add(recipe.id()));
        var merged = new ArrayList<Recipe>();
        for (String id : ids) {
            Optional<Recipe> was = base.byId(id);
            Optional<Recipe> first = theirs.byId(id);
            Optional<Recipe> second = mine.byId(id);
            if (first.equals(was) || first.equals(second)) {
                second.ifPresent(merged::add);
            } else if (second.equals(was)) {
                first.ifPresent(merged::add);
            } else {
                both.add(new Both(
                        "Recipe "
                                + was.or(() -> first)
                                        .or(() -> second)
                                        .orElseThrow()
                                        .name(),
                        first.map(BookMerge::words).orElse(GONE),
                        second.map(BookMerge::words).orElse(GONE)));
                second.ifPresent(merged::add);
            }
        }
        return merged;
    }

    /// Rules have no names but their places: where both kept the number of those there were, each place is looked at,
    /// and what either added stands behind.
    private static List<SortRule> rules(SortBook base, SortBook mine, SortBook theirs, List<Both> both) {
        List<SortRule> was = base.rules();
        List<SortRule> first = theirs.rules();
        List<SortRule> second = mine.rules();
        if (second.equals(was) || second.equals(first)) {
            return first;
        }
        if (first.equals(was)) {
            return second;
        }
        if (first.size() < was.size() || second.size() < was.size() || moved(was, first) || moved(was, second)) {
            both.add(new Both("The list of rules", words(first, theirs), words(second, mine)));
            return second;
        }
        var merged = new ArrayList<SortRule>();
        for (int i = 0; i < was.size(); i++) {
            if (!first.get(i).equals(was.get(i))
                    && !second.get(i).equals(was.get(i))
                    && !first.get(i).equals(second.get(i))) {
                both.add(new Both("Rule " + (i + 1), words(first.get(i), theirs), words(second.get(i), mine)));
            }
            merged.add(Objects.equals(second.get(i), was.get(i)) ? first.get(i) : second.get(i));
        }
        merged.addAll(first.subList(was.size(), first.size()));
        second.subList(was.size(), second.size()).stream()
                .filter(added -> !merged.contains(added))
                .forEach(merged::add);
        return merged;
    }

    /// Whether a rule that was there stands at another place.
    private static boolean moved(List<SortRule> was, List<SortRule> is) {
        for (int i = 0; i < was.size(); i++) {
            if (!is.get(i).equals(was.get(i)) && (is.contains(was.get(i)) || was.contains(is.get(i)))) {
                return true;
            }
        }
        return false;
    }

    private static String words(SortRule rule, SortBook book) {
        String makes = rule.make().stream()
                .map(id -> book.byId(id).map(Recipe::label).orElse(id))
                .collect(Collectors.joining(" and "));
        return rule.sentence() + ": " + (makes.isEmpty() ? "no copy" : makes);
    }

    private static String words(List<SortRule> rules, SortBook book) {
        return rules.isEmpty()
                ? "no rules"
                : rules.stream().map(rule -> words(rule, book)).collect(Collectors.joining("; "));
    }

    private static String words(Recipe recipe) {
        return recipe.label() + ", " + recipe.summary();
    }
}
