package docksort.arrival;

import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.HashMap;
import java.util.HashSet;
import java.util.Map;
import java.util.Set;

/// Tells which files of a watched folder have stopped growing. A file has settled when two looks, at least a stated
/// time apart, find the same size and time stamp. Not safe for use by several threads.
public final class Settling {
    private final Duration quiet;
    private final Map<Path, Since> waiting = new HashMap<>();

    private record Since(Stamp stamp, Instant at) {}

    /// @param quiet how long a file must stay as it is
    public Settling(Duration quiet) {
        this.quiet = quiet;
    }

    /// Takes one look.
    ///
    /// @param listed what is there now and is not part of the project yet
    /// @return what has stopped growing
    public Set<Path> look(Map<Path, Stamp> listed, Instant now) {
        waiting.keySet().retainAll(listed.keySet());
        var settled = new HashSet<Path>();
        listed.forEach((file, stamp) -> {
            Since since = waiting.get(file);
            if (since == null || !since.stamp.equals(stamp)) {
                waiting.put(file, new Since(stamp, now));
            } else if (Duration.between(since.at, now).compareTo(quiet) >= 0) {
                settled.add(file);
            }
        });
        return settled;
    }

    /// How many files are still being watched.
    public int waiting() {
        return waiting.size();
    }
}
