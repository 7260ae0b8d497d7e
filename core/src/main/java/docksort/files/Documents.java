package docksort.files;

import docksort.problem.Causes;
import docksort.problem.CoreException.InputRefused;
import docksort.problem.CoreException.StorageFailed;
import docksort.problem.Problem;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.SequencedMap;

/// Small files that are read and replaced whole: timelines, reports, pictures.
public final class Documents {
    private static final long LARGEST = 256L * 1024 * 1024;

    private Documents() {}

    /// Makes a folder where it is missing.
    ///
    /// @return its real path
    /// @throws StorageFailed when it cannot be made or is not a folder
    public static Path ensureFolder(Path folder) {
        try {
            Files.createDirectories(folder);
            return folder.toRealPath();
        } catch (IOException e) {
            throw new StorageFailed(
                    new Problem(
                            "Cannot use the folder " + folder,
                            Causes.inWords(e),
                            "Nothing was changed.",
                            "Choose a folder that may be written to."),
                    e);
        }
    }

    /// A file that belongs to a person and not to a project.
    public static Path ofThisPerson(String name) {
        return UserFolders.config().resolve(name);
    }

    /// @throws InputRefused when the file is missing, too large for its kind, or cannot be read
    public static byte[] read(Path file) {
        try {
            if (Files.isDirectory(file)) {
                throw new IOException("it is a folder");
            }
            if (Files.size(file) > LARGEST) {
                throw new IOException("it is larger than 256 MiB");
            }
            return Files.readAllBytes(file);
        } catch (IOException e) {
            throw new InputRefused(
                    new Problem(
                            "Cannot read " + file,
                            Causes.inWords(e),
                            "Nothing was changed.",
                            "Check the path and the file's permissions."),
                    e);
        }
    }

    /// Time stamp of a file in milliseconds, 0 where there is none. Tells whether another program has
    /// written it.
    public static long modified(Path file) {
        return file.toFile().lastModified();
    }

    /// Bytes of a file, 0 where it is not there.
    public static long size(Path file) {
        return file.toFile().length();
    }

    /// Writes beside the target and moves it in place, so that the target is either the old or the new
    /// file, never half.
    public static void replace(Path target, byte[] bytes) {
        Path absolute = target.toAbsolutePath().normalize();
        Path folder = absolute.getParent();
        try {
            if (folder != null) {
                Files.createDirectories(folder);
            }
            try (PartialFile partial = PartialFile.besides(absolute)) {
                Files.write(partial.working(), bytes);
                partial.publish();
            }
        } catch (IOException e) {
            throw new StorageFailed(
                    new Problem(
                            "Cannot write " + target,
                            Causes.inWords(e),
                            "The file that was there before is as it was.",
                            "Check the volume's room and permissions."),
                    e);
        }
    }

    /// Replaces several files as one: each is written beside its target first, and what cannot get its
    /// place takes back those before it. A power cut in between leaves the first ones only.
    ///
    /// @param files in the order in which they get their names
    /// @throws StorageFailed when one of them cannot; all targets are then as they were
    public static void replaceTogether(SequencedMap<Path, byte[]> files) {
        var partials = new ArrayList<PartialFile>();
        var kept = new ArrayList<Optional<Path>>();
        Path at = Path.of("");
        int named = 0;
        try {
            for (Map.Entry<Path, byte[]> file : files.entrySet()) {
                at = file.getKey().toAbsolutePath().normalize();
                Path folder = at.getParent();
                if (folder != null) {
                    Files.createDirectories(folder);
                }
                if (Files.isDirectory(at)) {
                    throw new IOException("a folder has this name");
                }
                var partial = PartialFile.besides(at);
                partials.add(partial);
                Files.write(partial.working(), file.getValue());
                kept.add(keep(at, partial));
            }
            for (PartialFile partial : partials) {
                at = partial.target();
                partial.publish();
                named++;
            }
        } catch (IOException | StorageFailed e) {
            takeBack(partials.subList(0, named), kept);
            throw new StorageFailed(
                    new Problem(
                            "Cannot write " + at,
                            e instanceof StorageFailed failed
                                    ? failed.problem().why()
                                    : Causes.inWords((IOException) e),
                            "What was there before is as it was.",
                            "Check the volume's room and permissions."),
                    e);
        } finally {
            partials.forEach(PartialFile::close);
            kept.forEach(file -> file.ifPresent(PartialFile::discard));
        }
    }

    private static Optional<Path> keep(Path target, PartialFile partial) throws IOException {
        if (!Files.exists(target)) {
            return Optional.empty();
        }
        Path kept = PartialFile.piece(partial.working(), 0);
        Files.copy(target, kept, StandardCopyOption.COPY_ATTRIBUTES);
        return Optional.of(kept);
    }

    private static void takeBack(List<PartialFile> named, List<Optional<Path>> kept) {
        for (int i = named.size() - 1; i >= 0; i--) {
            Path target = named.get(i).target();
            try {
                if (kept.get(i).isPresent()) {
                    Files.move(kept.get(i).get(), target, StandardCopyOption.ATOMIC_MOVE);
                } else {
                    Files.deleteIfExists(target);
                }
            } catch (IOException e) {
                System.getLogger(Documents.class.getName())
                        .log(System.Logger.Level.WARNING, "could not be taken back: " + target, e);
            }
        }
    }
}
