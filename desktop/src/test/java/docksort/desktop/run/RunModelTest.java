package docksort.desktop.run;

import static org.assertj.core.api.Assertions.assertThat;

import docksort.Clips;
import docksort.arrival.Clip;
import docksort.catalogue.CopyState;
import docksort.desktop.Shown;
import docksort.run.CopyProgress;
import docksort.run.RunSnapshot;
import docksort.run.RunSnapshot.Phase;
import docksort.run.RunSnapshot.TimeLeft;
import docksort.sort.CopyKind;
import java.time.Duration;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.stream.Collectors;
import javafx.beans.property.SimpleObjectProperty;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class RunModelTest {
    private static final Clip CLIP = Clips.named("A001").clip();

    private final SimpleObjectProperty<RunSnapshot> shown = new SimpleObjectProperty<>(RunSnapshot.NONE);
    private final RunModel model = new RunModel(shown, CopyProgress::clipName);

    /// @param states such as "WAITING FAILED", one for each copy, which is known by its place in the words
    private static List<CopyProgress> copies(String states) {
        var words = states.isBlank() ? new String[0] : states.strip().split(" ");
        return Arrays.stream(words)
                .map(CopyState::valueOf)
                .map(state -> Shown.copy(CLIP, state.name().toLowerCase(Locale.ROOT), CopyKind.LIGHT, state))
                .map(copy -> new CopyProgress(copy, "A001", 0, 84, 0, 25, 0, 100))
                .toList();
    }

    private void run(String states, Phase phase, Duration elapsed) {
        run(states, phase, elapsed, Optional.empty());
    }

    private void run(String states, Phase phase, Duration elapsed, Optional<TimeLeft> left) {
        shown.set(new RunSnapshot(copies(states), phase, "", 2, Optional.empty(), elapsed, left));
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
        ''                    | OVER    | nothing is being made
        WAITING MAKING        | WORKING | starting
        WAITING WAITING MAKING| PAUSED  | paused, 2 waiting
        WAITING MAKING        | HELD    | held still
        WAITING               | WAITING | waits for a volume
        READY WAITING         | OVER    | stopped, 1 waiting
        READY FAILED          | OVER    | 1 failed
        READY FAILED WAITING  | OVER    | stopped, 1 waiting
        READY READY           | OVER    | done in 1 min 5 s
        READY READY_WITH_HOLES| OVER    | done in 1 min 5 s
        """)
    void theLineSaysHowItStands(String states, Phase phase, String line) {
        run(states, phase, Duration.ofSeconds(65));
        assertThat(model.line().get()).isEqualTo(line);
    }

    @Test
    void theLineSaysWhenItBegins() {
        var at = LocalDateTime.of(2030, 5, 6, 22, 30).atZone(ZoneId.systemDefault());
        shown.set(new RunSnapshot(
                copies("WAITING"), Phase.WORKING, "", 1, Optional.of(at.toInstant()), Duration.ZERO, Optional.empty()));
        assertThat(model.line().get()).isEqualTo("begins at Mon 22:30"); // days away
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
        0    | 0    | about 5 s left
        3    | 4    | about 5 s left
        12   | 13   | 10 s to 15 s left
        58   | 61   | about 1 min left
        59   | 59   | about 1 min left
        180  | 300  | 3 min to 5 min left
        194  | 196  | 3 min to 3 min 30 s left
        600  | 900  | 10 min to 15 min left
        3599 | 3601 | about 1 h 00 left
        3600 | 7500 | 1 h 00 to 2 h 05 left
        """)
    void whatIsForeseenIsNotToldToTheSecond(long least, long most, String words) {
        var left = new TimeLeft(Duration.ofSeconds(least), Duration.ofSeconds(most));
        assertThat(RunModel.left(left)).isEqualTo(words);
        run("MAKING", Phase.WORKING, Duration.ZERO, Optional.of(left));
        assertThat(model.line().get()).isEqualTo(words);
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
        WAITING MAKING | WORKING | STOP PAUSE HOLD
        WAITING FAILED | WORKING | STOP PAUSE HOLD RETRY
        MAKING         | PAUSED  | STOP HOLD GO_ON
        MAKING         | HELD    | STOP GO_ON
        WAITING        | WAITING | STOP
        WAITING READY  | OVER    | CARRY_ON
        FAILED READY   | OVER    | RETRY
        FAILED WAITING | OVER    | CARRY_ON RETRY
        READY          | OVER    | ''
        ''             | OVER    | ''
        """)
    void whatCanBeDoneFollowsFromHowItStands(String states, Phase phase, String deeds) {
        run(states, phase, Duration.ZERO);
        assertThat(model.deeds().stream().map(Enum::name).collect(Collectors.joining(" ")))
                .isEqualTo(deeds);
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
        WORKING | WAITING                | waiting  | waiting                 | ''
        OVER    | WAITING                | ''       | waiting                 | ''
        WORKING | MAKING CHECKING        | ''       | making checking         | ''
        WORKING | WAITING MAKING FAILED  | waiting  | waiting making          | failed
        OVER    | WANTED FAILED READY    | ''       | ''                      | wanted failed
        PAUSED  | READY READY_WITH_HOLES | ''       | ''                      | ''
        """)
    void chosenCopiesCanDoWhatTheirStateAllows(
            Phase phase, String chosen, String waiting, String queued, String again) {
        run(chosen, phase, Duration.ZERO);
        RunModel.Chosen can = model.of(copies(chosen));
        assertThat(String.join(" ", can.waiting())).isEqualTo(waiting);
        assertThat(String.join(" ", can.queued())).isEqualTo(queued);
        assertThat(String.join(" ", can.again())).isEqualTo(again);
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
        ''      | waiting making checking ready ready_with_holes failed wanted
        work    | making checking
        waiting | waiting
        ready   | ready ready_with_holes
        failed  | failed
        wanted  | wanted
        """)
    void aScopeShowsItsCopiesAndCountsThem(String scope, String ids) {
        run("WAITING MAKING CHECKING READY READY_WITH_HOLES FAILED WANTED", Phase.WORKING, Duration.ZERO);
        model.scope().set(scope);
        assertThat(model.rows()).extracting(row -> row.copy().id()).containsExactly(ids.split(" "));
        assertThat(model.groups().get().getFirst().lines())
                .filteredOn(line -> line.key().equals(scope))
                .singleElement()
                .satisfies(
                        line -> assertThat(line.count()).isEqualTo(model.rows().size()));
    }

    @Test
    void leftOutCopiesHaveALineOnlyWhereThereAreSome() {
        run("WAITING", Phase.WORKING, Duration.ZERO);
        assertThat(model.groups().get().getFirst().lines())
                .noneMatch(line -> line.key().equals("wanted"));
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
        ''                          | –
        WAITING WAITING             | 0/2
        READY FAILED MAKING         | 2/3
        READY_WITH_HOLES READY      | 2/2
        """)
    void theNumberIsWhatCameToItsEnd(String states, String number) {
        run(states, Phase.WORKING, Duration.ZERO);
        assertThat(model.number().get()).isEqualTo(number);
    }

    @Test
    void theFiguresAreThoseOfAllCopiesTogether() {
        assertThat(model.figures()).isEmpty();
        List<CopyProgress> two = List.of(
                new CopyProgress(copies("MAKING").getFirst().copy(), "A", 10, 100, 50, 25, 2_000_000, 100),
                new CopyProgress(copies("MAKING").getFirst().copy(), "B", 10, 100, 100, 25, 3_000_000, 100));
        shown.set(
                new RunSnapshot(two, Phase.WORKING, "", 2, Optional.empty(), Duration.ofSeconds(70), Optional.empty()));
        // 50 + 100 frames a second, 2 + 4 times as fast as it plays
        assertThat(model.figures()).isEqualTo("0 of 2 · 150 fps, 6.0 times real time · 5.0 MB · 1 min 10 s so far");
        run("READY", Phase.OVER, Duration.ofSeconds(5));
        assertThat(model.figures()).isEqualTo("1 of 1 · took 5 s");
    }

    @Test
    void rowsThatStayTheSameAreNotReplaced() {
        run("WAITING READY", Phase.WORKING, Duration.ZERO);
        CopyProgress kept = model.rows().get(1);
        run("MAKING READY", Phase.WORKING, Duration.ZERO);
        assertThat(model.rows().get(1)).isSameAs(kept);
        assertThat(model.rows().getFirst().copy().state()).isEqualTo(CopyState.MAKING);
    }
}
