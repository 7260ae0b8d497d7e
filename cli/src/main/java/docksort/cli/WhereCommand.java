package docksort.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import docksort.arrival.Whereabouts;
import docksort.engine.MediaEngine;
import docksort.project.Project;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;

@Command(name = "where", description = "Tells on which volumes clips lie, and which recordings are there twice.")
final class WhereCommand implements Callable<Integer> {
    @Mixin
    private Common common = new Common();

    @Override
    public Integer call() {
        try (MediaEngine engine = MediaEngine.locate();
                Project project = common.open(engine)) {
            Whereabouts where = Whereabouts.of(project.puttingAside().others(project.clips()));
            ObjectNode answer = Common.object();
            ArrayNode volumes = answer.putArray("volumes");
            for (Whereabouts.OnVolume on : where.volumes()) {
                volumes.addObject()
                        .put("volume", on.volume().name())
                        .put("kind", on.volume().kind())
                        .put("clips", on.clips().size())
                        .put("bytes", on.bytes().bytes());
                common.say(
                        "  %-40s %-14s %5d clips, %s",
                        on.volume().name(), on.volume().kind(), on.clips().size(), on.bytes());
            }
            ArrayNode away = answer.putArray("away");
            where.away().forEach(clip -> {
                away.add(clip.source().head().toString());
                common.say("  away: %s", clip.source().head());
            });
            ArrayNode twins = answer.putArray("twins");
            for (Whereabouts.Twins twin : where.twins()) {
                ObjectNode node = twins.addObject().put("name", twin.label());
                ArrayNode files = node.putArray("files");
                common.say("  the same recording: %s", twin.label());
                twin.clips().forEach(clip -> {
                    files.add(clip.source().head().toString());
                    common.say("      %s", clip.source().head());
                });
            }
            if (common.json()) {
                common.print(answer);
            }
            return where.away().isEmpty() && where.twins().isEmpty() ? ExitCodes.GOOD : ExitCodes.NEEDS_A_LOOK;
        }
    }
}
