package docksort.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import docksort.arrival.ScanListener;
import docksort.arrival.ScanResult;
import docksort.engine.Cancellation;
import docksort.engine.MediaEngine;
import docksort.project.Project;
import java.util.Optional;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Parameters;

@Command(
        name = "look",
        description = "Looks at an arrival again. What is as before is not opened; what is new comes in.")
final class LookCommand implements Callable<Integer> {
    @Mixin
    private Common common = new Common();

    @Parameters(paramLabel = "ARRIVAL", description = "Its name or folder; see the command arrivals.")
    private String arrival = "";

    @Override
    public Integer call() throws InterruptedException {
        try (MediaEngine engine = MediaEngine.locate();
                Project project = common.open(engine)) {
            ScanResult result = project.arrivals()
                    .lookAgain(
                            Common.arrival(project, arrival),
                            Optional.empty(),
                            ScanListener.none(),
                            new Cancellation());
            ObjectNode answer = Common.object();
            ArrayNode clips = answer.putArray("newOrChanged");
            result.clips().forEach(clip -> {
                clips.add(clip.name());
                common.say("  new or changed %s", clip.name());
            });
            ArrayNode gone = answer.putArray("gone");
            result.gone().forEach(file -> {
                gone.add(file.toString());
                common.say("  gone           %s", file);
            });
            ArrayNode unreadable = answer.putArray("unreadable");
            result.unreadable().forEach(bad -> {
                unreadable.add(bad.file().toString());
                common.say("  cannot be read %s: %s", bad.file(), bad.problem().why());
            });
            common.say(
                    "%d new or changed, %d gone, %d cannot be read",
                    result.clips().size(),
                    result.gone().size(),
                    result.unreadable().size());
            if (common.json()) {
                common.print(answer);
            }
            boolean look = !result.gone().isEmpty() || !result.unreadable().isEmpty();
            return look ? ExitCodes.NEEDS_A_LOOK : ExitCodes.GOOD;
        }
    }
}
