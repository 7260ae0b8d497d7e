package docksort.files;

import docksort.problem.Causes;
import docksort.problem.CoreException.StorageFailed;
import docksort.problem.Problem;
import java.io.IOException;
import java.nio.channels.FileChannel;
import java.nio.file.AtomicMoveNotSupportedException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.util.UUID;

/// A file in the making. It lies beside its target under a name that cannot be taken for a clip, and gets the
/// final name by one atomic move. Closing it without publishing deletes it.
public final class PartialFile implements AutoCloseable {
    private static final String HEAD = ".dock-sort-";
    private static final String TAIL = ".part";

    private final Path working;
    private final Path target;
    private boolean published;

    private PartialFile(Path working, Path target) {
        this.working = working;
        this.target = target;
    }

    static PartialFile besides(Path target) {
        Path folder = target.toAbsolutePath().getParent();
        if (folder == null) {
            throw new IllegalArgumentException("a file needs a folder: " + target);
        }
        String token = UUID.randomUUID().toString().substring(0, 8);
        return new PartialFile(folder.resolve(HEAD + token + TAIL), target);
    }

    /// A file in the making beside another one, swept with it when a run is broken off.
    public static Path piece(Path working, int number) {
        String name = String.valueOf(working.getFileName());
        String token = isPartial(working) ? name.substring(HEAD.length(), name.length() - TAIL.length()) : name;
        return working.resolveSibling(HEAD + token + "-" + number + TAIL);
    }

    /// Deletes a file in the making; one that cannot be deleted now is left for the next sweep.
    ///
    /// @throws IllegalArgumentException when it is no such file
    public static void discard(Path partial) {
        if (!isPartial(partial)) {
            throw new IllegalArgumentException("not a file in the making: " + partial);
        }
        try {
            Files.deleteIfExists(partial);
        } catch (IOException e) {
            System.getLogger(PartialFile.class.getName())
                    .log(System.Logger.Level.WARNING, "left for the next sweep: " + partial, e);
        }
    }

    static boolean isPartial(Path file) {
        Path name = file.getFileName();
        return name != null
                && name.toString().startsWith(HEAD)
                && name.toString().endsWith(TAIL);
    }

    /// Where to write until it is published.
    public Path working() {
        return working;
    }

    public Path target() {
        return target;
    }

    /// Forces the bytes to the volume and gives the file its final name, replacing an older file of that name.
    ///
    /// @throws StorageFailed when either fails; nothing has the final name then that had not before
    public void publish() {
        try {
            force(working, StandardOpenOption.WRITE);
            try {
                Files.move(working, target, StandardCopyOption.ATOMIC_MOVE);
            } catch (AtomicMoveNotSupportedException e) {
                throw new IOException("this volume cannot rename a file in one step", e);
            }
            published = true;
            forceFolder();
        } catch (IOException e) {
            throw new StorageFailed(
                    new Problem(
                            "The finished file could not get its name " + target,
                            Causes.inWords(e),
                            "What was there before is as it was.",
                            "Check the volume's room and permissions, then retry."),
                    e);
        }
    }

    private void forceFolder() {
        Path folder = target.getParent();
        if (folder == null) {
            return;
        }
        try {
            force(folder, StandardOpenOption.READ);
        } catch (IOException e) {
            // Some systems cannot force a folder; the file itself is safe, its name may be lost by a power cut.
            System.getLogger(PartialFile.class.getName())
                    .log(System.Logger.Level.DEBUG, "cannot force folder " + folder, e);
        }
    }

    private static void force(Path path, StandardOpenOption option) throws IOException {
        try (FileChannel channel = FileChannel.open(path, option)) {
            channel.force(true);
        }
    }

    @Override
    public void close() {
        if (!published) {
            discard(working);
        }
    }
}
