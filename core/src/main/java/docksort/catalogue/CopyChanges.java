package docksort.catalogue;

import docksort.arrival.ClipId;
import docksort.media.ClipSource;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import org.jdbi.v3.core.Handle;

/// Changes to what stands in for what, each one transaction that can be taken back, also after a restart.
/// Files are the caller's business.
public final class CopyChanges {
    private static final List<String> CLIP_COLUMNS = List.of("root_id", "path", "stills", "parts");
    private static final String PRESENCE = "presence";
    private static final String PRESENCE_NOTE = "presence_note";
    private static final List<String> COPY_COLUMNS = List.of("root_id", "path", "state", "note", "modified_millis");

    private final Access jdbi;
    private final ActivityLog log;
    private final RootStore roots;
    private final String workstation;

    CopyChanges(Access jdbi, ActivityLog log, RootStore roots, String workstation) {
        this.workstation = workstation;
        this.jdbi = jdbi;
        this.log = log;
        this.roots = roots;
    }

    /// Takes over copies that were made elsewhere.
    public void add(List<WorkingCopy> copies, String what) {
        List<Root> known = roots.all();
        jdbi.useTransaction(h -> {
            CopyStore.forgetFound(h, copies);
            copies.forEach(copy -> CopyStore.insert(h, copy, CataloguePaths.root(known, copy.rootId())));
            log.write(
                    h,
                    what,
                    new Undo.CopiesAdded(copies.stream().map(WorkingCopy::id).toList()));
        });
    }

    /// Takes copies out of the catalogue. Their files stay.
    public void forget(List<WorkingCopy> copies, String what) {
        jdbi.useTransaction(h -> {
            log.write(h, what, takeOut(h, copies.stream().map(WorkingCopy::id).toList()));
        });
    }

    /// Takes copies out whose files were deleted. Nothing brings those back, so neither does undo.
    public void deleted(List<WorkingCopy> copies, String what) {
        jdbi.useTransaction(h -> {
            copies.forEach(copy -> h.execute("DELETE FROM copy WHERE id = ?", copy.id()));
            log.write(h, what);
        });
    }

    /// Keeps copies without letting them serve, or lets them serve again.
    public void stop(List<WorkingCopy> copies, boolean stopped, String what) {
        jdbi.useTransaction(h -> {
            Map<String, Boolean> before = copies.stream()
                    .collect(Collectors.toMap(
                            WorkingCopy::id, copy -> copy.service().stopped()));
            copies.forEach(copy -> h.execute("UPDATE copy SET stopped = ? WHERE id = ?", stopped, copy.id()));
            log.write(h, what, new Undo.CopiesStopped(before));
        });
    }

    /// Keeps that files of copies have other names now.
    ///
    /// @param files the files of the copies by copy, below the same roots as before
    public void renamed(Map<WorkingCopy, Path> files, String what) {
        List<Root> known = roots.all();
        jdbi.useTransaction(h -> {
            var paths = new LinkedHashMap<String, List<String>>();
            files.forEach((copy, file) -> {
                Root root = CataloguePaths.root(known, copy.rootId());
                paths.put(
                        copy.id(),
                        List.of(CataloguePaths.relative(root, copy.file()), CataloguePaths.relative(root, file)));
            });
            setPaths(h, paths, 1);
            log.write(h, what, new Undo.CopiesRenamed(paths));
        });
    }

    /// Keeps that the one file of an original has another name now, in the same folder. What was seen of it
    /// when its arrival was looked at holds under the new name.
    public void originalRenamed(ClipId clip, Path from, Path to, String what) {
        jdbi.useTransaction(h -> {
            String rootId =
                    h.createQuery("""
                        SELECT coalesce(clip.root_id, arrival.root_id) FROM clip
                        JOIN arrival ON arrival.id = arrival_id WHERE clip.id = ?\
                        """).bind(0, clip.value()).mapTo(String.class).one();
            Root root = CataloguePaths.root(roots.all(), rootId);
            var undo = new Undo.OriginalRenamed(
                    clip.value(), rootId, CataloguePaths.relative(root, from), CataloguePaths.relative(root, to));
            renameOriginal(h, clip.value(), undo.from(), undo.to());
            log.write(h, what, undo);
        });
    }

