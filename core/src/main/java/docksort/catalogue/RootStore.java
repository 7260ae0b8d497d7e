package docksort.catalogue;

import docksort.arrival.ClipId;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jdbi.v3.core.Handle;

/// Roots, and where this workstation and others see them.
public final class RootStore {
    /// Roots as the workstation `:here` sees them.
    static final String HERE = """
        (SELECT root.id, root.name, coalesce(root_path.path, root.path) AS path FROM root
        LEFT JOIN root_path ON root_path.root_id = root.id AND root_path.workstation = :here)\
        """;

    private final Access jdbi;
    private final ActivityLog log;
    private final String workstation;
    private final boolean shared;

    RootStore(Access jdbi, ActivityLog log, String workstation, boolean shared) {
        this.shared = shared;
        this.jdbi = jdbi;
        this.log = log;
        this.workstation = workstation;
    }

    // Roots

    public List<Root> all() {
        return jdbi.withHandle(this::all);
    }

    private List<Root> all(Handle h) {
        return h.createQuery("SELECT id, name, path FROM " + HERE + " AS root ORDER BY name")
                .bind("here", workstation)
                .map((row, _) -> new Root(row.getString("id"), row.getString("name"), Path.of(row.getString("path"))))
                .list();
    }

    public void add(Root root) {
        jdbi.useTransaction(h -> {
            h.createUpdate("INSERT INTO root (id, name, path) VALUES (:id, :name, :path)")
                    .bind("id", root.id())
                    .bind("name", root.name())
                    .bind("path", pathForAll(root.name(), root.path()))
                    .execute();
            if (shared) {
                setRootPath(h, root.id(), workstation, root.path().toString());
            }
        });
    }

    /// What holds where a workstation has no path of its own.
    private String pathForAll(String name, Path here) {
        return (shared ? Root.nowhere(name) : here).toString();
    }

    /// Where this workstation sees roots, when it joins a shared project: no change of the project.
    public void place(Map<Root, Path> paths) {
        jdbi.useTransaction(
                h -> paths.forEach((root, path) -> setRootPath(h, root.id(), workstation, path.toString())));
    }

    /// Gives a root another path on this workstation, and says of its clips whether they are there.
    public void move(Root root, Path path, Map<ClipId, Presence> presence) {
        jdbi.useTransaction(h -> {
            var before = new LinkedHashMap<String, List<String>>();
            h.createQuery("""
                SELECT clip.id, coalesce(presence.state, 'ONLINE'), coalesce(presence.note, ''),
                    coalesce(clip.root_id, arrival.root_id) FROM clip
                JOIN arrival ON arrival.id = clip.arrival_id
                LEFT JOIN presence ON presence.clip_id = clip.id AND presence.workstation = :here\
                """)
                    .bind("here", workstation)
                    .map((row, _) -> List.of(row.getString(1), row.getString(2), row.getString(3), row.getString(4)))
                    .filter(row -> row.get(3).equals(root.id()) || presence.containsKey(new ClipId(row.get(0))))
                    .forEach(row -> before.put(row.get(0), row.subList(1, 3)));
            setRootPath(h, root.id(), workstation, path.toString());
            presence.forEach((clip, state) -> PresenceRows.set(h, workstation, clip.value(), state));
            long back = presence.values().stream().filter(Presence::isOnline).count();
            log.write(
                    h,
                    "Root " + root.name() + " is now " + path + "; " + back + " clips online",
                    new Undo.RootMoved(root.id(), root.path().toString(), before));
        });
    }

    private static void setRootPath(Handle h, String rootId, String workstation, String path) {
        h.execute(
                "INSERT INTO root_path (root_id, workstation, path) VALUES (?, ?, ?)"
                        + " ON CONFLICT (root_id, workstation) DO UPDATE SET path = excluded.path",
                rootId,
                workstation,
                path);
    }

    static Undo takeBack(Handle h, Undo.RootMoved moved, String workstation) {
        var presence = new LinkedHashMap<String, List<String>>();
        for (String clip : moved.presence().keySet()) {
            Presence state = PresenceRows.of(h, workstation, clip);
            presence.put(clip, List.of(state.state().name(), state.note()));
        }
        String path = h.createQuery("SELECT path FROM " + HERE + " AS root WHERE id = :id")
                .bind("here", workstation)
                .bind("id", moved.rootId())
                .mapTo(String.class)
                .findOne()
                .orElse(moved.pathBefore());
        setRootPath(h, moved.rootId(), workstation, moved.pathBefore());
        moved.presence()
                .forEach((clip, state) -> PresenceRows.set(
                        h, workstation, clip, new Presence(Presence.State.valueOf(state.get(0)), state.get(1))));
        return new Undo.RootMoved(moved.rootId(), path, presence);
    }

    /// The name this workstation's paths are kept under.
    public String workstation() {
        return workstation;
    }

    /// Points the root for copies at another folder; copies that are there go on below a root of their own.
    public void newCopiesFolder(Path folder, String freshRoot, String what) {
        jdbi.useTransaction(h -> {
            boolean some =
                    h.createUpdate("INSERT INTO root (id, name, path) SELECT :fresh, 'Copies until now', path FROM"
                                            + " root WHERE id = :copies AND EXISTS (SELECT 1 FROM copy WHERE root_id ="
                                            + " :copies)")
                                    .bind("fresh", freshRoot)
                                    .bind("copies", Root.COPIES)
                                    .execute()
                            > 0;
            if (some) {
                h.execute(
                        "INSERT INTO root_path (root_id, workstation, path)"
                                + " SELECT ?, workstation, path FROM root_path WHERE root_id = ?",
                        freshRoot,
                        Root.COPIES);
            }
            h.execute("UPDATE copy SET root_id = ? WHERE root_id = ?", freshRoot, Root.COPIES);
            h.execute("DELETE FROM root_path WHERE root_id = ?", Root.COPIES); // they named the folder before
            h.execute("UPDATE root SET path = ? WHERE id = ?", pathForAll("Copies", folder), Root.COPIES);
            if (shared) {
                setRootPath(h, Root.COPIES, workstation, folder.toString());
            }
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
            setRootPath(h, root, workstation, path);
        }
    }

    static Undo takeBack(Handle h, Undo.PlacedElsewhere placed) {
        Undo now = placed(h, placed.rootId(), placed.workstation());
        setPath(h, placed.rootId(), placed.workstation(), placed.before());
        return now;
    }
}
