package docksort.catalogue;

import docksort.arrival.ClipId;
import docksort.media.FrameRange;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jdbi.v3.core.Handle;
import org.jdbi.v3.core.Jdbi;

/// What the project remembers for its timelines: pins, which recording somebody said an event means, what a cut
/// counted on, and where other workstations see the roots.
public final class Cuts {
    private final Jdbi jdbi;
    private final Log log;

    /// Writes into the activity log within a transaction.
    interface Log {
        void write(Handle h, String what, Undo undo);
    }

    Cuts(Jdbi jdbi, Log log) {
        this.jdbi = jdbi;
        this.log = log;
    }

    public List<Pin> pins() {
        return jdbi.withHandle(Cuts::pins);
    }

    private static List<Pin> pins(Handle h) {
        return h.createQuery("SELECT * FROM pin ORDER BY clip_id, range_first")
                .map((row, _) -> new Pin(
                        new ClipId(row.getString("clip_id")),
                        row.getLong("range_count") == 0
                                ? Optional.empty()
                                : Optional.of(new FrameRange(row.getLong("range_first"), row.getLong("range_count"))),
                        row.getString("serving")))
                .list();
    }

    /// Puts other pins in the place of all there are.
    public void pin(List<Pin> pins, String what) {
        jdbi.useTransaction(h -> {
            List<List<String>> before = pins(h).stream()
                    .map(pin -> List.of(
                            pin.clip().value(),
                            pin.frames().map(FrameRange::toString).orElse(""),
                            pin.order()))
                    .toList();
            replace(h, pins);
            log.write(h, what, new Undo.PinsSet(before));
        });
    }

    private static void replace(Handle h, List<Pin> pins) {
        h.execute("DELETE FROM pin");
        pins.forEach(pin -> h.execute(
                "INSERT OR REPLACE INTO pin (clip_id, range_first, range_count, serving) VALUES (?, ?, ?, ?)",
                pin.clip().value(),
                pin.frames().map(FrameRange::first).orElse(0L),
                pin.frames().map(FrameRange::count).orElse(0L),
                pin.order()));
    }

    static void takeBack(Handle h, Undo.PinsSet set) {
        replace(
                h,
                set.before().stream()
                        .map(row -> new Pin(new ClipId(row.get(0)), FrameRange.parse(row.get(1)), row.get(2)))
                        .toList());
    }

    /// Which recordings somebody said mentions mean, by the mention's key.
    public Map<String, ClipId> said() {
        Map<String, ClipId> said = new HashMap<>();
        jdbi.useHandle(h -> h.createQuery("SELECT mention, clip_id FROM said")
                .map((row, _) -> Map.entry(row.getString(1), new ClipId(row.getString(2))))
                .forEach(entry -> said.put(entry.getKey(), entry.getValue())));
        return said;
    }

    /// Keeps that a mention means a recording.
    public void say(String mention, ClipId clip, String what) {
        jdbi.useTransaction(h -> {
            String before = h.createQuery("SELECT clip_id FROM said WHERE mention = ?")
                    .bind(0, mention)
                    .mapTo(String.class)
                    .findOne()
                    .orElse("");
            h.execute("INSERT OR REPLACE INTO said (mention, clip_id) VALUES (?, ?)", mention, clip.value());
            log.write(h, what, new Undo.Said(mention, before));
        });
    }

    static void takeBack(Handle h, Undo.Said said) {
        if (said.before().isEmpty()) {
            h.execute("DELETE FROM said WHERE mention = ?", said.mention());
        } else {
            h.execute("UPDATE said SET clip_id = ? WHERE mention = ?", said.before(), said.mention());
        }
    }

    /// What cuts counted on, by clip.
    public Map<ClipId, String> forms() {
        Map<ClipId, String> forms = new HashMap<>();
        jdbi.useHandle(h -> h.createQuery("SELECT clip_id, form FROM cut_form")
                .map((row, _) -> Map.entry(new ClipId(row.getString(1)), row.getString(2)))
                .forEach(entry -> forms.put(entry.getKey(), entry.getValue())));
        return forms;
    }

    public void keepForms(Map<ClipId, String> forms) {
        jdbi.useTransaction(h -> forms.forEach((clip, form) ->
                h.execute("INSERT OR REPLACE INTO cut_form (clip_id, form) VALUES (?, ?)", clip.value(), form)));
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
            String before = h.createQuery("SELECT path FROM root_path WHERE root_id = ? AND workstation = ?")
                    .bind(0, root.id())
                    .bind(1, workstation)
                    .mapTo(String.class)
                    .findOne()
                    .orElse("");
            setPath(h, root.id(), workstation, path);
            String what = path.isEmpty()
                    ? "Root " + root.name() + " has no path on " + workstation + " now"
                    : "Root " + root.name() + " is " + path + " on " + workstation;
            log.write(h, what, new Undo.PlacedElsewhere(root.id(), workstation, before));
        });
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

    static void takeBack(Handle h, Undo.PlacedElsewhere placed) {
        setPath(h, placed.rootId(), placed.workstation(), placed.before());
    }

    /// Notes that a timeline's file was replaced, so that it can be put back.
    ///
    /// @param kept file with what it was before
    /// @param written checksum of what it is now
    public void replaced(String file, String kept, String written, String what) {
        jdbi.useTransaction(h -> log.write(h, what, new Undo.TimelineReplaced(file, kept, written)));
    }
}
