package docksort.cli;

import com.fasterxml.jackson.databind.node.ObjectNode;
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
            ObjectNode answer =
                    Common.object().put("done", !preview && what.isPresent()).put("what", what.orElse(""));
            common.say(
                    "%s",
                    what.map(words -> (preview ? "would do again: " : "did again: ") + words)
                            .orElse("There is nothing to do again."));
            if (common.json()) {
                common.print(answer);
            }
            return ExitCodes.GOOD;
        }
    }
}
