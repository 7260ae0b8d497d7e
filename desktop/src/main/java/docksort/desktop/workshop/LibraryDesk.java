package docksort.desktop.workshop;

import docksort.project.Library;
import docksort.project.Project;
import docksort.strain.ShootingMode;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Executor;
import java.util.function.UnaryOperator;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;

/// What a person keeps beside all projects.
public final class LibraryDesk {
    private final Project project;
    private final ProjectThread thread;
    private final Errands errands;
    private final Executor window;
    private final Library library = Library.ofThisPerson();
    private final ReadOnlyObjectWrapper<Kept> kept = new ReadOnlyObjectWrapper<>(new Kept(false, List.of()));

    /// @param beginning whether new projects begin with anything but the built-in rules
    /// @param modes data rates of own cameras
    public record Kept(boolean beginning, List<ShootingMode> modes) {
        public Kept {
            modes = List.copyOf(modes);
        }
    }

    LibraryDesk(Project project, ProjectThread thread, Errands errands, Executor window) {
        this.project = project;
        this.thread = thread;
        this.errands = errands;
        this.window = window;
    }

    /// What was read last; nothing before that, and where the library cannot be used.
    public ReadOnlyObjectProperty<Kept> kept() {
        return kept.getReadOnlyProperty();
    }

    /// Reads it again. What is wrong with it is told.
    public void look() {
        thread.beside(this::show);
    }

    private void show() {
        Library.Contents now = library.read();
        boolean beginning = now.book().isPresent() || !now.limits().isNone();
        window.execute(() -> kept.set(new Kept(beginning, now.modes())));
    }

    /// Lets new projects begin with this one's recipes, rules and limits.
    public void keepBeginning() {
        errands.step(() -> {
            library.keep(project.template());
            project.log("Recipes, rules and limits are kept for new projects");
            show();
        });
    }

    public void forgetBeginning() {
        errands.step(() -> {
            library.forgetBeginning();
            project.log("New projects begin with the built-in rules");
            show();
        });
    }

    /// Keeps data rates of a camera in the place of those of the same name.
    public void keep(ShootingMode mode) {
        modes(modes -> {
            modes.removeIf(other -> other.name().equals(mode.name()));
            modes.add(mode);
            return modes;
        });
    }

    public void forget(ShootingMode mode) {
        modes(modes -> {
            modes.remove(mode);
            return modes;
        });
    }

    private void modes(UnaryOperator<List<ShootingMode>> change) {
        thread.step(() -> {
            Library.Contents now = library.read();
            library.keep(new Library.Contents(now.book(), now.limits(), change.apply(new ArrayList<>(now.modes()))));
            show();
        });
    }
}
