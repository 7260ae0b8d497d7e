package docksort.engine;

import java.io.File;
import java.time.Duration;
import java.util.Optional;
import java.util.function.DoubleSupplier;

/// Finds out, a few seconds after a long copy was begun, whether its engine leaves processors idle that other
/// engines could use, and how many segments would use them. Not safe for use by several threads.
final class Idleness {
    /// An engine that keeps so much of its share busy leaves nothing worth a second one.
    private static final double BUSY = 0.85;

    /// An engine whose slowest part keeps one processor busy takes at least so much; one that takes less waits
    /// for its volume, and others would wait with it.
    private static final double ONE = 0.9;

    /// Joining reads and writes all of the copy once more; volumes that are not slow write so much.
    private static final double JOINED_BYTES_PER_SECOND = 150e6;

    private static final int MOST = 16;

    private final Trial trial;
    private final long frames;
    private final File file;
    private final int mostSegments;
    private final DoubleSupplier share;
    private final Brake brake;
    private final long heldBefore;

    private Optional<ProcessHandle> child = Optional.empty();
    private long begunNanos;
    private Optional<Mark> mark = Optional.empty();
    private int segments;

    /// When it is tried.
    ///
    /// @param from after so long an engine is at its usual speed
    /// @param until then it is decided
    /// @param worth a copy that takes less is not cut
    record Trial(Duration from, Duration until, Duration worth) {
        static final Trial USUAL = new Trial(Duration.ofSeconds(2), Duration.ofSeconds(6), Duration.ofSeconds(40));
    }

    private record Mark(long nanos, Duration cpu) {}

    /// @param order the first of the copies that are made together
    /// @param mostSegments that are exact
    /// @param share how many processors these copies may keep busy
    Idleness(Trial trial, CopyOrder order, int mostSegments, DoubleSupplier share, Brake brake) {
        this.trial = trial;
        this.frames = order.form().frames();
        this.file = order.output().toFile();
        this.mostSegments = mostSegments;
        this.share = share;
        this.brake = brake;
        this.heldBefore = brake.heldNanos();
    }

    void begun(ProcessHandle engine) {
        child = Optional.of(engine);
        begunNanos = System.nanoTime();
    }

    /// Hears how far the engine has come.
    ///
    /// @return how many segments the copies are better made in, once; 1 for going on in one piece
    int progressed(long written) {
        long now = System.nanoTime();
        Optional<Duration> cpu = child.flatMap(engine -> engine.info().totalCpuDuration());
        if (segments > 0 || cpu.isEmpty() || now - begunNanos < trial.from().toNanos()) {
            return 1;
        }
        if (mark.isEmpty()) {
            mark = Optional.of(new Mark(now, cpu.get()));
            return 1;
        }
        if (now - begunNanos < trial.until().toNanos()) {
            return 1;
        }
        double used = cpu.get().minus(mark.get().cpu()).toNanos()
                / (double) (now - mark.get().nanos());
        double seconds = (now - begunNanos) / 1e9;
        double whole = seconds * frames / Math.max(1, written);
        double bytes = (double) file.length() * frames / Math.max(1, written);
        boolean wasHeld = brake.heldNanos() != heldBefore;
        segments = wasHeld || written == 0 ? 1 : wanted(used, share.getAsDouble(), whole, bytes);
        return segments;
    }

    /// How many it came to, 1 before it is decided.
    int segments() {
        return Math.max(1, segments);
    }

    /// @param used processors that one engine keeps busy
    /// @param seconds that it takes in one piece
    /// @param bytes that the copy will have
    int wanted(double used, double processors, double seconds, double bytes) {
        double idle = 1 - used / processors;
        double cost = trial.until().toNanos() / 1e9 + bytes / JOINED_BYTES_PER_SECOND;
        boolean pays = used > ONE
                && idle > 1 - BUSY
                && seconds >= trial.worth().toNanos() / 1e9
                && seconds * idle > cost
                && file.getAbsoluteFile().getParentFile().getUsableSpace() > 2 * bytes;
        return pays ? Math.clamp((int) Math.ceil(processors / used), 1, Math.min(MOST, mostSegments)) : 1;
    }
}
