package docksort.files;

import docksort.problem.Causes;
import docksort.problem.CoreException.StorageFailed;
import docksort.problem.Problem;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;

/// A file that ships inside the program and that another program has to read.
public final class UnpackedFile {
    private UnpackedFile() {}

    /// Writes it where it is missing or of another size.
    ///
    /// @param owner a class of the package it lies in
    /// @return the target
    public static Path of(Class<?> owner, String name, Path target) {
        try (InputStream in = owner.getResourceAsStream(name)) {
            if (in == null) {
                throw new IllegalStateException(name + " is not among the program's files");
            }
            byte[] bytes = in.readAllBytes();
            if (!Files.isRegularFile(target) || Files.size(target) != bytes.length) {
                Documents.replace(target, bytes);
            }
            return target;
        } catch (IOException e) {
            throw new StorageFailed(
                    new Problem(
                            "Cannot unpack " + name,
                            Causes.inWords(e),
                            "Nothing was changed.",
                            "Check that " + target + " may be written."),
                    e);
        }
    }
}
