package docksort.dispatch;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import docksort.dispatch.DepartureCheck.Condition;
import docksort.dispatch.DepartureCheck.FileSum;
import docksort.dispatch.DepartureCheck.Finding;
import docksort.files.Documents;
import docksort.files.Pages;
import docksort.media.ByteSize;
import docksort.run.ProgramVersion;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Instant;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;

/// A departure check as a document that somebody signs off: as HTML to read, as JSON to keep and compute
/// with.
///
/// @param timeline the file that left, or was to leave
/// @param timelineSum its XXH64 checksum, empty where it was not written
/// @param signedBy who let it leave, or only checked it
/// @param override why it left although the check did not pass
public record DepartureReport(
        String project,
        Path timeline,
        String timelineSum,
        Instant at,
        String signedBy,
        Optional<String> override,
        DepartureCheck check) {

    /// In one word.
    public String result() {
        if (!check.complete()) {
            return "not finished";
        }
        return check.passes() ? "passed" : override.isPresent() ? "let go by name and reason" : "blocked";
    }

    /// Writes HTML or JSON, by the ending; an older file of that name is replaced.
    public void write(Path file) {
        boolean json = file.toString().toLowerCase(Locale.ROOT).endsWith(".json");
        Documents.replace(file, (json ? json() : html()).getBytes(StandardCharsets.UTF_8));
    }

    public String json() {
        var mapper = new ObjectMapper();
        ObjectNode root = mapper.createObjectNode();
        root.put("project", project)
                .put("timeline", timeline.toString())
                .put("timelineXxh64", timelineSum)
                .put("checkedXxh64", check.evidence().digest())
                .put("at", at.toString())
                .put("signedBy", signedBy)
                .put("purpose", check.purpose().name().toLowerCase(Locale.ROOT))
                .put("result", result())
                .put("program", "Dock Sort " + ProgramVersion.TEXT);
        override.ifPresent(reason -> root.put("override", reason));
        ArrayNode conditions = root.putArray("conditions");
        for (Condition condition : Condition.values()) {
            conditions
                    .addObject()
                    .put("condition", condition.name().toLowerCase(Locale.ROOT))
                    .put("says", condition.label())
                    .put("holds", !check.failed(condition));
        }
        ArrayNode findings = root.putArray("findings");
        for (Finding finding : check.findings()) {
            findings.addObject()
                    .put("condition", finding.condition().name().toLowerCase(Locale.ROOT))
                    .put("event", finding.event())
                    .put("subject", finding.subject())
                    .put("words", finding.words())
                    .put("blocks", finding.blocks());
        }
        ArrayNode files = root.putArray("files");
        for (FileSum file : check.files()) {
            files.addObject()
                    .put("file", file.file().toString())
                    .put("bytes", file.bytes())
                    .put("xxh64", file.sum());
        }
        try {
            return mapper.writerWithDefaultPrettyPrinter().writeValueAsString(root) + "\n";
        } catch (JsonProcessingException e) {
            throw new IllegalStateException("a report cannot be written", e);
        }
    }

    public String html() {
        var zone = ZoneId.systemDefault();
        var time =
                DateTimeFormatter.ofPattern("yyyy-MM-dd HH:mm:ss", Locale.ROOT).withZone(zone);
        List<Map<String, Object>> conditions = new ArrayList<>();
        for (Condition condition : Condition.values()) {
            conditions.add(Map.of("label", condition.label(), "holds", !check.failed(condition)));
        }
        return Pages.fill(
                DepartureReport.class,
                "departure.ftlh",
                Map.ofEntries(
                        Map.entry("project", project),
                        Map.entry("timeline", timeline.toString()),
                        Map.entry("sum", timelineSum),
                        Map.entry("at", time.format(at)),
                        Map.entry("zone", zone.getId()),
                        Map.entry("signedBy", signedBy),
                        Map.entry("purpose", check.purpose().label()),
                        Map.entry("review", check.purpose() == DepartureCheck.Purpose.REVIEW),
                        Map.entry("result", result()),
                        Map.entry("override", override.orElse("")),
                        Map.entry("version", ProgramVersion.TEXT),
                        Map.entry("events", Integer.toString(check.events())),
                        Map.entry("conditions", conditions),
                        Map.entry(
                                "findings",
                                check.findings().stream()
                                        .map(DepartureReport::row)
                                        .toList()),
                        Map.entry(
                                "files",
                                check.files().stream().map(DepartureReport::row).toList())));
    }

    private static Map<String, Object> row(Finding finding) {
        return Map.of(
                "condition", finding.condition().label(),
                "event", finding.event() == 0 ? "" : Integer.toString(finding.event()),
                "subject", finding.subject(),
                "words", finding.words(),
                "word", finding.blocks() ? "blocks" : "remark");
    }

    private static Map<String, Object> row(FileSum file) {
        return Map.of(
                "file", file.file().toString(),
                "bytes", new ByteSize(file.bytes()).toString(),
                "sum", file.sum());
    }
}
