package docksort.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import docksort.arrival.Arrival;
import docksort.catalogue.Presence;
import docksort.catalogue.Root;
import docksort.engine.MediaEngine;
import docksort.link.Relink;
import docksort.problem.CoreException.InputRefused;
import docksort.problem.Problem;
import docksort.project.Project;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Objects;
import java.util.Optional;
import java.util.concurrent.Callable;
import java.util.stream.Collectors;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(
        name = "relink",
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
            common.refuse(!Files.isDirectory(folder), "there is no folder " + folder);
            Relink relink = relink(project);
            if (!preview) {
                project.relinking().carryOut(relink);
            }
            return tell(relink);
        }
    }

    /// By a root, or by the folder of an arrival, whose root is then pointed at what that folder now lies
    /// in.
    private Relink relink(Project project) {
        Path named = Path.of(root).toAbsolutePath().normalize();
        Path now = folder.toAbsolutePath().normalize();
        Optional<Arrival> moved = project.arrivals().all().stream()
                .filter(arrival -> arrival.folder().equals(named))
                .filter(arrival -> project.roots().all().stream()
                        .noneMatch(known -> known.path().equals(named)))
                .findFirst();
        if (moved.isEmpty()) {
            return project.relinking().preview(find(project, root), folder);
        }
        Root of = project.roots().all().stream()
                .filter(known -> !known.id().equals(Root.COPIES) && named.startsWith(known.path()))
                .findFirst()
                .orElseThrow();
        Path inside = of.path().relativize(named);
        if (!now.endsWith(inside)) {
            throw new InputRefused(new Problem(
                    "The arrival was not pointed at " + now,
                    "it was added as " + named + ", below the root " + of.path()
                            + ", and a root keeps the names of what is in it",
                    "Nothing was changed.",
                    "Give the folder that is still called " + inside + ", or use: dock-sort find FOLDER"));
        }
        Path place = now;
        for (int i = 0; i < inside.getNameCount(); i++) {
            place = Objects.requireNonNull(place.getParent());
        }
        return project.relinking().preview(of, place);
    }

    /// @param root its name, or its path so far
    static Root find(Project project, String root) {
        return project.roots().all().stream()
                .filter(known ->
                        known.name().equals(root) || known.path().toString().equals(root))
                .findFirst()
                .orElseThrow(() -> new InputRefused(new Problem(
                        "No root is named " + root,
                        "",
                        "Nothing was changed.",
                        "The project has: "
                                + project.roots().all().stream()
                                        .map(known -> known.name() + " (" + known.path() + ")")
                                        .collect(Collectors.joining(", "))
                                + project.arrivals().all().stream()
                                        .map(arrival -> ", " + arrival.folder())
                                        .collect(Collectors.joining()))));
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
