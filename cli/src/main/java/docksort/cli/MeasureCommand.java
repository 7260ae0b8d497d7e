package docksort.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import docksort.arrival.Clip;
import docksort.engine.Cancellation;
import docksort.engine.MediaEngine;
import docksort.project.Project;
import docksort.strain.ClipMeasurements;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Parameters;

@Command(name = "measure", description = "Measures how fast this machine plays clips and jumps in them, and keeps it.")
final class MeasureCommand implements Callable<Integer> {
    @Mixin
    private Common common = new Common();

    @Parameters(arity = "1..*", paramLabel = "CLIP", description = "Name, ARRIVAL/NAME, or id.")
    private List<String> names = new ArrayList<>();

    @Override
    public Integer call() throws InterruptedException {
        try (MediaEngine engine = MediaEngine.locate();
                Project project = common.open(engine)) {
            ObjectNode answer = Common.object();
            ArrayNode clips = answer.putArray("clips");
            boolean all = true;
            for (String name : names) {
                Clip clip = Common.clip(project, name);
                boolean measured = project.measurements().measure(clip, new Cancellation());
                all &= measured;
                ClipMeasurements figures =
                        project.measurements().all().getOrDefault(clip.fingerprint(), ClipMeasurements.NONE);
                ObjectNode node = clips.addObject().put("clip", clip.name()).put("measured", measured);
                figures.play().ifPresent(play -> node.put("playRatio", play.value()));
                common.say(
                        "  %-24s %s",
                        clip.name(),
                        figures.play()
                                .map(play -> String.format(
                                        Locale.ROOT, "decodes %.1f times as fast as it plays", play.value()))
                                .orElse("could not be measured"));
            }
            if (common.json()) {
                common.print(answer);
            }
            return all ? ExitCodes.GOOD : ExitCodes.NEEDS_A_LOOK;
        }
    }
}
