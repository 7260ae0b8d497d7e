package docksort.timeline;

import docksort.files.Documents;
import docksort.media.FrameRate;
import docksort.media.Raster;
import docksort.media.Rational;
import docksort.media.Timecode;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.Predicate;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVParser;
import org.apache.commons.csv.CSVRecord;

/// A table of links (CSV, RFC 4180; also with semicolons or tabs): a row for each use of media, columns
/// known by their heading in any order. `file` is needed; `track`, `name`, `reel`, `source in`, `source
/// out`, `record in`, `record out` are read where they are there, `rate`, `frames` and `start timecode`
/// are written where they are there. Other columns, and rows that are not pointed elsewhere, come out as
/// they came in.
public final class LinkTable implements TimelineDocument {
    private static final String FILE = "file";
    private static final String REVIEW = "docksort review";

    private final Path file;
    private final FrameRate rate;
    private final char separator;
    private final String lineEnd;
    private final String mark;
    private final List<List<String>> rows;
    private final List<String> texts;
    private final Version version;

    private LinkTable(
            Path file,
            FrameRate rate,
            char separator,
            String lineEnd,
            String mark,
            List<List<String>> rows,
            List<String> texts,
            Version version) {
        this.file = file;
        this.rate = rate;
        this.separator = separator;
        this.lineEnd = lineEnd;
        this.mark = mark;
        this.rows = new ArrayList<>(
                rows.stream().map(row -> (List<String>) new ArrayList<>(row)).toList());
        this.texts = new ArrayList<>(texts);
        this.version = version;
    }

    /// @param usual rate of the timecodes, unless a row has a column `rate`
    /// @throws InputRefused when it cannot be read as a table, or has no column `file`
    public static LinkTable open(Path file, FrameRate usual) {
        Path absolute = file.toAbsolutePath().normalize();
        var version = new Version(absolute);
        String all = new String(Documents.read(file), StandardCharsets.UTF_8);
        String mark = all.startsWith("\uFEFF") ? "\uFEFF" : "";
        String text = all.substring(mark.length());
        String lineEnd = text.contains("\r\n") ? "\r\n" : "\n";
        String heading = text.lines().findFirst().orElse("");
        char separator = heading.indexOf('\t') >= 0 ? '\t' : heading.indexOf(';') >= 0 ? ';' : ',';
        var rows = new ArrayList<List<String>>();
        var starts = new ArrayList<Integer>();
        try (CSVParser parser = CSVParser.parse(text, format(separator))) {
            for (CSVRecord record : parser) {
                rows.add(List.of(record.values()));
                starts.add((int) record.getCharacterPosition());
            }
        } catch (IOException | UncheckedIOException | IllegalStateException e) {
            throw TimelineDocument.refused(file, "it is no table: " + e.getMessage(), "Export it again as CSV.");
        }
        if (rows.isEmpty()
                || rows.getFirst().stream().noneMatch(name -> named(name).equals(FILE))) {
            throw TimelineDocument.refused(
                    file, "it has no column named file", "Give the column with the media's path the heading file.");
        }
        var texts = new ArrayList<String>();
        for (int i = 0; i < rows.size(); i++) {
            int end = i + 1 < rows.size() ? starts.get(i + 1) : text.length();
            texts.add(text.substring(starts.get(i), end));
        }
        return new LinkTable(absolute, usual, separator, lineEnd, mark, rows, texts, version);
    }

    private static CSVFormat format(char separator) {
        return CSVFormat.RFC4180
                .builder()
                .setDelimiter(separator)
                .setIgnoreEmptyLines(false)
                .get();
    }

    private static String named(String heading) {
        return heading.strip().toLowerCase(Locale.ROOT).replace('_', ' ');
    }

    @Override
    public Path file() {
        return file;
    }

    @Override
    public String name() {
        String name = String.valueOf(file.getFileName());
        return name.substring(0, name.lastIndexOf('.'));
    }

    @Override
    public Optional<FrameRate> rate() {
        return Optional.empty();
    }

    @Override
    public Optional<Raster> raster() {
        return Optional.empty();
    }

    @Override
    public Version version() {
        return version;
    }

    private int column(String name) {
        List<String> heading = rows.getFirst();
        for (int i = 0; i < heading.size(); i++) {
            if (named(heading.get(i)).equals(name)) {
                return i;
            }
        }
        return -1;
    }

    private String value(List<String> row, String... names) {
        for (String name : names) {
            int column = column(name);
            if (column >= 0 && column < row.size() && !row.get(column).isBlank()) {
                return row.get(column).strip();
            }
        }
        return "";
    }

