package docksort.sort;

import java.util.HashMap;
import java.util.List;
import java.util.Map;

/// What a plan has for one clip, with what was found out of it. Immutable but for what it remembers; safe for use
/// by several threads.
final class ClipPart {
    private final Sorted sorted;
    private final List<PlannedCopy> copies;
    private final Map<String, List<Signed>> others = HashMap.newHashMap(0); // by recipe, that it does not have
    private List<Signed> signed = List.of();

    /// A copy with its signs.
    record Signed(PlannedCopy copy, Signs signs) {}

    ClipPart(Sorted sorted, List<PlannedCopy> copies) {
        this.sorted = sorted;
        this.copies = List.copyOf(copies);
    }

    Sorted sorted() {
        return sorted;
    }

    List<PlannedCopy> copies() {
        return copies;
    }

    /// Its copies with their signs, found out once.
    synchronized List<Signed> signed(Senses senses) {
        if (signed.size() < copies.size()) {
            signed = signed(copies, senses);
        }
        return signed;
    }

    private List<Signed> signed(List<PlannedCopy> of, Senses senses) {
        return of.stream()
                .map(copy -> new Signed(copy, senses.of(copy, sorted.strain())))
                .toList();
    }

    /// Its copies by one recipe: one, or several where a recipe makes one of each stretch.
    List<Signed> by(String recipe, Senses senses) {
        return signed(senses).stream()
                .filter(each -> each.copy().recipe().id().equals(recipe))
                .toList();
    }

    /// Recipes of its copies.
    List<String> recipes() {
        return copies.stream().map(copy -> copy.recipe().id()).distinct().toList();
    }

    /// What it would have by another recipe, reckoned once.
    synchronized List<Signed> instead(Recipe recipe, String why, Planning planning, Senses senses) {
        return others.computeIfAbsent(
                recipe.id(), _ -> signed(LoadSheet.planned(sorted.clip(), recipe, why, planning), senses));
    }
}
