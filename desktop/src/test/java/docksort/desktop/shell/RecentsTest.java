package docksort.desktop.shell;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.UUID;
import java.util.prefs.BackingStoreException;
import java.util.prefs.Preferences;
import java.util.stream.IntStream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;

/// The list of projects that were opened last.
class RecentsTest {
    private final Preferences kept =
            Preferences.userRoot().node("dock-sort-test/" + UUID.randomUUID().toString());

    @AfterEach
    void sweep() throws BackingStoreException {
        kept.removeNode();
    }

    @Test
    void theNewestIsFirstAndNoneIsThereTwice() {
        var recents = new Recents(kept);
        recents.opened(Path.of("/a"));
        recents.opened(Path.of("/b c"));
        recents.opened(Path.of("/a"));
        assertThat(new Recents(kept).all()).containsExactly(Path.of("/a"), Path.of("/b c"));
        recents.forget(Path.of("/a"));
        assertThat(new Recents(kept).all()).containsExactly(Path.of("/b c"));
    }

    @Test
    void theOldestAreForgottenAndPathsMayBeLong() {
        var recents = new Recents(kept);
        IntStream.range(0, 12).forEach(i -> recents.opened(Path.of("/project " + i)));
        assertThat(recents.all()).hasSize(10).startsWith(Path.of("/project 11")).endsWith(Path.of("/project 2"));
        String deep = "/" + "d".repeat(200);
        IntStream.range(0, 10).forEach(i -> recents.opened(Path.of(deep.repeat(10) + "/" + i)));
        assertThat(recents.all())
                .filteredOn(path -> path.startsWith(deep))
                .as("8,192 characters hold four of 2,013")
                .hasSize(4);
    }

    @Test
    void whatHoldsALineBreakIsLeftOut() {
        var recents = new Recents(kept);
        recents.opened(Path.of("/a"));
        recents.opened(Path.of("/b\nc"));
        assertThat(recents.all()).containsExactly(Path.of("/a"));
    }
}
