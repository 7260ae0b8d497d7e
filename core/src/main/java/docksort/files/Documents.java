package docksort.files;

import docksort.problem.Causes;
import docksort.problem.CoreException.InputRefused;
import docksort.problem.CoreException.StorageFailed;
import docksort.problem.Problem;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;

/// Small files that are read and replaced whole: timelines, reports, pictures.
public final class Documents {
    private static final long LARGEST = 256L * 1024 * 1024;

    private Documents() {}

    /// Makes a folder where it is missing.
    ///
    /// @return its real path
    /// @throws StorageFailed when it cannot be made or is not a folder
    public static Path ensureFolder(Path folder) {
        try {
            Files.createDirectories(folder);
            return folder.toRealPath();
        } catch (IOException e) {
            throw new StorageFailed(
                    new Problem(
                            "Cannot use the folder " + folder,
                            Causes.inWords(e),
                            "Nothing was changed.",
                            "Choose a folder that may be written to."),
                    e);
        }
    }

    /// @throws InputRefused when the file is missing, too large for its kind, or cannot be read
    public static byte[] read(Path file) {
        try {
            if (Files.isDirectory(file)) {
                throw new IOException("it is a folder");
            }
            if (Files.size(file) > LARGEST) {
                throw new IOException("it is larger than 256 MiB");
            }
            return Files.readAllBytes(file);
        } catch (IOException e) {
            throw new InputRefused(
                    new Problem(
                            "Cannot read " + file,
                            Causes.inWords(e),
                            "Nothing was changed.",
                            "Check the path and the file's permissions."),
                    e);
        }
    }

    /// Time stamp of a file in milliseconds, 0 where there is none. Tells whether another program has written it.
    public static long modified(Path file) {
        return file.toFile().lastModified();
    }

    /// Writes beside the target and moves it in place, so that the target is either the old or the new file, never
    /// half.
    public static void replace(Path target, byte[] bytes) {
        Path absolute = target.toAbsolutePath().normalize();
        Path folder = absolute.getParent();
        try {
            if (folder != null) {
                Files.createDirectories(folder);
            }
            try (PartialFile partial = PartialFile.besides(absolute)) {
                Files.write(partial.working(), bytes);
                partial.publish();
            }
        } catch (IOException e) {
            throw new StorageFailed(
                    new Problem(
                            "Cannot write " + target,
                            Causes.inWords(e),
                            "The file that was there before is as it was.",
                            "Check the volume's room and permissions."),
                    e);
        }
    }
}
