package docksort.catalogue;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;

/// A shared project as who wants to join it sees it.
///
/// @param name of the project
/// @param workstations that joined; their names are taken
public record Invitation(String name, List<SharedRoot> roots, List<String> workstations) {
    public Invitation {
        roots = List.copyOf(roots);
        workstations = List.copyOf(workstations);
    }

    /// @param here where another workstation sees it, when something is there on this one too
    /// @param elsewhere where others see it, in words
    public record SharedRoot(String name, Optional<Path> here, String elsewhere) {}
}
