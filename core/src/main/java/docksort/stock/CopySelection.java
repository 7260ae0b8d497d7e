package docksort.stock;

import docksort.arrival.ArrivalId;
import docksort.catalogue.CopyState;
import docksort.catalogue.WorkingCopy;
import docksort.media.ByteSize;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;

/// Which copies of the stock are meant by a clean-up. Empty parts do not count.
///
/// @param recipe id of the recipe they were made by
/// @param olderThan how long ago they were made at least
/// @param unusedFor how long no timeline was switched to them; a copy that never served counts from when
///     it was made, and one that was stopped counts at once
/// @param budget as many of those that were not needed for longest as it takes until the rest is no
///     larger
public record CopySelection(
        Optional<ArrivalId> arrival,
        Optional<String> recipe,
        Optional<Duration> olderThan,
        Optional<Duration> unusedFor,
        Optional<ByteSize> budget) {
    /// Generated files that were not used for so long are usually deleted (common practice, no source).
    public static final Duration USUAL_AGE = Duration.ofDays(7);

    public static final CopySelection ALL =
            new CopySelection(Optional.empty(), Optional.empty(), Optional.empty(), Optional.empty(), Optional.empty());

    public CopySelection unusedFor(Duration age) {
        return new CopySelection(arrival, recipe, olderThan, Optional.of(age), budget);
    }

    public CopySelection within(ByteSize most) {
        return new CopySelection(arrival, recipe, olderThan, unusedFor, Optional.of(most));
    }

    public CopySelection of(ArrivalId one) {
        return new CopySelection(Optional.of(one), recipe, olderThan, unusedFor, budget);
    }

    public CopySelection madeBy(String recipeId) {
        return new CopySelection(arrival, Optional.of(recipeId), olderThan, unusedFor, budget);
    }

    public CopySelection olderThan(Duration age) {
        return new CopySelection(arrival, recipe, Optional.of(age), unusedFor, budget);
    }

    /// @return copies that have a file, those that were not needed for longest first
    public List<WorkingCopy> from(List<StockLine> stock, Instant now) {
        List<WorkingCopy> found = stock.stream()
                .filter(line ->
                        arrival.isEmpty() || arrival.get().equals(line.clip().arrival()))
                .flatMap(line -> line.copies().stream())
                .filter(CopySelection::hasFile)
                .filter(copy -> recipe.isEmpty() || recipe.get().equals(copy.recipeId()))
                .filter(copy -> isLongAgo(olderThan, copy.place().modifiedMillis(), now))
                .filter(copy -> (copy.service().stopped() && unusedFor.isPresent())
                        || isLongAgo(unusedFor, neededMillis(copy), now))
                .sorted(Comparator.comparingLong(CopySelection::neededMillis).thenComparing(WorkingCopy::id))
                .toList();
        return budget.map(most -> beyond(found, most)).orElse(found);
    }

    private static boolean hasFile(WorkingCopy copy) {
        return copy.state().serves() || copy.state() == CopyState.STALE || copy.state() == CopyState.SUSPECT;
    }

    private static boolean isLongAgo(Optional<Duration> age, long millis, Instant now) {
        return age.isEmpty()
                || Duration.between(Instant.ofEpochMilli(millis), now).compareTo(age.get()) >= 0;
    }

    private static long neededMillis(WorkingCopy copy) {
        return Math.max(copy.service().lastMillis(), copy.place().modifiedMillis());
    }

    /// As many of these, from the first on, as it takes until the rest is no larger.
    static List<WorkingCopy> beyond(List<WorkingCopy> copies, ByteSize most) {
        long all = copies.stream().mapToLong(copy -> copy.place().bytes()).sum();
        var taken = new ArrayList<WorkingCopy>();
        for (WorkingCopy copy : copies) {
            if (all <= most.bytes()) {
                break;
            }
            taken.add(copy);
            all -= copy.place().bytes();
        }
        return taken;
    }
}
