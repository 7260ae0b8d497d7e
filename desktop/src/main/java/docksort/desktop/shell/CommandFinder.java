package docksort.desktop.shell;

import docksort.desktop.parts.Parts;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.function.Consumer;
import java.util.function.Supplier;
import javafx.scene.Node;
import javafx.scene.Parent;
import javafx.scene.control.ButtonBase;
import javafx.scene.control.ListCell;
import javafx.scene.control.ListView;
import javafx.scene.control.MenuButton;
import javafx.scene.control.MenuItem;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyEvent;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/// Finds every action by its name, in place below the flow strip. What the stations offer is read from
/// their buttons at the moment it is asked for, so that nothing can be forgotten here.
final class CommandFinder extends VBox {
    private static final int ROWS = 9;

    private final TextField words = new TextField();
    private final ListView<Command> list = new ListView<>();
    private final Supplier<List<Command>> commands;
    private final Runnable close;
    private List<Command> all = List.of();

    /// Something that can be done.
    ///
    /// @param where the station it belongs to
    /// @param keys what does it by keyboard, empty where there is nothing
    /// @param possible whether it can be done now
    record Command(String where, String name, String keys, boolean possible, Runnable run) {
        boolean matches(List<String> wanted) {
            String text = (where + " " + name).toLowerCase(Locale.ROOT);
            return wanted.stream().allMatch(text::contains);
        }
    }

    /// @param commands all there are, asked for at every opening
    /// @param close puts the finder away
    CommandFinder(Supplier<List<Command>> commands, Runnable close) {
        this.commands = commands;
        this.close = close;
        getStyleClass().add("finder");
        words.setId("finder-words");
        words.setPromptText("What do you want to do?");
        words.setAccessibleText("Find an action by its name");
        list.setId("finder-list");
        list.setAccessibleText("Actions");
        list.setFixedCellSize(28);
        list.setPrefHeight(28.0 * ROWS + 2);
        list.setFocusTraversable(false);
        list.setPlaceholder(Parts.label("Nothing is called that", "quiet"));
        list.setCellFactory(_ -> new Row());
        list.setOnMouseClicked(_ -> carryOut());
        words.textProperty().subscribe(_ -> show());
        words.setOnAction(_ -> carryOut());
        addEventFilter(KeyEvent.KEY_PRESSED, this::key);
        getChildren().addAll(words, list);
    }

    /// Reads what can be done now, and waits for words.
    void open() {
        all = commands.get();
        words.clear();
        show();
        words.requestFocus();
    }

    private void show() {
        List<String> wanted = Arrays.stream(
                        words.getText().toLowerCase(Locale.ROOT).strip().split("\\s+", -1))
                .toList();
        list.getItems()
                .setAll(all.stream()
                        .filter(command -> command.matches(wanted))
                        .sorted(Comparator.comparing(command ->
                                !command.name().toLowerCase(Locale.ROOT).startsWith(wanted.getFirst())))
                        .toList());
        list.getSelectionModel().selectFirst();
    }

    private void key(KeyEvent event) {
        switch (event.getCode()) {
            case ESCAPE -> close.run();
            case DOWN -> list.getSelectionModel().selectNext();
            case UP -> list.getSelectionModel().selectPrevious();
            default -> {
                return;
            }
        }
        list.scrollTo(Math.max(0, list.getSelectionModel().getSelectedIndex() - ROWS / 2));
        event.consume();
    }

    private void carryOut() {
        Command chosen = list.getSelectionModel().getSelectedItem();
        if (chosen != null && chosen.possible) {
            close.run();
            chosen.run.run();
        }
    }

    private static final class Row extends ListCell<Command> {
        @Override
        protected void updateItem(Command command, boolean empty) {
            super.updateItem(command, empty);
            if (empty || command == null) {
                setGraphic(null);
                return;
            }
            var name = Parts.label(command.name, command.possible ? "plain" : "quiet");
            String state = command.possible ? "" : "not now  ·  ";
            setGraphic(new HBox(
                    10,
                    name,
                    Parts.spring(),
                    Parts.label(state + command.where, "quiet"),
                    Parts.label(command.keys, "mono")));
        }
    }

    /// What the buttons and menus below a node do.
    ///
    /// @param before done before one is pressed, such as showing its station
    static List<Command> below(Node node, String where, Runnable before) {
        Map<String, Command> found = new LinkedHashMap<>(); // a name that stands twice does the same
        walk(node, each -> {
            if (each instanceof MenuButton menu) {
                for (MenuItem item : menu.getItems()) {
                    if (item.getText() != null) {
                        add(
                                found,
                                where,
                                menu.getText() + ": " + item.getText(),
                                !item.isDisable(),
                                before,
                                item::fire);
                    }
                }
            } else if (each instanceof ButtonBase button) {
                String said = button.getAccessibleText();
                String name = said == null || said.isBlank() ? button.getText() : said;
                add(found, where, name, !button.isDisabled(), before, button::fire);
            }
        });
        return new ArrayList<>(found.values());
    }

    private static void add(
            Map<String, Command> found, String where, String name, boolean possible, Runnable before, Runnable press) {
        if (name != null && !name.isBlank()) {
            found.putIfAbsent(name, new Command(where, name, "", possible, () -> {
                before.run();
                press.run();
            }));
        }
    }

    private static void walk(Node node, Consumer<Node> each) {
        if (!node.isVisible()) {
            return;
        }
        each.accept(node);
        if (node instanceof Parent parent && !(node instanceof ButtonBase)) {
            parent.getChildrenUnmodifiable().forEach(child -> walk(child, each));
        }
    }
}
