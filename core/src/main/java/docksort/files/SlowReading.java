package docksort.files;

import java.io.IOException;
import java.nio.file.Path;
import java.util.Optional;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.locks.LockSupport;
import java.util.function.BooleanSupplier;
import java.util.function.LongConsumer;

/// Reads files whole, from their disk, no faster than it may: others who read from the same volume have the rest.
public final class SlowReading {
    private final long mostBytesPerSecond;
    private final LongConsumer read;
    private final BooleanSupplier cancelled;
    private long last = System.nanoTime(); // end of the piece before
    private long bytes;

    /// @param mostBytesPerSecond 0 for as fast as it goes
    /// @param read hears how many bytes were read since it was begun
    /// @param cancelled asked some times a second
    public SlowReading(long mostBytesPerSecond, LongConsumer read, BooleanSupplier cancelled) {
        this.mostBytesPerSecond = mostBytesPerSecond;
        this.read = read;
        this.cancelled = cancelled;
    }

    /// XXH64 of all bytes of a file.
    ///
    /// @return empty when it was cancelled
    public Optional<String> sum(Path file) throws IOException {
        return DiskStream.sum(file, this::goesOn);
    }

    private boolean goesOn(int count) {
        bytes += count;
        read.accept(bytes);
        for (long left = left(count); left > 0 && !cancelled.getAsBoolean(); left = left(count)) {
            LockSupport.parkNanos(Math.min(left, TimeUnit.MILLISECONDS.toNanos(200)));
        }
        last = System.nanoTime();
        return !cancelled.getAsBoolean();
    }

    private long left(int count) {
        return nanosToWait(count, System.nanoTime() - last, mostBytesPerSecond);
    }

    /// How long to wait after a piece. What a slow piece took is not made up for by the next ones.
    ///
    /// @param passed nanoseconds since the end of the piece before
    static long nanosToWait(long bytes, long passed, long mostBytesPerSecond) {
        return mostBytesPerSecond == 0 ? 0 : Math.max(0, Math.round(bytes * 1e9 / mostBytesPerSecond) - passed);
    }
}
