package docksort.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import docksort.arrival.Clip;
import docksort.catalogue.WorkingCopy;
import docksort.engine.MediaEngine;
import docksort.link.CopyNames;
import docksort.link.OriginalName;
import docksort.project.Project;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(
        name = "names",
        description = "Gives all finished copies names by a pattern: {clip} {kind} {recipe} {arrival} {reel} {raster}."
                + " All of them or none; doing it twice changes nothing.")
final class NamesCommand implements Callable<Integer> {
    @Mixin
    private Common common = new Common();

    @Parameters(index = "0", paramLabel = "PATTERN", description = "For instance {clip}_{kind}.")
    private String pattern = "";

    @Option(
            names = "--original",
            paramLabel = "CLIP",
            description = "Rename the original of this clip instead, to the name given. Timelines and other programs"
                    + " that know it by its name will not find it any more.")
    private Optional<String> original = Optional.empty();

    @Option(
            names = "--taken-over",
            description = "Rename copies that were taken over, too, the camera's own among them, in their folders.")
    private boolean takenOver;

    @Option(names = "--preview", description = "Only show what the names would be.")
    private boolean preview;

    @Override
    public Integer call() {
        try (MediaEngine engine = MediaEngine.locate();
                Project project = common.open(engine)) {
            if (original.isPresent()) {
                return original(project, original.get());
            }
            List<WorkingCopy> all = project.stocktaking().lines().stream()
                    .flatMap(line -> line.copies().stream())
                    .filter(copy -> copy.state().serves())
                    .toList();
            List<WorkingCopy> copies =
                    all.stream().filter(copy -> takenOver || !copy.isAdopted()).toList();
            CopyNames names = project.renaming().names(pattern, copies, takenOver);
            for (CopyNames.Line line : names.lines()) {
                common.say(
                        "  %-32s %s",
                        line.copy().file().getFileName(),
                        line.fault()
                                .map(why -> "stays: " + why)
                                .orElse(line.changes() ? "-> " + line.to().getFileName() : "as it is"));
            }
            all.stream()
                    .filter(copy -> !takenOver && copy.isAdopted())
                    .forEach(copy -> common.say(
                            "  %-32s left aside: it was taken over; --taken-over renames it, too",
                            copy.file().getFileName()));
            int changed = preview ? names.changes().size() : project.renaming().rename(names);
            if (common.json()) {
                ObjectNode answer = Common.object().put("done", !preview).put("changed", changed);
                ArrayNode lines = answer.putArray("copies");
                names.lines()
                        .forEach(line -> lines.addObject()
                                .put("from", line.copy().file().toString())
                                .put("to", line.to().toString())
                                .put("fault", line.fault().orElse("")));
                common.print(answer);
            }
            common.say("%d %s", changed, preview ? "would be renamed" : "renamed");
            return names.isSound() ? ExitCodes.GOOD : ExitCodes.NEEDS_A_LOOK;
        }
    }

    private int original(Project project, String clipName) {
        Clip clip = Common.clip(project, clipName);
        OriginalName name = OriginalName.preview(clip, pattern);
        common.say(
                "  %s -> %s",
                clip.source().head(),
                name.fault()
                        .map(why -> "stays: " + why)
                        .orElse(String.valueOf(name.to().getFileName())));
        common.say("%s", OriginalName.WARNING);
        if (!preview) {
            project.renaming().rename(name);
            common.say("renamed");
        }
        if (common.json()) {
            common.print(Common.object()
                    .put("done", !preview)
                    .put("from", clip.source().head().toString())
                    .put("to", name.to().toString())
                    .put("fault", name.fault().orElse("")));
        }
        return name.fault().isPresent() ? ExitCodes.NEEDS_A_LOOK : ExitCodes.GOOD;
    }
}
