package docksort.run;

import docksort.arrival.Clip;
import docksort.arrival.ClipId;
import docksort.catalogue.CopyState;
import docksort.catalogue.WorkingCopy;
import docksort.engine.Brake;
import docksort.engine.Cancellation;
import docksort.problem.CoreException;
import docksort.problem.Problem;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Deque;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.TimeUnit;

/// One carrying-out of the queue: workers take waiting copies in order, make them under a partial name,
/// check them, and give them their final name. What fails is told and the rest goes on; what lacks a
/// volume waits for it to come back. Stopping leaves what is not finished waiting.
///
/// The queue itself lives in the catalogue; this object holds what is only true while it runs.
public final class Run implements AutoCloseable {
    private static final long MEASURE_NANOS = TimeUnit.SECONDS.toNanos(10);
    private static final int SPEEDS = 12;

    private final RunTools tools;
    private final Map<ClipId, Clip> clips = new ConcurrentHashMap<>();
    private final Runnable changed;
    private final Terms terms;
    private final Making making;
    private final ExecutorService workers;
    private final Steward steward;
    private final Brake brake = new Brake();
    private final Instant started = Instant.now();
    private final long startedNanos = System.nanoTime();

    private final Object lock = new Object();
    private final RunQueue queue = new RunQueue();
    private final List<Group> inWork = new ArrayList<>();
    private final Map<String, Long> heldSince = new HashMap<>();
    private final Crew crew;
    private final Set<String> lackedMemory = new HashSet<>();
    private final Deque<Double> speeds = new ArrayDeque<>();
    private Pace pace;
    private boolean stopping;
    private boolean paused;
    private boolean heldByHand;
    private String inTheWay = "";
    private int working;
    private long endedNanos;
    private double workDone;
    private double workAtMeasure;
    private long measuredNanos = System.nanoTime();
    private final Map<String, Long> ended = new HashMap<>();
    private boolean evenlyManned;
    private boolean over;

    /// Copies that are made together by one worker.
    private static final class Group {
        private final List<WorkingCopy> copies;
        private final Cancellation cancellation = new Cancellation();
        private final Set<String> dropped = new HashSet<>();

        Group(List<WorkingCopy> copies) {
            this.copies = copies;
        }
    }

    /// Starts at once.
    ///
    /// @param changed called from worker threads after every change; must return quickly
    public Run(RunTools tools, RunHost host, List<Clip> clips, Terms terms, Runnable changed) {
        this.tools = tools;
        clips.forEach(clip -> this.clips.put(clip.id(), clip));
        this.changed = changed;
        this.terms = terms;
        this.pace = terms.pace();
        this.crew = new Crew(terms.workers(), terms.mostWorkers());
        this.making = new Making(tools, host, terms, this::heldNanos);
        queue.add(queued(), this.clips);
        this.working = terms.mostWorkers();
        this.workers = Executors.newFixedThreadPool(
                working, Thread.ofPlatform().daemon().name("copy-worker-", 0).factory());
        for (int i = 0; i < working; i++) {
            this.workers.execute(this::work);
        }
        this.steward = new Steward(this::look);
    }

    private List<WorkingCopy> queued() {
        return tools.catalogue().copies().all().stream()
                .filter(copy -> copy.state().isQueued())
                .toList();
    }

    // What a person asks of it

    /// Takes up what was put into the queue since the run started, behind what it has.
    ///
    /// @param known the project's clips as they are now
    /// @return false when the run is over or stopping: a new one is needed then
    public boolean takeUp(List<Clip> known) {
        long before = System.nanoTime();
        List<WorkingCopy> queued = queued();
        synchronized (lock) {
            if (stopping || over || workers.isShutdown()) {
                return false;
            }
            known.forEach(clip -> clips.put(clip.id(), clip));
            // What came to its end while the catalogue was read is no longer what was read.
            queue.add(queued.stream().filter(copy -> endOf(copy) - before < 0).toList(), clips);
            for (; working < terms.mostWorkers(); working++) {
                workers.execute(this::work);
            }
            lock.notifyAll();
        }
        changed.run();
        return true;
    }

    private long endOf(WorkingCopy copy) {
        return ended.getOrDefault(copy.id(), startedNanos);
    }

    /// Takes copies out of the queue, or ends the making of them. Copies of the same clip that were made
    /// with one of them begin anew.
    public void cancel(Collection<String> copyIds) {
        List<WorkingCopy> taken = takeAway(copyIds);
        tools.catalogue().copies().forget(taken);
        synchronized (lock) {
            taken.forEach(copy -> queue.drop(copy.id()));
        }
        changed.run();
    }

