package docksort.catalogue;

import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.function.Supplier;

/// All rows of a table as they were last read, brought up to date by those that changed since, so that what
/// others do costs in proportion to it. A file does not tell which rows changed, but whether any did. A row that
/// is as it was stays the same object. Safe for use by several threads: none waits for another that asks the
/// database.
final class Remembered<T> {
    private final Access access;
    private final String table;
    private final Function<T, String> id;
    private final Comparator<T> order;
    private volatile Optional<State<T>> last = Optional.empty();

    /// @param turn last one whose changes are in the rows
    /// @param basis what else they rest on
    private record State<T>(long turn, Object basis, List<T> rows) {}

    Remembered(Access access, String table, Function<T, String> id, Comparator<T> order) {
        this.access = access;
        this.table = table;
        this.id = id;
        this.order = order;
    }

    /// @param basis what the rows rest on beside their table; they are all read anew when it differs from before
    /// @param all reads every row, in any order
    /// @param some reads the rows of these ids, in any order
    List<T> now(Object basis, Supplier<List<T>> all, Function<Collection<String>, List<T>> some) {
        if (access.isInside()) {
            return ordered(all.get()); // what this transaction changed may yet not take place
        }
        Optional<State<T>> known = last.filter(state -> state.basis.equals(basis));
        Access.News news = access.since(table, known.map(State::turn).orElse(-1L));
        List<T> rows = known.isPresent() && news.changed().isPresent()
                ? with(known.get().rows, news.changed().get(), some)
                : known.map(state -> ordered(state.rows, all.get())).orElseGet(() -> ordered(all.get()));
        last = Optional.of(new State<>(news.turn(), basis, rows));
        return rows;
    }

    private List<T> ordered(List<T> rows) {
        return rows.parallelStream().sorted(order).toList();
    }

    private List<T> ordered(List<T> before, List<T> rows) {
        Map<String, T> known = HashMap.newHashMap(before.size());
        before.forEach(row -> known.put(id.apply(row), row));
        return ordered(rows.stream()
                .map(row -> {
                    T old = known.get(id.apply(row));
                    return old != null && old.equals(row) ? old : row;
                })
                .toList());
    }

    private List<T> with(List<T> before, Collection<String> changed, Function<Collection<String>, List<T>> some) {
        if (changed.isEmpty()) {
            return before;
        }
        Set<String> gone = new HashSet<>(changed);
        var rows = new ArrayList<T>(before.size() + changed.size());
        before.stream().filter(row -> !gone.contains(id.apply(row))).forEach(rows::add);
        rows.addAll(some.apply(changed));
        rows.sort(order); // all but the last few are in order
        return List.copyOf(rows);
    }
}
