package docksort.desktop.parts;

import java.util.Objects;
import java.util.Optional;
import java.util.function.Function;
import java.util.function.ToLongFunction;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.event.ActionEvent;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.MenuItem;
import javafx.scene.control.TableCell;
import javafx.scene.control.TableColumn;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import org.jspecify.annotations.Nullable;

/// The small pieces all stations are built of: labels by role, buttons, table columns, empty states.
public final class Parts {
    private Parts() {}

    public static Label label(String text, String... styles) {
        var label = new Label(text);
        label.getStyleClass().addAll(styles);
        return label;
    }

    public static Label wrapped(String text, String... styles) {
        Label label = label(text, styles);
        label.setWrapText(true);
        label.setMinHeight(Region.USE_PREF_SIZE);
        return label;
    }

    public static Button button(String text, Runnable action, String... styles) {
        var button = new Button(text);
        button.getStyleClass().addAll(styles);
        button.setOnAction(_ -> action.run());
        button.setMnemonicParsing(false);
        button.setMinWidth(Region.USE_PREF_SIZE);
        return button;
    }

    public static MenuItem item(String words, Runnable action) {
        var item = new MenuItem(words);
        item.setMnemonicParsing(false);
        item.setOnAction(_ -> action.run());
        return item;
    }

    /// A field with words below it that say what is wrong with what is written there. They come when it
    /// is left or taken with Enter, not while somebody still writes, and go as soon as it is right.
    ///
    /// @param fault empty where nothing is wrong
    public static VBox checked(TextField field, Function<String, Optional<String>> fault) {
        Label words = wrapped("", "stop");
        Runnable tell = () -> {
            Optional<String> wrong = fault.apply(field.getText());
            words.setText(wrong.orElse(""));
            words.setVisible(wrong.isPresent());
            words.setManaged(wrong.isPresent());
            field.getStyleClass().remove("wrong");
            if (wrong.isPresent()) {
                field.getStyleClass().add("wrong");
            }
        };
        field.focusedProperty().subscribe(focused -> {
            if (!focused) {
                tell.run();
            }
        });
        field.addEventHandler(ActionEvent.ACTION, _ -> tell.run());
        field.textProperty().subscribe((_, _) -> {
            if (words.isVisible()) {
                tell.run();
            }
        });
        return new VBox(2, field, words);
    }

    public static Region spring() {
        var spring = new Region();
        HBox.setHgrow(spring, Priority.ALWAYS);
        return spring;
    }

    /// A word with its shape before it.
    public static HBox marked(Node mark, String word, String... styles) {
        var box = new HBox(7, mark, label(word, styles));
        box.setAlignment(Pos.CENTER_LEFT);
        return box;
    }

    /// A heading with a line under it, and something at its end.
    public static HBox section(String title, Node... atEnd) {
        var box = new HBox(10, label(title, "caption"), spring());
        box.getChildren().addAll(atEnd);
        box.getStyleClass().add("section");
        return box;
    }

    /// A fact: its name, and its value at a common distance from the left.
    public static HBox fact(String name, String value) {
        Label title = label(name, "quiet", "fact-name");
        Label text = wrapped(value);
        HBox.setHgrow(text, Priority.ALWAYS);
        var line = new HBox(title, text);
        line.getStyleClass().add("fact-line");
        return line;
    }

    /// What a place without content says: what it is for and what to do next.
    public static VBox empty(String title, String next, Node... actions) {
        var box = new VBox(label(title, "strong"), wrapped(next, "quiet"));
        box.getChildren().addAll(actions);
        box.getStyleClass().add("empty");
        return box;
    }

    public static <T> TableColumn<T, String> text(
            String title, double width, Function<T, String> value, String... styles) {
        var column = new TableColumn<T, String>(title);
        column.setId(title);
        column.setPrefWidth(width);
        column.setCellValueFactory(row -> new ReadOnlyObjectWrapper<>(value.apply(row.getValue())));
        column.setCellFactory(_ -> new TableCell<>() {
            {
                getStyleClass().addAll(styles);
            }

            @Override
            protected void updateItem(String item, boolean empty) {
                super.updateItem(item, empty);
                setText(empty ? "" : item);
            }
        });
        return column;
    }

    /// A right-aligned figure that sorts by its number and shows it in words.
    public static <T> TableColumn<T, Long> number(
            String title, double width, ToLongFunction<T> value, Function<T, String> words) {
        var column = new TableColumn<T, Long>(title);
        column.setId(title);
        column.getStyleClass().add("number");
        column.setPrefWidth(width);
        column.setCellValueFactory(row -> new ReadOnlyObjectWrapper<>(value.applyAsLong(row.getValue())));
        column.setCellFactory(_ -> new TableCell<>() {
            {
                getStyleClass().add("number");
            }

            @Override
            protected void updateItem(Long item, boolean empty) {
                super.updateItem(item, empty);
                T row = empty || getTableRow() == null ? null : getTableRow().getItem();
                setText(row == null ? "" : words.apply(row));
            }
        });
        return column;
    }

    /// A cell that is drawn; it sorts by a text.
    public static <T> TableColumn<T, String> drawn(
            String title, double width, Function<T, String> sortKey, Function<T, Node> drawing) {
        return drawn(title, width, sortKey, row -> row, drawing);
    }

    /// The same for drawings that many rows have in common, which are not made anew as long as the next row
    /// looks like the one before.
    ///
    /// @param look what the drawing depends on
    public static <T> TableColumn<T, String> drawn(
            String title,
            double width,
            Function<T, String> sortKey,
            Function<T, ? extends Object> look,
            Function<T, Node> drawing) {
        var column = new TableColumn<T, String>(title);
        column.setId(title);
        column.setPrefWidth(width);
        column.setCellValueFactory(row -> new ReadOnlyObjectWrapper<>(sortKey.apply(row.getValue())));
        column.setCellFactory(_ -> new TableCell<>() {
            private @Nullable T drawn;
            private @Nullable Object looked;

            // A row's cells are updated far more often than the row changes.
            @Override
            @SuppressWarnings("ReferenceEquality") // a row that changed is another object
            protected void updateItem(String item, boolean empty) {
                super.updateItem(item, empty);
                T row = empty || getTableRow() == null ? null : getTableRow().getItem();
                if (row == drawn) {
                    return;
                }
                Object looks = row == null ? null : look.apply(row);
                if (row == null || drawn == null || !Objects.equals(looks, looked)) {
                    setGraphic(row == null ? null : drawing.apply(row));
                }
                drawn = row;
                looked = looks;
            }
        });
        return column;
    }
}
