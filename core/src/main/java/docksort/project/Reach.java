package docksort.project;

import docksort.arrival.Clip;
import docksort.arrival.ClipId;
import docksort.catalogue.Catalogue;
import docksort.catalogue.Root;
import docksort.catalogue.WorkingCopy;
import docksort.files.ReadSpeed;
import docksort.media.ByteSize;
import docksort.media.Measured;
import docksort.problem.CoreException.StorageFailed;
import java.nio.file.Path;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;

/// How fast this workstation reads the originals that wait to be copied.
final class Reach {
    /// Smaller originals are read before their speed says anything.
    private static final ByteSize LEAST = new ByteSize(8 * 1024 * 1024);

    private Reach() {}

    /// On a thread of its own: a volume that hangs holds nothing up. What is found is told to the other
    /// workstations.
    static void measure(Catalogue catalogue) {
        Thread.ofPlatform().daemon().name("reach").start(() -> {
            try {
                catalogue.machines().reaches(of(catalogue));
            } catch (RuntimeException e) {
                // Nothing rests on it but who makes what first, and the project may be closed meanwhile.
                System.getLogger(Reach.class.getName()).log(System.Logger.Level.DEBUG, "no reading speeds are told", e);
            }
        });
    }

    /// Bytes a second by root, for those with originals that wait: of the largest of them, where it is large enough.
    static Map<String, Double> of(Catalogue catalogue) {
        Set<ClipId> wait = catalogue.copies().all().stream()
                .filter(copy -> copy.state().isQueued())
                .map(WorkingCopy::clip)
                .collect(Collectors.toSet());
        List<Clip> clips = catalogue.clips().all().stream()
                .filter(clip -> wait.contains(clip.id()) && clip.facts().size().compareTo(LEAST) >= 0)
                .toList();
        Map<String, Double> found = new HashMap<>();
        for (Root root : catalogue.roots().all()) {
            clips.stream()
                    .filter(clip -> clip.source().head().startsWith(root.path()))
                    .max(Comparator.comparing(clip -> clip.facts().size()))
                    .ifPresent(clip ->
                            found.put(root.id(), bytesPerSecond(clip.source().head())));
        }
        return found;
    }

    /// @return 0 for what cannot be read here
    private static double bytesPerSecond(Path file) {
        try {
            return ReadSpeed.of(List.of(file), 1, () -> false)
                    .map(Measured::median)
                    .orElse(0.0);
        } catch (StorageFailed e) {
            return 0;
        }
    }
}
