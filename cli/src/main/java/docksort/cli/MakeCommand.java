package docksort.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import docksort.catalogue.CopyState;
import docksort.engine.MediaEngine;
import docksort.problem.CoreException.InputRefused;
import docksort.problem.Problem;
import docksort.project.LockedRun;
import docksort.project.Project;
import docksort.run.CopyProgress;
import docksort.run.RunLine;
import docksort.run.RunReport;
import docksort.run.RunSnapshot;
import docksort.run.Terms;
import docksort.sort.LoadSheet;
import docksort.sort.PlannedCopy;
import docksort.sort.Recipe;
import java.nio.file.Path;
import java.time.Duration;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.Callable;
import java.util.stream.Collectors;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

@Command(
        name = "make",
        description = "Makes the planned copies and checks them; carries on where an interrupted run stopped.")
final class MakeCommand implements Callable<Integer> {
    @Mixin
    private Common common = new Common();

    @Mixin
    private WorkOptions work = new WorkOptions();

    @Option(names = "--retry", description = "Put failed copies back into the queue first.")
    private boolean retry;

    @Option(
            names = "--speed",
            paramLabel = "TIMES",
            description = "Read clips at most so many times faster than they play. Default: no limit")
    private int speed;

    @Option(
            names = "--wait",
            paramLabel = "MINUTES",
            description = "How long to wait for a volume that is away or full before its copies count as failed."
                    + " Default: ${DEFAULT-VALUE}")
    private int patience;

    @Option(
            names = "--check-places",
            description =
                    "Look only at what lies around five places of each copy in its check, instead of comparing every"
                            + " frame.")
    private boolean places;

    @Option(names = "--report", paramLabel = "FILE", description = "Write a report of the run, .html or .csv.")
    private List<Path> reports = List.of();

    private String why = "";
    private final Set<String> told = new HashSet<>();
    private List<PlannedCopy> cannot = List.of();

    @Override
    public Integer call() throws InterruptedException {
        try (MediaEngine engine = MediaEngine.locate();
                Project project = common.open(engine)) {
            if (retry) {
                project.queue().retryFailed();
            }
            LoadSheet sheet = project.plans().loadSheet();
            cannot = sheet.copies().stream()
                    .filter(copy -> !copy.already() && copy.resolution() instanceof Recipe.Resolution.Impossible)
                    .toList();
            for (PlannedCopy copy : cannot) {
                common.say(
                        "  %-24s %-34s cannot be made: %s",
                        copy.clip().name(), copy.recipe().label(), why(copy));
            }
            project.queue().enqueue(sheet);
            Optional<LockedRun> started = project.runs().start(terms(project), () -> {});
            if (started.isEmpty()) {
                throw new InputRefused(new Problem(
                        "The run was not started",
                        "another program is running this project's queue",
                        "",
                        "Wait for it, or end it."));
            }
            try (LockedRun locked = started.get()) {
                while (!locked.run().awaitEnd(Duration.ofMillis(250))) {
                    tellFinished(locked.run().snapshot());
                }
                tellFinished(locked.run().snapshot());
                if (work.findsWorkers()) {
                    project.runs().keepWorkers(locked.run().bestWorkers());
                }
                reports.forEach(project.runs().report(locked.run().started())::write);
                return answer(
                        locked.run().snapshot(),
                        project.runs().report(locked.run().started()));
            }
        }
    }

    private static String why(PlannedCopy copy) {
        return copy.resolution() instanceof Recipe.Resolution.Impossible(var because) ? because : "";
    }

    private Terms terms(Project project) {
        common.refuse(speed < 0, "--speed wants a number from 0 on");
        common.refuse(patience < 0, "--wait wants a number from 0 on");
        Terms usual = work.terms(project);
        return usual.at(usual.pace().cappedAt(Math.clamp(speed, 0, 1_000)))
                .patient(Duration.ofMinutes(Math.clamp(patience, 0, 100_000)))
                .checkingAll(!places && project.settings().checksAll());
    }

    private void tellFinished(RunSnapshot run) {
        if (run.phase() != RunSnapshot.Phase.WORKING
                && !run.why().isEmpty()
                && !run.why().equals(why)) {
            why = run.why();
            common.say("  %s", why);
        }
        for (CopyProgress copy : run.copies()) {
            CopyState state = copy.copy().state();
            if ((state.serves() || state == CopyState.FAILED)
                    && told.add(copy.copy().id())) {
                common.say(
                        "  %d/%d %-24s %-7s %s",
                        told.size(),
                        run.copies().size(),
                        copy.clipName(),
                        state.label(),
                        copy.copy().note());
            }
        }
    }

    private int answer(RunSnapshot run, RunReport report) {
        Map<String, String> encoders =
                report.lines().stream().collect(Collectors.toMap(RunLine::file, RunLine::encoder, (_, last) -> last));
        long ready = run.ready();
        long failed = run.count(CopyState.FAILED);
        long holes = run.count(CopyState.READY_WITH_HOLES);
        common.say(
                "%d made and checked%s, %d failed, %d cannot be made, %.1f s",
                ready,
                holes == 0 ? "" : " (" + holes + " with holes of their originals: clean serve lets them serve)",
                failed,
                cannot.size(),
                run.elapsed().toMillis() / 1000.0);
        if (common.json()) {
            ObjectNode node = Common.object();
            node.put("ready", ready);
            node.put("failed", failed);
            node.put("millis", run.elapsed().toMillis());
            ArrayNode copies = node.putArray("copies");
            run.copies()
                    .forEach(copy -> copies.addObject()
                            .put("clip", copy.clipName())
                            .put("state", copy.copy().state().label())
                            .put("file", copy.copy().file().toString())
                            .put("bytes", copy.copy().place().bytes())
                            .put(
                                    "encoder",
                                    encoders.getOrDefault(copy.copy().file().toString(), ""))
                            .put("note", copy.copy().note()));
            ArrayNode left = node.putArray("cannotBeMade");
            cannot.forEach(copy -> left.addObject()
                    .put("clip", copy.clip().name())
                    .put("clipId", copy.clip().id().value())
                    .put("recipe", copy.recipe().id())
                    .put("why", why(copy)));
            common.print(node);
        }
        return failed > 0 || holes > 0 || !cannot.isEmpty() ? ExitCodes.NEEDS_A_LOOK : ExitCodes.GOOD;
    }
}
