package docksort.run;

import docksort.catalogue.CopyState;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;

/// A run as it stands at one moment.
///
/// @param copies every copy of the queue and what became of it, in order
/// @param phase what the run as a whole is doing
/// @param why why it does not work at the moment, in words; empty while it does
/// @param workers how many copies are made at the same time
/// @param beginsAt when the first copy is begun, empty once it may be
/// @param elapsed since the run was started
/// @param left how long it still takes, empty until that means something
public record RunSnapshot(
        List<CopyProgress> copies,
        Phase phase,
        String why,
        int workers,
        Optional<Instant> beginsAt,
        Duration elapsed,
        Optional<TimeLeft> left) {
    public static final RunSnapshot NONE =
            new RunSnapshot(List.of(), Phase.OVER, "", 0, Optional.empty(), Duration.ZERO, Optional.empty());

    /// What a run is doing.
    public enum Phase {
        WORKING,
        /// Begins nothing more; what is in the making is finished.
        PAUSED,
        /// Everything is held still.
        HELD,
        /// Nothing can be made until something outside the program changes.
        WAITING,
        OVER
    }

    /// At the slowest and at the fastest of the speeds the run has had lately.
    public record TimeLeft(Duration atLeast, Duration atMost) {}

    public RunSnapshot {
        copies = List.copyOf(copies);
    }

    public RunSnapshot with(List<CopyProgress> others) {
        return new RunSnapshot(others, phase, why, workers, beginsAt, elapsed, left);
    }

    public boolean running() {
        return phase != Phase.OVER;
    }

    /// Whether it shows the queue alone, of which nothing was made here since the program was started.
    public boolean neverBegan() {
        return !running() && elapsed.isZero();
    }

    public boolean paused() {
        return phase == Phase.PAUSED;
    }

    public long count(CopyState state) {
        return copies.stream().filter(c -> c.copy().state() == state).count();
    }

    /// Copies that passed their check, with holes of their originals or without.
    public long ready() {
        return count(CopyState.READY) + count(CopyState.READY_WITH_HOLES);
    }

    public long finished() {
        return ready() + count(CopyState.FAILED);
    }

    /// Copies in the making or in their check.
    public List<CopyProgress> inWork() {
        return copies.stream()
                .filter(c -> c.copy().state() == CopyState.MAKING || c.copy().state() == CopyState.CHECKING)
                .toList();
    }

    /// Part of all the work that is done, 0 to 1.
    public double done() {
        double all = copies.stream().mapToDouble(CopyProgress::workAll).sum();
        return all == 0
                ? 0
                : copies.stream().mapToDouble(CopyProgress::workDone).sum() / all;
    }

    public long bytes() {
        return copies.stream().mapToLong(CopyProgress::bytes).sum();
    }

    public double framesPerSecond() {
        return copies.stream().mapToDouble(CopyProgress::framesPerSecond).sum();
    }
}
