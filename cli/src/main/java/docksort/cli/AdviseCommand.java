package docksort.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import docksort.arrival.Clip;
import docksort.engine.MediaEngine;
import docksort.project.Project;
import docksort.strain.RecordingAdvice;
import java.util.Locale;
import java.util.Optional;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Parameters;

@Command(name = "advise", description = "Says how a screen recording is made next time so that it needs no copy.")
final class AdviseCommand implements Callable<Integer> {
    @Mixin
    private Common common = new Common();

    @Parameters(paramLabel = "CLIP", description = "Name, ARRIVAL/NAME, or id.")
    private String name = "";

    @Override
    public Integer call() {
        try (MediaEngine engine = MediaEngine.locate();
                Project project = common.open(engine)) {
            Clip clip = Common.clip(project, name);
            Optional<RecordingAdvice> advice = RecordingAdvice.of(clip.facts());
            ObjectNode answer = Common.object().put("clip", clip.name());
            ArrayNode points = answer.putArray("points");
            advice.ifPresent(found -> {
                found.points().forEach(point -> {
                    points.add(point);
                    common.say("  %s", point);
                });
                answer.put("keyframeIntervalFrames", found.interval());
                answer.put("scrubCostMean", found.would().mean().toDouble());
                common.say(
                        "With a keyframe every %d frames a random frame would need %s decoded.",
                        found.interval(),
                        String.format(Locale.ROOT, "%.1f", found.would().mean().toDouble()));
            });
            if (advice.isEmpty()) {
                common.say("Nothing to advise: %s is no screen recording, or every picture of it stands alone.", name);
            }
            if (common.json()) {
                common.print(answer);
            }
            return ExitCodes.GOOD;
        }
    }
}
