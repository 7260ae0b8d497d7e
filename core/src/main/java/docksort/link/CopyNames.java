package docksort.link;

import docksort.arrival.Clip;
import docksort.catalogue.WorkingCopy;
import docksort.files.CopyFolder;
import docksort.media.FrameRange;
import docksort.media.Raster;
import docksort.run.CopyTags;
import docksort.sort.Naming;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;

/// What giving copies other names by a pattern would do, before it is done. The names follow from what the
/// copies are and not from the names they have, so doing it twice changes nothing. Originals are never among
/// them.
public record CopyNames(String pattern, List<Line> lines) {
    public CopyNames {
        lines = List.copyOf(lines);
    }

    /// One copy.
    ///
    /// @param fault why it cannot have the name
    public record Line(WorkingCopy copy, Path to, Optional<String> fault) {
        public boolean changes() {
            return !copy.file().equals(to);
        }
    }

    /// A copy with its clip and the name of its arrival.
    public record Named(WorkingCopy copy, Clip clip, String arrival) {}

    /// @param neverInside folders of originals
    public static CopyNames preview(String pattern, List<Named> copies, Collection<Path> neverInside) {
        Optional<String> bad = Naming.fault(pattern);
        var targets = new LinkedHashMap<Named, Path>();
        Map<String, Integer> wanted = new HashMap<>();
        for (Named named : copies) {
            Path to = bad.isPresent() ? named.copy.file() : target(pattern, named);
            targets.put(named, to);
            wanted.merge(key(to), 1, Integer::sum);
        }
        Map<String, Path> given = new HashMap<>();
        copies.forEach(named -> given.put(key(named.copy.file()), named.copy.file()));
        var lines = new ArrayList<Line>();
        targets.forEach((named, to) ->
                lines.add(new Line(named.copy, to, bad.or(() -> fault(named, to, wanted, given, neverInside)))));
        return new CopyNames(pattern, lines);
    }

    private static Path target(String pattern, Named named) {
        WorkingCopy copy = named.copy;
        String file = String.valueOf(copy.file().getFileName());
        int dot = file.lastIndexOf('.');
        String ending = dot > 0 ? file.substring(dot) : "";
        String stretch =
                copy.range().map(FrameRange::first).map(first -> "_" + first).orElse("");
        String name = Naming.fill(
                pattern,
                copy.kind(),
                copy.isAdopted() ? "adopted" : copy.recipeId(),
                named.clip,
                new Raster(
                        Math.max(1, copy.place().width()),
                        Math.max(1, copy.place().height())),
                named.arrival);
        return copy.file().resolveSibling((name + stretch + ending).replace('/', '_'));
    }

    private static Optional<String> fault(
            Named named, Path to, Map<String, Integer> wanted, Map<String, Path> given, Collection<Path> neverInside) {
        Path from = named.copy.file();
        String name = String.valueOf(to.getFileName());
        if (from.equals(to)) {
            return Optional.empty();
        }
        if (neverInside.stream().anyMatch(from::startsWith)) {
            return Optional.of("it lies in an arrival, where nothing is renamed");
        }
        if (!CopyFolder.safeName(name).equals(name)) {
            return Optional.of("not every system allows this name; " + CopyFolder.safeName(name) + " would do");
        }
        if (wanted.getOrDefault(key(to), 0) > 1) {
            return Optional.of("another copy of the set would have the same name");
        }
        boolean changesLettersOnly = key(from).equals(key(to));
        if (!given.containsKey(key(to)) && !changesLettersOnly && Files.exists(to, LinkOption.NOFOLLOW_LINKS)) {
            return Optional.of("there is a file of this name already");
        }
        if (!Files.isRegularFile(from, LinkOption.NOFOLLOW_LINKS)) {
            return Optional.of("its file is not there");
        }
        return Optional.empty();
    }

    /// Names that differ in capitals only are one on some systems.
    private static String key(Path file) {
        return file.toString().toLowerCase(Locale.ROOT);
    }

    public boolean isSound() {
        return lines.stream().allMatch(line -> line.fault.isEmpty());
    }

    /// Copies that get another name.
    public List<Line> changes() {
        return lines.stream().filter(Line::changes).toList();
    }

    /// All files that are renamed, the small ones beside copies among them.
    public Map<Path, Path> files() {
        return files(changes().stream()
                .collect(LinkedHashMap::new, (map, line) -> map.put(line.copy.file(), line.to), Map::putAll));
    }

    /// Files with the small ones beside them.
    public static Map<Path, Path> files(Map<Path, Path> copies) {
        var files = new LinkedHashMap<Path, Path>(copies);
        copies.forEach((from, to) -> {
            if (Files.isRegularFile(CopyTags.besides(from), LinkOption.NOFOLLOW_LINKS)) {
                files.put(CopyTags.besides(from), CopyTags.besides(to));
            }
        });
        return files;
    }
}
