package docksort.engine;

import java.util.ArrayList;
import java.util.List;

/// A wish to stop that any thread may express once. What is to be ended by it is registered while it runs.
public final class Cancellation {
    private final Object lock = new Object();
    private final List<Runnable> actions = new ArrayList<>();
    private boolean cancelled;

    public void cancel() {
        List<Runnable> due;
        synchronized (lock) {
            cancelled = true;
            due = List.copyOf(actions);
            actions.clear();
        }
        due.forEach(Runnable::run);
    }

    public boolean isCancelled() {
        synchronized (lock) {
            return cancelled;
        }
    }

    /// Runs the action when cancelled, at once if that has happened. Closing the registration forgets it.
    Registration onCancel(Runnable action) {
        synchronized (lock) {
            if (!cancelled) {
                actions.add(action);
                return () -> {
                    synchronized (lock) {
                        actions.remove(action);
                    }
                };
            }
        }
        action.run();
        return () -> {};
    }

    /// Ends an [#onCancel].
    @FunctionalInterface
    interface Registration extends AutoCloseable {
        @Override
        void close();
    }
}
