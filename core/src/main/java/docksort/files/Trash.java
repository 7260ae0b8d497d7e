package docksort.files;

import com.sun.jna.platform.FileUtils;
import java.io.IOException;
import java.nio.file.AtomicMoveNotSupportedException;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.FileStore;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.PosixFilePermissions;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.time.temporal.ChronoUnit;
import java.util.Locale;
import java.util.Objects;
import java.util.Optional;

/// The system's trash. On Linux by the freedesktop.org Trash specification 1.0: the home trash for files
/// of its volume, a trash at the top of the volume for others; elsewhere by the system itself.
public final class Trash {
    private static final DateTimeFormatter DATE = DateTimeFormatter.ISO_LOCAL_DATE_TIME;
    private static final int MOST_TRIES = 10_000;

    private final Path home;
    private final boolean freedesktop;

    private Trash(Path home, boolean freedesktop) {
        this.home = home;
        this.freedesktop = freedesktop;
    }

    /// The trash of the person who runs the program.
    public static Trash ofUser() {
        String data = System.getenv("XDG_DATA_HOME");
        Path base = data == null || data.isBlank()
                ? Path.of(System.getProperty("user.home"), ".local", "share")
                : Path.of(data);
        boolean linux = System.getProperty("os.name").toLowerCase(Locale.ROOT).contains("linux");
        return new Trash(base.resolve("Trash"), linux);
    }

    /// A trash by the same specification at another place.
    public static Trash at(Path home) {
        return new Trash(home, true);
    }

    /// Moves a file there. It is never copied: where no trash is on its volume, nothing happens.
    ///
    /// @throws IOException when it cannot be moved; it is where it was then
    public void take(Path file) throws IOException {
        if (!freedesktop) {
            var system = FileUtils.getInstance();
            if (!system.hasTrash()) {
                throw new IOException("this system has no trash");
            }
            system.moveToTrash(file.toFile());
            return;
        }
        Optional<Path> top = topOf(file);
        Path trash = top.isEmpty() ? home : top.get().resolve(".Trash-" + userId());
        Files.createDirectories(trash.resolve("files"));
        Files.createDirectories(trash.resolve("info"));
        if (top.isPresent()) {
            Files.setPosixFilePermissions(trash, PosixFilePermissions.fromString("rwx------"));
        }
        String name = String.valueOf(file.getFileName());
        for (int n = 1; n < MOST_TRIES; n++) {
            String free = n == 1 ? name : name + "." + n;
            Path info = trash.resolve("info").resolve(free + ".trashinfo");
            try {
                // The information file reserves the name.
                Files.writeString(info, information(file, top), StandardOpenOption.CREATE_NEW);
            } catch (FileAlreadyExistsException e) {
                continue;
            }
            try {
                Files.move(file, trash.resolve("files").resolve(free), StandardCopyOption.ATOMIC_MOVE);
                return;
            } catch (AtomicMoveNotSupportedException e) {
                Files.deleteIfExists(info);
                throw new IOException("its volume has no trash", e);
            } catch (IOException e) {
                Files.deleteIfExists(info);
                throw e;
            }
        }
        throw new IOException("the trash has too many files of this name");
    }

    private static String information(Path file, Optional<Path> top) {
        Path told = top.map(folder -> folder.relativize(file)).orElse(file);
        String absolute = Path.of("/").resolve(told).toUri().getRawPath();
        String path = told.isAbsolute() ? absolute : absolute.substring(1);
        String now = LocalDateTime.now(ZoneId.systemDefault())
                .truncatedTo(ChronoUnit.SECONDS)
                .format(DATE);
        return "[Trash Info]\nPath=" + path + "\nDeletionDate=" + now + "\n";
    }

    /// The highest folder of the file's volume; empty where that is the home trash's volume.
    private Optional<Path> topOf(Path file) throws IOException {
        Path near = home;
        while (!Files.exists(near)) {
            near = Objects.requireNonNull(near.getParent());
        }
        FileStore own = Files.getFileStore(file);
        if (own.equals(Files.getFileStore(near))) {
            return Optional.empty();
        }
        Path top = Objects.requireNonNull(file.toRealPath().getParent());
        for (Path up = top.getParent(); up != null && Files.getFileStore(up).equals(own); up = up.getParent()) {
            top = up;
        }
        return Optional.of(top);
    }

    private Object userId() throws IOException {
        Path near = home;
        while (!Files.exists(near)) {
            near = Objects.requireNonNull(near.getParent());
        }
        return Files.getAttribute(near, "unix:uid", LinkOption.NOFOLLOW_LINKS);
    }
}
