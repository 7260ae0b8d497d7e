package docksort.project;

import docksort.engine.StayAwake;
import docksort.files.ExclusiveLock;
import docksort.run.Run;

/// A run and the lock that keeps other programs from running the same queue.
public record LockedRun(Run run, ExclusiveLock lock, StayAwake awake, Heart heart) implements AutoCloseable {
    @Override
    public void close() {
        try (lock;
                awake;
                heart) {
            run.close();
        }
    }
}
