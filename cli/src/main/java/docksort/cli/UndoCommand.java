package docksort.cli;

import com.fasterxml.jackson.databind.node.ObjectNode;
import docksort.engine.MediaEngine;
import docksort.project.Project;
import java.util.Optional;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

@Command(name = "undo", description = "Takes back the last change that can be taken back.")
final class UndoCommand implements Callable<Integer> {
    @Mixin
    private Common common = new Common();

    @Option(names = "--preview", description = "Only show what would be taken back.")
    private boolean preview;

    @Override
    public Integer call() {
        try (MediaEngine engine = MediaEngine.locate();
                Project project = common.open(engine)) {
            Optional<String> what = preview ? project.whatUndoTakesBack() : project.undo();
            ObjectNode answer =
                    Common.object().put("done", !preview && what.isPresent()).put("what", what.orElse(""));
            common.say(
                    "%s",
                    what.map(words -> (preview ? "would take back: " : "took back: ") + words)
                            .orElse("There is nothing to take back."));
            if (common.json()) {
                common.print(answer);
            }
            return ExitCodes.GOOD;
        }
    }
}
