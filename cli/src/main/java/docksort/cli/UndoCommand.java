package docksort.cli;

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
            return tell(
                    common,
                    what,
                    !preview,
                    preview ? "would take back" : "took back",
                    "There is nothing to take back.");
        }
    }

    /// Says which change was turned, or would be.
    static int tell(Common common, Optional<String> what, boolean done, String verb, String nothing) {
        common.say("%s", what.map(words -> verb + ": " + words).orElse(nothing));
        if (common.json()) {
            common.print(Common.object().put("done", done && what.isPresent()).put("what", what.orElse("")));
        }
        return ExitCodes.GOOD;
    }
}
