package docksort.run;

import docksort.catalogue.CopyState;
import docksort.catalogue.WorkingCopy;
import java.time.Instant;
import java.util.List;

/// New states of copies, in the catalogue and in the run.
final class StateKeeper {
    private final RunTools tools;
    private final RunState state;
    private final Runnable changed;

    StateKeeper(RunTools tools, RunState state, Runnable changed) {
        this.tools = tools;
        this.state = state;
        this.changed = changed;
    }

    void set(WorkingCopy copy) {
        set(List.of(copy));
    }

    void set(List<WorkingCopy> copies) {
        tools.catalogue().claims().update(copies);
        state.set(copies);
        changed.run();
    }

    /// Those that nobody wanted away go on waiting, in front of all others.
    void giveBack(List<WorkingCopy> copies) {
        List<WorkingCopy> rest = copies.stream()
                .map(copy -> copy.withState(CopyState.WAITING, ""))
                .toList();
        tools.catalogue().claims().update(rest);
        state.giveBack(rest);
        changed.run();
    }

    void told(WorkingCopy copy, Instant run, RunLine line) {
        tools.catalogue().runs().keep(run, copy.id(), line);
    }
}
