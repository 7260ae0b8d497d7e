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
public record ServingOrder(String id, String label, List<CopyKind> kinds) {
    public static final ServingOrder ORIGINALS = new ServingOrder("originals", "originals", List.of());
    public static final ServingOrder LIGHT_FIRST =
            new ServingOrder("light", "light, then full, then original", List.of(CopyKind.LIGHT, CopyKind.FULL));
    public static final ServingOrder FULL_FIRST =
            new ServingOrder("full", "full, then light, then original", List.of(CopyKind.FULL, CopyKind.LIGHT));
    public static final List<ServingOrder> ALL = List.of(LIGHT_FIRST, FULL_FIRST, ORIGINALS);

    public ServingOrder {
        kinds = List.copyOf(kinds);
    }

    /// @param id as in [#id]
    public static Optional<ServingOrder> named(String id) {
        return ALL.stream().filter(order -> order.id.equals(id)).findFirst();
    }

    /// @param copies the copies of this clip, in any state
    public Served serve(Clip clip, List<WorkingCopy> copies, Presence presence) {
        for (CopyKind kind : kinds) {
            var best = best(copies.stream()
                    .filter(copy -> copy.kind() == kind && copy.mayServe())
                    .toList());
            if (best.isPresent()) {
                return new Served.ByCopy(best.get());
            }
        }
        return new Served.ByOriginal(clip.source().head(), presence.isOnline());
    }

    /// Of several copies of one kind the one with the larger picture serves: a better one is never beaten by a
    /// lighter one.
    public static Optional<WorkingCopy> best(List<WorkingCopy> copies) {
        return copies.stream()
                .max(Comparator.comparingLong((WorkingCopy copy) ->
                                (long) copy.place().width() * copy.place().height())
                        .thenComparing(WorkingCopy::id));
    }
}
