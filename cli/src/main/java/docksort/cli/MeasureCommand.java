package docksort.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import docksort.arrival.Clip;
import docksort.engine.Cancellation;
import docksort.engine.MediaEngine;
import docksort.media.ClipSound;
import docksort.project.ClipSounds;
import docksort.project.Project;
import docksort.strain.ClipMeasurements;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(
        name = "measure",
        description =
                "Measures how fast this machine plays clips and jumps in them, or how loud they are, and keeps it.")
final class MeasureCommand implements Callable<Integer> {
    @Mixin
    private Common common = new Common();

    @Parameters(arity = "1..*", paramLabel = "CLIP", description = "Name, ARRIVAL/NAME, or id.")
    private List<String> names = new ArrayList<>();

    @Option(
            names = "--sound",
            description = "How loud each channel is over all of a clip instead; silent and clipping ones are told.")
    private boolean sound;

    @Override
    public Integer call() throws InterruptedException {
        try (MediaEngine engine = MediaEngine.locate();
                Project project = common.open(engine)) {
            ObjectNode answer = Common.object();
            ArrayNode clips = answer.putArray("clips");
            boolean all = true;
            for (String name : names) {
                Clip clip = Common.clip(project, name);
                if (sound) {
                    all &= soundOf(project, clip, clips);
                    continue;
                }
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

    /// @return whether nothing of it needs a look
    private boolean soundOf(Project project, Clip clip, ArrayNode clips) throws InterruptedException {
        ObjectNode node = clips.addObject().put("clip", clip.name());
        if (!ClipSounds.hasSound(clip)) {
            node.put("measured", false);
            common.say("  %-24s has no sound", clip.name());
            return true;
        }
        ClipSound heard = project.sounds().measure(clip, new Cancellation()).orElseThrow(IllegalStateException::new);
        node.put("measured", true);
        ArrayNode channels = node.putArray("channels");
        for (int i = 0; i < heard.channels().size(); i++) {
            ClipSound.Channel channel = heard.channels().get(i);
            ObjectNode each = channels.addObject();
            put(each, "levelDecibels", channel.levelDecibels());
            put(each, "peakDecibels", channel.peakDecibels());
            each.put("clips", channel.clips());
            common.say(
                    "  %-24s channel %d: level %s, peak %s dBFS",
                    clip.name(),
                    i + 1,
                    ClipSound.Channel.label(channel.levelDecibels()),
                    ClipSound.Channel.label(channel.peakDecibels()));
        }
        ArrayNode told = node.putArray("told");
        for (String said : heard.told()) {
            told.add(said);
            common.say("  %-24s %s.", "", said);
        }
        return heard.told().isEmpty();
    }

    /// Digital silence has no level.
    private static void put(ObjectNode node, String name, double decibels) {
        if (Double.isFinite(decibels)) {
            node.put(name, decibels);
        }
    }
}
