package docksort.files;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.attribute.FileTime;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import java.util.stream.Stream;

/// Small pictures that were made once, kept on the disk below a limit; those that were not looked at for
/// longest go first. They can be made again at any time: a picture that cannot be read or kept is no
/// fault. Safe for use by several threads and programs.
public final class PictureShelf {
    /// Names another folder for it.
    public static final String FOLDER = "docksort.pictures.folder";

    private static final long USUAL_LIMIT = 200_000_000; // bytes
    private static final String ENDING = ".png";

    private final Path folder;
    private final long limit;
    private final InstantSource clock;
    private long kept = -1; // bytes, below 0 until they were counted; under this object's lock

    /// @param limit bytes of all pictures together
    public PictureShelf(Path folder, long limit, InstantSource clock) {
        this.folder = folder;
        this.limit = limit;
        this.clock = clock;
    }

    /// The one of the person at this machine.
    public static PictureShelf ofUser() {
        String named = System.getProperty(FOLDER, "");
        Path folder = named.isEmpty() ? UserFolders.cache().resolve("pictures") : Path.of(named);
        return new PictureShelf(folder, USUAL_LIMIT, InstantSource.system());
    }

    /// @param name of letters, digits, dashes
    public Optional<byte[]> get(String name) {
        Path file = place(name);
        try {
            byte[] bytes = Files.readAllBytes(file);
            Files.setLastModifiedTime(file, FileTime.from(clock.instant()));
            return Optional.of(bytes);
        } catch (IOException e) {
            return Optional.empty();
        }
    }

    public void put(String name, byte[] bytes) {
        Path file = place(name);
        try {
            Files.createDirectories(folder);
            Path partial = Files.write(folder.resolve("." + UUID.randomUUID()), bytes);
            Files.setLastModifiedTime(partial, FileTime.from(clock.instant()));
            Files.move(partial, file, StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
            makeRoom(bytes.length);
        } catch (IOException e) {
            System.getLogger(PictureShelf.class.getName())
                    .log(System.Logger.Level.DEBUG, "a picture was not kept: " + file, e);
        }
    }

    private Path place(String name) {
        if (!name.matches("[0-9A-Za-z-]{1,120}")) {
            throw new IllegalArgumentException("not the name of a picture: " + name);
        }
        return folder.resolve(name + ENDING);
    }

    private record Kept(Path file, long bytes, FileTime looked) {}

    private synchronized void makeRoom(long more) throws IOException {
        if (kept >= 0) {
            kept += more;
        }
        if (kept >= 0 && kept <= limit) {
            return;
        }
        List<Kept> all = all();
        kept = all.stream().mapToLong(Kept::bytes).sum();
        // A quarter at once, so that not every further picture looks through all.
        long goal = kept > limit ? limit / 4 * 3 : limit;
        for (Kept each : all) {
            if (kept <= goal) {
                break;
            }
            Files.deleteIfExists(each.file);
            kept -= each.bytes;
        }
    }

    /// Everything in the folder that is ours, leftovers too, the longest not looked at first.
    private List<Kept> all() throws IOException {
        var all = new ArrayList<Kept>();
        try (Stream<Path> files = Files.list(folder)) {
            for (Path file : (Iterable<Path>) files::iterator) {
                if (Files.isRegularFile(file, LinkOption.NOFOLLOW_LINKS)) {
                    all.add(new Kept(file, Files.size(file), Files.getLastModifiedTime(file)));
                }
            }
        }
        all.sort(Comparator.comparing(Kept::looked));
        return all;
    }
}
