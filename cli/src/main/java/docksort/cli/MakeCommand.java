package docksort.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import docksort.catalogue.CopyState;
import docksort.engine.MediaEngine;
import docksort.problem.CoreException.InputRefused;
import docksort.problem.Problem;
import docksort.project.Project;
import docksort.run.CopyProgress;
import docksort.run.Pace;
import docksort.run.RunSnapshot;
import java.time.Duration;
import java.time.InstantSource;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.HashSet;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

@Command(
        name = "make",
        mixinStandardHelpOptions = true,
        description = "Makes the planned copies and checks them; carries on where an interrupted run stopped.")
final class MakeCommand implements Callable<Integer> {
    @Mixin
    private Common common = new Common();

    @Option(names = "--workers", description = "Copies made at the same time. Default: ${DEFAULT-VALUE}")
    private int workers = Project.DEFAULT_WORKERS;

    @Option(names = "--retry", description = "Put failed copies back into the queue first.")
    private boolean retry;

    @Option(names = "--from", paramLabel = "HH:MM", description = "Begin nothing before this time of day.")
    private Optional<LocalTime> from = Optional.empty();

    @Option(names = "--until", paramLabel = "HH:MM", description = "Begin nothing from this time of day on.")
    private Optional<LocalTime> until = Optional.empty();

    @Option(names = "--gently", description = "Work below everything else on the machine.")
    private boolean gently;

    private final Set<String> told = new HashSet<>();

    @Override
    public Integer call() throws InterruptedException {
        try (MediaEngine engine = MediaEngine.locate();
                Project project = common.open(engine)) {
            if (retry) {
                project.retryFailed();
            }
            project.plans().enqueue(project.plans().loadSheet());
            Optional<Project.LockedRun> started = project.startRun(
                    Math.clamp(workers, 1, 16),
                    Pace.at(from, until, gently, InstantSource.system().instant(), ZoneId.systemDefault()),
                    () -> {});
            if (started.isEmpty()) {
                throw new InputRefused(new Problem(
                        "The run was not started",
                        "another program is running this project's queue",
                        "",
                        "Wait for it, or end it."));
            }
            try (Project.LockedRun locked = started.get()) {
                while (!locked.run().awaitEnd(Duration.ofMillis(250))) {
                    tellFinished(locked.run().snapshot());
                }
                tellFinished(locked.run().snapshot());
                return answer(locked.run().snapshot());
            }
        }
    }

    private void tellFinished(RunSnapshot run) {
        for (CopyProgress copy : run.copies()) {
            CopyState state = copy.copy().state();
            if ((state == CopyState.READY || state == CopyState.FAILED)
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

    private int answer(RunSnapshot run) {
        long ready = run.count(CopyState.READY);
        long failed = run.count(CopyState.FAILED);
        common.say(
                "%d made and checked, %d failed, %.1f s",
                ready, failed, run.elapsed().toMillis() / 1000.0);
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
                            .put("note", copy.copy().note()));
            common.print(node);
        }
        return failed > 0 ? ExitCodes.NEEDS_A_LOOK : ExitCodes.GOOD;
    }
}
