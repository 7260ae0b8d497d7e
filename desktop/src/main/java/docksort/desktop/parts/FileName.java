package docksort.desktop.parts;

import java.nio.file.Path;
import java.util.List;
import java.util.function.Function;
import java.util.function.Supplier;
import java.util.stream.Collectors;
import javafx.scene.Node;
import javafx.scene.control.ContextMenu;
import javafx.scene.control.Label;
import javafx.scene.control.MenuItem;
import javafx.scene.control.SeparatorMenuItem;
import javafx.scene.control.TableView;
import javafx.scene.input.Clipboard;
import javafx.scene.input.ClipboardContent;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyCodeCombination;
import javafx.scene.input.KeyCombination;
import javafx.scene.input.KeyEvent;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.VBox;

/// Names of files, from which the path is copied and the folder shown.
public final class FileName {
    private static final String COPY = "Copy path";
    private static final String SHOW = "Show in folder";

    private FileName() {}

    /// A path with what can be done with it below.
    public static VBox of(Path file) {
        Label name = Parts.wrapped(file.toString(), "mono");
        var can = new FlowPane(12, 0);
        can.getChildren()
                .addAll(
                        Parts.button(COPY, () -> copy(List.of(file)), "link"),
                        Parts.button(SHOW, () -> name.fireEvent(new FileWish(file)), "link"));
        can.getChildren()
                .forEach(button ->
                        button.setAccessibleText(((javafx.scene.control.Button) button).getText() + ": " + file));
        name.setContextMenu(new ContextMenu(items(() -> List.of(file), name).toArray(MenuItem[]::new)));
        return new VBox(1, name, can);
    }

    /// The same of a table's rows: with their own menu, and with Ctrl+C for the paths of those selected.
    ///
    /// @param first what else the menu has
    public static <T> void of(TableView<T> table, Function<T, List<Path>> files, List<? extends MenuItem> first) {
        Supplier<List<Path>> chosen = () -> table.getSelectionModel().getSelectedItems().stream()
                .filter(row -> row != null)
                .flatMap(row -> files.apply(row).stream())
                .distinct()
                .toList();
        var menu = new ContextMenu();
        menu.getItems().addAll(first);
        if (!first.isEmpty()) {
            menu.getItems().add(new SeparatorMenuItem());
        }
        menu.getItems().addAll(items(chosen, table));
        table.setContextMenu(menu);
        onCopy(table, () -> copy(chosen.get()));
    }

    /// Lines of a table that name files in words are copied as they are read.
    static <T> void copied(TableView<T> table, Function<T, String> words) {
        Runnable copy = () -> text(
                table.getSelectionModel().getSelectedItems().stream().map(words).collect(Collectors.joining("\n")));
        table.setContextMenu(new ContextMenu(Parts.item("Copy line", copy)));
        onCopy(table, copy);
    }

    private static void onCopy(TableView<?> table, Runnable copy) {
        var keys = new KeyCodeCombination(KeyCode.C, KeyCombination.SHORTCUT_DOWN);
        table.addEventHandler(KeyEvent.KEY_PRESSED, event -> {
            if (keys.match(event)) {
                copy.run();
                event.consume();
            }
        });
    }

    private static List<MenuItem> items(Supplier<List<Path>> files, Node owner) {
        MenuItem copy = Parts.item(COPY, () -> copy(files.get()));
        MenuItem show = Parts.item(
                SHOW, () -> files.get().stream().findFirst().ifPresent(file -> owner.fireEvent(new FileWish(file))));
        return List.of(copy, show);
    }

    private static void copy(List<Path> files) {
        text(files.stream().map(Path::toString).collect(Collectors.joining("\n")));
    }

    private static void text(String words) {
        if (!words.isEmpty()) {
            var content = new ClipboardContent();
            content.putString(words);
            Clipboard.getSystemClipboard().setContent(content);
        }
    }
}
