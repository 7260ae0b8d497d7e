package docksort.desktop.workshop;

import docksort.arrival.ClipId;
import docksort.catalogue.CopyState;
import docksort.catalogue.Machine;
import docksort.engine.SystemNotice;
import docksort.problem.Problem;
import docksort.project.AfterRuns;
import docksort.project.LockedRun;
import docksort.project.Project;
import docksort.run.Afterwards;
import docksort.run.Pace;
import docksort.run.Run;
import docksort.run.RunReport;
import docksort.run.RunSnapshot;
import docksort.run.WeeklyHours;
import docksort.sort.LoadSheet;
import docksort.sort.Planning;
import docksort.sort.Recipe;
import docksort.stock.StockLine;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.Executor;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.function.BiConsumer;
import java.util.function.Consumer;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;

/// Starts and steers the run that works through the queue.
public final class RunDesk {
    private static final int SECONDS_TO_CALL_OFF = 60;
    private static final Duration NEWS = Duration.ofMillis(150);

    private final Project project;
    private final ProjectThread thread;
    private final ViewFeed feed;
    private final Errands errands;
    private final Executor window;
    private final Troubles troubles;
    private final ReadOnlyObjectWrapper<RunSnapshot> shown = new ReadOnlyObjectWrapper<>(RunSnapshot.NONE);
    private final ReadOnlyObjectWrapper<List<Machine>> machines = new ReadOnlyObjectWrapper<>(List.of());
    private final AfterRuns afterRuns = AfterRuns.ofThisPerson();
    private final EndOfRun end;
    private final AtomicBoolean news = new AtomicBoolean();
    private final BiConsumer<String, String> notice = new SystemNotice();

    // Written by the project's steps only; read by any thread, each read on its own.
    private volatile Optional<LockedRun> current = Optional.empty();
    private volatile Pace pace = Pace.NOW;
    private volatile List<StockLine> stock = List.of();
    private volatile boolean stopped; // by a person
    private volatile boolean checksAll = true; // asked for on the window's thread, which never waits for the project

    RunDesk(Project project, ProjectThread thread, ViewFeed feed, Errands errands, Executor window, Troubles troubles) {
        this.project = project;
        this.thread = thread;
        this.feed = feed;
        this.errands = errands;
        this.window = window;
        this.troubles = troubles;
        this.end = new EndOfRun(project, afterRuns, thread, window, SECONDS_TO_CALL_OFF);
        feed.follow(view -> {
            checksAll = project.settings().checksAll();
            stock = view.stock();
            changed();
        });
    }

    public ReadOnlyObjectProperty<RunSnapshot> shown() {
        return shown.getReadOnlyProperty();
    }

    /// Machines that make copies of a shared project, looked at every few seconds. None for one in a file.
    public ReadOnlyObjectProperty<List<Machine>> machines() {
        return machines.getReadOnlyProperty();
    }

    /// Blocks; not for the window's thread.
    void lookAtMachines() {
        List<Machine> now = project.runs().machines();
        window.execute(() -> machines.set(now));
    }

    /// Asks a workstation to hold, to finish and begin nothing more, or to go on. It follows within seconds.
    public CompletableFuture<Void> ask(String workstation, Machine.Wish wish) {
        return errands.step(() -> {
            project.runs().ask(workstation, wish);
            lookAtMachines();
        });
    }

    /// Gives a workstation certain recipes to make, and no others; empty for all. It follows within seconds.
    public CompletableFuture<Void> give(String workstation, Optional<List<Recipe>> recipes) {
        return errands.step(() -> {
            project.runs().give(workstation, recipes);
            lookAtMachines();
        });
    }

    /// Puts as many copies as fit into the queue, from the first on, and starts to work on them.
    public CompletableFuture<Void> startWhatFits(Pace when) {
        return errands.step(() -> {
            begin(when);
            Planning now = project.plans().planning();
            project.queue().enqueue(LoadSheet.plan(feed.clips(), now).thatFit(now));
            startQueue();
        });
    }

    /// Puts what the rules want of clips that just came in into the queue, where the rules say so. Called
    /// by the project's steps.
    void queueArrived(Set<ClipId> arrived) {
        if (arrived.isEmpty() || !project.book().now().queueNewArrivals()) {
            return;
        }
        if (project.queue().enqueueArrived(arrived) > 0) {
            startQueue();
        }
    }

    /// Puts what the load sheet wants into the queue and starts to work on it.
    public CompletableFuture<Void> start() {
        return start(Pace.NOW);
    }

    /// @param when when it works, and how hard
    public CompletableFuture<Void> start(Pace when) {
        return errands.step(() -> {
            begin(when);
            project.queue().enqueue(project.plans().loadSheet(feed.clips()));
            startQueue();
        });
    }

    private void begin(Pace when) {
        pace = when;
        project.settings().workWithin(when.hours());
    }

    /// Keeps in which hours of the week this machine makes copies. They hold at once for a run that goes on.
    public CompletableFuture<Void> workWithin(WeeklyHours hours) {
        return thread.step(() -> {
            project.settings().workWithin(hours);
            current.ifPresent(locked -> locked.run().pace(withinHours()));
        });
    }

    /// Hours of the week hold for every run of this machine, however it is begun.
    private Pace withinHours() {
        return pace.within(project.settings().hours());
    }

    /// Hours of the week in which this machine makes copies.
    public void hours(Consumer<WeeklyHours> then) {
        errands.ask("hours", asked -> asked.settings().hours(), then);
    }

    /// What is done when a run has come to its end, and whether it is about to be.
    public EndOfRun end() {
        return end;
    }

    public void afterwards(Consumer<Afterwards> then) {
        errands.ask("afterwards", _ -> afterRuns.now(), then);
    }

