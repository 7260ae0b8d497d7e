package docksort.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import docksort.engine.MediaEngine;
import docksort.media.Look;
import docksort.project.Project;
import docksort.sort.Recipe;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

@Command(
        name = "looks",
        description = "Lists the lookup tables that recipes can bake into copies, adds some and takes some out.")
final class LooksCommand implements Callable<Integer> {
    @Mixin
    private Common common = new Common();

    @Option(names = "--add", paramLabel = "FILE", description = "A .cube file of three dimensions; may be repeated.")
    private List<Path> added = new ArrayList<>();

    @Option(
            names = "--remove",
            paramLabel = "NAME",
            description = "A table that no recipe uses, by its name or by how its digest begins; may be repeated.")
    private List<String> removed = new ArrayList<>();

    @Override
    public Integer call() {
        try (MediaEngine engine = MediaEngine.locate();
                Project project = common.open(engine)) {
            added.forEach(project.looks()::add);
            for (String name : removed) {
                project.looks().remove(named(name, project.looks().all()));
            }
            tell(project);
            return ExitCodes.GOOD;
        }
    }

    private Look.Table named(String name, List<Look.Table> all) {
        List<Look.Table> found = all.stream()
                .filter(table -> table.name().equals(name)
                        || (name.length() >= 6 && table.digest().startsWith(name)))
                .toList();
        common.refuse(found.isEmpty(), "there is no lookup table " + name);
        common.refuse(found.size() > 1, "there are " + found.size() + " lookup tables " + name + ": give the digest");
        return found.getFirst();
    }

    private void tell(Project project) {
        List<Look.Table> all = project.looks().all();
        var answer = Common.object();
        ArrayNode tables = answer.putArray("tables");
        for (Look.Table table : all) {
            List<String> users = project.book().now().own().stream()
                    .filter(recipe ->
                            recipe.look().table().filter(table::equals).isPresent())
                    .map(Recipe::id)
                    .toList();
            users.forEach(tables.addObject()
                    .put("name", table.name())
                    .put("digest", table.digest())
                    .putArray("recipes")::add);
            common.say(
                    "%s  %s  %s",
                    table.digest().substring(0, 12),
                    table.name(),
                    users.isEmpty() ? "in no recipe" : "in " + String.join(", ", users));
        }
        if (all.isEmpty()) {
            common.say("No lookup tables yet: dock-sort looks --add FILE.cube");
        }
        if (common.json()) {
            common.print(answer);
        }
    }
}
