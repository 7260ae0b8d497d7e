package docksort.desktop.parts;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import javafx.scene.control.TableColumn;
import javafx.scene.control.TableView;

/// Order, widths and visibility of a list's columns as one line: `id=width` for each, with a `!` before
/// those that are hidden. The text of a column is no name: where a heading is explained it is drawn.
public final class ColumnForm {
    private static final String HIDDEN = "!";

    private ColumnForm() {}

    public static String of(TableView<?> table) {
        return table.getColumns().stream()
                .map(column ->
                        (column.isVisible() ? "" : HIDDEN) + column.getId() + "=" + Math.round(column.getWidth()))
                .collect(Collectors.joining("|"));
    }

    /// Brings a list into a form. Columns that are not named stay as they are, behind those that are;
    /// names without columns are left out, and a form that hides all of them is none.
    public static <T> void apply(TableView<T> table, String form) {
        Map<String, Integer> places = new HashMap<>();
        Map<String, Boolean> shown = new HashMap<>();
        Map<String, Double> widths = new HashMap<>();
        for (String each : form.split("\\|", -1)) {
            int equals = each.lastIndexOf('=');
            if (equals >= 0 && each.substring(equals + 1).matches("[1-9]\\d{1,3}")) {
                boolean hidden = each.startsWith(HIDDEN);
                String id = each.substring(hidden ? 1 : 0, equals);
                places.put(id, places.size());
                shown.put(id, !hidden);
                widths.put(id, Double.parseDouble(each.substring(equals + 1)));
            }
        }
        List<TableColumn<T, ?>> order = new ArrayList<>(table.getColumns());
        if (order.stream().noneMatch(column -> shown.getOrDefault(column.getId(), column.isVisible()))) {
            return;
        }
        for (TableColumn<T, ?> column : order) {
            column.setPrefWidth(widths.getOrDefault(column.getId(), column.getPrefWidth()));
            column.setVisible(shown.getOrDefault(column.getId(), column.isVisible()));
        }
        order.sort(Comparator.comparingInt(column -> places.getOrDefault(column.getId(), places.size())));
        if (!order.equals(table.getColumns())) {
            table.getColumns().setAll(order);
        }
    }
}
