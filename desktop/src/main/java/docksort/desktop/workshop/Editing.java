package docksort.desktop.workshop;

import docksort.project.Project;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.Executor;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;

/// What is open to be changed, here and on other workstations of a shared project. A hint, never a lock.
public final class Editing {
    private final Project project;
    private final ProjectThread thread;
    private final Executor window;
    private final Set<String> here = new HashSet<>(); // the window's thread only
    private final ReadOnlyObjectWrapper<Map<String, List<String>>> others = new ReadOnlyObjectWrapper<>(Map.of());
    private volatile Set<String> shown = Set.of();

    Editing(Project project, ProjectThread thread, Executor window) {
        this.project = project;
        this.thread = thread;
        this.window = window;
    }

    /// Who else has something open, by subject, as "person at workstation". Set and read on the window's thread.
    public ReadOnlyObjectProperty<Map<String, List<String>>> others() {
        return others.getReadOnlyProperty();
    }

    /// Opens something to change it, or puts it away. On the window's thread.
    public void open(String subject, boolean open) {
        boolean differs = open ? here.add(subject) : here.remove(subject);
        if (differs && project.sharing().address().isPresent() && project.mayChange()) {
            shown = Set.copyOf(here);
            thread.beside(this::look);
        }
    }

    /// Renews what is said here, and looks at what others say. Blocks; not for the window's thread.
    void look() {
        if (project.mayChange()) {
            project.showEditing(shown);
        }
        Map<String, List<String>> now = project.editedElsewhere();
        window.execute(() -> others.set(now));
    }
}
