package docksort.run;

import docksort.arrival.Clip;
import docksort.arrival.ClipId;
import docksort.catalogue.ClaimStore;
import docksort.catalogue.CopyState;
import docksort.catalogue.Patience;
import docksort.catalogue.WorkingCopy;
import docksort.engine.Brake;
import docksort.problem.CoreException;
import docksort.problem.CoreException.CatalogueUnavailable;
import docksort.problem.Problem;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.TimeUnit;
import java.util.stream.Collectors;

/// One carrying-out of the queue: workers take waiting copies in order, make them under a partial name,
/// check them, and give them their final name. What fails is told and the rest goes on; what lacks a
/// volume waits for it to come back. Stopping leaves what is not finished waiting.
///
/// The queue itself lives in the catalogue; this object holds what is only true while it runs.
public final class Run implements AutoCloseable {
    private final RunTools tools;
    private final RunHost host;
    private final Map<ClipId, Clip> clips = new ConcurrentHashMap<>();
    private final Runnable changed;
    private final Making making;
    private final ExecutorService workers;
    private final PeriodicLook watch;
    private final Brake brake = new Brake();
    private final Instant started = Instant.now();
    private final RunState state;
    private final StateKeeper keeper;
    private final CountDownLatch stopped = new CountDownLatch(1);

    /// Starts at once.
    ///
    /// @param changed called from worker threads after every change; must return quickly
    public Run(RunTools tools, RunHost host, List<Clip> clips, Terms terms, Runnable changed) {
        this.tools = tools;
        this.host = host;
        clips.forEach(clip -> this.clips.put(clip.id(), clip));
        this.changed = changed;
        this.making = new Making(tools, host, terms, brake::heldNanos);
        this.state = new RunState(terms, brake, queued(), this.clips);
        this.keeper = new StateKeeper(tools, state, changed);
        this.workers = Executors.newFixedThreadPool(
                terms.mostWorkers(),
                Thread.ofPlatform().daemon().name("copy-worker-", 0).factory());
        for (int i = 0; i < terms.mostWorkers(); i++) {
            this.workers.execute(this::work);
        }
        var looks = new RunWatch(state, keeper, terms, this::applyBrake, changed);
        this.watch = new PeriodicLook(looks::look);
    }

    private List<WorkingCopy> queued() {
        var makes = new HashMap<String, Boolean>();
        return tools.catalogue().copies().all().stream()
                .filter(copy -> copy.state().isQueued())
                .filter(copy -> makes.computeIfAbsent(copy.recipeId(), host::makes))
                .toList();
    }

    // What a person asks of it

    /// Takes up what was put into the queue since the run started, behind what it has.
    ///
    /// @param known the project's clips as they are now
    /// @return false when the run is over or stopping: a new one is needed then
    public boolean takeUp(List<Clip> known) {
        long asked = System.nanoTime();
        List<WorkingCopy> queued = queued();
        known.forEach(clip -> clips.put(clip.id(), clip));
        if (workers.isShutdown() || !state.takeUp(queued, asked, clips, () -> workers.execute(this::work))) {
            return false;
        }
        changed.run();
        return true;
    }

    /// Takes copies out of the queue, or ends the making of them. Copies of the same clip that were made
    /// with one of them begin anew.
    public void cancel(Collection<String> copyIds) {
        List<WorkingCopy> taken = takeAway(copyIds);
        tools.catalogue().copies().forget(taken);
        state.drop(taken);
        changed.run();
    }

    /// Leaves copies out of this run. They stay wanted, and can be put back.
    public void skip(Collection<String> copyIds) {
        keeper.set(takeAway(copyIds).stream()
                .map(copy -> copy.withState(CopyState.WANTED, "left out"))
                .toList());
    }

    /// @return those that were still to be made
    private List<WorkingCopy> takeAway(Collection<String> copyIds) {
        RunState.TakenAway taken = state.takeAway(copyIds);
        taken.groups().forEach(group -> group.cancellation.cancel());
        return taken.copies();
    }

    /// Brings copies that wait to the front of the queue, or to its end.
    public void move(Collection<String> copyIds, boolean first) {
        reordered(state.move(copyIds, first));
    }

    /// Puts copies that wait in front of another one that waits.
    public void moveBefore(Collection<String> copyIds, String target) {
        reordered(state.moveBefore(copyIds, target));
    }

    private void reordered(List<String> order) {
        tools.catalogue().copies().reorder(order);
        changed.run();
    }

    /// Begins nothing more, or goes on. What is in the making is finished.
    public void pause(boolean on) {
        state.pause(on);
        changed.run();
    }

    /// Holds everything still where it is, or lets it go on.
    public void hold(boolean on) {
        state.hold(on);
        applyBrake();
    }

    /// Works at another pace from now on.
    public void pace(Pace next) {
        state.pace(next);
        applyBrake();
    }

    /// Leaves clips below these places for a moment to workstations that read them faster, and makes others
    /// first.
    public void far(Set<Path> places) {
        state.far(places);
    }

    private void applyBrake() {
        brake.set(state.wantsBrake()); // signals take a moment, and nobody who only looks waits for them
        state.wake();
        changed.run();
    }

    /// Ends the run after killing what is in the making; unfinished copies stay in the queue for the next
    /// run.
    public void stop() {
        state.stop().forEach(group -> group.cancellation.cancel());
        stopped.countDown(); // nobody waits for a database any more
        applyBrake();
    }

    /// Waits until all workers are done.
    ///
    /// @return false when the time ran out before
    public boolean awaitEnd(Duration atMost) throws InterruptedException {
        workers.shutdown();
        return workers.awaitTermination(atMost.toMillis(), TimeUnit.MILLISECONDS);
    }

