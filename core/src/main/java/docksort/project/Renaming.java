package docksort.project;

import docksort.arrival.Arrival;
import docksort.arrival.ArrivalId;
import docksort.arrival.Clip;
import docksort.arrival.ClipId;
import docksort.catalogue.Catalogue;
import docksort.catalogue.Root;
import docksort.catalogue.Undo;
import docksort.catalogue.WorkingCopy;
import docksort.files.ExclusiveLock;
import docksort.files.Renames;
import docksort.link.CopyNames;
import docksort.link.OriginalName;
import docksort.problem.CoreException.InputRefused;
import docksort.problem.Problem;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;

/// Other names for copies and originals, on the disk and in the catalogue together.
public final class Renaming {
    private final Catalogue catalogue;
    private final Path folder;

    Renaming(Catalogue catalogue, Path folder) {
        this.catalogue = catalogue;
        this.folder = folder;
    }

    public CopyNames names(String pattern, List<WorkingCopy> copies) {
        return names(pattern, copies, false);
    }

    /// @param onCards whether copies that lie in arrivals, such as the camera's own, get names there, too
    public CopyNames names(String pattern, List<WorkingCopy> copies, boolean onCards) {
        Map<ClipId, Clip> clips = catalogue.clips().all().stream().collect(Collectors.toMap(Clip::id, clip -> clip));
        Map<ArrivalId, String> arrivals =
                catalogue.arrivals().all().stream().collect(Collectors.toMap(Arrival::id, Arrival::name));
        List<CopyNames.Named> named = copies.stream()
                .flatMap(copy -> Optional.ofNullable(clips.get(copy.clip()))
                        .map(clip -> new CopyNames.Named(copy, clip, arrivals.getOrDefault(clip.arrival(), "")))
                        .stream())
                .toList();
        return CopyNames.preview(
                pattern,
                named,
                onCards
                        ? List.of()
                        : catalogue.arrivals().all().stream()
                                .map(Arrival::folder)
                                .toList());
    }

    /// Renames all or none.
    ///
    /// @return how many copies got another name
    public int rename(CopyNames names) {
        if (!names.isSound()) {
            throw new InputRefused(new Problem(
                    "The copies were not renamed",
                    names.lines().stream()
                                    .filter(line -> line.fault().isPresent())
                                    .count() + " of them cannot have their name",
                    "All of them have the names they had.",
                    "Change the pattern, or leave those copies out."));
        }
        List<CopyNames.Line> changes = names.changes();
        if (changes.isEmpty()) {
            return 0;
        }
        var files = new LinkedHashMap<WorkingCopy, Path>();
        changes.forEach(line -> files.put(line.copy(), line.to()));
        rename(
                names.files(),
                () -> catalogue
                        .copyChanges()
                        .renamed(files, "Renamed " + changes.size() + " copies to " + names.pattern()));
        return changes.size();
    }

    /// @param keep keeps the new names in the catalogue
    private void rename(Map<Path, Path> files, Runnable keep) {
        ExclusiveLock lock = renaming();
        try (lock) {
            Renames renames = Renames.carryOut(files, journal());
            try {
                keep.run();
            } catch (RuntimeException e) {
                renames.takeBack(); // the catalogue did not take it: neither does the disk
                throw e;
            }
            renames.done();
        }
    }

    /// Gives an original the name that a person chose for it.
    public void rename(OriginalName name) {
        Path from = name.clip().source().head();
        boolean wanted = catalogue.copies().all().stream()
                .anyMatch(copy ->
                        copy.clip().equals(name.clip().id()) && copy.state().isQueued());
        Optional<String> why = wanted
                ? Optional.of("copies of it are still to be made; make them first, or leave them out")
                : name.fault();
        if (why.isPresent()) {
            throw new InputRefused(new Problem(
                    "The original was not renamed: " + from,
                    why.get(),
                    "It has the name it had.",
                    "Choose another name, or another moment."));
        }
        rename(
                Map.of(from, name.to()),
                () -> catalogue
                        .copyChanges()
                        .originalRenamed(
                                name.clip().id(),
                                from,
                                name.to(),
                                "Renamed the original " + from.getFileName() + " to "
                                        + name.to().getFileName()));
    }

    private Path journal() {
        return folder.resolve("rename.journal");
    }

    /// Two programs on one project rename one after the other.
    private ExclusiveLock renaming() {
        return ExclusiveLock.tryOn(folder.resolve("rename.lock"))
                .orElseThrow(() -> new InputRefused(new Problem(
                        "Nothing was renamed",
                        "another program is renaming files of this project",
                        "All files have the names they had.",
                        "Try again in a moment.")));
    }

    /// Takes back what a killed program had begun to rename, unless the catalogue has it already.
    void mend() {
        Optional<ExclusiveLock> lock = ExclusiveLock.tryOn(folder.resolve("rename.lock"));
        if (lock.isEmpty()) {
            return; // it is at work
        }
        ExclusiveLock held = lock.get();
        try (held) {
            Renames.unfinished(journal()).ifPresent(renames -> {
                boolean kept = catalogue.copies().all().stream()
                                .anyMatch(copy ->
                                        renames.targets().contains(copy.file().toAbsolutePath()))
                        || catalogue.clips().all().stream()
                                .anyMatch(clip -> renames.targets()
                                        .contains(clip.source().head().toAbsolutePath()));
                if (kept) {
                    renames.done();
                } else {
                    List<String> lost = renames.takeBack();
                    catalogue
                            .activity()
                            .write("Took back a renaming that was broken off"
                                    + (lost.isEmpty() ? "" : "; these kept another name: " + String.join(", ", lost)));
                }
            });
        }
    }

    /// Gives files their names back before the catalogue takes the change back.
    ///
    /// @return what is to be ended when it has
    Optional<Renames> beforeUndo(Undo undo) {
        if (undo instanceof Undo.CopiesRenamed renamed) {
            Map<String, Path> roots = rootPaths();
            Map<String, WorkingCopy> copies =
                    catalogue.copies().all().stream().collect(Collectors.toMap(WorkingCopy::id, copy -> copy));
            var back = new LinkedHashMap<Path, Path>();
            renamed.paths().forEach((id, path) -> {
                WorkingCopy copy = copies.get(id);
                Path root = copy == null ? null : roots.get(copy.rootId());
                if (root != null && Files.exists(root.resolve(path.get(1)))) {
                    back.put(root.resolve(path.get(1)), root.resolve(path.get(0)));
                }
            });
            return Optional.of(Renames.carryOut(CopyNames.files(back), journal()));
        }
        if (undo instanceof Undo.OriginalRenamed renamed) {
            Path root = rootPaths().get(renamed.rootId());
            if (root != null && Files.exists(root.resolve(renamed.to()))) {
                return Optional.of(
                        Renames.carryOut(Map.of(root.resolve(renamed.to()), root.resolve(renamed.from())), journal()));
            }
        }
        return Optional.empty();
    }

    private Map<String, Path> rootPaths() {
        return catalogue.roots().all().stream().collect(Collectors.toMap(Root::id, Root::path));
    }
}
