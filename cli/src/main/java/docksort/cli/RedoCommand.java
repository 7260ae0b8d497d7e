package docksort.cli;

import docksort.engine.MediaEngine;
import docksort.project.Project;
import java.util.Optional;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

@Command(name = "redo", description = "Does again what was taken back last, unless something else was changed since.")
final class RedoCommand implements Callable<Integer> {
    @Mixin
    private Common common = new Common();

    @Option(names = "--preview", description = "Only show what would be done again.")
    private boolean preview;

    @Override
    public Integer call() {
        try (MediaEngine engine = MediaEngine.locate();
                Project project = common.open(engine)) {
            Optional<String> what = preview ? project.whatRedoDoesAgain() : project.redo();
            return UndoCommand.tell(
                    common, what, !preview, preview ? "would do again" : "did again", "There is nothing to do again.");
        }
    }
}
