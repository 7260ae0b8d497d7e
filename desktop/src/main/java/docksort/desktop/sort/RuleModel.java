package docksort.desktop.sort;

import docksort.sort.Condition;
import docksort.sort.CopyKind;
import docksort.sort.Fact;
import docksort.sort.LoadSheet;
import docksort.sort.Recipe;
import docksort.sort.SortBook;
import docksort.sort.SortRule;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.stream.Collectors;

/// One sort rule while it is edited, and the book as it becomes.
final class RuleModel {
    private static final int NAMED = 6;

    private final SortBook book;
    private final int index;
    private final SortRule rule;

    /// What would change, the clips by name last.
    record Outcome(List<String> lines, String names) {
        Outcome {
            lines = List.copyOf(lines);
        }
    }

    /// @param index the rule in the book, from 0, or negative for a new one
    RuleModel(SortBook book, int index) {
        this.book = book;
        this.index = index;
        this.rule = isNew()
                ? new SortRule(
                        List.of(new Condition(Fact.SCRUB_COST, Fact.Is.AT_LEAST, "4")),
                        List.of(Recipe.LIGHT_PRORES_HALF.id()))
                : book.rules().get(index);
    }

    boolean isNew() {
        return index < 0;
    }

    String title() {
        return isNew() ? "New rule" : "Rule " + (index + 1);
    }

    List<Condition> conditions() {
        return rule.when();
    }

    /// Recipes of a kind, no copy first.
    List<Optional<Recipe>> choices(CopyKind kind) {
        var choices = new ArrayList<Optional<Recipe>>();
        choices.add(Optional.empty());
        book.recipes().stream()
                .filter(recipe -> recipe.kind() == kind)
                .forEach(recipe -> choices.add(Optional.of(recipe)));
        return choices;
    }

    /// What it makes of a kind: several light copies are several sizes.
    List<Recipe> chosen(CopyKind kind) {
        return rule.make().stream()
                .flatMap(id -> book.byId(id).stream())
                .filter(recipe -> recipe.kind() == kind)
                .toList();
    }

    /// The book with this rule in its place.
    ///
    /// @throws IllegalArgumentException with what is wrong with a condition
    SortBook wanted(List<Condition> when, Collection<Recipe> makes) {
        var rules = new ArrayList<>(book.rules());
        var wanted = new SortRule(when, makes.stream().map(Recipe::id).toList());
        if (isNew()) {
            rules.add(wanted);
        } else {
            rules.set(index, wanted);
        }
        return book.withRules(rules);
    }

    boolean changes(SortBook wanted) {
        return !wanted.equals(book);
    }

    BookChange applied(SortBook wanted) {
        return new BookChange(book, wanted, isNew() ? "Added a rule" : "Changed rule " + (index + 1));
    }

    /// @param by places later, or negative for earlier
    /// @return empty where there is no such place
    Optional<BookChange> moved(int by) {
        int to = index + by;
        if (isNew() || to < 0 || to >= book.rules().size()) {
            return Optional.empty();
        }
        var rules = new ArrayList<>(book.rules());
        rules.add(to, rules.remove(index));
        return Optional.of(
                new BookChange(book, book.withRules(rules), "Moved rule " + (index + 1) + " to " + (to + 1)));
    }

    /// @return empty for a rule that is not in the book yet
    Optional<BookChange> deleted() {
        if (isNew()) {
            return Optional.empty();
        }
        var rules = new ArrayList<>(book.rules());
        rules.remove(index);
        return Optional.of(new BookChange(book, book.withRules(rules), "Deleted rule " + (index + 1)));
    }

    static Outcome outcome(List<LoadSheet.Change> changes) {
        if (changes.isEmpty()) {
            return new Outcome(List.of(), "Nothing: the same clips get the same copies.");
        }
        Map<String, Long> outcomes = changes.stream()
                .collect(Collectors.groupingBy(RuleModel::becomes, TreeMap::new, Collectors.counting()));
        String names = changes.stream()
                .limit(NAMED)
                .map(change -> change.clip().name())
                .collect(Collectors.joining(", "));
        int more = changes.size() - NAMED;
        return new Outcome(
                outcomes.entrySet().stream()
                        .map(entry -> entry.getValue() + " " + entry.getKey())
                        .toList(),
                names + (more > 0 ? " and " + more + " more" : ""));
    }

    private static String becomes(LoadSheet.Change change) {
        return change.after().isEmpty()
                ? "are left as they are"
                : "get " + change.after().stream().map(Recipe::label).collect(Collectors.joining(" + "));
    }
}
