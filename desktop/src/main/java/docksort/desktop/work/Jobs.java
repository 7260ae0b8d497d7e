package docksort.desktop.work;

import docksort.engine.Cancellation;
import java.time.Duration;
import java.util.HashMap;
import java.util.HashSet;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.Executor;
import java.util.function.BiConsumer;
import java.util.function.Consumer;
import javafx.collections.FXCollections;
import javafx.collections.ObservableList;

/// The work that goes on beside the steps of the project, several pieces at a time, and the questions
/// asked in between. A question ends an older one of its own kind; a job ends by itself, when a person
/// stops it, or with the window.
public final class Jobs {
    /// Work that may take a while.
    @FunctionalInterface
    public interface Work<T> {
        /// @param progress hears how much of how much is done
        /// @return empty where it was ended before its end
        Optional<T> run(BiConsumer<Integer, Integer> progress, Cancellation cancellation) throws InterruptedException;
    }

    private final Executor window;
    private final Executor beside;
    private final Consumer<Throwable> faults;
    private final ObservableList<Job> all = FXCollections.observableArrayList();
    private final ObservableList<Job> seen = FXCollections.unmodifiableObservableList(all); // held for its listeners

    private final Object lock = new Object();
    private final Map<String, Cancellation> asked = new HashMap<>(); // by kind; under the lock, as what follows
    private final Set<Cancellation> going = new HashSet<>();
    private boolean closed;

    /// @param window runs what belongs on the window's thread
    /// @param beside runs the work, each piece on a thread of its own
    /// @param faults is told what broke down
    public Jobs(Executor window, Executor beside, Consumer<Throwable> faults) {
        this.window = window;
        this.beside = beside;
        this.faults = faults;
    }

    /// Jobs that go on, and those that came to their end unseen. Changes on the window's thread.
    public ObservableList<Job> all() {
        return seen;
    }

    /// Begins a job. Call it on the window's thread.
    ///
    /// @param unit of its progress, empty for pieces
    /// @param then gets what came of it, on the window's thread
    public <T> Job begin(String what, String unit, Work<T> work, Consumer<T> then) {
        return begin(beside, what, unit, work, then);
    }

    /// Begins a job that takes its turn in a queue of its own.
    public <T> Job begin(Executor queue, String what, String unit, Work<T> work, Consumer<T> then) {
        var job = new Job(what, unit, all::remove);
        all.add(job);
        BiConsumer<Integer, Integer> heard = (done, of) -> {
            if (job.hears(done, of)) {
                window.execute(job::tellProgress);
            }
        };
        run(
                queue,
                job.cancellation(),
                () -> work.run(heard, job.cancellation()),
                answer -> {
                    job.over(answer.isPresent() ? Job.State.DONE : Job.State.STOPPED);
                    answer.ifPresent(then);
                },
                () -> job.over(Job.State.FAILED));
        return job;
    }

    /// Asks something whose answer is wanted at once. A question of the same kind that is not answered
    /// yet is not answered any more.
    ///
    /// @param then gets the answer on the window's thread
    public <T> void ask(String kind, Work<T> question, Consumer<T> then) {
        var own = new Cancellation();
        Optional<Cancellation> older;
        synchronized (lock) {
            older = Optional.ofNullable(asked.put(kind, own));
        }
        older.ifPresent(Cancellation::cancel);
        run(
                beside,
                own,
                () -> question.run((_, _) -> {}, own),
                answer -> answer.filter(_ -> !own.isCancelled()).ifPresent(then),
                () -> {});
    }

    private interface Call<T> {
        T call() throws InterruptedException;
    }

    private <T> void run(
            Executor where, Cancellation own, Call<Optional<T>> call, Consumer<Optional<T>> over, Runnable broken) {
        synchronized (lock) {
            if (closed) {
                own.cancel();
            } else {
                going.add(own);
            }
        }
        if (own.isCancelled()) {
            window.execute(() -> over.accept(Optional.empty()));
            return;
        }
        where.execute(() -> {
            try {
                Optional<T> answer = own.isCancelled() ? Optional.empty() : call.call();
                window.execute(() -> over.accept(answer));
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
                window.execute(() -> over.accept(Optional.empty()));
            } catch (RuntimeException | Error e) {
                if (!own.isCancelled()) {
                    faults.accept(e); // what is ended may break down; that is no news
                }
                window.execute(broken);
            } finally {
                ended(own);
            }
        });
    }

    private void ended(Cancellation own) {
        synchronized (lock) {
            going.remove(own);
            asked.values().remove(own);
            lock.notifyAll();
        }
    }

    /// Stops everything, begins nothing more, and waits until all has come to its end. Not for the window's
    /// thread.
    ///
    /// @return whether all came to its end in time
    public boolean close(Duration patience) throws InterruptedException {
        Set<Cancellation> left;
        synchronized (lock) {
            closed = true;
            left = Set.copyOf(going);
        }
        left.forEach(Cancellation::cancel);
        long end = System.nanoTime() + patience.toNanos();
        synchronized (lock) {
            for (long wait = patience.toMillis(); !going.isEmpty() && wait > 0; ) {
                lock.wait(wait);
                wait = (end - System.nanoTime()) / 1_000_000;
            }
            return going.isEmpty();
        }
    }
}
