package docksort.timeline;

import docksort.files.Documents;
import docksort.media.FrameRate;
import docksort.media.Raster;
import docksort.media.Rational;
import docksort.media.Timecode;
import docksort.problem.CoreException.InputRefused;
import java.nio.ByteBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.Predicate;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/// A CMX 3600 edit list (form of its lines from memory; the comments for clip names and files are common
/// practice, no source). It is kept line by line: only the comments that name a source file are ever
/// written to.
///
/// Several lists hold one track of picture each; a list may also name V, V2, A, A2, AA, AA/V. A dissolve
/// or wipe is two lines of one number, where the first has no length of its own and its media goes on
/// through the transition. Speeds stand in M2 lines, in frames of media a second. The rate stands
/// nowhere: it is the one that is given, unless the labels count higher.
public final class EditList implements TimelineDocument {
    private static final String LABEL = "\\d{1,2}[:;.]\\d{2}[:;.]\\d{2}[:;.,]\\d{2,3}";
    private static final Pattern EVENT = Pattern.compile("\\s*(\\w{1,8})\\s+(\\S+)\\s+([A-Z0-9/]+)"
            + "\\s+(C|D|W\\d{1,3}|K(?:\\s*[BO])?)\\s+(?:(\\d{1,4})\\s+)?"
            + "(" + LABEL + ")\\s+(" + LABEL + ")\\s+(" + LABEL + ")\\s+(" + LABEL + ").*");
    private static final Pattern SPEED =
            Pattern.compile("\\s*M2\\s+(\\S+)\\s+([+-]?\\d{1,4}(?:\\.\\d{1,3})?)(?:\\s.*)?");
    private static final Pattern COMMENT = Pattern.compile("\\s*+\\*\\s*+([A-Z][A-Z .\\t]*+):(.*)");
    private static final Pattern TITLE = Pattern.compile("\\s*TITLE\\s*:\\s*(.*)");

    private static final String SOURCE_FILE = "SOURCE FILE";

    /// What the line before it was before it was switched; `-` where there was none.
    private static final String BEFORE = "DOCKSORT BEFORE";

    private static final String REVIEW = "DOCKSORT REVIEW";
    private static final String NOTHING = "-";

    /// Media without a reel of its own, and black (common practice, no source).
    private static final String NO_REEL = "AX";

    private static final String BLACK = "BL";

    private final Path file;
    private final FrameRate rate;
    private final Charset charset;
    private final String lineEnd;
    private final List<Row> rows;
    private final List<Edit> edits;
    private final Version version;

    private EditList(Path file, FrameRate rate, Charset charset, String lineEnd, List<String> lines, Version version) {
        this.file = file;
        this.rate = rate;
        this.charset = charset;
        this.lineEnd = lineEnd;
        this.rows = new ArrayList<>(lines.stream().map(Row::new).toList());
        this.edits = edits(rows);
        this.version = version;
    }

    /// A line of the file, and those that were put behind it since.
    private static final class Row {
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

    private List<String> lines() {
        var lines = new ArrayList<String>();
        rows.forEach(row -> row.addTo(lines));
        return lines;
    }

    /// @param usual its rate, unless its labels count higher
    /// @throws InputRefused when it cannot be read, or has no line that is an edit
    public static EditList open(Path file, FrameRate usual) {
        Path absolute = file.toAbsolutePath().normalize();
        var version = new Version(absolute);
        byte[] bytes = Documents.read(file);
        Charset charset = charset(bytes);
        String text = new String(bytes, charset);
        String lineEnd = text.contains("\r\n") ? "\r\n" : text.indexOf('\r') >= 0 ? "\r" : "\n";
        List<String> lines = List.of(text.split(Pattern.quote(lineEnd), -1));
        List<Matcher> edits =
                lines.stream().map(EVENT::matcher).filter(Matcher::matches).toList();
        if (edits.isEmpty()) {
            throw TimelineDocument.refused(
                    file,
                    "no line of it is an edit of a CMX 3600 list",
                    "Export it again as a CMX 3600 edit list (.edl), or as OpenTimelineIO (.otio).");
        }
        return new EditList(absolute, rate(edits, usual), charset, lineEnd, lines, version);
    }

    private static Charset charset(byte[] bytes) {
        try {
            StandardCharsets.UTF_8.newDecoder().decode(ByteBuffer.wrap(bytes));
            return StandardCharsets.UTF_8;
        } catch (CharacterCodingException e) {
            return StandardCharsets.ISO_8859_1; // every byte comes out as it came in
        }
    }

