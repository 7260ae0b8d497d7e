package docksort.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import docksort.arrival.Arrival;
import docksort.arrival.ArrivalId;
import docksort.arrival.Clip;
import docksort.arrival.Unreadable;
import docksort.engine.MediaEngine;
import docksort.project.Project;
import java.util.Map;
import java.util.concurrent.Callable;
import java.util.stream.Collectors;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;

@Command(name = "arrivals", description = "Lists what came in: each folder with its clips and what cannot be read.")
final class ArrivalsCommand implements Callable<Integer> {
    @Mixin
    private Common common = new Common();

    @Override
    public Integer call() {
        try (MediaEngine engine = MediaEngine.locate();
                Project project = common.open(engine)) {
            Map<ArrivalId, Long> clips =
                    project.clips().stream().collect(Collectors.groupingBy(Clip::arrival, Collectors.counting()));
            Map<ArrivalId, Long> refused = project.unreadable().stream()
                    .collect(Collectors.groupingBy(Unreadable::arrival, Collectors.counting()));
            ObjectNode answer = Common.object();
            ArrayNode arrivals = answer.putArray("arrivals");
            for (Arrival arrival : project.arrivals()) {
                long found = clips.getOrDefault(arrival.id(), 0L);
                long bad = refused.getOrDefault(arrival.id(), 0L);
                arrivals.addObject()
                        .put("id", arrival.id().value())
                        .put("name", arrival.name())
                        .put("folder", arrival.folder().toString())
                        .put("clips", found)
                        .put("unreadable", bad);
                common.say("  %-24s %5d clips, %d unreadable  %s", arrival.name(), found, bad, arrival.folder());
            }
            if (arrivals.isEmpty()) {
                common.say("Nothing came in yet: dock-sort inspect --add FOLDER");
            }
            if (common.json()) {
                common.print(answer);
            }
            return ExitCodes.GOOD;
        }
    }
}
