package docksort.stock;

import docksort.arrival.Clip;
import docksort.catalogue.Presence;
import docksort.catalogue.WorkingCopy;
import docksort.sort.CopyKind;
import java.util.Comparator;
import java.util.List;

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

    /// @param copies the copies of this clip, in any state
    public Served serve(Clip clip, List<WorkingCopy> copies, Presence presence) {
        for (CopyKind kind : kinds) {
            // Of two ready copies of one kind the larger picture serves: a better one is never beaten by a
            // lighter one.
            var best = copies.stream()
                    .filter(copy -> copy.kind() == kind && copy.mayServe())
                    .max(Comparator.comparingLong((WorkingCopy copy) ->
                                    (long) copy.place().width() * copy.place().height())
                            .thenComparing(WorkingCopy::id));
            if (best.isPresent()) {
                return new Served.ByCopy(best.get());
            }
        }
        return new Served.ByOriginal(clip.source().head(), presence.isOnline());
    }
}
