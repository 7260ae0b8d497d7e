package docksort.run;

import docksort.arrival.Clip;
import docksort.arrival.ClipId;
import docksort.catalogue.CopyState;
import docksort.catalogue.WorkingCopy;
import docksort.media.FrameRange;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.SequencedSet;
import java.util.Set;

/// The copies of a run in their order, those that wait, and those that wait for something outside the
/// program. No operation takes longer than in proportion to the copies it is about, or to the queue where
/// it brings it into another order. Used under the run's lock.
final class RunQueue {
    private final Map<String, Entry> entries = new LinkedHashMap<>();
    private final SequencedSet<String> waiting = new LinkedHashSet<>();
    private final Map<Stretch, SequencedSet<String>> together = new HashMap<>(); // of those that wait
    private final Map<String, Obstacle> held = new LinkedHashMap<>();

    /// What copies must have in common to be made together.
    private record Stretch(ClipId clip, Optional<FrameRange> range) {
        static Stretch of(WorkingCopy copy) {
            return new Stretch(copy.clip(), copy.range());
        }
    }

    private final Map<ClipId, Path> heads = new HashMap<>();

    private record Entry(CopyProgress progress, long startedNanos, long heldNanos) {}

    /// Puts copies behind what is there; those that wait or are in the making already are left where they
    /// are.
    void add(Collection<WorkingCopy> queued, Map<ClipId, Clip> clips) {
        for (WorkingCopy copy : queued) {
            Optional<Clip> clip = Optional.ofNullable(clips.get(copy.clip()));
            clip.ifPresent(its -> heads.put(its.id(), its.source().head()));
            Entry known = entries.get(copy.id());
            if (known == null || !known.progress.copy().state().isQueued()) {
                entries.remove(copy.id());
                entries.put(
                        copy.id(), new Entry(CopyProgress.before(copy.withState(CopyState.WAITING, ""), clip), 0, 0));
                waits(copy, false);
            }
        }
    }

    private void waits(WorkingCopy copy, boolean first) {
        SequencedSet<String> beside = together.computeIfAbsent(Stretch.of(copy), _ -> new LinkedHashSet<>());
        if (first) {
            waiting.addFirst(copy.id());
            beside.addFirst(copy.id());
        } else {
            waiting.addLast(copy.id());
            beside.addLast(copy.id());
        }
    }

    private boolean waitsNoMore(WorkingCopy copy) {
        together.computeIfPresent(Stretch.of(copy), (_, beside) -> {
            beside.remove(copy.id());
            return beside.isEmpty() ? null : beside;
        });
        return waiting.remove(copy.id());
    }

    /// The first copy that waits whose clip does not lie below any of these places.
    Optional<WorkingCopy> firstBeside(Set<Path> places) {
        return waiting.stream()
                .limit(places.isEmpty() ? 1 : Long.MAX_VALUE)
                .map(id -> copy(id).orElseThrow())
                .filter(copy -> !liesBelow(places, copy.clip()))
                .findFirst();
    }

    private boolean liesBelow(Set<Path> places, ClipId clip) {
        return Optional.ofNullable(heads.get(clip))
                .filter(head -> places.stream().anyMatch(head::startsWith))
                .isPresent();
    }

    /// The first copy that waits, rather of a clip that does not lie below these places, and every other that
    /// waits for the same stretch of the same clip.
    List<WorkingCopy> claim(Set<Path> last) {
        if (waiting.isEmpty()) {
            return List.of();
        }
        Stretch stretch = Stretch.of(
                firstBeside(last).orElseGet(() -> copy(waiting.getFirst()).orElseThrow()));
        List<WorkingCopy> claimed = together.getOrDefault(stretch, new LinkedHashSet<>()).stream()
                .map(id -> copy(id).orElseThrow())
                .toList();
        claimed.forEach(this::waitsNoMore);
        return claimed;
    }

    /// Puts copies back to the front.
    void giveBack(List<WorkingCopy> copies) {
        copies.reversed().forEach(copy -> waits(copy, true));
    }

    boolean isEmpty() {
        return waiting.isEmpty() && held.isEmpty();
    }

    boolean hasWaiting() {
        return !waiting.isEmpty();
    }

    void hold(String id, Obstacle obstacle) {
        held.put(id, obstacle);
    }

    Map<String, Obstacle> held() {
        return Map.copyOf(held);
    }

    /// Puts a held copy back to the front.
    void free(String id) {
        if (held.remove(id) != null) {
            copy(id).ifPresent(copy -> waits(copy, true));
        }
    }

