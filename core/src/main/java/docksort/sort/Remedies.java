package docksort.sort;

import docksort.arrival.ClipId;
import docksort.media.ByteSize;
import docksort.media.CopyForm;
import docksort.sort.ClipPart.Signed;
import docksort.sort.Warning.Remedy;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/// Finds what can be done about a mistake by one click without making the plan worse: only copies that are
/// concerned are changed, each into one of its own kind that is no worse by itself, and the plan as a whole has
/// fewer mistakes.
final class Remedies {
    private final Planning planning;
    private final Senses senses;
    private final Better better;
    private final Map<ClipId, ClipPart> parts;

    /// Whether a plan has fewer mistakes, among them fewer of one kind, without some copies and with others.
    interface Better {
        boolean is(String mistake, List<Signed> without, List<Signed> with);
    }

    /// @param parts of the plan as it is
    Remedies(List<ClipPart> parts, Planning planning, Senses senses, Better better) {
        this.planning = planning;
        this.senses = senses;
        this.better = better;
        this.parts = HashMap.newHashMap(parts.size());
        parts.forEach(part -> this.parts.put(part.sorted().clip().id(), part));
    }

    /// One copy that is planned, or several where a recipe makes one of each stretch.
    private record Planned(ClipId clip, String recipe) {
        static Planned of(Signed each) {
            return new Planned(each.copy().clip().id(), each.copy().recipe().id());
        }
    }

    /// Without the copies that are concerned.
    Optional<Remedy> without(String mistake, List<Signed> concerned, String words) {
        Map<Planned, Optional<Recipe>> changes = new LinkedHashMap<>();
        concerned.forEach(each -> changes.put(Planned.of(each), Optional.empty()));
        return remedy(mistake, concerned, changes, words);
    }

    /// With another recipe for each copy that is concerned.
    ///
    /// @param recipes those to try; what is drawn into a picture is not given up for any of them
    Optional<Remedy> instead(String mistake, List<Signed> concerned, List<Recipe> recipes) {
        Map<Planned, Optional<Recipe>> changes = new LinkedHashMap<>();
        var names = new LinkedHashSet<String>();
        for (Signed each : concerned) {
            Optional<Recipe> other = takingThePlaceOf(each, recipes);
            if (other.isEmpty()) {
                return Optional.empty();
            }
            changes.put(Planned.of(each), other);
            names.add(other.get().name());
        }
        long places = changes.entrySet().stream()
                .map(change -> Map.entry(change.getKey().clip(), change.getValue()))
                .distinct()
                .count();
        if (places < changes.size()) {
            return Optional.empty(); // two copies of one clip would become one
        }
        return remedy(mistake, concerned, changes, "Use " + String.join(" or ", names));
    }

    private Optional<Recipe> takingThePlaceOf(Signed each, List<Recipe> recipes) {
        PlannedCopy copy = each.copy();
        if (!copy.isWanted() || !copy.recipe().burnIns().isEmpty()) {
            return Optional.empty();
        }
        long known = senses.worse(each.signs());
        List<String> chosen = part(copy.clip().id()).recipes();
        return recipes.stream()
                .filter(recipe -> recipe.kind() == copy.recipe().kind()
                        && !chosen.contains(recipe.id())
                        && instead(copy, recipe).stream()
                                .allMatch(other -> other.copy()
                                                .form()
                                                .filter(form -> hasEnoughLines(form, copy))
                                                .isPresent()
                                        && (senses.worse(other.signs()) & ~known) == 0))
                .findFirst();
    }

    /// Whether a copy has as many lines as the timeline, or as its original where that has fewer; or the one before had
    /// not either.
    private boolean hasEnoughLines(CopyForm form, PlannedCopy before) {
        int timeline = planning.circumstances().timeline().raster().lines();
        int original = before.clip()
                .facts()
                .video()
                .map(picture -> picture.displayRaster().lines())
                .orElse(timeline);
        int enough = Math.min(timeline, original);
        return form.raster().lines() >= enough
                || before.form().filter(its -> its.raster().lines() < enough).isPresent();
    }

    private List<Signed> instead(PlannedCopy copy, Recipe recipe) {
        return part(copy.clip().id()).instead(recipe, copy.why(), planning, senses);
    }

    private ClipPart part(ClipId clip) {
        return Objects.requireNonNull(parts.get(clip));
    }

    private Optional<Remedy> remedy(
            String mistake, List<Signed> concerned, Map<Planned, Optional<Recipe>> changes, String words) {
        List<Signed> without = changes.keySet().stream()
                .flatMap(each -> part(each.clip).by(each.recipe, senses).stream())
                .toList();
        List<Signed> with = changes.entrySet().stream()
                .flatMap(change ->
                        change.getValue().stream().flatMap(recipe -> instead(first(change.getKey()), recipe).stream()))
                .toList();
        if (!better.is(mistake, without, with)) {
            return Optional.empty();
        }
        Map<ClipId, List<String>> recipes = new HashMap<>();
        for (Signed each : concerned) {
            ClipId clip = each.copy().clip().id();
            recipes.computeIfAbsent(
                    clip,
                    _ -> part(clip).recipes().stream()
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
    private static String effect(List<Signed> concerned, Map<Planned, Optional<Recipe>> changes, long bytes) {
        String before = concerned.stream()
                .map(each -> each.copy().recipe().name())
                .distinct()
                .collect(Collectors.joining(" or "));
        long clips = concerned.stream()
                .map(each -> each.copy().clip().id())
                .distinct()
                .count();
        boolean out = changes.values().stream().allMatch(Optional::isEmpty);
        String room =
                bytes == 0 ? "" : ", " + new ByteSize(Math.abs(bytes)) + (bytes > 0 ? " more" : " less") + " at most";
        return (out ? "without " : "instead of ") + before + " for " + clips + (clips == 1 ? " clip" : " clips") + room;
    }

    private PlannedCopy first(Planned which) {
        return part(which.clip).by(which.recipe, senses).getFirst().copy();
    }

    private static long most(List<Signed> copies) {
        return copies.stream()
                .map(Signed::copy)
                .filter(PlannedCopy::isWanted)
                .mapToLong(copy -> copy.bytes().most().bytes())
                .sum();
    }
}