    /// Leaves copies out of this run. They stay wanted, and can be put back.
    public void skip(Collection<String> copyIds) {
        set(takeAway(copyIds).stream()
                .map(copy -> copy.withState(CopyState.WANTED, "left out"))
                .toList());
    }

    /// @return those that were still to be made
    private List<WorkingCopy> takeAway(Collection<String> copyIds) {
        var taken = new ArrayList<WorkingCopy>();
        var ended = new HashSet<Group>();
        synchronized (lock) {
            Map<String, Group> making = new HashMap<>();
            inWork.forEach(group -> group.copies.forEach(copy -> making.put(copy.id(), group)));
            for (String id : Set.copyOf(copyIds)) {
                if (queue.copy(id).filter(known -> known.state().isQueued()).isEmpty()) {
                    continue; // made already, or never there
                }
                Group group = making.get(id);
                if (group == null) {
                    queue.takeOut(id).ifPresent(taken::add);
                } else {
                    group.dropped.add(id);
                    ended.add(group);
                    queue.copy(id).ifPresent(taken::add);
                }
            }
            lock.notifyAll();
        }
        ended.forEach(group -> group.cancellation.cancel());
        return taken;
    }

    /// Brings copies that wait to the front of the queue, or to its end.
    public void move(Collection<String> copyIds, boolean first) {
        reorder(() -> queue.move(copyIds, first));
    }

    /// Puts copies that wait in front of another one that waits.
    public void moveBefore(Collection<String> copyIds, String target) {
        reorder(() -> queue.moveBefore(copyIds, target));
    }

    private void reorder(Runnable how) {
        List<String> order;
        synchronized (lock) {
            how.run();
            order = queue.order();
        }
        tools.catalogue().copies().reorder(order);
        changed.run();
    }

    /// Begins nothing more, or goes on. What is in the making is finished.
    public void pause(boolean on) {
        synchronized (lock) {
            paused = on;
            evenlyManned = false;
            lock.notifyAll();
        }
        changed.run();
    }

    /// Holds everything still where it is, or lets it go on.
    public void hold(boolean on) {
        synchronized (lock) {
            heldByHand = on;
        }
        applyBrake();
    }

    /// Works at another pace from now on.
    public void pace(Pace next) {
        synchronized (lock) {
            pace = next;
            if (!next.gently()) {
                inTheWay = "";
            }
            lock.notifyAll();
        }
        applyBrake();
    }

    private void applyBrake() {
        boolean hold;
        synchronized (lock) {
            hold = (heldByHand || !inTheWay.isEmpty()) && !stopping;
            evenlyManned = false; // this while tells nothing of a number of workers
        }
        brake.set(hold); // signals take a moment, and nobody who only looks waits for them
        synchronized (lock) {
            lock.notifyAll();
        }
        changed.run();
    }

    /// Ends the run after killing what is in the making; unfinished copies stay in the queue for the next
    /// run.
    public void stop() {
        List<Group> running;
        synchronized (lock) {
            stopping = true;
            lock.notifyAll();
            running = List.copyOf(inWork);
        }
        running.forEach(group -> group.cancellation.cancel());
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
        synchronized (lock) {
            return crew.best();
        }
    }

    /// How the run stands now. Cheap; may be called from any thread.
    public RunSnapshot snapshot() {
        synchronized (lock) {
            long until = working > 0 ? System.nanoTime() : endedNanos;
            Optional<Instant> begins = pace.from().filter(Instant.now()::isBefore);
            RunSnapshot.Standing standing = standing();
            return new RunSnapshot(
                    queue.progress(standing == RunSnapshot.Standing.HELD),
                    standing,
                    why(standing),
                    crew.size(),
                    begins,
                    Duration.ofNanos(Math.max(0, until - startedNanos)),
                    standing == RunSnapshot.Standing.WORKING && begins.isEmpty() ? left() : Optional.empty());
        }
    }

    private RunSnapshot.Standing standing() {
        if (working == 0) {
            return RunSnapshot.Standing.OVER;
        }
        if (brake.isOn()) {
            return RunSnapshot.Standing.HELD;
        }
        if (paused) {
            return RunSnapshot.Standing.PAUSED;
        }
        boolean nothingElse =
                inWork.isEmpty() && !queue.hasWaiting() && !queue.held().isEmpty();
        return nothingElse ? RunSnapshot.Standing.WAITING : RunSnapshot.Standing.WORKING;
    }

    private String why(RunSnapshot.Standing standing) {
        return switch (standing) {
            case WORKING, OVER -> "";
            case PAUSED -> "paused";
            case HELD -> heldByHand ? "held still" : "held still: " + inTheWay;
            case WAITING ->
                queue.held().values().stream().findFirst().map(Obstacle::words).orElse("");
        };
    }

