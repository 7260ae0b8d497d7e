package docksort.project;

import docksort.arrival.Arrival;
import docksort.arrival.ArrivalId;
import docksort.arrival.ArrivalNames;
import docksort.arrival.Clip;
import docksort.arrival.ClipId;
import docksort.catalogue.Root;
import docksort.files.CopyFolder;
import docksort.media.CopyForm;
import docksort.media.Raster;
import docksort.sort.CopyPlace;
import docksort.sort.Placing;
import docksort.sort.PlannedCopy;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.stream.Collectors;

/// Finds places for new copies. Several of one clip that would have one name are told apart by their raster, or by
/// their recipe where that is the same; what then still has the name of another gets a number, so that none is ever
/// overwritten.
final class FreePlaces {
    private final Map<String, ClipId> taken = new HashMap<>();
    private final Map<Path, Map<ClipId, List<PlannedCopy>>> expected = new HashMap<>();
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

    void take(Path file, ClipId clip) {
        taken.put(key(file), clip);
    }

    /// Copies that places will be asked for.
    void expect(List<PlannedCopy> planned) {
        planned.forEach(plan -> expected.computeIfAbsent(place(plan), _ -> new HashMap<>())
                .computeIfAbsent(plan.clip().id(), _ -> new ArrayList<>())
                .add(plan));
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
        Path place = place(plan);
        ClipId clip = plan.clip().id();
        String name = place.getFileName().toString();
        String ending = name.substring(name.lastIndexOf('.'));
        List<PlannedCopy> own = expected.getOrDefault(place, Map.of()).getOrDefault(clip, List.of());
        boolean several = own.size() > 1 || clip.equals(taken.get(key(place)));
        String base = name.substring(0, name.length() - ending.length()) + (several ? "_" + difference(plan, own) : "");
        for (int n = 1; ; n++) {
            Path file = place.resolveSibling(CopyFolder.safeName(base + (n == 1 ? "" : "_" + n) + ending));
            if (!taken.containsKey(key(file)) && !Files.exists(file)) {
                return file;
            }
        }
    }

    /// What tells a copy apart from others of its clip.
    private static String difference(PlannedCopy plan, List<PlannedCopy> own) {
        Optional<Raster> raster = plan.form().map(CopyForm::raster);
        boolean alone = raster.isPresent()
                && own.stream()
                        .filter(other -> !other.equals(plan))
                        .noneMatch(other -> other.form().map(CopyForm::raster).equals(raster));
        return alone
                ? raster.get().width() + "x" + raster.get().height()
                : plan.recipe().id();
    }

    /// As the recipe names it.
    private Path place(PlannedCopy plan) {
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
        return folder.resolve(CopyFolder.safeName(place.getLast()));
    }

    private static String key(Path file) {
        return file.toString().toLowerCase(Locale.ROOT);
    }
}
