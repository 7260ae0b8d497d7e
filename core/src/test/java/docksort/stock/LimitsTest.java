package docksort.stock;

import static org.assertj.core.api.Assertions.assertThat;

import docksort.Clips;
import docksort.arrival.Clip;
import docksort.catalogue.CopyState;
import docksort.catalogue.Presence;
import docksort.catalogue.WorkingCopy;
import docksort.media.ByteSize;
import docksort.sort.CopyKind;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class LimitsTest {
    private static final Instant NOW = Instant.parse("2026-03-31T00:00:00Z");
    private static final Clip CLIP = Clips.named("A").clip();

    private static WorkingCopy copy(String id, int madeDaysAgo, int servedDaysAgo, long bytes, boolean stopped) {
        return new WorkingCopy(
                id,
                CLIP.id(),
                CopyKind.LIGHT,
                id.startsWith("elsewhere") ? "" : "recipe",
                "copies",
                Path.of("/copies/" + id),
                CopyState.READY,
                "",
                CLIP.fingerprint(),
                Optional.empty(),
                new WorkingCopy.Place(bytes, daysAgo(madeDaysAgo), 1, 1, "", "", ""),
                new WorkingCopy.Service(stopped, servedDaysAgo < 0 ? 0 : daysAgo(servedDaysAgo)),
                0);
    }

    private static long daysAgo(int days) {
        return NOW.minus(Duration.ofDays(days)).toEpochMilli();
    }

    /// Made and last served so many days ago, in the order in which they were needed: old 60, served 20, new 5.
    private static final List<StockLine> STOCK = List.of(new StockLine(
            CLIP,
            Presence.ONLINE,
            List.of(
                    copy("new", 5, -1, 100, false),
                    copy("old", 60, -1, 100, false),
                    copy("served", 60, 20, 100, false),
                    copy("stopped", 1, -1, 100, true),
                    copy("elsewhere", 90, -1, 5_000, false)),
            new Served.ByOriginal(CLIP.source().head(), true)));

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            nullValues = "-",
            value = {
                "-  | -   |",
                "30 | -   | old stopped",
                "20 | -   | old served stopped",
                "-  | 400 |",
                "-  | 399 | old",
                "-  | 100 | old served new",
                "30 | 200 | old stopped",
                "30 | 100 | old stopped served",
                "90 | 0   | stopped old served new",
            })
    void copiesPastTheLimitsAreTheAgedAndThenTheLongestUnneeded(Integer days, Long bytes, String past) {
        var limits = new Limits(
                Optional.ofNullable(days).map(Duration::ofDays),
                Optional.ofNullable(bytes).map(ByteSize::new));
        assertThat(limits.past(STOCK, NOW).stream().map(WorkingCopy::id))
                .containsExactlyElementsOf(past == null ? List.of() : List.of(past.split(" ")));
        assertThat(Limits.parse(limits.text())).isEqualTo(limits);
    }

    @Test
    void whatIsKeptByAnotherProgramIsReadAsFarAsItIsKnown() {
        assertThat(Limits.parse("days x, bytes 7, hours 3"))
                .isEqualTo(new Limits(Optional.empty(), Optional.of(new ByteSize(7))));
        assertThat(Limits.parse("")).isEqualTo(Limits.NONE);
    }
}
