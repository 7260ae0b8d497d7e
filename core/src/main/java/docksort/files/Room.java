package docksort.files;

import docksort.media.ByteSize;
import docksort.problem.Causes;
import docksort.problem.CoreException.StorageFailed;
import docksort.problem.Problem;
import java.io.IOException;
import java.nio.file.FileStore;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;

/// The room of a volume: all of it, and what this account may still write.
///
/// @param place a folder on it that is there, empty in a plan that is only thought of
public record Room(String volume, ByteSize total, ByteSize free, Optional<Path> place) {

    /// Room of the volume on which a path lies or would lie.
    public static Room of(Path path) {
        Path existing = path.toAbsolutePath();
        while (!Mounts.HERE.answers(existing) || !Files.exists(existing)) {
            Path parent = existing.getParent();
            if (parent == null) {
                break;
            }
            existing = parent;
        }
        try {
            FileStore store = Files.getFileStore(existing);
            return new Room(
                    store.toString(),
                    new ByteSize(store.getTotalSpace()),
                    new ByteSize(store.getUsableSpace()),
                    Optional.of(existing));
        } catch (IOException e) {
            throw new StorageFailed(
                    new Problem(
                            "Cannot tell how much room " + path + " has",
                            Causes.inWords(e),
                            "Nothing was changed.",
                            "Check that its volume is mounted."),
                    e);
        }
    }
}
