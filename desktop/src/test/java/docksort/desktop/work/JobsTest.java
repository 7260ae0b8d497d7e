package docksort.desktop.work;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.LinkedBlockingQueue;
import java.util.concurrent.TimeUnit;
import java.util.function.BooleanSupplier;
import javafx.collections.ListChangeListener;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;

/// Jobs and questions with a window's thread that the test itself is.
@Timeout(20)
class JobsTest {
    private final LinkedBlockingQueue<Runnable> window = new LinkedBlockingQueue<>();
    private final ExecutorService beside = Executors.newCachedThreadPool();
    private final List<Throwable> faults = new ArrayList<>();
    private final Jobs jobs = new Jobs(window::add, beside, faults::add);
    private final List<Object> answers = new ArrayList<>();

    @AfterEach
    void end() throws InterruptedException {
        jobs.close(Duration.ofSeconds(5));
        beside.shutdownNow();
    }

    /// Does what waits for the window's thread until something is so.
    private void until(BooleanSupplier reached) throws InterruptedException {
        while (!reached.getAsBoolean()) {
            Runnable next = window.poll(10, TimeUnit.SECONDS);
            assertThat(next).as("nothing came for the window").isNotNull();
            next.run();
        }
    }

    /// Goes on until it is ended.
    private static Jobs.Work<String> endless(CountDownLatch begun) {
        return (_, cancellation) -> {
            begun.countDown();
            while (!cancellation.isCancelled()) {
                Thread.onSpinWait();
            }
            return Optional.empty();
        };
    }

    private static Jobs.Work<String> saying(String word) {
        return (_, _) -> Optional.of(word);
    }

    private Job begin(Jobs.Work<String> work) {
        return jobs.begin("Packing", "MB", work, answers::add);
    }

    @Test
    void neitherAQuestionNorAnotherJobEndsAJob() throws Exception {
        var begun = new CountDownLatch(2);
        Job packing = begin(endless(begun));
        Job searching = begin(endless(begun));
        begun.await();
        jobs.ask("names", saying("asked"), answers::add);
        Job third = begin(saying("third"));
        until(() -> third.state().get().isOver() && answers.contains("asked"));
        assertThat(answers).containsExactlyInAnyOrder("asked", "third");
        assertThat(jobs.all()).containsExactly(packing, searching);

        packing.stop();
        assertThat(packing.state().get()).isEqualTo(Job.State.STOPPING);
        until(() -> packing.state().get().isOver());
        assertThat(packing.state().get()).isEqualTo(Job.State.STOPPED);
        assertThat(searching.state().get()).isEqualTo(Job.State.GOING);
        assertThat(answers).hasSize(2);
    }

    @Test
    void aQuestionEndsOnlyAnOlderOneOfItsKind() throws Exception {
        var begun = new CountDownLatch(2);
        var ended = new ArrayList<String>();
        for (String kind : List.of("names", "places")) {
            jobs.ask(
                    kind,
                    (_, cancellation) -> {
                        begun.countDown();
                        while (!cancellation.isCancelled()) {
                            Thread.onSpinWait();
                        }
                        synchronized (ended) {
                            ended.add(kind);
                        }
                        return Optional.of("an old answer about " + kind);
                    },
                    answers::add);
        }
        begun.await();
        jobs.ask("names", saying("new names"), answers::add);
        until(() -> !answers.isEmpty() && window.size() == 0);
        assertThat(answers).containsExactly("new names");
        synchronized (ended) {
            assertThat(ended).doesNotContain("places");
        }
    }

    @Test
    void whoListensToTheListHearsOfItAsLongAsTheJobsLive() throws Exception {
        jobs.all().addListener((ListChangeListener<Job>)
                change -> answers.add(change.getList().size()));
        assertThat(jobs.all()).isSameAs(jobs.all()); // nothing that is collected together with its listeners
        Job job = begin(saying("packed"));
        until(() -> job.state().get().isOver());
        assertThat(answers).containsExactly(1, 0, "packed");
    }

