package docksort.run;

import docksort.files.Cells;
import docksort.files.Documents;
import docksort.files.Pages;
import docksort.media.ByteSize;
import java.io.IOException;
import java.io.StringWriter;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Instant;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.stream.Collectors;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVPrinter;

/// A run as a document: every copy with its recipe, its figures and what its check found. As HTML to
/// read, as CSV (RFC 4180) to count with.
///
/// @param project the project's name
/// @param started when the run began, which names it
public record RunReport(String project, Instant started, List<RunLine> lines) {
    public RunReport {
        lines = List.copyOf(lines);
    }

    /// Writes `report.html` or `report.csv`, by the ending; an older file of that name is replaced.
    public void write(Path file) {
        boolean table = file.toString().toLowerCase(Locale.ROOT).endsWith(".csv");
        Documents.replace(file, (table ? csv() : html()).getBytes(StandardCharsets.UTF_8));
    }

    public long ready() {
        return lines.stream().filter(line -> line.state().equals("ready")).count();
    }

    public long failed() {
        return lines.size() - ready();
    }

    /// Bytes of all copies that are ready.
    public long bytes() {
        return lines.stream().mapToLong(RunLine::bytes).sum();
    }

    /// Bytes of their originals, each counted once; 0 where that was not kept.
    public long originalBytes() {
        return lines.stream()
                .collect(Collectors.toMap(RunLine::original, RunLine::originalBytes, Math::max))
                .values()
                .stream()
                .mapToLong(Long::longValue)
                .sum();
    }

    public String html() {
        var zone = ZoneId.systemDefault();
        var time =
                DateTimeFormatter.ofPattern("yyyy-MM-dd HH:mm:ss", Locale.ROOT).withZone(zone);
        return Pages.fill(
                RunReport.class,
                "report.ftlh",
                Map.of(
                        "project", project,
                        "version", ProgramVersion.TEXT,
                        "started", time.format(started),
                        "ended", time.format(ended()),
                        "zone", zone.getId(),
                        "ready", ready(),
                        "failed", failed(),
                        "bytes", size(bytes()),
                        "originals", originalBytes() == 0 ? "" : size(originalBytes()),
                        "lines", lines.stream().map(RunReport::row).toList()));
    }

    /// When the last of its copies came to its end.
    public Instant ended() {
        return lines.stream()
                .map(line -> Instant.ofEpochMilli(line.endedMillis()))
                .max(Instant::compareTo)
                .orElse(started);
    }

    private static String size(long bytes) {
        return new ByteSize(bytes).toString();
    }

    private static Map<String, Object> row(RunLine line) {
        return Map.ofEntries(
                Map.entry("clip", line.clip()),
                Map.entry("original", line.original()),
                Map.entry("recipe", line.recipe()),
                Map.entry("file", line.file()),
                Map.entry("state", line.state()),
                Map.entry("words", line.words()),
                Map.entry("frames", Long.toString(line.frames())),
                Map.entry("bytes", line.bytes() == 0 ? "" : size(line.bytes())),
                Map.entry("originalBytes", line.originalBytes() == 0 ? "" : size(line.originalBytes())),
                Map.entry("making", seconds(line.makingSeconds())),
                Map.entry("checking", seconds(line.checkingSeconds())),
                Map.entry(
                        "times",
                        line.timesRealTime() == 0 ? "" : String.format(Locale.ROOT, "%.1f", line.timesRealTime())),
                Map.entry("encoder", line.encoder()),
                Map.entry("together", line.together() > 1 ? "with " + (line.together() - 1) + " more" : ""),
                Map.entry("segments", line.segments() > 1 ? "in " + line.segments() + " segments" : ""),
                Map.entry("findings", line.findings()));
    }

    private static String seconds(double seconds) {
        return seconds == 0 ? "" : String.format(Locale.ROOT, "%.1f s", seconds);
    }

    public String csv() {
        var out = new StringWriter();
        CSVFormat format = CSVFormat.RFC4180
                .builder()
                .setHeader(
                        "clip",
                        "original",
                        "recipe",
                        "copy",
                        "state",
                        "begun (UTC)",
                        "ended (UTC)",
                        "frames",
                        "bytes",
                        "bytes of the original",
                        "making (s)",
                        "check (s)",
                        "times real time",
                        "encoder",
                        "copies from the same decode",
                        "segments",
                        "check or cause")
                .get();
        try (var printer = new CSVPrinter(out, format)) {
            for (RunLine line : lines) {
                printer.printRecord(Cells.harmless(
                        line.clip(),
                        line.original(),
                        line.recipe(),
                        line.file(),
                        line.state(),
                        Instant.ofEpochMilli(line.begunMillis()),
                        Instant.ofEpochMilli(line.endedMillis()),
                        line.frames(),
                        line.bytes(),
                        line.originalBytes(),
                        number(line.makingSeconds()),
                        number(line.checkingSeconds()),
                        number(line.timesRealTime()),
                        line.encoder(),
                        line.together(),
                        line.segments(),
                        line.state().equals("ready") ? findings(line) : line.words()));
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        return out.toString();
    }

    private static String findings(RunLine line) {
        return String.join(
                "; ",
                line.findings().stream()
                        .map(finding -> finding.fact() + ": " + finding.found())
                        .toList());
    }

    private static String number(double value) {
        return String.format(Locale.ROOT, "%.3f", value);
    }
}
