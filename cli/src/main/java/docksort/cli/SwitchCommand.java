package docksort.cli;

import com.fasterxml.jackson.databind.node.ObjectNode;
import docksort.dispatch.Conform;
import docksort.dispatch.ConformedEvent;
import docksort.dispatch.Switching;
import docksort.engine.MediaEngine;
import docksort.project.Project;
import docksort.stock.ServingOrder;
import docksort.timeline.TimelineDocument;
import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(
        name = "switch",
        description = "Switches the references of a timeline (.otio, .edl, .csv) to copies, or back to originals.")
final class SwitchCommand implements Callable<Integer> {
    @Mixin
    private Common common = new Common();

    @Parameters(paramLabel = "TIMELINE", description = "An OpenTimelineIO file, a CMX 3600 list or a table of links.")
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
            ServingOrder order = PinCommand.order(to);
            project.stocktaking().refresh();
            TimelineDocument document = project.timelines().open(timeline);
            Conform conform =
                    project.timelines().conform(document, project.stocktaking().lines(order));
            Switching.Outcome outcome = project.serving().switchTo(conform, order);
            Path target = output.isEmpty() ? timeline : output.getFirst();
            project.timelineFiles().saveAs(conform.with(document), target);
            project.log("Switched " + timeline.getFileName() + " to " + order.label() + ": " + outcome.changed()
                    + " events");
            return tell(conform.with(document).events(), outcome, target);
        }
    }

    private int tell(List<ConformedEvent> events, Switching.Outcome outcome, Path target) {
        ObjectNode answer = Common.object();
        answer.put("changed", outcome.changed());
        answer.put("file", target.toString());
        EventsText.tell(common, answer, events);
        common.say("%d of %d events changed, written to %s", outcome.changed(), events.size(), target);
        long baked = ConformedEvent.filesWithLook(events);
        answer.put("copiesWithLook", baked);
        if (baked > 0) {
            common.say(
                    "%d %s a look baked in: the originals have other colours",
                    baked, baked == 1 ? "copy that serves has" : "copies that serve have");
        }
        if (common.json()) {
            common.print(answer);
        }
        return EventsText.exitCode(events);
    }
}
