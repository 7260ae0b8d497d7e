package docksort.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import docksort.arrival.Clip;
import docksort.arrival.ClipId;
import docksort.dispatch.Conform;
import docksort.dispatch.TimelineComparison;
import docksort.engine.MediaEngine;
import docksort.project.Project;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.Callable;
import java.util.stream.Collectors;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(name = "conform", description = "Finds the recording of every event of a timeline, and says what is doubtful.")
final class ConformCommand implements Callable<Integer> {
    @Mixin
    private Common common = new Common();

    @Parameters(paramLabel = "TIMELINE", description = "An OpenTimelineIO file, a CMX 3600 list or a table of links.")
    private Path timeline = Path.of("");

    @Option(names = "--against", paramLabel = "OLDER", description = "Also say what is otherwise than in this version.")
    private List<Path> older = List.of();

    @Option(
            names = "--use",
            description = "Also keep which frames it uses, so that plan and make know them for range copies.")
    private boolean use;

    @Option(
            names = "--handles",
            paramLabel = "FRAMES",
            description = "With --use: frames before and after. Default: the project's")
    private Optional<Long> handles = Optional.empty();

    @Option(
            names = "--edl",
            paramLabel = "TRACK=FILE",
            description = "Also write a track of picture as a CMX 3600 edit list.")
    private Map<String, Path> lists = Map.of();

    @Override
    public Integer call() {
        try (MediaEngine engine = MediaEngine.locate();
                Project project = common.open(engine)) {
            project.stocktaking().refresh();
            Conform conform = project.timelines()
                    .conform(
                            project.timelines().open(timeline),
                            project.stocktaking().lines());
            ObjectNode answer = Common.object();
            EventsText.tell(common, answer, conform.events());
            if (use) {
                project.timelines()
                        .useOf(conform, handles.orElse(project.settings().handles()));
                tellUse(project, answer);
            }
            older.forEach(file -> tell(project.timelines().compare(file, conform), answer));
            lists.forEach((track, file) -> project.timelineFiles()
                    .writeEditList(conform, track, file)
                    .forEach(left -> common.note("left out: " + left)));
            if (common.json()) {
                common.print(answer);
            }
            return EventsText.exitCode(conform.events());
        }
    }

    private void tellUse(Project project, ObjectNode answer) {
        ArrayNode ranges = answer.putArray("uses");
        Map<ClipId, String> names = project.clips().stream().collect(Collectors.toMap(Clip::id, Clip::name));
        project.plans()
                .used()
                .forEach((clip, used) -> used.forEach(range -> {
                    ranges.addObject().put("clip", names.getOrDefault(clip, "")).put("frames", range.toString());
                    common.say("  uses %-24s %s", names.getOrDefault(clip, ""), range.inWords());
                }));
    }

    private void tell(TimelineComparison comparison, ObjectNode answer) {
        ArrayNode changes = answer.putArray("changes");
        for (TimelineComparison.Change change : comparison.changes()) {
            changes.addObject()
                    .put("kind", change.kind().label())
                    .put("event", change.event().number())
                    .put("name", change.event().name())
                    .put("words", change.words());
            common.say(
                    "  %-10s %3d %-24s %s",
                    change.kind().label(),
                    change.event().number(),
                    change.event().name(),
                    change.words());
        }
        common.say("%d changes, %d the same", comparison.changes().size(), comparison.same());
    }
}
