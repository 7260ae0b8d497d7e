package docksort.cli;

import docksort.catalogue.CopyState;
import docksort.catalogue.Machine;
import docksort.engine.MediaEngine;
import docksort.problem.CoreException.CatalogueUnavailable;
import docksort.project.LockedRun;
import docksort.project.Project;
import docksort.run.CopyProgress;
import docksort.run.RunSnapshot;
import java.time.Duration;
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

    @Mixin
    private WorkOptions work = new WorkOptions();

    @Option(
            names = "--look",
            paramLabel = "SECONDS",
            description = "How often to look for what others put into the queue. Default: ${DEFAULT-VALUE}")
    private int look = 5;

    @Option(names = "--until-quiet", description = "End when nothing waited to be made at two looks.")
    private boolean untilQuiet;

    private String noted = "";
    private long made;
    private long failed;

    @Override
    public Integer call() throws InterruptedException {
        common.refuse(look < 1 || look > 3_600, "--look wants a number from 1 to 3600");
        try (MediaEngine engine = MediaEngine.locate();
                Project project = opened(engine)) {
            common.note("working as " + project.roots().workstation());
            boolean quiet = false;
            while (true) {
                Optional<Boolean> found = attempt(project);
                if (found.isPresent()) {
                    if (!found.get() && quiet && untilQuiet) {
                        break;
                    }
                    quiet = !found.get(); // who plans may need a moment
                }
                TimeUnit.SECONDS.sleep(look);
            }
            project.runs().leave();
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

    /// The project as soon as its database answers: a machine may be up before its server is.
    private Project opened(MediaEngine engine) throws InterruptedException {
        while (true) {
            try {
                return common.open(engine);
            } catch (CatalogueUnavailable e) {
                if (!e.comesBack()) {
                    throw e;
                }
                note(e.problem().what() + ": waiting for it");
                TimeUnit.SECONDS.sleep(look);
            }
        }
    }

    /// @return whether something waited to be made; empty while the database does not answer
    private Optional<Boolean> attempt(Project project) throws InterruptedException {
        try {
            boolean waiting = project.runs().hasWork();
            Machine.Asked asked = project.runs().asked();
            Machine.Wish wish = asked.wish();
            note(
                    wish == Machine.Wish.WORK
                            ? ""
                            : "begins nothing: that was asked of "
                                    + project.roots().workstation());
            if (waiting && wish == Machine.Wish.WORK) {
                make(project);
            } else {
                project.runs()
                        .idle(
                                waiting
                                        ? "begins nothing, as it was asked"
                                        : "waits for something to make"
                                                + (asked.recipes().isPresent() ? " by its recipes" : ""),
                                0);
            }
            return Optional.of(waiting);
        } catch (CatalogueUnavailable e) {
            note(e.problem().what() + ": waiting for it");
            return Optional.empty();
        }
    }

    /// Says the same only once.
    private void note(String what) {
        if (!what.equals(noted)) {
            noted = what;
            if (!what.isEmpty()) {
                common.note(what);
            }
        }
    }

    private void make(Project project) throws InterruptedException {
        Optional<LockedRun> started = project.runs().start(work.terms(project), () -> {});
        if (started.isEmpty()) {
            note("another program of this workstation makes them");
            return;
        }
        Set<String> told = new HashSet<>();
        try (LockedRun locked = started.get()) {
            long taken = System.nanoTime();
            while (locked.run().snapshot().phase() != RunSnapshot.Phase.OVER) {
                TimeUnit.MILLISECONDS.sleep(250);
                tell(locked.run().snapshot(), told);
                if (System.nanoTime() - taken > TimeUnit.SECONDS.toNanos(look)) {
                    takeUp(project, locked);
                    taken = System.nanoTime();
                }
            }
            locked.run().awaitEnd(Duration.ofSeconds(1));
            tell(locked.run().snapshot(), told);
        }
    }

    private void takeUp(Project project, LockedRun locked) {
        try {
            locked.run().takeUp(project.clips());
        } catch (CatalogueUnavailable e) {
            note(e.problem().what() + ": what is finished waits until it does");
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
