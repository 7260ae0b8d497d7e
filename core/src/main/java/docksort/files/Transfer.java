package docksort.files;

import docksort.problem.Causes;
import docksort.problem.CoreException.StorageFailed;
import docksort.problem.Problem;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import java.util.function.BooleanSupplier;
import java.util.function.LongConsumer;

/// Copies a file of any size to another place, for sending it away. What was written is read back and held
/// against the source before it gets its name; the source is only read.
public final class Transfer {
    private static final int BUFFER = 1 << 20;

    private Transfer() {}

    /// @param target must not be there yet
    /// @param written hears how many bytes were written, piece by piece
    /// @return the XXH64 checksum of both; empty when it was cancelled, and nothing is left then
    /// @throws StorageFailed when it cannot be copied, or reads back otherwise
    public static Optional<String> copy(Path source, Path target, LongConsumer written, BooleanSupplier cancelled) {
        try {
            if (Files.exists(target)) {
                throw new IOException("a file of this name is there already");
            }
            Path folder = target.toAbsolutePath().getParent();
            if (folder != null) {
                Files.createDirectories(folder);
            }
            try (PartialFile partial = PartialFile.besides(target)) {
                if (!pour(source, partial.working(), written, cancelled)) {
                    return Optional.empty();
                }
                Optional<String> sum = Checksum.XXH64.of(source, cancelled);
                Optional<String> there = Checksum.XXH64.of(partial.working(), cancelled);
                if (sum.isEmpty() || there.isEmpty()) {
                    return Optional.empty();
                }
                if (!sum.equals(there)) {
                    throw new IOException("what was written does not read back as it was");
                }
                Files.setLastModifiedTime(partial.working(), Files.getLastModifiedTime(source));
                partial.publish();
                return sum;
            }
        } catch (IOException e) {
            throw new StorageFailed(
                    new Problem(
                            "Could not copy " + source + " to " + target,
                            Causes.inWords(e),
                            "The source is as it was; files copied before it are whole.",
                            "Check the volume's room and permissions, then begin again in an empty folder."),
                    e);
        }
    }

    private static boolean pour(Path source, Path target, LongConsumer written, BooleanSupplier cancelled)
            throws IOException {
        try (InputStream in = Files.newInputStream(source);
                OutputStream out = Files.newOutputStream(target)) {
            byte[] buffer = new byte[BUFFER];
            for (int read = in.read(buffer); read >= 0; read = in.read(buffer)) {
                if (cancelled.getAsBoolean()) {
                    return false;
                }
                out.write(buffer, 0, read);
                written.accept(read);
            }
        }
        return true;
    }
}
