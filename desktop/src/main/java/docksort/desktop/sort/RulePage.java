package docksort.desktop.sort;

import docksort.desktop.parts.Parts;
import docksort.desktop.workshop.Workshop;
import docksort.sort.Condition;
import docksort.sort.CopyKind;
import docksort.sort.Fact;
import docksort.sort.LoadSheet;
import docksort.sort.Recipe;
import docksort.sort.SortBook;
import docksort.sort.SortRule;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.stream.Collectors;
import javafx.application.Platform;
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
    private final SortBook book;
    private final int index;
    private final Runnable done;
    private final VBox conditions = new VBox(6);
    private final List<ConditionRow> rows = new ArrayList<>();
    private final Map<CopyKind, ComboBox<Optional<Recipe>>> makes = new EnumMap<>(CopyKind.class);
    private final Label fault = Parts.wrapped("", "stop");
    private final VBox change = new VBox(4);
    private final Button apply;

    /// @param index the rule in the book, from 0, or negative for a new one
    RulePage(Workshop workshop, SortBook book, int index, Runnable done) {
        this.workshop = workshop;
        this.book = book;
        this.index = index;
        this.done = done;
        this.apply = Parts.button("Apply", this::apply, "main");
        apply.setId("apply-rule");
        SortRule rule = index < 0
                ? new SortRule(
                        List.of(new Condition(Fact.SCRUB_COST, Fact.Is.AT_LEAST, "4")),
                        List.of(Recipe.LIGHT_PRORES_HALF.id()))
                : book.rules().get(index);
        rule.when().forEach(condition -> addRow(Optional.of(condition)));
        for (CopyKind kind : CopyKind.values()) {
            makes.put(kind, make(kind, rule));
        }
        changed();
    }

    List<Node> nodes() {
        var nodes = new ArrayList<Node>();
        nodes.add(Parts.button("Back to the load sheet", done, "link"));
        nodes.add(Parts.label(index < 0 ? "New rule" : "Rule " + (index + 1), "docket-name"));
        nodes.add(Parts.section("A clip is caught when all of this holds"));
        nodes.add(conditions);
        Button more = Parts.button("Add a condition", () -> {
            addRow(Optional.empty());
            changed();
        });
        more.setId("add-condition");
        nodes.add(more);
        nodes.add(Parts.section("It gets"));
        makes.forEach((kind, box) -> nodes.add(named(kind.label(), box)));
        nodes.add(Parts.section("What would change"));
        nodes.add(fault);
        nodes.add(change);
        var buttons = new FlowPane(8, 8, apply);
        if (index >= 0) {
            buttons.getChildren()
                    .addAll(
                            Parts.button("Earlier", () -> move(-1)),
                            Parts.button("Later", () -> move(1)),
                            Parts.button("Delete rule", this::delete));
        }
        nodes.add(buttons);
        return nodes;
    }

    private static Node named(String name, Node control) {
        Label title = Parts.label(name, "quiet");
        title.setMinWidth(52);
        title.setLabelFor(control);
        HBox.setHgrow(control, Priority.ALWAYS);
        var line = new HBox(8, title, control);
        line.setAlignment(javafx.geometry.Pos.CENTER_LEFT);
        return line;
    }

    private ComboBox<Optional<Recipe>> make(CopyKind kind, SortRule rule) {
        var box = new ComboBox<Optional<Recipe>>();
        box.setId("rule-makes-" + kind.label());
        box.setMaxWidth(Double.MAX_VALUE);
        box.getItems().add(Optional.empty());
        book.recipes().stream()
                .filter(recipe -> recipe.kind() == kind)
                .forEach(recipe -> box.getItems().add(Optional.of(recipe)));
        box.setConverter(words(chosen -> chosen.map(Recipe::name).orElse("no copy")));
        box.setValue(rule.make().stream()
                .flatMap(id -> book.byId(id).stream())
                .filter(recipe -> recipe.kind() == kind)
                .findFirst());
        box.setOnAction(_ -> changed());
        return box;
    }

    static <T> StringConverter<T> words(java.util.function.Function<T, String> label) {
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

    /// The book with this rule in its place, or why there is none.
    private SortBook wanted() {
        List<Condition> when = rows.stream().map(ConditionRow::condition).toList();
        List<String> make = makes.values().stream()
                .flatMap(box -> box.getValue().stream())
                .map(Recipe::id)
                .toList();
        var rules = new ArrayList<>(book.rules());
        var rule = new SortRule(when, make);
        if (index < 0) {
            rules.add(rule);
        } else {
            rules.set(index, rule);
        }
        return book.withRules(rules);
    }

    private void changed() {
        if (makes.size() < CopyKind.values().length) {
            return; // still being built
        }
        try {
            SortBook next = wanted();
            tell("");
            apply.setDisable(next.equals(book));
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
        if (changes.isEmpty()) {
            change.getChildren().setAll(Parts.wrapped("Nothing: the same clips get the same copies.", "quiet"));
            return;
        }
        Map<String, Long> outcomes = changes.stream()
                .collect(Collectors.groupingBy(
                        c -> c.after().isEmpty()
                                ? "are left as they are"
                                : "get " + c.after().stream().map(Recipe::label).collect(Collectors.joining(" + ")),
                        TreeMap::new,
                        Collectors.counting()));
        change.getChildren().clear();
        outcomes.forEach((outcome, count) -> change.getChildren().add(Parts.wrapped(count + " " + outcome)));
        String names = changes.stream().limit(6).map(c -> c.clip().name()).collect(Collectors.joining(", "));
        change.getChildren()
                .add(Parts.wrapped(
                        names + (changes.size() > 6 ? " and " + (changes.size() - 6) + " more" : ""), "quiet"));
    }

    private void apply() {
        SortBook next = wanted();
        workshop.sort().change(next, index < 0 ? "Added a rule" : "Changed rule " + (index + 1));
        done.run();
    }

    private void move(int by) {
        int to = index + by;
        if (to >= 0 && to < book.rules().size()) {
            var rules = new ArrayList<>(book.rules());
            rules.add(to, rules.remove(index));
            workshop.sort().change(book.withRules(rules), "Moved rule " + (index + 1) + " to " + (to + 1));
            done.run();
        }
    }

    private void delete() {
        var rules = new ArrayList<>(book.rules());
        rules.remove(index);
        workshop.sort().change(book.withRules(rules), "Deleted rule " + (index + 1));
        done.run();
    }
}
