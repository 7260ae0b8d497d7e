package docksort.project;

import docksort.catalogue.ClaimStore;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.TimeUnit;

/// Shows other workstations that a run lives, whatever its workers wait for.
public final class Heart implements AutoCloseable {
    private static final long SECONDS = ClaimStore.LASTS.toSeconds() / 6;

    private final CountDownLatch end = new CountDownLatch(1);

    private Heart() {}

    static Heart beating(Runnable renew) {
        var heart = new Heart();
        Thread.ofPlatform().daemon().name("heart").start(() -> heart.beat(renew));
        return heart;
    }

    private void beat(Runnable renew) {
        try {
            while (!end.await(SECONDS, TimeUnit.SECONDS)) {
                try {
                    renew.run();
                } catch (RuntimeException e) {
                    // The database may be away for a moment; the next beat tries again.
                    System.getLogger(Heart.class.getName())
                            .log(System.Logger.Level.WARNING, "cannot show that the run lives", e);
                }
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    @Override
    public void close() {
        end.countDown();
    }
}
