package docksort.desktop.workshop;

import docksort.catalogue.CopyState;
import docksort.engine.LastAct;
import docksort.problem.Causes;
import docksort.project.AfterRuns;
import docksort.project.Project;
import docksort.run.Afterwards;
import docksort.run.RunSnapshot;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.Executor;
import java.util.concurrent.atomic.AtomicLong;
import java.util.function.Predicate;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;

/// Does what a person wants done when a run has come to its end, after a while in which it can be called off.
public final class EndOfRun {
    private static final Duration TICK = Duration.ofSeconds(1);
    private static final String OUTPUT = "afterwards.log";

    /// What is about to be done.
    ///
    /// @param what in words
    public record Soon(String what, int seconds) {}

    private final Project project;
    private final AfterRuns wanted;
    private final ProjectThread thread;
    private final Executor window;
    private final Predicate<Path> isThere;
    private final ReadOnlyObjectWrapper<Optional<Soon>> soon = new ReadOnlyObjectWrapper<>(Optional.empty());
    private final AtomicLong turn = new AtomicLong(); // what counts down for an earlier one stops
    private final int seconds;

    /// @param seconds in which it can be called off
    EndOfRun(Project project, AfterRuns wanted, ProjectThread thread, Executor window, int seconds) {
        this.wanted = wanted;
        this.seconds = seconds;
        this.project = project;
        this.thread = thread;
        this.window = window;
        this.isThere = path -> Files.isExecutable(path) || Files.isDirectory(path);
    }

    public ReadOnlyObjectProperty<Optional<Soon>> soon() {
        return soon.getReadOnlyProperty();
    }

    /// Nothing is done after all.
    public void callOff() {
        turn.incrementAndGet();
        window.execute(() -> soon.set(Optional.empty()));
    }

    /// Why something cannot be done here. Looks at the disk.
    Optional<String> fault(Afterwards act) {
        return act.fault(isThere, Afterwards.searched());
    }

    /// Called by the project's steps when a run came to its end by itself.
    void of(RunSnapshot run) {
        Afterwards act = wanted.now();
        if (act.kind() == Afterwards.Kind.NOTHING || run.finished() == 0 || run.count(CopyState.WAITING) > 0) {
            return;
        }
        Optional<String> fault = fault(act);
        if (fault.isPresent()) {
            project.log("After the run: not done, " + fault.get());
            return;
        }
        project.log("The run is over; in " + seconds + " s: " + act.label());
        countDown(act, run, seconds, turn.incrementAndGet());
    }

    private void countDown(Afterwards act, RunSnapshot run, int left, long own) {
        if (own != turn.get()) {
            return;
        }
        if (left == 0) {
            window.execute(() -> soon.set(Optional.empty()));
            thread.step(() -> act(act, run));
            return;
        }
        window.execute(() -> {
            if (own == turn.get()) {
                soon.set(Optional.of(new Soon(act.label(), left)));
            }
        });
        thread.besideIn(TICK, () -> countDown(act, run, left - 1, own));
    }

    private void act(Afterwards act, RunSnapshot run) {
        List<String> words =
                act.kind() == Afterwards.Kind.SLEEP ? LastAct.sleep(isThere).orElse(List.of()) : act.words();
        Path output = project.folder().resolve(OUTPUT);
        try {
            LastAct.begin(
                            words,
                            Map.of(
                                    "DOCKSORT_PROJECT", project.folder().toString(),
                                    "DOCKSORT_MADE", Long.toString(run.ready()),
                                    "DOCKSORT_FAILED", Long.toString(run.count(CopyState.FAILED))),
                            output)
                    .thenAccept(code -> thread.step(() -> project.log("After the run, " + act.label()
                            + (code == 0 ? "" : ": ended with " + code + ", see " + output))));
        } catch (IOException e) {
            project.log("After the run: not done, " + Causes.inWords(e));
        }
    }
}
