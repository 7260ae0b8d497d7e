package docksort.desktop.workshop;

import docksort.arrival.Clip;
import docksort.look.ColourDecisions;
import docksort.media.KeptFile;
import docksort.media.KeptImage;
import docksort.media.Measured;
import docksort.project.Project;
import docksort.sort.BookOutcome;
import docksort.sort.LoadSheet;
import docksort.sort.PlannedCopy;
import docksort.sort.Planning;
import docksort.sort.Recipe;
import docksort.sort.SortBook;
import docksort.sort.Tried;
import docksort.sort.Warning;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.CompletableFuture;
import java.util.function.BiConsumer;
import java.util.function.Consumer;

/// Plans: recipes, rules and choices, and what they would come to.
public final class SortDesk {
    private final Project project;
    private final ProjectThread thread;
    private final ViewFeed feed;
    private final Errands errands;
    private final MeasuringDesk measuring;
    private final DispatchDesk dispatch;

    SortDesk(
            Project project,
            ProjectThread thread,
            ViewFeed feed,
            Errands errands,
            MeasuringDesk measuring,
            DispatchDesk dispatch) {
        this.project = project;
        this.thread = thread;
        this.feed = feed;
        this.errands = errands;
        this.measuring = measuring;
        this.dispatch = dispatch;
    }

    public CompletableFuture<Void> choose(List<Clip> chosen, Optional<List<Recipe>> recipes) {
        return errands.asSeen(seen -> project.plans().choose(chosen, recipes, seen));
    }

    /// Does what a warning of the load sheet offers.
    public CompletableFuture<Void> choose(Warning.Remedy.Choose remedy) {
        return errands.asSeen(seen -> project.plans().choose(remedy.recipes(), remedy.inWords(), seen));
    }

    /// What a recipe is called, or its id where it is gone.
    public String recipeLabel(String id) {
        return feed.view()
                .get()
                .flatMap(shown -> shown.book().byId(id))
                .map(Recipe::label)
                .orElse(id);
    }

    /// Changes recipes and rules, together with what others changed since they were looked at.
    ///
    /// @param base the book as it was looked at
    /// @param what what was changed, for the log and for undo
    /// @param then gets on the window's thread what became of it; nothing when it could not be kept, which is
    ///     told
    public void change(SortBook base, SortBook wanted, String what, Consumer<BookOutcome> then) {
        errands.decide(asked -> asked.book().change(base, wanted, what), then);
    }

    /// Takes in recipes, and rules where wanted, from a file.
    ///
    /// @param same what becomes of recipes that the project has in another form
    public CompletableFuture<Void> takeInRecipes(Path file, boolean itsRules, SortBook.Same same) {
        return errands.change(() -> project.book().takeIn(file, itsRules, same));
    }

    /// Lookup tables of the project.
    ///
    /// @param then gets them on the window's thread
    public void tables(Consumer<List<KeptFile>> then) {
        errands.ask("tables", asked -> asked.looks().all(), then);
    }

    /// Takes a lookup table into the project.
    ///
    /// @param then gets it and all there are, on the window's thread; nothing when it cannot be used, which is
    ///     told
    public void addTable(Path file, BiConsumer<KeptFile, List<KeptFile>> then) {
        errands.decide(
                asked -> Map.entry(asked.looks().add(file), asked.looks().all()),
                added -> then.accept(added.getKey(), added.getValue()));
    }

    /// Images of the project that can be laid over pictures.
    ///
    /// @param then gets them on the window's thread
    public void images(Consumer<List<KeptImage>> then) {
        errands.ask("images", asked -> asked.looks().images(), then);
    }

    /// Takes an image into the project.
    ///
    /// @param then gets it and all there are, on the window's thread; nothing when it cannot be used, which is
    ///     told
    public void addImage(Path file, BiConsumer<KeptImage, List<KeptImage>> then) {
        errands.decide(
                asked -> Map.entry(asked.looks().addImage(file), asked.looks().images()),
                added -> then.accept(added.getKey(), added.getValue()));
    }

    /// Reads the corrections of a colour decision list.
    ///
    /// @param then gets them on the window's thread; nothing when they cannot be used, which is told
    public void decisions(Path file, Consumer<List<ColourDecisions.Named>> then) {
        errands.ask("decisions", _ -> ColourDecisions.read(file), then);
    }

    public CompletableFuture<Void> writeOutRecipes(Path file) {
        return errands.step(() -> {
            project.book().writeOut(file);
            project.log("Wrote recipes and rules into " + file.getFileName());
        });
    }

    /// Lets new copies go into another folder; those there are stay where they are.
    public CompletableFuture<Void> copiesInto(Path folder) {
        return errands.change(() -> project.copyFolders().copiesInto(folder));
    }

    /// Makes some seconds of a clip by each recipe and holds them against the original.
    public CompletableFuture<List<Tried>> compare(Clip clip, List<Recipe> recipes) {
        var done = new CompletableFuture<List<Tried>>();
        measuring
                .begin("Comparing recipes on " + clip.name(), cancellation -> {
                    int[] step = new int[1];
                    done.complete(project.trials()
                            .compare(
                                    clip,
                                    recipes,
                                    what -> measuring.show(new MeasureProgress(
                                            clip.name() + ": " + what, step[0]++, recipes.size() + 1, true)),
                                    cancellation));
                })
                .whenComplete((_, _) -> done.complete(List.of())); // nothing, where it failed and was told of
        return done;
    }

    /// Bytes a second that the slowest measured volume of the project was read with, empty where none was.
    public Optional<Double> volumeSpeed() {
        return feed.view().get().stream()
                .flatMap(shown -> shown.insight().measured().values().stream())
                .flatMap(measured -> measured.volumeBytesPerSecond().stream())
                .map(Measured::median)
                .min(Double::compare);
    }

    /// Keeps how many frames range copies hold before and after what the timeline uses.
    public CompletableFuture<Void> setHandles(long frames) {
        return errands.step(() -> dispatch.setHandles(frames));
    }

    /// What would change with another book.
    public CompletableFuture<List<LoadSheet.Change>> preview(SortBook book) {
        List<Clip> clips = shownClips();
        return thread.answered(() -> {
            Planning now = project.plans().planning();
            return LoadSheet.plan(clips, now).changes(LoadSheet.plan(clips, now.with(book)));
        });
    }

    private List<Clip> shownClips() {
        return feed.view().get().map(ProjectView::clips).orElse(List.of());
    }

    /// What the selected clips would come to with each recipe.
    public CompletableFuture<List<PlannedCopy>> planned(List<Clip> chosen, List<Recipe> recipes) {
        return thread.answered(() -> {
            Planning now = project.plans().planning();
            return recipes.stream()
                    .flatMap(recipe ->
                            chosen.stream().flatMap(clip -> LoadSheet.planned(clip, recipe, "", now).stream()))
                    .toList();
        });
    }

    /// Makes about a second of each copy that is wanted, to learn its size and time.
    public CompletableFuture<Void> tryOut(List<PlannedCopy> wanted) {
        return measuring
                .begin("Trying " + wanted.size() + (wanted.size() == 1 ? " copy" : " copies"), cancellation -> {
                    int done = 0;
                    for (PlannedCopy copy : wanted) {
                        if (cancellation.isCancelled()) {
                            break;
                        }
                        measuring.show(
                                new MeasureProgress("trying " + copy.clip().name(), done++, wanted.size(), true));
                        project.trials().tryOut(copy.clip(), copy.recipe(), cancellation);
                    }
                })
                .thenCompose(_ -> thread.step(() -> feed.reload(false)));
    }
}
