package docksort.cli;

import com.fasterxml.jackson.databind.node.ObjectNode;
import docksort.engine.MediaEngine;
import docksort.problem.CoreException.InputRefused;
import docksort.problem.Problem;
import docksort.project.Library;
import docksort.project.Project;
import docksort.project.Template;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.Optional;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

/// Begins a project, and says what new ones begin with.
@Command(
        name = "begin",
        description = "Begins a project with what the personal library holds, like another project, or with neither.")
final class BeginCommand implements Callable<Integer> {
    @Mixin
    private Common common = new Common();

    @Option(
            names = "--like",
            paramLabel = "FOLDER",
            description = "Project whose recipes, rules, limits, timeline and order of serving it takes over.")
    private Optional<Path> like = Optional.empty();

    @Option(names = "--without-library", description = "Begin with the built-in rules.")
    private boolean withoutLibrary;

    @Option(
            names = "--keep",
            description = "Begin none: keep this project's recipes, rules and limits in the library, for new ones.")
    private boolean keep;

    @Option(names = "--forget", description = "Begin none: let new projects begin with the built-in rules again.")
    private boolean forget;

    @Override
    public Integer call() {
        common.refuse(keep && forget, "either --keep or --forget");
        common.refuse((keep || forget) && like.isPresent(), "--like goes with a project that is begun");
        Library library = Library.ofThisPerson();
        if (forget) {
            library.forgetBeginning();
            return told("New projects begin with the built-in rules.", library);
        }
        try (MediaEngine engine = MediaEngine.locate()) {
            if (keep) {
                try (Project project = common.open(engine)) {
                    library.keep(project.template());
                }
                return told("New projects begin with its recipes, rules and limits.", library);
            }
            if (common.hasProject()) {
                throw new InputRefused(new Problem(
                        "No project was begun in " + common.folder(),
                        "there is one already",
                        "It is as it was.",
                        "Name another folder with --project."));
            }
            Template template =
                    like.map(Template::like).orElseGet(() -> withoutLibrary ? Template.NONE : Template.of(library));
            try (Project project = Project.begin(common.folder(), engine, InstantSource.system(), template)) {
                String how = template.words().isEmpty()
                        ? "Began with the built-in rules"
                        : String.join("; ", template.words());
                return told(how + ": " + project.folder(), library);
            }
        }
    }

    private int told(String what, Library library) {
        common.say("%s", what);
        if (common.json()) {
            ObjectNode answer = Common.object().put("what", what);
            common.print(answer.put("library", library.file().toString()));
        }
        return ExitCodes.GOOD;
    }
}
