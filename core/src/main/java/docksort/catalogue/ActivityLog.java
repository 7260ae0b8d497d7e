package docksort.catalogue;

import docksort.problem.CoreException.ChangedMeanwhile;
import docksort.problem.CoreException.InputRefused;
import docksort.problem.Problem;
import java.time.InstantSource;
import java.util.Collections;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.jdbi.v3.core.Handle;

/// What was done to the project, and what takes it back.
public final class ActivityLog {
    /// Of a shared project, who takes back means his own workstation's steps.
    private static final String OWN = "(:alone OR workstation = :here)";

    private static final int LATELY = 200;

    private final Access jdbi;
    private final InstantSource clock;
    private final Desk desk;
    private final boolean shared;

    ActivityLog(Access jdbi, InstantSource clock, Desk desk, boolean shared) {
        this.shared = shared;
        this.jdbi = jdbi;
        this.clock = clock;
        this.desk = desk;
    }

    // Log and undo

    java.time.Instant now() {
        return clock.instant();
    }

    public void write(String what) {
        jdbi.useTransaction(h -> write(h, what));
    }

    void write(Handle h, String what) {
        insertActivity(h, what, null);
    }

    /// A change that can be taken back. What was taken back before it is not done again.
    void write(Handle h, String what, Undo undo) {
        h.createQuery("SELECT redo FROM activity WHERE redo IS NOT NULL AND " + OWN)
                .bind("alone", !shared)
                .bind("here", desk.workstation())
                .mapTo(String.class)
                .list()
                .forEach(redo -> Json.read(redo, Undo.class).keptUnder().ifPresent(change -> TakenOut.drop(h, change)));
        h.createUpdate("UPDATE activity SET redo = NULL WHERE redo IS NOT NULL AND " + OWN)
                .bind("alone", !shared)
                .bind("here", desk.workstation())
                .execute();
        // The interface as static type makes the kind part of the text.
        insertActivity(h, what, Json.undoText(undo));
    }

    private void insertActivity(Handle h, String what, @org.jspecify.annotations.Nullable String undo) {
        h.createUpdate("INSERT INTO activity (at_micros, what, undo, person, workstation)"
                        + " VALUES (:at, :what, :undo, :person, :workstation)")
                .bind("at", Micros.of(clock.instant()))
                .bind("person", desk.person())
                .bind("workstation", desk.workstation())
                .bind("what", what)
                .bind("undo", undo)
                .execute();
    }

    /// The latest changes, the newest first.
    public List<Activity> latest(int most) {
        return jdbi.withHandle(h -> h.createQuery("SELECT * FROM activity ORDER BY id DESC LIMIT :most")
                .bind("most", most)
                .map((row, _) -> new Activity(
                        row.getLong("id"),
                        Micros.instant(row.getLong("at_micros")),
                        row.getString("person"),
                        row.getString("workstation"),
                        row.getString("what"),
                        row.getBoolean("undone")
                                ? Activity.Back.TAKEN
                                : row.getString("undo") == null ? Activity.Back.NEVER : Activity.Back.POSSIBLE))
                .list());
    }

    /// The newest change of a setting that was not taken back, and rather one of another workstation.
    public Optional<Activity> latestOf(String setting) {
        String touched =
                new Undo.SettingChanged(setting, "").touches().iterator().next();
        List<Activity> changes = latest(LATELY).stream()
                .filter(deed -> deed.back() == Activity.Back.POSSIBLE)
                .filter(deed -> undo(deed).touches().contains(touched))
                .toList();
        return changes.stream()
                .filter(deed -> !deed.workstation().equals(desk.workstation()))
                .findFirst()
                .or(() -> changes.stream().findFirst());
    }

    private Undo undo(Activity deed) {
        return jdbi.withHandle(h -> h.createQuery("SELECT undo FROM activity WHERE id = :id")
                .bind("id", deed.id())
                .mapTo(String.class)
                .findOne()
                .map(text -> Json.read(text, Undo.class))
                .orElseThrow());
    }

