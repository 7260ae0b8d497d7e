package docksort.dispatch;

import docksort.files.Checksum;
import docksort.problem.Causes;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.BiConsumer;
import java.util.function.BooleanSupplier;
import java.util.stream.Stream;

/// Every file of a list of checksums, read whole and held against it.
///
/// @param lines one for each entry, in order
/// @param unlisted files below the list's folder that it does not name
/// @param complete whether it was carried out to its end
public record ChecksumCheck(ChecksumList list, List<Line> lines, List<Path> unlisted, boolean complete) {
    public ChecksumCheck {
        lines = List.copyOf(lines);
        unlisted = List.copyOf(unlisted);
    }

    public enum Result {
        SAME("the same"),
        DIFFERS("differs"),
        MISSING("not there"),
        UNREADABLE("cannot be read"),
        UNKNOWN_KIND("not verified");

        private final String label;

        Result(String label) {
            this.label = label;
        }

        public String label() {
            return label;
        }
    }

    public record Line(Path file, Result result, String words) {}

    /// @param progress hears how many files of how many are done
    public static ChecksumCheck of(
            ChecksumList list, BiConsumer<Integer, Integer> progress, BooleanSupplier cancelled) {
        var lines = new ArrayList<Line>();
        Set<Path> named = new HashSet<>();
        for (ChecksumList.Entry entry : list.entries()) {
            Path file = list.folder().resolve(entry.path()).normalize();
            named.add(file);
            Optional<Line> line = check(file, entry, cancelled);
            if (line.isEmpty()) {
                return new ChecksumCheck(list, lines, List.of(), false);
            }
            lines.add(line.get());
            progress.accept(lines.size(), list.entries().size());
        }
        return new ChecksumCheck(list, lines, unlisted(list, named), true);
    }

    private static Optional<Line> check(Path file, ChecksumList.Entry entry, BooleanSupplier cancelled) {
        if (!Files.exists(file, LinkOption.NOFOLLOW_LINKS)) {
            return Optional.of(new Line(file, Result.MISSING, "it is in the list and not on the disk"));
        }
        if (entry.sums().isEmpty()) {
            return Optional.of(
                    new Line(file, Result.UNKNOWN_KIND, "the list has no checksum of a kind that is known here"));
        }
        try {
            long bytes = Files.size(file);
            if (entry.bytes() >= 0 && bytes != entry.bytes()) {
                return Optional.of(
                        new Line(file, Result.DIFFERS, "it has " + bytes + " bytes, the list says " + entry.bytes()));
            }
            for (Map.Entry<Checksum, String> sum : entry.sums().entrySet()) {
                Optional<String> found = sum.getKey().of(file, cancelled);
                if (found.isEmpty()) {
                    return Optional.empty();
                }
                if (!sum.getKey().same(found.get(), sum.getValue())) {
                    return Optional.of(new Line(
                            file,
                            Result.DIFFERS,
                            sum.getKey().label() + " is " + found.get() + ", the list says " + sum.getValue()));
                }
            }
            return Optional.of(new Line(file, Result.SAME, ""));
        } catch (IOException e) {
            return Optional.of(new Line(file, Result.UNREADABLE, Causes.inWords(e)));
        }
    }

    private static List<Path> unlisted(ChecksumList list, Set<Path> named) {
        try (Stream<Path> files = Files.walk(list.folder())) {
            return files.filter(file -> Files.isRegularFile(file, LinkOption.NOFOLLOW_LINKS))
                    .filter(file -> !named.contains(file.normalize()) && !file.equals(list.file()))
                    .filter(file -> !list.folder().relativize(file).startsWith(AscMhl.FOLDER))
                    .sorted()
                    .toList();
        } catch (IOException e) {
            return List.of(); // what was listed was checked; what else is there cannot be told
        }
    }

    public long count(Result result) {
        return lines.stream().filter(line -> line.result == result).count();
    }

    /// Whether every file of the list is there and the same.
    public boolean passes() {
        return complete && count(Result.SAME) == lines.size();
    }
}
