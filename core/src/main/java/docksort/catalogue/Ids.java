package docksort.catalogue;

import java.util.List;
import java.util.stream.IntStream;
import java.util.stream.Stream;

/// Many ids, a statement's worth at a time: a database takes only so many values in one.
final class Ids {
    private static final int AT_ONCE = 1_000;

    private Ids() {}

    static Stream<List<String>> some(List<String> ids) {
        return IntStream.iterate(0, from -> from < ids.size(), from -> from + AT_ONCE)
                .mapToObj(from -> ids.subList(from, Math.min(ids.size(), from + AT_ONCE)));
    }
}
