package docksort.run;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.function.IntToDoubleFunction;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/// The search for a number of workers, against machines whose speed for every number is known.
class CrewTest {
    private static Crew after(int measures, int start, int most, IntToDoubleFunction speed) {
        var crew = new Crew(start, most);
        for (int i = 0; i < measures; i++) {
            crew.measured(speed.applyAsDouble(crew.size()));
        }
        return crew;
    }

    @ParameterizedTest
    @CsvSource({"1, 8, 4, 4", "2, 8, 4, 4", "4, 8, 4, 4", "7, 8, 4, 4", "1, 3, 8, 3", "2, 2, 8, 2", "2, 2, 1, 2"})
    void itEndsWhereMoreDoNotHelp(int start, int most, int knee, int found) {
        Crew crew = after(400, start, most, workers -> 100.0 * Math.min(workers, knee) - workers);
        assertThat(crew.best()).isEqualTo(found);
    }

    @Test
    void oneThatOnlyGetsInTheWayIsSentHomeAndTriedAgainMuchLater() {
        var crew = new Crew(2, 8);
        crew.measured(100);
        assertThat(crew.size()).as("one more is tried").isEqualTo(3);
        crew.measured(104);
        assertThat(crew.size()).as("a gain of 4 in a hundred is not worth it").isEqualTo(2);
        for (int i = 0; i < Crew.SETTLED; i++) {
            assertThat(crew.size()).isEqualTo(2);
            crew.measured(100);
        }
        assertThat(crew.size()).as("one fewer is tried, which loses half").isEqualTo(1);
        crew.measured(50);
        for (int i = 0; i < Crew.SETTLED; i++) {
            assertThat(crew.size()).isEqualTo(2);
            crew.measured(100);
        }
        assertThat(crew.size()).as("other clips may be in the making by now").isEqualTo(3);
        crew.measured(150);
        assertThat(crew.best()).isEqualTo(3);
    }

    @Test
    void whatTheMachineHasNoMemoryForIsNotTriedAgain() {
        Crew crew = after(400, 2, 8, workers -> 100.0 * workers);
        assertThat(crew.best()).isEqualTo(8);
        crew.fewer();
        crew.fewer();
        for (int i = 0; i < 400; i++) {
            assertThat(crew.size()).isLessThanOrEqualTo(6);
            crew.measured(100.0 * crew.size());
        }
        for (int i = 0; i < 9; i++) {
            crew.fewer();
        }
        assertThat(crew.size()).isEqualTo(1);
    }
}