    @Override
    public List<TimelineEvent> events() {
        var events = new ArrayList<TimelineEvent>();
        for (List<String> row : rows.subList(1, rows.size())) {
            if (row.getFirst().startsWith(REVIEW)) {
                continue; // always the last
            }
            String track = value(row, "track");
            FrameRate fps = rateOf(row);
            String in = value(row, "source in");
            String out = value(row, "source out");
            long frames = frames(value(row, "record in"), value(row, "record out"), fps);
            String address = value(row, FILE);
            SourceUse use = in.isEmpty() || out.isEmpty()
                    ? new SourceUse.Whole()
                    : new SourceUse.Labels(in, out, fps, frames, Rational.of(1));
            events.add(new TimelineEvent(
                    events.size() + 1,
                    track,
                    value(row, "name", "clip", "clip name"),
                    timecode(value(row, "record in"), fps)
                            .map(time -> fps.secondsOf(time.frameOfDay()))
                            .orElse(Rational.ZERO),
                    frames > 0 ? frames : frames(in, out, fps),
                    track.toUpperCase(Locale.ROOT).startsWith("A")
                            ? TimelineEvent.Kind.SOUND
                            : TimelineEvent.Kind.PICTURE,
                    new Mention(
                            address,
                            List.of(),
                            value(row, "reel", "tape"),
                            value(row, "clip", "clip name", "name"),
                            ""),
                    TimelineEvent.Transition.NONE,
                    TimelineEvent.Overlap.NONE,
                    use));
        }
        return events;
    }

    private FrameRate rateOf(List<String> row) {
        try {
            String own = value(row, "rate");
            return own.isEmpty() ? rate : FrameRate.parse(own);
        } catch (IllegalArgumentException e) {
            return rate;
        }
    }

    private static Optional<Timecode> timecode(String label, FrameRate rate) {
        try {
            return label.isEmpty() ? Optional.empty() : Optional.of(Timecode.parse(label, rate));
        } catch (IllegalArgumentException e) {
            return Optional.empty();
        }
    }

    private static long frames(String in, String out, FrameRate rate) {
        return timecode(in, rate)
                .flatMap(from -> timecode(out, rate).map(to -> Math.max(0, to.frameOfDay() - from.frameOfDay())))
                .orElse(0L);
    }

    @Override
    public boolean point(int number, MediaTarget target, Predicate<String> leadsToOriginal) {
        List<String> row = rows.get(number);
        String now = value(row, FILE);
        boolean right = target.isOriginal() ? leadsToOriginal.test(now) : now.equals(target.address());
        if (now.equals(target.address()) || (right && !target.anew())) {
            return false;
        }
        put(row, FILE, target.address());
        target.available().ifPresent(held -> {
            put(row, "frames", Long.toString(held.frames()));
            put(row, "rate", held.rate().toString());
            held.timecode().ifPresent(start -> put(row, "start timecode", start.toString()));
        });
        texts.set(number, printed(row));
        return true;
    }

    private void put(List<String> row, String name, String value) {
        int column = column(name);
        if (column >= 0) {
            while (row.size() <= column) {
                row.add("");
            }
            row.set(column, value);
        }
    }

    private String printed(List<String> row) {
        return format(separator).format(row.toArray()) + lineEnd;
    }

    /// Stands as a row of its own at the end, with nothing in the column of files.
    @Override
    public void markReview(String words) {
        for (int i = rows.size() - 1; i > 0; i--) {
            if (rows.get(i).getFirst().startsWith(REVIEW)) {
                rows.remove(i);
                texts.remove(i);
            }
        }
        if (!words.isEmpty()) {
            var row = new ArrayList<>(Collections.nCopies(rows.getFirst().size(), ""));
            row.set(0, REVIEW + ": " + words);
            if (!texts.getLast().endsWith("\n")) {
                texts.set(texts.size() - 1, texts.getLast() + lineEnd);
            }
            rows.add(row);
            texts.add(printed(row));
        }
    }

    @Override
    public String reviewMark() {
        String last = rows.getLast().isEmpty() ? "" : rows.getLast().getFirst();
        return last.startsWith(REVIEW) ? last.substring(REVIEW.length() + 2) : "";
    }

    @Override
    public byte[] bytes() {
        return (mark + String.join("", texts)).getBytes(StandardCharsets.UTF_8);
    }

    @Override
    public LinkTable copy() {
        return new LinkTable(file, rate, separator, lineEnd, mark, rows, texts, version);
    }
}