    /// When it began, which names it among the project's runs.
    public Instant started() {
        return started;
    }

    /// How many workers were found to get the most done.
    public int bestWorkers() {
        return state.bestWorkers();
    }

    /// How the run stands now. Cheap; may be called from any thread.
    public RunSnapshot snapshot() {
        return state.snapshot();
    }

    // The workers

    private void work() {
        tools.catalogue().waiting(new UntilStopped(), this::workOn);
    }

    /// A copy that is finished while the database is away keeps its partial name, and is entered when it is
    /// back.
    private final class UntilStopped implements Patience {
        @Override
        public boolean waits(Problem why) {
            state.catalogueAway(true);
            changed.run();
            try {
                return !stopped.await(1, TimeUnit.SECONDS);
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
                return false;
            }
        }

        @Override
        public void over() {
            state.catalogueAway(false);
            changed.run();
        }
    }

    private void workOn() {
        try {
            for (Optional<Group> next = state.next(); next.isPresent(); next = state.next()) {
                Group group = next.get();
                List<WorkingCopy> ours = List.of();
                try {
                    ours = claimed(group.copies);
                    var reports = new GroupReports(
                            group, started, state, keeper, tools.catalogue().claims(), changed);
                    making.make(ours, clips, reports, state.pace(), brake, group.cancellation);
                } catch (CatalogueUnavailable e) {
                    if (stopped.getCount() > 0) {
                        group.copies.forEach(copy -> fault(copy, e));
                    } // else nothing can be entered now: what the catalogue says goes on waiting with the next run
                } catch (RuntimeException e) {
                    // The outermost loop of a worker: a fault in one copy must not end the run.
                    System.getLogger(Run.class.getName()).log(System.Logger.Level.ERROR, "copies " + group.copies, e);
                    group.copies.forEach(copy -> fault(copy, e));
                } finally {
                    state.ended(group);
                    release(ours);
                }
            }
        } catch (InterruptedException e) {
            state.leave();
            Thread.currentThread().interrupt();
        } finally {
            changed.run();
        }
    }

    private void release(List<WorkingCopy> copies) {
        try {
            tools.catalogue()
                    .claims()
                    .release(copies.stream().map(WorkingCopy::id).toList());
        } catch (CatalogueUnavailable e) {
            // Stopped while the database is away: the claims lapse.
            System.getLogger(Run.class.getName()).log(System.Logger.Level.DEBUG, "claims are left to lapse", e);
        }
    }

    /// Those that no other workstation makes. The others are waited for.
    private List<WorkingCopy> claimed(List<WorkingCopy> copies) {
        Map<Boolean, List<WorkingCopy>> given =
                copies.stream().collect(Collectors.partitioningBy(copy -> host.makes(copy.recipeId())));
        state.drop(Objects.requireNonNull(given.get(false))); // others make these; taken up again when they are given
        List<WorkingCopy> wanted = Objects.requireNonNull(given.get(true));
        ClaimStore claims = tools.catalogue().claims();
        Map<String, ClaimStore.Claim> granted =
                claims.take(wanted.stream().map(WorkingCopy::id).toList());
        var ours = new ArrayList<WorkingCopy>();
        for (WorkingCopy copy : asTheyAre(wanted)) {
            switch (granted.getOrDefault(copy.id(), new ClaimStore.Claim.Gone())) {
                case ClaimStore.Claim.Ours() -> ours.add(copy);
                case ClaimStore.Claim.Theirs(var workstation) ->
                    state.obstructed(copy, new Obstacle.MadeElsewhere(claims, copy.id(), workstation));
                case ClaimStore.Claim.Gone() -> state.drop(List.of(copy));
            }
        }
        return ours;
    }

    /// Who made one before and was killed may have said which file it was about to name.
    private List<WorkingCopy> asTheyAre(List<WorkingCopy> copies) {
        if (!tools.catalogue().isShared()) {
            return copies;
        }
        Map<String, WorkingCopy> now =
                tools
                        .catalogue()
                        .copies()
                        .of(copies.stream().map(WorkingCopy::id).toList())
                        .stream()
                        .collect(Collectors.toMap(WorkingCopy::id, copy -> copy));
        return copies.stream()
                .map(copy -> now.getOrDefault(copy.id(), copy).withState(copy.state(), copy.note()))
                .toList();
    }

    private void fault(WorkingCopy copy, RuntimeException e) {
        if (!state.isStillToBeMade(copy)) {
            return;
        }
        Problem problem = e instanceof CoreException known
                ? known.problem()
                : new Problem(
                        "The copy " + copy.file() + " could not be made",
                        "a fault of the program, not of the clip, stopped it",
                        "The original is as it was.",
                        "Retry; the log has what to report.");
        WorkingCopy failed = copy.withState(CopyState.FAILED, problem.sentence());
        try {
            keeper.set(failed);
        } catch (CoreException unkept) {
            System.getLogger(Run.class.getName())
                    .log(System.Logger.Level.ERROR, "cannot keep that a copy failed", unkept);
            state.set(List.of(failed)); // shown as long as the run is; the next one makes it
        }
    }

    /// Stops, and waits for the workers.
    @Override
    public void close() {
        stop();
        try {
            if (!awaitEnd(Duration.ofSeconds(15))) {
                workers.shutdownNow();
            }
        } catch (InterruptedException e) {
            workers.shutdownNow();
            Thread.currentThread().interrupt();
        }
        watch.close();
    }
}
