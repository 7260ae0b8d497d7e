package docksort.stock;

import docksort.arrival.Clip;
import docksort.catalogue.WorkingCopy;
import docksort.files.Cells;
import docksort.files.Pages;
import docksort.media.ClipFacts;
import docksort.media.VideoFacts;
import docksort.sort.CopyKind;
import java.io.IOException;
import java.io.StringWriter;
import java.io.UncheckedIOException;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVPrinter;

/// Which clips have which kinds of copies, who lacks one, and whose copy is unlike those of its camera's
/// rest.
public record Coverage(List<Row> rows) {
    public Coverage {
        rows = List.copyOf(rows);
    }

    /// One clip.
    ///
    /// @param oddities in which a copy differs from what most clips of its kind have, in words
    public record Row(StockLine line, List<String> oddities) {
        public Row {
            oddities = List.copyOf(oddities);
        }

        public Optional<WorkingCopy> copy(CopyKind kind) {
            return line.copies().stream()
                    .filter(copy -> copy.kind() == kind)
                    .max(Comparator.comparing((WorkingCopy copy) -> copy.mayServe())
                            .thenComparing(WorkingCopy::id));
        }

        /// Whether a ready copy of a kind stands for it.
        public boolean has(CopyKind kind) {
            return line.copies().stream().anyMatch(copy -> copy.kind() == kind && copy.mayServe());
        }

        /// Whether it has a ready copy that does not serve, because another does or it was stopped.
        public boolean hasUnused() {
            return line.copies().stream()
                    .anyMatch(copy -> copy.state().serves()
                            && !copy.file().equals(line.served().file()));
        }
    }

    public static Coverage of(List<StockLine> stock) {
        Map<String, Map<String, Integer>> usual = new HashMap<>();
        for (StockLine line : stock) {
            for (WorkingCopy copy : line.copies()) {
                if (copy.mayServe()) {
                    usual.computeIfAbsent(group(line.clip(), copy), _ -> new HashMap<>())
                            .merge(form(line.clip(), copy), 1, Integer::sum);
                }
            }
        }
        var rows = new ArrayList<Row>();
        for (StockLine line : stock) {
            var oddities = new ArrayList<String>();
            for (WorkingCopy copy : line.copies()) {
                if (copy.mayServe()) {
                    Map<String, Integer> forms = usual.getOrDefault(group(line.clip(), copy), Map.of());
                    String own = form(line.clip(), copy);
                    forms.entrySet().stream()
                            .max(Map.Entry.<String, Integer>comparingByValue()
                                    .thenComparing(Map.Entry.comparingByKey()))
                            .filter(most -> !most.getKey().equals(own) && most.getValue() > forms.getOrDefault(own, 0))
                            .ifPresent(most -> oddities.add(copy.kind().label() + " copy is " + own + ", the rest of"
                                    + " its camera has " + most.getKey()));
                }
            }
            rows.add(new Row(line, oddities));
        }
        return new Coverage(rows);
    }

    /// Clips of one camera's setting: same arrival, codec and raster.
    private static String group(Clip clip, WorkingCopy copy) {
        String picture = clip.facts()
                .video()
                .map(v -> v.codec().label() + " " + v.raster() + " " + v.rate())
                .orElse("sound");
        return clip.arrival() + " " + copy.kind() + " " + picture;
    }

    private static String form(Clip clip, WorkingCopy copy) {
        String raster = copy.place().width() + "×" + copy.place().height();
        return copy.place().codec() + " " + raster + fraction(clip.facts(), copy);
    }

    private static String fraction(ClipFacts facts, WorkingCopy copy) {
        int height = facts.video()
                .map(VideoFacts::displayRaster)
                .map(r -> r.height())
                .orElse(0);
        int own = copy.place().height();
        return own > 0 && height > own && height % own == 0 ? " (1/" + height / own + ")" : "";
    }

    public List<Row> lacking(CopyKind kind) {
        return rows.stream().filter(row -> !row.has(kind)).toList();
    }

    private static final List<CopyKind> KINDS = List.of(CopyKind.LIGHT, CopyKind.FULL, CopyKind.RANGE);

    private static final List<String> HEAD = List.of(
            "clip",
            "original",
            "original is",
            "light",
            "light file",
            "full",
            "full file",
            "range",
            "range file",
            "served by",
            "file that serves",
            "made but not used",
            "unlike its camera's rest");

    /// The matrix of clips and kinds as a table, a clip a line.
    public List<List<String>> table() {
        var table = new ArrayList<List<String>>();
        table.add(HEAD);
        for (Row row : rows) {
            var cells = new ArrayList<String>(List.of(
                    row.line.clip().name(),
                    row.line.clip().source().head().toString(),
                    row.line.presence().state().label()));
            for (CopyKind kind : KINDS) {
                Optional<WorkingCopy> copy = row.copy(kind);
                cells.add(copy.map(each -> each.service().stopped()
                                ? each.state().label() + ", not in use"
                                : each.state().label())
                        .orElse("none"));
                cells.add(copy.map(each -> each.file().toString()).orElse(""));
            }
            cells.add(row.line.served().label());
            cells.add(row.line.served().file().toString());
            cells.add(row.hasUnused() ? "yes" : "no");
            cells.add(String.join("; ", row.oddities));
            table.add(cells);
        }
        return table;
    }

    /// The same as a page to read and print.
    public String html(String project, Instant at) {
        List<List<String>> table = table();
        return Pages.fill(
                Coverage.class,
                "coverage.ftlh",
                Map.of(
                        "project", project,
                        "at", at.truncatedTo(ChronoUnit.SECONDS).toString(),
                        "clips", rows.size(),
                        "light", lacking(CopyKind.LIGHT).size(),
                        "full", lacking(CopyKind.FULL).size(),
                        "head", table.getFirst(),
                        "rows", table.subList(1, table.size())));
    }

    public String csv() {
        var text = new StringWriter();
        try (var printer = new CSVPrinter(text, CSVFormat.RFC4180)) {
            for (List<?> row : table()) {
                printer.printRecord(Cells.harmless(row.toArray()));
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        return text.toString();
    }
}
