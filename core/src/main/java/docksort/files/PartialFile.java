package docksort.files;

import docksort.problem.Causes;
import docksort.problem.CoreException.StorageFailed;
import docksort.problem.Problem;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.AtomicMoveNotSupportedException;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.FileSystemException;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.util.UUID;
import java.util.function.Predicate;
import java.util.stream.Stream;

/// A file in the making. It lies beside its target under a name that cannot be taken for a clip, and gets
/// the final name by one atomic move. Closing it without publishing deletes it.
public final class PartialFile implements AutoCloseable {
    private static final String HEAD = ".dock-sort-";
    private static final String TAIL = ".part";
    private static final int MOST_OF_ONE_NAME = 1_000;

    private final Path working;
    private final Path wanted;
    private Path target;
    private boolean published;

    private PartialFile(Path working, Path target) {
        this.working = working;
        this.wanted = target;
        this.target = target;
    }

    static PartialFile besides(Path target) {
        return besides(target, "file");
    }

    static PartialFile besides(Path target, String owner) {
        Path folder = target.toAbsolutePath().getParent();
        if (folder == null) {
            throw new IllegalArgumentException("a file needs a folder: " + target);
        }
        String token = UUID.randomUUID().toString().substring(0, 8);
        return new PartialFile(folder.resolve(HEAD + owner + "-" + token + TAIL), target);
    }

    /// Deletes what an owner left half-made in a folder tree. Nobody else may be at work there.
    static void sweep(Path folder, String owner) {
        String head = HEAD + owner + "-";
        try (Stream<Path> files = Files.walk(folder)) {
            files.filter(file -> String.valueOf(file.getFileName()).startsWith(head) && isPartial(file))
                    .forEach(PartialFile::discard);
        } catch (IOException | UncheckedIOException e) {
            System.getLogger(PartialFile.class.getName())
                    .log(System.Logger.Level.WARNING, "left for the next sweep in " + folder, e);
        }
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

    /// Sets bits of single bytes in a file in the making.
    ///
    /// @param places of the bytes
    /// @throws IllegalArgumentException when it is no such file
    public static void setBits(Path partial, long[] places, int bits) throws IOException {
        if (!isPartial(partial)) {
            throw new IllegalArgumentException("not a file in the making: " + partial);
        }
        ByteBuffer one = ByteBuffer.allocate(1);
        try (FileChannel channel = FileChannel.open(partial, StandardOpenOption.READ, StandardOpenOption.WRITE)) {
            for (long place : places) {
                one.clear();
                if (place < 0 || channel.read(one, place) != 1) {
                    throw new IOException("there is no byte at " + place);
                }
                one.put(0, (byte) (one.get(0) | bits)).flip();
                channel.write(one, place);
            }
        }
    }

    static boolean isPartial(Path file) {
        Path name = file.getFileName();
        return name != null
                && name.toString().startsWith(HEAD)
                && name.toString().endsWith(TAIL);
    }

    /// Whether it is in the making by an owner.
    static boolean isPartialOf(Path file, String owner) {
        return isPartial(file) && String.valueOf(file.getFileName()).startsWith(HEAD + owner + "-");
    }

    /// Where to write until it is published.
    public Path working() {
        return working;
    }

    /// The name that it gets, or got: another than was asked for where somebody else had taken that.
    public Path target() {
        return target;
    }

    /// As [#publish(Predicate)], in place of whatever has the name.
    void publish() {
        publish(_ -> true);
    }

    /// Forces the bytes to the volume and gives the file its final name. A file that has the name already
    /// is replaced only when it is the owner's; otherwise the name gets a number.
    ///
    /// @param mayReplace whether a file of that name may go
    /// @throws StorageFailed when either fails; nothing has the final name then that had not before
    public void publish(Predicate<Path> mayReplace) {
        try {
            force(working, StandardOpenOption.WRITE);
            name(mayReplace);
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

    private void name(Predicate<Path> mayReplace) throws IOException {
        for (int n = 1; n <= MOST_OF_ONE_NAME; n++) {
            target = n == 1 ? wanted : numbered(n);
            if (Files.exists(target, LinkOption.NOFOLLOW_LINKS)) {
                if (mayReplace.test(target)) {
                    move();
                    return;
                }
            } else if (takes()) {
                return;
            }
        }
        throw new FileAlreadyExistsException(wanted.toString());
    }

    /// Takes a name that is free, unless another program takes it at the same moment: a second name of a
    /// file is made in one step or not at all. Volumes that know no second names leave that moment open.
    private boolean takes() throws IOException {
        try {
            Files.createLink(target, working);
        } catch (FileAlreadyExistsException e) {
            return false;
        } catch (UnsupportedOperationException | FileSystemException e) {
            if (Files.exists(target, LinkOption.NOFOLLOW_LINKS)) {
                return false;
            }
            move();
            return true;
        }
        discard(working);
        return true;
    }

    private void move() throws IOException {
        try {
            Files.move(working, target, StandardCopyOption.ATOMIC_MOVE);
        } catch (AtomicMoveNotSupportedException e) {
            throw new IOException("this volume cannot rename a file in one step", e);
        }
    }

    private Path numbered(int n) {
        String name = String.valueOf(wanted.getFileName());
        int dot = name.lastIndexOf('.');
        return wanted.resolveSibling(
                dot <= 0 ? name + "_" + n : name.substring(0, dot) + "_" + n + name.substring(dot));
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

    /// Takes the name back from a file that should not have got it.
    ///
    /// @param isStill whether what has the name now is still that file
    public void withdraw(Predicate<Path> isStill) {
        if (published && isStill.test(target)) {
            try {
                Files.deleteIfExists(target);
            } catch (IOException e) {
                System.getLogger(PartialFile.class.getName())
                        .log(System.Logger.Level.WARNING, "left beside the one that counts: " + target, e);
            }
        }
    }

    @Override
    public void close() {
        if (!published) {
            discard(working);
        }
    }
}
