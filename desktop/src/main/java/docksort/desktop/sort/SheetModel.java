package docksort.desktop.sort;

import docksort.desktop.parts.Typed;
import docksort.desktop.parts.Words;
import docksort.run.Pace;
import docksort.run.WeeklyHours;
import docksort.sort.CopyKind;
import docksort.sort.LoadSheet;
import docksort.sort.PlannedCopy;
import java.time.Instant;
import java.time.LocalTime;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.time.format.DateTimeParseException;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/// What a load sheet says, whether a run can start with it, and when that would be over.
final class SheetModel {
    private static final double WIDE = 1.3; // a trial comes nearer than this
    private static final long MOST_HANDLES = 100_000; // more than an hour at any rate
    private static final DateTimeFormatter CLOCK = DateTimeFormatter.ofPattern("H:mm", Locale.ROOT);

    private final LoadSheet sheet;

    /// A figure, and what it is of.
    record Figure(String value, String meaning) {}

    /// When a run is to work, as typed.
    ///
    /// @param hours of the week, empty for any
    /// @param cap most times real time, 0 for as fast as it goes
    record Times(String from, String until, String hours, boolean gently, int cap) {
        static Optional<String> fault(String typed) {
            return typed.isBlank() || clock(typed).isPresent()
                    ? Optional.empty()
                    : Optional.of("Write times as 22:30, or leave them out.");
        }

        static Optional<String> hoursFault(String typed) {
            try {
                WeeklyHours.parse(typed);
                return Optional.empty();
            } catch (IllegalArgumentException e) {
                return Optional.of("No hours: " + e.getMessage() + ".");
            }
        }

        /// What is no hours counts as left out.
        WeeklyHours weekly() {
            return hoursFault(hours).isPresent() ? WeeklyHours.ALWAYS : WeeklyHours.parse(hours);
        }

        /// Times that are none count as left out.
        Pace pace(Instant now, ZoneId zone) {
            return Pace.at(clock(from), clock(until), gently, now, zone)
                    .cappedAt(cap)
                    .within(weekly());
        }
    }

    SheetModel(LoadSheet sheet) {
        this.sheet = sheet;
    }

    private List<PlannedCopy> wanted() {
        return sheet.wanted();
    }

    List<Figure> figures() {
        int copies = wanted().size();
        long clips = wanted().stream().map(copy -> copy.clip().id()).distinct().count();
        return List.of(
                new Figure(
                        Integer.toString(copies),
                        (copies == 1 ? "copy of " : "copies of ") + clips + (clips == 1 ? " clip" : " clips")),
                new Figure(
                        sheet.bytes().likely().label(),
                        sheet.bytes().isExact()
                                ? "exact"
                                : sheet.bytes().least() + " to " + sheet.bytes().most()));
    }

    /// How long it takes; empty where nothing is wanted.
    Optional<String> time() {
        return wanted().isEmpty() ? Optional.empty() : Optional.of(sheet.time().label());
    }

    boolean asksForHandles() {
        return sheet.copies().stream().anyMatch(copy -> copy.recipe().kind() == CopyKind.RANGE);
    }

    static Optional<String> handlesFault(String typed) {
        return Typed.wholeNumber(typed, 0, MOST_HANDLES);
    }

    /// Copies whose size or time is not known well yet.
    List<PlannedCopy> worthTrying() {
        return wanted().stream()
                .filter(copy -> !copy.time().isKnown()
                        || copy.bytes().most().bytes() > copy.bytes().likely().bytes() * WIDE)
                .toList();
    }

    static String trial(List<PlannedCopy> copies) {
        return copies.size() == 1 ? "Try a second of it" : "Try a second of each (" + copies.size() + ")";
    }

    /// Why no run can start; empty when one can.
    Optional<String> whyNot() {
        if (wanted().isEmpty()) {
            return Optional.of("Nothing is wanted.");
        }
        return sheet.fits() ? Optional.empty() : Optional.of("It does not fit: see below.");
    }

    /// When the run would be over, as far as times are known, or what is wrong with what was typed.
    String end(Times times, Instant now, ZoneId zone) {
        Optional<String> fault =
                Times.fault(times.from).or(() -> Times.fault(times.until)).or(() -> Times.hoursFault(times.hours));
        if (fault.isPresent()) {
            return fault.get();
        }
        if (wanted().isEmpty()) {
            return "";
        }
        Pace pace = times.pace(now, zone);
        if (!pace.hours().spans().isEmpty()) {
            return pace.begins(now)
                    .map(begin -> "Begins at " + Words.next(begin, now) + "; outside of its hours nothing is begun")
                    .orElse("Begins at once; outside of its hours nothing is begun");
        }
        if (sheet.time().likelySeconds() == 0) {
            return "";
        }
        Instant over = pace.from().orElse(now).plus(sheet.time().likely());
        String words =
                "Over at about " + Words.clock(over) + (sheet.time().isKnown() ? "" : ", and what is not known yet");
        boolean late = pace.until().filter(over::isAfter).isPresent();
        return late ? words + ": not all of it is done by " + times.until.strip() : words;
    }

    private static Optional<LocalTime> clock(String typed) {
        try {
            return typed.isBlank() ? Optional.empty() : Optional.of(LocalTime.parse(typed.strip(), CLOCK));
        } catch (DateTimeParseException e) {
            return Optional.empty();
        }
    }
}
