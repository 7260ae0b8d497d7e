package docksort.files;

import docksort.problem.Causes;
import docksort.problem.CoreException.StorageFailed;
import docksort.problem.Problem;
import java.io.IOException;
import java.nio.channels.FileChannel;
import java.nio.channels.FileLock;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.HashMap;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/// A lock on a file that all programs of one machine can hold at a time, and those of no other. It ends with the
/// program, however that ends.
///
/// Every machine has a byte of its own by its name. A program locks that byte together with others of its machine, and
/// then asks for all other bytes at once: where another machine holds one, it gets none. Two that come at the same
/// moment both see the other and both leave. Volumes of a network carry such locks from machine to machine (NFS 4,
/// SMB).
public final class MachineLock implements AutoCloseable {
    private static final long BYTES = 1L << 30; // none of them has to be there

    /// Kinds of volumes that other machines can write to as well, as Linux, macOS and Windows name them; common
    /// practice, no source.
    private static final Set<String> NETWORK = Set.of(
            "nfs",
            "nfs4",
            "cifs",
            "smb",
            "smb2",
            "smb3",
            "smbfs",
            "afpfs",
            "webdav",
            "davfs",
            "9p",
            "ceph",
            "fuse.ceph",
            "fuse.sshfs",
            "fuse.glusterfs",
            "lustre",
            "beegfs",
            "gpfs",
            "ocfs2",
            "gfs2");

    /// Files that this program holds. As with [ExclusiveLock], it must not open them again.
    private static final Map<Path, Held> HELD = new HashMap<>(); // guarded by itself

    /// @param times how often it was asked for and not let go of
    private record Held(FileChannel channel, String machine, int times) {
        Held with(int more) {
            return new Held(channel, machine, times + more);
        }
    }

    private final Path file;
    private boolean closed; // guarded by HELD

    private MachineLock(Path file) {
        this.file = file;
    }

    /// Whether other machines can write to the volume that a folder lies on.
    public static boolean isNeededIn(Path folder) {
        try {
            return isNetwork(Files.getFileStore(folder).type());
        } catch (IOException e) {
            return false; // what comes next says what is wrong with it
        }
    }

    static boolean isNetwork(String type) {
        return NETWORK.contains(type.toLowerCase(Locale.ROOT));
    }

    /// @param machine its name among all that see the file
    /// @return empty when a program of another machine holds it
    /// @throws StorageFailed when the file cannot be made or locked
    public static Optional<MachineLock> tryOn(Path file, String machine) {
        Path known = ExclusiveLock.real(file);
        synchronized (HELD) {
            Held held = HELD.get(known);
            if (held != null && !held.machine.equals(machine)) {
                return Optional.empty();
            }
            if (held != null) {
                HELD.put(known, held.with(1));
                return Optional.of(new MachineLock(known));
            }
            Optional<FileChannel> channel = locked(known, machine);
            channel.ifPresent(open -> HELD.put(known, new Held(open, machine, 1)));
            return channel.map(_ -> new MachineLock(known));
        }
    }

    private static Optional<FileChannel> locked(Path file, String machine) {
        long own = Math.floorMod((long) machine.hashCode(), BYTES - 2) + 1;
        try {
            FileChannel channel = FileChannel.open(
                    file, StandardOpenOption.CREATE, StandardOpenOption.READ, StandardOpenOption.WRITE);
            if (channel.tryLock(own, 1, true) != null
                    && isFree(channel, 0, own)
                    && isFree(channel, own + 1, BYTES - own - 1)) {
                return Optional.of(channel);
            }
            channel.close();
            return Optional.empty();
        } catch (IOException e) {
            throw new StorageFailed(
                    new Problem("Cannot lock " + file, Causes.inWords(e), "Nothing was changed.", "Check its folder."),
                    e);
        }
    }

    private static boolean isFree(FileChannel channel, long from, long bytes) throws IOException {
        try (FileLock others = channel.tryLock(from, bytes, false)) {
            return others != null;
        }
    }

    @Override
    public void close() {
        synchronized (HELD) {
            Held held = HELD.get(file);
            if (closed || held == null) {
                return;
            }
            closed = true;
            if (held.times > 1) {
                HELD.put(file, held.with(-1));
                return;
            }
            HELD.remove(file);
            try {
                held.channel.close();
            } catch (IOException e) {
                System.getLogger(MachineLock.class.getName()).log(System.Logger.Level.DEBUG, "lock was gone", e);
            }
        }
    }
}
