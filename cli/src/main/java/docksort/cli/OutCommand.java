package docksort.cli;

import docksort.arrival.Clip;
import docksort.arrival.Unreadable;
import docksort.catalogue.TakenOut.Hanging;
import docksort.engine.MediaEngine;
import docksort.project.Project;
import java.util.List;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

@Command(
        name = "out",
        description = "Takes clips, or files that cannot be read, out of the project with all that hangs on them. Every"
                + " file stays, and undo brings all of it back. For a whole arrival: arrivals --take-out.")
final class OutCommand implements Callable<Integer> {
    @Mixin
    private Common common = new Common();

    @Mixin
    private Named named = new Named();

    @Option(names = "--preview", description = "Only show what would go with them.")
    private boolean preview;

    @Override
    public Integer call() {
        common.refuse(named.isEmpty(), "out wants a CLIP, or --unreadable FILE");
        try (MediaEngine engine = MediaEngine.locate();
                Project project = common.open(engine)) {
            List<Clip> out = named.clips(project);
            List<Unreadable> files = named.unreadable(project.arrivals().unreadable());
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
