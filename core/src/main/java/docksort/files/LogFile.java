package docksort.files;

import docksort.problem.Faults;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import java.util.logging.ConsoleHandler;
import java.util.logging.FileHandler;
import java.util.logging.Handler;
import java.util.logging.Level;
import java.util.logging.Logger;
import java.util.logging.SimpleFormatter;

/// The program's log: what went wrong, with its trace, in a few files of limited size, for a person on a
/// machine and beside all projects.
public final class LogFile {
    /// Names another folder for it.
    public static final String FOLDER = "docksort.log.folder";

    private static final int BYTES = 1 << 20;
    private static final int FILES = 4;

    // Held, because a logger without a holder may be forgotten together with its handlers.
    private static final Logger ROOT = Logger.getLogger("");

    private LogFile() {}

    /// Logs into the usual folder from now on in place of the terminal, and catches every fault that
    /// nobody else does.
    public static void open() {
        Optional<String> where = into(folder());
        if (where.isPresent()) {
            for (Handler handler : ROOT.getHandlers()) {
                if (handler instanceof ConsoleHandler) {
                    ROOT.removeHandler(handler);
                }
            }
        }
        Faults.catchAll(where);
    }

    /// @return where it is, empty where it cannot be written
    static Optional<String> into(Path folder) {
        try {
            Files.createDirectories(folder);
            // Another instance that runs at the same time gets a number of its own.
            var handler = new FileHandler(folder.resolve("dock-sort-%u.%g.log").toString(), BYTES, FILES, true);
            handler.setEncoding(StandardCharsets.UTF_8.name());
            handler.setFormatter(new SimpleFormatter());
            handler.setLevel(Level.WARNING);
            ROOT.addHandler(handler);
            return Optional.of(folder.toString());
        } catch (IOException e) {
            ROOT.log(Level.WARNING, "no log can be kept in " + folder, e);
            return Optional.empty();
        }
    }

    static Path folder() {
        String named = System.getProperty(FOLDER, "");
        return named.isEmpty() ? UserFolders.logs() : Path.of(named);
    }
}
