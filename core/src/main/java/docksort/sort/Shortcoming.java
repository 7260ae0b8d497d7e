package docksort.sort;

import docksort.media.Raster;
import docksort.strain.Traits;
import docksort.strain.Verdict;
import java.util.Optional;

/// Why a camera's own copy does not count as the copy that a plan wants.
public enum Shortcoming {
    SMALLER("wanted although the camera wrote one: its own is smaller than the recipe asks for"),
    AS_HARD("wanted although the camera wrote one: its own is as hard as the original");

    private final String words;

    Shortcoming(String words) {
        this.words = words;
    }

    /// What is said of copies that are wanted for it.
    ///
    /// @param one whether it is one copy
    String words(boolean one) {
        return (one ? "is " : "are ") + words;
    }

    /// @param wanted raster of the copy that is wanted
    /// @param original how hard the original is
    /// @param has raster of the camera's copy
    /// @param traits of the camera's copy, empty where they are not known: then only its raster tells
    public static Optional<Shortcoming> of(Raster wanted, Verdict original, Raster has, Optional<Traits> traits) {
        if (has.pixels() < wanted.pixels()) {
            return Optional.of(SMALLER);
        }
        return traits.filter(
                        own -> own.verdict() != Verdict.EASY && own.verdict().compareTo(original) >= 0)
                .map(_ -> AS_HARD);
    }
}
