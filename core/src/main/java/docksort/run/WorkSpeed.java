package docksort.run;

import java.time.Duration;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.Optional;
import java.util.concurrent.TimeUnit;

/// How fast work was done lately. Not safe for use by several threads.
final class WorkSpeed {
    private static final long MEASURE_NANOS = TimeUnit.SECONDS.toNanos(10);
    private static final int MOST = 12;

    private final Deque<Double> speeds = new ArrayDeque<>();
    private double done;
    private double doneBefore;
    private long sinceNanos = System.nanoTime();

    void did(double work) {
        done += work;
    }

    /// Work in a second of the while that is over; the next begins.
    ///
    /// @return empty until it is over
    Optional<Double> whileOver() {
        long now = System.nanoTime();
        long nanos = now - sinceNanos;
        if (nanos < MEASURE_NANOS) {
            return Optional.empty();
        }
        double speed = (done - doneBefore) / (nanos / 1e9);
        sinceNanos = now;
        doneBefore = done;
        return Optional.of(speed);
    }

    /// Counts a speed among those of late.
    void keep(double speed) {
        speeds.addLast(speed);
        if (speeds.size() > MOST) {
            speeds.removeFirst();
        }
    }

    /// How long so much work still takes, empty until that means something.
    Optional<RunSnapshot.TimeLeft> left(double work) {
        var known = speeds.stream()
                .mapToDouble(Double::doubleValue)
                .filter(speed -> speed > 0)
                .summaryStatistics();
        if (known.getCount() == 0) {
            return Optional.empty();
        }
        // The speeds lately are not all there are: a little wider than they are apart.
        return Optional.of(new RunSnapshot.TimeLeft(
                Duration.ofMillis(Math.round(1_000 * work / (known.getMax() * 1.1))),
                Duration.ofMillis(Math.round(1_000 * work / (known.getMin() * 0.9)))));
    }
}
