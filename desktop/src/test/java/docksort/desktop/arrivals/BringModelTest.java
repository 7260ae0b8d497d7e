package docksort.desktop.arrivals;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.tuple;

import docksort.desktop.parts.TaskFindings;
import docksort.desktop.parts.TaskLine;
import docksort.desktop.parts.TaskLine.Tone;
import docksort.files.Brought;
import docksort.files.TreeCopy.Fate;
import docksort.files.TreeCopy.Line;
import docksort.files.TreeCopy.Outcome;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class BringModelTest {
    private static final Path ONE = Path.of("/raid/CARD");
    private static final Path TWO = Path.of("/shuttle/CARD");

    @ParameterizedTest
    @CsvSource({"'', /a, ''", "/card, '', ''", "/card, ' ', /b", "/card, /a, 'b\0'"})
    void anOrderWantsACardAndAPlace(String card, String first, String second) {
        assertThat(BringModel.order(card, first, second)).isEmpty();
    }

    @Test
    void aSecondPlaceMayBeLeftOut() {
        assertThat(BringModel.order(" /card ", "/a", "").map(BringModel.Order::places))
                .contains(List.of(Path.of("/a")));
        assertThat(BringModel.order("/card", "/a", "/b").map(BringModel.Order::places))
                .contains(List.of(Path.of("/a"), Path.of("/b")));
    }

    @Test
    void whatIsReadBackEverywhereIsSafeToClear() {
        var outcome = new Outcome(
                List.of(new Line("A.mov", ONE, Fate.COPIED, "1", ""), new Line("A.mov", TWO, Fate.THERE, "1", "")),
                List.of(),
                true);
        TaskFindings found =
                BringModel.of(new Brought(outcome, List.of(ONE, TWO), List.of(ONE.resolve("ascmhl/0001.mhl"))));
        assertThat(found.words()).startsWith("Safe to clear");
        assertThat(found.lines())
                .extracting(TaskLine::tone, TaskLine::name, TaskLine::other, TaskLine::words)
                .containsExactly(
                        tuple(Tone.PLAIN, "/raid/CARD", "1 copied, 0 were there", "checksums: ascmhl/0001.mhl"),
                        tuple(Tone.PLAIN, "/shuttle/CARD", "0 copied, 1 were there", "no checksums were written"));
    }

    @Test
    void faultsComeFirstAndKeepTheCard() {
        var outcome = new Outcome(
                List.of(
                        new Line("A.mov", ONE, Fate.COPIED, "1", ""),
                        new Line("B.mov", ONE, Fate.OTHER, "2", "it has 3 bytes"),
                        new Line("C.mov", ONE, Fate.FAILED, "", "cannot be read")),
                List.of("D.mov is new"),
                true);
        TaskFindings found = BringModel.of(new Brought(outcome, List.of(ONE), List.of()));
        assertThat(found.words()).startsWith("NOT safe to clear");
        assertThat(found.lines())
                .extracting(TaskLine::tone, TaskLine::word, TaskLine::name)
                .containsExactly(
                        tuple(Tone.STOP, "the card", "D.mov is new"),
                        tuple(Tone.STOP, "differs", "B.mov"),
                        tuple(Tone.STOP, "failed", "C.mov"),
                        tuple(Tone.PLAIN, "place", "/raid/CARD"));
        assertThat(Optional.of(found.deeds())).contains(List.of());
    }
}