    private static void renameOriginal(Handle h, String clip, String from, String to) {
        h.execute("UPDATE clip SET path = ? WHERE id = ? AND path = ?", to, clip, from);
        h.execute("""
            UPDATE seen SET path = ? WHERE path = ? AND arrival_id = (SELECT arrival_id FROM clip WHERE id = ?)\
            """, to, from, clip);
    }

    /// In two steps, so that names may be exchanged.
    private static void setPaths(Handle h, Map<String, List<String>> paths, int which) {
        paths.forEach((id, _) -> h.execute("UPDATE copy SET path = ? WHERE id = ?", "moving " + id, id));
        paths.forEach((id, path) -> h.execute("UPDATE copy SET path = ? WHERE id = ?", path.get(which), id));
        paths.forEach((id, path) -> setSeen(h, id, path.get(1 - which), "moving " + id));
        paths.forEach((id, path) -> setSeen(h, id, "moving " + id, path.get(which)));
    }

    /// What was seen of a camera's own copy when its arrival was looked at holds under its new name.
    private static void setSeen(Handle h, String copy, String from, String to) {
        h.execute("""
            UPDATE seen SET path = ? WHERE path = ? AND arrival_id IN
                (SELECT arrival.id FROM arrival JOIN copy ON copy.root_id = arrival.root_id WHERE copy.id = ?)\
            """, to, from, copy);
    }

    /// Where an original or a copy is now.
    ///
    /// @param root the root it lies below now
    public record FoundClip(ClipId clip, ClipSource source, Root root, Presence presence) {}

    /// @param modifiedMillis time stamp that its file has there
    public record FoundCopy(WorkingCopy copy, Path file, Root root, long modifiedMillis) {}

    /// Points originals and copies at the places they were found at.
    public void found(List<FoundClip> clips, List<FoundCopy> copies, String what) {
        jdbi.useTransaction(h -> {
            var clipsBefore = new LinkedHashMap<String, Map<String, Object>>();
            var copiesBefore = new LinkedHashMap<String, Map<String, Object>>();
            for (FoundClip clip : clips) {
                clipRow(h, clip.clip().value(), workstation)
                        .ifPresent(row -> clipsBefore.put(clip.clip().value(), row));
                h.createUpdate("""
                    UPDATE clip SET root_id = :root, path = :path, stills = :stills, parts = :parts WHERE id = :id\
                    """)
                        .bind("root", clip.root().id())
                        .bind(
                                "path",
                                CataloguePaths.relative(
                                        clip.root(), clip.source().head()))
                        .bind("stills", ClipSourceText.stillsText(clip.source()))
                        .bind("parts", ClipSourceText.partsText(clip.source(), clip.root()))
                        .bind("id", clip.clip().value())
                        .execute();
                PresenceRows.set(h, workstation, clip.clip().value(), clip.presence());
            }
            for (FoundCopy copy : copies) {
                row(h, "copy", copy.copy().id())
                        .ifPresent(row -> copiesBefore.put(copy.copy().id(), only(row, COPY_COLUMNS)));
                h.execute(
                        "UPDATE copy SET root_id = ?, path = ?, modified_millis = ? WHERE id = ?",
                        copy.root().id(),
                        CataloguePaths.relative(copy.root(), copy.file()),
                        copy.modifiedMillis(),
                        copy.copy().id());
            }
            log.write(h, what, new Undo.MediaFound(clipsBefore, copiesBefore));
        });
    }

    /// Notes that a timeline was switched to these copies. No change a person made, so not in the log.
    public void served(List<WorkingCopy> copies, Instant at) {
        jdbi.useTransaction(h -> copies.forEach(
                copy -> h.execute("UPDATE copy SET served_millis = ? WHERE id = ?", at.toEpochMilli(), copy.id())));
    }

