package docksort.run;

import docksort.catalogue.CopyState;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;

/// A run as it stands at one moment.
///
/// @param copies every copy of the queue and what became of it, in order
/// @param running whether workers are at it
/// @param paused whether nothing more is begun until somebody says so
/// @param beginsAt when the first copy is begun, empty once it may be
/// @param elapsed since the run was started
public record RunSnapshot(
        List<CopyProgress> copies, boolean running, boolean paused, Optional<Instant> beginsAt, Duration elapsed) {
    public static final RunSnapshot NONE = new RunSnapshot(List.of(), false, false, Optional.empty(), Duration.ZERO);

    public RunSnapshot {
        copies = List.copyOf(copies);
    }

    public long count(CopyState state) {
        return copies.stream().filter(c -> c.copy().state() == state).count();
    }

    public long finished() {
        return count(CopyState.READY) + count(CopyState.FAILED);
    }

    public long framesDone() {
        return copies.stream().mapToLong(CopyProgress::framesDone).sum();
    }

    public long framesAll() {
        return copies.stream().mapToLong(CopyProgress::framesAll).sum();
    }

    public double framesPerSecond() {
        return copies.stream().mapToDouble(CopyProgress::framesPerSecond).sum();
    }

    /// At the mean speed of the run so far; empty until that means something.
    public Optional<Duration> timeLeft() {
        long done = framesDone();
        if (!running || paused || done == 0 || elapsed.toMillis() < 1_500) {
            return Optional.empty();
        }
        return Optional.of(Duration.ofMillis(elapsed.toMillis() * Math.max(0, framesAll() - done) / done));
    }
}
