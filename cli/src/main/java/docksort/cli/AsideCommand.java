package docksort.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import docksort.arrival.Clip;
import docksort.arrival.ClipId;
import docksort.arrival.Unreadable;
import docksort.engine.MediaEngine;
import docksort.project.Project;
import docksort.project.PuttingAside;
import java.nio.file.Path;
import java.util.List;
import java.util.Set;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(
        name = "aside",
        description =
                "Keeps clips, or files that cannot be read, in the project and neither plans nor counts them, until"
                        + " they are brought back. Copies stay and serve. Without a name: lists what is aside.")
final class AsideCommand implements Callable<Integer> {
    @Mixin
    private Common common = new Common();

    @Parameters(arity = "0..*", paramLabel = "CLIP", description = "Clips by name, ARRIVAL/NAME or id.")
    private List<String> clips = List.of();

    @Option(
            names = "--unreadable",
            paramLabel = "FILE",
            description = "A file that cannot be read; may be given several times.")
    private List<Path> unreadable = List.of();

    @Option(names = "--back", description = "Bring them back.")
    private boolean back;

    @Override
    public Integer call() {
        boolean list = clips.isEmpty() && unreadable.isEmpty();
        common.refuse(list && back, "aside --back wants a CLIP, or --unreadable FILE");
        try (MediaEngine engine = MediaEngine.locate();
                Project project = common.open(engine)) {
            PuttingAside aside = project.puttingAside();
            if (!list) {
                List<Clip> named =
                        clips.stream().map(name -> Common.clip(project, name)).toList();
                List<Unreadable> listed =
                        back ? aside.unreadable() : project.arrivals().unreadable();
                List<Unreadable> files = unreadable.stream()
                        .map(file -> Common.unreadable(listed, file))
                        .toList();
                if (back) {
                    aside.bringBack(named, files);
                } else {
                    aside.put(named, files);
                }
            }
            tell(project);
            return ExitCodes.GOOD;
        }
    }

    private void tell(Project project) {
        Set<ClipId> aside = project.puttingAside().clips();
        ObjectNode answer = Common.object();
        ArrayNode clipsAside = answer.putArray("clips");
        project.clips().stream().filter(clip -> aside.contains(clip.id())).forEach(clip -> {
            clipsAside
                    .addObject()
                    .put("clip", clip.name())
                    .put("clipId", clip.id().value());
            common.say("  %-24s %s", clip.name(), clip.source().head());
        });
        ArrayNode files = answer.putArray("unreadable");
        project.puttingAside().unreadable().forEach(file -> {
            files.add(file.file().toString());
            common.say("  cannot be read: %s", file.file());
        });
        common.say(
                "%s",
                clipsAside.isEmpty() && files.isEmpty()
                        ? "nothing is put aside"
                        : "put aside: " + clipsAside.size() + (clipsAside.size() == 1 ? " clip" : " clips") + ", "
                                + files.size() + " unreadable");
        if (common.json()) {
            common.print(answer);
        }
    }
}
