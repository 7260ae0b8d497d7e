package docksort.arrival;

import java.nio.file.Path;
import java.util.List;

/// All that came of one scan.
///
/// @param asides files that are not footage and were left alone: sidecars, notes
/// @param cancelled whether it was stopped before the end; what was found until then is in the lists
public record ScanResult(
        List<Clip> clips,
        List<Companion> companions,
        List<Unreadable> unreadable,
        List<Path> asides,
        boolean cancelled) {
    public ScanResult {
        clips = List.copyOf(clips);
        companions = List.copyOf(companions);
        unreadable = List.copyOf(unreadable);
        asides = List.copyOf(asides);
    }
}
