package docksort.desktop.workshop;

import java.time.Duration;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.Executor;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.RejectedExecutionException;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.function.Supplier;

/// Carries out the steps of a project one after the other on a thread of its own, and what is short and
/// may wait for a lock or a disk on others beside it. What goes wrong in a step is told and the next one
/// follows.
public final class ProjectThread {
    /// A piece of work on the project.
    @FunctionalInterface
    public interface Step {
        void run() throws InterruptedException;
    }

    private final ExecutorService steps = Executors.newSingleThreadExecutor(
            Thread.ofPlatform().daemon().name("project-steps").factory());
    // Threads of the system: what counts checksums on a virtual one would keep short questions waiting.
    private final ExecutorService besides = Executors.newCachedThreadPool(
            Thread.ofPlatform().daemon().name("beside-", 0).factory());
    private final AtomicBoolean closing = new AtomicBoolean();
    private final Troubles troubles;

    ProjectThread(Troubles troubles) {
        this.troubles = troubles;
    }

    CompletableFuture<Void> step(Step work) {
        try {
            return CompletableFuture.runAsync(() -> attempt(work), steps);
        } catch (RejectedExecutionException e) {
            return CompletableFuture.completedFuture(null); // the window closes
        }
    }

    void stepIn(Duration time, Step work) {
        CompletableFuture.delayedExecutor(time.toMillis(), TimeUnit.MILLISECONDS, steps)
                .execute(() -> attempt(work));
    }

    /// What only the steps may read, read in its turn.
    <T> T read(Supplier<T> what) throws InterruptedException {
        try {
            return CompletableFuture.supplyAsync(what, steps).get();
        } catch (ExecutionException e) {
            throw new IllegalStateException("cannot read what the steps keep", e.getCause());
        }
    }

    /// Something short that may wait for a lock, a process or a disk: not on the window's thread, and not
    /// behind the steps either.
    void beside(Step work) {
        besides.execute(() -> attempt(work));
    }

    void besideIn(Duration time, Step work) {
        CompletableFuture.delayedExecutor(time.toMillis(), TimeUnit.MILLISECONDS, besides)
                .execute(() -> attempt(work));
    }

    /// Runs each piece of work on a thread of its own.
    Executor besides() {
        return besides;
    }

    /// A question that is answered beside the steps. A fault in it is told, and ends it.
    <T> CompletableFuture<T> answered(Supplier<T> question) {
        if (besides.isShutdown()) {
            return new CompletableFuture<>(); // the window closes: nobody waits for it
        }
        CompletableFuture<T> answer = CompletableFuture.supplyAsync(question, besides);
        answer.whenComplete((_, fault) -> {
            if (fault != null && !besides.isShutdown()) {
                troubles.tell(fault.getCause() == null ? fault : fault.getCause());
            }
        });
        return answer;
    }

    private void attempt(Step work) {
        if (closing.get()) {
            return; // what was asked for last is left out
        }
        try {
            work.run();
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        } catch (RuntimeException | Error e) {
            troubles.tell(e);
        }
    }

    boolean isClosing() {
        return closing.get();
    }

    /// Begins no more steps; the one at work is not torn.
    ///
    /// @return false where that was said before
    boolean stop() {
        boolean first = !closing.getAndSet(true);
        steps.shutdown();
        return first;
    }

    /// Waits until all has come to its end.
    boolean ended(Duration patience) throws InterruptedException {
        besides.shutdownNow();
        return steps.awaitTermination(patience.toSeconds(), TimeUnit.SECONDS)
                && besides.awaitTermination(patience.toSeconds(), TimeUnit.SECONDS);
    }
}
