package docksort.files;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;

@Timeout(20)
class MountsTest {
    private static final Path DEAD = Path.of("/volumes/dead");
    private static final List<Path> POINTS = List.of(Path.of("/"), Path.of("/volumes"), DEAD);

    @Test
    void aVolumeThatDoesNotAnswerIsAskedOnceAndKeepsNobodyWaiting() throws Exception {
        var back = new CountDownLatch(1);
        var asked = new AtomicInteger();
        var mounts = new Mounts(
                () -> POINTS,
                point -> {
                    if (point.equals(DEAD)) {
                        asked.incrementAndGet();
                        await(back);
                    }
                },
                Duration.ofMillis(300));
        assertThat(mounts.answers(DEAD.resolve("CARD A/K0001.mov"))).isFalse();
        long begin = System.nanoTime();
        for (int i = 0; i < 1_000; i++) {
            assertThat(mounts.answers(DEAD.resolve("K" + i + ".mov"))).isFalse();
        }
        // Each of them waiting would take five minutes.
        assertThat(Duration.ofNanos(System.nanoTime() - begin)).isLessThan(Duration.ofSeconds(10));
        assertThat(asked).hasValue(1);
        assertThat(mounts.answers(Path.of("/volumes/other/K0001.mov"))).isTrue();
        assertThat(mounts.answers(Path.of("/volumes/deadly.mov"))).isTrue();

        back.countDown();
        while (!mounts.answers(DEAD)) {
            Thread.onSpinWait();
        }
    }

    private static void await(CountDownLatch latch) {
        try {
            latch.await();
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    /// Written as by the kernel; proc(5) names the four characters.
    @Test
    void namesWithBlanksAreReadAsTheKernelWritesThem() {
        assertThat(Mounts.unescaped("/media/CARD\\040A\\011\\134x")).isEqualTo("/media/CARD A\t\\x");
        assertThat(Mounts.HERE.answers(Path.of("."))).isTrue();
    }
}
