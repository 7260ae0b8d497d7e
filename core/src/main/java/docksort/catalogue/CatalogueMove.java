package docksort.catalogue;

import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.Iterator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.stream.Collectors;
import org.jdbi.v3.core.Handle;
import org.jdbi.v3.core.statement.UnableToExecuteStatementException;

/// Copies a whole catalogue row for row into an empty one, and then reads both and compares them.
final class CatalogueMove {
    private static final int AT_ONCE = 500;

    /// All tables with what orders their rows, in the order in which they can be filled.
    static final Map<String, String> TABLES = new LinkedHashMap<>();

    static {
        TABLES.put("setting", "name");
        TABLES.put("kept_file", "digest");
        TABLES.put("root", "id");
        TABLES.put("root_path", "root_id, workstation");
        TABLES.put("arrival", "id");
        TABLES.put("clip", "id");
        TABLES.put("presence", "clip_id, workstation");
        TABLES.put("unreadable", "arrival_id, path");
        TABLES.put("seen", "arrival_id, path");
        TABLES.put("aside", "arrival_id, path");
        TABLES.put("measurement", "machine, subject, kind");
        TABLES.put("stand_in", "fingerprint");
        TABLES.put("used", "clip_id, range_first");
        TABLES.put("choice", "clip_id");
        TABLES.put("pin", "clip_id, range_first, range_count");
        TABLES.put("said", "mention");
        TABLES.put("cut_form", "clip_id");
        TABLES.put("copy", "id");
        TABLES.put("copy_presence", "copy_id, workstation");
        TABLES.put("run_line", "run_micros, copy_id");
        TABLES.put("activity", "id");
        TABLES.put("taken_out", "change, position");
        TABLES.put("watched_place", "workstation, path");
        TABLES.put("place_taken", "workstation, path");
    }

    private CatalogueMove() {}

    /// A row that did not come over as it was.
    static final class Differs extends RuntimeException {
        private static final long serialVersionUID = 1L;

        Differs(String table, Object there, Object here) {
            super("the table " + table + " is not the same after it was copied: " + brief(there) + " became "
                    + brief(here));
        }

        private static String brief(Object row) {
            String text = String.valueOf(row);
            return text.length() > 200 ? text.substring(0, 200) + "…" : text;
        }
    }

    /// Both handles are in a transaction that keeps others from writing.
    ///
    /// @return rows by table
    /// @throws Differs when what was written reads otherwise
    static Map<String, Long> copy(Handle from, Handle into) {
        var rows = new Rows(into);
        var counts = new LinkedHashMap<String, Long>();
        TABLES.forEach((table, order) -> {
            fill(from, into, rows, table, order);
            counts.put(table, compare(from, into, rows, table, order));
        });
        return counts;
    }

    private static void fill(Handle from, Handle into, Rows rows, String table, String order) {
        try (var read = read(from, table, order)) {
            Iterator<Map<String, Object>> each = read.iterator();
            while (each.hasNext()) {
                var batch = new ArrayList<Map<String, Object>>();
                while (each.hasNext() && batch.size() < AT_ONCE) {
                    batch.add(rows.known(table, each.next()));
                }
                write(into, table, batch);
            }
        }
    }

    /// By the driver alone: a batch of the library binds every row by the kinds of the first one's values, and
    /// there are columns with nothing in one row and something in the next.
    private static void write(Handle into, String table, List<Map<String, Object>> rows) {
        List<String> names = List.copyOf(rows.getFirst().keySet());
        String insert = "INSERT INTO " + table + " (" + String.join(", ", names) + ") VALUES ("
                + names.stream().map(_ -> "?").collect(Collectors.joining(", ")) + ")";
        try (PreparedStatement batch = into.getConnection().prepareStatement(insert)) {
            for (Map<String, Object> row : rows) {
                for (int i = 0; i < names.size(); i++) {
                    batch.setObject(i + 1, row.get(names.get(i)));
                }
                batch.addBatch();
            }
            batch.executeBatch();
        } catch (SQLException e) {
            throw new UnableToExecuteStatementException(e, null);
        }
    }

    private static org.jdbi.v3.core.result.ResultIterable<Map<String, Object>> query(
            Handle h, String table, String order) {
        return h.createQuery("SELECT * FROM " + table + " ORDER BY " + order)
                .setFetchSize(AT_ONCE)
                .mapToMap();
    }

    private static java.util.stream.Stream<Map<String, Object>> read(Handle h, String table, String order) {
        return query(h, table, order).stream();
    }

    private static long compare(Handle from, Handle into, Rows rows, String table, String order) {
        try (var there = read(from, table, order);
                var here = read(into, table, order)) {
            Iterator<Map<String, Object>> expected = there.iterator();
            Iterator<Map<String, Object>> found = here.iterator();
            long count = 0;
            while (expected.hasNext() && found.hasNext()) {
                Map<String, Object> wanted = plain(rows.known(table, expected.next()));
                Map<String, Object> is = plain(found.next());
                if (!wanted.equals(is)) {
                    throw new Differs(table, wanted, is);
                }
                count++;
            }
            if (expected.hasNext() || found.hasNext()) {
                throw new Differs(table, expected.hasNext() ? "a row" : "none", found.hasNext() ? "a row" : "none");
            }
            return count;
        }
    }

    /// Values that are equal where they say the same, however wide their numbers are.
    private static Map<String, Object> plain(Map<String, Object> row) {
        var plain = new LinkedHashMap<String, Object>();
        row.forEach((name, value) -> plain.put(
                name,
                value == null
                        ? "nothing"
                        : switch (value) {
                            case byte[] bytes -> java.util.HexFormat.of().formatHex(bytes);
                            case Boolean holds -> holds ? 1L : 0L;
                            case Number number -> number.longValue();
                            default -> Objects.toString(value);
                        }));
        return plain;
    }
}
