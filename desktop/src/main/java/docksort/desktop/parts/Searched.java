package docksort.desktop.parts;

import java.util.IdentityHashMap;
import java.util.Locale;
import java.util.function.Function;

/// What a filter looks through, put together once for each row and not at every letter that is typed.
public final class Searched<T> {
    private final IdentityHashMap<T, String> texts = new IdentityHashMap<>();
    private final Function<T, String> words;

    /// @param words all that a row says
    public Searched(Function<T, String> words) {
        this.words = words;
    }

    /// What rows say may be something else now.
    public void forget() {
        texts.clear();
    }

    public boolean has(T row, Filter.Words wanted) {
        return wanted.areNone()
                || wanted.areInLower(
                        texts.computeIfAbsent(row, one -> words.apply(one).toLowerCase(Locale.ROOT)));
    }
}
