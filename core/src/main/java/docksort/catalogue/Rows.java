package docksort.catalogue;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.jdbi.v3.core.Handle;

/// Rows that are put back as they were. Their columns' names come from the catalogue's own text, which
/// may be a stranger's: only names that the table has get into a statement.
final class Rows {
    private final Handle h;
    private final Map<String, Map<String, String>> columns = new HashMap<>();

    Rows(Handle h) {
        this.h = h;
    }

    /// Types of a table's columns by their names.
    Map<String, String> columns(String table) {
        return columns.computeIfAbsent(table, this::readColumns);
    }

    private Map<String, String> readColumns(String table) {
        var found = new LinkedHashMap<String, String>();
        h.createQuery("SELECT name, type FROM pragma_table_info(:table)")
                .bind("table", table)
                .map((row, _) -> Map.entry(row.getString("name"), row.getString("type")))
                .forEach(column -> found.put(column.getKey(), column.getValue()));
        return found;
    }

    /// Puts a row back; one whose place is taken stays out.
    void insert(String table, Map<String, Object> row) {
        List<String> names = known(table, row);
        h.createUpdate("INSERT OR IGNORE INTO " + table + " (" + String.join(", ", names) + ") VALUES ("
                        + names.stream().map(name -> ":" + name).collect(Collectors.joining(", ")) + ")")
                .bindMap(row)
                .execute();
    }

    /// Gives a row the values of some columns again.
    void set(String table, String id, Map<String, Object> row) {
        h.createUpdate("UPDATE " + table + " SET "
                        + known(table, row).stream()
                                .map(name -> name + " = :" + name)
                                .collect(Collectors.joining(", "))
                        + " WHERE id = :id")
                .bindMap(row)
                .bind("id", id)
                .execute();
    }

    private List<String> known(String table, Map<String, Object> row) {
        var names = new ArrayList<>(row.keySet());
        names.removeAll(columns(table).keySet());
        if (row.isEmpty() || !names.isEmpty()) {
            throw new IllegalStateException("the catalogue holds columns that " + table + " does not have: " + names);
        }
        return List.copyOf(row.keySet());
    }
}
