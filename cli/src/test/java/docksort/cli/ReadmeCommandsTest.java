package docksort.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.networknt.schema.JsonSchema;
import com.networknt.schema.JsonSchemaFactory;
import com.networknt.schema.SpecVersion;
import docksort.Footage;
import docksort.PostgresServer;
import docksort.WithMedia;
import docksort.engine.MediaEngine;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/// The commands that the README writes, read from it and run in its order, as written and once more with
/// `--json`.
@WithMedia
class ReadmeCommandsTest {
    private static final Pattern COMMAND = Pattern.compile("    \\./dock-sort (.*?)(?:\\s+#.*)?");
    private static final Pattern WORD = Pattern.compile("'([^']*)'|\"([^\"]*)\"|(\\S+)");

    /// Words that are files or folders of the scene.
    private static final Pattern PLACE = Pattern.compile(
            "Footage/CardA|Parcel|Storage|Incoming|Elsewhere|Moved|Suite|.*\\.(otio|json|html|edl|db|cube)");

    @TempDir
    Path folder = Path.of("");

    private static List<List<String>> commands() throws Exception {
        String text = Files.readString(Path.of("..", "README.md"));
        String part = text.substring(text.indexOf("## Without the window"), text.indexOf("Exit codes"));
        return part.lines()
                .map(COMMAND::matcher)
                .filter(Matcher::matches)
                .map(found -> WORD.matcher(found.group(1))
                        .results()
                        .map(word -> IntStream.rangeClosed(1, 3)
                                .mapToObj(word::group)
                                .filter(Objects::nonNull)
                                .findFirst()
                                .orElseThrow())
                        .toList())
                .toList();
    }

    @Test
    void everyCommandIsInTheReadme() throws Exception {
        Set<String> written = commands().stream().map(List::getFirst).collect(Collectors.toSet());
        assertThat(EveryCommandTest.commands().filter(name -> !name.equals("demo-footage")))
                .allMatch(written::contains);
    }

    @Test
    void whatTheReadmeWritesWorks() throws Exception {
        shoot();
        for (List<String> command : commands()) {
            if (!command.getFirst().equals("bay")) { // takes long; it is run below
                ran(command, List.of());
            }
        }
    }

    @Test
    void answersForMachinesHaveTheFormThatIsWritten() throws Exception {
        shoot();
        var json = new ObjectMapper();
        JsonNode forms = json.readTree(Main.class.getResourceAsStream("answers.schema.json"));
        for (List<String> command : commands()) {
            String answer = ran(command, List.of("--json"));
            var form = json.createObjectNode();
            form.set("$defs", forms.path("$defs"));
            form.put("$ref", "#/$defs/" + command.getFirst());
            JsonSchema schema = JsonSchemaFactory.getInstance(SpecVersion.VersionFlag.V202012)
                    .getSchema(form);
            assertThat(schema.validate(json.readTree(answer)))
                    .as("%s: %s", command, answer)
                    .isEmpty();
        }
    }

    private void shoot() throws Exception {
        Path card = Files.createDirectories(folder.resolve("Footage/CardA"));
        try (MediaEngine engine = MediaEngine.locate()) {
            new Footage(engine).clip(card.resolve("A001.mov"), "320x180", "25", 40, "-c:v", "libx264", "-g", "40");
            Path elsewhere = Files.createDirectories(folder.resolve("Elsewhere"));
            new Footage(engine).clip(elsewhere.resolve("A001_P.mov"), "160x90", "25", 40, "-c:v", "mjpeg");
            Path incoming = Files.createDirectories(folder.resolve("Incoming/CardD"));
            new Footage(engine).clip(incoming.resolve("D001.mov"), "320x180", "25", 40, "-c:v", "libx264", "-g", "40");
        }
        Files.writeString(folder.resolve("Night.cube"), "LUT_3D_SIZE 2\n" + "0 0.5 1\n".repeat(8));
        Files.writeString(folder.resolve("cut.otio"), """
            {"OTIO_SCHEMA": "Timeline.1", "tracks": {"OTIO_SCHEMA": "Stack.1", "children": [{"OTIO_SCHEMA": "Track.1", "name": "V1",
             "kind": "Video", "children": [{"OTIO_SCHEMA": "Clip.2", "name": "A001",
             "source_range": {"OTIO_SCHEMA": "TimeRange.1", "start_time": {"OTIO_SCHEMA": "RationalTime.1", "value": 4, "rate": 25},
             "duration": {"OTIO_SCHEMA": "RationalTime.1", "value": 8, "rate": 25}},
             "active_media_reference_key": "DEFAULT_MEDIA", "media_references": {"DEFAULT_MEDIA":
             {"OTIO_SCHEMA": "ExternalReference.1", "target_url": "Footage/CardA/A001.mov"}}}]}]}}
            """);
    }

    private final String schema = "readme_" + Long.toHexString(System.nanoTime());

    private String ran(List<String> command, List<String> more) throws Exception {
        if (command.getFirst().equals("relink")) {
            Files.move(folder.resolve("Footage"), folder.resolve("Moved"));
        }
        var line = new ArrayList<String>();
        for (String word : command) {
            int is = word.indexOf('=');
            String value = word.substring(is + 1);
            line.add(
                    PLACE.matcher(value).matches()
                            ? word.substring(0, is + 1) + folder.resolve(value)
                            : word.startsWith("postgresql://")
                                    ? PostgresServer.address(schema).uri()
                                    : word.equals("night_optics") ? schema : word);
        }
        if (!line.contains("--project")) {
            line.addAll(List.of("--project", folder.resolve("project").toString()));
        }
        line.addAll(more);
        EveryCommandTest.Answer answer = EveryCommandTest.run(line.toArray(String[]::new));
        assertThat(answer.code())
                .as("%s: %s %s", line, answer.out(), answer.err())
                .isLessThanOrEqualTo(ExitCodes.NEEDS_A_LOOK);
        answer.isPlain();
        return answer.out();
    }
}
