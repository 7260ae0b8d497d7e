package docksort.project;

import docksort.catalogue.ClaimStore;
import java.time.Duration;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.TimeUnit;

/// Shows other workstations that a run lives, whatever its workers wait for.
public final class Heart implements AutoCloseable {
    private static final long SECONDS = ClaimStore.LASTS.toSeconds() / 12;

    private static final Duration PATIENCE = Duration.ofSeconds(10);

    private final CountDownLatch end = new CountDownLatch(1);

    private final Thread thread;

    private Heart(Runnable renew, Runnable last) {
        thread = Thread.ofPlatform().daemon().name("heart").unstarted(() -> {
            beat(renew);
            last.run();
        });
    }

    /// @param last is done when it is closed
    static Heart beating(Runnable renew, Runnable last) {
        var heart = new Heart(renew, last);
        heart.thread.start();
        return heart;
    }

    private void beat(Runnable renew) {
        long wait = 0;
        try {
            while (!end.await(wait, TimeUnit.SECONDS)) {
                try {
                    renew.run();
                    wait = SECONDS;
                } catch (RuntimeException e) {
                    // The database may be away for a moment: it is shown as soon as it answers.
                    wait = 1;
                    System.getLogger(Heart.class.getName())
                            .log(System.Logger.Level.DEBUG, "cannot show that the run lives", e);
                }
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    /// Waits for the last word.
    @Override
    public void close() {
        end.countDown();
        try {
            thread.join(PATIENCE);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }
}
