package docksort.desktop.run;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.tuple;

import docksort.desktop.parts.TaskFindings;
import docksort.desktop.parts.TaskLine;
import docksort.desktop.parts.TaskLine.Tone;
import docksort.run.RunLine;
import docksort.run.RunReport;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.List;
import org.junit.jupiter.api.Test;

class PastRunsModelTest {
    private static final Instant NIGHT = Instant.parse("2026-03-01T22:00:00Z");

    private static RunLine line(String clip, String state, int minutes, long originalBytes) {
        return new RunLine(
                clip,
                "/card/" + clip,
                "recipe",
                "/copies/" + clip,
                state,
                "",
                NIGHT.toEpochMilli(),
                NIGHT.plusSeconds(60L * minutes).toEpochMilli(),
                1,
                1,
                1,
                1,
                state.equals("ready") ? 50_000_000 : 0,
                "",
                1,
                1,
                originalBytes,
                List.of());
    }

    @Test
    void eachRunTellsWhenItBeganHowLongItTookAndWhatCameOfIt() {
        var good = new RunReport(
                "x", NIGHT, List.of(line("A", "ready", 3, 900_000_000), line("B", "ready", 200, 300_000_000)));
        var bad = new RunReport("x", NIGHT.minusSeconds(86_400), List.of(line("A", "failed", -1_439, 0)));
        TaskFindings found = PastRunsModel.of(List.of(good, bad), ZoneOffset.UTC);
        assertThat(found.words())
                .isEqualTo("2 runs: 2 copies made and checked, 100 MB. Choose a run to write its report.");
        assertThat(found.lines())
                .extracting(TaskLine::tone, TaskLine::word, TaskLine::name, TaskLine::other, TaskLine::words)
                .containsExactly(
                        tuple(
                                Tone.GOOD,
                                "all ready",
                                "2026-03-01 22:00",
                                "3 h 20 min",
                                "2 ready, 0 failed, 100 MB; originals 1.2 GB"),
                        tuple(Tone.LOOK, "failed 1", "2026-02-28 22:00", "60 s", "0 ready, 1 failed, 0 B"));
    }

    @Test
    void whereNothingRanItSaysWhereToBegin() {
        assertThat(PastRunsModel.of(List.of(), ZoneOffset.UTC).words()).contains("Start one in Sort");
    }
}
