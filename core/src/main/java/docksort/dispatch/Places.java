package docksort.dispatch;

import docksort.timeline.MediaPath;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/// The project's roots with their path here and on other workstations, so that a timeline written there
/// is read here, and one written here is read there.
///
/// @param roots all roots
public record Places(List<Place> roots) {
    public static final Places NONE = new Places(List.of());

    public Places {
        roots = List.copyOf(roots);
    }

    /// @param name the root's name
    /// @param here its path on this workstation
    /// @param elsewhere its path on other workstations, by their name
    public record Place(String name, MediaPath here, Map<String, MediaPath> elsewhere) {
        public Place {
            elsewhere = Map.copyOf(elsewhere);
        }
    }

    /// The paths of this workstation that an address could mean, the likelier first.
    ///
    /// @param folder the timeline's folder
    List<MediaPath> readings(String address, MediaPath folder) {
        Set<MediaPath> paths = new LinkedHashSet<>();
        List<MediaPath> readings = MediaPath.readings(address);
        readings.forEach(path -> paths.add(path.from(folder)));
        for (MediaPath path : readings) {
            for (Place root : roots) {
                for (MediaPath there : root.elsewhere.values()) {
                    path.moved(there, root.here).ifPresent(paths::add);
                }
            }
        }
        return new ArrayList<>(paths);
    }

    /// Names of workstations that have a path for some root.
    public List<String> workstations() {
        return roots.stream()
                .flatMap(root -> root.elsewhere.keySet().stream())
                .distinct()
                .sorted()
                .toList();
    }

    /// Where a workstation sees a file; empty where it has no path for its root.
    public Optional<MediaPath> on(String workstation, Path file) {
        MediaPath here = MediaPath.of(file);
        // The innermost root is meant where one lies in another.
        return roots.stream()
                .filter(root -> root.elsewhere.containsKey(workstation))
                .filter(root -> here.moved(root.here, root.here).isPresent())
                .max(Comparator.comparingInt(root -> root.here.text().length()))
                .flatMap(root -> Optional.ofNullable(root.elsewhere.get(workstation))
                        .flatMap(there -> here.moved(root.here, there)));
    }
}
