package docksort.arrival;

import java.nio.file.Path;
import java.util.List;
import java.util.Map;

/// All that came of one scan.
///
/// @param clips new clips, and known ones whose files have changed
/// @param stamps what the listing says of every source that was looked into, by its head
/// @param gone heads of known sources that are not there any more
/// @param asides files that are not footage and were left alone: sidecars, notes
/// @param unchanged how many known sources were as before and were not opened
/// @param cancelled whether it was stopped before the end; what was found until then is in the lists
public record ScanResult(
        List<Clip> clips,
        List<Companion> companions,
        List<Unreadable> unreadable,
        Map<Path, Stamp> stamps,
        List<Path> gone,
        List<Path> asides,
        int unchanged,
        boolean cancelled) {
    public ScanResult {
        clips = List.copyOf(clips);
        companions = List.copyOf(companions);
        unreadable = List.copyOf(unreadable);
        stamps = Map.copyOf(stamps);
        gone = List.copyOf(gone);
        asides = List.copyOf(asides);
    }
}
