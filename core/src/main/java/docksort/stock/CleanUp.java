package docksort.stock;

import docksort.catalogue.WorkingCopy;
import docksort.files.CopyRemoval;
import docksort.files.CopyRemoval.Removable;
import docksort.media.ByteSize;
import docksort.run.CopyTags;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.function.Function;

/// What deleting some copies would do, file by file, before it is done. A file may go only when the
/// catalogue and its own metadata both call it this copy, and when nothing else speaks against it.
public record CleanUp(List<Line> lines) {
    public CleanUp {
        lines = List.copyOf(lines);
    }

    /// One copy with its files.
    ///
    /// @param refusal why it is not deleted, empty when it is
    public record Line(WorkingCopy copy, List<Path> files, ByteSize bytes, Optional<String> refusal) {
        public Line {
            files = List.copyOf(files);
        }
    }

    /// @param roots folders that the copies' roots are now, by id
    /// @param tags what a file says of itself
    public static CleanUp plan(
            List<WorkingCopy> copies,
            Map<String, Path> roots,
            CopyRemoval removal,
            Function<Path, Map<String, String>> tags) {
        var lines = new ArrayList<Line>();
        for (WorkingCopy copy : copies) {
            Optional<String> refusal = refusal(copy, Optional.ofNullable(roots.get(copy.rootId())), removal, tags);
            var files = new ArrayList<Path>(List.of(copy.file()));
            long bytes = copy.place().bytes();
            Path sidecar = CopyTags.besides(copy.file());
            if (Files.isRegularFile(sidecar)) {
                files.add(sidecar);
                bytes += sidecar.toFile().length();
            }
            lines.add(new Line(copy, files, new ByteSize(refusal.isEmpty() ? bytes : 0), refusal));
        }
        return new CleanUp(lines);
    }

    private static Optional<String> refusal(
            WorkingCopy copy, Optional<Path> root, CopyRemoval removal, Function<Path, Map<String, String>> tags) {
        if (copy.isAdopted()) {
            return Optional.of("it was not made here: it can be forgotten, and deleted by whoever made it");
        }
        if (copy.state().isQueued()) {
            return Optional.of("a run is to make it");
        }
        if (root.isEmpty()) {
            return Optional.of("its root is gone");
        }
        Optional<String> refusal =
                removal.refusal(root.get(), copy.file(), copy.place().bytes());
        if (refusal.isPresent()) {
            return refusal;
        }
        Map<String, String> says = tags.apply(copy.file());
        boolean own = copy.source().toString().equals(says.get(CopyTags.SOURCE))
                && copy.recipeId().equals(says.get(CopyTags.RECIPE))
                && copy.range()
                        .map(range -> range.toString().equals(says.get(CopyTags.RANGE)))
                        .orElse(true);
        return own ? Optional.empty() : Optional.of("the file itself does not say that it is this copy");
    }

    public List<Line> going() {
        return lines.stream().filter(line -> line.refusal.isEmpty()).toList();
    }

    /// Bytes that come free.
    public ByteSize bytes() {
        return new ByteSize(
                going().stream().mapToLong(line -> line.bytes.bytes()).sum());
    }

    /// What is handed over to be removed.
    public List<Removable> removables(Map<String, Path> roots) {
        return going().stream()
                .map(line -> new Removable(
                        Objects.requireNonNull(roots.get(line.copy.rootId())),
                        line.copy.file(),
                        line.copy.place().bytes(),
                        line.files.subList(1, line.files.size())))
                .toList();
    }
}
