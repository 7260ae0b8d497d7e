package docksort.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import docksort.dispatch.Timeline;
import docksort.dispatch.TimelineEvent;
import docksort.engine.MediaEngine;
import docksort.project.Project;
import docksort.stock.ServingOrder;
import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(
        name = "switch",
        mixinStandardHelpOptions = true,
        description = "Switches the references of a timeline (.otio) to copies, or back to originals.")
final class SwitchCommand implements Callable<Integer> {
    @Mixin
    private Common common = new Common();

    @Parameters(paramLabel = "TIMELINE", description = "An OpenTimelineIO file.")
    private Path timeline = Path.of("");

    @Option(
            names = "--to",
            required = true,
            paramLabel = "ORDER",
            description = "What serves first: ${COMPLETION-CANDIDATES}.")
    private Order to = Order.originals;

    @Option(names = "--output", paramLabel = "FILE", description = "Write there instead of replacing the timeline.")
    private List<Path> output = List.of();

    /// Serving orders by their name on the command line.
    enum Order {
        light,
        full,
        originals
    }

    @Override
    public Integer call() {
        try (MediaEngine engine = MediaEngine.locate();
                Project project = common.open(engine)) {
            ServingOrder order = switch (to) {
                case light -> ServingOrder.LIGHT_FIRST;
                case full -> ServingOrder.FULL_FIRST;
                case originals -> ServingOrder.ORIGINALS;
            };
            project.refreshStock();
            var stock = project.stock(order);
            Timeline opened = project.openTimeline(timeline);
            int changed = opened.switchTo(stock);
            project.served(opened, stock);
            Path target = output.isEmpty() ? timeline : output.getFirst();
            opened.save(target);
            List<TimelineEvent> events = opened.events(stock);
            project.log("Switched " + timeline.getFileName() + " to " + order.label() + ": " + changed + " events");
            return tell(events, changed, target);
        }
    }

    private int tell(List<TimelineEvent> events, int changed, Path target) {
        ObjectNode answer = Common.object();
        answer.put("changed", changed);
        answer.put("file", target.toString());
        ArrayNode nodes = answer.putArray("events");
        boolean foreign = false;
        for (TimelineEvent event : events) {
            nodes.addObject()
                    .put("number", event.number())
                    .put("track", event.track())
                    .put("name", event.name())
                    .put("servedBy", event.standing().label())
                    .put("reference", event.reference());
            common.say(
                    "  %3d %-4s %-24s %s",
                    event.number(),
                    event.track(),
                    event.name(),
                    event.standing().label());
            foreign |= event.standing() instanceof TimelineEvent.Standing.Foreign;
        }
        common.say("%d of %d events changed, written to %s", changed, events.size(), target);
        if (common.json()) {
            common.print(answer);
        }
        return foreign ? ExitCodes.NEEDS_A_LOOK : ExitCodes.GOOD;
    }
}
