package docksort.desktop.workshop;

import docksort.catalogue.Password;
import docksort.catalogue.SharedAddress;
import docksort.desktop.work.Job;
import docksort.project.Project;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;

/// Gives the project to several workstations.
public final class SharingDesk {
    private final Project project;
    private final Errands errands;
    private final Optional<SharedAddress> address;
    private final boolean mayChange;

    SharingDesk(Project project, Errands errands) {
        this.project = project;
        this.errands = errands;
        this.address = project.sharing().address();
        this.mayChange = project.mayChange();
    }

    /// Where the project is shared; empty for one in a file.
    public Optional<SharedAddress> address() {
        return address;
    }

    /// Whether the person's role may change anything.
    public boolean mayChange() {
        return mayChange;
    }

    /// The name under which this workstation's paths are kept.
    public String workstation() {
        return project.roots().workstation();
    }

    /// Hands over the names of all workstations that joined.
    public void members(Consumer<List<String>> then) {
        errands.ask("members", asked -> asked.sharing().members(), then);
    }

    /// Moves the catalogue into a database. The project has to be opened anew afterwards.
    ///
    /// @param then gets rows by table
    public Job share(SharedAddress to, Password password, Consumer<Map<String, Long>> then) {
        return errands.begin(
                "Sharing the project", (asked, _, _) -> asked.sharing().share(to, password), then);
    }

    /// Copies the shared catalogue into a file.
    public Job archive(Path file, Consumer<Map<String, Long>> then) {
        return errands.begin(
                "Archiving the project", (asked, _, _) -> asked.sharing().archive(file), then);
    }
}
