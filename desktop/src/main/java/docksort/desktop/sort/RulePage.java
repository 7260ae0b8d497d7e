package docksort.desktop.sort;

import docksort.desktop.parts.Parts;
import docksort.desktop.workshop.Workshop;
import docksort.sort.Condition;
import docksort.sort.CopyKind;
import docksort.sort.Fact;
import docksort.sort.LoadSheet;
import docksort.sort.Recipe;
import docksort.sort.SortBook;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;
import java.util.stream.IntStream;
import javafx.application.Platform;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;
import javafx.util.StringConverter;

/// Builds one sort rule of facts, and says what would change before it is applied.
final class RulePage {
    private final Workshop workshop;
    private final RuleModel model;
    private final Runnable done;
    private final VBox conditions = new VBox(6);
    private final List<ConditionRow> rows = new ArrayList<>();
    private final List<Make> makes = new ArrayList<>();
    private final VBox gets = new VBox(6);
    private final Label fault = Parts.wrapped("", "stop");
    private final VBox change = new VBox(4);
    private final Button apply;
    private final Keeping keeping;
    private boolean isBuilt;

    /// @param index the rule in the book, from 0, or negative for a new one
    RulePage(Workshop workshop, SortBook book, int index, Runnable done) {
        this.workshop = workshop;
        this.model = new RuleModel(book, index);
        this.done = done;
        this.keeping = new Keeping(workshop, index < 0 ? "" : "rule " + (index + 1), done);
        this.apply = Parts.button("Apply", this::apply, "main");
        apply.setId("apply-rule");
        model.conditions().forEach(condition -> addRow(Optional.of(condition)));
        for (CopyKind kind : CopyKind.values()) {
            List<Recipe> chosen = model.chosen(kind);
            chosen.forEach(recipe -> makes.add(make(kind, Optional.of(recipe))));
            if (chosen.isEmpty()) {
                makes.add(make(kind, Optional.empty()));
            }
        }
        showMakes();
        isBuilt = true;
        changed();
    }

    /// One copy that a caught clip gets.
    private record Make(CopyKind kind, ComboBox<Optional<Recipe>> recipe) {}

    List<Node> nodes() {
        var nodes = new ArrayList<Node>();
        nodes.add(Parts.button("Back to the load sheet", done, "link"));
        nodes.add(Parts.label(model.title(), "docket-name"));
        nodes.add(keeping.node());
        nodes.add(Parts.section("A clip is caught when all of this holds"));
        nodes.add(conditions);
        Button more = Parts.button("Add a condition", () -> {
            addRow(Optional.empty());
            changed();
        });
        more.setId("add-condition");
        nodes.add(more);
        nodes.add(Parts.section("It gets"));
        nodes.add(gets);
        Button size = Parts.button("Add a light copy of another size", this::addLight);
        size.setId("add-light");
        nodes.add(size);
        nodes.add(Parts.section("What would change"));
        nodes.add(fault);
        nodes.add(change);
        var buttons = new FlowPane(8, 8, apply);
        if (!model.isNew()) {
            buttons.getChildren()
                    .addAll(
                            does("Earlier", model.moved(-1)),
                            does("Later", model.moved(1)),
                            does("Delete rule", model.deleted()));
        }
        nodes.add(buttons);
        return nodes;
    }

    /// A button for what may be done, dimmed where it may not.
    private Button does(String name, Optional<BookChange> change) {
        Button button = Parts.button(name, () -> change.ifPresent(keeping::keep));
        button.setDisable(change.isEmpty());
        return button;
    }

    private static Node named(String name, Node control) {
        Label title = Parts.label(name, "quiet");
        title.setMinWidth(52);
        title.setLabelFor(control);
        HBox.setHgrow(control, Priority.ALWAYS);
        var line = new HBox(8, title, control);
        line.setAlignment(Pos.CENTER_LEFT);
        return line;
    }

    private void showMakes() {
        gets.getChildren()
                .setAll(makes.stream()
                        .map(make -> named(make.kind().label(), make.recipe()))
                        .toList());
    }

    private void addLight() {
        int last = IntStream.range(0, makes.size())
                .filter(i -> makes.get(i).kind() == CopyKind.LIGHT)
                .max()
                .orElse(-1);
        Make more = make(CopyKind.LIGHT, Optional.empty());
        makes.add(last + 1, more);
        showMakes();
        more.recipe().requestFocus();
    }