    // Taking back

    static Undo takeBack(Handle h, Undo.CopiesAdded undo) {
        return takeOut(h, undo.ids());
    }

    private static Undo takeOut(Handle h, List<String> ids) {
        var rows = new ArrayList<Map<String, Object>>();
        for (String id : ids) {
            row(h, "copy", id).ifPresent(rows::add);
            h.execute("DELETE FROM copy WHERE id = ?", id);
        }
        return new Undo.CopiesForgotten(rows);
    }

    static Undo takeBack(Handle h, Undo.CopiesForgotten undo) {
        var rows = new Rows(h);
        undo.rows().forEach(row -> rows.insert("copy", row));
        return new Undo.CopiesAdded(
                undo.rows().stream().map(row -> String.valueOf(row.get("id"))).toList());
    }

    static Undo takeBack(Handle h, Undo.CopiesRenamed undo) {
        setPaths(h, undo.paths(), 0);
        var again = new LinkedHashMap<String, List<String>>();
        undo.paths().forEach((id, path) -> again.put(id, path.reversed()));
        return new Undo.CopiesRenamed(again);
    }

    static Undo takeBack(Handle h, Undo.OriginalRenamed undo) {
        renameOriginal(h, undo.clipId(), undo.to(), undo.from());
        return new Undo.OriginalRenamed(undo.clipId(), undo.rootId(), undo.to(), undo.from());
    }

    static Undo takeBack(Handle h, Undo.CopiesStopped undo) {
        var now = new LinkedHashMap<String, Boolean>();
        undo.before().forEach((id, stopped) -> {
            h.createQuery("SELECT stopped FROM copy WHERE id = ?")
                    .bind(0, id)
                    .mapTo(Boolean.class)
                    .findOne()
                    .ifPresent(is -> now.put(id, is));
            h.execute("UPDATE copy SET stopped = ? WHERE id = ?", stopped, id);
        });
        return new Undo.CopiesStopped(now);
    }

    static Undo takeBack(Handle h, Undo.MediaFound undo, String workstation) {
        var rows = new Rows(h);
        var clips = new LinkedHashMap<String, Map<String, Object>>();
        undo.clips().forEach((id, row) -> {
            clipRow(h, id, workstation).ifPresent(is -> clips.put(id, is));
            var columns = new LinkedHashMap<>(row);
            Object state = columns.remove(PRESENCE);
            Object note = columns.remove(PRESENCE_NOTE);
            rows.set("clip", id, columns);
            if (state != null && note != null) {
                PresenceRows.set(
                        h, workstation, id, new Presence(Presence.State.valueOf(state.toString()), note.toString()));
            }
        });
        var copies = new LinkedHashMap<String, Map<String, Object>>();
        undo.copies().forEach((id, row) -> {
            row(h, "copy", id).ifPresent(is -> copies.put(id, only(is, COPY_COLUMNS)));
            rows.set("copy", id, row);
        });
        return new Undo.MediaFound(clips, copies);
    }

    /// Where a clip lies, and how it stands on a workstation.
    private static Optional<Map<String, Object>> clipRow(Handle h, String clip, String workstation) {
        return row(h, "clip", clip).map(row -> {
            Map<String, Object> kept = only(row, CLIP_COLUMNS);
            Presence presence = PresenceRows.of(h, workstation, clip);
            kept.put(PRESENCE, presence.state().name());
            kept.put(PRESENCE_NOTE, presence.note());
            return kept;
        });
    }

    private static Optional<Map<String, Object>> row(Handle h, String table, String id) {
        return h.createQuery("SELECT * FROM " + table + " WHERE id = :id")
                .bind("id", id)
                .mapToMap()
                .findOne();
    }

    private static Map<String, Object> only(Map<String, Object> row, List<String> columns) {
        var kept = new LinkedHashMap<String, Object>();
        columns.forEach(column -> kept.put(column, row.get(column)));
        return kept;
    }
}
