package docksort.cli;

import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.SerializationFeature;
import com.fasterxml.jackson.databind.node.ObjectNode;
import docksort.arrival.Arrival;
import docksort.arrival.ArrivalId;
import docksort.arrival.Clip;
import docksort.arrival.Unreadable;
import docksort.engine.MediaEngine;
import docksort.problem.CoreException.InputRefused;
import docksort.problem.Problem;
import docksort.project.Library;
import docksort.project.Project;
import docksort.project.Template;
import java.io.IOException;
import java.io.PrintWriter;
import java.io.UncheckedIOException;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.stream.Collectors;
import picocli.CommandLine;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Spec;

/// Options and output that all commands share.
final class Common {
    private static final ObjectMapper JSON = new ObjectMapper().enable(SerializationFeature.INDENT_OUTPUT);

    @Spec(Spec.Target.MIXEE)
    private CommandSpec spec = CommandSpec.create();

    @Option(names = "--project", paramLabel = "FOLDER", description = "The project's folder. Default: ${DEFAULT-VALUE}")
    private Path project = Path.of("dock-sort-project");

    @Option(names = "--json", description = "Print JSON for machines instead of text.")
    private boolean json;

    boolean json() {
        return json;
    }

    /// The project that is there. A command that only looks, or works on what is there, makes none.
    ///
    /// @throws InputRefused when there is none
    Project open(MediaEngine engine) {
        if (!Project.isIn(project)) {
            throw new InputRefused(new Problem(
                    "There is no project in " + project.toAbsolutePath().normalize(),
                    "",
                    "Nothing was made.",
                    "Name one with --project, or begin one with: dock-sort inspect --add FOLDER"));
        }
        return Project.open(project, engine, InstantSource.system());
    }

    boolean hasProject() {
        return Project.isIn(project);
    }

    /// The project, begun where there is none with what the personal library holds.
    Project openOrBegin(MediaEngine engine) {
        Template template = hasProject() ? Template.NONE : Template.of(Library.ofThisPerson());
        return Project.begin(project, engine, InstantSource.system(), template);
    }

    Path folder() {
        return project.toAbsolutePath().normalize();
    }

    /// The one clip that a text names: its name, its arrival's name and its own, or its id.
    ///
    /// @throws InputRefused when it names none, or several
    static Clip clip(Project project, String text) {
        List<Clip> clips = project.clips();
        Map<ArrivalId, String> arrivals =
                project.arrivals().all().stream().collect(Collectors.toMap(Arrival::id, Arrival::name));
        List<Clip> found = clips.stream()
                .filter(clip -> clip.id().value().equals(text)
                        || clip.name().equals(text)
                        || address(clip, arrivals).equals(text))
                .toList();
        if (found.size() == 1) {
            return found.getFirst();
        }
        if (found.isEmpty()) {
            throw new InputRefused(new Problem(
                    "No clip is named " + text, "", "Nothing was changed.", "See dock-sort stock for the names."));
        }
        String places = found.stream()
                .limit(6)
                .map(clip -> address(clip, arrivals) + " or " + clip.id().value())
                .collect(Collectors.joining(", "));
        throw new InputRefused(new Problem(
                found.size() + " clips are named " + text,
                "",
                "Nothing was changed.",
                "Write one of them as " + places));
    }

    /// "CARD A/C0001"
    private static String address(Clip clip, Map<ArrivalId, String> arrivals) {
        return arrivals.getOrDefault(clip.arrival(), "") + "/" + clip.name();
    }

    /// The one arrival that a text names: its name, folder or id.
    static Arrival arrival(Project project, String text) {
        List<Arrival> arrivals = project.arrivals().all();
        List<Arrival> found = arrivals.stream()
                .filter(arrival -> arrival.name().equals(text)
                        || arrival.id().value().equals(text)
                        || arrival.folder()
                                .equals(Path.of(text).toAbsolutePath().normalize()))
                .toList();
        if (found.size() == 1) {
            return found.getFirst();
        }
        throw new InputRefused(new Problem(
                found.isEmpty() ? "No arrival is named " + text : found.size() + " arrivals are named " + text,
                "",
                "Nothing was changed.",
                arrivals.isEmpty()
                        ? "The project has none yet: dock-sort inspect --add FOLDER"
                        : "The project has: "
                                + (found.isEmpty() ? arrivals : found)
                                        .stream()
                                                .map(arrival -> found.isEmpty()
                                                        ? arrival.name()
                                                        : arrival.folder().toString())
                                                .collect(Collectors.joining(", "))));
    }

    /// The one file among those that cannot be read.
    ///
    /// @throws InputRefused when it is none of them
    static Unreadable unreadable(List<Unreadable> listed, Path file) {
        Path absolute = file.toAbsolutePath().normalize();
        return listed.stream()
                .filter(known -> known.file().equals(absolute))
                .findFirst()
                .orElseThrow(() -> new InputRefused(new Problem(
                        "Nothing was done with " + absolute,
                        "it is not among the files that cannot be read",
                        "Nothing was changed.",
                        "See dock-sort look for those that are.")));
    }

    /// Refuses a value of the command line in plain words.
    void refuse(boolean wrong, String words) {
        if (wrong) {
            throw new CommandLine.ParameterException(spec.commandLine(), words);
        }
    }

    PrintWriter out() {
        return spec.commandLine().getOut();
    }

    PrintWriter err() {
        return spec.commandLine().getErr();
    }

    static ObjectNode object() {
        return JSON.createObjectNode();
    }

    void print(ObjectNode node) {
        try {
            out().println(JSON.writeValueAsString(node));
            out().flush();
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /// Prints a line of text unless JSON was asked for.
    @com.google.errorprone.annotations.FormatMethod
    void say(@com.google.errorprone.annotations.FormatString String format, Object... values) {
        if (!json) {
            String line = values.length == 0 ? format : String.format(Locale.ROOT, format, values);
            out().println(plain(line));
            out().flush();
        }
    }

    /// Prints progress and complaints beside the result.
    void note(String line) {
        err().println(plain(line));
        err().flush();
    }

    /// A name of a stranger's makes no second line, and steers no terminal.
    static String plain(String line) {
        return line.replace("\n", "\\n").replace("\r", "\\r").replaceAll("\\p{Cntrl}", "\uFFFD");
    }
}
