package docksort.cli;

import docksort.arrival.Clip;
import docksort.arrival.Unreadable;
import docksort.catalogue.TakenOut.Hanging;
import docksort.engine.MediaEngine;
import docksort.project.Project;
import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(
        name = "out",
        description = "Takes clips, or files that cannot be read, out of the project with all that hangs on them. Every"
                + " file stays, and undo brings all of it back. For a whole arrival: arrivals --take-out.")
final class OutCommand implements Callable<Integer> {
    @Mixin
    private Common common = new Common();

    @Parameters(arity = "0..*", paramLabel = "CLIP", description = "Clips by name, ARRIVAL/NAME or id.")
    private List<String> clips = List.of();

    @Option(
            names = "--unreadable",
            paramLabel = "FILE",
            description = "A file that cannot be read; may be given several times.")
    private List<Path> unreadable = List.of();

    @Option(names = "--preview", description = "Only show what would go with them.")
    private boolean preview;

    @Override
    public Integer call() {
        common.refuse(clips.isEmpty() && unreadable.isEmpty(), "out wants a CLIP, or --unreadable FILE");
        try (MediaEngine engine = MediaEngine.locate();
                Project project = common.open(engine)) {
            List<Clip> out =
                    clips.stream().map(name -> Common.clip(project, name)).toList();
            List<Unreadable> files = unreadable.stream()
                    .map(file -> Common.unreadable(project.arrivals().unreadable(), file))
                    .toList();
            Hanging hanging = preview
                    ? project.takingOut().hangingOn(out, files)
                    : project.takingOut().takeOut(out, files);
            common.say("%s:", preview ? "would go" : "taken out");
            HangingText.tell(common, hanging, preview);
            if (common.json()) {
                common.print(HangingText.put(Common.object().put("done", !preview), hanging));
            }
            return ExitCodes.GOOD;
        }
    }
}
