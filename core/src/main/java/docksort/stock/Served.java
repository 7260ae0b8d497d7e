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

    record ByCopy(WorkingCopy copy) implements Served {
        @Override
        public Path file() {
            return copy.file();
        }

        @Override
        public String label() {
            return copy.kind().label();
        }

        public CopyKind kind() {
            return copy.kind();
        }
    }
}
