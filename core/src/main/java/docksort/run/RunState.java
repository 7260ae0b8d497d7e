package docksort.run;

import docksort.arrival.Clip;
import docksort.arrival.ClipId;
import docksort.catalogue.WorkingCopy;
import docksort.engine.Brake;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.TimeUnit;

/// What a run knows while it goes on, under one lock. Nothing here asks the disk, the catalogue or another
/// process, so that whoever looks or asks is answered at once.
final class RunState {
    /// How long copies are left to workstations that have their originals nearer, while nothing else waits. To
    /// wait a little for near work gets more done than to take far work at once: "delay scheduling" (Zaharia
    /// and others, EuroSys 2010; from memory). The time is ours, about that of one copy.
    private static final Duration LEFT = Duration.ofSeconds(20);

    private final Terms terms;
    private final Duration left;
    private final Brake brake; // only looked at here: setting it takes a moment
    private final long startedNanos = System.nanoTime();
    private final RunQueue queue = new RunQueue();
    private final List<Group> inWork = new ArrayList<>();
    private final Map<String, Long> heldSince = new HashMap<>();
    private final Map<String, Long> ended = new HashMap<>();
    private final Set<String> lackedMemory = new HashSet<>();
    private final WorkerCount count;
    private final WorkSpeed speed = new WorkSpeed();
    private Pace pace;
    private boolean stopping;
    private boolean paused;
    private boolean heldByHand;
    private String inTheWay = "";
    private boolean catalogueAway;
    private int working;
    private long endedNanos;
    private boolean evenlyManned;
    private boolean over;
    private Set<Path> far = Set.of();
    private Optional<Long> onlyFarSince = Optional.empty();

    RunState(Terms terms, Brake brake, List<WorkingCopy> queued, Map<ClipId, Clip> clips) {
        this(terms, brake, queued, clips, LEFT);
    }

    /// @param left how long copies are left to workstations that have their originals nearer
    RunState(Terms terms, Brake brake, List<WorkingCopy> queued, Map<ClipId, Clip> clips, Duration left) {
        this.left = left;
        this.terms = terms;
        this.brake = brake;
        this.pace = terms.pace();
        this.count = new WorkerCount(terms.workers(), terms.mostWorkers());
        this.working = terms.mostWorkers();
        queue.add(queued, clips);
    }

    // What a person asks of it

    /// Takes up copies behind those it has.
    ///
    /// @param asked when the catalogue was asked for them: what came to its end since is no longer what
    ///     was read
    /// @param worker begins to work, once for every worker that is missing
    /// @return false when the run is over or stopping
    synchronized boolean takeUp(List<WorkingCopy> queued, long asked, Map<ClipId, Clip> clips, Runnable worker) {
        if (stopping || over) {
            return false;
        }
        queue.add(
                queued.stream()
                        .filter(copy -> ended.getOrDefault(copy.id(), startedNanos) - asked < 0)
                        .toList(),
                clips);
        for (; working < terms.mostWorkers(); working++) {
            worker.run();
        }
        notifyAll();
        return true;
    }

    /// @param copies those that were still to be made
    /// @param groups those that some of them are being made in
    record TakenAway(List<WorkingCopy> copies, Set<Group> groups) {}

