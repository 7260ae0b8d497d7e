package docksort.run;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.Instant;
import java.time.LocalTime;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class PaceTest {
    private static Optional<LocalTime> time(String text) {
        return text.isEmpty() ? Optional.empty() : Optional.of(LocalTime.parse(text));
    }

    @ParameterizedTest
    @CsvSource({
        "2026-11-25T18:00:00Z, 22:30, 06:00, 2026-11-25T22:30:00Z, 2026-11-26T06:00:00Z",
        "2026-11-25T23:00:00Z, 22:30, 06:00, 2026-11-26T22:30:00Z, 2026-11-27T06:00:00Z",
        "2026-11-25T12:00:00Z, '', 13:00, '', 2026-11-25T13:00:00Z",
        "2026-11-25T13:00:00Z, '', 13:00, '', 2026-11-26T13:00:00Z"
    })
    void timesAreTheNextThatClocksShow(String now, String from, String until, String begins, String ends) {
        Pace pace = Pace.at(time(from), time(until), false, Instant.parse(now), ZoneOffset.UTC);
        assertThat(pace.from().map(Instant::toString).orElse("")).isEqualTo(begins);
        assertThat(pace.until().map(Instant::toString).orElse("")).isEqualTo(ends);
    }

    @Test
    void theNightOfTheChangeOfClocksIsAsLongAsItIs() {
        ZoneId zone = ZoneId.of("Europe/Berlin");
        Instant evening = Instant.parse("2026-10-24T20:00:00Z"); // 22:00 there; clocks go back at 3:00
        Pace pace = Pace.at(time("23:00"), time("06:00"), true, evening, zone);
        assertThat(Duration.between(pace.from().orElseThrow(), pace.until().orElseThrow()))
                .isEqualTo(Duration.ofHours(8));
        assertThat(pace.wait(evening)).isEqualTo(Duration.ofHours(1));
        assertThat(pace.isOver(evening)).isFalse();
        assertThat(pace.isOver(pace.until().orElseThrow())).isTrue();
        assertThat(Pace.NOW.wait(evening)).isZero();
    }
}