    private static FrameRate rate(List<Matcher> edits, FrameRate usual) {
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

    @Override
    public Path file() {
        return file;
    }

    @Override
    public String name() {
        return lines().stream()
                .map(TITLE::matcher)
                .filter(Matcher::matches)
                .map(title -> title.group(1).strip())
                .filter(title -> !title.isEmpty())
                .findFirst()
                .orElse(String.valueOf(file.getFileName()));
    }

    @Override
    public Optional<FrameRate> rate() {
        return Optional.of(rate);
    }

    @Override
    public Optional<Raster> raster() {
        return Optional.empty(); // an edit list tells none
    }

    @Override
    public Version version() {
        return version;
    }

    /// One edit with where its comments stand.
    private static final class Edit {
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

    private static List<Edit> edits(List<Row> rows) {
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
    private static Optional<Edit> outgoingOf(List<Edit> edits) {
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

    @Override
    public List<TimelineEvent> events() {
        var events = new ArrayList<TimelineEvent>();
        Optional<Timecode> zero = edits.stream()
                .flatMap(edit -> timecode(edit.labels.get(2)).stream())
                .min(java.util.Comparator.comparingLong(Timecode::frameOfDay));
        for (int i = 0; i < edits.size(); i++) {
            Edit edit = edits.get(i);
            long frames = frames(edit.labels.get(2), edit.labels.get(3));
            boolean outgoing = frames == 0
                    && i + 1 < edits.size()
                    && edits.get(i + 1).number.equals(edit.number)
                    && edits.get(i + 1).transitionFrames > 0;
            long used = outgoing ? edits.get(i + 1).transitionFrames : frames;
            long begins = timecode(edit.labels.get(2)).map(Timecode::frameOfDay).orElse(0L)
                    - zero.map(Timecode::frameOfDay).orElse(0L);
            events.add(new TimelineEvent(
                    events.size() + 1,
                    edit.track,
                    name(edit, outgoing),
                    rate.secondsOf(Math.max(0, begins)),
                    used,
                    edit.track.startsWith("A") && !edit.track.contains("V")
                            ? TimelineEvent.Kind.SOUND
                            : TimelineEvent.Kind.PICTURE,
                    mention(edit, outgoing),
                    outgoing || edit.transitionFrames == 0
                            ? TimelineEvent.Transition.NONE
                            : new TimelineEvent.Transition(Rational.ZERO, rate.secondsOf(edit.transitionFrames)),
                    TimelineEvent.Overlap.NONE, // its timecodes count transitions in
                    use(edit, used, outgoing)));
        }
        return events;
    }

    private SourceUse use(Edit edit, long used, boolean outgoing) {
        Rational speed = Rational.of(1);
        if (!edit.speed.isEmpty()) {
            speed = Rational.parse(edit.speed.replace("+", "")).dividedBy(Rational.of(rate.nominal()));
        }
        String out = outgoing
                ? timecode(edit.labels.get(1)).map(t -> t.plus(used).toString()).orElse(edit.labels.get(1))
                : edit.labels.get(1);
        return new SourceUse.Labels(edit.labels.get(0), out, rate, used, speed);
    }

    private static String name(Edit edit, boolean outgoing) {
        boolean incoming = !outgoing && edit.transitionFrames > 0 && !edit.toName.isEmpty();
        String name = incoming ? edit.toName : edit.fromName;
        return name.isEmpty() ? edit.reel : name;
    }

    private static Mention mention(Edit edit, boolean outgoing) {
        if (edit.isBlack()) {
            return Mention.NONE;
        }
        List<String> others = edit.before
                .map(Row::value)
                .filter(kept -> !kept.equals(NOTHING))
                .map(List::of)
                .orElse(List.of());
        String name = name(edit, outgoing);
        return new Mention(
                address(edit),
                others,
                edit.reel.equalsIgnoreCase(NO_REEL) ? "" : edit.reel,
                name.equals(edit.reel) ? "" : name,
                "");
    }

    private static String address(Edit edit) {
        return edit.sourceFile
                .map(Row::value)
                .filter(value -> !value.equals(NOTHING))
                .orElse("");
    }

    private long frames(String in, String out) {
        return timecode(in)
                .flatMap(from -> timecode(out).map(to -> Math.max(0, to.frameOfDay() - from.frameOfDay())))
                .orElse(0L);
    }

    private Optional<Timecode> timecode(String label) {
        try {
            return Optional.of(Timecode.parse(label, rate));
        } catch (IllegalArgumentException e) {
            return Optional.empty();
        }
    }

    @Override
    public boolean point(int number, MediaTarget target, Predicate<String> leadsToOriginal) {
        Edit edit = edits.get(number - 1);
        String now = address(edit);
        Optional<String> kept = edit.before.map(Row::value);
        if (!target.anew() && kept.isPresent() && isKept(kept.get(), target, leadsToOriginal)) {
            takeBack(edit, kept.get());
            return true;
        }
        // Without a file's name the list speaks of the recording itself.
        boolean right = target.isOriginal() ? now.isEmpty() || leadsToOriginal.test(now) : now.equals(target.address());
        if (now.equals(target.address()) || (right && !target.anew())) {
            return false;
        }
        if (edit.sourceFile.isEmpty()) {
            var named = new Row("* " + SOURCE_FILE + ": " + target.address());
            placeFor(edit).behind.add(named);
            edit.sourceFile = Optional.of(named);
            keep(edit, named, NOTHING);
        } else {
            Row named = edit.sourceFile.get();
            named.text = withValue(named.text, target.address());
            if (edit.before.isEmpty() && !target.anew()) {
                keep(edit, named, now.isEmpty() ? NOTHING : now);
            }
        }
        return true;
    }

    /// A file of the incoming side alone would be read as the outgoing side's, where no name stands
    /// before it.
    private Row placeFor(Edit edit) {
        int index = edits.indexOf(edit);
        Optional<Edit> outgoing = outgoingOf(edits.subList(0, index + 1)).filter(before -> !before.isBlack());
        if (edit.toName.isEmpty()
                && outgoing.isPresent()
                && outgoing.get().sourceFile.isEmpty()) {
            var nothing = new Row("* " + SOURCE_FILE + ": " + NOTHING);
            edit.anchor.behind.add(nothing);
            outgoing.get().sourceFile = Optional.of(nothing);
            keep(outgoing.get(), nothing, NOTHING);
        }
        return edit.anchor;
    }

    private static void keep(Edit edit, Row named, String value) {
        var before = new Row("* " + BEFORE + ": " + value);
        named.behind.addFirst(before);
        edit.before = Optional.of(before);
    }

    private static boolean isKept(String kept, MediaTarget target, Predicate<String> leadsToOriginal) {
        return target.isOriginal() ? kept.equals(NOTHING) || leadsToOriginal.test(kept) : kept.equals(target.address());
    }

    private static void takeBack(Edit edit, String kept) {
        edit.before.ifPresent(row -> row.gone = true);
        edit.before = Optional.empty();
        if (kept.equals(NOTHING)) {
            edit.sourceFile.ifPresent(row -> row.gone = true);
            edit.sourceFile = Optional.empty();
        } else {
            edit.sourceFile.ifPresent(row -> row.text = withValue(row.text, kept));
        }
    }

    private static String withValue(String line, String value) {
        int colon = line.indexOf(':');
        String gap = line.substring(colon + 1).isBlank()
                ? " "
                : line.substring(colon + 1).replaceAll("\\S.*", "");
        return line.substring(0, colon + 1) + gap + value;
    }

    @Override
    public void markReview(String words) {
        var title = rows.stream()
                .filter(row -> TITLE.matcher(row.text).matches())
                .findFirst()
                .orElse(rows.getFirst());
        rows.stream().filter(row -> isReview(row)).forEach(row -> row.gone = true);
        title.behind.removeIf(EditList::isReview);
        if (!words.isEmpty()) {
            title.behind.addFirst(new Row("* " + REVIEW + ": " + words));
        }
    }

    private static boolean isReview(Row row) {
        Matcher comment = COMMENT.matcher(row.text);
        return comment.matches() && comment.group(1).strip().equals(REVIEW);
    }

    @Override
    public String reviewMark() {
        return lines().stream()
                .map(Row::new)
                .filter(EditList::isReview)
                .map(Row::value)
                .findFirst()
                .orElse("");
    }

    @Override
    public byte[] bytes() {
        String text = String.join(lineEnd, lines());
        boolean fits = charset.newEncoder().canEncode(text);
        return text.getBytes(fits ? charset : StandardCharsets.UTF_8);
    }

    @Override
    public EditList copy() {
        return new EditList(file, rate, charset, lineEnd, lines(), version);
    }

    // Writing a list from nothing

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
                text.append(row(number, fromBlack ? BLACK : reel(from.reel), edit.track, "C", "", at, at, edit, true));
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
                    name(text, SOURCE_FILE, from.sourceFile.isEmpty() ? NOTHING : from.sourceFile);
                }
                name(text, "TO CLIP NAME", edit.clipName);
            } else {
                text.append(
                        row(number, reel(edit.reel), edit.track, "C", "", edit.sourceIn, edit.sourceOut, edit, false));
                name(text, "FROM CLIP NAME", edit.clipName);
            }
            name(text, SOURCE_FILE, edit.sourceFile);
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
        return plain.isEmpty() ? NO_REEL : plain;
    }
}
