package docksort.timeline;

import docksort.files.Documents;
import docksort.media.FrameRate;
import docksort.media.Raster;
import docksort.media.Rational;
import docksort.media.Timecode;
import docksort.timeline.EditLines.Edit;
import docksort.timeline.EditLines.Row;
import java.nio.ByteBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
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

    private static final Pattern TITLE = Pattern.compile("\\s*TITLE\\s*:\\s*(.*)");

    private static final String REVIEW = "DOCKSORT REVIEW";

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
        this.edits = EditLines.of(rows);
        this.version = version;
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
        List<Matcher> edits = lines.stream()
                .map(EditLines.EVENT::matcher)
                .filter(Matcher::matches)
                .toList();
        if (edits.isEmpty()) {
            throw TimelineDocument.refused(
                    file,
                    "no line of it is an edit of a CMX 3600 list",
                    "Export it again as a CMX 3600 edit list (.edl), or as OpenTimelineIO (.otio).");
        }
        return new EditList(absolute, EditLines.rate(edits, usual), charset, lineEnd, lines, version);
    }

    private static Charset charset(byte[] bytes) {
        try {
            StandardCharsets.UTF_8.newDecoder().decode(ByteBuffer.wrap(bytes));
            return StandardCharsets.UTF_8;
        } catch (CharacterCodingException e) {
            return StandardCharsets.ISO_8859_1; // every byte comes out as it came in
        }
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

    @Override
    public List<TimelineEvent> events() {
        var events = new ArrayList<TimelineEvent>();
        Optional<Timecode> zero = edits.stream()
                .flatMap(edit -> timecode(edit.labels.get(2)).stream())
                .min(Comparator.comparingLong(Timecode::frameOfDay));
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
                .filter(kept -> !kept.equals(EditLines.NOTHING))
                .map(List::of)
                .orElse(List.of());
        String name = name(edit, outgoing);
        return new Mention(
                address(edit),
                others,
                edit.reel.equalsIgnoreCase(EditLines.NO_REEL) ? "" : edit.reel,
                name.equals(edit.reel) ? "" : name,
                "");
    }

    private static String address(Edit edit) {
        return edit.sourceFile
                .map(Row::value)
                .filter(value -> !value.equals(EditLines.NOTHING))
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
            var named = new Row("* " + EditLines.SOURCE_FILE + ": " + target.address());
            placeFor(edit).behind.add(named);
            edit.sourceFile = Optional.of(named);
            keep(edit, named, EditLines.NOTHING);
        } else {
            Row named = edit.sourceFile.get();
            named.text = withValue(named.text, target.address());
            if (edit.before.isEmpty() && !target.anew()) {
                keep(edit, named, now.isEmpty() ? EditLines.NOTHING : now);
            }
        }
        return true;
    }

    /// A file of the incoming side alone would be read as the outgoing side's, where no name stands
    /// before it.
    private Row placeFor(Edit edit) {
        int index = edits.indexOf(edit);
        Optional<Edit> outgoing =
                EditLines.outgoingOf(edits.subList(0, index + 1)).filter(before -> !before.isBlack());
        if (edit.toName.isEmpty()
                && outgoing.isPresent()
                && outgoing.get().sourceFile.isEmpty()) {
            var nothing = new Row("* " + EditLines.SOURCE_FILE + ": " + EditLines.NOTHING);
            edit.anchor.behind.add(nothing);
            outgoing.get().sourceFile = Optional.of(nothing);
            keep(outgoing.get(), nothing, EditLines.NOTHING);
        }
        return edit.anchor;
    }

    private static void keep(Edit edit, Row named, String value) {
        var before = new Row("* " + EditLines.BEFORE + ": " + value);
        named.behind.addFirst(before);
        edit.before = Optional.of(before);
    }

    private static boolean isKept(String kept, MediaTarget target, Predicate<String> leadsToOriginal) {
        return target.isOriginal()
                ? kept.equals(EditLines.NOTHING) || leadsToOriginal.test(kept)
                : kept.equals(target.address());
    }

    private static void takeBack(Edit edit, String kept) {
        edit.before.ifPresent(row -> row.gone = true);
        edit.before = Optional.empty();
        if (kept.equals(EditLines.NOTHING)) {
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
        Matcher comment = EditLines.COMMENT.matcher(row.text);
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
}
