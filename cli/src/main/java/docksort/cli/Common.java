package docksort.cli;

import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.SerializationFeature;
import com.fasterxml.jackson.databind.node.ObjectNode;
import docksort.engine.MediaEngine;
import docksort.project.Project;
import java.io.IOException;
import java.io.PrintWriter;
import java.io.UncheckedIOException;
import java.nio.file.Path;
import java.time.InstantSource;
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

    Project open(MediaEngine engine) {
        return Project.open(project, engine, InstantSource.system());
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

    /// Prints a line of text unless JSON was asked for. A newline in a file's name must not look like a second
    /// line.
    @com.google.errorprone.annotations.FormatMethod
    void say(@com.google.errorprone.annotations.FormatString String format, Object... values) {
        if (!json) {
            String line = values.length == 0 ? format : String.format(java.util.Locale.ROOT, format, values);
            out().println(line.replace("\n", "\\n").replace("\r", "\\r"));
            out().flush();
        }
    }

    /// Prints progress and complaints beside the result.
    void note(String line) {
        err().println(line.replace("\n", "\\n").replace("\r", "\\r"));
        err().flush();
    }
}
