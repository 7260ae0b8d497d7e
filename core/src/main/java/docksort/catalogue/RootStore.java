package docksort.catalogue;

import docksort.arrival.ClipId;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jdbi.v3.core.Handle;
import org.jdbi.v3.core.Jdbi;

/// Roots, and where this workstation and others see them.
public final class RootStore {
    private final Jdbi jdbi;
    private final ActivityLog log;
    private final String workstation;

    RootStore(Jdbi jdbi, ActivityLog log, String workstation) {
        this.jdbi = jdbi;
        this.log = log;
        this.workstation = workstation;
    }

    // Roots

    public List<Root> all() {
        return jdbi.withHandle(RootStore::all);
    }

    private static List<Root> all(Handle h) {
        return h.createQuery("SELECT id, name, path FROM here ORDER BY name")
                .map((row, _) -> new Root(row.getString("id"), row.getString("name"), Path.of(row.getString("path"))))
                .list();
    }

    public void add(Root root) {
        jdbi.useTransaction(h -> h.createUpdate("INSERT INTO root (id, name, path) VALUES (:id, :name, :path)")
                .bind("id", root.id())
                .bind("name", root.name())
                .bind("path", root.path().toString())
                .execute());
    }

    /// Gives a root another path on this workstation, and says of its clips whether they are there.
    public void move(Root root, Path path, Map<ClipId, Presence> presence) {
        jdbi.useTransaction(h -> {
            var before = new LinkedHashMap<String, List<String>>();
            h.createQuery("""
                SELECT clip.id, presence, presence_note, coalesce(clip.root_id, arrival.root_id) FROM clip
                JOIN arrival ON arrival.id = clip.arrival_id\
                """)
                    .map((row, _) -> List.of(row.getString(1), row.getString(2), row.getString(3), row.getString(4)))
                    .filter(row -> row.get(3).equals(root.id()) || presence.containsKey(new ClipId(row.get(0))))
                    .forEach(row -> before.put(row.get(0), row.subList(1, 3)));
            setRootPath(h, root.id(), workstation, path.toString());
            presence.forEach((clip, state) ->
                    ClipStore.setPresence(h, clip.value(), state.state().name(), state.note()));
            long back = presence.values().stream().filter(Presence::isOnline).count();
            log.write(
                    h,
                    "Root " + root.name() + " is now " + path + "; " + back + " clips online",
                    new Undo.RootMoved(root.id(), root.path().toString(), before));
        });
    }

    private static void setRootPath(Handle h, String rootId, String workstation, String path) {
        h.execute(
                "INSERT OR REPLACE INTO root_path (root_id, workstation, path) VALUES (?, ?, ?)",
                rootId,
                workstation,
                path);
    }

    static Undo takeBack(Handle h, Undo.RootMoved moved, String workstation) {
        var presence = new LinkedHashMap<String, List<String>>();
        for (String clip : moved.presence().keySet()) {
            h.createQuery("SELECT presence, presence_note FROM clip WHERE id = ?")
                    .bind(0, clip)
                    .map((row, _) -> List.of(row.getString(1), row.getString(2)))
                    .findOne()
                    .ifPresent(state -> presence.put(clip, state));
        }
        String path = h.createQuery("SELECT path FROM here WHERE id = ?")
                .bind(0, moved.rootId())
                .mapTo(String.class)
                .findOne()
                .orElse(moved.pathBefore());
        setRootPath(h, moved.rootId(), workstation, moved.pathBefore());
        moved.presence().forEach((clip, state) -> ClipStore.setPresence(h, clip, state.get(0), state.get(1)));
        return new Undo.RootMoved(moved.rootId(), path, presence);
    }

    /// The name this workstation's paths are kept under.
    public String workstation() {
        return workstation;
    }

    /// Points the root for copies at another folder; copies that are there go on below a root of their own.
    public void newCopiesFolder(Path folder, String freshRoot, String what) {
        jdbi.useTransaction(h -> {
            h.execute(
                    "INSERT INTO root (id, name, path) SELECT ?, 'Copies until now', path FROM here WHERE id = ?"
                            + " AND EXISTS (SELECT 1 FROM copy WHERE root_id = ?)",
                    freshRoot,
                    Root.COPIES,
                    Root.COPIES);
            h.execute("UPDATE copy SET root_id = ? WHERE root_id = ?", freshRoot, Root.COPIES);
            h.execute("UPDATE root SET path = ? WHERE id = ?", folder.toString(), Root.COPIES);
            h.execute("DELETE FROM root_path WHERE root_id = ?", Root.COPIES); // they named the folder before
            log.write(h, what);
        });
    }

    /// Paths of all roots on workstations, as text of their own systems: root id, workstation, path.
    public List<List<String>> pathsElsewhere() {
        return jdbi.withHandle(h -> h.createQuery("SELECT root_id, workstation, path FROM root_path ORDER BY 1, 2")
                .map((row, _) -> List.of(row.getString(1), row.getString(2), row.getString(3)))
                .list());
    }

    /// Says where a workstation sees a root; an empty path takes that back.
    public void placeElsewhere(Root root, String workstation, String path) {
        jdbi.useTransaction(h -> {
            Undo before = placed(h, root.id(), workstation);
            setPath(h, root.id(), workstation, path);
            String what = path.isEmpty()
                    ? "Root " + root.name() + " has no path on " + workstation + " now"
                    : "Root " + root.name() + " is " + path + " on " + workstation;
            log.write(h, what, before);
        });
    }

    private static Undo placed(Handle h, String root, String workstation) {
        String path = h.createQuery("SELECT path FROM root_path WHERE root_id = ? AND workstation = ?")
                .bind(0, root)
                .bind(1, workstation)
                .mapTo(String.class)
                .findOne()
                .orElse("");
        return new Undo.PlacedElsewhere(root, workstation, path);
    }

    private static void setPath(Handle h, String root, String workstation, String path) {
        if (path.isEmpty()) {
            h.execute("DELETE FROM root_path WHERE root_id = ? AND workstation = ?", root, workstation);
        } else {
            h.execute(
                    "INSERT OR REPLACE INTO root_path (root_id, workstation, path) VALUES (?, ?, ?)",
                    root,
                    workstation,
                    path);
        }
    }

    static Undo takeBack(Handle h, Undo.PlacedElsewhere placed) {
        Undo now = placed(h, placed.rootId(), placed.workstation());
        setPath(h, placed.rootId(), placed.workstation(), placed.before());
        return now;
    }
}
