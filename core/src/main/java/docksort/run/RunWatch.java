package docksort.run;

import docksort.catalogue.CopyState;
import java.util.HashMap;
import java.util.Map;

/// Looks, every few seconds, at what else the machine does, at volumes that are waited for, and at the
/// speed.
final class RunWatch {
    private final RunState state;
    private final StateKeeper keeper;
    private final Terms terms;
    private final Runnable brake;
    private final Runnable changed;

    /// @param brake holds all still, or lets it go on, as the state wants it
    RunWatch(RunState state, StateKeeper keeper, Terms terms, Runnable brake, Runnable changed) {
        this.state = state;
        this.keeper = keeper;
        this.terms = terms;
        this.brake = brake;
        this.changed = changed;
    }

    /// @return whether it goes on
    boolean look() {
        try {
            lookAtOthers();
            lookAtObstacles();
            state.measure();
        } catch (RuntimeException e) {
            System.getLogger(RunWatch.class.getName()).log(System.Logger.Level.WARNING, "cannot look after the run", e);
        }
        return !state.isOver();
    }

    private void lookAtOthers() {
        if (state.pace().gently()
                && state.othersAreInTheWay(terms.others().inTheWay().orElse(""))) {
            brake.run();
        }
    }

    private void lookAtObstacles() {
        Map<Obstacle, Boolean> stands = new HashMap<>();
        boolean any = false;
        for (Map.Entry<String, Obstacle> entry : state.obstructed().entrySet()) {
            String id = entry.getKey();
            Obstacle obstacle = entry.getValue();
            if (!stands.computeIfAbsent(obstacle, Obstacle::stands)) {
                state.free(id);
                any = true;
            } else if (state.isOutOfPatience(id)) {
                state.giveUp(id)
                        .ifPresent(copy -> keeper.set(copy.withState(
                                CopyState.FAILED,
                                obstacle.problem(copy, terms.patience()).sentence())));
            }
        }
        if (any) {
            changed.run();
        }
    }
}
