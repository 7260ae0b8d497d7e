package docksort.stock;

import docksort.arrival.Clip;
import docksort.files.Cells;
import docksort.files.Pages;
import docksort.media.AudioStream;
import docksort.media.ByteSize;
import docksort.media.ClipFacts;
import docksort.media.Timecode;
import docksort.media.VideoFacts;
import docksort.run.ProgramVersion;
import docksort.strain.Strain;
import java.io.IOException;
import java.io.StringWriter;
import java.io.UncheckedIOException;
import java.time.Instant;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVPrinter;

/// What came in, for people who do not have the project: every card with its clips, their facts, how hard
/// they are, what differs from the project's timeline, and what is missing.
///
/// @param timeline the project's timeline in words
public record ArrivalReport(String project, Instant at, String timeline, List<Card> cards) {
    private static final List<String> HEAD = List.of(
            "Card",
            "Clip",
            "Codec",
            "Depth, chroma",
            "Raster",
            "Rate",
            "Frames",
            "Duration",
            "Timecode",
            "Reel",
            "Sound",
            "Colour",
            "Shot",
            "Size",
            "Bytes",
            "Verdict",
            "Why",
            "Differs in",
            "Missing",
            "File");

    public ArrivalReport {
        cards = List.copyOf(cards);
    }

    /// One arrival.
    ///
    /// @param unreadable files that cannot be used, with the reason
    /// @param alone small files whose original is not there
    public record Card(String name, String folder, List<Row> rows, Map<String, String> unreadable, List<String> alone) {
        public Card {
            rows = List.copyOf(rows);
            unreadable = Map.copyOf(unreadable);
            alone = List.copyOf(alone);
        }
    }

    /// One clip.
    ///
    /// @param differs in what it differs from the project's timeline
    /// @param missing what is not there, or not known
    /// @param pictures files of pictures of it, as the page names them
    public record Row(Clip clip, Strain strain, List<String> differs, List<String> missing, List<String> pictures) {
        public Row {
            differs = List.copyOf(differs);
            missing = List.copyOf(missing);
            pictures = List.copyOf(pictures);
        }
    }

    /// What of a clip is not there or not known, as far as its own facts tell.
    public static List<String> missing(ClipFacts facts) {
        var missing = new ArrayList<String>(facts.complaints());
        if (!facts.lacking().isEmpty()) {
            missing.add("nothing states its " + String.join(", ", facts.lacking()));
        }
        if (facts.isRateOpen()) {
            missing.add("nobody has said yet at which rate it is read");
        }
        facts.findings().contradictions().forEach(two -> missing.add(two.label()));
        return missing;
    }

    private List<Object> cells(Card card, Row row) {
        ClipFacts facts = row.clip.facts();
        return List.of(
                card.name,
                row.clip.name(),
                codec(facts),
                facts.video().map(v -> v.pixels().label()).orElse(""),
                facts.video().map(v -> v.raster().toString()).orElse(""),
                facts.video().map(ArrivalReport::rate).orElse(""),
                facts.video().map(v -> (Object) v.frames().count()).orElse(""),
                duration(facts),
                facts.startTimecode().map(Timecode::toString).orElse(""),
                facts.reel().orElse(""),
                facts.audio().stream().map(AudioStream::label).collect(Collectors.joining("; ")),
                facts.video().map(v -> v.colour().label()).orElse(""),
                facts.recordedAt().orElse(""),
                facts.size().toString(),
                facts.size().bytes(),
                row.strain.verdict().label(),
                row.strain.firstReason(),
                String.join("; ", row.differs),
                String.join("; ", row.missing),
                row.clip.source().head().toString());
    }

    private static String codec(ClipFacts facts) {
        boolean raw = facts.findings().outOfReach().isPresent();
        return facts.video().map(v -> v.codec().label()).orElse(raw ? "camera raw" : "sound only");
    }

    private static String rate(VideoFacts video) {
        return video.rate().label() + " fps"
                + switch (video.rateKind()) {
                    case CONSTANT -> "";
                    case VARIABLE -> ", variable";
                    case UNSTATED -> ", not stated";
                    case INTERPRETED -> ", read as";
                };
    }

