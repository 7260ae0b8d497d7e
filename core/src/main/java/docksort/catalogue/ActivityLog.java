package docksort.catalogue;

import java.time.Instant;
import java.time.InstantSource;
import java.util.List;
import java.util.Optional;
import org.jdbi.v3.core.Handle;
import org.jdbi.v3.core.Jdbi;

/// What was done to the project, and what takes it back.
public final class ActivityLog {
    private final Jdbi jdbi;
    private final InstantSource clock;
    private final String workstation;

    ActivityLog(Jdbi jdbi, InstantSource clock, String workstation) {
        this.jdbi = jdbi;
        this.clock = clock;
        this.workstation = workstation;
    }

    // Log and undo

    public void write(String what) {
        jdbi.useTransaction(h -> write(h, what));
    }

    void write(Handle h, String what) {
        insertActivity(h, what, null);
    }

    void write(Handle h, String what, Undo undo) {
        // The interface as static type makes the kind part of the text.
        insertActivity(h, what, Json.undoText(undo));
    }

    private void insertActivity(Handle h, String what, @org.jspecify.annotations.Nullable String undo) {
        h.createUpdate("INSERT INTO activity (at, what, undo) VALUES (:at, :what, :undo)")
                .bind("at", clock.instant().toString())
                .bind("what", what)
                .bind("undo", undo)
                .execute();
    }

    /// The latest changes, the newest first.
    public List<Activity> latest(int most) {
        return jdbi.withHandle(h -> h.createQuery("SELECT * FROM activity ORDER BY id DESC LIMIT :most")
                .bind("most", most)
                .map((row, _) ->
                        new Activity(row.getLong("id"), Instant.parse(row.getString("at")), row.getString("what")))
                .list());
    }

    private record Undoable(long id, String what, String undo) {}

    /// The newest change that can be taken back. Once copies were asked for, adding an arrival is history:
    /// taking it back would orphan copies, or surprise whoever wanted the latest step back.
    private static Optional<Undoable> undoable(Handle h) {
        boolean copiesAskedFor = h.createQuery("SELECT count(*) FROM copy WHERE recipe_id <> ''")
                        .mapTo(Long.class)
                        .one()
                > 0;
        return h
                .createQuery(
                        "SELECT id, what, undo FROM activity WHERE undo IS NOT NULL AND undone = 0 ORDER BY id DESC")
                .map((row, _) -> new Undoable(row.getLong("id"), row.getString("what"), row.getString("undo")))
                .stream()
                .filter(change -> !(copiesAskedFor && Json.read(change.undo, Undo.class) instanceof Undo.ArrivalAdded))
                .findFirst();
    }

    /// What [#undo] would take back, for what has to be done to files before.
    public Optional<Undo> nextUndo() {
        return jdbi.withHandle(h -> undoable(h).map(change -> Json.read(change.undo, Undo.class)));
    }

    public Optional<String> whatUndoTakesBack() {
        return jdbi.withHandle(h -> undoable(h).map(Undoable::what));
    }

    /// Takes back the newest change that can be, and says which.
    public Optional<String> undo() {
        return jdbi.inTransaction(h -> {
            Optional<Undoable> last = undoable(h);
            last.ifPresent(change -> {
                takeBack(h, Json.read(change.undo, Undo.class));
                h.createUpdate("UPDATE activity SET undone = 1 WHERE id = :id")
                        .bind("id", change.id)
                        .execute();
                write(h, "Took back: " + change.what);
            });
            return last.map(Undoable::what);
        });
    }

    private void takeBack(Handle h, Undo undo) {
        switch (undo) {
            case Undo.Choices choices -> ChoiceStore.takeBack(h, choices);
            case Undo.ReadAt readAt -> ClipStore.takeBack(h, readAt);
            case Undo.DescribedAs described -> ClipStore.takeBack(h, described);
            case Undo.SettingChanged changed -> SettingStore.takeBack(h, changed);
            case Undo.ArrivalAdded added -> ArrivalStore.takeBack(h, added);
            case Undo.ArrivalTakenOut taken -> TakenOut.takeBack(h, taken);
            case Undo.RowsTakenOut taken -> TakenOut.takeBack(h, taken);
            case Undo.AsideChanged changed -> AsideStore.takeBack(h, changed);
            case Undo.RootMoved moved -> RootStore.takeBack(h, moved, workstation);
            case Undo.CopiesAdded added -> CopyChanges.takeBack(h, added);
            case Undo.CopiesForgotten forgotten -> CopyChanges.takeBack(h, forgotten);
            case Undo.CopiesRenamed renamed -> CopyChanges.takeBack(h, renamed);
            case Undo.OriginalRenamed renamed -> CopyChanges.takeBack(h, renamed);
            case Undo.CopiesStopped stopped -> CopyChanges.takeBack(h, stopped);
            case Undo.MediaFound found -> CopyChanges.takeBack(h, found);
            case Undo.PinsSet pins -> TimelineStore.takeBack(h, pins);
            case Undo.Said said -> TimelineStore.takeBack(h, said);
            case Undo.PlacedElsewhere placed -> RootStore.takeBack(h, placed);
            case Undo.TimelineReplaced _ -> {} // the file is put back before
        }
    }
}
