package docksort.cli;

import docksort.problem.CoreException;

/// What the program's exit code says. The same list stands in the README.
final class ExitCodes {
    static final int GOOD = 0;

    /// Done, but something needs a look: an unreadable file, a failed copy, a refused relink.
    static final int NEEDS_A_LOOK = 1;

    /// The command line is wrong (picocli's own code for it).
    static final int USAGE = 2;

    /// What was handed in cannot be used: a missing folder, a broken timeline.
    static final int INPUT = 3;

    /// A volume is full, not mounted, or may not be written to.
    static final int STORAGE = 4;

    /// The media engine is missing or failed.
    static final int ENGINE = 5;

    /// The project's catalogue cannot be opened.
    static final int CATALOGUE = 6;

    /// A fault in the program.
    static final int FAULT = 70;

    private ExitCodes() {}

    static int of(CoreException failure) {
        return switch (failure) {
            case CoreException.InputRefused _, CoreException.ChangedMeanwhile _ -> INPUT;
            case CoreException.StorageFailed _ -> STORAGE;
            case CoreException.ToolMissing _, CoreException.ToolFailed _ -> ENGINE;
            case CoreException.CatalogueUnavailable _, CoreException.PasswordWanted _ -> CATALOGUE;
        };
    }
}
