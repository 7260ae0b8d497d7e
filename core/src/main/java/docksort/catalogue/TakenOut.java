package docksort.catalogue;

import docksort.arrival.Arrival;
import docksort.arrival.ArrivalId;
import docksort.arrival.Clip;
import docksort.arrival.ClipId;
import docksort.arrival.Unreadable;
import docksort.problem.CoreException.InputRefused;
import docksort.problem.Problem;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.jdbi.v3.core.Handle;
import org.jdbi.v3.core.statement.PreparedBatch;

/// Takes arrivals, clips and files that cannot be read out of the project with all that the catalogue
/// knows of them, and puts them back. Nothing on a disk is touched.
public final class TakenOut {
    private static final String CLIPS = "(SELECT id FROM clip WHERE arrival_id = :arrival)";
    private static final String QUEUED = "state IN ('WAITING', 'MAKING', 'CHECKING')";

    /// The tables that hold something of a clip.
    private static final List<String> OF_CLIPS =
            List.of("copy", "choice", "used", "pin", "said", "cut_form", "presence");

    /// The tables that hold something of an arrival, with what picks its rows, in the order in which they
    /// can be put back.
    private static final Map<String, String> TABLES = new LinkedHashMap<>();

    static {
        TABLES.put("arrival", "id = :arrival");
        for (String table : List.of("clip", "unreadable", "seen", "aside")) {
            TABLES.put(table, "arrival_id = :arrival");
        }
        for (String table : OF_CLIPS) {
            TABLES.put(table, "clip_id IN " + CLIPS);
        }
    }

    private final Access jdbi;
    private final ActivityLog log;

    TakenOut(Access jdbi, ActivityLog log) {
        this.jdbi = jdbi;
        this.log = log;
    }

    /// What would go with an arrival. Copies keep their files.
    ///
    /// @param copies finished ones
    /// @param wanted copies that are still to be made
    /// @param pins exceptions from the serving order
    /// @param used clips that timelines use
    public record Hanging(int clips, int unreadable, int copies, int wanted, int choices, int pins, int used) {}

    public Hanging hangingOn(ArrivalId arrival) {
        return jdbi.withHandle(h -> new Hanging(
                count(h, arrival, "clip WHERE arrival_id = :arrival"),
                count(h, arrival, "unreadable WHERE arrival_id = :arrival"),
                count(h, arrival, "copy WHERE state LIKE 'READY%' AND clip_id IN " + CLIPS),
                count(h, arrival, "copy WHERE " + QUEUED + " AND clip_id IN " + CLIPS),
                count(h, arrival, "choice WHERE clip_id IN " + CLIPS),
                count(h, arrival, "pin WHERE clip_id IN " + CLIPS),
                count(h, arrival, "(SELECT DISTINCT clip_id FROM used WHERE clip_id IN " + CLIPS + ") AS clips")));
    }

    private static int count(Handle h, ArrivalId arrival, String rows) {
        return h.createQuery("SELECT count(*) FROM " + rows)
                .bind("arrival", arrival.value())
                .mapTo(Integer.class)
                .one();
    }

    /// Takes an arrival out as one change.
    public void takeOut(Arrival arrival, String what) {
        jdbi.useTransaction(h -> log.write(h, what, takeOut(h, arrival.id().value())));
    }

    private static Undo takeOut(Handle h, String arrival) {
        String change = UUID.randomUUID().toString();
        int position = 0;
        for (Map.Entry<String, String> table : TABLES.entrySet()) {
            position = keep(h, change, position, table.getKey(), table.getValue(), Map.of("arrival", arrival));
        }
        h.execute("DELETE FROM arrival WHERE id = ?", arrival);
        return new Undo.ArrivalTakenOut(change);
    }

    private static int keep(
            Handle h, String change, int position, String table, String which, Map<String, Object> values) {
        PreparedBatch batch =
                h.prepareBatch("INSERT INTO taken_out (change, position, of_table, columns) VALUES (?, ?, ?, ?)");
        int next = position;
        for (Map<String, Object> row : h.createQuery("SELECT * FROM " + table + " WHERE " + which)
                .bindMap(values)
                .mapToMap()) {
            batch.add(change, next++, table, Json.text(row)); // bytes become Base64
        }
        if (next > position) {
            batch.execute();
        }
        return next;
    }

    /// What would go with clips.
    public Hanging hangingOn(List<ClipId> clips) {
        List<String> ids = clips.stream().map(ClipId::value).toList();
        return jdbi.withHandle(h -> new Hanging(
                clips.size(),
                0,
                count(h, ids, "copy WHERE state LIKE 'READY%' AND clip_id"),
                count(h, ids, "copy WHERE " + QUEUED + " AND clip_id"),
                count(h, ids, "choice WHERE clip_id"),
                count(h, ids, "pin WHERE clip_id"),
                count(h, ids, "(SELECT DISTINCT clip_id FROM used) AS clips WHERE clip_id")));
    }

