package docksort.desktop.parts;

import java.io.File;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.Function;
import javafx.geometry.Pos;
import javafx.geometry.VPos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ChoiceBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.stage.DirectoryChooser;
import javafx.stage.FileChooser;
import javafx.stage.Window;
import javafx.util.StringConverter;
import org.jspecify.annotations.Nullable;

/// Fields, choices and choosers of files that pages of tasks share.
public final class TaskFields {
    private TaskFields() {}

    public static TextField field(String id, String prompt, int columns) {
        var field = new TextField();
        field.setId(id);
        field.setPromptText(prompt);
        field.setAccessibleText(prompt);
        field.setPrefColumnCount(columns);
        return field;
    }

    /// A field for a path with its chooser, whatever else a task is told, and the button that looks.
    public static Node lookFor(TextField path, Button choose, Node more, Runnable look) {
        path.setOnAction(_ -> look.run());
        Button button = Parts.button("Look", look, "main");
        button.setId(path.getId() + "-look");
        var line = new HBox(8, growing(Parts.checked(path, Typed::path)), choose, more, button);
        line.setAlignment(Pos.TOP_LEFT);
        return line;
    }

    public static Node growing(Node node) {
        HBox.setHgrow(node, Priority.ALWAYS);
        return node;
    }

    /// Never cut off.
    public static Label whole(Label label) {
        label.setMinWidth(Region.USE_PREF_SIZE);
        return label;
    }

    public static <T> ChoiceBox<T> choice(String id, String name, List<T> values, Function<T, String> words) {
        var box = new ChoiceBox<T>();
        box.setId(id);
        box.setAccessibleText(name);
        box.setConverter(new StringConverter<>() {
            @Override
            public String toString(T value) {
                return value == null ? "" : words.apply(value);
            }

            @Override
            public T fromString(String text) {
                throw new UnsupportedOperationException("it is only shown");
            }
        });
        box.getItems().setAll(values);
        box.getSelectionModel().selectFirst();
        return box;
    }

    /// Goes on in a second line where text is large.
    public static Node row(Node... nodes) {
        for (Node node : nodes) {
            if (node instanceof Label || node instanceof CheckBox) {
                ((Region) node).setMinWidth(Region.USE_PREF_SIZE);
            }
        }
        var row = new FlowPane(8, 6, nodes);
        row.setRowValignment(VPos.CENTER);
        return row;
    }

    public static Button chooseFolder(TextField into, String title) {
        return Parts.button("Choose…", () -> folder(title).ifPresent(chosen -> into.setText(chosen.toString())));
    }

    public static Optional<Path> folder(String title) {
        var chooser = new DirectoryChooser();
        chooser.setTitle(title);
        return Optional.ofNullable(chooser.showDialog(window())).map(File::toPath);
    }

    public static Optional<Path> file(String title) {
        var chooser = new FileChooser();
        chooser.setTitle(title);
        return Optional.ofNullable(chooser.showOpenDialog(window())).map(File::toPath);
    }

    /// @param endings that the file may have, without their dots; none for any
    public static Optional<Path> save(String title, String name, String... endings) {
        var chooser = new FileChooser();
        chooser.setTitle(title);
        chooser.setInitialFileName(name);
        for (String ending : endings) {
            chooser.getExtensionFilters()
                    .add(new FileChooser.ExtensionFilter(ending.toUpperCase(Locale.ROOT), "*." + ending));
        }
        return Optional.ofNullable(chooser.showSaveDialog(window())).map(File::toPath);
    }

    private static @Nullable Window window() {
        return Window.getWindows().stream().findFirst().orElse(null);
    }
}
