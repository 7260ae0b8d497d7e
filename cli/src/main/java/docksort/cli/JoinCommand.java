package docksort.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import docksort.catalogue.Desk;
import docksort.catalogue.Root;
import docksort.catalogue.SharedAddress;
import docksort.project.Project;
import docksort.project.Sharing;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(name = "join", description = "Makes the project folder of this workstation a member of a shared project.")
final class JoinCommand implements Callable<Integer> {
    @Mixin
    private Common common = new Common();

    @Parameters(
            arity = "1",
            paramLabel = "ADDRESS",
            description = "The database, as dock-sort share says it: postgresql://user@host:5432/database.")
    private String address = "";

    @Option(names = "--schema", required = true, paramLabel = "NAME", description = "The project's schema there.")
    private String schema = "";

    @Option(
            names = "--root",
            paramLabel = "NAME=FOLDER",
            description = "Where this workstation sees one of the project's roots. A root without one is nowhere here.")
    private Map<String, Path> roots = new LinkedHashMap<>();

    @Option(
            names = "--same-paths",
            description =
                    "Roots that are not named are where another workstation sees them, as far as there is a folder"
                            + " here.")
    private boolean samePaths;

    @Option(names = "--person", paramLabel = "NAME", description = "Who works here. Default: the user's name")
    private Optional<String> person = Optional.empty();

    @Option(
            names = "--as",
            paramLabel = "NAME",
            description = "The name this workstation's paths are kept under. Default: the machine's name")
    private Optional<String> workstation = Optional.empty();

    @Option(
            names = "--again",
            description = "Take the name of a workstation that joined before and works no more, for instance because"
                    + " its project folder is lost.")
    private boolean again;

    @Override
    public Integer call() {
        Desk here = Project.deskHere();
        var desk = new Desk(
                workstation.map(String::strip).filter(name -> !name.isEmpty()).orElse(here.workstation()),
                person.orElse(here.person()));
        List<Root> known = Sharing.join(
                common.folder(),
                SharedAddress.parse(address, schema),
                new Sharing.Joining(desk, roots, samePaths, again),
                InstantSource.system());
        common.say("Joined as %s, %s: %s", desk.workstation(), desk.person(), common.folder());
        known.forEach(root -> common.say(
                "  %-24s %s",
                root.name(),
                root.isPlaced()
                        ? root.path()
                        : "nowhere on this workstation: say where with dock-sort relink \"" + root.name()
                                + "\" FOLDER"));
        boolean all = known.stream().allMatch(Root::isPlaced);
        if (common.json()) {
            ObjectNode answer =
                    Common.object().put("workstation", desk.workstation()).put("person", desk.person());
            ArrayNode each = answer.putArray("roots");
            known.forEach(root -> each.addObject()
                    .put("name", root.name())
                    .put("path", root.isPlaced() ? root.path().toString() : ""));
            common.print(answer);
        }
        return all ? ExitCodes.GOOD : ExitCodes.NEEDS_A_LOOK;
    }
}