    private static int count(Handle h, List<String> clips, String column) {
        return Ids.some(clips)
                .mapToInt(ids -> h.createQuery("SELECT count(*) FROM " + column + " IN (<ids>)")
                        .bindList("ids", ids)
                        .mapTo(Integer.class)
                        .one())
                .sum();
    }

    /// Takes clips, and files that cannot be read, out as one change. That they were seen is kept, so that
    /// looking again does not bring them back.
    public void takeOut(List<ClipId> clips, List<Unreadable> files, List<Root> roots, String what) {
        jdbi.useTransaction(h -> {
            String change = UUID.randomUUID().toString();
            int position =
                    takeOutClips(h, change, 0, clips.stream().map(ClipId::value).toList());
            for (Unreadable file : files) {
                Root root = rootOf(h, roots, file);
                position = takeOutUnreadable(
                        h, change, position, file.arrival().value(), CataloguePaths.relative(root, file.file()));
            }
            log.write(h, what, new Undo.RowsTakenOut(change, List.of(), List.of()));
        });
    }

    static Root rootOf(Handle h, List<Root> roots, Unreadable file) {
        return CataloguePaths.root(
                roots,
                h.createQuery("SELECT root_id FROM arrival WHERE id = :arrival")
                        .bind("arrival", file.arrival().value())
                        .mapTo(String.class)
                        .one());
    }

    /// Copies of clips that are still to be made leave the queue.
    static void takeOutQueued(Handle h, String change, List<String> clips) {
        int position = 0;
        for (String clip : clips) {
            position = keep(h, change, position, "copy", QUEUED + " AND clip_id = :clip", Map.of("clip", clip));
        }
        Ids.some(clips)
                .forEach(ids -> h.createUpdate("DELETE FROM copy WHERE " + QUEUED + " AND clip_id IN (<ids>)")
                        .bindList("ids", ids)
                        .execute());
    }

    private static int takeOutClips(Handle h, String change, int position, List<String> clips) {
        int next = position;
        for (String clip : clips) {
            Map<String, Object> id = Map.of("clip", clip);
            next = keep(h, change, next, "clip", "id = :clip", id);
            for (String table : OF_CLIPS) {
                next = keep(h, change, next, table, "clip_id = :clip", id);
            }
            h.execute("DELETE FROM clip WHERE id = ?", clip);
        }
        return next;
    }

    private static int takeOutUnreadable(Handle h, String change, int position, String arrival, String path) {
        Map<String, Object> place = Map.of("arrival", arrival, "path", path);
        String which = "arrival_id = :arrival AND path = :path";
        int next = keep(h, change, position, "unreadable", which, place);
        h.createUpdate("DELETE FROM unreadable WHERE " + which).bindMap(place).execute();
        return next;
    }

    private static int takeOutCopies(Handle h, String change, int position, List<String> copies) {
        int next = position;
        for (String copy : copies) {
            next = keep(h, change, next, "copy", "id = :id", Map.of("id", copy));
            h.execute("DELETE FROM copy WHERE id = ?", copy);
        }
        return next;
    }

    /// Small files that were listed as footage become copies of their originals, as one change.
    ///
    /// @param copies one for each clip, in its place
    public void becomeCopies(List<ClipId> clips, List<WorkingCopy> copies, List<Root> roots, String what) {
        jdbi.useTransaction(h -> {
            String change = UUID.randomUUID().toString();
            takeOutClips(h, change, 0, clips.stream().map(ClipId::value).toList());
            for (WorkingCopy copy : copies) {
                CopyStore.insert(h, copy, CataloguePaths.root(roots, copy.rootId()));
            }
            log.write(
                    h,
                    what,
                    new Undo.RowsTakenOut(
                            change, copies.stream().map(WorkingCopy::id).toList(), List.of()));
        });
    }

    /// Copies that lie in an arrival become footage of their own, as one change.
    ///
    /// @param clips one for each copy, in its place
    public void becomeFootage(List<WorkingCopy> copies, List<Clip> clips, Root root, String what) {
        jdbi.useTransaction(h -> {
            String change = UUID.randomUUID().toString();
            takeOutCopies(h, change, 0, copies.stream().map(WorkingCopy::id).toList());
            ClipStore.insert(h, clips, root);
            log.write(
                    h,
                    what,
                    new Undo.RowsTakenOut(
                            change,
                            List.of(),
                            clips.stream().map(clip -> clip.id().value()).toList()));
        });
    }

