package docksort.stock;

import docksort.arrival.Clip;
import docksort.catalogue.Presence;
import docksort.catalogue.WorkingCopy;
import docksort.sort.CopyKind;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;

/// Which of light, full and original stands in first. A clip without a copy falls back to its original and
/// stays in sight.
///
/// @param kinds copy kinds in the order they are tried; empty serves originals
/// @param lightLines most lines that a light copy should have, where a clip has several; 0 for the largest one
public record ServingOrder(String id, String label, List<CopyKind> kinds, int lightLines) {
    public static final ServingOrder ORIGINALS = new ServingOrder("originals", "originals", List.of(), 0);
    public static final ServingOrder LIGHT_FIRST =
            new ServingOrder("light", "light, then full, then original", List.of(CopyKind.LIGHT, CopyKind.FULL), 0);
    public static final ServingOrder FULL_FIRST =
            new ServingOrder("full", "full, then light, then original", List.of(CopyKind.FULL, CopyKind.LIGHT), 0);
    public static final List<ServingOrder> ALL = List.of(LIGHT_FIRST, FULL_FIRST, ORIGINALS);

    private static final Comparator<WorkingCopy> BY_SIZE = Comparator.comparingLong((WorkingCopy copy) ->
                    (long) copy.place().width() * copy.place().height())
            .thenComparing(WorkingCopy::id);

    public ServingOrder {
        kinds = List.copyOf(kinds);
    }

    /// @param id as in [#id]
    public static Optional<ServingOrder> named(String id) {
        return ALL.stream().filter(order -> order.id.equals(id)).findFirst();
    }

    public ServingOrder withLightLines(int lines) {
        return new ServingOrder(id, label, kinds, lines);
    }

    /// @param copies the copies of this clip, in any state
    public Served serve(Clip clip, List<WorkingCopy> copies, Presence presence) {
        for (CopyKind kind : kinds) {
            var best = best(
                    kind,
                    copies.stream()
                            .filter(copy -> copy.kind() == kind && copy.mayServe())
                            .toList());
            if (best.isPresent()) {
                return new Served.ByCopy(best.get(), isTooLarge(best.get()));
            }
        }
        return new Served.ByOriginal(clip.source().head(), presence.isOnline());
    }

    /// Of several copies of one kind the one with the larger picture serves: a better one is never beaten by a
    /// lighter one. Of light ones with more lines than wanted, the smallest serves where none is small enough.
    public Optional<WorkingCopy> best(CopyKind kind, List<WorkingCopy> copies) {
        List<WorkingCopy> small = kind == CopyKind.LIGHT && lightLines > 0
                ? copies.stream().filter(copy -> lines(copy) <= lightLines).toList()
                : copies;
        return small.isEmpty() ? copies.stream().min(BY_SIZE) : small.stream().max(BY_SIZE);
    }

    private boolean isTooLarge(WorkingCopy copy) {
        return copy.kind() == CopyKind.LIGHT && lightLines > 0 && lines(copy) > lightLines;
    }

    private static int lines(WorkingCopy copy) {
        return Math.min(copy.place().width(), copy.place().height());
    }
}
