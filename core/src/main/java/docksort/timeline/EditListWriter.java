package docksort.timeline;

import docksort.media.FrameRate;
import docksort.media.Rational;
import docksort.media.Timecode;
import java.util.List;
import java.util.Locale;

/// Writes a CMX 3600 edit list from nothing (form of its lines from memory).
public final class EditListWriter {
    private EditListWriter() {}

    /// One edit to be written.
    ///
    /// @param reel empty where the media has none
    /// @param dissolveFrames length of a dissolve from the edit before it, 0 for a cut
    /// @param speed frames of media for a frame of the list
    public record Line(
            String reel,
            String track,
            long dissolveFrames,
            Timecode sourceIn,
            Timecode sourceOut,
            Timecode recordIn,
            Timecode recordOut,
            Rational speed,
            String clipName,
            String sourceFile) {}

    /// A list as text. Names lose line breaks; a reel is written with its letters and digits.
    ///
    /// @param edits in the order of their record time
    public static String write(String title, FrameRate rate, boolean dropFrame, List<Line> edits) {
        var text = new StringBuilder("TITLE: ").append(oneLine(title)).append('\n');
        text.append(dropFrame ? "FCM: DROP FRAME\n" : "FCM: NON-DROP FRAME\n");
        int number = 1;
        for (int i = 0; i < edits.size(); i++) {
            Line edit = edits.get(i);
            text.append('\n');
            boolean dissolve = edit.dissolveFrames > 0;
            if (dissolve) {
                boolean fromBlack = i == 0 || !edits.get(i - 1).recordOut.equals(edit.recordIn);
                Line from = fromBlack ? edit : edits.get(i - 1);
                Timecode at = fromBlack ? new Timecode(0, rate.nominal(), dropFrame) : from.sourceOut;
                text.append(row(
                        number,
                        fromBlack ? EditLines.BLACK : reel(from.reel),
                        edit.track,
                        "C",
                        "",
                        at,
                        at,
                        edit,
                        true));
                text.append(row(
                        number,
                        reel(edit.reel),
                        edit.track,
                        "D",
                        String.format(Locale.ROOT, "%03d", edit.dissolveFrames),
                        edit.sourceIn,
                        edit.sourceOut,
                        edit,
                        false));
                if (!fromBlack) {
                    name(text, "FROM CLIP NAME", from.clipName);
                    name(text, EditLines.SOURCE_FILE, from.sourceFile.isEmpty() ? EditLines.NOTHING : from.sourceFile);
                }
                name(text, "TO CLIP NAME", edit.clipName);
            } else {
                text.append(
                        row(number, reel(edit.reel), edit.track, "C", "", edit.sourceIn, edit.sourceOut, edit, false));
                name(text, "FROM CLIP NAME", edit.clipName);
            }
            name(text, EditLines.SOURCE_FILE, edit.sourceFile);
            if (!edit.speed.equals(Rational.of(1))) {
                text.append(String.format(
                        Locale.ROOT,
                        "M2   %-8s       %05.1f                %s%n".replace("%n", "\n"),
                        reel(edit.reel),
                        edit.speed.times(Rational.of(rate.nominal())).toDouble(),
                        edit.sourceIn));
            }
            number++;
        }
        return text.toString();
    }

    private static String row(
            int number,
            String reel,
            String track,
            String transition,
            String frames,
            Timecode in,
            Timecode out,
            Line edit,
            boolean withoutLength) {
        return String.format(
                Locale.ROOT,
                "%03d  %-8s %-5s %-4s %-3s %s %s %s %s\n",
                number,
                reel,
                track,
                transition,
                frames,
                in,
                out,
                edit.recordIn,
                withoutLength ? edit.recordIn : edit.recordOut);
    }

    private static void name(StringBuilder text, String what, String value) {
        if (!value.isEmpty()) {
            text.append("* ").append(what).append(": ").append(oneLine(value)).append('\n');
        }
    }

    private static String oneLine(String text) {
        return text.replaceAll("\\R|\\p{Cntrl}", " ").strip();
    }

    /// Lists know reels of letters, digits and a few signs, without spaces.
    static String reel(String reel) {
        String plain = reel.replaceAll("[^A-Za-z0-9_.-]", "_");
        return plain.isEmpty() ? EditLines.NO_REEL : plain;
    }
}
