package docksort.project;

import docksort.arrival.Arrival;
import docksort.arrival.ClipId;
import docksort.catalogue.AsSeen;
import docksort.media.Wrapper;
import docksort.sort.CopyKind;
import docksort.sort.Encoding;
import docksort.sort.Recipe;
import docksort.sort.Scaling;
import docksort.sort.Sorted;
import docksort.stock.CameraPairs;
import docksort.stock.Filling;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/// Plans copies for recordings of which the camera wrote no small file, such as high-speed takes, as
/// large as those that it wrote of the others.
public final class PairFilling {
    private final Pairing pairing;
    private final ProjectBook book;
    private final Plans plans;

    PairFilling(Pairing pairing, ProjectBook book, Plans plans) {
        this.pairing = pairing;
        this.book = book;
        this.plans = plans;
    }

    /// @return empty where nothing is lacking, or nothing shows how large the others are
    public Optional<Filling> of(Arrival arrival) {
        CameraPairs pairs = pairing.of(arrival);
        return pairs.lacking().isEmpty()
                ? Optional.empty()
                : pairs.usualLines().map(lines -> new Filling(recipe(lines), pairs.lacking()));
    }

    private Recipe recipe(int lines) {
        String id = "light-as-camera-" + lines;
        return book.now()
                .byId(id)
                .orElseGet(() -> Recipe.of(
                        id,
                        "As large as the camera's, " + lines + " lines",
                        CopyKind.LIGHT,
                        Encoding.PRORES_PROXY,
                        Wrapper.MOV,
                        new Scaling.FitLines(List.of(lines))));
    }

    /// Chooses the recipe for the light copies of these clips, and keeps it among the project's own where it is
    /// not there yet.
    public void choose(Filling filling) {
        if (book.now().byId(filling.recipe().id()).isEmpty()) {
            book.change(
                    book.now().with(filling.recipe()),
                    "Made the recipe " + filling.recipe().name());
        }
        Map<ClipId, List<String>> chosen = new HashMap<>();
        for (Sorted sorted : plans.loadSheet(filling.clips()).sorted()) {
            var recipes = new ArrayList<>(sorted.recipes().stream()
                    .filter(recipe -> recipe.kind() != CopyKind.LIGHT)
                    .map(Recipe::id)
                    .toList());
            recipes.add(filling.recipe().id());
            chosen.put(sorted.clip().id(), recipes);
        }
        plans.choose(
                chosen,
                chosen.size() + (chosen.size() == 1 ? " clip" : " clips") + " set to "
                        + filling.recipe().label(),
                AsSeen.NOW); // what is chosen was read a moment ago
    }
}
