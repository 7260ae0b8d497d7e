package docksort.arrival;

import docksort.engine.Formats;
import docksort.media.ClipSource;
import docksort.media.ClipSource.NumberedStills;
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
import java.util.Map;
import java.util.TreeMap;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/// Lists a folder tree and says which files together are one clip, by their names alone. Links are not
/// followed: a card has none, and following them could leave the arrival.
final class FootageWalk {
    private static final int DEEPEST = 32;
    private static final int FEWEST_STILLS = 8; // fewer numbered pictures are taken for photographs, each its own clip
    private static final Pattern NUMBERED = Pattern.compile("(.*?)(\\d{3,9})(\\.[^.]+)");

    private FootageWalk() {}

    record Found(List<ClipSource> sources, List<Path> asides, List<Path> unlisted) {}

    /// @throws InputRefused when the folder is missing or is not one
    static Found of(Path folder) {
        if (!Files.isDirectory(folder)) {
            throw new InputRefused(new Problem(
                    "Cannot add " + folder,
                    Files.exists(folder) ? "it is not a folder" : "it is not there",
                    "Nothing was changed.",
                    "Choose the folder of a card, a drive or a recording."));
        }
        var files = new ArrayList<Path>();
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
                    if (attributes.isDirectory()) {
                        unlisted.add(file);
                    } else if (attributes.isRegularFile() && !isHidden(file)) {
                        files.add(file);
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
        files.sort(Comparator.comparing(Path::toString));
        return grouped(files, unlisted);
    }

    private static boolean isHidden(Path file) {
        return String.valueOf(file.getFileName()).startsWith(".");
    }

    private static Found grouped(List<Path> files, List<Path> unlisted) {
        var sources = new ArrayList<ClipSource>();
        var asides = new ArrayList<Path>();
        Map<String, List<Numbered>> numbered = new TreeMap<>();
        for (Path file : files) {
            String name = String.valueOf(file.getFileName());
            switch (Formats.expected(name)) {
                case OTHER -> asides.add(file);
                case MOVING, SOUND -> sources.add(new SingleFile(file));
                case STILL -> {
                    Matcher form = NUMBERED.matcher(name);
                    if (form.matches()) {
                        numbered.computeIfAbsent(
                                        file.getParent() + "\n" + form.group(1) + "\n"
                                                + form.group(2).length() + "\n" + form.group(3),
                                        _ -> new ArrayList<>())
                                .add(new Numbered(
                                        file,
                                        form.group(1),
                                        Integer.parseInt(form.group(2)),
                                        form.group(2).length(),
                                        form.group(3)));
                    } else {
                        sources.add(new SingleFile(file));
                    }
                }
            }
        }
        numbered.values().forEach(group -> sources.addAll(sequences(group)));
        return new Found(List.copyOf(sources), List.copyOf(asides), List.copyOf(unlisted));
    }

    private record Numbered(Path file, String prefix, int number, int digits, String suffix) {}

    /// A gap in the numbers ends a sequence: frames that are not there cannot be made up.
    private static List<ClipSource> sequences(List<Numbered> group) {
        var found = new ArrayList<ClipSource>();
        if (group.size() < FEWEST_STILLS) {
            group.forEach(still -> found.add(new SingleFile(still.file)));
            return found;
        }
        int from = 0;
        for (int i = 1; i <= group.size(); i++) {
            if (i == group.size() || group.get(i).number != group.get(i - 1).number + 1) {
                Numbered first = group.get(from);
                Path folder = first.file.getParent();
                if (folder != null) {
                    found.add(new NumberedStills(
                            folder, first.prefix, first.digits, first.suffix, first.number, group.get(i - 1).number));
                }
                from = i;
            }
        }
        return found;
    }
}
