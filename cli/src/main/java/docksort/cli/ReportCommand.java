package docksort.cli;

import docksort.arrival.Arrival;
import docksort.engine.Cancellation;
import docksort.engine.MediaEngine;
import docksort.project.Project;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(
        name = "report",
        description = "Writes what came in for the team: every clip with three pictures, facts, verdict, what differs"
                + " from the project's timeline, and what is missing.")
final class ReportCommand implements Callable<Integer> {
    @Mixin
    private Common common = new Common();

    @Parameters(arity = "0..*", paramLabel = "ARRIVAL", description = "Only these, by name or folder.")
    private List<String> names = List.of();

    @Option(
            names = "--to",
            required = true,
            paramLabel = "FILE",
            description = "HTML, a sheet for each card, with pictures in a folder beside it; or CSV.")
    private Path file = Path.of("");

    @Option(names = "--without-pictures", description = "Facts alone, which takes seconds.")
    private boolean withoutPictures;

    @Override
    public Integer call() throws InterruptedException {
        String name = file.toString().toLowerCase(Locale.ROOT);
        common.refuse(
                !name.endsWith(".html") && !name.endsWith(".csv"), "--to wants a file that ends in .html or .csv");
        try (MediaEngine engine = MediaEngine.locate();
                Project project = common.open(engine)) {
            List<Arrival> arrivals = names.isEmpty()
                    ? project.arrivals().all()
                    : names.stream().map(each -> Common.arrival(project, each)).toList();
            project.arrivalReports().write(arrivals, file, !withoutPictures, (_, _) -> {}, new Cancellation());
            common.say("%s: %d %s", file, arrivals.size(), arrivals.size() == 1 ? "card" : "cards");
            if (common.json()) {
                common.print(Common.object().put("file", file.toString()).put("cards", arrivals.size()));
            }
            return ExitCodes.GOOD;
        }
    }
}
