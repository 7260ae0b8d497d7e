package docksort.desktop.parts;

import java.util.List;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.SimpleObjectProperty;
import javafx.scene.control.ToggleButton;
import javafx.scene.control.ToggleGroup;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/// The narrow list at the left: groups of lines with counts, one of them chosen.
public final class ScopeList extends VBox {
    private double lineWidth;
    private List<Scope.Group> shown = List.of();
    private final ObjectProperty<String> chosen = new SimpleObjectProperty<>("");

    public ScopeList() {
        getStyleClass().add("scope");
        setScale(1);
    }

    /// Widens the list with the size of its text, by half as much: its words have room to spare.
    public void setScale(double scale) {
        lineWidth = 152 * (1 + scale) / 2;
        double width = lineWidth + 34 * scale;
        setMinWidth(width);
        setPrefWidth(width);
        setMaxWidth(width);
        show(shown);
    }

    /// Key of the chosen line; the first line's is the empty text.
    public ObjectProperty<String> chosen() {
        return chosen;
    }

    public void show(List<Scope.Group> groups) {
        shown = List.copyOf(groups);
        getChildren().clear();
        var toggles = new ToggleGroup();
        boolean known = groups.stream()
                .flatMap(group -> group.lines().stream())
                .anyMatch(line -> line.key().equals(chosen.get()));
        if (!known) {
            chosen.set("");
        }
        for (Scope.Group group : groups) {
            var title = Parts.label(group.title(), "caption");
            var titleBox = new HBox(title);
            titleBox.getStyleClass().add("scope-title");
            if (!getChildren().isEmpty()) {
                titleBox.setStyle("-fx-padding: 1.2em 1em 0.5em 1.4em;");
            }
            getChildren().add(titleBox);
            for (Scope.Line line : group.lines()) {
                getChildren().add(toggle(line, toggles));
            }
        }
    }

    private ToggleButton toggle(Scope.Line line, ToggleGroup toggles) {
        var name = Parts.label(line.name(), "scope-name");
        var row = new HBox(name, Parts.spring(), Parts.label(Long.toString(line.count()), "mono"));
        row.setPrefWidth(lineWidth);
        name.setMaxWidth(lineWidth - 24);
        var button = new ToggleButton();
        button.setGraphic(row);
        button.setAccessibleText(line.name() + ", " + line.count());
        button.getStyleClass().setAll("scope-line");
        button.setMaxWidth(Double.MAX_VALUE);
        button.setToggleGroup(toggles);
        button.setSelected(line.key().equals(chosen.get()));
        button.setOnAction(_ -> {
            button.setSelected(true);
            chosen.set(line.key());
        });
        return button;
    }
}
