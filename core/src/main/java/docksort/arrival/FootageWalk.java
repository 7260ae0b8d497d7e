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
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/// Lists a folder tree and says which files together are one clip, by their names alone. Links are not
/// followed: a card has none, and following them could leave the arrival.
final class FootageWalk {
    private static final int DEEPEST = 32;
    private static final int FEWEST_STILLS = 8; // fewer numbered pictures are taken for photographs, each its own clip
    private static final int MOST_GAPS = 100;
    private static final Pattern NUMBERED = Pattern.compile("(.*?)(\\d{3,9})(\\.[^.]+)");

    private FootageWalk() {}

    /// A clip's file or files with what the listing says of them.
    record Listed(ClipSource source, Stamp stamp) {}

    record Found(List<Listed> sources, List<Path> asides, List<Path> unlisted) {}

    private record Entry(Path file, String name, long bytes, long modifiedMillis) {
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
    static Found unordered(Path folder) {
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
                    if (attributes.isDirectory()) {
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

    private static boolean isHidden(Path file) {
        return String.valueOf(file.getFileName()).startsWith(".");
    }

    private static Found grouped(List<Entry> files, List<Path> unlisted) {
        var sources = new ArrayList<Listed>();
        var asides = new ArrayList<Path>();
        Map<Numbering, List<Numbered>> numbered = new java.util.LinkedHashMap<>();
        for (Entry entry : files) {
            switch (Formats.expected(entry.name)) {
                case OTHER -> asides.add(entry.file);
                case MOVING, SOUND, CAMERA_RAW -> sources.add(single(entry));
                case STILL -> {
                    Matcher form = NUMBERED.matcher(entry.name);
                    if (form.matches() && entry.name.chars().noneMatch(Character::isISOControl)) {
                        var pattern = new Numbering(
                                String.valueOf(entry.file.getParent()),
                                form.group(1),
                                form.group(2).length(),
                                form.group(3));
                        numbered.computeIfAbsent(pattern, _ -> new ArrayList<>())
                                .add(new Numbered(entry, Integer.parseInt(form.group(2))));
                    } else {
                        sources.add(single(entry));
                    }
                }
            }
        }
        numbered.forEach((pattern, group) -> sources.addAll(sequences(pattern, group)));
        return new Found(List.copyOf(sources), List.copyOf(asides), List.copyOf(unlisted));
    }

    private static Listed single(Entry entry) {
        return new Listed(new SingleFile(entry.file), entry.stamp());
    }

    private record Numbering(String folder, String prefix, int digits, String suffix) {}

    private record Numbered(Entry entry, int number) {}

    /// One sequence with its gaps. Where more is missing than there is, or in too many places, the numbers say
    /// nothing of one recording, and every run is a clip of its own.
    private static List<Listed> sequences(Numbering pattern, List<Numbered> group) {
        group.sort(Comparator.comparingInt(Numbered::number));
        var found = new ArrayList<Listed>();
        if (group.size() < FEWEST_STILLS) {
            group.forEach(still -> found.add(single(still.entry)));
            return found;
        }
        var missing = new ArrayList<Integer>();
        int gaps = 0;
        for (int i = 1; i < group.size(); i++) {
            int before = group.get(i - 1).number;
            int now = group.get(i).number;
            gaps += now > before + 1 ? 1 : 0;
            if (now - before > group.size()) {
                gaps = MOST_GAPS + 1;
                break;
            }
            for (int number = before + 1; number < now; number++) {
                missing.add(number);
            }
        }
        if (gaps <= MOST_GAPS && missing.size() < group.size()) {
            found.add(stills(pattern, group, missing));
            return found;
        }
        int from = 0;
        for (int i = 1; i <= group.size(); i++) {
            if (i == group.size() || group.get(i).number != group.get(i - 1).number + 1) {
                found.add(stills(pattern, group.subList(from, i), List.of()));
                from = i;
            }
        }
        return found;
    }

    private static Listed stills(Numbering pattern, List<Numbered> run, List<Integer> missing) {
        Stamp stamp = Stamp.NONE;
        for (Numbered still : run) {
            stamp = stamp.plus(still.entry.bytes, still.entry.modifiedMillis);
        }
        return new Listed(
                new NumberedStills(
                        Path.of(pattern.folder),
                        pattern.prefix,
                        pattern.digits,
                        pattern.suffix,
                        run.getFirst().number,
                        run.getLast().number,
                        missing),
                stamp);
    }
}
