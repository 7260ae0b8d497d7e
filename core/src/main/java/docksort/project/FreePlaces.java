package docksort.project;

import docksort.arrival.Arrival;
import docksort.arrival.ArrivalId;
import docksort.arrival.ArrivalNames;
import docksort.arrival.Clip;
import docksort.catalogue.Root;
import docksort.files.CopyFolder;
import docksort.sort.CopyPlace;
import docksort.sort.Placing;
import docksort.sort.PlannedCopy;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Collectors;

/// Finds places for new copies; a second one of the same name gets a number, so that none is ever
/// overwritten.
final class FreePlaces {
    private final Set<String> taken = new HashSet<>();
    private final Map<ArrivalId, Arrival> arrivals;
    private final Map<ArrivalId, String> names;
    private final List<Root> roots;
    private final Root copies;

    FreePlaces(List<Arrival> arrivals, List<Root> roots, Root copies) {
        this.arrivals = arrivals.stream().collect(Collectors.toMap(Arrival::id, arrival -> arrival));
        this.names = ArrivalNames.of(arrivals);
        this.roots = roots;
        this.copies = copies;
    }

    void take(Path file) {
        taken.add(key(file));
    }

    Root root(PlannedCopy plan) {
        return plan.recipe().placing() == Placing.BESIDE ? rootOf(plan.clip()) : copies;
    }

    private Root rootOf(Clip clip) {
        Path folder = Objects.requireNonNull(arrivals.get(clip.arrival())).folder();
        return roots.stream()
                .filter(root -> !root.id().equals(Root.COPIES) && folder.startsWith(root.path()))
                .findFirst()
                .orElse(copies);
    }

    Path free(PlannedCopy plan) {
        Path arrival =
                Objects.requireNonNull(arrivals.get(plan.clip().arrival())).folder();
        Path inside = arrival.relativize(plan.clip().source().head());
        var folders = new ArrayList<String>();
        for (int i = 0; i < inside.getNameCount() - 1; i++) {
            folders.add(inside.getName(i).toString());
        }
        List<String> place = CopyPlace.of(
                plan,
                names.getOrDefault(plan.clip().arrival(), "arrival"),
                rootOf(plan.clip()).name(),
                folders);
        Path folder = plan.recipe().placing() == Placing.BESIDE ? CopyPlace.beside(arrival) : copies.path();
        for (String sub : place.subList(0, place.size() - 1)) {
            folder = folder.resolve(CopyFolder.safeName(sub));
        }
        String name = place.getLast();
        String ending = name.substring(name.lastIndexOf('.'));
        String base = name.substring(0, name.length() - ending.length());
        for (int n = 1; ; n++) {
            Path file = folder.resolve(CopyFolder.safeName(base + (n == 1 ? "" : "_" + n) + ending));
            if (!taken.contains(key(file)) && !Files.exists(file)) {
                return file;
            }
        }
    }

    private static String key(Path file) {
        return file.toString().toLowerCase(Locale.ROOT);
    }
}
