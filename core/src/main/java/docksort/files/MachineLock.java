package docksort.files;

import docksort.problem.Causes;
import docksort.problem.CoreException.StorageFailed;
import docksort.problem.Problem;
import java.io.IOException;
import java.nio.channels.FileChannel;
import java.nio.channels.FileLock;
import java.nio.channels.OverlappingFileLockException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;

/// A lock on a file that all programs of one machine can hold at a time, and those of no other. It ends with the
/// program,
/// however that ends.
///
/// Every machine has a byte of its own by its name. A program locks that byte together with others of its machine, and
/// then asks for all other bytes at once: where another machine holds one, it gets none. Two that come at the same
/// moment
/// both see the other and both leave. Volumes of a network carry such locks from machine to machine (NFS 4, SMB).
public final class MachineLock implements AutoCloseable {
    private static final long BYTES = 1L << 30; // none of them has to be there

    /// Kinds of volumes that other machines can write to as well, as Linux, macOS and Windows name them; common
    /// practice,
    /// no source.
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

    private final FileChannel channel;

    private MachineLock(FileChannel channel) {
        this.channel = channel;
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
        long own = Math.floorMod((long) machine.hashCode(), BYTES - 2) + 1;
        try {
            FileChannel channel = FileChannel.open(
                    file, StandardOpenOption.CREATE, StandardOpenOption.READ, StandardOpenOption.WRITE);
            if (holds(channel, own) && isFree(channel, 0, own) && isFree(channel, own + 1, BYTES - own - 1)) {
                return Optional.of(new MachineLock(channel));
            }
            channel.close();
            return Optional.empty();
        } catch (IOException e) {
            throw new StorageFailed(
                    new Problem("Cannot lock " + file, Causes.inWords(e), "Nothing was changed.", "Check its folder."),
                    e);
        }
    }

    private static boolean holds(FileChannel channel, long own) throws IOException {
        try {
            return channel.tryLock(own, 1, true) != null;
        } catch (OverlappingFileLockException e) {
            return true; // by this very program
        }
    }

    private static boolean isFree(FileChannel channel, long from, long bytes) throws IOException {
        try (FileLock others = channel.tryLock(from, bytes, false)) {
            return others != null;
        } catch (OverlappingFileLockException e) {
            return false; // by this very program under another name
        }
    }

    @Override
    public void close() {
        try {
            channel.close();
        } catch (IOException e) {
            System.getLogger(MachineLock.class.getName()).log(System.Logger.Level.DEBUG, "lock was gone", e);
        }
    }
}
