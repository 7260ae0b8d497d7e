package docksort.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import docksort.dispatch.Conform;
import docksort.dispatch.PullList;
import docksort.engine.MediaEngine;
import docksort.media.ByteSize;
import docksort.project.Project;
import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(name = "pull", description = "Lists only the files a timeline needs, and packs them into a folder with it.")
final class PullCommand implements Callable<Integer> {
    @Mixin
    private Common common = new Common();

    @Parameters(paramLabel = "TIMELINE", description = "An OpenTimelineIO file, a CMX 3600 list or a table of links.")
    private Path timeline = Path.of("");

    @Option(names = "--copies", description = "The copies that its events are on, instead of originals.")
    private boolean copies;

    @Option(names = "--list", paramLabel = "FILE", description = "Write the list as CSV.")
    private List<Path> list = List.of();

    @Option(names = "--into", paramLabel = "FOLDER", description = "Pack files, timeline, list and checksums there.")
    private List<Path> into = List.of();

    @Override
    public Integer call() {
        try (MediaEngine engine = MediaEngine.locate();
                Project project = common.open(engine)) {
            project.stocktaking().refresh();
            Conform conform = project.timelines()
                    .conform(
                            project.timelines().open(timeline),
                            project.stocktaking().lines());
            PullList pulled =
                    project.pulls().pullList(conform, copies ? PullList.What.COPIES : PullList.What.ORIGINALS);
            ObjectNode answer = Common.object();
            tell(pulled, answer);
            list.forEach(file -> project.pulls().writePullList(pulled, file));
            for (Path folder : into) {
                project.pulls()
                        .pack(conform, pulled, folder, (_, _) -> {}, () -> false)
                        .ifPresent(parcel -> {
                            answer.put("timeline", parcel.timeline().toString());
                            common.say("packed into %s", parcel.folder());
                        });
            }
            if (common.json()) {
                common.print(answer);
            }
            return pulled.left().isEmpty() ? ExitCodes.GOOD : ExitCodes.NEEDS_A_LOOK;
        }
    }

    private void tell(PullList pulled, ObjectNode answer) {
        answer.put("bytes", pulled.bytes()).put("usedBytes", pulled.rangeBytes());
        ArrayNode files = answer.putArray("files");
        for (PullList.Line line : pulled.lines()) {
            line.files().forEach(file -> files.add(file.toString()));
            common.say("  %-24s %-60s %s", line.clip().name(), line.files().getFirst(), new ByteSize(line.bytes()));
        }
        ArrayNode left = answer.putArray("leftOut");
        pulled.left().forEach(words -> {
            left.add(words);
            common.say("  left out: %s", words);
        });
        common.say(
                "%d files, %s; the frames used of them are about %s",
                pulled.files(), new ByteSize(pulled.bytes()), new ByteSize(pulled.rangeBytes()));
    }
}
