package docksort.desktop.run;

import docksort.catalogue.CopyState;
import docksort.desktop.parts.Filter;
import docksort.desktop.parts.Rows;
import docksort.desktop.parts.Scope.Group;
import docksort.desktop.parts.Scope.Line;
import docksort.desktop.parts.Words;
import docksort.media.ByteSize;
import docksort.run.CopyProgress;
import docksort.run.RunSnapshot;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.EnumSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.function.Function;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.beans.property.ReadOnlyStringProperty;
import javafx.beans.property.ReadOnlyStringWrapper;
import javafx.beans.property.SimpleStringProperty;
import javafx.beans.property.StringProperty;
import javafx.beans.value.ObservableValue;
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
    private final StringProperty filter = new SimpleStringProperty("");
    private final Function<CopyProgress, String> words;

    /// @param shown the run as the window has it
    /// @param words of a row that the filter looks through
    public RunModel(ObservableValue<RunSnapshot> shown, Function<CopyProgress, String> words) {
        this.words = words;
        shown.subscribe(this::take);
        scope.subscribe(_ -> show());
        filter.subscribe(_ -> show());
    }

    private void take(RunSnapshot run) {
        snapshot.set(run);
        Map<CopyState, Integer> counts = new EnumMap<>(CopyState.class);
        run.copies().forEach(copy -> counts.merge(copy.copy().state(), 1, Integer::sum));
        int all = run.copies().size();
        int finished = (int) run.finished();
        number.set(all == 0 ? "–" : finished + "/" + all);
        line.set(words(run, counts));
        var lines = new ArrayList<Line>(List.of(
                new Line("", "Everything", all),
                new Line(
                        "work",
                        "being made",
                        counts.getOrDefault(CopyState.MAKING, 0) + counts.getOrDefault(CopyState.CHECKING, 0)),
                new Line("waiting", "waiting", counts.getOrDefault(CopyState.WAITING, 0)),
                new Line("ready", "ready", (int) run.ready()),
                new Line("failed", "failed", counts.getOrDefault(CopyState.FAILED, 0))));
        if (counts.containsKey(CopyState.WANTED)) {
            lines.add(new Line("wanted", "left out", counts.get(CopyState.WANTED)));
        }
        groups.set(List.of(new Group("Queue", lines)));
        show();
    }

    private static String words(RunSnapshot run, Map<CopyState, Integer> counts) {
        int waiting = counts.getOrDefault(CopyState.WAITING, 0);
        int failed = counts.getOrDefault(CopyState.FAILED, 0);
        if (run.copies().isEmpty()) {
            return "nothing is being made";
        }
        if (run.neverBegan()) {
            return queued(run);
        }
        return switch (run.phase()) {
            case PAUSED -> "paused, " + waiting + " waiting";
            case HELD -> "held still";
            case WAITING -> "waits for a volume";
            case WORKING ->
                run.beginsAt()
                        .map(at -> "begins at " + Words.next(at, Instant.now()))
                        .orElseGet(() -> run.left().map(RunModel::left).orElse("starting"));
            case OVER -> {
                if (waiting > 0) {
                    yield "stopped, " + waiting + " waiting";
                }
                yield failed > 0 ? failed + " failed" : "done in " + Words.of(run.elapsed());
            }
        };
    }

    /// What others make, and what waits for anybody.
    private static String queued(RunSnapshot run) {
        long made = run.inWork().size();
        long waiting = run.count(CopyState.WAITING);
        String elsewhere = made + " made elsewhere";
        return made == 0 ? waiting + " waiting" : waiting == 0 ? elsewhere : elsewhere + ", " + waiting + " waiting";
    }

    /// "3 to 5 min left", or one figure where both say the same.
    static String left(RunSnapshot.TimeLeft left) {
        String least = Words.of(coarse(left.atLeast()));
        String most = Words.of(coarse(left.atMost()));
        return (least.equals(most) ? "about " + most : least + " to " + most) + " left";
    }

    /// What is only foreseen is not told to the second.
    private static Duration coarse(Duration duration) {
        long seconds = duration.toSeconds();
        long step = seconds < 60 ? 5 : seconds < 600 ? 30 : 300;
        return Duration.ofSeconds(Math.max(step, (seconds + step / 2) / step * step));
    }

    private void show() {
        Filter.Words wantedWords = Filter.words(filter.get());
        List<CopyProgress> wanted = snapshot.get().copies().stream()
                .filter(copy -> switch (scope.get()) {
                    case "work" ->
                        copy.copy().state() == CopyState.MAKING || copy.copy().state() == CopyState.CHECKING;
                    case "waiting" -> copy.copy().state() == CopyState.WAITING;
                    case "ready" -> copy.copy().state().serves();
                    case "failed" -> copy.copy().state() == CopyState.FAILED;
                    case "wanted" -> copy.copy().state() == CopyState.WANTED;
                    default -> true;
                })
                .filter(copy -> wantedWords.areIn(words.apply(copy)))
                .toList();
        Rows.bring(rows, wanted);
    }

    /// How many copies are in each state, as words to compare.
    String counts() {
        RunSnapshot run = snapshot.get();
        return run.ready() + " " + run.count(CopyState.FAILED) + " " + run.count(CopyState.WAITING) + " "
                + run.copies().size();
    }

    /// What the run as a whole has come to, in one line.
    String figures() {
        RunSnapshot run = snapshot.get();
        if (run.copies().isEmpty()) {
            return "";
        }
        if (run.neverBegan()) {
            return queued(run);
        }
        var parts = new ArrayList<String>();
        parts.add(run.finished() + " of " + run.copies().size());
        double fps = run.framesPerSecond();
        if (fps > 0) {
            double times = run.copies().stream()
                    .mapToDouble(CopyProgress::timesRealTime)
                    .sum();
            parts.add(String.format(Locale.ROOT, "%.0f fps, %.1f times real time", fps, times));
        }
        if (run.bytes() > 0) {
            parts.add(new ByteSize(run.bytes()).toString());
        }
        parts.add(run.running() ? Words.of(run.elapsed()) + " so far" : "took " + Words.of(run.elapsed()));
        run.left().map(RunModel::left).ifPresent(parts::add);
        return String.join(" · ", parts);
    }

    /// What can be done with the run as a whole.
    enum Deed {
        STOP,
        PAUSE,
        HOLD,
        GO_ON,
        CARRY_ON,
        RETRY
    }

    /// What makes sense as the run stands.
    Set<Deed> deeds() {
        RunSnapshot run = snapshot.get();
        Set<Deed> deeds = EnumSet.noneOf(Deed.class);
        switch (run.phase()) {
            case WORKING -> deeds.addAll(EnumSet.of(Deed.STOP, Deed.PAUSE, Deed.HOLD));
            case PAUSED -> deeds.addAll(EnumSet.of(Deed.STOP, Deed.HOLD, Deed.GO_ON));
            case HELD -> deeds.addAll(EnumSet.of(Deed.STOP, Deed.GO_ON));
            case WAITING -> deeds.add(Deed.STOP);
            case OVER -> {
                if (run.count(CopyState.WAITING) > 0) {
                    deeds.add(Deed.CARRY_ON);
                }
            }
        }
        if (run.count(CopyState.FAILED) > 0) {
            deeds.add(Deed.RETRY);
        }
        return deeds;
    }

    /// Chosen copies, as ids, by what can be done with them.
    ///
    /// @param waiting those whose place in the queue can be changed
    /// @param queued those that can be left out, or taken out of the queue
    /// @param again those that can be put back into it
    record Chosen(List<String> waiting, List<String> queued, List<String> again) {}

    Chosen of(List<CopyProgress> chosen) {
        boolean running = snapshot.get().running();
        return new Chosen(
                running ? ids(chosen, CopyState.WAITING) : List.of(),
                running
                        ? ids(chosen, CopyState.WAITING, CopyState.MAKING, CopyState.CHECKING)
                        : ids(chosen, CopyState.WAITING),
                ids(chosen, CopyState.FAILED, CopyState.WANTED));
    }

    private static List<String> ids(List<CopyProgress> rows, CopyState... states) {
        return rows.stream()
                .filter(row -> List.of(states).contains(row.copy().state()))
                .map(row -> row.copy().id())
                .toList();
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

    /// Words that a row must have.
    public StringProperty filter() {
        return filter;
    }

    public ReadOnlyStringProperty number() {
        return number.getReadOnlyProperty();
    }

    public ReadOnlyStringProperty line() {
        return line.getReadOnlyProperty();
    }
}
