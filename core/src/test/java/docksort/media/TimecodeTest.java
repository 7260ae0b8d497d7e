package docksort.media;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.Locale;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import net.jqwik.api.constraints.LongRange;
import org.jcodec.common.model.TapeTimecode;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class TimecodeTest {
    private static final FrameRate DROP = new FrameRate(30000, 1001);

    /// SMPTE ST 12-1, from memory: labels 00 and 01 are skipped at each minute but every tenth.
    @ParameterizedTest
    @CsvSource({
        "00:00:59;29, 1, 00:01:00;02",
        "00:09:59;29, 1, 00:10:00;00",
        "00:00:00;00, 17982, 00:10:00;00",
        "00:00:00;00, 107892, 01:00:00;00",
        "23:59:59;29, 1, 00:00:00;00"
    })
    void dropFrameSkipsTwoLabelsEveryMinuteButTheTenth(String from, long frames, String to) {
        assertThat(Timecode.parse(from, DROP).plus(frames)).hasToString(to);
    }

    @Test
    void aDayOfDropFrameHas2589408Frames() {
        var seen = Timecode.parse("23:59:59;29", DROP);
        assertThat(seen.frameOfDay()).as("SMPTE ST 12-1, from memory").isEqualTo(2_589_407);
    }

    @Provide
    Arbitrary<FrameRate> rates() {
        return Arbitraries.of(FrameRate.COMMON);
    }

    /// Labels read back as their frames, grow with them letter by letter, and go round with the day.
    @Property
    void labelsStandForTheirFrames(
            @ForAll("rates") FrameRate rate,
            @ForAll boolean drops,
            @ForAll @LongRange(min = -10_000_000, max = 10_000_000) long frame,
            @ForAll @LongRange(min = -5_000, max = 5_000) long step) {
        boolean drop = drops && rate.allowsDropFrame();
        var timecode = new Timecode(frame, rate.nominal(), drop);
        assertThat(Timecode.parse(timecode.toString(), rate)).isEqualTo(timecode);
        assertThat(timecode.plus(step).plus(-step)).isEqualTo(timecode);
        assertThat(timecode.plus(step)).isEqualTo(new Timecode(frame + step, rate.nominal(), drop));
        Timecode next = timecode.plus(1);
        if (next.frameOfDay() > 0) {
            assertThat(next.toString()).isGreaterThan(timecode.toString());
        } else {
            assertThat(next.toString()).matches("00:00:00" + (drop ? ";" : ":") + "000?");
        }
    }

    /// What is labelled by the clock lags behind it by less than 2 frames a minute and meets it every tenth:
    /// 29.97 drop-frame is within 2.6 frames of real time in a day (SMPTE ST 12-1, from memory).
    @Property
    void dropFrameFollowsTheClock(@ForAll @LongRange(min = 0, max = 2_589_407) long frame) {
        String[] part = new Timecode(frame, 30, true).toString().split("[:;]", -1);
        double label = Integer.parseInt(part[0]) * 3600
                + Integer.parseInt(part[1]) * 60
                + Integer.parseInt(part[2])
                + Integer.parseInt(part[3]) / 30.0;
        double clock = frame * 1001 / 30_000.0;
        assertThat(label - clock).isBetween(-2.7 / 29.97 - 0.061, 0.061 + 2.7 / 29.97);
    }

    /// Held against the arithmetic of an independent library (JCodec, `TapeTimecode`) on both sides of every
    /// minute of a day.
    @Test
    void everyMinuteBoundaryOfADropFrameDayIsThatOfAnIndependentLibrary() {
        long frame = 0;
        for (int minute = 1; minute < 24 * 60; minute++) {
            frame += minute % 10 == 1 ? 1800 : 1798; // frames of the minute before
            for (long near = frame - 2; near <= frame + 2; near++) {
                TapeTimecode other = TapeTimecode.tapeTimecode(near, true, 30);
                assertThat(new Timecode(near, 30, true))
                        .hasToString(String.format(
                                Locale.ROOT,
                                "%02d:%02d:%02d;%02d",
                                other.getHour(),
                                other.getMinute(),
                                other.getSecond(),
                                other.getFrame()));
            }
            assertThat(new Timecode(frame, 30, true).toString()).endsWith(minute % 10 == 0 ? ":00;00" : ":00;02");
        }
    }

    @Test
    void refusesLabelsThatDropFrameSkips() {
        assertThatThrownBy(() -> Timecode.parse("00:01:00;01", DROP)).hasMessageContaining("has no label 00:01:00;01");
    }

    @Test
    void at5994DropSkipsFourLabels() {
        assertThat(Timecode.parse("00:00:59;59", new FrameRate(60000, 1001)).plus(1))
                .hasToString("00:01:00;04");
    }

    @ParameterizedTest
    @CsvSource({"24:00:00:00", "00:60:00:00", "00:00:00:25", "1:2:3", "abc"})
    void refusesWhatIsNoTimecode(String text) {
        assertThatThrownBy(() -> Timecode.parse(text, FrameRate.FPS_25)).isInstanceOf(IllegalArgumentException.class);
    }

    @Test
    void countsAHundredFramesASecond() {
        assertThat(new Timecode(16 * 3600 * 100 + 99, 100, false)).hasToString("16:00:00:99");
    }
}
