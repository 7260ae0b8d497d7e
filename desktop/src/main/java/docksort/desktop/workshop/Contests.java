package docksort.desktop.workshop;

import docksort.problem.Problem;
import java.util.Optional;
import java.util.concurrent.Executor;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;

/// What two people want differently, until the second of them decides.
public final class Contests {
    private final Executor window;
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

    void ask(Problem problem, Runnable mine) {
        window.execute(() -> open.set(Optional.of(new Contest(problem, mine))));
    }

    /// Leaves it as the other one wants it. On the window's thread.
    public void leave() {
        open.set(Optional.empty());
    }

    /// Puts what was wanted here in its place. On the window's thread.
    public void putMine() {
        Optional<Contest> decided = open.get();
        open.set(Optional.empty());
        decided.ifPresent(contest -> contest.mine().run());
    }
}
