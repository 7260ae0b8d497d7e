package docksort.desktop.parts;

import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.Locale;

/// Durations as people say them.
public final class Words {
    private Words() {}

    /// "12 s", "3 min 20 s", "4 min", "1 h 10"
    public static String of(Duration duration) {
        long seconds = Math.max(0, duration.toSeconds());
        if (seconds < 60) {
            return seconds + " s";
        }
        if (seconds < 3600) {
            boolean exact = seconds < 600 && seconds % 60 > 0;
            return seconds / 60 + " min" + (exact ? " " + seconds % 60 + " s" : "");
        }
        return String.format(Locale.ROOT, "%d h %02d", seconds / 3600, seconds / 60 % 60);
    }

    /// The same words as the beginning of a line.
    public static String capital(String words) {
        return words.isEmpty() ? words : Character.toUpperCase(words.charAt(0)) + words.substring(1);
    }

    /// "22:30", by this machine's clock.
    public static String clock(Instant at) {
        return DateTimeFormatter.ofPattern("HH:mm", Locale.ROOT).format(at.atZone(ZoneId.systemDefault()));
    }

    /// The next time that this is: "22:30" within a day, otherwise "Mon 22:30".
    public static String next(Instant at, Instant now) {
        boolean soon = Duration.between(now, at).toHours() < 24;
        return soon
                ? clock(at)
                : DateTimeFormatter.ofPattern("EEE HH:mm", Locale.ENGLISH).format(at.atZone(ZoneId.systemDefault()));
    }
}
