package docksort.run;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatIllegalArgumentException;

import java.time.Duration;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

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

    /// 25 November 2026 is a Wednesday.
    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
        ''                                 | 2026-11-25T12:00 | now
        Mo-Fr 19:00-07:00                  | 2026-11-25T12:00 | 2026-11-25T19:00
        Mo-Fr 19:00-07:00                  | 2026-11-25T19:00 | now
        Mo-Fr 19:00-07:00                  | 2026-11-26T06:59 | now
        Mo-Fr 19:00-07:00                  | 2026-11-26T07:00 | 2026-11-26T19:00
        Mo-Fr 19:00-07:00                  | 2026-11-28T06:59 | now
        Mo-Fr 19:00-07:00                  | 2026-11-28T12:00 | 2026-11-30T19:00
        Mo-Fr 19:00-07:00; sa-su 0:00-24:00 | 2026-11-28T12:00 | now
        Fri - Mon 08:00-09:00              | 2026-11-25T12:00 | 2026-11-27T08:00
        Fri - Mon 08:00-09:00              | 2026-11-30T08:30 | now
        Fri - Mon 08:00-09:00              | 2026-11-30T09:00 | 2026-12-04T08:00
        We 08:00-08:00                     | 2026-11-26T07:59 | now
        We 08:00-08:00                     | 2026-11-26T08:00 | 2026-12-02T08:00
        daily 22:30-06:00                  | 2026-11-25T12:00 | 2026-11-25T22:30
        """)
    void hoursOfTheWeekAreOpenOrSayWhenTheyBegin(String hours, String now, String begins) {
        ZoneId zone = ZoneId.of("Europe/Berlin");
        Instant moment = LocalDateTime.parse(now).atZone(zone).toInstant();
        Pace pace =
                Pace.at(Optional.empty(), Optional.empty(), false, moment, zone).within(WeeklyHours.parse(hours));
        assertThat(pace.begins(moment)
                        .map(at -> at.atZone(zone).toLocalDateTime().toString())
                        .orElse("now"))
                .isEqualTo(begins);
        assertThat(pace.isOver(moment.plus(Duration.ofDays(400)))).isFalse();
    }

    /// A run that is told to begin later begins within the hours.
    @Test
    void aTimeOfDayAndHoursOfTheWeekHoldBoth() {
        Instant wednesday = Instant.parse("2026-11-25T12:00:00Z");
        Pace pace = Pace.at(time("23:00"), Optional.empty(), false, wednesday, ZoneOffset.UTC)
                .within(WeeklyHours.parse("Th 01:00-02:00"));
        assertThat(pace.begins(wednesday)).contains(Instant.parse("2026-11-26T01:00:00Z"));
        assertThat(pace.wait(wednesday)).isEqualTo(Duration.ofHours(13));
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "Mo-Fr",
                "19:00-07:00",
                "Mo-Fr 25:00-07:00",
                "Xy 10:00-11:00",
                "Mo 10:00",
                "Mo-Fr 10:00-24:30",
                "Mo,"
            })
    void whatIsNoHoursIsSaidSo(String text) {
        assertThatIllegalArgumentException().isThrownBy(() -> WeeklyHours.parse(text));
    }
}
