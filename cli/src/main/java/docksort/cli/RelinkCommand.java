package docksort.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import docksort.catalogue.Presence;
import docksort.catalogue.Root;
import docksort.engine.MediaEngine;
import docksort.link.Relink;
import docksort.problem.CoreException.InputRefused;
import docksort.problem.Problem;
import docksort.project.Project;
import java.nio.file.Path;
import java.util.concurrent.Callable;
import java.util.stream.Collectors;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(
        name = "relink",
        mixinStandardHelpOptions = true,
        description = "Points a root at the folder its media lies in now. What is not the same recording is refused.")
final class RelinkCommand implements Callable<Integer> {
    @Mixin
    private Common common = new Common();

    @Parameters(index = "0", paramLabel = "ROOT", description = "The root's name, or its path so far.")
    private String root = "";

    @Parameters(index = "1", paramLabel = "FOLDER", description = "Where its media lies now.")
    private Path folder = Path.of("");

    @Option(names = "--preview", description = "Only show what would be found.")
    private boolean preview;

    @Override
    public Integer call() {
        try (MediaEngine engine = MediaEngine.locate();
                Project project = common.open(engine)) {
            Relink relink = project.previewRelink(find(project, root), folder);
            if (!preview) {
                project.relink(relink);
            }
            return tell(relink);
        }
    }

    /// @param root its name, or its path so far
    static Root find(Project project, String root) {
        return project.roots().stream()
                .filter(known ->
                        known.name().equals(root) || known.path().toString().equals(root))
                .findFirst()
                .orElseThrow(() -> new InputRefused(new Problem(
                        "No root is named " + root,
                        "",
                        "Nothing was changed.",
                        "The project has: "
                                + project.roots().stream().map(Root::name).collect(Collectors.joining(", ")))));
    }

    private int tell(Relink relink) {
        ObjectNode answer = Common.object();
        answer.put("done", !preview);
        ArrayNode clips = answer.putArray("clips");
        for (Relink.Line line : relink.lines()) {
            clips.addObject()
                    .put("clip", line.clip().name())
                    .put("candidate", line.candidate().toString())
                    .put("presence", line.presence().state().label())
                    .put("note", line.presence().note());
            common.say(
                    "  %-24s %-18s %s",
                    line.clip().name(),
                    line.presence().state().label(),
                    line.presence().note());
        }
        long back = relink.count(Presence.State.ONLINE);
        common.say("%d of %d clips %s", back, relink.lines().size(), preview ? "would be online" : "are online");
        if (common.json()) {
            common.print(answer);
        }
        return back == relink.lines().size() ? ExitCodes.GOOD : ExitCodes.NEEDS_A_LOOK;
    }
}
