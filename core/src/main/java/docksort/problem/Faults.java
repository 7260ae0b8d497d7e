package docksort.problem;

import java.util.List;
import java.util.Optional;
import java.util.concurrent.CompletionException;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.ExecutionException;
import java.util.function.Consumer;

/// Faults of the program itself, on whatever thread: the trace goes into the log, a [Problem] to whoever
/// listens.
public final class Faults {
    private static final System.Logger LOG = System.getLogger(Faults.class.getName());
    private static final List<Consumer<Problem>> LISTENERS = new CopyOnWriteArrayList<>();

    private static volatile Optional<String> log = Optional.empty();

    private Faults() {}

    /// From now on what nobody catches, on any thread, is told and not lost.
    ///
    /// @param where the log lies, in words for a person; empty where there is none
    public static void catchAll(Optional<String> where) {
        log = where;
        Thread.setDefaultUncaughtExceptionHandler((_, fault) -> tell(fault));
    }

    /// @param listener called on the thread of the fault, for every later one
    /// @return ends the listening
    public static Runnable listen(Consumer<Problem> listener) {
        LISTENERS.add(listener);
        return () -> LISTENERS.remove(listener);
    }

    /// Logs a fault and tells it to the listeners. A failure of the world is told in its own words.
    public static Problem tell(Throwable fault) {
        Throwable cause = fault;
        while ((cause instanceof CompletionException || cause instanceof ExecutionException)
                && cause.getCause() != null) {
            cause = cause.getCause();
        }
        Problem problem = cause instanceof CoreException known ? known.problem() : logged(cause);
        LISTENERS.forEach(listener -> listener.accept(problem));
        return problem;
    }

    private static Problem logged(Throwable fault) {
        LOG.log(System.Logger.Level.ERROR, "fault on " + Thread.currentThread().getName(), fault);
        return new Problem(
                "Something went wrong in the program",
                fault instanceof OutOfMemoryError ? "it has no memory left" : "",
                "Originals were not touched.",
                "Try again. For who mends it, the details are "
                        + log.map(place -> "in " + place).orElse("among what the program prints"));
    }
}
