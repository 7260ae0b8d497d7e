package docksort.catalogue;

import docksort.arrival.ClipId;
import docksort.problem.CoreException.ChangedMeanwhile;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.jdbi.v3.core.Handle;

/// Recipes that were chosen by hand.
public final class ChoiceStore {
    private final Access jdbi;
    private final ActivityLog log;

    ChoiceStore(Access jdbi, ActivityLog log) {
        this.jdbi = jdbi;
        this.log = log;
    }

    // Choices

    /// Recipes that were chosen by hand, by clip.
    public Map<ClipId, List<String>> all() {
        Map<ClipId, List<String>> found = new HashMap<>();
        jdbi.useHandle(h -> h.createQuery("SELECT clip_id, recipes FROM choice")
                .map((row, _) -> Map.entry(new ClipId(row.getString("clip_id")), recipeIds(row.getString("recipes"))))
                .forEach(entry -> found.put(entry.getKey(), entry.getValue())));
        return found;
    }

    private static List<String> recipeIds(String json) {
        return Arrays.asList(Json.read(json, String[].class));
    }

    /// Sets or clears the choice of several clips as one change.
    ///
    /// @param recipes the recipes they get, or empty to leave it to the rules
    public void choose(List<ClipId> clips, Optional<List<String>> recipes, String what) {
        choose(clips, recipes, what, AsSeen.NOW);
    }

    /// The same, where nobody else changed one of these choices since they were seen.
    ///
    /// @throws ChangedMeanwhile when somebody did; then nothing is changed
    public void choose(List<ClipId> clips, Optional<List<String>> recipes, String what, AsSeen seen) {
        jdbi.useTransaction(h -> {
            List<String> ids = clips.stream().map(ClipId::value).toList();
            log.refuseUnseen(h, seen, touched(ids), what);
            Undo.Choices before = now(h, ids);
            ids.forEach(clip -> setChoice(h, clip, recipes));
            log.write(h, what, before);
        });
    }

    /// Sets the choices of several clips, each to its own recipes, as one change.
    ///
    /// @throws ChangedMeanwhile when somebody else changed one of them since; then nothing is changed
    public void choose(Map<ClipId, List<String>> recipes, String what, AsSeen seen) {
        jdbi.useTransaction(h -> {
            List<String> clips = recipes.keySet().stream().map(ClipId::value).toList();
            log.refuseUnseen(h, seen, touched(clips), what);
            Undo.Choices before = now(h, clips);
            recipes.forEach((clip, ids) -> setChoice(h, clip.value(), Optional.of(ids)));
            log.write(h, what, before);
        });
    }

    private static Set<String> touched(List<String> clips) {
        return clips.stream().map(Undo.CHOICE::concat).collect(Collectors.toSet());
    }

    /// The choices of clips as they are.
    private static Undo.Choices now(Handle h, Collection<String> clips) {
        var chosen = new LinkedHashMap<String, List<String>>();
        var ruled = new ArrayList<String>();
        for (String clip : clips) {
            h.createQuery("SELECT recipes FROM choice WHERE clip_id = :clip")
                    .bind("clip", clip)
                    .mapTo(String.class)
                    .findOne()
                    .ifPresentOrElse(text -> chosen.put(clip, recipeIds(text)), () -> ruled.add(clip));
        }
        return new Undo.Choices(chosen, ruled);
    }

    private static void setChoice(Handle h, String clip, Optional<List<String>> recipes) {
        if (recipes.isEmpty()) {
            h.createUpdate("DELETE FROM choice WHERE clip_id = :clip")
                    .bind("clip", clip)
                    .execute();
            return;
        }
        h.createUpdate("""
            INSERT INTO choice (clip_id, recipes) VALUES (:clip, :recipes)
            ON CONFLICT (clip_id) DO UPDATE SET recipes = excluded.recipes\
            """)
                .bind("clip", clip)
                .bind("recipes", Json.text(recipes.get()))
                .execute();
    }

    static Undo takeBack(Handle h, Undo.Choices choices) {
        var clips = new ArrayList<>(choices.before().keySet());
        clips.addAll(choices.ruled());
        Undo.Choices now = now(h, clips);
        choices.before().forEach((clip, recipes) -> setChoice(h, clip, Optional.of(recipes)));
        choices.ruled().forEach(clip -> setChoice(h, clip, Optional.empty()));
        return now;
    }
}
