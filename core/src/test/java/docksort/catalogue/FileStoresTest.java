package docksort.catalogue;

import java.io.File;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.time.InstantSource;
import java.util.Objects;
import net.jqwik.api.lifecycle.AfterContainer;
import net.jqwik.api.lifecycle.BeforeContainer;

/// The promises of the stores, kept by a catalogue in a file.
class FileStoresTest extends StoresContract {
    private static Path folder = Path.of("");

    @BeforeContainer
    static void begin() throws IOException {
        folder = Files.createTempDirectory("stores");
    }

    @AfterContainer
    static void end() {
        for (File file : Objects.requireNonNull(folder.toFile().listFiles())) {
            file.delete();
        }
        folder.toFile().delete();
    }

    @Override
    Catalogue open(String name, Desk desk) {
        return Catalogue.open(
                folder.resolve(name + ".db"), InstantSource.fixed(Instant.parse("2026-03-01T02:00:00Z")), desk);
    }
}
