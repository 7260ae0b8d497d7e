package docksort.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import docksort.arrival.Clip;
import docksort.engine.MediaEngine;
import docksort.media.Described;
import docksort.media.FrameRate;
import docksort.media.Raster;
import docksort.project.Project;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.Callable;
import java.util.stream.Collectors;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(
        name = "describe",
        description =
                "Says of recordings that cannot be decoded here what nothing else states, so that timelines can count"
                        + " on them. Without a description, lists what is still to be said.")
final class DescribeCommand implements Callable<Integer> {
    @Mixin
    private Common common = new Common();

    @Parameters(arity = "0..*", paramLabel = "CLIP", description = "Clips by name, ARRIVAL/NAME or id.")
    private List<String> names = List.of();

    @Option(names = "--raster", paramLabel = "WIDTHxHEIGHT", description = "For instance 6144x3240.")
    private Optional<String> raster = Optional.empty();

    @Option(names = "--rate", paramLabel = "FPS", description = "For instance 23.976.")
    private Optional<String> rate = Optional.empty();

    @Option(names = "--frames", paramLabel = "NUMBER", description = "How many frames it has.")
    private Optional<Long> frames = Optional.empty();

    @Option(names = "--timecode", paramLabel = "HH:MM:SS:FF", description = "Of the first frame.")
    private Optional<String> timecode = Optional.empty();

    @Option(names = "--reel", paramLabel = "REEL", description = "For instance A001C003.")
    private Optional<String> reel = Optional.empty();

    @Override
    public Integer call() {
        Described said = said();
        boolean silent = said.equals(Described.NOTHING);
        common.refuse(!silent && names.isEmpty(), "describe wants a CLIP to say that of");
        try (MediaEngine engine = MediaEngine.locate();
                Project project = common.open(engine)) {
            List<Clip> clips =
                    names.stream().map(name -> Common.clip(project, name)).toList();
            if (!silent) {
                project.arrivals().describe(clips, said);
            }
            return tell(project, clips);
        }
    }

    private Described said() {
        try {
            return new Described(raster.map(Raster::parse), rate.map(FrameRate::parse), frames, timecode, reel);
        } catch (IllegalArgumentException | ArithmeticException e) {
            common.refuse(true, String.valueOf(e.getMessage()));
            return Described.NOTHING;
        }
    }

    /// Those that were named; without names all of which something is still to be said.
    private int tell(Project project, List<Clip> named) {
        Set<String> ids = named.stream().map(clip -> clip.id().value()).collect(Collectors.toSet());
        ObjectNode answer = Common.object();
        ArrayNode clips = answer.putArray("clips");
        boolean look = false;
        for (Clip clip : project.clips()) {
            List<String> lacking = clip.facts().lacking();
            if (ids.isEmpty() ? lacking.isEmpty() : !ids.contains(clip.id().value())) {
                continue;
            }
            look |= !lacking.isEmpty();
            ArrayNode words = clips.addObject()
                    .put("clip", clip.name())
                    .put("clipId", clip.id().value())
                    .putArray("lacking");
            lacking.forEach(words::add);
            common.say(
                    "  %-24s %s",
                    clip.name(), lacking.isEmpty() ? "nothing is lacking" : "lacks " + String.join(", ", lacking));
        }
        if (clips.isEmpty()) {
            common.say("No recording lacks anything that timelines count on.");
        }
        if (common.json()) {
            common.print(answer);
        }
        return look ? ExitCodes.NEEDS_A_LOOK : ExitCodes.GOOD;
    }
}
