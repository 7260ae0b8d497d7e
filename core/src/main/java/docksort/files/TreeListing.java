package docksort.files;

import docksort.problem.Causes;
import docksort.problem.CoreException.InputRefused;
import docksort.problem.Problem;
import java.io.IOException;
import java.nio.file.FileVisitResult;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.SimpleFileVisitor;
import java.nio.file.attribute.BasicFileAttributes;
import java.nio.file.attribute.FileTime;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/// What a tree of files holds by its listing, and what is otherwise in it later.
final class TreeListing {
    private TreeListing() {}

    /// A file as the listing has it.
    ///
    /// @param link whether it is none, but leads to one or to something else
    record Entry(String path, long bytes, FileTime modified, boolean link) {}

    /// @throws InputRefused when it cannot be listed
    static Map<String, Entry> of(Path from) {
        var found = new TreeMap<String, Entry>();
        try {
            Files.walkFileTree(from, new SimpleFileVisitor<>() {
                @Override
                public FileVisitResult visitFile(Path file, BasicFileAttributes attributes) {
                    String path = from.relativize(file).toString().replace('\\', '/');
                    found.put(
                            path,
                            new Entry(
                                    path,
                                    attributes.size(),
                                    attributes.lastModifiedTime(),
                                    !attributes.isRegularFile()));
                    return FileVisitResult.CONTINUE;
                }
            });
        } catch (IOException e) {
            throw new InputRefused(
                    new Problem(
                            "Cannot list " + from,
                            Causes.inWords(e),
                            "Nothing was copied.",
                            "Look at the card's volume."),
                    e);
        }
        return found;
    }

    /// What is otherwise than before, in words.
    static List<String> changes(Path from, Map<String, Entry> before) {
        if (!Files.isDirectory(from)) {
            return List.of(from + " is away, and could not be looked at again");
        }
        var changes = new ArrayList<String>();
        Map<String, Entry> after = of(from);
        after.forEach((path, entry) -> {
            Entry was = before.get(path);
            if (was == null) {
                changes.add(path + " is new");
            } else if (!was.equals(entry)) {
                changes.add(path + " has changed");
            }
        });
        before.keySet().stream()
                .filter(path -> !after.containsKey(path))
                .forEach(path -> changes.add(path + " is gone"));
        return changes;
    }
}
