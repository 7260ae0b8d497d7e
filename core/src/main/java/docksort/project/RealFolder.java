package docksort.project;

import docksort.problem.CoreException.InputRefused;
import docksort.problem.Problem;
import java.io.IOException;
import java.nio.file.Path;

/// A folder that somebody named, where it really is.
final class RealFolder {
    private RealFolder() {}

    /// @throws InputRefused when it is not there
    static Path of(Path folder) {
        try {
            return folder.toRealPath();
        } catch (IOException e) {
            throw new InputRefused(
                    new Problem(
                            "Cannot look into " + folder,
                            "it is not there",
                            "Nothing was changed.",
                            "Choose a folder."),
                    e);
        }
    }
}
