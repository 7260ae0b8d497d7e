package docksort.run;

import java.time.DayOfWeek;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneId;
import java.time.ZonedDateTime;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.EnumSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/// Hours of every week, by the clock of a place: "Mo-Fr 19:00-07:00, Sa-Su 00:00-24:00". Hours that end before they
/// begin go into the next day; those that end when they begin are a whole day.
///
/// @param text as they were written
/// @param spans none for any time
public record WeeklyHours(String text, List<Span> spans) {
    public static final WeeklyHours ALWAYS = new WeeklyHours("", List.of());

    private static final int DAYS = 7;
    private static final Pattern SPAN = Pattern.compile(
            "(?:(daily)|([a-z]{2,9})(?:\\s*-\\s*([a-z]{2,9}))?)\\s+(\\d{1,2}:\\d{2})\\s*-\\s*(\\d{1,2}:\\d{2})",
            Pattern.CASE_INSENSITIVE);

    /// Hours of some days.
    ///
    /// @param days on which they begin
    public record Span(Set<DayOfWeek> days, LocalTime from, LocalTime until) {
        public Span {
            days = Set.copyOf(days);
        }

        private Opening on(LocalDate day, ZoneId zone) {
            LocalDate last = until.isAfter(from) ? day : day.plusDays(1);
            return new Opening(at(day, from, zone), at(last, until, zone));
        }

        /// A time that a clock leaves out in spring is the one it jumps to.
        private static Instant at(LocalDate day, LocalTime time, ZoneId zone) {
            return ZonedDateTime.of(day, time, zone).toInstant();
        }
    }

    private record Opening(Instant from, Instant until) {}

    public WeeklyHours {
        spans = List.copyOf(spans);
    }

    /// @throws IllegalArgumentException when they are not written like that, with what is wrong
    public static WeeklyHours parse(String text) {
        var spans = new ArrayList<Span>();
        for (String part : text.split("[,;]", -1)) {
            if (!part.isBlank()) {
                spans.add(span(part.strip()));
            }
        }
        return new WeeklyHours(text.strip(), spans);
    }

    private static Span span(String text) {
        Matcher found = SPAN.matcher(text);
        if (!found.matches()) {
            throw new IllegalArgumentException("hours are written like Mo-Fr 19:00-07:00, not \"" + text + "\"");
        }
        return new Span(
                found.group(1) != null ? EnumSet.allOf(DayOfWeek.class) : days(found.group(2), found.group(3)),
                time(found.group(4)),
                time(found.group(5)));
    }

    private static Set<DayOfWeek> days(String first, @org.jspecify.annotations.Nullable String last) {
        DayOfWeek from = day(first);
        DayOfWeek until = last == null ? from : day(last);
        Set<DayOfWeek> days = EnumSet.of(until);
        for (DayOfWeek day = from; day != until; day = day.plus(1)) {
            days.add(day);
        }
        return days;
    }

    private static DayOfWeek day(String name) {
        for (DayOfWeek day : DayOfWeek.values()) {
            if (day.name().startsWith(name.toUpperCase(Locale.ROOT))) {
                return day;
            }
        }
        throw new IllegalArgumentException("\"" + name + "\" is no day: write Mo, Tu, We, Th, Fr, Sa, Su or daily");
    }

    private static LocalTime time(String text) {
        int colon = text.indexOf(':');
        int hours = Integer.parseInt(text.substring(0, colon));
        int minutes = Integer.parseInt(text.substring(colon + 1));
        if (hours == 24 && minutes == 0) {
            return LocalTime.MIDNIGHT;
        }
        if (hours > 23 || minutes > 59) {
            throw new IllegalArgumentException("no clock shows " + text);
        }
        return LocalTime.of(hours, minutes);
    }

    /// When something may be begun: the same moment within the hours, else the next at which they begin.
    public Instant next(Instant now, ZoneId zone) {
        if (spans.isEmpty()) {
            return now;
        }
        LocalDate today = now.atZone(zone).toLocalDate();
        var openings = new ArrayList<Opening>();
        for (int day = -1; day <= DAYS; day++) {
            LocalDate date = today.plusDays(day);
            spans.stream()
                    .filter(span -> span.days.contains(date.getDayOfWeek()))
                    .map(span -> span.on(date, zone))
                    .forEach(openings::add);
        }
        boolean open = openings.stream().anyMatch(each -> !now.isBefore(each.from) && now.isBefore(each.until));
        return open
                ? now
                : openings.stream()
                        .map(Opening::from)
                        .filter(now::isBefore)
                        .min(Comparator.naturalOrder())
                        .orElseThrow();
    }
}
