package docksort.desktop.sort;

import docksort.desktop.parts.Parts;
import docksort.desktop.parts.TaskFields;
import docksort.desktop.workshop.SortDesk;
import docksort.look.ColourDecisions.Named;
import docksort.media.ColourDecision;
import docksort.media.KeptFile;
import docksort.media.Look;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.VBox;

/// The fields of a look that is baked in: a table that the project has, and values of a colour decision.
final class LookFields {
    private final SortDesk desk;
    private final RecipeModel model;
    private final Runnable changed;
    private final ComboBox<Optional<KeptFile>> table = new ComboBox<>();
    private final ComboBox<Named> several = new ComboBox<>();
    private final Label values = Parts.wrapped("", "quiet");
    private final Button without = Parts.button("Without them", () -> use(Optional.empty()), "link");
    private Optional<ColourDecision> decision;

    /// @param start what the recipe has
    LookFields(SortDesk desk, RecipeModel model, Look start, Runnable changed) {
        this.desk = desk;
        this.model = model;
        this.changed = changed;
        this.decision = start.decision();
        table.setId("recipe-table");
        table.setAccessibleText("Lookup table");
        table.setMaxWidth(Double.MAX_VALUE);
        table.setConverter(RulePage.words(chosen -> chosen.map(KeptFile::name).orElse("none")));
        table.getItems().setAll(model.tables(List.of()));
        table.setValue(start.table());
        table.valueProperty().subscribe((_, _) -> changed.run());
        several.setId("recipe-decisions");
        several.setAccessibleText("Correction of the file");
        several.setMaxWidth(Double.MAX_VALUE);
        several.setConverter(RulePage.words(Named::id));
        several.valueProperty().subscribe((_, chosen) -> {
            if (chosen != null) {
                use(Optional.of(chosen.values()));
            }
        });
        show(several, false);
        tell();
        desk.tables(known -> offer(known, table.getValue()));
    }

    /// The recipe's table first, which may not be there any more.
    private void offer(List<KeptFile> known, Optional<KeptFile> chosen) {
        var choices = new ArrayList<>(model.tables(known));
        if (!choices.contains(chosen)) {
            choices.add(chosen);
        }
        table.getItems().setAll(choices);
        table.setValue(chosen);
    }

    List<Node> nodes() {
        Button add = Parts.button(
                "Add a table…",
                () -> TaskFields.file("A lookup table, .cube")
                        .ifPresent(file -> desk.addTable(file, (added, known) -> offer(known, Optional.of(added)))));
        add.setId("add-table");
        Button read = Parts.button(
                "Values of a decision list…",
                () -> TaskFields.file("A colour decision: .cc, .ccc or .cdl")
                        .ifPresent(file -> desk.decisions(file, this::choose)));
        read.setId("read-decision");
        return List.of(
                RecipePage.named("table", table),
                RecipePage.named("values", new VBox(2, values, without)),
                several,
                new FlowPane(8, 8, add, read),
                Parts.wrapped(
                        "Values come first, then the table. They are baked in: only the original keeps its colours.",
                        "quiet"));
    }

    private void choose(List<Named> found) {
        show(several, found.size() > 1);
        several.getItems().setAll(found);
        several.setValue(found.getFirst());
    }

    private void use(Optional<ColourDecision> chosen) {
        decision = chosen;
        if (chosen.isEmpty()) {
            show(several, false);
        }
        tell();
        changed.run();
    }

    private void tell() {
        values.setText(RecipeModel.decision(decision));
        show(without, decision.isPresent());
    }

    Optional<ColourDecision> decision() {
        return decision;
    }

    Optional<KeptFile> table() {
        return table.getValue();
    }

    private static void show(Node node, boolean visible) {
        node.setVisible(visible);
        node.setManaged(visible);
    }
}
