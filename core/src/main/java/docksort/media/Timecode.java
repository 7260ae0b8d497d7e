package docksort.media;

import java.util.Locale;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/// A SMPTE ST 12-1 time address: a count of frames since midnight, at a whole number of frames a second, with
/// or without drop-frame numbering. The count wraps at 24 hours, as the standard's does.
public record Timecode(long frameOfDay, int framesPerSecond, boolean dropFrame) {
    private static final Pattern FORM = Pattern.compile("(\\d{1,2}):(\\d{2}):(\\d{2})([:;.,])(\\d{2,3})");

    public Timecode {
        if (framesPerSecond < 1 || framesPerSecond > 999) {
            throw new IllegalArgumentException("timecode needs 1 to 999 frames a second, was " + framesPerSecond);
        }
        if (dropFrame && framesPerSecond % 30 != 0) {
            throw new IllegalArgumentException("drop-frame is defined for multiples of 30, was " + framesPerSecond);
        }
        frameOfDay = Math.floorMod(frameOfDay, framesPerDay(framesPerSecond, dropFrame));
    }

    /// Reads `HH:MM:SS:FF`, or `HH:MM:SS;FF` for drop-frame.
    ///
    /// @throws IllegalArgumentException for another form, a number out of range, or a label that drop-frame skips
    public static Timecode parse(String text, FrameRate rate) {
        Matcher form = FORM.matcher(text.strip());
        if (!form.matches()) {
            throw new IllegalArgumentException("not a timecode: " + text);
        }
        int fps = rate.nominal();
        boolean drop = !form.group(4).equals(":") && rate.allowsDropFrame();
        int hours = Integer.parseInt(form.group(1));
        int minutes = Integer.parseInt(form.group(2));
        int seconds = Integer.parseInt(form.group(3));
        int frames = Integer.parseInt(form.group(5));
        if (hours > 23 || minutes > 59 || seconds > 59 || frames >= fps) {
            throw new IllegalArgumentException("timecode out of range at " + fps + " frames a second: " + text);
        }
        int skipped = fps / 15;
        if (drop && seconds == 0 && frames < skipped && minutes % 10 != 0) {
            throw new IllegalArgumentException("drop-frame timecode has no label " + text);
        }
        long count = ((hours * 60L + minutes) * 60 + seconds) * fps + frames;
        if (drop) {
            long totalMinutes = hours * 60L + minutes;
            count -= skipped * (totalMinutes - totalMinutes / 10);
        }
        return new Timecode(count, fps, drop);
    }

    public static Timecode zero(FrameRate rate) {
        return new Timecode(0, rate.nominal(), false);
    }

    public Timecode plus(long frames) {
        return new Timecode(frameOfDay + frames, framesPerSecond, dropFrame);
    }

    /// Frame labels in a day: 2589408 for 29.97 drop-frame (SMPTE ST 12-1).
    private static long framesPerDay(int fps, boolean drop) {
        long all = 24L * 3600 * fps;
        return drop ? all - (fps / 15) * (24 * 60 - 24 * 6L) : all;
    }

    @Override
    public String toString() {
        long labelled = frameOfDay;
        if (dropFrame) {
            int skipped = framesPerSecond / 15;
            long perMinute = 60L * framesPerSecond - skipped;
            long perTenMinutes = 10 * perMinute + skipped;
            long tens = frameOfDay / perTenMinutes;
            long rest = frameOfDay % perTenMinutes;
            long minutesAfterFirst = rest < skipped ? 0 : (rest - skipped) / perMinute;
            labelled += skipped * (9 * tens + minutesAfterFirst);
        }
        long frames = labelled % framesPerSecond;
        long seconds = labelled / framesPerSecond;
        String digits = framesPerSecond > 100 ? "%03d" : "%02d";
        return String.format(
                Locale.ROOT,
                "%02d:%02d:%02d%s" + digits,
                seconds / 3600,
                seconds / 60 % 60,
                seconds % 60,
                dropFrame ? ";" : ":",
                frames);
    }
}