    @Test
    void whatCameToItsEndUnseenStaysListedUntilItIsSeen() throws Exception {
        Job job = begin(saying("packed"));
        job.shownBy(() -> answers.add("shown"));
        until(() -> job.state().get().isOver());
        assertThat(jobs.all()).containsExactly(job);
        job.show().orElseThrow().run();
        job.seen();
        assertThat(jobs.all()).isEmpty();
        assertThat(answers).containsExactly("packed", "shown");
    }

    @Test
    void whatBreaksDownIsToldAndOnlyThatEnds() throws Exception {
        var begun = new CountDownLatch(1);
        Job other = begin(endless(begun));
        Job job = begin((_, _) -> {
            throw new IllegalStateException("the disk is gone");
        });
        until(() -> job.state().get().isOver());
        assertThat(job.state().get()).isEqualTo(Job.State.FAILED);
        assertThat(faults).singleElement().satisfies(fault -> assertThat(fault).hasMessage("the disk is gone"));
        assertThat(jobs.all()).containsExactly(other);
    }

    @Test
    void progressNeverPilesUpInFrontOfTheWindow() throws Exception {
        var told = new CountDownLatch(1);
        Job job = begin((progress, cancellation) -> {
            for (int i = 1; i <= 100_000; i++) {
                progress.accept(i, 100_000);
            }
            told.countDown();
            while (!cancellation.isCancelled()) {
                Thread.onSpinWait();
            }
            return Optional.empty();
        });
        told.await();
        assertThat(window).hasSize(1);
        until(() -> job.progress().get().done() == 100_000);
    }

    @Test
    void closingEndsEverythingAndWaitsForIt() throws Exception {
        var begun = new CountDownLatch(2);
        var left = new CountDownLatch(1);
        Job job = begin(endless(begun));
        jobs.ask(
                "slow",
                (_, cancellation) -> {
                    begun.countDown();
                    while (!cancellation.isCancelled()) {
                        Thread.onSpinWait();
                    }
                    left.countDown();
                    return Optional.empty();
                },
                answers::add);
        begun.await();
        assertThat(jobs.close(Duration.ofSeconds(10))).isTrue();
        assertThat(left.getCount()).isZero();
        until(() -> job.state().get().isOver());

        Job late = begin(saying("too late"));
        until(() -> late.state().get().isOver());
        assertThat(late.state().get()).isEqualTo(Job.State.STOPPED);
        assertThat(answers).isEmpty();
    }

    @Test
    void whatDoesNotEndIsNotWaitedForLongerThanSaid() throws Exception {
        var dead = new CountDownLatch(1);
        var begun = new CountDownLatch(1);
        begin((_, _) -> {
            begun.countDown();
            dead.await(); // a dead mount
            return Optional.empty();
        });
        begun.await();
        assertThat(jobs.close(Duration.ofMillis(50))).isFalse();
        dead.countDown();
    }

    @Test
    void whatIsStoppedBeforeItsTurnIsNeverBegun() throws Exception {
        var begun = new CountDownLatch(1);
        ExecutorService queue = Executors.newSingleThreadExecutor();
        try {
            Job first = jobs.begin(queue, "first", "", endless(begun), answers::add);
            begun.await();
            Job second = jobs.begin(queue, "second", "", saying("second"), answers::add);
            second.stop();
            first.stop();
            until(() -> first.state().get().isOver() && second.state().get().isOver());
            assertThat(answers).isEmpty();
            assertThat(second.state().get()).isEqualTo(Job.State.STOPPED);
        } finally {
            queue.shutdownNow();
        }
    }

    @Test
    void aStoppedJobsAnswerThatCameAllTheSameIsKept() throws Exception {
        var begun = new CountDownLatch(1);
        Job job = begin((_, cancellation) -> {
            begun.countDown();
            while (!cancellation.isCancelled()) {
                Thread.onSpinWait();
            }
            return Optional.of("all of it was there");
        });
        begun.await();
        job.stop();
        until(() -> job.state().get().isOver());
        assertThat(job.state().get()).isEqualTo(Job.State.DONE);
        assertThat(answers).containsExactly("all of it was there");
    }
}
