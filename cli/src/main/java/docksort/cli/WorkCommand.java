package docksort.cli;

import docksort.catalogue.CopyState;
import docksort.engine.MediaEngine;
import docksort.project.LockedRun;
import docksort.project.Project;
import docksort.run.CopyProgress;
import docksort.run.Pace;
import docksort.run.RunSnapshot;
import docksort.run.Terms;
import java.time.Duration;
import java.time.InstantSource;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.HashSet;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.Callable;
import java.util.concurrent.TimeUnit;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

@Command(
        name = "work",
        description = "Makes what waits in the queue of a shared project, beside the other machines that do, and goes"
                + " on until it is ended. Plans nothing.")
final class WorkCommand implements Callable<Integer> {
    @Mixin
    private Common common = new Common();

    @Option(names = "--workers", description = "Copies made at the same time. Default: found by trying")
    private Optional<Integer> workers = Optional.empty();

    @Option(names = "--from", paramLabel = "HH:MM", description = "Begin nothing before this time of day.")
    private Optional<LocalTime> from = Optional.empty();

    @Option(names = "--until", paramLabel = "HH:MM", description = "Begin nothing from this time of day on.")
    private Optional<LocalTime> until = Optional.empty();

    @Option(
            names = "--gently",
            description = "Work below everything else on the machine, and hold still while others need it or it runs"
                    + " on its battery.")
    private boolean gently;

    @Option(
            names = "--look",
            paramLabel = "SECONDS",
            description = "How often to look for what others put into the queue. Default: ${DEFAULT-VALUE}")
    private int look = 5;

    @Option(names = "--until-quiet", description = "End when nothing waited to be made at two looks.")
    private boolean untilQuiet;

    private long made;
    private long failed;

    @Override
    public Integer call() throws InterruptedException {
        common.refuse(
                workers.filter(number -> number < 1 || number > 16).isPresent(),
                "--workers wants a number from 1 to 16");
        common.refuse(look < 1 || look > 3_600, "--look wants a number from 1 to 3600");
        try (MediaEngine engine = MediaEngine.locate();
                Project project = common.open(engine)) {
            common.note("working as " + project.roots().workstation());
            boolean quiet = false;
            while (true) {
                if (project.queue().size() > 0) {
                    quiet = false;
                    make(project);
                } else if (untilQuiet && quiet) {
                    break;
                } else {
                    quiet = true; // who plans may need a moment
                }
                TimeUnit.SECONDS.sleep(look);
            }
            common.say("%d made and checked here, %d failed", made, failed);
            if (common.json()) {
                common.print(Common.object()
                        .put("workstation", project.roots().workstation())
                        .put("made", made)
                        .put("failed", failed));
            }
            return failed > 0 ? ExitCodes.NEEDS_A_LOOK : ExitCodes.GOOD;
        }
    }

    private Terms terms(Project project) {
        Terms usual = project.runs()
                .usualTerms(Pace.at(from, until, gently, InstantSource.system().instant(), ZoneId.systemDefault()));
        return workers.map(usual::manned).orElse(usual);
    }

    private void make(Project project) throws InterruptedException {
        Optional<LockedRun> started = project.runs().start(terms(project), () -> {});
        if (started.isEmpty()) {
            common.note("another program of this workstation makes them");
            return;
        }
        Set<String> told = new HashSet<>();
        try (LockedRun locked = started.get()) {
            long taken = System.nanoTime();
            while (locked.run().snapshot().phase() != RunSnapshot.Phase.OVER) {
                TimeUnit.MILLISECONDS.sleep(250);
                tell(locked.run().snapshot(), told);
                if (System.nanoTime() - taken > TimeUnit.SECONDS.toNanos(look)) {
                    locked.run().takeUp(project.clips());
                    taken = System.nanoTime();
                }
            }
            locked.run().awaitEnd(Duration.ofSeconds(1));
            tell(locked.run().snapshot(), told);
        }
    }

    private void tell(RunSnapshot run, Set<String> told) {
        for (CopyProgress copy : run.copies()) {
            CopyState state = copy.copy().state();
            if ((state.serves() || state == CopyState.FAILED)
                    && told.add(copy.copy().id())) {
                common.say(
                        "  %-24s %-7s %s",
                        copy.clipName(), state.label(), copy.copy().note());
                if (state.serves()) {
                    made++;
                } else {
                    failed++;
                }
            }
        }
    }
}