    /// Waits no longer for a held copy.
    void giveUp(String id) {
        held.remove(id);
    }

    /// Takes a copy that waits out of the queue.
    ///
    /// @return empty when it does not wait
    Optional<WorkingCopy> takeOut(String id) {
        Optional<WorkingCopy> copy = copy(id);
        boolean waited = copy.filter(this::waitsNoMore).isPresent();
        boolean wasHeld = held.remove(id) != null;
        return waited || wasHeld ? copy : Optional.empty();
    }

    void drop(String id) {
        takeOut(id);
        entries.remove(id);
    }

    /// Brings the copies that wait into another order: all copies of the list come first or last, in the
    /// order they have among each other.
    void move(Collection<String> ids, boolean first) {
        List<String> moved = moved(ids);
        var rest = new LinkedHashSet<>(waiting);
        moved.forEach(rest::remove);
        order(first ? moved : rest, first ? rest : moved);
    }

    /// Puts copies that wait in front of another one that waits.
    void moveBefore(Collection<String> ids, String target) {
        var moved = new LinkedHashSet<>(moved(ids));
        if (moved.contains(target) || !waiting.contains(target)) {
            return;
        }
        var before = new ArrayList<String>();
        var after = new ArrayList<String>();
        boolean met = false;
        for (String id : waiting) {
            met |= id.equals(target);
            if (!moved.contains(id)) {
                (met ? after : before).add(id);
            }
        }
        before.addAll(moved);
        order(before, after);
    }

    private List<String> moved(Collection<String> ids) {
        Set<String> wanted = Set.copyOf(ids);
        return waiting.stream().filter(wanted::contains).toList();
    }

    /// Those that wait, in a new order; what waits stands last among all.
    private void order(Collection<String> first, Collection<String> then) {
        var ordered = new ArrayList<>(first);
        ordered.addAll(then);
        waiting.clear();
        together.clear();
        for (String id : ordered) {
            Entry entry = entries.remove(id);
            if (entry != null) {
                entries.put(id, entry);
                waits(entry.progress.copy(), false);
            }
        }
    }

    /// Ids of the copies that wait, in order.
    List<String> order() {
        return List.copyOf(waiting);
    }

    Optional<WorkingCopy> copy(String id) {
        return Optional.ofNullable(entries.get(id)).map(entry -> entry.progress.copy());
    }

    /// Takes over a copy's new state.
    ///
    /// @param heldNanos how long the run has been held so far
    void set(WorkingCopy copy, long heldNanos) {
        entries.computeIfPresent(copy.id(), (_, old) -> {
            CopyProgress was = old.progress;
            long done = switch (copy.state()) {
                case READY, READY_WITH_HOLES -> was.framesAll();
                case CHECKING -> was.framesDone();
                default -> 0;
            };
            long all = copy.state() == CopyState.FAILED || copy.state() == CopyState.WANTED ? 0 : was.framesAll();
            boolean begins = copy.state() == CopyState.MAKING;
            long bytes =
                    copy.state().serves() ? copy.place().bytes() : copy.state() == CopyState.CHECKING ? was.bytes() : 0;
            return new Entry(
                    was.with(copy, done, all, 0, bytes),
                    begins ? System.nanoTime() : old.startedNanos,
                    begins ? heldNanos : old.heldNanos);
        });
    }

    /// @return frames that came since the last report, times the pixels of each
    double progressed(String id, long frames, long bytes, long heldNanos) {
        Entry old = entries.get(id);
        if (old == null || old.progress.copy().state() != CopyState.MAKING) {
            return 0;
        }
        CopyProgress was = old.progress;
        double seconds = (System.nanoTime() - old.startedNanos - (heldNanos - old.heldNanos)) / 1e9;
        long done = Math.min(frames, was.framesAll());
        CopyProgress now = was.with(was.copy(), done, was.framesAll(), seconds > 0 ? frames / seconds : 0, bytes);
        entries.put(id, new Entry(now, old.startedNanos, old.heldNanos));
        return Math.max(0, now.workDone() - was.workDone());
    }

    /// @param still whether everything is held still, so that nothing has a speed
    List<CopyProgress> progress(boolean still) {
        return entries.values().stream()
                .map(Entry::progress)
                .map(each -> still ? each.still() : each)
                .toList();
    }

    double workLeft() {
        return entries.values().stream()
                .filter(entry -> entry.progress.copy().state().isQueued())
                .mapToDouble(entry -> entry.progress.workAll() - entry.progress.workDone())
                .sum();
    }
}
