package docksort.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import docksort.arrival.Clip;
import docksort.arrival.ClipId;
import docksort.catalogue.Pin;
import docksort.dispatch.PinnedUse;
import docksort.engine.MediaEngine;
import docksort.media.FrameRange;
import docksort.project.Project;
import docksort.stock.ServingOrder;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.Callable;
import java.util.stream.Collectors;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(name = "pin", description = "Lets one clip be served otherwise than the rest, or takes that back; lists pins.")
final class PinCommand implements Callable<Integer> {
    @Mixin
    private Common common = new Common();

    @Parameters(arity = "0..1", paramLabel = "CLIP", description = "Name, ARRIVAL/NAME, or id; none to list pins.")
    private List<String> names = List.of();

    @Option(names = "--to", paramLabel = "ORDER", description = "What serves it first: ${COMPLETION-CANDIDATES}.")
    private Optional<SwitchCommand.Order> to = Optional.empty();

    @Option(names = "--frames", paramLabel = "FIRST+COUNT", description = "Only where these frames are used.")
    private Optional<String> frames = Optional.empty();

    @Option(names = "--off", description = "Take its pin away.")
    private boolean off;

    @Override
    public Integer call() {
        common.refuse(!names.isEmpty() && off == to.isPresent(), "pin wants either --to ORDER or --off");
        Optional<FrameRange> range = frames.map(text -> {
            Optional<FrameRange> read = FrameRange.parse(text);
            common.refuse(
                    read.isEmpty(), "--frames wants a first frame and a number, such as 120+48, was \"" + text + "\"");
            return read.orElseThrow();
        });
        try (MediaEngine engine = MediaEngine.locate();
                Project project = common.open(engine)) {
            for (String name : names) {
                project.serving()
                        .pin(List.of(new PinnedUse(Common.clip(project, name), range)), to.map(PinCommand::order));
            }
            return tell(project);
        }
    }

    static ServingOrder order(SwitchCommand.Order named) {
        return switch (named) {
            case light -> ServingOrder.LIGHT_FIRST;
            case full -> ServingOrder.FULL_FIRST;
            case originals -> ServingOrder.ORIGINALS;
        };
    }

    private int tell(Project project) {
        Map<ClipId, String> clips = project.clips().stream().collect(Collectors.toMap(Clip::id, Clip::name));
        ObjectNode answer = Common.object();
        ArrayNode pins = answer.putArray("pins");
        for (Pin pin : project.serving().pins()) {
            String clip = clips.getOrDefault(pin.clip(), "");
            pins.addObject()
                    .put("clip", clip)
                    .put("frames", pin.frames().map(FrameRange::toString).orElse(""))
                    .put("order", pin.order());
            common.say(
                    "  %-24s %-24s %s",
                    clip, pin.frames().map(FrameRange::inWords).orElse("all of it"), pin.order());
        }
        if (pins.isEmpty()) {
            common.say("No pins.");
        }
        if (common.json()) {
            common.print(answer);
        }
        return ExitCodes.GOOD;
    }
}
