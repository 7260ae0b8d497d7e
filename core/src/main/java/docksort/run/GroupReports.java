package docksort.run;

import docksort.catalogue.ClaimStore;
import docksort.catalogue.CopyState;
import docksort.catalogue.WorkingCopy;
import java.time.Instant;
import java.util.List;

/// What the making of a group tells of its copies.
final class GroupReports implements MakingListener {
    private final Group group;
    private final Instant run;
    private final RunState state;
    private final StateKeeper keeper;
    private final ClaimStore claims;
    private final Runnable changed;

    /// @param run when it began
    GroupReports(Group group, Instant run, RunState state, StateKeeper keeper, ClaimStore claims, Runnable changed) {
        this.claims = claims;
        this.group = group;
        this.run = run;
        this.state = state;
        this.keeper = keeper;
        this.changed = changed;
    }

    @Override
    public void state(WorkingCopy copy) {
        if (!state.isDropped(group, copy)) {
            keeper.set(copy);
        }
    }

    @Override
    public void progressed(List<WorkingCopy> copies, long frames, List<Long> bytes) {
        state.progressed(copies, frames, bytes);
        changed.run();
    }

    @Override
    public int groupsInWork() {
        return state.groupsInWork();
    }

    @Override
    public double processors() {
        return state.processors();
    }

    @Override
    public void cancelled(List<WorkingCopy> copies) {
        keeper.giveBack(
                copies.stream().filter(copy -> !state.isDropped(group, copy)).toList());
    }

    @Override
    public void takenOver(WorkingCopy copy) {
        state.obstructed(copy, new Obstacle.MadeElsewhere(claims, copy.id(), "another workstation"));
        changed.run();
    }

    @Override
    public void obstructed(WorkingCopy copy, Obstacle obstacle) {
        keeper.set(copy.withState(CopyState.WAITING, obstacle.words()));
        state.obstructed(copy, obstacle);
    }

    @Override
    public boolean lackedMemory(List<WorkingCopy> copies) {
        boolean again = state.lackedMemory(copies);
        if (again) {
            cancelled(copies);
        }
        return again;
    }

    @Override
    public void line(WorkingCopy copy, RunLine line) {
        keeper.told(copy, run, line);
    }
}
