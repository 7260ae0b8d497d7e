package docksort.run;

import static org.assertj.core.api.Assertions.assertThat;

import docksort.run.CopyCheck.Finding;
import java.io.IOException;
import java.io.StringReader;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.List;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVRecord;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class RunReportTest {
    private static final Instant START = Instant.parse("2026-03-01T22:00:00Z");

    private static RunLine line(String clip, String state, String words, List<Finding> findings) {
        long begun = START.toEpochMilli();
        return new RunLine(
                clip,
                "/card/" + clip + ".mov",
                "ProRes Proxy, 1/2",
                "/copies/" + clip + "_light.mov",
                state,
                words,
                begun,
                begun + 20_000,
                12.5,
                3.25,
                50,
                1_250,
                state.equals("ready") ? 40_000_000 : 0,
                "",
                2,
                1,
                600_000_000,
                findings);
    }

    private static final RunReport REPORT = new RunReport(
            "Night <Optics>",
            START,
            List.of(
                    line("A001", "ready", "frames 1250", List.of(new Finding("frames", "1250", "1250", true))),
                    line("B \"7\", & <script>", "failed", "the volume is full", List.of())));

    @Test
    void theTableHasEveryCopyWithItsFiguresWhateverItsName() throws IOException {
        try (var read = CSVFormat.RFC4180
                .builder()
                .setHeader()
                .setSkipHeaderRecord(true)
                .get()
                .parse(new StringReader(REPORT.csv()))) {
            List<CSVRecord> rows = read.getRecords();
            assertThat(rows).hasSize(2);
            assertThat(rows.get(0).get("making (s)")).isEqualTo("12.500");
            assertThat(rows.get(0).get("bytes of the original")).isEqualTo("600000000");
            assertThat(rows.get(0).get("times real time")).isEqualTo("4.000");
            assertThat(rows.get(0).get("check or cause")).isEqualTo("frames: 1250");
            assertThat(rows.get(0).get("begun (UTC)")).isEqualTo("2026-03-01T22:00:00Z");
            assertThat(rows.get(1).get("clip")).isEqualTo("B \"7\", & <script>");
            assertThat(rows.get(1).get("check or cause")).isEqualTo("the volume is full");
        }
    }

    @Test
    void thePageTellsAllOfItAndTakesNoNameForMarkup(@TempDir Path folder) throws IOException {
        Path file = folder.resolve("report.html");
        REPORT.write(file);
        assertThat(Files.readString(file))
                .contains("1 made and checked, 1 failed, 40.0 MB of originals that have 1.2 GB.")
                .contains("Night &lt;Optics&gt;")
                .contains("the volume is full")
                .contains("<td>frames</td><td>1250</td><td>1250</td><td>holds</td>")
                .doesNotContain("<script>");
        assertThat(new RunReport("empty", START, List.of()).html()).contains("Nothing came to its end");
    }

    /// Two copies of one clip and one of another: three of 40 MB from two originals of 600 MB. The last one ended
    /// twenty seconds after the run began.
    @Test
    void anOriginalOfSeveralCopiesIsCountedOnce() {
        RunLine light = line("A001", "ready", "", List.of());
        var report = new RunReport("x", START, List.of(light, light, line("A002", "ready", "", List.of())));
        assertThat(report.bytes()).isEqualTo(120_000_000);
        assertThat(report.originalBytes()).isEqualTo(1_200_000_000);
        assertThat(report.ended()).isEqualTo(START.plusSeconds(20));
    }

    @Test
    void theVersionIsTheOneThatIsBuilt() throws IOException {
        assertThat(Files.readString(Path.of("pom.xml"))).contains("<version>" + ProgramVersion.TEXT + "</version>");
    }
}
