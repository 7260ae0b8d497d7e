package docksort.stock;

import docksort.catalogue.WorkingCopy;
import java.util.List;

/// What reading copies whole again came to.
///
/// @param lines in the order in which they were read
/// @param bytes that were read
/// @param left copies that were still to be read when it was stopped
public record Reread(List<Line> lines, long bytes, int left) {
    public Reread {
        lines = List.copyOf(lines);
    }

    /// What one file was found to be.
    public enum Found {
        SAME("as it was checked"),
        FIRST("read for the first time"),
        DAMAGED("damaged"),
        UNSTEADY("read differently twice"),
        UNREADABLE("not readable"),
        ANOTHER("another file");

        private final String label;

        Found(String label) {
            this.label = label;
        }

        public String label() {
            return label;
        }

        /// Whether somebody has to look at it.
        public boolean needsALook() {
            return this == DAMAGED || this == UNSTEADY || this == UNREADABLE;
        }
    }

    /// @param words what that means, and what to do
    public record Line(WorkingCopy copy, Found found, String words) {}

    public long count(Found found) {
        return lines.stream().filter(line -> line.found() == found).count();
    }

    public List<Line> needingALook() {
        return lines.stream().filter(line -> line.found().needsALook()).toList();
    }

    /// "118 of 120 copies are as they were checked, 1 was read for the first time, 1 is damaged".
    public String inWords() {
        var words = new StringBuilder(count(Found.SAME) + " of " + lines.size()
                + (lines.size() == 1 ? " copy is" : " copies are") + " as they were checked");
        add(words, Found.FIRST, "read for the first time");
        add(words, Found.DAMAGED, "damaged");
        add(words, Found.UNSTEADY, "read differently twice");
        add(words, Found.UNREADABLE, "not readable");
        add(words, Found.ANOTHER, "replaced meanwhile");
        if (left > 0) {
            words.append("; ").append(left).append(left == 1 ? " is left to be read" : " are left to be read");
        }
        return words.toString();
    }

    private void add(StringBuilder words, Found found, String what) {
        long count = count(found);
        if (count > 0) {
            words.append(", ").append(count).append(' ').append(what);
        }
    }
}
