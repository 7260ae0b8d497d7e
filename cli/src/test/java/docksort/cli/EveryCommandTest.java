package docksort.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.PrintWriter;
import java.io.StringWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.MethodSource;
import org.junit.jupiter.params.provider.ValueSource;
import picocli.CommandLine;

/// Every command as a newcomer meets it: asked for help, with words that are wrong, with some that are
/// missing, and where there is no project.
class EveryCommandTest {
    @TempDir
    Path folder = Path.of("");

    record Answer(int code, String out, String err) {
        void isPlain() {
            assertThat(out + err)
                    .doesNotContain("Exception", "\tat ", "java.", "picocli", " @ 0x")
                    .doesNotContainPattern("[\\p{Cntrl}&&[^\n]]");
        }
    }

    static Answer run(String... line) {
        var out = new StringWriter();
        var err = new StringWriter();
        int code = Main.run(line, new PrintWriter(out), new PrintWriter(err));
        return new Answer(code, out.toString(), err.toString());
    }

    static Stream<String> commands() {
        return new CommandLine(new Main()).getSubcommands().keySet().stream().filter(name -> !name.equals("help"));
    }

    /// What is neither read nor written by them is not made either.
    private static final Set<String> WITHOUT_PROJECT =
            Set.of("bay", "bring", "demo-footage", "inspect", "join", "sums", "watch");

    @ParameterizedTest
    @MethodSource("commands")
    void tellsOfItselfAlsoWhereSomethingIsMissing(String command) {
        for (List<String> line : List.of(
                List.of(command, "--help"), List.of("help", command), List.of(command, "--help", "--project", "x"))) {
            Answer answer = run(line.toArray(String[]::new));
            assertThat(answer.code()).as("%s: %s", line, answer.err()).isZero();
            assertThat(answer.out()).contains("Usage: dock-sort " + command);
        }
        assertThat(run(command, "--version").out()).contains("Dock Sort");
    }

    @ParameterizedTest
    @MethodSource("commands")
    void refusesWordsThatItDoesNotKnow(String command) {
        Answer answer = run(command, "--colour-of-the-moon");
        assertThat(answer.code()).isEqualTo(ExitCodes.USAGE);
        assertThat(answer.err()).contains("dock-sort " + command, "Nothing was done", "--help");
        answer.isPlain();
    }

