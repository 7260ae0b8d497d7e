package docksort.project;

import docksort.arrival.ArrivalId;
import docksort.catalogue.Catalogue;
import docksort.catalogue.Root;
import docksort.dispatch.Places;
import docksort.problem.CoreException.InputRefused;
import docksort.problem.Problem;
import docksort.timeline.MediaPath;
import java.nio.file.Path;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;

/// The folders that everything of a project lies below, here and as other workstations see them.
public final class Roots {
    private final Catalogue catalogue;

    Roots(Catalogue catalogue) {
        this.catalogue = catalogue;
    }

    public List<Root> all() {
        return catalogue.roots().all();
    }

    Optional<Root> byId(String id) {
        return catalogue.roots().all().stream()
                .filter(root -> root.id().equals(id))
                .findFirst();
    }

    public Root copies() {
        return byId(Root.COPIES).orElseThrow();
    }

    /// The root that a folder lies below, the one for copies among them, or a new one there.
    Root any(Path folder) {
        return catalogue.roots().all().stream()
                .filter(root -> folder.startsWith(root.path()))
                .max(Comparator.comparingInt(root -> root.path().getNameCount()))
                .orElseGet(() -> newRoot(folder));
    }

    /// The root an arrival lies below: one that is known, or a new one at the folder it lies in.
    Root forArrival(Path place) {
        for (Root root : catalogue.roots().all()) {
            if (!root.id().equals(Root.COPIES) && place.startsWith(root.path())) {
                return root;
            }
        }
        return newRoot(Objects.requireNonNull(place.getParent()));
    }

    private Root newRoot(Path parent) {
        Set<String> names = catalogue.roots().all().stream().map(Root::name).collect(Collectors.toSet());
        String base =
                parent.getFileName() == null ? "volume" : parent.getFileName().toString();
        String name = base;
        for (int n = 2; names.contains(name); n++) {
            name = base + " " + n;
        }
        var root = new Root(ArrivalId.fresh().value(), name, parent);
        catalogue.roots().add(root);
        return root;
    }

    /// The project's roots with their paths here and elsewhere.
    public Places places() {
        Map<String, Map<String, MediaPath>> elsewhere = new HashMap<>();
        for (List<String> row : catalogue.roots().pathsElsewhere()) {
            if (!row.get(1).equals(catalogue.roots().workstation())) {
                MediaPath.ofWorkstation(row.get(2))
                        .ifPresent(path -> elsewhere
                                .computeIfAbsent(row.get(0), _ -> new HashMap<>())
                                .put(row.get(1), path));
            }
        }
        return new Places(catalogue.roots().all().stream()
                .map(root -> new Places.Place(
                        root.name(), MediaPath.of(root.path()), elsewhere.getOrDefault(root.id(), Map.of())))
                .toList());
    }

    /// The name this workstation's paths are kept under.
    public String workstation() {
        return catalogue.roots().workstation();
    }

    /// Says where another workstation sees a root; an empty path takes that back.
    ///
    /// @throws InputRefused when the path is none from a root of some system
    public void placeElsewhere(Root root, String workstation, String path) {
        String name = workstation.strip();
        String where = path.strip();
        if (name.isEmpty() || name.equals(catalogue.roots().workstation())) {
            throw new InputRefused(new Problem(
                    "No path was kept for " + (name.isEmpty() ? "a workstation without a name" : name),
                    name.isEmpty() ? "" : "that is this workstation",
                    "Nothing was changed.",
                    name.isEmpty() ? "Give the workstation a name." : "Point the root elsewhere with relink instead."));
        }
        if (!where.isEmpty() && MediaPath.ofWorkstation(where).isEmpty()) {
            throw new InputRefused(new Problem(
                    "No path was kept for " + name,
                    where + " does not begin at a drive, a share or /",
                    "Nothing was changed.",
                    "Write it as that workstation shows it, such as E:\\Footage, \\\\server\\share or /mnt/footage."));
        }
        catalogue.roots().placeElsewhere(root, name, where);
    }
}