    /// Hours, minutes, seconds and tenths.
    private static String duration(ClipFacts facts) {
        long tenths = Math.round(facts.seconds().toDouble() * 10);
        return String.format(
                Locale.ROOT, "%d:%02d:%02d.%d", tenths / 36_000, tenths / 600 % 60, tenths / 10 % 60, tenths % 10);
    }

    /// Every clip a line, and every file that cannot be used; RFC 4180.
    public String csv() {
        var text = new StringWriter();
        try (var printer = new CSVPrinter(text, CSVFormat.RFC4180)) {
            printer.printRecord(HEAD);
            for (Card card : cards) {
                for (Row row : card.rows) {
                    printer.printRecord(Cells.harmless(cells(card, row).toArray()));
                }
                for (Map.Entry<String, String> bad : sorted(card.unreadable)) {
                    var cells = new ArrayList<Object>(HEAD.stream().map(_ -> "").toList());
                    cells.set(0, card.name);
                    cells.set(HEAD.indexOf("Verdict"), "cannot be read");
                    cells.set(HEAD.indexOf("Why"), bad.getValue());
                    cells.set(HEAD.indexOf("File"), bad.getKey());
                    printer.printRecord(Cells.harmless(cells.toArray()));
                }
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        return text.toString();
    }

    private static List<Map.Entry<String, String>> sorted(Map<String, String> files) {
        return files.entrySet().stream().sorted(Map.Entry.comparingByKey()).toList();
    }

    /// A page to read and print, each card on a sheet of its own.
    public String html() {
        var zone = ZoneId.systemDefault();
        var time = DateTimeFormatter.ofPattern("yyyy-MM-dd HH:mm", Locale.ROOT).withZone(zone);
        return Pages.fill(
                ArrivalReport.class,
                "arrivals.ftlh",
                Map.of(
                        "project",
                        project,
                        "at",
                        time.format(at),
                        "zone",
                        zone.getId(),
                        "timeline",
                        timeline,
                        "version",
                        ProgramVersion.TEXT,
                        "cards",
                        cards.stream().map(this::page).toList()));
    }

    private Map<String, Object> page(Card card) {
        long bytes = card.rows.stream()
                .mapToLong(row -> row.clip.facts().size().bytes())
                .sum();
        return Map.of(
                "name", card.name,
                "folder", card.folder,
                "clips", Integer.toString(card.rows.size()),
                "size", new ByteSize(bytes).toString(),
                "rows", card.rows.stream().map(ArrivalReport::line).toList(),
                "unreadable",
                        sorted(card.unreadable).stream()
                                .map(bad -> Map.of("file", bad.getKey(), "why", bad.getValue()))
                                .toList(),
                "alone", card.alone);
    }

    private static Map<String, Object> line(Row row) {
        ClipFacts facts = row.clip.facts();
        List<String> words = Stream.of(
                        codec(facts),
                        facts.video().map(v -> v.pixels().label()).orElse(""),
                        facts.video().map(v -> v.raster().toString()).orElse(""),
                        facts.video().map(ArrivalReport::rate).orElse(""),
                        facts.video().map(v -> v.colour().label()).orElse(""))
                .filter(text -> !text.isEmpty())
                .toList();
        return Map.ofEntries(
                Map.entry("name", row.clip.name()),
                Map.entry("pictures", row.pictures),
                Map.entry("picture", String.join(" · ", words)),
                Map.entry("duration", duration(facts)),
                Map.entry(
                        "timecode",
                        facts.startTimecode().map(Timecode::toString).orElse("no timecode")),
                Map.entry("reel", facts.reel().orElse("")),
                Map.entry(
                        "sound", facts.audio().stream().map(AudioStream::label).collect(Collectors.joining("; "))),
                Map.entry("size", facts.size().toString()),
                Map.entry("verdict", row.strain.verdict().label()),
                Map.entry("why", row.strain.firstReason()),
                Map.entry("differs", row.differs),
                Map.entry("missing", row.missing));
    }
}
