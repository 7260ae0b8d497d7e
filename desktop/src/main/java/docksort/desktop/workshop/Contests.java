package docksort.desktop.workshop;

import docksort.problem.Problem;
import java.util.ArrayDeque;
import java.util.Optional;
import java.util.Queue;
import java.util.concurrent.Executor;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;

/// What two people want differently, until the second of them decides.
public final class Contests {
    private final Executor window;
    private final Queue<Contest> waiting = new ArrayDeque<>(); // the window's thread only
    private final ReadOnlyObjectWrapper<Optional<Contest>> open = new ReadOnlyObjectWrapper<>(Optional.empty());

    Contests(Executor window) {
        this.window = window;
    }

    /// @param problem what was not done, and what somebody else did instead
    /// @param mine does it all the same
    public record Contest(Problem problem, Runnable mine) {}

    /// Set and read on the window's thread.
    public ReadOnlyObjectProperty<Optional<Contest>> open() {
        return open.getReadOnlyProperty();
    }

    /// What is asked while another question is open waits for its turn.
    void ask(Problem problem, Runnable mine) {
        window.execute(() -> {
            waiting.add(new Contest(problem, mine));
            show();
        });
    }

    private void show() {
        open.set(Optional.ofNullable(waiting.peek()));
    }

    /// Leaves it as the other one wants it. On the window's thread.
    public void leave() {
        waiting.poll();
        show();
    }

    /// Puts what was wanted here in its place. On the window's thread.
    public void putMine() {
        Optional<Contest> decided = Optional.ofNullable(waiting.poll());
        show();
        decided.ifPresent(contest -> contest.mine().run());
    }
}
