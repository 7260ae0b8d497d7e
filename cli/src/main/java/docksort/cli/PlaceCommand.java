package docksort.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import docksort.dispatch.Places;
import docksort.engine.MediaEngine;
import docksort.project.Project;
import java.util.List;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(name = "place", description = "Says where another workstation sees a root; without a root, lists all places.")
final class PlaceCommand implements Callable<Integer> {
    @Mixin
    private Common common = new Common();

    @Parameters(paramLabel = "ROOT", arity = "0..1", description = "The root's name, or its path here.")
    private List<String> root = List.of();

    @Option(names = "--on", paramLabel = "WORKSTATION", defaultValue = "", description = "Name of the workstation.")
    private String workstation = "";

    @Option(
            names = "--is",
            paramLabel = "PATH",
            defaultValue = "",
            description = "Its path there, such as E:\\\\Footage; empty for none.")
    private String path = "";

    @Override
    public Integer call() {
        try (MediaEngine engine = MediaEngine.locate();
                Project project = common.open(engine)) {
            root.forEach(name -> project.roots().placeElsewhere(RelinkCommand.find(project, name), workstation, path));
            ObjectNode answer = Common.object();
            ArrayNode nodes = answer.putArray("places");
            for (Places.Place place : project.roots().places().roots()) {
                tell(nodes, place.name(), "here", place.here().toString());
                place.elsewhere().forEach((name, there) -> tell(nodes, place.name(), name, there.toString()));
            }
            if (common.json()) {
                common.print(answer);
            }
            return ExitCodes.GOOD;
        }
    }

    private void tell(ArrayNode nodes, String name, String where, String is) {
        nodes.addObject().put("root", name).put("workstation", where).put("path", is);
        common.say("  %-20s %-20s %s", name, where, is);
    }
}