    private Make make(CopyKind kind, Optional<Recipe> chosen) {
        var box = new ComboBox<Optional<Recipe>>();
        long before = makes.stream().filter(make -> make.kind() == kind).count();
        box.setId("rule-makes-" + kind.label() + (before == 0 ? "" : "-" + (before + 1)));
        box.setMaxWidth(Double.MAX_VALUE);
        box.getItems().setAll(model.choices(kind));
        box.setConverter(words(recipe -> recipe.map(Recipe::name).orElse("no copy")));
        box.setValue(chosen);
        box.setOnAction(_ -> changed());
        return new Make(kind, box);
    }

    static <T> StringConverter<T> words(Function<T, String> label) {
        return new StringConverter<>() {
            @Override
            public String toString(T value) {
                return value == null ? "" : label.apply(value);
            }

            @Override
            public T fromString(String text) {
                throw new UnsupportedOperationException("not written by hand");
            }
        };
    }

    /// The controls of one condition.
    private final class ConditionRow {
        private final ComboBox<Fact> fact = new ComboBox<>();
        private final ComboBox<Fact.Is> is = new ComboBox<>();
        private final ComboBox<String> choice = new ComboBox<>();
        private final TextField text = new TextField();
        private final VBox node = new VBox(2);

        ConditionRow(Optional<Condition> from) {
            fact.getItems().setAll(Fact.values());
            fact.setConverter(words(Fact::label));
            is.setConverter(words(Fact.Is::label));
            fact.setAccessibleText("Fact");
            is.setAccessibleText("Comparison");
            choice.setAccessibleText("Value");
            text.setAccessibleText("Value");
            fact.setPrefWidth(128);
            is.setPrefWidth(110);
            Fact first = from.map(Condition::fact).orElse(Fact.RASTER);
            fact.setValue(first);
            show(first, from.map(Condition::value).orElse(first.example()));
            from.ifPresent(condition -> is.setValue(condition.is()));
            fact.setOnAction(_ -> {
                show(fact.getValue(), fact.getValue().example());
                changed();
            });
            is.setOnAction(_ -> changed());
            choice.setOnAction(_ -> changed());
            text.textProperty().subscribe(_ -> changed());
            Button out = Parts.button(
                    "Remove",
                    () -> {
                        rows.remove(this);
                        conditions.getChildren().remove(node);
                        changed();
                    },
                    "link");
            HBox.setHgrow(text, Priority.ALWAYS);
            HBox.setHgrow(choice, Priority.ALWAYS);
            choice.setMaxWidth(Double.MAX_VALUE);
            node.getChildren().setAll(new HBox(6, fact, is), new HBox(6, text, choice, out));
        }

        private void show(Fact of, String value) {
            is.getItems().setAll(of.comparisons());
            is.setValue(of.comparisons().getFirst());
            boolean listed = !of.choices().isEmpty();
            choice.getItems().setAll(of.choices());
            choice.setValue(listed && of.choices().contains(value) ? value : of.example());
            text.setText(value);
            choice.setVisible(listed);
            choice.setManaged(listed);
            text.setVisible(!listed);
            text.setManaged(!listed);
        }

        Condition condition() {
            Fact of = fact.getValue();
            return new Condition(of, is.getValue(), of.choices().isEmpty() ? text.getText() : choice.getValue());
        }
    }

    private void addRow(Optional<Condition> from) {
        var row = new ConditionRow(from);
        rows.add(row);
        conditions.getChildren().add(row.node);
    }

    /// @throws IllegalArgumentException with what is wrong with a condition
    private SortBook wanted() {
        return model.wanted(
                rows.stream().map(ConditionRow::condition).toList(),
                makes.stream()
                        .flatMap(make -> make.recipe().getValue().stream())
                        .toList());
    }

    private void changed() {
        if (!isBuilt) {
            return;
        }
        try {
            SortBook next = wanted();
            tell("");
            apply.setDisable(!model.changes(next));
            workshop.sort().preview(next).thenAccept(changes -> Platform.runLater(() -> show(changes)));
        } catch (IllegalArgumentException e) {
            tell(String.valueOf(e.getMessage()));
            change.getChildren().clear();
            apply.setDisable(true);
        }
    }

    private void tell(String words) {
        fault.setText(words);
        fault.setManaged(!words.isEmpty());
        fault.setVisible(!words.isEmpty());
    }

    private void show(List<LoadSheet.Change> changes) {
        RuleModel.Outcome outcome = RuleModel.outcome(changes);
        change.getChildren().setAll(outcome.lines().stream().map(Parts::wrapped).toList());
        change.getChildren().add(Parts.wrapped(outcome.names(), "quiet"));
    }

    private void apply() {
        keeping.keep(model.applied(wanted()));
    }
}
