package docksort.desktop.parts;

import java.nio.file.Path;
import javafx.event.Event;
import javafx.event.EventType;

/// A person's wish to see a file where it lies. It goes up from what was clicked to the window.
public final class FileWish extends Event {
    private static final long serialVersionUID = 1;

    public static final EventType<FileWish> SHOW_IN_FOLDER = new EventType<>(Event.ANY, "SHOW_IN_FOLDER");

    private final transient Path file;

    public FileWish(Path file) {
        super(SHOW_IN_FOLDER);
        this.file = file;
    }

    public Path file() {
        return file;
    }
}
