package docksort.desktop.workshop;

import static org.assertj.core.api.Assertions.assertThat;

import docksort.problem.Problem;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;

/// Several things that two people want differently are decided one after the other.
class ContestsTest {
    private final Contests contests = new Contests(Runnable::run);
    private final List<String> done = new ArrayList<>();

    private void ask(String what) {
        contests.ask(new Problem(what, "", "", ""), () -> done.add(what));
    }

    private String open() {
        return contests.open().get().map(contest -> contest.problem().what()).orElse("");
    }

    @Test
    void aSecondOneWaitsUntilTheFirstIsDecided() {
        ask("first");
        ask("second");
        ask("third");
        assertThat(open()).isEqualTo("first");
        contests.putMine();
        assertThat(open()).isEqualTo("second");
        contests.leave();
        assertThat(open()).isEqualTo("third");
        contests.putMine();
        assertThat(open()).isEmpty();
        contests.putMine();
        assertThat(done).containsExactly("first", "third");
    }
}
