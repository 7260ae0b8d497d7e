package docksort.problem;

/// The world failed. One hierarchy for the whole program, divided by what helps.
public abstract sealed class CoreException extends RuntimeException {
    private static final long serialVersionUID = 1;

    private final transient Problem problem;

    private CoreException(Problem problem, Throwable cause) {
        super(problem.sentence(), cause);
        this.problem = problem;
    }

    private CoreException(Problem problem) {
        super(problem.sentence());
        this.problem = problem;
    }

    public Problem problem() {
        return problem;
    }

    /// A program or library this one needs is not there: install it or point to it.
    public static final class ToolMissing extends CoreException {
        private static final long serialVersionUID = 1;

        public ToolMissing(Problem problem, Throwable cause) {
            super(problem, cause);
        }
    }

    /// A child process refused or broke down: look at the clip, try again, or use another recipe.
    public static final class ToolFailed extends CoreException {
        private static final long serialVersionUID = 1;

        public ToolFailed(Problem problem) {
            super(problem);
        }
    }

    /// A file, folder or volume could not be read or written: free room, mount it, or change permissions.
    public static final class StorageFailed extends CoreException {
        private static final long serialVersionUID = 1;

        public StorageFailed(Problem problem, Throwable cause) {
            super(problem, cause);
        }

        public StorageFailed(Problem problem) {
            super(problem);
        }
    }

    /// What was handed in cannot be used as it is: correct it.
    public static final class InputRefused extends CoreException {
        private static final long serialVersionUID = 1;

        public InputRefused(Problem problem, Throwable cause) {
            super(problem, cause);
        }

        public InputRefused(Problem problem) {
            super(problem);
        }
    }

    /// Somebody else changed the same since it was looked at: see both, and decide.
    public static final class ChangedMeanwhile extends CoreException {
        private static final long serialVersionUID = 1;

        private final long deed;

        /// @param deed the newest change there is
        public ChangedMeanwhile(Problem problem, long deed) {
            super(problem);
            this.deed = deed;
        }

        public long deed() {
            return deed;
        }
    }

    /// The project's catalogue cannot be opened or written.
    public static final class CatalogueUnavailable extends CoreException {
        private static final long serialVersionUID = 1;

        private final boolean comesBack;

        public CatalogueUnavailable(Problem problem, Throwable cause) {
            this(problem, cause, false);
        }

        /// @param comesBack whether waiting may help: its server does not answer now
        public CatalogueUnavailable(Problem problem, Throwable cause, boolean comesBack) {
            super(problem, cause);
            this.comesBack = comesBack;
        }

        public CatalogueUnavailable(Problem problem) {
            super(problem);
            this.comesBack = false;
        }

        public boolean comesBack() {
            return comesBack;
        }
    }

    /// The database of a shared project wants a password, or another one: give it.
    public static final class PasswordWanted extends CoreException {
        private static final long serialVersionUID = 1;

        public PasswordWanted(Problem problem, Throwable cause) {
            super(problem, cause);
        }
    }
}
