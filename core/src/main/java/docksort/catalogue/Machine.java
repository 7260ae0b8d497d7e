package docksort.catalogue;

import java.time.Duration;
import java.util.List;
import java.util.Optional;

/// A program that makes copies of a shared project.
///
/// @param doing in words
/// @param making copies at this moment
/// @param workers copies it makes at the same time at most
/// @param made copies that passed their check since the program began its run
/// @param quiet time since its last sign of life, by the server's clock
/// @param here whether it is this program
/// @param recipes ids of the recipes it was given; empty for all
/// @param reads how fast its workstation reads originals, by root, where that was measured
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
        Wish wish,
        Optional<List<String>> recipes,
        List<Reads> reads) {
    public Machine {
        recipes = recipes.map(List::copyOf);
        reads = List.copyOf(reads);
    }

    /// @param root its name
    /// @param bytesPerSecond 0 for what is not there
    public record Reads(String root, double bytesPerSecond) {}

    /// What is asked of a workstation.
    ///
    /// @param recipes ids of the recipes it was given; empty for all
    public record Asked(Wish wish, Optional<List<String>> recipes) {
        static final Asked NOTHING = new Asked(Wish.WORK, Optional.empty());

        public Asked {
            recipes = recipes.map(List::copyOf);
        }

        public boolean makes(String recipe) {
            return recipes.map(given -> given.contains(recipe)).orElse(true);
        }
    }

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
