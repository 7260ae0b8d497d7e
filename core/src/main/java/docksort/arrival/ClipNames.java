package docksort.arrival;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;

/// Names that tell clips apart: cameras begin to count anew on every card, so that the same name comes
/// in again and again.
///
/// @param places what stands beside the name of a clip that another has too
public record ClipNames(Map<ClipId, String> places) {
    public static final ClipNames NONE = new ClipNames(Map.of());

    public ClipNames {
        places = Map.copyOf(places);
    }

    /// The arrival stands beside equal names; beside equal names of one arrival, the folder below it, too.
    public static ClipNames of(List<Clip> clips, List<Arrival> arrivals) {
        Map<ArrivalId, String> names = ArrivalNames.of(arrivals);
        Map<ArrivalId, Arrival> byId = new HashMap<>();
        arrivals.forEach(arrival -> byId.put(arrival.id(), arrival));
        Map<String, List<Clip>> byName = new HashMap<>();
        for (Clip clip : clips) {
            byName.computeIfAbsent(clip.name().toLowerCase(Locale.ROOT), _ -> new ArrayList<>())
                    .add(clip);
        }
        Map<ClipId, String> places = new HashMap<>();
        for (List<Clip> same : byName.values()) {
            if (same.size() > 1) {
                beside(same, byId, names, places);
            }
        }
        return new ClipNames(places);
    }

    private static void beside(
            List<Clip> same,
            Map<ArrivalId, Arrival> arrivals,
            Map<ArrivalId, String> names,
            Map<ClipId, String> places) {
        Set<ArrivalId> once = new HashSet<>();
        Set<ArrivalId> twice = new HashSet<>();
        same.forEach(clip -> {
            if (!once.add(clip.arrival())) {
                twice.add(clip.arrival());
            }
        });
        for (Clip clip : same) {
            Arrival arrival = arrivals.get(clip.arrival());
            if (arrival != null) {
                places.put(
                        clip.id(),
                        names.get(clip.arrival()) + (twice.contains(clip.arrival()) ? below(arrival, clip) : ""));
            }
        }
    }

    private static String below(Arrival arrival, Clip clip) {
        Path folder = clip.source().head().getParent();
        if (folder == null || !folder.startsWith(arrival.folder()) || folder.equals(arrival.folder())) {
            return "";
        }
        return "/" + arrival.folder().relativize(folder).toString().replace('\\', '/');
    }

    /// The name, and where it is needed the arrival beside it.
    public String of(Clip clip) {
        return of(clip.id(), clip.name());
    }

    public String of(ClipId clip, String name) {
        String place = places.get(clip);
        return place == null ? name : name + " · " + place;
    }
}
