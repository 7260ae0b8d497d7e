package docksort.cli;

import docksort.demo.DemoFootage;
import docksort.engine.MediaEngine;
import docksort.problem.Causes;
import docksort.problem.CoreException.StorageFailed;
import docksort.problem.Problem;
import java.io.IOException;
import java.nio.file.Path;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Parameters;

@Command(name = "demo-footage", description = "Paints and encodes the demo footage into a folder, once.")
final class FootageCommand implements Callable<Integer> {
    @Mixin
    private Common common = new Common();

    @Parameters(paramLabel = "FOLDER", description = "An empty folder, or one that holds the demo footage already.")
    private Path folder = Path.of("");

    @Override
    public Integer call() throws InterruptedException {
        try (MediaEngine engine = MediaEngine.locate()) {
            DemoFootage.Made made = DemoFootage.in(folder, engine, common::note);
            common.say("%s", made.folder());
            if (common.json()) {
                common.print(Common.object().put("folder", made.folder().toString()));
            }
            return ExitCodes.GOOD;
        } catch (IOException e) {
            throw new StorageFailed(
                    new Problem(
                            "The demo footage could not be made in " + folder,
                            Causes.inWords(e),
                            "",
                            "Free room, or choose another folder."),
                    e);
        }
    }
}
