package docksort.files;

import docksort.problem.Causes;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.nio.file.attribute.BasicFileAttributes;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/// The only way in which a file that was published is deleted again: it must lie below a root without any
/// link on the way, below no arrival, be no original, and have no second name. What the file itself says
/// it is, the caller asks before.
public final class CopyRemoval {
    private final List<Path> arrivals;
    private final Set<Path> originals;

    /// @param arrivals folders of originals
    /// @param originals files of originals, wherever they lie
    public CopyRemoval(Collection<Path> arrivals, Collection<Path> originals) {
        this.arrivals = arrivals.stream().map(CopyRemoval::real).toList();
        this.originals = new HashSet<>();
        originals.forEach(file -> this.originals.add(file.toAbsolutePath().normalize()));
    }

    private static Path real(Path folder) {
        try {
            return folder.toRealPath();
        } catch (IOException e) {
            return folder.toAbsolutePath().normalize(); // away: nothing lies below it now
        }
    }

    /// Why a file must not be deleted; empty when it may be.
    ///
    /// @param root the folder it must lie below
    /// @param bytes how long it was when it was checked
    public Optional<String> refusal(Path root, Path file, long bytes) {
        Path plain = file.toAbsolutePath().normalize();
        if (!plain.equals(file.toAbsolutePath())) {
            return Optional.of("its path goes up and down again");
        }
        if (!plain.startsWith(root.toAbsolutePath().normalize())) {
            return Optional.of("it does not lie below its root");
        }
        if (originals.contains(plain)) {
            return Optional.of("it is an original");
        }
        try {
            Path there = plain.toRealPath();
            // Also finds that the folder has the name in other letters, where those do not count.
            Path expected =
                    root.toRealPath().resolve(root.toAbsolutePath().normalize().relativize(plain));
            if (!there.equals(expected)) {
                return Optional.of("a link leads to it, or it is written otherwise on the disk: " + there);
            }
            if (arrivals.stream().anyMatch(there::startsWith)) {
                return Optional.of("it lies in an arrival");
            }
            if (originals.contains(there)) {
                return Optional.of("it is an original");
            }
            BasicFileAttributes found =
                    Files.readAttributes(plain, BasicFileAttributes.class, LinkOption.NOFOLLOW_LINKS);
            if (!found.isRegularFile()) {
                return Optional.of("it is no plain file");
            }
            if (found.size() != bytes) {
                return Optional.of("it has " + found.size() + " bytes, the copy had " + bytes);
            }
            return names(plain) > 1 ? Optional.of("the same file has a second name elsewhere") : Optional.empty();
        } catch (IOException e) {
            return Optional.of(Causes.inWords(e));
        }
    }

    /// How many names the file has, where the system tells.
    private static int names(Path file) throws IOException {
        if (!Files.getFileStore(file).supportsFileAttributeView("unix")) {
            return 1;
        }
        Object count = Files.getAttribute(file, "unix:nlink", LinkOption.NOFOLLOW_LINKS);
        return count instanceof Integer number ? number : 1;
    }

    /// What became of some files.
    ///
    /// @param gone files that are deleted or in the trash
    /// @param left files that are where they were, with the reason
    public record Outcome(List<Path> gone, Map<Path, String> left) {}

    /// A file that may go, with what goes with it.
    ///
    /// @param sidecars small files beside it that only tell of it
    public record Removable(Path root, Path file, long bytes, List<Path> sidecars) {
        public Removable {
            sidecars = List.copyOf(sidecars);
        }
    }

    /// Moves files to the trash, or deletes them for good. Each is looked at once more right before.
    ///
    /// @param trash empty to delete for good
    public Outcome remove(List<Removable> files, Optional<Trash> trash) {
        var gone = new ArrayList<Path>();
        var left = new LinkedHashMap<Path, String>();
        for (Removable each : files) {
            Optional<String> refusal = refusal(each.root, each.file, each.bytes);
            if (refusal.isPresent()) {
                left.put(each.file, refusal.get());
                continue;
            }
            try {
                remove(each.file, trash);
                gone.add(each.file);
                for (Path sidecar : each.sidecars) {
                    if (refusal(each.root, sidecar, sidecar.toFile().length()).isEmpty()) {
                        remove(sidecar, trash);
                    }
                }
            } catch (IOException e) {
                if (!gone.contains(each.file)) {
                    left.put(each.file, Causes.inWords(e));
                }
            }
        }
        return new Outcome(List.copyOf(gone), left);
    }

    private static void remove(Path file, Optional<Trash> trash) throws IOException {
        if (trash.isPresent()) {
            trash.get().take(file);
        } else {
            Files.delete(file);
        }
    }
}
