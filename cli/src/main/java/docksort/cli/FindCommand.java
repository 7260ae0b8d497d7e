package docksort.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import docksort.engine.Cancellation;
import docksort.engine.MediaEngine;
import docksort.link.MediaSearch;
import docksort.link.MediaSearch.Result;
import docksort.project.Project;
import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(
        name = "find",
        description = "Searches a folder or volume for originals and copies that are not in their place, by what they"
                + " hold, whatever their names are now.")
final class FindCommand implements Callable<Integer> {
    @Mixin
    private Common common = new Common();

    @Parameters(index = "0", paramLabel = "FOLDER", description = "Where to look.")
    private Path folder = Path.of("");

    @Option(names = "--preview", description = "Only show what would be found.")
    private boolean preview;

    @Option(
            names = "--twins",
            description = "Look for the same recordings as those that are in use, for instance on a faster volume.")
    private boolean twins;

    @Option(
            names = "--by-header",
            description = "Take those, too, whose name, size, length and timecode are the same but whose content cannot"
                    + " be read.")
    private boolean byHeader;

    @Override
    public Integer call() {
        try (MediaEngine engine = MediaEngine.locate();
                Project project = common.open(engine)) {
            project.stocktaking().refresh();
            List<Result> results = twins
                    ? project.relinking().twins(folder, project.clips(), (_, _) -> {}, new Cancellation())
                    : project.relinking().search(folder, (_, _) -> {}, new Cancellation());
            if (!preview) {
                project.relinking().relink(folder.toAbsolutePath().normalize(), results, byHeader);
            }
            return tell(results);
        }
    }

    private int tell(List<Result> results) {
        ObjectNode answer = Common.object();
        answer.put("done", !preview);
        ArrayNode found = answer.putArray("results");
        int good = 0;
        for (Result result : results) {
            String words = words(result);
            good += result instanceof Result.Found || (byHeader && result instanceof Result.ByHeader) ? 1 : 0;
            found.addObject()
                    .put("wanted", result.wanted().name())
                    .put("was", result.wanted().source().head().toString())
                    .put("result", words);
            common.say("  %-24s %s", result.wanted().name(), words);
        }
        common.say("%d of %d %s", good, results.size(), preview ? "would be found" : "found");
        if (common.json()) {
            common.print(answer);
        }
        return good == results.size() ? ExitCodes.GOOD : ExitCodes.NEEDS_A_LOOK;
    }

    private static String words(Result result) {
        return switch (result) {
            case Result.Found(MediaSearch.Wanted _, var source, var how) -> source.head() + ": " + how;
            case Result.ByHeader(MediaSearch.Wanted _, var source, var how) -> "likely " + source.head() + ": " + how;
            case Result.Several(MediaSearch.Wanted _, var sources) ->
                "in " + sources.size() + " places that are equally near: point one out";
            case Result.Another(MediaSearch.Wanted _, var file, var why) -> "refused " + file + ": " + why;
            case Result.NotThere(MediaSearch.Wanted _) -> "not there";
        };
    }
}