    synchronized TakenAway takeAway(Collection<String> copyIds) {
        var taken = new ArrayList<WorkingCopy>();
        var groups = new HashSet<Group>();
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
                groups.add(group);
                queue.copy(id).ifPresent(taken::add);
            }
        }
        notifyAll();
        return new TakenAway(taken, groups);
    }

    synchronized void drop(List<WorkingCopy> copies) {
        copies.forEach(copy -> queue.drop(copy.id()));
    }

    /// @return ids of all that wait, in their new order
    synchronized List<String> move(Collection<String> copyIds, boolean first) {
        queue.move(copyIds, first);
        return queue.order();
    }

    /// @return ids of all that wait, in their new order
    synchronized List<String> moveBefore(Collection<String> copyIds, String target) {
        queue.moveBefore(copyIds, target);
        return queue.order();
    }

    synchronized void pause(boolean on) {
        paused = on;
        evenlyManned = false;
        notifyAll();
    }

    synchronized void hold(boolean on) {
        heldByHand = on;
    }

    synchronized void pace(Pace next) {
        pace = next;
        if (!next.gently()) {
            inTheWay = "";
        }
        notifyAll();
    }

    /// @return whether that is otherwise than it was
    synchronized boolean othersAreInTheWay(String what) {
        boolean differs = what.isEmpty() != inTheWay.isEmpty();
        inTheWay = what;
        return differs;
    }

    /// Whether all is to be held still. This while tells nothing of a number of workers any more.
    synchronized boolean wantsBrake() {
        evenlyManned = false;
        return (heldByHand || !inTheWay.isEmpty()) && !stopping;
    }

    synchronized void far(Set<Path> places) {
        if (!places.equals(far)) {
            far = Set.copyOf(places);
            notifyAll();
        }
    }

    /// How long what waits is still left to others.
    private long leftMillis() {
        if (far.isEmpty() || !queue.hasWaiting() || queue.firstBeside(far).isPresent()) {
            onlyFarSince = Optional.empty();
            return 0;
        }
        long now = System.nanoTime();
        long since = onlyFarSince.orElse(now);
        onlyFarSince = Optional.of(since);
        return Math.max(0, left.toMillis() - TimeUnit.NANOSECONDS.toMillis(now - since));
    }

    synchronized void catalogueAway(boolean away) {
        catalogueAway = away;
    }

    synchronized void wake() {
        notifyAll();
    }

    /// @return what is in the making
    synchronized List<Group> stop() {
        stopping = true;
        notifyAll();
        return List.copyOf(inWork);
    }

    // How it stands

    synchronized Pace pace() {
        return pace;
    }

    synchronized boolean isOver() {
        return over;
    }

    synchronized int bestWorkers() {
        return count.best();
    }

    synchronized RunSnapshot snapshot() {
        long until = working > 0 ? System.nanoTime() : endedNanos;
        Optional<Instant> begins = pace.begins(Instant.now());
        RunSnapshot.Phase phase = phase();
        return new RunSnapshot(
                queue.progress(phase == RunSnapshot.Phase.HELD),
                phase,
                why(phase),
                count.size(),
                begins,
                Duration.ofNanos(Math.max(0, until - startedNanos)),
                phase == RunSnapshot.Phase.WORKING && begins.isEmpty()
                        ? speed.left(queue.workLeft())
                        : Optional.empty());
    }

    private RunSnapshot.Phase phase() {
        if (working == 0) {
            return RunSnapshot.Phase.OVER;
        }
        if (brake.isOn()) {
            return RunSnapshot.Phase.HELD;
        }
        if (paused) {
            return RunSnapshot.Phase.PAUSED;
        }
        if (catalogueAway) {
            return RunSnapshot.Phase.WAITING;
        }
        boolean nothingElse = inWork.isEmpty()
                && (queue.hasWaiting() ? isLeft() : !queue.held().isEmpty());
        return nothingElse ? RunSnapshot.Phase.WAITING : RunSnapshot.Phase.WORKING;
    }

    private boolean isLeft() {
        return onlyFarSince.isPresent() && leftMillis() > 0;
    }

    private String why(RunSnapshot.Phase phase) {
        return switch (phase) {
            case WORKING, OVER -> "";
            case PAUSED -> "paused";
            case HELD -> heldByHand ? "held still" : "held still: " + inTheWay;
            case WAITING ->
                catalogueAway
                        ? "the project's database does not answer; what is finished is kept and entered when it does"
                        : isLeft()
                                ? "leaves what waits for a moment to workstations that read it faster"
                                : queue.held().values().stream()
                                        .findFirst()
                                        .map(Obstacle::words)
                                        .orElse("");
        };
    }

    // Workers

    /// Waits until something may be begun.
    ///
    /// @return copies of one clip; empty when the worker may go, which is noted in the same moment, so that
    ///     nobody counts on it any more
    synchronized Optional<Group> next() throws InterruptedException {
        while (!stopping && !queue.isEmpty() && !pace.isOver(Instant.now())) {
            boolean must = paused || brake.isOn() || !queue.hasWaiting() || inWork.size() >= count.size();
            long millis = must ? 60_000 : Math.max(pace.wait(Instant.now()).toMillis(), leftMillis());
            if (millis <= 0) {
                var group = new Group(queue.claim(far));
                inWork.add(group);
                notifyAll(); // the others look whether anything is left for them
                return Optional.of(group);
            }
            wait(Math.min(millis, 60_000)); // clocks are set and machines sleep: look again now and then
        }
        leave();
        return Optional.empty();
    }

    synchronized void ended(Group group) {
        inWork.remove(group);
        notifyAll();
    }

    /// A worker goes.
    synchronized void leave() {
        working--;
        if (working == 0) {
            endedNanos = System.nanoTime();
            over = true;
        }
        notifyAll();
    }

    // Copies

    synchronized boolean isStillToBeMade(WorkingCopy copy) {
        return queue.copy(copy.id()).filter(now -> now.state().isQueued()).isPresent();
    }

    synchronized void set(List<WorkingCopy> copies) {
        for (WorkingCopy copy : copies) {
            queue.set(copy, brake.heldNanos());
            if (!copy.state().isQueued()) {
                ended.put(copy.id(), System.nanoTime());
            }
        }
    }

    synchronized boolean isDropped(Group group, WorkingCopy copy) {
        return group.dropped.contains(copy.id());
    }

    synchronized void progressed(List<WorkingCopy> copies, long frames, List<Long> bytes) {
        for (int i = 0; i < copies.size(); i++) {
            speed.did(queue.progressed(copies.get(i).id(), frames, bytes.get(i), brake.heldNanos()));
        }
    }

    synchronized int groupsInWork() {
        return Math.max(1, inWork.size());
    }

    /// Processors that one group may keep busy: while others wait, whatever is idle is theirs.
    synchronized double processors() {
        int most = Math.min(Runtime.getRuntime().availableProcessors(), terms.mostWorkers());
        return queue.hasWaiting() ? 0 : (double) most / Math.max(1, inWork.size());
    }

    synchronized void giveBack(List<WorkingCopy> copies) {
        copies.forEach(copy -> queue.set(copy, brake.heldNanos()));
        queue.giveBack(copies);
        notifyAll();
    }

    /// Fewer are made at a time from here on.
    ///
    /// @return whether they are to be made once more
    synchronized boolean lackedMemory(List<WorkingCopy> copies) {
        count.fewer();
        boolean again = copies.stream().noneMatch(copy -> lackedMemory.contains(copy.id()));
        copies.forEach(copy -> lackedMemory.add(copy.id()));
        return again;
    }

    // Obstacles

    synchronized void obstructed(WorkingCopy copy, Obstacle obstacle) {
        queue.hold(copy.id(), obstacle);
        heldSince.putIfAbsent(copy.id(), System.nanoTime());
    }

    synchronized Map<String, Obstacle> obstructed() {
        return queue.held();
    }

    synchronized void free(String id) {
        queue.free(id);
        notifyAll();
    }

    synchronized boolean isOutOfPatience(String id) {
        long since = heldSince.getOrDefault(id, System.nanoTime());
        return System.nanoTime() - since > terms.patience().toNanos();
    }

    synchronized Optional<WorkingCopy> giveUp(String id) {
        Optional<WorkingCopy> copy = queue.copy(id);
        queue.giveUp(id);
        notifyAll();
        return copy;
    }

    // Speed

    synchronized void measure() {
        Optional<Double> lately = speed.whileOver();
        if (lately.isEmpty()) {
            return;
        }
        if (!brake.isOn() && lately.get() > 0) {
            speed.keep(lately.get());
            if (evenlyManned && queue.hasWaiting()) {
                count.measured(lately.get());
                notifyAll();
            }
        }
        evenlyManned = queue.hasWaiting() && !brake.isOn() && !paused;
    }
}
