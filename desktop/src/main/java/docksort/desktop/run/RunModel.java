package docksort.desktop.run;

import docksort.catalogue.CopyState;
import docksort.desktop.ScopeList.Group;
import docksort.desktop.ScopeList.Line;
import docksort.desktop.Words;
import docksort.desktop.Workshop;
import docksort.run.CopyProgress;
import docksort.run.RunSnapshot;
import java.util.List;
import java.util.Locale;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.beans.property.ReadOnlyStringProperty;
import javafx.beans.property.ReadOnlyStringWrapper;
import javafx.beans.property.SimpleStringProperty;
import javafx.beans.property.StringProperty;
import javafx.collections.FXCollections;
import javafx.collections.ObservableList;

/// What the Run station shows: the queue, and the run as a whole in words.
public final class RunModel {
    private final ObservableList<CopyProgress> rows = FXCollections.observableArrayList();
    private final ReadOnlyObjectWrapper<RunSnapshot> snapshot = new ReadOnlyObjectWrapper<>(RunSnapshot.NONE);
    private final ReadOnlyObjectWrapper<List<Group>> groups = new ReadOnlyObjectWrapper<>(List.of());
    private final ReadOnlyStringWrapper number = new ReadOnlyStringWrapper("–");
    private final ReadOnlyStringWrapper line = new ReadOnlyStringWrapper("nothing is being made");
    private final StringProperty scope = new SimpleStringProperty("");

    public RunModel(Workshop workshop) {
        workshop.run().subscribe(this::take);
        scope.subscribe(_ -> show());
    }

    private void take(RunSnapshot run) {
        snapshot.set(run);
        int all = run.copies().size();
        number.set(all == 0 ? "–" : run.finished() + "/" + all);
        line.set(words(run));
        groups.set(List.of(new Group(
                "Queue",
                List.of(
                        new Line("", "Everything", all),
                        new Line("work", "being made", run.count(CopyState.MAKING) + run.count(CopyState.CHECKING)),
                        new Line("waiting", "waiting", run.count(CopyState.WAITING)),
                        new Line("ready", "ready", run.count(CopyState.READY)),
                        new Line("failed", "failed", run.count(CopyState.FAILED))))));
        show();
    }

    private static String words(RunSnapshot run) {
        if (run.copies().isEmpty()) {
            return "nothing is being made";
        }
        if (run.running() && run.paused()) {
            return "paused, " + run.count(CopyState.WAITING) + " waiting";
        }
        if (run.running() && run.beginsAt().isPresent()) {
            return "begins at " + Words.clock(run.beginsAt().get());
        }
        if (run.running()) {
            return run.timeLeft().map(left -> Words.of(left) + " left").orElse("starting");
        }
        long failed = run.count(CopyState.FAILED);
        long waiting = run.count(CopyState.WAITING);
        if (waiting > 0) {
            return "stopped, " + waiting + " waiting";
        }
        return failed > 0 ? failed + " failed" : "done in " + Words.of(run.elapsed());
    }

    private void show() {
        List<CopyProgress> wanted = snapshot.get().copies().stream()
                .filter(copy -> switch (scope.get()) {
                    case "work" ->
                        copy.copy().state() == CopyState.MAKING || copy.copy().state() == CopyState.CHECKING;
                    case "waiting" -> copy.copy().state() == CopyState.WAITING;
                    case "ready" -> copy.copy().state() == CopyState.READY;
                    case "failed" -> copy.copy().state() == CopyState.FAILED;
                    default -> true;
                })
                .toList();
        if (wanted.size() != rows.size()) {
            rows.setAll(wanted);
            return;
        }
        for (int i = 0; i < wanted.size(); i++) {
            // Only what changed is replaced, so that selection and scrolling stay.
            if (!wanted.get(i).equals(rows.get(i))) {
                rows.set(i, wanted.get(i));
            }
        }
    }

    /// The speed of all workers together, empty while nothing is made.
    public String speed() {
        double fps = snapshot.get().framesPerSecond();
        return fps <= 0 ? "" : String.format(Locale.ROOT, "%.0f frames a second", fps);
    }

    public double progress() {
        long all = snapshot.get().framesAll();
        return all == 0 ? 0 : (double) snapshot.get().framesDone() / all;
    }

    public ObservableList<CopyProgress> rows() {
        return rows;
    }

    public ReadOnlyObjectProperty<RunSnapshot> snapshot() {
        return snapshot.getReadOnlyProperty();
    }

    public ReadOnlyObjectProperty<List<Group>> groups() {
        return groups.getReadOnlyProperty();
    }

    public StringProperty scope() {
        return scope;
    }

    public ReadOnlyStringProperty number() {
        return number.getReadOnlyProperty();
    }

    public ReadOnlyStringProperty line() {
        return line.getReadOnlyProperty();
    }
}
