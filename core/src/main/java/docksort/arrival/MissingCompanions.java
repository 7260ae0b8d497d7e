package docksort.arrival;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;

/// Points out cards that were copied without the folder of the camera's own small files, where a sibling
/// has one.
public final class MissingCompanions {
    private MissingCompanions() {}

    /// A card without its companion folder.
    ///
    /// @param card the card's folder
    /// @param folder the folder it lacks, as the sibling's is called
    /// @param sibling the card that has it
    public record Hint(Path card, Path folder, Path sibling) {
        public String label() {
            return card.getFileName() + " came without its folder " + folder + ", which " + sibling.getFileName()
                    + " has: the camera's own small copies may have been left on the card";
        }
    }

    private record Layout(Path main, Path companion) {}

    /// @param originals files of all clips
    /// @param companions the camera's own copies, by their originals
    public static List<Hint> find(List<Path> originals, Map<Path, Path> companions) {
        Map<Layout, Path> layouts = new LinkedHashMap<>();
        companions.forEach((original, companion) -> {
            Path main = original.getParent();
            Path small = companion.getParent();
            Path card = common(main, small);
            if (main != null && small != null && card != null && card.getNameCount() > 0 && !main.equals(small)) {
                layouts.putIfAbsent(new Layout(card.relativize(main), card.relativize(small)), card);
            }
        });
        Set<Path> folders = new HashSet<>();
        originals.forEach(file -> {
            if (file.getParent() != null) {
                folders.add(file.getParent());
            }
        });
        var hints = new TreeMap<Path, Hint>();
        layouts.forEach((layout, sibling) -> {
            for (Path folder : folders) {
                if (layout.main.toString().isEmpty() || !folder.endsWith(layout.main)) {
                    continue;
                }
                Path card = folder;
                for (int i = 0; i < layout.main.getNameCount() && card != null; i++) {
                    card = card.getParent();
                }
                if (card != null && !card.equals(sibling) && !Files.isDirectory(card.resolve(layout.companion))) {
                    hints.putIfAbsent(card, new Hint(card, layout.companion, sibling));
                }
            }
        });
        return new ArrayList<>(hints.values());
    }

    private static @org.jspecify.annotations.Nullable Path common(
            @org.jspecify.annotations.Nullable Path a, @org.jspecify.annotations.Nullable Path b) {
        Path up = a;
        while (up != null && (b == null || !b.startsWith(up))) {
            up = up.getParent();
        }
        return up;
    }
}