    private record Undoable(long id, String what, String undo) {
        Undo change() {
            return Json.read(undo, Undo.class);
        }
    }

    /// The newest change that can be taken back. Once copies were asked for, adding an arrival is history:
    /// taking it back would orphan copies, or surprise whoever wanted the latest step back.
    private Optional<Undoable> undoable(Handle h) {
        boolean copiesAskedFor = h.createQuery("SELECT count(*) FROM copy WHERE recipe_id <> ''")
                        .mapTo(Long.class)
                        .one()
                > 0;
        return h
                .createQuery("SELECT id, what, undo FROM activity WHERE undo IS NOT NULL AND NOT undone AND " + OWN
                        + " ORDER BY id DESC")
                .bind("alone", !shared)
                .bind("here", desk.workstation())
                .map((row, _) -> new Undoable(row.getLong("id"), row.getString("what"), row.getString("undo")))
                .stream()
                .filter(change -> !(copiesAskedFor && change.change() instanceof Undo.ArrivalAdded))
                .findFirst();
    }

    /// What [#undo] would take back, for what has to be done to files before.
    public Optional<Undo> nextUndo() {
        return jdbi.withHandle(h -> undoable(h).map(Undoable::change));
    }

    /// What [#redo] would take back of a taking back.
    public Optional<Undo> nextRedo() {
        return jdbi.withHandle(h -> redoable(h).map(Undoable::change));
    }

    /// What was taken back last and can be done again. Changes are taken back from the newest to the
    /// oldest, so it is the oldest of them.
    private Optional<Undoable> redoable(Handle h) {
        return h.createQuery("SELECT id, what, redo FROM activity WHERE redo IS NOT NULL AND " + OWN
                        + " ORDER BY id LIMIT 1")
                .bind("alone", !shared)
                .bind("here", desk.workstation())
                .map((row, _) -> new Undoable(row.getLong("id"), row.getString("what"), row.getString("redo")))
                .findOne();
    }

    public Optional<String> whatRedoDoesAgain() {
        return jdbi.withHandle(h -> redoable(h).map(Undoable::what));
    }

    public Optional<String> whatUndoTakesBack() {
        return jdbi.withHandle(h -> undoable(h).map(Undoable::what));
    }

    /// Takes back the newest change that can be, and says which.
    ///
    /// @param ofFile what does a change of a file again, which only who changes it can tell
    public Optional<String> undo(Optional<Undo> ofFile) {
        return jdbi.inTransaction(h -> {
            Optional<Undoable> last = undoable(h);
            last.ifPresent(change -> {
                refuseBuiltOn(h, change, "taken back");
                Undo again = takeBack(h, change.change(), ofFile);
                h.execute("UPDATE activity SET undone = TRUE, redo = ? WHERE id = ?", Json.undoText(again), change.id);
                write(h, "Took back: " + change.what);
            });
            return last.map(Undoable::what);
        });
    }

    /// Does again what was taken back last, and says what that is.
    ///
    /// @param ofFile what takes a change of a file back again
    public Optional<String> redo(Optional<Undo> ofFile) {
        return jdbi.inTransaction(h -> {
            Optional<Undoable> last = redoable(h);
            last.ifPresent(change -> {
                refuseBuiltOn(h, change, "done again");
                Undo back = takeBack(h, change.change(), ofFile);
                h.execute(
                        "UPDATE activity SET undone = FALSE, redo = NULL, undo = ? WHERE id = ?",
                        Json.undoText(back),
                        change.id);
                write(h, "Did again: " + change.what);
            });
            return last.map(Undoable::what);
        });
    }

    /// What another workstation changed since is not swept away with this.
    private void refuseBuiltOn(Handle h, Undoable change, String done) {
        if (!shared) {
            return;
        }
        Set<String> touched = new HashSet<>(change.change().touches());
        if (change.change() instanceof Undo.ArrivalAdded(var arrival)) {
            h.createQuery("SELECT id FROM clip WHERE arrival_id = :arrival")
                    .bind("arrival", arrival)
                    .mapTo(String.class)
                    .forEach(clip -> touched.addAll(List.of(Undo.CLIP + clip, Undo.CHOICE + clip, Undo.PIN + clip)));
        }
        others(h, change.id, touched).ifPresent(other -> {
            throw new InputRefused(new Problem(
                    "\"" + change.what + "\" was not " + done,
                    other.who + " has changed the same since: " + other.what,
                    "Nothing was changed.",
                    "Let " + other.who + " take that back first, or change it by hand."));
        });
    }

