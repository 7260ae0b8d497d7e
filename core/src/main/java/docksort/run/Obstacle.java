package docksort.run;

import docksort.catalogue.ClaimStore;
import docksort.catalogue.WorkingCopy;
import docksort.files.Room;
import docksort.media.ByteSize;
import docksort.problem.CoreException;
import docksort.problem.Problem;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;

/// Why a copy cannot be made now, though it may be later without anybody changing the plan.
sealed interface Obstacle {
    /// Whether it is still there.
    boolean stands();

    /// What is waited for.
    String words();

    /// What is told when it was waited for in vain.
    default Problem problem(WorkingCopy copy, Duration patience) {
        String waited = patience.isZero() ? "" : ", and did so for " + patience.toMinutes() + " min";
        return new Problem(
                "The copy " + copy.file() + " was not made",
                "it " + words() + waited,
                "The original and all other copies are as they were.",
                "Bring the volume back or free room on it, then retry.");
    }

    /// Another workstation of a shared project makes it.
    record MadeElsewhere(ClaimStore claims, String copy, String workstation) implements Obstacle {
        @Override
        public boolean stands() {
            return claims.others().contains(copy);
        }

        @Override
        public String words() {
            return "is made on " + workstation;
        }

        @Override
        public Problem problem(WorkingCopy copy, Duration patience) {
            return new Problem(
                    "The copy " + copy.file() + " was not made here",
                    workstation + " has been making it for " + patience.toMinutes() + " min",
                    "The original and all other copies are as they were.",
                    "See what " + workstation + " does, then retry.");
        }
    }

    /// The volume of the originals is away.
    record SourceAway(Path folder) implements Obstacle {
        @Override
        public boolean stands() {
            return !Files.isDirectory(folder);
        }

        @Override
        public String words() {
            return "waits until " + folder + " with the originals is back";
        }
    }

    /// What was made of it is gone. It can be made again at once.
    record Swept() implements Obstacle {
        @Override
        public boolean stands() {
            return false;
        }

        @Override
        public String words() {
            return "is made again: its file in the making was taken away";
        }
    }

    /// The folder for copies is away, on another volume than before, or may not be written to.
    record TargetAway(Path folder, RunHost host) implements Obstacle {
        @Override
        public boolean stands() {
            return host.targetFault(folder).isPresent();
        }

        @Override
        public String words() {
            return "waits until " + folder + " for copies is back: "
                    + host.targetFault(folder).orElse("it is");
        }
    }

    /// @param need bytes that have to be free before it is worth another try
    record VolumeFull(Path folder, ByteSize need) implements Obstacle {
        @Override
        public boolean stands() {
            try {
                return Room.of(folder).free().compareTo(need) < 0;
            } catch (CoreException e) {
                return true; // away altogether: looked at again when it is back
            }
        }

        @Override
        public String words() {
            return "waits for room: the volume of " + folder + " is full, " + need + " must be free";
        }
    }
}
