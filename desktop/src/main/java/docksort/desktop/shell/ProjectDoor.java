package docksort.desktop.shell;

import docksort.catalogue.Password;
import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.CompletableFuture;

/// The way from one project to another. The one that is open is left once what goes on in it has come to
/// its end.
public interface ProjectDoor {
    /// Projects that were opened last, the newest first.
    List<Path> recent();

    /// Whether a folder holds a project; the answer may take a while, or never come from a volume that
    /// does not answer.
    CompletableFuture<Boolean> isThere(Path folder);

    /// Opens a project that is there.
    void open(Path folder);

    /// Opens a shared project with the password that was typed.
    void openShared(Path folder, Password password);

    /// Asks where a project is that others share.
    void join();

    /// Begins a project in a folder, or opens the one that it holds.
    void begin(Path folder);

    /// Begins a project in a folder with another one's recipes, rules, limits and timeline, or opens the
    /// one that it holds.
    void beginLike(Path folder, Path template);

    /// Shows which projects can be opened.
    void close();
}
