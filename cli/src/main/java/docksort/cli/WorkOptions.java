package docksort.cli;

import docksort.project.Project;
import docksort.run.Pace;
import docksort.run.Terms;
import docksort.run.WeeklyHours;
import java.time.InstantSource;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.Optional;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.Spec;

/// When copies are made, and how hard.
final class WorkOptions {
    @Spec(Spec.Target.MIXEE)
    private CommandSpec spec = CommandSpec.create();

    @Option(names = "--workers", description = "Copies made at the same time. Default: found by trying")
    private Optional<Integer> workers = Optional.empty();

    @Option(names = "--from", paramLabel = "HH:MM", description = "Begin nothing before this time of day.")
    private Optional<LocalTime> from = Optional.empty();

    @Option(names = "--until", paramLabel = "HH:MM", description = "Begin nothing from this time of day on.")
    private Optional<LocalTime> until = Optional.empty();

    @Option(
            names = "--hours",
            paramLabel = "HOURS",
            description = "Begin nothing outside of these hours of the week, for instance \"Mo-Fr 19:00-07:00,"
                    + " Sa-Su 00:00-24:00\" or \"daily 22:00-06:00\".")
    private Optional<WeeklyHours> hours = Optional.empty();

    @Option(
            names = "--gently",
            description = "Work below everything else on the machine, and hold still while others need it or it runs"
                    + " on its battery.")
    private boolean gently;

    /// Whether the number of workers is left to be found.
    boolean findsWorkers() {
        return workers.isEmpty();
    }

    Terms terms(Project project) {
        if (workers.filter(number -> number < 1 || number > 16).isPresent()) {
            throw new ParameterException(spec.commandLine(), "--workers wants a number from 1 to 16");
        }
        Terms usual = project.runs()
                .usualTerms(Pace.at(from, until, gently, InstantSource.system().instant(), ZoneId.systemDefault())
                        .within(hours.orElse(WeeklyHours.ALWAYS)));
        return workers.map(usual::manned).orElse(usual);
    }
}
