package docksort.arrival;

import docksort.files.Mounts;
import docksort.files.Volume;
import docksort.media.ByteSize;
import docksort.media.Fingerprint;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;

/// On which volumes the clips lie, and which recordings are duplicates.
///
/// @param volumes with the clips on each
/// @param away clips whose volume cannot be asked now
/// @param twins recordings that are duplicates, by fingerprint
public record Whereabouts(List<OnVolume> volumes, List<Clip> away, List<Twins> twins) {
    public Whereabouts {
        volumes = List.copyOf(volumes);
        away = List.copyOf(away);
        twins = List.copyOf(twins);
    }

    public static final Whereabouts NONE = new Whereabouts(List.of(), List.of(), List.of());

    /// A volume and its clips.
    public record OnVolume(Volume volume, List<Clip> clips) {
        public ByteSize bytes() {
            return new ByteSize(clips.stream()
                    .mapToLong(clip -> clip.facts().size().bytes())
                    .sum());
        }
    }

    /// One recording that is duplicates.
    ///
    /// @param volumes how many volumes it is on
    public record Twins(List<Clip> clips, int volumes) {
        public String label() {
            return clips.getFirst().name() + ", " + clips.size() + " times"
                    + (volumes > 1 ? " on " + volumes + " volumes" : "");
        }
    }

    /// Asks the system once for each folder.
    public static Whereabouts of(List<Clip> clips) {
        Map<Path, Optional<Volume>> byFolder = new HashMap<>();
        Map<String, Volume> volumes = new LinkedHashMap<>();
        Map<String, List<Clip>> on = new HashMap<>();
        var away = new ArrayList<Clip>();
        Map<Clip, String> names = new HashMap<>();
        for (Clip clip : clips) {
            Path folder = clip.source().head().getParent();
            Optional<Volume> volume =
                    folder == null ? Optional.empty() : byFolder.computeIfAbsent(folder, Whereabouts::volume);
            if (volume.isEmpty()) {
                away.add(clip);
                continue;
            }
            String name = volume.get().name();
            volumes.putIfAbsent(name, volume.get());
            on.computeIfAbsent(name, _ -> new ArrayList<>()).add(clip);
            names.put(clip, name);
        }
        Map<Fingerprint, List<Clip>> same = clips.stream().collect(Collectors.groupingBy(Clip::fingerprint));
        List<Twins> twins = same.values().stream()
                .filter(group -> group.size() > 1)
                .map(group -> new Twins(
                        group, (int) group.stream().map(names::get).distinct().count()))
                .sorted(Comparator.comparing(Twins::label))
                .toList();
        return new Whereabouts(
                volumes.values().stream()
                        .map(volume -> new OnVolume(volume, on.getOrDefault(volume.name(), List.of())))
                        .toList(),
                away,
                twins);
    }

    private static Optional<Volume> volume(Path folder) {
        if (!Mounts.HERE.answers(folder)) {
            return Optional.empty();
        }
        try {
            return Optional.of(Volume.of(folder));
        } catch (IOException e) {
            return Optional.empty(); // told as away
        }
    }
}