    private Optional<RunSnapshot.TimeLeft> left() {
        var known = speeds.stream()
                .mapToDouble(Double::doubleValue)
                .filter(speed -> speed > 0)
                .summaryStatistics();
        if (known.getCount() == 0) {
            return Optional.empty();
        }
        double work = queue.workLeft();
        // The speeds lately are not all there are: a little wider than they are apart.
        return Optional.of(new RunSnapshot.TimeLeft(
                Duration.ofMillis(Math.round(1_000 * work / (known.getMax() * 1.1))),
                Duration.ofMillis(Math.round(1_000 * work / (known.getMin() * 0.9)))));
    }

    private long heldNanos() {
        return brake.heldNanos();
    }

    // The workers

    private void work() {
        try {
            while (true) {
                Group group;
                synchronized (lock) {
                    List<WorkingCopy> claimed = awaitCopies();
                    if (claimed.isEmpty()) {
                        leave();
                        return;
                    }
                    group = new Group(claimed);
                    inWork.add(group);
                    lock.notifyAll(); // the others look whether anything is left for them
                }
                try {
                    making.make(group.copies, clips, new Reports(group), pace(), brake, group.cancellation);
                } catch (RuntimeException e) {
                    // The outermost loop of a worker: a fault in one copy must not end the run.
                    System.getLogger(Run.class.getName()).log(System.Logger.Level.ERROR, "copies " + group.copies, e);
                    group.copies.forEach(copy -> fault(copy, e));
                } finally {
                    synchronized (lock) {
                        inWork.remove(group);
                        lock.notifyAll();
                    }
                }
            }
        } catch (InterruptedException e) {
            synchronized (lock) {
                leave();
            }
            Thread.currentThread().interrupt();
        } finally {
            changed.run();
        }
    }

    private void fault(WorkingCopy copy, RuntimeException e) {
        boolean open;
        synchronized (lock) {
            open = queue.copy(copy.id()).filter(now -> now.state().isQueued()).isPresent();
        }
        if (open) {
            Problem problem = e instanceof CoreException known
                    ? known.problem()
                    : new Problem(
                            "The copy " + copy.file() + " could not be made",
                            "a fault of the program, not of the clip, stopped it",
                            "The original is as it was.",
                            "Retry; the log has what to report.");
            set(copy.withState(CopyState.FAILED, problem.sentence()));
        }
    }

    private Pace pace() {
        synchronized (lock) {
            return pace;
        }
    }

    /// Waits, under the lock, until something may be begun.
    ///
    /// @return copies of one clip; none when the worker may go
    private List<WorkingCopy> awaitCopies() throws InterruptedException {
        while (!stopping && !queue.isEmpty() && !pace.isOver(Instant.now())) {
            boolean must = paused || brake.isOn() || !queue.hasWaiting() || inWork.size() >= crew.size();
            long millis = must ? 60_000 : pace.wait(Instant.now()).toMillis();
            if (millis <= 0) {
                return queue.claim();
            }
            lock.wait(Math.min(millis, 60_000)); // clocks are set and machines sleep: look again now and then
        }
        return List.of();
    }

    /// A worker goes. Under the lock that it found the queue empty in, so that nobody counts on it any
    /// more.
    private void leave() {
        working--;
        if (working == 0) {
            endedNanos = System.nanoTime();
            over = true;
        }
        lock.notifyAll();
    }

    private void set(WorkingCopy copy) {
        set(List.of(copy));
    }

    private void set(List<WorkingCopy> copies) {
        tools.catalogue().copies().update(copies);
        synchronized (lock) {
            for (WorkingCopy copy : copies) {
                queue.set(copy, brake.heldNanos());
                if (!copy.state().isQueued()) {
                    ended.put(copy.id(), System.nanoTime());
                }
            }
        }
        changed.run();
    }

    /// What the making of a group tells of its copies.
    private final class Reports implements Making.Listener {
        private final Group group;

        Reports(Group group) {
            this.group = group;
        }

        private boolean isDropped(WorkingCopy copy) {
            synchronized (lock) {
                return group.dropped.contains(copy.id());
            }
        }

        @Override
        public void state(WorkingCopy copy) {
            if (!isDropped(copy)) {
                set(copy);
            }
        }

        @Override
        public void progressed(List<WorkingCopy> copies, long frames, List<Long> bytes) {
            synchronized (lock) {
                for (int i = 0; i < copies.size(); i++) {
                    workDone += queue.progressed(copies.get(i).id(), frames, bytes.get(i), brake.heldNanos());
                }
            }
            changed.run();
        }

        @Override
        public int groupsInWork() {
            synchronized (lock) {
                return Math.max(1, inWork.size());
            }
        }