    /// The newest change of the same by another workstation that was not taken back.
    private Optional<Others> others(Handle h, long since, Set<String> touched) {
        return h
                .createQuery("""
                    SELECT what, undo, person, workstation FROM activity
                    WHERE id > :id AND undo IS NOT NULL AND NOT undone AND workstation <> :here ORDER BY id DESC\
                    """)
                .bind("id", since)
                .bind("here", desk.workstation())
                .map((row, _) -> new Others(
                        row.getString("what"),
                        Json.read(row.getString("undo"), Undo.class).touches(),
                        row.getString("person") + " at " + row.getString("workstation")))
                .stream()
                .filter(other -> !Collections.disjoint(other.touches, touched))
                .findFirst();
    }

    /// Who decides by what he sees does not sweep away what somebody did since.
    ///
    /// @param what what is wanted, in words
    /// @throws ChangedMeanwhile when another workstation changed the same
    void refuseUnseen(Handle h, AsSeen seen, Set<String> touched, String what) {
        if (!shared || seen.equals(AsSeen.NOW)) {
            return;
        }
        others(h, seen.deed(), touched).ifPresent(other -> {
            long newest = h.createQuery("SELECT max(id) FROM activity")
                    .mapTo(Long.class)
                    .one();
            throw new ChangedMeanwhile(
                    new Problem(
                            what + ": this was not done yet",
                            other.who + " has changed the same since it was shown here: " + other.what,
                            "Nothing was changed.",
                            "Leave it as it is now, or put yours in its place."),
                    newest);
        });
    }

    /// @param who person and workstation
    private record Others(String what, Set<String> touches, String who) {}

    private Undo takeBack(Handle h, Undo undo, Optional<Undo> ofFile) {
        return switch (undo) {
            case Undo.Choices choices -> ChoiceStore.takeBack(h, choices);
            case Undo.ReadAt readAt -> ClipStore.takeBack(h, readAt);
            case Undo.DescribedAs described -> ClipStore.takeBack(h, described);
            case Undo.SettingChanged changed -> SettingStore.takeBack(h, changed);
            case Undo.ArrivalAdded added -> TakenOut.takeBack(h, added);
            case Undo.ArrivalTakenOut taken -> TakenOut.takeBack(h, taken);
            case Undo.RowsTakenOut taken -> TakenOut.takeBack(h, taken);
            case Undo.RowsPutBack back -> TakenOut.takeBack(h, back);
            case Undo.AsideChanged changed -> AsideStore.takeBack(h, changed);
            case Undo.RootMoved moved -> RootStore.takeBack(h, moved, desk.workstation());
            case Undo.CopiesAdded added -> CopyChanges.takeBack(h, added);
            case Undo.CopiesForgotten forgotten -> CopyChanges.takeBack(h, forgotten);
            case Undo.CopiesRenamed renamed -> CopyChanges.takeBack(h, renamed);
            case Undo.OriginalRenamed renamed -> CopyChanges.takeBack(h, renamed);
            case Undo.CopiesStopped stopped -> CopyChanges.takeBack(h, stopped);
            case Undo.MediaFound found -> CopyChanges.takeBack(h, found, desk.workstation());
            case Undo.PinsChanged pins -> TimelineStore.takeBack(h, pins);
            case Undo.PinsSet pins -> TimelineStore.takeBack(h, pins);
            case Undo.Said said -> TimelineStore.takeBack(h, said);
            case Undo.PlacedElsewhere placed -> RootStore.takeBack(h, placed);
            case Undo.TimelineReplaced replaced -> ofFile.orElse(replaced); // the file is put back before
        };
    }
}
