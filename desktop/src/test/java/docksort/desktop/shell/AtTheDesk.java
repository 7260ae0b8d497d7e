package docksort.desktop.shell;

import docksort.desktop.shell.Desk.Stand;
import java.nio.file.Path;
import java.util.Optional;
import java.util.concurrent.TimeoutException;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.MethodOrderer;
import org.junit.jupiter.api.TestMethodOrder;
import org.junit.jupiter.api.io.TempDir;

/// Tests that drive the window, each over a project of its own and in any order.
@TestMethodOrder(MethodOrderer.Random.class)
abstract class AtTheDesk {
    @TempDir
    Path folder = Path.of("");

    private Optional<Desk> desk = Optional.empty();

    Desk sit(Stand stand) throws Exception {
        Desk opened = Desk.open(folder, stand);
        desk = Optional.of(opened);
        return opened;
    }

    /// Over the project that is there.
    Desk sit() throws Exception {
        Desk opened = Desk.open(folder);
        desk = Optional.of(opened);
        return opened;
    }

    @AfterEach
    void leave() throws TimeoutException {
        if (desk.isPresent()) {
            desk.get().close();
            desk = Optional.empty();
        }
    }
}