        /// While others wait, whatever is idle is theirs.
        @Override
        public double processors() {
            int most = Math.min(Runtime.getRuntime().availableProcessors(), terms.mostWorkers());
            synchronized (lock) {
                return queue.hasWaiting() ? 0 : (double) most / Math.max(1, inWork.size());
            }
        }

        /// Those that nobody wanted away go on waiting.
        @Override
        public void cancelled(List<WorkingCopy> copies) {
            List<WorkingCopy> rest = copies.stream()
                    .filter(copy -> !isDropped(copy))
                    .map(copy -> copy.withState(CopyState.WAITING, ""))
                    .toList();
            tools.catalogue().copies().update(rest);
            synchronized (lock) {
                rest.forEach(copy -> queue.set(copy, brake.heldNanos()));
                queue.giveBack(rest);
                lock.notifyAll();
            }
            changed.run();
        }

        @Override
        public void obstructed(WorkingCopy copy, Obstacle obstacle) {
            WorkingCopy waits = copy.withState(CopyState.WAITING, obstacle.words());
            set(waits);
            synchronized (lock) {
                queue.hold(copy.id(), obstacle);
                heldSince.putIfAbsent(copy.id(), System.nanoTime());
            }
        }

        /// Each is made once more; fewer are made at a time from here on.
        @Override
        public boolean lackedMemory(List<WorkingCopy> copies) {
            synchronized (lock) {
                crew.fewer();
                boolean again = copies.stream().noneMatch(copy -> lackedMemory.contains(copy.id()));
                copies.forEach(copy -> lackedMemory.add(copy.id()));
                if (!again) {
                    return false;
                }
            }
            cancelled(copies);
            return true;
        }

        @Override
        public void line(WorkingCopy copy, RunLine line) {
            tools.catalogue().runs().keep(started, copy.id(), line);
        }
    }

    // The steward

    /// Looks, every few seconds, at what else the machine does, at volumes that are waited for, and at the
    /// speed.
    ///
    /// @return whether it goes on
    private boolean look() {
        try {
            lookAtOthers();
            lookAtObstacles();
            measure();
        } catch (RuntimeException e) {
            System.getLogger(Run.class.getName()).log(System.Logger.Level.WARNING, "cannot look after the run", e);
        }
        synchronized (lock) {
            return !over;
        }
    }

    private void lookAtOthers() {
        if (!pace().gently()) {
            return;
        }
        String found = terms.others().inTheWay().orElse("");
        boolean differs;
        synchronized (lock) {
            differs = found.isEmpty() != inTheWay.isEmpty();
            inTheWay = found;
        }
        if (differs) {
            applyBrake();
        }
    }

    private void lookAtObstacles() {
        Map<String, Obstacle> held;
        synchronized (lock) {
            held = queue.held();
        }
        Map<Obstacle, Boolean> stands = new HashMap<>();
        boolean any = false;
        for (Map.Entry<String, Obstacle> entry : held.entrySet()) {
            if (!stands.computeIfAbsent(entry.getValue(), Obstacle::stands)) {
                synchronized (lock) {
                    queue.free(entry.getKey());
                    lock.notifyAll();
                }
                any = true;
            } else if (isOutOfPatience(entry.getKey())) {
                giveUp(entry.getKey(), entry.getValue());
            }
        }
        if (any) {
            changed.run();
        }
    }

    private boolean isOutOfPatience(String id) {
        synchronized (lock) {
            long since = heldSince.getOrDefault(id, System.nanoTime());
            return System.nanoTime() - since > terms.patience().toNanos();
        }
    }

    private void giveUp(String id, Obstacle obstacle) {
        Optional<WorkingCopy> copy;
        synchronized (lock) {
            copy = queue.copy(id);
            queue.giveUp(id);
            lock.notifyAll();
        }
        copy.ifPresent(each -> set(each.withState(
                CopyState.FAILED, obstacle.problem(each, terms.patience()).sentence())));
    }

    private void measure() {
        synchronized (lock) {
            long now = System.nanoTime();
            long nanos = now - measuredNanos;
            if (nanos < MEASURE_NANOS) {
                return;
            }
            double speed = (workDone - workAtMeasure) / (nanos / 1e9);
            if (!brake.isOn() && speed > 0) {
                speeds.addLast(speed);
                if (speeds.size() > SPEEDS) {
                    speeds.removeFirst();
                }
                if (evenlyManned && queue.hasWaiting()) {
                    crew.measured(speed);
                    lock.notifyAll();
                }
            }
            measuredNanos = now;
            workAtMeasure = workDone;
            evenlyManned = queue.hasWaiting() && !brake.isOn() && !paused;
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
        steward.close();
    }
}
