package docksort.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import docksort.engine.MediaEngine;
import docksort.project.Project;
import docksort.sort.Recipe;
import docksort.sort.SortBook;
import docksort.sort.SortRule;
import java.nio.file.Path;
import java.util.Optional;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

/// Lists recipes and rules, takes them in from a file, writes them out.
@Command(name = "recipes", description = "Lists recipes and rules; takes them in from a file, or writes them out.")
final class RecipesCommand implements Callable<Integer> {
    @Mixin
    private Common common = new Common();

    @Option(names = "--take-in", paramLabel = "FILE", description = "Take in the recipes of a file.")
    private Optional<Path> takeIn = Optional.empty();

    @Option(names = "--with-rules", description = "Let the file's rules take the place of the project's.")
    private boolean withRules;

    @Option(
            names = "--same",
            paramLabel = "beside|replace|leave",
            description = "What becomes of recipes that the project has in another form. Default: beside")
    private SortBook.Same same = SortBook.Same.BESIDE;

    @Option(names = "--write-out", paramLabel = "FILE", description = "Write the project's own recipes and its rules.")
    private Optional<Path> writeOut = Optional.empty();

    @Override
    public Integer call() {
        try (MediaEngine engine = MediaEngine.locate();
                Project project = takeIn.isPresent() ? common.openOrBegin(engine) : common.open(engine)) {
            takeIn.ifPresent(file -> project.book().takeIn(file, withRules, same));
            writeOut.ifPresent(project.book()::writeOut);
            tell(project.book().now());
            return ExitCodes.GOOD;
        }
    }

    private void tell(SortBook book) {
        ObjectNode answer = Common.object();
        ArrayNode recipes = answer.putArray("recipes");
        for (Recipe recipe : book.recipes()) {
            recipes.addObject()
                    .put("id", recipe.id())
                    .put("name", recipe.name())
                    .put("kind", recipe.kind().label())
                    .put("builtIn", recipe.isBuiltIn())
                    .put("summary", recipe.summary());
            common.say("  %-22s %-44s %s", recipe.id(), recipe.label(), recipe.summary());
        }
        ArrayNode rules = answer.putArray("rules");
        int number = 0;
        for (SortRule rule : book.rules()) {
            number++;
            ObjectNode node = rules.addObject();
            node.put("when", rule.sentence());
            rule.make().forEach(node.putArray("make")::add);
            common.say(
                    "  rule %d: %s: %s",
                    number,
                    rule.sentence(),
                    rule.make().isEmpty() ? "leave as it is" : String.join(" and ", rule.make()));
        }
        if (common.json()) {
            common.print(answer);
        }
    }
}
