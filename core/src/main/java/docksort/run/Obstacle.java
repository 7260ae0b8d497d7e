package docksort.run;

import docksort.files.Room;
import docksort.media.ByteSize;
import docksort.problem.CoreException;
import java.nio.file.Files;
import java.nio.file.Path;

/// Why a copy cannot be made now, though it may be later without anybody changing the plan.
sealed interface Obstacle {
    /// Whether it is still there.
    boolean stands();

    /// What is waited for.
    String words();

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
