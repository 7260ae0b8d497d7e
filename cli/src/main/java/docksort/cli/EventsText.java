package docksort.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import docksort.dispatch.ConformedEvent;
import docksort.media.FrameRange;
import java.util.List;

/// The events of a timeline as lines and as JSON.
final class EventsText {
    private EventsText() {}

    static void tell(Common common, ObjectNode answer, List<ConformedEvent> events) {
        ArrayNode nodes = answer.putArray("events");
        for (ConformedEvent event : events) {
            nodes.addObject()
                    .put("number", event.number())
                    .put("track", event.event().track())
                    .put("name", event.event().name())
                    .put("servedBy", event.standing().label())
                    .put("clip", event.clip().map(clip -> clip.name()).orElse(""))
                    .put("frames", event.used().map(FrameRange::toString).orElse(""))
                    .put("how", event.how())
                    .put("toLookAt", event.inWords())
                    .put("reference", event.event().media().address());
            common.say(
                    "  %3d %-4s %-24s %-18s %s",
                    event.number(),
                    event.event().track(),
                    event.event().name(),
                    event.standing().label(),
                    event.inWords());
        }
    }

    static int exitCode(List<ConformedEvent> events) {
        return events.stream().anyMatch(ConformedEvent::needsALook) ? ExitCodes.NEEDS_A_LOOK : ExitCodes.GOOD;
    }
}
