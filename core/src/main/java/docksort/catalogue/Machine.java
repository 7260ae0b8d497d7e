package docksort.catalogue;

import java.time.Duration;

/// A program that makes copies of a shared project.
///
/// @param doing in words
/// @param making copies at this moment
/// @param workers copies it makes at the same time at most
/// @param made copies that passed their check since the program began its run
/// @param quiet time since its last sign of life, by the server's clock
/// @param here whether it is this program
public record Machine(
        String workstation,
        String doing,
        int making,
        int workers,
        double framesPerSecond,
        long made,
        long failed,
        Duration quiet,
        boolean here,
        Wish wish) {
    /// What somebody wants a workstation to do.
    public enum Wish {
        WORK,
        /// What it makes is held still.
        HOLD,
        /// What it makes is finished, and nothing more begun.
        DRAIN
    }

    /// Whether others may make now what it had begun.
    public boolean isStopped() {
        return quiet.compareTo(ClaimStore.LASTS) >= 0;
    }
}
