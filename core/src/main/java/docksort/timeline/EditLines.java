package docksort.timeline;

import docksort.media.FrameRate;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/// Lines of a CMX 3600 edit list, read as edits with where their comments stand.
final class EditLines {
    private static final String LABEL = "\\d{1,2}[:;.]\\d{2}[:;.]\\d{2}[:;.,]\\d{2,3}";
    static final Pattern EVENT = Pattern.compile("\\s*(\\w{1,8})\\s+(\\S+)\\s+([A-Z0-9/]+)"
            + "\\s+(C|D|W\\d{1,3}|K(?:\\s*[BO])?)\\s+(?:(\\d{1,4})\\s+)?"
            + "(" + LABEL + ")\\s+(" + LABEL + ")\\s+(" + LABEL + ")\\s+(" + LABEL + ").*");
    private static final Pattern SPEED =
            Pattern.compile("\\s*M2\\s+(\\S+)\\s+([+-]?\\d{1,4}(?:\\.\\d{1,3})?)(?:\\s.*)?");
    static final Pattern COMMENT = Pattern.compile("\\s*+\\*\\s*+([A-Z][A-Z .\\t]*+):(.*)");
    static final String SOURCE_FILE = "SOURCE FILE";
    /// What the line before it was before it was switched; `-` where there was none.
    static final String BEFORE = "DOCKSORT BEFORE";
    static final String NOTHING = "-";
    /// Media without a reel of its own, and black (common practice, no source).
    static final String NO_REEL = "AX";
    static final String BLACK = "BL";

    private EditLines() {}

    /// A line of the file, and those that were put behind it since.
    static final class Row {
        String text;
        boolean gone;
        final List<Row> behind = new ArrayList<>(0);

        Row(String text) {
            this.text = text;
        }

        String value() {
            Matcher comment = COMMENT.matcher(text);
            return comment.matches() ? comment.group(2).strip() : "";
        }

        void addTo(List<String> lines) {
            if (!gone) {
                lines.add(text);
            }
            behind.forEach(row -> row.addTo(lines));
        }
    }

    /// One edit with where its comments stand.
    static final class Edit {
        final String number;
        final String reel;
        final String track;
        final int transitionFrames;
        final List<String> labels;
        String fromName = "";
        String toName = "";
        String speed = "";
        Optional<Row> sourceFile = Optional.empty();
        Optional<Row> before = Optional.empty();
        final List<Row> files = new ArrayList<>(0);
        boolean fileAfterToName;
        Row anchor; // behind which a comment of its own is put

        Edit(Row row, Matcher match) {
            anchor = row;
            number = match.group(1);
            reel = match.group(2);
            track = match.group(3);
            transitionFrames = match.group(5) == null ? 0 : Integer.parseInt(match.group(5));
            labels = List.of(match.group(6), match.group(7), match.group(8), match.group(9));
        }

        boolean isBlack() {
            return reel.equalsIgnoreCase(BLACK);
        }
    }

    static List<Edit> of(List<Row> rows) {
        var edits = new ArrayList<Edit>();
        for (Row row : rows) {
            Matcher event = EVENT.matcher(row.text);
            if (event.matches()) {
                edits.add(new Edit(row, event));
                outgoingOf(edits).ifPresent(outgoing -> outgoing.anchor = row); // two lines of one number stay together
                continue;
            }
            if (edits.isEmpty()) {
                continue;
            }
            Matcher speed = SPEED.matcher(row.text);
            Matcher comment = COMMENT.matcher(row.text);
            if (speed.matches()) {
                ofReel(edits, speed.group(1)).speed = speed.group(2);
                edits.getLast().anchor = row;
            } else if (comment.matches()) {
                comment(edits, comment.group(1).strip(), row);
            }
        }
        return edits;
    }

    /// The edit before the last, where both are one transition.
    static Optional<Edit> outgoingOf(List<Edit> edits) {
        if (edits.size() < 2) {
            return Optional.empty();
        }
        Edit before = edits.get(edits.size() - 2);
        return before.number.equals(edits.getLast().number) ? Optional.of(before) : Optional.empty();
    }

    /// In a dissolve the M2 line of either side stands behind both lines; the reel tells whose it is.
    private static Edit ofReel(List<Edit> edits, String reel) {
        Edit last = edits.getLast();
        return outgoingOf(edits)
                .filter(before -> before.reel.equals(reel) && !last.reel.equals(reel))
                .orElse(last);
    }

    /// Comments of a transition stand behind its second line. Of two files the first is the outgoing
    /// side's; a single one is the incoming side's where that was named before it.
    private static void comment(List<Edit> edits, String name, Row row) {
        Edit last = edits.getLast();
        Edit from = outgoingOf(edits).filter(before -> !before.isBlack()).orElse(last);
        switch (name) {
            case "FROM CLIP NAME" -> {
                from.fromName = row.value();
                from.anchor = row;
            }
            case "TO CLIP NAME" -> last.toName = row.value();
            case SOURCE_FILE -> {
                last.fileAfterToName = !last.toName.isEmpty();
                last.files.add(row);
                boolean both = last.files.size() > 1;
                Optional<Row> first = Optional.of(last.files.getFirst());
                if (from != last) {
                    from.sourceFile = both || !last.fileAfterToName ? first : Optional.empty();
                }
                last.sourceFile = both || from == last || last.fileAfterToName ? Optional.of(row) : Optional.empty();
            }
            case BEFORE -> {
                Row named = last.files.isEmpty() ? row : last.files.getLast();
                (from.sourceFile.filter(file -> file == named).isPresent() ? from : last).before = Optional.of(row);
            }
            default -> {}
        }
        last.anchor = row;
    }

    static FrameRate rate(List<Matcher> edits, FrameRate usual) {
        int highest = 0;
        boolean drop = false;
        for (Matcher edit : edits) {
            for (String label : List.of(edit.group(8), edit.group(9))) {
                highest = Math.max(highest, Integer.parseInt(label.substring(label.length() - 2)));
                drop |= isDrop(label);
            }
        }
        if (highest < usual.nominal() && (!drop || usual.allowsDropFrame())) {
            return usual;
        }
        int least = highest;
        boolean onlyDrop = drop;
        return FrameRate.COMMON.stream()
                .filter(rate -> rate.nominal() > least && (!onlyDrop || rate.allowsDropFrame()))
                .findFirst()
                .orElse(usual);
    }

    private static boolean isDrop(String label) {
        char last = label.charAt(label.length() - 3);
        return last == ';' || last == ',' || last == '.';
    }
}
