package docksort.run;

import java.time.Duration;
import java.util.concurrent.locks.LockSupport;
import java.util.function.BooleanSupplier;

/// A thread that looks after something every two seconds.
final class PeriodicLook implements AutoCloseable {
    private static final Duration BETWEEN = Duration.ofSeconds(2);

    private final Thread thread;
    private volatile boolean closed;

    /// @param look returns whether it is to go on
    PeriodicLook(BooleanSupplier look) {
        this.thread = Thread.ofPlatform().daemon().name("run-steward").start(() -> {
            while (!closed && look.getAsBoolean()) {
                LockSupport.parkNanos(BETWEEN.toNanos());
            }
        });
    }

    @Override
    public void close() {
        closed = true;
        LockSupport.unpark(thread);
    }
}
