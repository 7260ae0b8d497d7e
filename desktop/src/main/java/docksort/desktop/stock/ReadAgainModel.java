package docksort.desktop.stock;

import docksort.catalogue.WorkingCopy;
import docksort.desktop.parts.TaskFindings;
import docksort.desktop.parts.TaskFindings.Deed;
import docksort.desktop.parts.TaskLine;
import docksort.desktop.parts.TaskLine.Tone;
import docksort.media.ByteSize;
import docksort.stock.Reread;
import docksort.stock.Reread.Found;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;

/// Copies that are to be read whole again, and what that came to.
final class ReadAgainModel {
    static final String READ = "read-them-again";
    static final int USUAL_DAYS = 30;
    static final int USUAL_MEGABYTES = 50;
    private static final int MOST_DAYS = 3_650;
    private static final int MOST_MEGABYTES = 100_000;

    private ReadAgainModel() {}

    /// What a person wrote.
    record Wish(String days, String megabytes) {
        Optional<String> daysFault() {
            return fault(days, MOST_DAYS, "days");
        }

        Optional<String> megabytesFault() {
            return fault(megabytes, MOST_MEGABYTES, "megabytes");
        }

        boolean isSound() {
            return daysFault().isEmpty() && megabytesFault().isEmpty();
        }

        /// Nothing written means all copies.
        Duration notFor() {
            return Duration.ofDays(number(days));
        }

        /// Nothing written means as fast as it goes.
        int most() {
            return number(megabytes);
        }

        private static int number(String text) {
            return text.isBlank() ? 0 : Integer.parseInt(text.strip());
        }

        private static Optional<String> fault(String text, int most, String unit) {
            boolean sound =
                    text.isBlank() || (text.strip().matches("\\d{1,6}") && Integer.parseInt(text.strip()) <= most);
            return sound ? Optional.empty() : Optional.of("a number of " + unit + " up to " + most + ", or nothing");
        }
    }

    static TaskFindings due(List<WorkingCopy> copies, Wish wish, ZoneId zone) {
        long bytes = copies.stream().mapToLong(copy -> copy.place().bytes()).sum();
        if (copies.isEmpty()) {
            return TaskFindings.done("Every copy that is there was read whole within "
                    + wish.notFor().toDays() + " days. Write fewer days to read some again now.");
        }
        String words = copies.size() + (copies.size() == 1 ? " copy" : " copies") + " of " + new ByteSize(bytes)
                + " to read" + lasting(bytes, wish.most());
        return new TaskFindings(
                words,
                copies.stream().map(copy -> due(copy, zone)).toList(),
                List.of(new Deed(READ, "Read them again", true, true)));
    }

    /// ", about 6 h at 50 MB a second".
    private static String lasting(long bytes, int megabytes) {
        if (megabytes == 0) {
            return ", as fast as it goes";
        }
        long minutes = bytes / 1_000_000 / megabytes / 60;
        String time =
                minutes < 1 ? "less than a minute" : "about " + (minutes < 90 ? minutes + " min" : minutes / 60 + " h");
        return ", " + time + " at " + megabytes + " MB a second";
    }

    private static TaskLine due(WorkingCopy copy, ZoneId zone) {
        long last = copy.lastReadMillis();
        return new TaskLine(
                Tone.PLAIN,
                last == 0 ? "never" : "due",
                String.valueOf(copy.file().getFileName()),
                new ByteSize(copy.place().bytes()).toString(),
                last == 0 ? "nothing is known of all its bytes yet" : "last read whole on " + day(last, zone));
    }

    /// What the last reading of a copy found, where it was read again.
    static Optional<String> words(WorkingCopy copy, ZoneId zone) {
        WorkingCopy.Whole whole = copy.place().whole();
        return whole.readMillis() == 0
                ? Optional.empty()
                : Optional.of("all of it read again on " + day(whole.readMillis(), zone)
                        + (whole.damaged() ? ": not as it was checked" : ": as it was checked"));
    }

    private static LocalDate day(long millis, ZoneId zone) {
        return Instant.ofEpochMilli(millis).atZone(zone).toLocalDate();
    }

    static TaskFindings read(Reread reread) {
        return TaskFindings.done(
                reread.inWords() + (reread.left() > 0 ? ". Read again goes on with them." : ""),
                reread.lines().stream()
                        .filter(line -> line.found() != Found.SAME)
                        .sorted(Comparator.comparing(line -> !line.found().needsALook()))
                        .map(line -> new TaskLine(
                                line.found().needsALook() ? Tone.STOP : Tone.PLAIN,
                                line.found().label(),
                                String.valueOf(line.copy().file().getFileName()),
                                new ByteSize(line.copy().place().bytes()).toString(),
                                line.words()))
                        .toList());
    }
}
