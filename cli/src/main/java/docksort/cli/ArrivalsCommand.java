package docksort.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import docksort.arrival.Arrival;
import docksort.arrival.ArrivalId;
import docksort.arrival.Clip;
import docksort.arrival.Unreadable;
import docksort.catalogue.TakenOut;
import docksort.engine.MediaEngine;
import docksort.project.Project;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.Callable;
import java.util.stream.Collectors;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

@Command(
        name = "arrivals",
        description =
                "Lists what came in: each folder with its clips and what cannot be read. Also takes an arrival out"
                        + " of the project, which undo takes back.")
final class ArrivalsCommand implements Callable<Integer> {
    @Mixin
    private Common common = new Common();

    @Option(
            names = "--take-out",
            paramLabel = "ARRIVAL",
            description = "Take this one out of the project, by its name or folder. All files stay where they are.")
    private Optional<String> takeOut = Optional.empty();

    @Option(names = "--preview", description = "Only show what would go with it.")
    private boolean preview;

    @Override
    public Integer call() {
        common.refuse(preview && takeOut.isEmpty(), "--preview goes with --take-out");
        try (MediaEngine engine = MediaEngine.locate();
                Project project = common.open(engine)) {
            if (takeOut.isPresent()) {
                takeOut(project, Common.arrival(project, takeOut.get()));
                return ExitCodes.GOOD;
            }
            Map<ArrivalId, Long> clips =
                    project.clips().stream().collect(Collectors.groupingBy(Clip::arrival, Collectors.counting()));
            Map<ArrivalId, Long> refused = project.arrivals().unreadable().stream()
                    .collect(Collectors.groupingBy(Unreadable::arrival, Collectors.counting()));
            ObjectNode answer = Common.object();
            ArrayNode arrivals = answer.putArray("arrivals");
            for (Arrival arrival : project.arrivals().all()) {
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

    private void takeOut(Project project, Arrival arrival) {
        TakenOut.Hanging hanging = preview
                ? project.takingOut().hangingOn(arrival)
                : project.takingOut().takeOut(arrival);
        common.say("%s: %s %s", preview ? "would go" : "taken out", arrival.name(), arrival.folder());
        HangingText.tell(common, hanging, preview);
        if (common.json()) {
            common.print(HangingText.put(
                    Common.object()
                            .put("done", !preview)
                            .put("id", arrival.id().value())
                            .put("name", arrival.name())
                            .put("folder", arrival.folder().toString()),
                    hanging));
        }
    }
}
