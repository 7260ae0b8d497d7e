package docksort.desktop.workshop;

import java.util.Optional;
import java.util.function.Consumer;
import javafx.beans.property.ReadOnlyObjectProperty;

/// The views of the project as the window gets them, on the window's thread.
public interface Views {
    ReadOnlyObjectProperty<Optional<ProjectView>> view();

    /// Hands over every new view, and the one there is at once. Takers are called one after the other on
    /// the window's thread, which does what else waits in between. They cannot be taken back: they live
    /// as long as the window.
    void each(Consumer<ProjectView> taker);
}
