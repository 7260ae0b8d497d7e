package docksort.desktop.arrivals;

import docksort.catalogue.TakenOut.Hanging;
import java.util.ArrayList;
import java.util.List;

/// What goes out of the project, in words.
final class TakeOutModel {
    private TakeOutModel() {}

    /// "3 clips and 1 unreadable file"
    static String what(Hanging hanging) {
        String clips = hanging.clips() == 0 ? "" : count(hanging.clips(), "clip");
        String files = hanging.unreadable() == 0 ? "" : count(hanging.unreadable(), "unreadable file");
        if (clips.isEmpty() && files.isEmpty()) {
            return "Nothing but the arrival itself";
        }
        return clips + (clips.isEmpty() || files.isEmpty() ? "" : " and ") + files;
    }

    /// What hangs on them.
    static String with(Hanging hanging) {
        var parts = new ArrayList<String>();
        add(parts, hanging.copies(), "finished copy", "finished copies");
        add(parts, hanging.wanted(), "copy still to be made", "copies still to be made");
        add(parts, hanging.choices(), "recipe chosen by hand", "recipes chosen by hand");
        add(parts, hanging.pins(), "pin", "pins");
        if (hanging.used() > 0) {
            parts.add(
                    hanging.used() == 1 ? "1 clip that a timeline uses" : hanging.used() + " clips that timelines use");
        }
        return parts.isEmpty() ? "Nothing hangs on it." : "With it go: " + String.join(", ", parts) + ".";
    }

    /// What putting it aside does to what hangs on it.
    static String aside(Hanging hanging) {
        if (hanging.wanted() == 0) {
            return "All that hangs on it stays.";
        }
        return hanging.wanted() == 1
                ? "1 copy that is still to be made leaves the queue; all else stays."
                : hanging.wanted() + " copies that are still to be made leave the queue; all else stays.";
    }

    private static void add(List<String> parts, int count, String one, String several) {
        if (count > 0) {
            parts.add(count + " " + (count == 1 ? one : several));
        }
    }

    private static String count(int number, String what) {
        return number + " " + what + (number == 1 ? "" : "s");
    }
}
