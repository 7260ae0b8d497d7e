package docksort.desktop.sort;

import docksort.desktop.parts.Parts;
import docksort.desktop.parts.TaskFields;
import docksort.desktop.workshop.Workshop;
import docksort.sort.Recipe;
import docksort.sort.SortBook;
import java.io.File;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.BiConsumer;
import javafx.application.Platform;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ChoiceBox;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.VBox;
import javafx.stage.FileChooser;

/// All recipes, with what can be done with each, and the files they come from and go to.
final class RecipesPage {
    private final Workshop workshop;
    private final RecipesModel model;
    private final BiConsumer<Recipe, Boolean> edit;
    private final Runnable done;
    private final Keeping keeping;
    private final VBox anchor = new VBox();

    /// @param edit opens a recipe for editing; its second argument says whether a new one is made of it
    RecipesPage(Workshop workshop, SortBook book, BiConsumer<Recipe, Boolean> edit, Runnable done) {
        this.workshop = workshop;
        this.model = new RecipesModel(book);
        this.edit = edit;
        this.done = done;
        this.keeping = new Keeping(workshop, "", done);
    }

    List<Node> nodes() {
        var nodes = new ArrayList<Node>();
        nodes.add(anchor);
        nodes.add(Parts.button("Back to the load sheet", done, "link"));
        nodes.add(Parts.label("Recipes", "docket-name"));
        nodes.add(keeping.node());
        nodes.add(Parts.section("This project's own"));
        if (model.own().isEmpty()) {
            nodes.add(Parts.wrapped(
                    "None yet. Make a new one of a built-in recipe, or take some in from a file.", "quiet"));
        }
        model.own().forEach(line -> nodes.add(line(line)));
        nodes.add(Parts.section("Built in, always there"));
        model.builtIn().forEach(line -> nodes.add(line(line)));
        nodes.add(Parts.section("As a file"));
        var withRules = new CheckBox("with its rules in place of these");
        ChoiceBox<SortBook.Same> same = TaskFields.choice(
                "same-recipes",
                "Recipes that are here in another form",
                List.of(SortBook.Same.values()),
                SortBook.Same::label);
        same.setValue(SortBook.Same.BESIDE);
        Button in = Parts.button(
                "Take in…",
                () -> ask(true)
                        .ifPresent(file -> workshop.sort()
                                .takeInRecipes(file.toPath(), withRules.isSelected(), same.getValue())
                                .thenRun(() -> Platform.runLater(done))));
        in.setId("take-in-recipes");
        Button out = Parts.button(
                "Write out…", () -> ask(false).ifPresent(f -> workshop.sort().writeOutRecipes(f.toPath())));
        out.setId("write-out-recipes");
        nodes.add(new FlowPane(8, 8, in, out));
        nodes.add(withRules);
        nodes.add(new VBox(2, Parts.wrapped("Recipes that are here in another form", "quiet"), same));
        nodes.add(Parts.wrapped("A JSON file with these recipes and the rules, to edit or to pass on.", "quiet"));
        return nodes;
    }

    private Node line(RecipesModel.Line line) {
        Recipe recipe = line.recipe();
        var buttons = new FlowPane(12, 4);
        if (line.mayChange()) {
            buttons.getChildren().add(Parts.button("Edit", () -> edit.accept(recipe, false), "link"));
        }
        Button copy = Parts.button("New from this", () -> edit.accept(recipe, true), "link");
        copy.setId("new-from-" + recipe.id());
        buttons.getChildren().add(copy);
        if (line.mayChange()) {
            buttons.getChildren().add(Parts.button("Delete", () -> delete(recipe), "link"));
        }
        var box = new VBox(2, Parts.wrapped(recipe.label()), Parts.wrapped(recipe.summary(), "quiet"), buttons);
        List<String> who = workshop.editing().others().get().getOrDefault("recipe " + recipe.id(), List.of());
        if (!who.isEmpty()) {
            box.getChildren().add(1, Parts.wrapped(Keeping.openElsewhere(who), "look"));
        }
        box.getStyleClass().add("reason");
        return box;
    }

    private void delete(Recipe recipe) {
        keeping.keep(model.deleted(recipe));
    }

    private Optional<File> ask(boolean open) {
        var chooser = new FileChooser();
        chooser.setTitle(open ? "Recipes to take in" : "Write recipes and rules into");
        chooser.getExtensionFilters().add(new FileChooser.ExtensionFilter("Recipes and rules", "*.json"));
        if (!open) {
            chooser.setInitialFileName("recipes and rules.json");
        }
        var window = anchor.getScene().getWindow();
        return Optional.ofNullable(open ? chooser.showOpenDialog(window) : chooser.showSaveDialog(window));
    }
}
