package docksort.catalogue;

import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.Base64;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.stream.Collectors;
import org.jdbi.v3.core.Handle;
import org.jdbi.v3.core.statement.UnableToExecuteStatementException;

/// Rows that are put back as they were. Their columns' names come from the catalogue's own text, which
/// may be a stranger's: only names that the table has get into a statement.
final class Rows {
    private final Handle h;
    private final Map<String, Map<String, String>> columns = new HashMap<>();

    Rows(Handle h) {
        this.h = h;
    }

    /// Types of a table's columns by their names.
    private Map<String, String> columns(String table) {
        return columns.computeIfAbsent(table, this::readColumns);
    }

    private Map<String, String> readColumns(String table) {
        var found = new LinkedHashMap<String, String>();
        Connection connection = h.getConnection();
        try (ResultSet row = connection.getMetaData().getColumns(null, connection.getSchema(), table, null)) {
            while (row.next()) {
                found.put(
                        row.getString("COLUMN_NAME"), row.getString("TYPE_NAME").toUpperCase(Locale.ROOT));
            }
        } catch (SQLException e) {
            throw new UnableToExecuteStatementException(e, null);
        }
        return found;
    }

    /// Puts a row back; one whose place is taken stays out.
    void insert(String table, Map<String, Object> row) {
        Map<String, Object> known = known(table, row);
        h.createUpdate("INSERT INTO " + table + " (" + String.join(", ", known.keySet()) + ") VALUES ("
                        + known.keySet().stream().map(name -> ":" + name).collect(Collectors.joining(", "))
                        + ") ON CONFLICT DO NOTHING")
                .bindMap(known)
                .execute();
    }

    /// Gives a row the values of some columns again.
    void set(String table, String id, Map<String, Object> row) {
        Map<String, Object> known = known(table, row);
        h.createUpdate("UPDATE " + table + " SET "
                        + known.keySet().stream()
                                .map(name -> name + " = :" + name)
                                .collect(Collectors.joining(", "))
                        + " WHERE id = :id")
                .bindMap(known)
                .bind("id", id)
                .execute();
    }

    /// A row with values that fit the table's columns.
    Map<String, Object> known(String table, Map<String, Object> row) {
        Map<String, String> types = columns(table);
        var names = new ArrayList<>(row.keySet());
        names.removeAll(types.keySet());
        if (row.isEmpty() || !names.isEmpty()) {
            throw new IllegalStateException("the catalogue holds columns that " + table + " does not have: " + names);
        }
        var known = new LinkedHashMap<>(row);
        known.replaceAll((name, value) -> fit(value, Objects.requireNonNull(types.get(name))));
        return known;
    }

    /// A value of a row that was kept as JSON, perhaps by the other kind of database: bytes were written as
    /// Base64, and whether something holds as a number or as a word.
    private static Object fit(Object value, String type) {
        return switch (type) {
            case "BLOB", "BYTEA" ->
                value instanceof String bytes ? Base64.getDecoder().decode(bytes) : value;
            case "BOOL" -> value instanceof Number number ? number.longValue() != 0 : value;
            // One driver gives numbers as wide as they are, and a batch takes them as wide as the first.
            default -> value instanceof Integer number ? Long.valueOf(number) : value;
        };
    }
}
