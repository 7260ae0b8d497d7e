package docksort.desktop.parts;

import java.util.ArrayList;
import java.util.List;
import javafx.scene.control.Button;
import javafx.scene.control.CheckMenuItem;
import javafx.scene.control.CustomMenuItem;
import javafx.scene.control.Label;
import javafx.scene.control.MenuButton;
import javafx.scene.control.MenuItem;
import javafx.scene.control.SeparatorMenuItem;
import javafx.scene.control.TableColumn;
import javafx.scene.control.TableView;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/// Chooses which columns a list has, and keeps choices under names.
public final class ColumnMenu {
    private final TableView<?> table;
    private final ColumnSets sets;
    private final String usual;
    private final MenuButton menu = new MenuButton("Columns");

    private ColumnMenu(TableView<?> table, ColumnSets sets) {
        this.table = table;
        this.sets = sets;
        this.usual = usual(table);
    }

    /// @param table as it is at first
    public static MenuButton of(TableView<?> table, ColumnSets sets) {
        var made = new ColumnMenu(table, sets);
        made.menu.setId("columns-menu");
        made.menu.setAccessibleText("Columns of the list");
        made.menu.setMinWidth(Region.USE_PREF_SIZE);
        made.menu.setOnShowing(_ -> made.menu.getItems().setAll(made.items()));
        made.menu.getItems().setAll(made.items());
        return made.menu;
    }

    /// Widths that were never drawn are those that are wanted.
    private static String usual(TableView<?> table) {
        var words = new ArrayList<String>();
        table.getColumns()
                .forEach(column -> words.add(
                        (column.isVisible() ? "" : "!") + column.getId() + "=" + Math.round(column.getPrefWidth())));
        return String.join("|", words);
    }

    private List<MenuItem> items() {
        var items = new ArrayList<MenuItem>();
        for (TableColumn<?, ?> column : table.getColumns()) {
            if (!column.getId().isBlank()) {
                items.add(shown(column));
            }
        }
        items.add(new SeparatorMenuItem());
        items.add(Parts.item("As at first", () -> ColumnForm.apply(table, usual)));
        sets.all().forEach((name, form) -> items.add(Parts.item(name, () -> ColumnForm.apply(table, form))));
        items.add(new SeparatorMenuItem());
        items.add(keep());
        sets.all().keySet().forEach(name -> items.add(Parts.item("Forget \"" + name + "\"", () -> sets.forget(name))));
        return items;
    }

    /// The last one that is shown stays.
    private MenuItem shown(TableColumn<?, ?> column) {
        var item = new CheckMenuItem(column.getId());
        item.setMnemonicParsing(false);
        item.setSelected(column.isVisible());
        long all = table.getVisibleLeafColumns().size();
        item.setDisable(column.isVisible() && all == 1);
        item.selectedProperty().subscribe((_, on) -> column.setVisible(on));
        return item;
    }

    private MenuItem keep() {
        var name = new TextField();
        name.setId("columns-name");
        name.setPromptText("Name of this set");
        name.setAccessibleText("Name under which these columns are kept");
        Label fault = Parts.wrapped("", "stop");
        Button keep = Parts.button("Keep", () -> {
            sets.keep(name.getText(), ColumnForm.of(table));
            menu.hide();
        });
        keep.setId("columns-keep");
        name.textProperty().subscribe(text -> {
            fault.setText(ColumnSets.fault(text).orElse(""));
            fault.setManaged(!fault.getText().isEmpty());
            keep.setDisable(text.isBlank() || !fault.getText().isEmpty());
        });
        name.setOnAction(_ -> keep.fire());
        var item = new CustomMenuItem(new VBox(4, new HBox(6, name, keep), fault), false);
        item.setMnemonicParsing(false);
        return item;
    }
}