    @ParameterizedTest
    @MethodSource("commands")
    void makesNoProjectWhereThereIsNone(String command) throws Exception {
        if (WITHOUT_PROJECT.contains(command)) {
            return;
        }
        Path project = folder.resolve("none here");
        Path file = Files.writeString(folder.resolve("cut.otio"), "{}");
        var line = new ArrayList<>(List.of(command, "--project", project.toString()));
        switch (command) {
            case "conform", "depart", "pull" -> line.add(file.toString());
            case "switch" -> line.addAll(List.of(file.toString(), "--to", "light"));
            case "relink" -> line.addAll(List.of("Footage", folder.toString()));
            case "find", "adopt" -> line.add(folder.toString());
            case "report" ->
                line.addAll(List.of("--to", folder.resolve("came in.csv").toString()));
            case "look", "measure", "advise", "out" -> line.add("A001");
            case "names" -> line.addAll(List.of("{clip}", "--preview"));
            case "clean" -> line.add("delete");
            case "begin" -> line.add("--keep");
            default -> {}
        }
        Answer answer = run(line.toArray(String[]::new));
        assertThat(answer.code()).as("%s: %s", line, answer.err()).isEqualTo(ExitCodes.INPUT);
        assertThat(answer.err()).contains("There is no project in", "inspect --add");
        assertThat(project).doesNotExist();
        answer.isPlain();
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
        make --workers many                 | --workers wants a whole number, was "many"
        make --workers 99                   | --workers wants a number from 1 to 16
        make --workers 0                    | --workers wants a number from 1 to 16
        make --from noon                    | --from wants a time of day such as 22:30, was "noon"
        make --hours mornings               | --hours wants hours of the week such as "Mo-Fr 19:00-07:00", was "mornings"
        make --speed -2                     | --speed wants a number from 0 on
        make --wait -1                      | --wait wants a number from 0 on
        clean wipe                          | ACT wants one of stop, serve, forget, delete, limits, was "wipe"
        clean                               | ACT
        clean delete --older-than -3        | --older-than wants days from 0 on
        clean delete --keep-within lots     | --keep-within wants a whole number, was "lots"
        switch cut.otio --to proxies        | --to wants one of light, full, originals, was "proxies"
        switch cut.otio                     | --to
        settings --delivery big             | --delivery wants a raster such as 1920x1080, was "big"
        settings --rate fast                | --rate wants 25, 29.97 or 30000/1001, was "fast"
        settings --pixel-aspect 0           | --pixel-aspect
        pin A001                            | either --to ORDER or --off
        pin A001 --to light --frames ten    | --frames wants a first frame and a number, such as 120+48
        arrivals --preview                  | --preview goes with --take-out
        bay                                 | --write
        bring card                          | --into
        bring card --into . --simulate fire | --simulate wants one of read-fault, pulled-out, changed, was "fire"
        join postgresql://localhost/x       | --schema
        work --look 0                       | --look wants a number from 1 to 3600
        share --schema x                    | --schema goes with --to
        watch nowhere                       | PLACE wants a folder
        watch . --quiet -1                  | --quiet wants a number from 0
        out                                 | out wants a CLIP, or --unreadable FILE
        aside --back                        | aside --back wants a CLIP, or --unreadable FILE
        pairs --copy A001                   | --copy and --of go together
        inspect                             | FOLDER
        relink Footage                      | FOLDER
        measure                             | CLIP
        advise                              | CLIP
        look                                | ARRIVAL
        reread --days -1                    | --days wants a number from 0 to 3650
        runs --report night.txt             | --report wants a file that ends in .html or .csv
        runs --report night.csv             | --of wants a number up to 0, the runs there are
        fly                                 | fly
        """)
    void saysInPlainWordsWhatAValueMustBe(String line, String words) throws Exception {
        Path project = folder.resolve("project");
        Files.createDirectories(folder.resolve("card"));
        run("inspect", "--add", folder.resolve("card").toString(), "--project", project.toString());
        var args = new ArrayList<>(List.of(line.strip().split(" ", -1)));
        if (!args.getFirst().equals("fly")) {
            args.addAll(List.of("--project", project.toString()));
        }
        Answer answer = run(args.toArray(String[]::new));
        assertThat(answer.code()).as("%s: %s", line, answer.err()).isEqualTo(ExitCodes.USAGE);
        assertThat(answer.err()).contains(words.strip());
        answer.isPlain();
    }

    @Test
    void actsAreTakenInAnyCase() throws Exception {
        Path project = folder.resolve("project");
        Path empty = Files.createDirectories(folder.resolve("card"));
        assertThat(run("inspect", "--add", empty.toString(), "--project", project.toString())
                        .err())
                .isEmpty();
        for (String act : List.of("delete", "DELETE", "Delete")) {
            assertThat(run("clean", act, "--project", project.toString()).out()).contains("would go");
        }
    }

    /// A fault that nobody foresaw, made by a standard output that breaks down.
    @Test
    void noTraceReachesTheTerminal() {
        var err = new StringWriter();
        var broken = new PrintWriter(new StringWriter()) {
            @Override
            public void println(String line) {
                throw new IllegalStateException("made up, in \u001b[31mred");
            }
        };
        int code = Main.run(new String[] {"arrivals", "--project", begun().toString()}, broken, new PrintWriter(err));
        assertThat(code).isEqualTo(ExitCodes.FAULT);
        assertThat(err.toString())
                .contains("Something went wrong in the program")
                .hasLineCount(1);
        new Answer(code, "", err.toString()).isPlain();
    }

    private Path begun() {
        Path project = folder.resolve("project");
        Path empty = folder.resolve("card");
        assertThat(empty.toFile().mkdirs()).isTrue();
        run("inspect", "--add", empty.toString(), "--project", project.toString());
        return project;
    }

    /// Names and places in a timeline of a stranger's: with control characters, and longer than a disk
    /// takes.
    @ParameterizedTest
    @ValueSource(strings = {"A\\u0000\\u001b[31m", "A\\n\\u0007", "LONG"})
    void namesOfStrangersSteerNoTerminal(String name) throws Exception {
        String plain = name.equals("LONG") ? "y".repeat(9_000) : name;
        Path cut = Files.writeString(folder.resolve("cut.otio"), """
            {"OTIO_SCHEMA": "Timeline.1", "tracks": {"OTIO_SCHEMA": "Stack.1", "children": [{"OTIO_SCHEMA": "Track.1",
             "name": "%1$s", "kind": "Video", "children": [{"OTIO_SCHEMA": "Clip.2", "name": "%1$s", "source_range":
             {"OTIO_SCHEMA": "TimeRange.1", "start_time": {"OTIO_SCHEMA": "RationalTime.1", "value": 4, "rate": 25},
             "duration": {"OTIO_SCHEMA": "RationalTime.1", "value": 8, "rate": 25}},
             "active_media_reference_key": "DEFAULT_MEDIA", "media_references": {"DEFAULT_MEDIA":
             {"OTIO_SCHEMA": "ExternalReference.1", "target_url": "file:///%1$s.mov"}}}]}]}}
            """.formatted(plain));
        String project = begun().toString();
        for (String line : List.of(
                "conform CUT",
                "switch CUT --to light --output OUT.otio",
                "depart CUT --to OUT.otio --signed keeper",
                "pull CUT --into OUT",
                "conform CUT --edl %s=OUT.edl".formatted(name.equals("LONG") ? plain : "V1"))) {
            var args = new ArrayList<String>();
            for (String word : line.split(" ", -1)) {
                args.add(word.replace("CUT", cut.toString())
                        .replace("OUT", folder.resolve("out").toString()));
            }
            args.addAll(List.of("--project", project));
            Answer answer = run(args.toArray(String[]::new));
            assertThat(answer.code()).as("%s: %s", line, answer).isLessThanOrEqualTo(ExitCodes.INPUT);
            answer.isPlain();
        }
    }
}