    /// Keeps what this machine does when a run has come to its end, where that can be done.
    ///
    /// @param fault gets why it cannot be done here, empty where it is kept
    public void doAfterwards(Afterwards act, Consumer<Optional<String>> fault) {
        errands.ask(
                "do-afterwards",
                _ -> {
                    Optional<String> why = end.fault(act);
                    if (why.isEmpty() && !act.equals(afterRuns.now())) {
                        end.callOff();
                        afterRuns.keep(act);
                    }
                    return why;
                },
                fault);
    }

    /// Works on what waits in the queue, and puts nothing into it.
    public CompletableFuture<Void> carryOn() {
        return errands.step(this::startQueue);
    }

    public CompletableFuture<Void> retryFailed() {
        return errands.step(() -> {
            project.queue().retryFailed();
            startQueue();
        });
    }

    /// Called by the project's steps.
    void startQueue() {
        end.callOff();
        stopped = false;
        if (current.map(locked -> locked.run().takeUp(feed.clips())).orElse(false)) {
            current.ifPresent(locked -> locked.run().pace(withinHours()));
            return;
        }
        current.ifPresent(LockedRun::close);
        current = Optional.empty();
        if (project.queue().size() > 0 && !project.runs().hasWork()) {
            troubles.show(new Problem(
                    "The run was not started here",
                    "somebody gave this workstation certain recipes to make, and nothing waits by them",
                    "What waits stays in the queue for the others.",
                    "Give it more recipes under Machines, or let the others make it."));
            return;
        }
        Optional<LockedRun> started = project.runs().start(project.runs().usualTerms(withinHours()), this::changed);
        if (started.isEmpty()) {
            troubles.show(new Problem(
                    "The run was not started",
                    "another program is running this project's queue",
                    "Nothing was changed.",
                    "Wait for it, or end it."));
        }
        current = started;
        changed();
    }

    /// Begins nothing more, or goes on; what is in the making is finished.
    public void pause(boolean on) {
        steer(run -> run.pause(on));
    }

    /// Holds everything still where it is, or lets it go on.
    public void hold(boolean on) {
        steer(run -> run.hold(on));
    }

    /// Leaves copies out of the run; they stay wanted.
    public void skip(List<String> copyIds) {
        steer(run -> run.skip(copyIds));
    }

    /// Brings copies that wait to the front of the queue, or to its end.
    public void move(List<String> copyIds, boolean first) {
        steer(run -> run.move(copyIds, first));
    }

    /// Puts copies that wait in front of another.
    public void moveBefore(List<String> copyIds, String target) {
        steer(run -> run.moveBefore(copyIds, target));
    }

    public void stop() {
        stopped = true;
        steer(Run::stop);
    }

    /// Takes copies out of the queue.
    public void cancel(List<String> copyIds) {
        if (shown.get().running()) {
            steer(run -> run.cancel(copyIds));
        } else {
            errands.step(() -> project.queue().takeOut(copyIds));
        }
    }

    private void steer(Consumer<Run> how) {
        thread.beside(() -> current.ifPresent(locked -> how.accept(locked.run())));
    }

    /// Puts copies that failed or were left out back into the queue.
    public CompletableFuture<Void> retry(List<String> copyIds) {
        return errands.step(() -> {
            project.queue().retry(copyIds);
            startQueue();
        });
    }

    /// Whether all of a copy is decoded in its check, from the next run on.
    public CompletableFuture<Void> checkAll(boolean all) {
        checksAll = all;
        return thread.step(() -> {
            project.settings().checkAll(all);
            checksAll = all; // a view that was read before may have put it back
        });
    }

    public boolean checksAll() {
        return checksAll;
    }

    /// What the latest runs did, the latest first.
    public void past(int most, Consumer<List<RunReport>> then) {
        errands.ask("past-runs", asked -> asked.runs().reports(most), then);
    }

    /// Writes what a run did, as HTML or CSV by the ending.
    public CompletableFuture<Void> writeReport(RunReport run, Path file) {
        return thread.step(() -> {
            run.write(file);
            project.log("Wrote the report " + file);
        });
    }

    /// A run says so of every small step; the window hears of it a few times a second.
    private void changed() {
        if (!news.getAndSet(true)) {
            thread.besideIn(NEWS, this::tell);
        }
    }

    private void tell() {
        news.set(false);
        Optional<LockedRun> told = current;
        RunSnapshot here = told.map(locked -> locked.run().snapshot()).orElse(RunSnapshot.NONE);
        RunSnapshot now = here.running() ? here : Queued.beside(here, stock);
        window.execute(() -> {
            RunSnapshot was = shown.get();
            shown.set(now);
            if (was.running() && !now.running()) {
                told.ifPresent(locked -> ended(locked, now));
            } else if (now.finished() != was.finished()) {
                feed.reloadSoon();
            }
        });
    }

    /// Closes the run that ended, which another one may have followed by now.
    private void ended(LockedRun locked, RunSnapshot run) {
        thread.step(() -> {
            // Other programs may run the queue now.
            project.runs().keepWorkers(locked.run().bestWorkers());
            locked.close();
            String what = run.ready() + " made and checked, " + run.count(CopyState.FAILED) + " failed";
            project.log("Run: " + what);
            feed.reload(false);
            long waiting = run.count(CopyState.WAITING);
            if (!stopped) {
                end.of(run);
            }
            notice.accept("Dock Sort: the run is over", waiting == 0 ? what : what + ", " + waiting + " still waiting");
        });
    }

    /// Stops what is made and waits for its end.
    void close() {
        end.callOff();
        current.ifPresent(LockedRun::close);
        current = Optional.empty();
    }
}