    static Undo takeBack(Handle h, Undo.ArrivalAdded undo) {
        return takeOut(h, undo.arrivalId());
    }

    /// @throws InputRefused when the arrival's folder came in again meanwhile
    static Undo takeBack(Handle h, Undo.ArrivalTakenOut undo) {
        return putBack(h, undo.change()).stream()
                .filter(row -> row.table.equals("arrival"))
                .map(row -> new Undo.ArrivalAdded(row.text("id")))
                .findFirst()
                .orElseThrow(() -> new IllegalStateException("the catalogue does not hold what was taken out"));
    }

    static Undo takeBack(Handle h, Undo.RowsTakenOut undo) {
        String change = UUID.randomUUID().toString();
        int position = takeOutCopies(h, change, 0, undo.copies());
        takeOutClips(h, change, position, undo.clips());
        List<Row> back = putBack(h, undo.change());
        List<String> clips = ids(back, "clip");
        var own = new HashSet<>(clips);
        return new Undo.RowsPutBack(
                change,
                clips,
                back.stream()
                        .filter(row -> row.table.equals("unreadable"))
                        .map(row -> List.of(row.text("arrival_id"), row.text("path")))
                        .toList(),
                back.stream()
                        .filter(row -> row.table.equals("copy") && !own.contains(row.text("clip_id")))
                        .map(row -> row.text("id"))
                        .toList());
    }

    static Undo takeBack(Handle h, Undo.RowsPutBack undo) {
        String change = UUID.randomUUID().toString();
        int position = takeOutClips(h, change, 0, undo.clips());
        position = takeOutCopies(h, change, position, undo.copies());
        for (List<String> file : undo.files()) {
            position = takeOutUnreadable(h, change, position, file.getFirst(), file.getLast());
        }
        List<Row> back = putBack(h, undo.change());
        return new Undo.RowsTakenOut(change, ids(back, "copy"), ids(back, "clip"));
    }

    private static List<String> ids(List<Row> rows, String table) {
        return rows.stream()
                .filter(row -> row.table.equals(table))
                .map(row -> row.text("id"))
                .toList();
    }

    /// @param values columns by their names
    record Row(String table, Map<String, Object> values) {
        String text(String column) {
            return String.valueOf(values.get(column));
        }
    }

    /// @return what was kept
    static List<Row> putBack(Handle h, String change) {
        var rows = new Rows(h);
        List<Kept> kept = h.createQuery("SELECT of_table, columns FROM taken_out WHERE change = ? ORDER BY position")
                .bind(0, change)
                .map((row, _) -> new Kept(row.getString(1), row.getString(2)))
                .list();
        var back = new ArrayList<Row>();
        for (Kept row : kept) {
            if (!TABLES.containsKey(row.table)) {
                throw new IllegalStateException("the catalogue holds a row of no table of its own: " + row.table);
            }
            Map<String, Object> values = row.values();
            back.add(new Row(row.table, values));
            if (row.table.equals("arrival")) {
                refuseKnown(h, values);
            }
            if (!row.table.equals("copy") || !isThere(h, values)) {
                rows.insert(row.table, values);
            }
        }
        drop(h, change);
        return back;
    }

    /// Rows that nothing puts back any more.
    static void drop(Handle h, String change) {
        h.execute("DELETE FROM taken_out WHERE change = ?", change);
    }

    /// Whether a copy was put into the queue again meanwhile.
    private static boolean isThere(Handle h, Map<String, Object> copy) {
        return h.createQuery("SELECT count(*) FROM copy WHERE id = :id")
                        .bind("id", copy.get("id"))
                        .mapTo(Integer.class)
                        .one()
                > 0;
    }

    private record Kept(String table, String text) {
        @SuppressWarnings("unchecked")
        Map<String, Object> values() {
            return Json.read(text, LinkedHashMap.class);
        }
    }

    private static void refuseKnown(Handle h, Map<String, Object> arrival) {
        String path = String.valueOf(arrival.get("path"));
        h.createQuery("SELECT path FROM arrival WHERE root_id = :root")
                .bind("root", arrival.get("root_id"))
                .mapTo(String.class)
                .filter(known -> known.equals(path) || known.startsWith(path + "/") || path.startsWith(known + "/"))
                .findFirst()
                .ifPresent(known -> {
                    throw new InputRefused(new Problem(
                            arrival.get("name") + " was not brought back",
                            "its folder is in the project again",
                            "Nothing was changed.",
                            "Take out the arrival that is there now, then take back both."));
                });
    }
}
