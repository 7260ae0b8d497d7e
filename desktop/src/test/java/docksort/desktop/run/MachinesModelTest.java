package docksort.desktop.run;

import static org.assertj.core.api.Assertions.assertThat;

import docksort.catalogue.Machine;
import docksort.catalogue.Machine.Wish;
import docksort.desktop.run.MachinesModel.Line;
import java.time.Duration;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;

/// The machines of a shared project as they are read.
class MachinesModelTest {
    private static Line line(int making, long made, long failed, int quietSeconds, boolean here, Wish wish) {
        return line(making, made, failed, quietSeconds, here, wish, Optional.empty());
    }

    private static Line line(
            int making,
            long made,
            long failed,
            int quietSeconds,
            boolean here,
            Wish wish,
            Optional<List<String>> given) {
        return MachinesModel.lines(
                        List.of(new Machine(
                                "suite",
                                "makes copies",
                                making,
                                2,
                                41.4,
                                made,
                                failed,
                                Duration.ofSeconds(quietSeconds),
                                here,
                                wish,
                                given,
                                List.of(new Machine.Reads("Card W21", 34.4e6), new Machine.Reads("Titles", 0)))),
                        String::toUpperCase)
                .getFirst();
    }

    @Test
    void whatItDoesHowMuchAndWhetherItLivesStandsThere() {
        Line busy = line(2, 7, 1, 3, true, Wish.WORK);
        assertThat(busy.name()).isEqualTo("suite (here)");
        assertThat(busy.doing()).isEqualTo("makes copies");
        assertThat(busy.figures()).isEqualTo("2 of 2 at a time, 41 fps, 7 made, 1 failed");
        assertThat(busy.reads()).isEqualTo("reads Card W21 at 34 MB/s, nothing of Titles");
        assertThat(busy.sign()).isEqualTo("lives");
        assertThat(busy.wishes()).containsExactly(Wish.DRAIN, Wish.HOLD);
        assertThat(line(0, 0, 0, 3, false, Wish.WORK).figures()).isEmpty();
        assertThat(line(0, 7, 0, 40, false, Wish.WORK))
                .extracting(Line::figures, Line::sign)
                .containsExactly("7 made", "last sign of life 40 s ago");
    }

    @Test
    void oneThatWasAskedForSomethingSaysSoAndCanGoOn() {
        assertThat(line(1, 0, 0, 3, false, Wish.DRAIN).doing()).isEqualTo("finishes these and begins nothing more");
        assertThat(line(0, 0, 0, 3, false, Wish.DRAIN).doing()).isEqualTo("begins nothing");
        assertThat(line(1, 0, 0, 3, false, Wish.HOLD).doing()).isEqualTo("is held still");
        assertThat(line(1, 0, 0, 3, false, Wish.HOLD).wishes()).containsExactly(Wish.WORK);
        assertThat(MachinesModel.words(Wish.WORK)).isEqualTo("Go on");
    }

    @Test
    void whatItWasGivenStandsThereByName() {
        Line given = line(1, 0, 0, 3, false, Wish.WORK, Optional.of(List.of("light", "full")));
        assertThat(given.doing()).isEqualTo("makes copies; only LIGHT, FULL");
        assertThat(given.recipes()).contains(List.of("light", "full"));
    }

    /// A minute without a sign of life is when others take over.
    @Test
    void oneThatStoppedIsToldAsSuchAndCannotBeAskedForAnything() {
        assertThat(line(1, 3, 0, 59, false, Wish.WORK).lives()).isTrue();
        Line stopped = line(1, 3, 0, 60, false, Wish.WORK);
        assertThat(stopped.lives()).isFalse();
        assertThat(stopped.doing()).contains("others make what it had begun");
        assertThat(stopped.figures()).isEmpty();
        assertThat(stopped.wishes()).isEmpty();
        assertThat(line(1, 3, 0, 300, false, Wish.HOLD))
                .extracting(Line::sign, Line::wishes)
                .containsExactly("last sign of life 5 min ago", List.of(Wish.WORK));
    }
}
