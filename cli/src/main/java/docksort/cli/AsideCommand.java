package docksort.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import docksort.arrival.Clip;
import docksort.arrival.ClipId;
import docksort.arrival.Unreadable;
import docksort.engine.MediaEngine;
import docksort.project.Project;
import docksort.project.PuttingAside;
import java.util.List;
import java.util.Set;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

@Command(
        name = "aside",
        description =
                "Keeps clips, or files that cannot be read, in the project and neither plans nor counts them, until"
                        + " they are brought back. Copies stay and serve. Without a name: lists what is aside.")
final class AsideCommand implements Callable<Integer> {
    @Mixin
    private Common common = new Common();

    @Mixin
    private Named named = new Named();

    @Option(names = "--back", description = "Bring them back.")
    private boolean back;

    @Override
    public Integer call() {
        boolean list = named.isEmpty();
        common.refuse(list && back, "aside --back wants a CLIP, or --unreadable FILE");
        try (MediaEngine engine = MediaEngine.locate();
                Project project = common.open(engine)) {
            PuttingAside aside = project.puttingAside();
            if (!list) {
                List<Clip> clips = named.clips(project);
                List<Unreadable> files = named.unreadable(
                        back ? aside.unreadable() : project.arrivals().unreadable());
                if (back) {
                    aside.bringBack(clips, files);
                } else {
                    aside.put(clips, files);
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
