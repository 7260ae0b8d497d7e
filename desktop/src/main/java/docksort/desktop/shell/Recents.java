package docksort.desktop.shell;

import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.prefs.BackingStoreException;
import java.util.prefs.Preferences;
import java.util.stream.Stream;

/// Projects that were opened last, the newest first; kept for a person on a machine. No disk is asked.
public final class Recents {
    private static final int MOST = 10;
    private static final String KEY = "recent";

    private final Preferences kept;

    /// @param kept where they are kept
    public Recents(Preferences kept) {
        this.kept = kept;
    }

    public static Recents ofThisPerson() {
        return new Recents(Preferences.userRoot().node("dock-sort/projects"));
    }

    public List<Path> all() {
        return Stream.of(kept.get(KEY, "").split("\n", -1))
                .filter(line -> !line.isBlank())
                .flatMap(Recents::path)
                .toList();
    }

    private static Stream<Path> path(String line) {
        try {
            return Stream.of(Path.of(line));
        } catch (InvalidPathException e) {
            return Stream.empty(); // of another system
        }
    }

    /// Puts one before all others. What no longer fits is forgotten, the oldest first.
    public void opened(Path project) {
        var all = new ArrayList<>(all());
        all.remove(project.toAbsolutePath());
        all.addFirst(project.toAbsolutePath());
        keep(all);
    }

    /// Takes one off the list; the project itself stays.
    public void forget(Path project) {
        var all = new ArrayList<>(all());
        all.remove(project.toAbsolutePath());
        keep(all);
    }

    private void keep(List<Path> all) {
        var lines = new StringBuilder();
        for (Path path : all.subList(0, Math.min(MOST, all.size()))) {
            String line = path + "\n";
            boolean fits = lines.length() + line.length() <= Preferences.MAX_VALUE_LENGTH;
            if (fits && line.indexOf('\n') == line.length() - 1) {
                lines.append(line);
            }
        }
        kept.put(KEY, lines.toString());
        try {
            kept.flush();
        } catch (BackingStoreException e) {
            System.getLogger(Recents.class.getName())
                    .log(System.Logger.Level.WARNING, "the list of recent projects was not kept", e);
        }
    }
}
