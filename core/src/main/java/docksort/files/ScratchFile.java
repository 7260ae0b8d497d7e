package docksort.files;

import docksort.problem.Causes;
import docksort.problem.CoreException.StorageFailed;
import docksort.problem.Problem;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;

/// A file of our own that is needed for a moment and deleted when closed.
public record ScratchFile(Path file) implements AutoCloseable {
    /// @param folder made where it is missing
    /// @throws StorageFailed when none can be made there
    public static ScratchFile in(Path folder, String stem, String ending) {
        try {
            Files.createDirectories(folder);
            return new ScratchFile(Files.createTempFile(folder, stem, ending));
        } catch (IOException e) {
            throw new StorageFailed(
                    new Problem(
                            "Cannot write to " + folder,
                            Causes.inWords(e),
                            "Nothing was changed.",
                            "Check the volume's room and permissions."),
                    e);
        }
    }

    @Override
    public void close() {
        try {
            Files.deleteIfExists(file);
        } catch (IOException e) {
            throw new StorageFailed(
                    new Problem(
                            "A scratch file was left: " + file,
                            Causes.inWords(e),
                            "Nothing else changed.",
                            "Delete it."),
                    e);
        }
    }
}
