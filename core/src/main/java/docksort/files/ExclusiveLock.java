package docksort.files;

import docksort.problem.Causes;
import docksort.problem.CoreException.StorageFailed;
import docksort.problem.Problem;
import java.io.IOException;
import java.nio.channels.FileChannel;
import java.nio.channels.FileLock;
import java.nio.channels.OverlappingFileLockException;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.Optional;

/// A lock on a file that one program at a time can hold. It ends with the program, however that ends.
public final class ExclusiveLock implements AutoCloseable {
    private final FileChannel channel;
    private final FileLock lock;

    private ExclusiveLock(FileChannel channel, FileLock lock) {
        this.channel = channel;
        this.lock = lock;
    }

    /// @return empty when another holds it
    /// @throws StorageFailed when the file cannot be made
    public static Optional<ExclusiveLock> tryOn(Path file) {
        try {
            FileChannel channel = FileChannel.open(file, StandardOpenOption.CREATE, StandardOpenOption.WRITE);
            try {
                FileLock lock = channel.tryLock();
                if (lock != null) {
                    return Optional.of(new ExclusiveLock(channel, lock));
                }
            } catch (OverlappingFileLockException e) {
                // Held by this very program: the same answer as for another one.
            }
            channel.close();
            return Optional.empty();
        } catch (IOException e) {
            throw new StorageFailed(
                    new Problem("Cannot lock " + file, Causes.inWords(e), "Nothing was changed.", "Check its folder."),
                    e);
        }
    }

    @Override
    public void close() {
        try (channel) {
            lock.release();
        } catch (IOException e) {
            System.getLogger(ExclusiveLock.class.getName()).log(System.Logger.Level.DEBUG, "lock was gone", e);
        }
    }
}
