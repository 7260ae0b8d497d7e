package docksort.run;

import java.time.Duration;
import java.time.Instant;
import java.time.LocalTime;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.time.ZonedDateTime;
import java.util.Optional;

/// When a run works, and how hard.
///
/// @param from before it nothing is begun
/// @param until from it on nothing is begun; what is in the making is finished
/// @param gently whether the engine runs below everything else on the machine, and holds still while others
///     need it
/// @param speedCap most times real time that a clip is read at, 0 for as fast as it goes
/// @param hours outside of them nothing is begun
/// @param zone whose clocks they go by
public record Pace(
        Optional<Instant> from, Optional<Instant> until, boolean gently, int speedCap, WeeklyHours hours, ZoneId zone) {
    public static final Pace NOW = new Pace(Optional.empty(), Optional.empty(), false, 0);

    /// At any hour of the week.
    public Pace(Optional<Instant> from, Optional<Instant> until, boolean gently, int speedCap) {
        this(from, until, gently, speedCap, WeeklyHours.ALWAYS, ZoneOffset.UTC);
    }

    /// The next time that clocks show these times; an end before the beginning is on the day after.
    public static Pace at(
            Optional<LocalTime> from, Optional<LocalTime> until, boolean gently, Instant now, ZoneId zone) {
        Optional<Instant> start = from.map(time -> next(time, now, zone));
        Optional<Instant> end = until.map(time -> next(time, start.orElse(now), zone));
        return new Pace(start, end, gently, 0, WeeklyHours.ALWAYS, zone);
    }

    private static Instant next(LocalTime time, Instant after, ZoneId zone) {
        ZonedDateTime base = after.atZone(zone);
        ZonedDateTime candidate = base.with(time);
        return (candidate.toInstant().isAfter(after) ? candidate : candidate.plusDays(1)).toInstant();
    }

    public Pace cappedAt(int timesRealTime) {
        return new Pace(from, until, gently, timesRealTime, hours, zone);
    }

    public Pace within(WeeklyHours weekly) {
        return new Pace(from, until, gently, speedCap, weekly, zone);
    }

    /// The moment from which something may be begun; empty when that is now.
    public Optional<Instant> begins(Instant now) {
        Instant earliest = hours.next(from.filter(now::isBefore).orElse(now), zone);
        return earliest.isAfter(now) ? Optional.of(earliest) : Optional.empty();
    }

    /// How long to wait before something may be begun.
    Duration wait(Instant now) {
        return begins(now).map(start -> Duration.between(now, start)).orElse(Duration.ZERO);
    }

    boolean isOver(Instant now) {
        return until.filter(end -> !now.isBefore(end)).isPresent();
    }
}
