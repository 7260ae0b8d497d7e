package docksort.catalogue;

import docksort.problem.Problem;

/// Waits while the database of a shared project is away, on behalf of work that must not be lost for it.
public interface Patience {
    /// Waits a moment.
    ///
    /// @return false to wait no longer
    boolean waits(Problem why);

    /// It was waited for, and answers again.
    void over();
}
