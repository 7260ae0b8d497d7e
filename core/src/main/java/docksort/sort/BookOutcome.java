package docksort.sort;

import java.util.List;
import java.util.Optional;

/// What became of a wish to change a project's recipes and rules.
public sealed interface BookOutcome {
    /// They are as it was wanted, with what others changed meanwhile.
    record Kept() implements BookOutcome {}

    /// Somebody changed the same meanwhile, and nothing was changed now: who wishes sees both and decides.
    ///
    /// @param who changed it and how, in words
    /// @param theirs the book as it is
    /// @param mine the same with what is wished in place of what meets it; empty where that is not possible
    record Both(String who, SortBook theirs, Optional<SortBook> mine, List<BookMerge.Both> both)
            implements BookOutcome {
        public Both {
            both = List.copyOf(both);
        }
    }
}
