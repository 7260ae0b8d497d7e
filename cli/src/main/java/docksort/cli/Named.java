package docksort.cli;

import docksort.arrival.Clip;
import docksort.arrival.Unreadable;
import docksort.project.Project;
import java.nio.file.Path;
import java.util.List;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/// Clips, and files that cannot be read, as a command line names them.
final class Named {
    @Parameters(arity = "0..*", paramLabel = "CLIP", description = "Clips by name, ARRIVAL/NAME or id.")
    private List<String> clips = List.of();

    @Option(
            names = "--unreadable",
            paramLabel = "FILE",
            description = "A file that cannot be read; may be given several times.")
    private List<Path> unreadable = List.of();

    boolean isEmpty() {
        return clips.isEmpty() && unreadable.isEmpty();
    }

    List<Clip> clips(Project project) {
        return clips.stream().map(name -> Common.clip(project, name)).toList();
    }

    /// @param listed files among which they are
    List<Unreadable> unreadable(List<Unreadable> listed) {
        return unreadable.stream().map(file -> Common.unreadable(listed, file)).toList();
    }
}
