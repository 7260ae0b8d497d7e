package docksort.arrival;

import docksort.engine.Formats;
import docksort.media.ClipSource;
import docksort.media.ClipSource.SingleFile;
import docksort.problem.Causes;
import docksort.problem.CoreException.InputRefused;
import docksort.problem.Problem;
import java.io.IOException;
import java.nio.file.FileVisitOption;
import java.nio.file.FileVisitResult;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.SimpleFileVisitor;
import java.nio.file.attribute.BasicFileAttributes;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.EnumSet;
import java.util.List;

/// Lists a folder tree and says which files together are one clip, by their names alone. The folder
/// itself may be a link. Links in it are not followed, because that could leave the arrival or never end;
/// they are told.
final class FootageWalk {
    private static final int DEEPEST = 32;

    private FootageWalk() {}

    /// A clip's file or files with what the listing says of them.
    record Listed(ClipSource source, Stamp stamp) {}

    record Found(List<Listed> sources, List<Path> asides, List<Path> unlisted) {}

    record Entry(Path file, String name, long bytes, long modifiedMillis) {
        Stamp stamp() {
            return Stamp.NONE.plus(bytes, modifiedMillis);
        }
    }

    /// @throws InputRefused when the folder is missing or is not one
    static Found of(Path folder) {
        Found found = unordered(folder);
        var sources = new ArrayList<>(found.sources);
        sources.sort(Comparator.comparing(listed -> listed.source().head()));
        return new Found(sources, found.asides, found.unlisted);
    }

    /// The same in no particular order, for a look that only compares.
    static Found unordered(Path named) {
        Path folder = real(named);
        if (!Files.isDirectory(folder)) {
            throw new InputRefused(new Problem(
                    "Cannot add " + folder,
                    Files.exists(folder) ? "it is not a folder" : "it is not there",
                    "Nothing was changed.",
                    "Choose the folder of a card, a drive or a recording."));
        }
        var files = new ArrayList<Entry>();
        var unlisted = new ArrayList<Path>();
        try {
            Files.walkFileTree(folder, EnumSet.noneOf(FileVisitOption.class), DEEPEST, new SimpleFileVisitor<>() {
                @Override
                public FileVisitResult preVisitDirectory(Path directory, BasicFileAttributes attributes) {
                    return !directory.equals(folder) && isHidden(directory)
                            ? FileVisitResult.SKIP_SUBTREE
                            : FileVisitResult.CONTINUE;
                }

                @Override
                public FileVisitResult visitFile(Path file, BasicFileAttributes attributes) {
                    if (attributes.isDirectory() || attributes.isSymbolicLink()) {
                        unlisted.add(file);
                        return FileVisitResult.CONTINUE;
                    }
                    String name = String.valueOf(file.getFileName());
                    if (attributes.isRegularFile() && !name.startsWith(".")) {
                        files.add(new Entry(
                                file,
                                name,
                                attributes.size(),
                                attributes.lastModifiedTime().toMillis()));
                    }
                    return FileVisitResult.CONTINUE;
                }

                @Override
                public FileVisitResult visitFileFailed(Path file, IOException failure) {
                    unlisted.add(file);
                    return FileVisitResult.CONTINUE;
                }
            });
        } catch (IOException e) {
            throw new InputRefused(
                    new Problem(
                            "Cannot list " + folder,
                            Causes.inWords(e),
                            "Nothing was changed.",
                            "Check that it is mounted."),
                    e);
        }
        return grouped(files, unlisted);
    }

    private static Path real(Path folder) {
        try {
            return folder.toRealPath();
        } catch (IOException e) {
            return folder; // what is wrong with it is said below
        }
    }

    private static boolean isHidden(Path file) {
        return String.valueOf(file.getFileName()).startsWith(".");
    }

    private static Found grouped(List<Entry> files, List<Path> unlisted) {
        var sources = new ArrayList<Listed>();
        var asides = new ArrayList<Path>();
        var stills = new ArrayList<Entry>();
        for (Entry entry : files) {
            switch (Formats.expected(entry.name)) {
                case OTHER -> asides.add(entry.file);
                case MOVING, SOUND, CAMERA_RAW -> sources.add(new Listed(new SingleFile(entry.file), entry.stamp()));
                case STILL -> stills.add(entry);
            }
        }
        sources.addAll(StillSequences.of(stills));
        return new Found(List.copyOf(sources), List.copyOf(asides), List.copyOf(unlisted));
    }
}
