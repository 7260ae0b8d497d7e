package docksort.sort;

import docksort.arrival.ClipId;
import docksort.media.ByteSize;
import docksort.sort.Warning.Remedy;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.function.ToLongFunction;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/// Finds what can be done about a mistake by one click without making the plan worse: only copies that are
/// concerned are changed, each into one of its own kind that is no worse by itself, and the plan as a whole has
/// fewer mistakes.
final class Remedies {
    private final Planning planning;
    private final ToLongFunction<PlannedCopy> worse;
    private final Better better;
    private final Map<ClipId, List<String>> chosen = new HashMap<>();
    private final Map<Planned, List<PlannedCopy>> copies = new HashMap<>();
    private final Map<Planned, List<PlannedCopy>> planned = new HashMap<>();

    /// Whether a plan has fewer mistakes, among them fewer of one kind, without some copies and with others.
    interface Better {
        boolean is(String mistake, List<PlannedCopy> without, List<PlannedCopy> with);
    }

    /// @param copies of the plan as it is
    /// @param worse a bit for each thing that a copy by itself has and that a remedy must not bring about
    Remedies(List<PlannedCopy> copies, Planning planning, ToLongFunction<PlannedCopy> worse, Better better) {
        this.planning = planning;
        this.worse = worse;
        this.better = better;
        for (PlannedCopy copy : copies) {
            List<String> ids = chosen.computeIfAbsent(copy.clip().id(), _ -> new ArrayList<>());
            if (!ids.contains(copy.recipe().id())) {
                ids.add(copy.recipe().id());
            }
            this.copies
                    .computeIfAbsent(Planned.of(copy), _ -> new ArrayList<>(1))
                    .add(copy);
        }
    }

    /// One copy that is planned, or several where a recipe makes one of each stretch.
    private record Planned(ClipId clip, String recipe) {
        static Planned of(PlannedCopy copy) {
            return new Planned(copy.clip().id(), copy.recipe().id());
        }
    }

    /// Without the copies that are concerned.
    Optional<Remedy> without(String mistake, List<PlannedCopy> concerned, String words) {
        Map<Planned, Optional<Recipe>> changes = new LinkedHashMap<>();
        concerned.forEach(copy -> changes.put(Planned.of(copy), Optional.empty()));
        return remedy(mistake, concerned, changes, words);
    }

    /// With another recipe for each copy that is concerned.
    ///
    /// @param recipes those to try; what is drawn into a picture is not given up for any of them
    Optional<Remedy> instead(String mistake, List<PlannedCopy> concerned, List<Recipe> recipes) {
        Map<Planned, Optional<Recipe>> changes = new LinkedHashMap<>();
        var names = new LinkedHashSet<String>();
        for (PlannedCopy copy : concerned) {
            Optional<Recipe> other = takingThePlaceOf(copy, recipes);
            if (other.isEmpty()) {
                return Optional.empty();
            }
            changes.put(Planned.of(copy), other);
            names.add(other.get().name());
        }
        return remedy(mistake, concerned, changes, "Use " + String.join(" or ", names));
    }

    private Optional<Recipe> takingThePlaceOf(PlannedCopy copy, List<Recipe> recipes) {
        if (!copy.isWanted() || !copy.recipe().burnIns().isEmpty()) {
            return Optional.empty();
        }
        long known = worse.applyAsLong(copy);
        return recipes.stream()
                .filter(recipe -> recipe.kind() == copy.recipe().kind()
                        && !chosen.getOrDefault(copy.clip().id(), List.of()).contains(recipe.id())
                        && planned(copy, recipe).stream()
                                .allMatch(
                                        other -> other.form().isPresent() && (worse.applyAsLong(other) & ~known) == 0))
                .findFirst();
    }

    /// A clip of the plan by another recipe, reckoned once.
    private List<PlannedCopy> planned(PlannedCopy copy, Recipe recipe) {
        return planned.computeIfAbsent(
                new Planned(copy.clip().id(), recipe.id()),
                _ -> LoadSheet.planned(copy.clip(), recipe, copy.why(), planning));
    }

    private Optional<Remedy> remedy(
            String mistake, List<PlannedCopy> concerned, Map<Planned, Optional<Recipe>> changes, String words) {
        List<PlannedCopy> without = changes.keySet().stream()
                .flatMap(each -> copies.getOrDefault(each, List.of()).stream())
                .toList();
        List<PlannedCopy> with = changes.entrySet().stream()
                .flatMap(change ->
                        change.getValue().stream().flatMap(recipe -> planned(first(change.getKey()), recipe).stream()))
                .toList();
        if (!better.is(mistake, without, with)) {
            return Optional.empty();
        }
        Map<ClipId, List<String>> recipes = new HashMap<>();
        for (PlannedCopy copy : concerned) {
            ClipId clip = copy.clip().id();
            recipes.computeIfAbsent(
                    clip,
                    _ -> chosen.getOrDefault(clip, List.of()).stream()
                            .flatMap(id -> {
                                Optional<Recipe> other = changes.get(new Planned(clip, id));
                                return other == null
                                        ? Stream.of(id)
                                        : other.stream().map(Recipe::id);
                            })
                            .toList());
        }
        return Optional.of(new Remedy.Choose(recipes, words, effect(concerned, changes, most(with) - most(without))));
    }

    /// "instead of ProRes Proxy, 1/2 for 12 clips, 3.2 GB more at most".
    ///
    /// @param bytes how many more there are at most
    private static String effect(List<PlannedCopy> concerned, Map<Planned, Optional<Recipe>> changes, long bytes) {
        String before =
                concerned.stream().map(copy -> copy.recipe().name()).distinct().collect(Collectors.joining(" or "));
        long clips = concerned.stream().map(copy -> copy.clip().id()).distinct().count();
        boolean out = changes.values().stream().allMatch(Optional::isEmpty);
        String room =
                bytes == 0 ? "" : ", " + new ByteSize(Math.abs(bytes)) + (bytes > 0 ? " more" : " less") + " at most";
        return (out ? "without " : "instead of ") + before + " for " + clips + (clips == 1 ? " clip" : " clips") + room;
    }

    private PlannedCopy first(Planned which) {
        return Objects.requireNonNull(copies.get(which)).getFirst();
    }

    private static long most(List<PlannedCopy> copies) {
        return copies.stream()
                .filter(PlannedCopy::isWanted)
                .mapToLong(copy -> copy.bytes().most().bytes())
                .sum();
    }
}
