package docksort.files;

import docksort.problem.Causes;
import docksort.problem.CoreException.StorageFailed;
import docksort.problem.Problem;
import java.io.IOException;
import java.nio.channels.FileChannel;
import java.nio.channels.FileLock;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;

/// A lock on a file that one part of one program at a time can hold. It ends with the program, however that
/// ends.
public final class ExclusiveLock implements AutoCloseable {
    /// Files that this program holds. It must not even open them again: on some systems, closing any channel of
    /// a file lets go of all locks that the program has on it (documentation of `FileLock`).
    private static final Set<Path> HELD = ConcurrentHashMap.newKeySet();

    private final Path file;
    private final FileChannel channel;
    private final FileLock lock;

    private ExclusiveLock(Path file, FileChannel channel, FileLock lock) {
        this.file = file;
        this.channel = channel;
        this.lock = lock;
    }

    /// @return empty when another holds it, of this very program too
    /// @throws StorageFailed when the file cannot be made
    public static Optional<ExclusiveLock> tryOn(Path file) {
        Path known = real(file);
        if (!HELD.add(known)) {
            return Optional.empty();
        }
        Optional<ExclusiveLock> held = Optional.empty();
        try {
            held = lock(known);
            return held;
        } catch (IOException e) {
            throw new StorageFailed(
                    new Problem("Cannot lock " + file, Causes.inWords(e), "Nothing was changed.", "Check its folder."),
                    e);
        } finally {
            if (held.isEmpty()) {
                HELD.remove(known);
            }
        }
    }

    /// One name for a file, whatever links lead to it.
    static Path real(Path file) {
        Path whole = file.toAbsolutePath().normalize();
        Path folder = whole.getParent();
        Path name = whole.getFileName();
        if (folder == null || name == null) {
            return whole;
        }
        try {
            return folder.toRealPath().resolve(name);
        } catch (IOException e) {
            return whole; // its folder is not there: opening it says so
        }
    }

    private static Optional<ExclusiveLock> lock(Path file) throws IOException {
        FileChannel channel = FileChannel.open(file, StandardOpenOption.CREATE, StandardOpenOption.WRITE);
        FileLock lock = channel.tryLock();
        if (lock == null) {
            channel.close();
            return Optional.empty();
        }
        return Optional.of(new ExclusiveLock(file, channel, lock));
    }

    @Override
    public void close() {
        try (channel) {
            lock.release();
        } catch (IOException e) {
            System.getLogger(ExclusiveLock.class.getName()).log(System.Logger.Level.DEBUG, "lock was gone", e);
        } finally {
            HELD.remove(file);
        }
    }
}
