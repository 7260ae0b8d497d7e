package docksort.run;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.function.IntToDoubleFunction;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/// The search for a number of workers, against machines whose speed for every number is known.
class WorkerCountTest {
    private static WorkerCount after(int measures, int start, int most, IntToDoubleFunction speed) {
        var count = new WorkerCount(start, most);
        for (int i = 0; i < measures; i++) {
            count.measured(speed.applyAsDouble(count.size()));
        }
        return count;
    }

    @ParameterizedTest
    @CsvSource({"1, 8, 4, 4", "2, 8, 4, 4", "4, 8, 4, 4", "7, 8, 4, 4", "1, 3, 8, 3", "2, 2, 8, 2", "2, 2, 1, 2"})
    void itEndsWhereMoreDoNotHelp(int start, int most, int knee, int found) {
        WorkerCount count = after(400, start, most, workers -> 100.0 * Math.min(workers, knee) - workers);
        assertThat(count.best()).isEqualTo(found);
    }

    @Test
    void oneThatOnlyGetsInTheWayIsSentHomeAndTriedAgainMuchLater() {
        var count = new WorkerCount(2, 8);
        count.measured(100);
        assertThat(count.size()).as("one more is tried").isEqualTo(3);
        count.measured(104);
        assertThat(count.size()).as("a gain of 4 in a hundred is not worth it").isEqualTo(2);
        for (int i = 0; i < WorkerCount.SETTLED; i++) {
            assertThat(count.size()).isEqualTo(2);
            count.measured(100);
        }
        assertThat(count.size()).as("one fewer is tried, which loses half").isEqualTo(1);
        count.measured(50);
        for (int i = 0; i < WorkerCount.SETTLED; i++) {
            assertThat(count.size()).isEqualTo(2);
            count.measured(100);
        }
        assertThat(count.size()).as("other clips may be in the making by now").isEqualTo(3);
        count.measured(150);
        assertThat(count.best()).isEqualTo(3);
    }

    @Test
    void whatTheMachineHasNoMemoryForIsNotTriedAgain() {
        WorkerCount count = after(400, 2, 8, workers -> 100.0 * workers);
        assertThat(count.best()).isEqualTo(8);
        count.fewer();
        count.fewer();
        for (int i = 0; i < 400; i++) {
            assertThat(count.size()).isLessThanOrEqualTo(6);
            count.measured(100.0 * count.size());
        }
        for (int i = 0; i < 9; i++) {
            count.fewer();
        }
        assertThat(count.size()).isEqualTo(1);
    }
}
