package docksort.cli;

import java.io.IOException;
import java.io.PrintWriter;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;

/// Keeps what a fault of the program is about for whoever mends it, away from the terminal.
final class FaultReport {
    private FaultReport() {}

    /// @return where it is, as a sentence
    static String written(Exception failure) {
        try {
            Path file = Files.createTempFile("dock-sort-fault-", ".txt");
            try (var out = new PrintWriter(Files.newBufferedWriter(file, StandardCharsets.UTF_8))) {
                failure.printStackTrace(out);
            }
            return "What to report is in " + file + ".";
        } catch (IOException e) {
            return "What to report could not be kept.";
        }
    }
}
