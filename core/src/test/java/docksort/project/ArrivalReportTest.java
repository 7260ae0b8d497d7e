package docksort.project;

import static org.assertj.core.api.Assertions.assertThat;

import docksort.Footage;
import docksort.WithMedia;
import docksort.arrival.ScanListener;
import docksort.engine.Cancellation;
import docksort.engine.MediaEngine;
import java.io.StringReader;
import java.net.URI;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.time.InstantSource;
import java.util.List;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import javax.imageio.ImageIO;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVRecord;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/// What came in, written for people who do not have the project.
@WithMedia
class ArrivalReportTest {
    @TempDir
    Path folder = Path.of("");

    private final MediaEngine engine = MediaEngine.locate();
    private Project project;

    @BeforeEach
    void twoCards() throws Exception {
        Path first = Files.createDirectories(folder.resolve("Card 1"));
        Path second = Files.createDirectories(folder.resolve("Card 2"));
        var footage = new Footage(engine);
        footage.clipWithSound(
                first.resolve("=A<001>.mov"), "1280x720", "50", 60, "-c:v", "mjpeg", "-timecode", "10:00:00:00");
        footage.clip(first.resolve("A002.mov"), "1920x1080", "25", 2, "-c:v", "mjpeg");
        Files.writeString(first.resolve("A009.mov"), "no clip");
        footage.clip(second.resolve("shot.%04d.png"), "64x48", "25", 10);
        project = Project.open(
                folder.resolve("Night Optics"), engine, InstantSource.fixed(Instant.parse("2026-03-01T20:00:00Z")));
        for (Path card : List.of(first, second)) {
            project.arrivals().add(card, ScanListener.none(), new Cancellation());
        }
    }

    @AfterEach
    void close() {
        project.close();
        engine.close();
    }

    private String written(String name, boolean pictures) throws Exception {
        Path file = folder.resolve(name);
        assertThat(project.arrivalReports()
                        .write(project.arrivals().all(), file, pictures, (_, _) -> {}, new Cancellation()))
                .isTrue();
        return Files.readString(file);
    }

    @Test
    void theTableHasEveryClipAndEveryFileThatCannotBeRead() throws Exception {
        List<CSVRecord> rows;
        try (var parser = CSVFormat.RFC4180
                .builder()
                .setHeader()
                .setSkipHeaderRecord(true)
                .get()
                .parse(new StringReader(written("came in.csv", true)))) {
            rows = parser.getRecords();
        }
        assertThat(rows)
                .extracting(row -> row.get("Card") + " " + row.get("Clip") + " " + row.get("Verdict"))
                .containsExactly(
                        "Card 1 '=A<001> easy",
                        "Card 1 A002 easy",
                        "Card 1  cannot be read",
                        "Card 2 shot [0001-0010] fair");
        CSVRecord first = rows.getFirst();
        assertThat(first.get("Raster")).isEqualTo("1280×720");
        assertThat(first.get("Duration")).isEqualTo("0:00:01.2"); // 60 frames at 50 a second
        assertThat(first.get("Timecode")).isEqualTo("10:00:00:00");
        assertThat(first.get("Sound")).startsWith("2 ch 48 kHz");
        assertThat(first.get("Differs in")).contains("rate 50");
        assertThat(rows.get(2).get("Why")).isEqualTo("it is text, not media");
        assertThat(rows.get(3).get("Missing")).contains("at which rate");
        assertThat(folder.resolve("came in-pictures")).doesNotExist();
    }

    @Test
    void thePageShowsThreePicturesOfEachClipAndLeadsNowhereElse() throws Exception {
        String page = written("came in #2 100%.html", true);
        List<String> pictures = Pattern.compile("<img src=\"([^\"]+)\"")
                .matcher(page)
                .results()
                .map(found -> URI.create(found.group(1)).getPath())
                .toList();
        assertThat(pictures).hasSize(3 + 1 + 3).doesNotHaveDuplicates(); // A002 has two frames
        for (String picture : pictures) {
            Path file = folder.resolve(picture);
            assertThat(file).isRegularFile();
            assertThat(ImageIO.read(file.toFile()).getWidth()).isEqualTo(224);
        }
        try (Stream<Path> files = Files.list(folder.resolve("came in #2 100%-pictures"))) {
            assertThat(files).hasSize(7);
        }
        assertThat(page)
                .contains(
                        "What came in: Night Optics",
                        "=A&lt;001&gt;",
                        "Card 1",
                        "Card 2",
                        "A009.mov",
                        "it is text, not media")
                .doesNotContain("http:", "https:", "<script");
        assertThat(Pattern.compile("<section>").matcher(page).results().count())
                .as("a sheet for each card")
                .isEqualTo(2);
        assertThat(Files.readAllBytes(folder.resolve(pictures.get(4))))
                .as("stills are shown where they lie in the sequence")
                .isNotEqualTo(Files.readAllBytes(folder.resolve(pictures.get(6))));
    }

    @Test
    void withoutPicturesThereIsNoFolderAndAfterAStopNoPage() throws Exception {
        assertThat(written("facts.html", false)).doesNotContain("<img");
        assertThat(folder.resolve("facts-pictures")).doesNotExist();
        var stopped = new Cancellation();
        stopped.cancel();
        Path file = folder.resolve("stopped.html");
        assertThat(project.arrivalReports().write(project.arrivals().all(), file, true, (_, _) -> {}, stopped))
                .isFalse();
        assertThat(file).doesNotExist();
    }
}
