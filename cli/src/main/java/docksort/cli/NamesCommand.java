package docksort.cli;

import docksort.catalogue.WorkingCopy;
import docksort.engine.MediaEngine;
import docksort.link.CopyNames;
import docksort.project.Project;
import java.util.List;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(
        name = "names",
        mixinStandardHelpOptions = true,
        description = "Gives all finished copies names by a pattern: {clip} {kind} {recipe} {arrival} {reel} {raster}."
                + " All of them or none; doing it twice changes nothing.")
final class NamesCommand implements Callable<Integer> {
    @Mixin
    private Common common = new Common();

    @Parameters(index = "0", paramLabel = "PATTERN", description = "For instance {clip}_{kind}.")
    private String pattern = "";

    @Option(names = "--preview", description = "Only show what the names would be.")
    private boolean preview;

    @Override
    public Integer call() {
        try (MediaEngine engine = MediaEngine.locate();
                Project project = common.open(engine)) {
            List<WorkingCopy> copies = project.stock().stream()
                    .flatMap(line -> line.copies().stream())
                    .filter(copy -> copy.state().serves() && !copy.isAdopted())
                    .toList();
            CopyNames names = project.stockRoom().names(pattern, copies);
            for (CopyNames.Line line : names.lines()) {
                common.say(
                        "  %-32s %s",
                        line.copy().file().getFileName(),
                        line.fault()
                                .map(why -> "stays: " + why)
                                .orElse(line.changes() ? "-> " + line.to().getFileName() : "as it is"));
            }
            int changed = preview ? names.changes().size() : project.stockRoom().rename(names);
            common.say("%d %s", changed, preview ? "would be renamed" : "renamed");
            return names.isSound() ? ExitCodes.GOOD : ExitCodes.NEEDS_A_LOOK;
        }
    }
}
