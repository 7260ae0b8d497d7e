package docksort.stock;

import docksort.catalogue.WorkingCopy;
import docksort.sort.CopyKind;
import java.nio.file.Path;

/// The file that stands for a clip.
public sealed interface Served {
    Path file();

    String label();

    /// The untouched recording itself.
    record ByOriginal(Path file, boolean online) implements Served {
        @Override
        public String label() {
            return online ? "original" : "original, offline";
        }
    }

    /// @param tooLarge whether it has more lines than light copies should have, because no smaller one is there
    record ByCopy(WorkingCopy copy, boolean tooLarge) implements Served {
        @Override
        public Path file() {
            return copy.file();
        }

        @Override
        public String label() {
            return copy.kind().label() + (tooLarge ? ", large" : "");
        }

        public CopyKind kind() {
            return copy.kind();
        }
    }
}
