package docksort.run;

import docksort.arrival.Clip;
import docksort.arrival.ClipId;
import docksort.catalogue.CopyState;
import docksort.catalogue.WorkingCopy;
import docksort.media.FrameRange;
import docksort.media.VideoFacts;
import java.util.ArrayList;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/// The copies of a run in their order, those that wait, and those that wait for something outside the
/// program. Used under the run's lock.
final class RunQueue {
    private final Map<String, Entry> entries = new LinkedHashMap<>();
    private final List<String> waiting = new ArrayList<>();
    private final Map<String, Obstacle> held = new LinkedHashMap<>();

    private record Entry(CopyProgress progress, long startedNanos, long heldNanos) {}

    /// Puts copies behind what is there; those that wait or are in the making already are left where they
    /// are.
    void add(Collection<WorkingCopy> queued, Map<ClipId, Clip> clips) {
        for (WorkingCopy copy : queued) {
            Entry known = entries.get(copy.id());
            if (known == null || !known.progress.copy().state().isQueued()) {
                entries.remove(copy.id());
                entries.put(copy.id(), new Entry(waiting(copy, Optional.ofNullable(clips.get(copy.clip()))), 0, 0));
                waiting.add(copy.id());
            }
        }
    }

    private static CopyProgress waiting(WorkingCopy copy, Optional<Clip> clip) {
        Optional<VideoFacts> video = clip.flatMap(c -> c.facts().video());
        long frames = copy.range()
                .map(FrameRange::count)
                .orElseGet(() -> video.map(v -> v.frames().count()).orElse(0L));
        String name = clip.map(Clip::name).orElse(copy.clip().value());
        return new CopyProgress(
                copy.withState(CopyState.WAITING, ""),
                name,
                0,
                frames,
                0,
                video.map(v -> v.rate().exact().toDouble()).orElse(0.0),
                0,
                video.map(v -> v.raster().pixels()).orElse(1L));
    }

    /// The first copy that waits, and every other that waits for the same stretch of the same clip.
    List<WorkingCopy> claim() {
        if (waiting.isEmpty()) {
            return List.of();
        }
        WorkingCopy first = copy(waiting.getFirst()).orElseThrow();
        List<WorkingCopy> together = waiting.stream()
                .map(id -> copy(id).orElseThrow())
                .filter(copy -> copy.clip().equals(first.clip()) && copy.range().equals(first.range()))
                .toList();
        together.forEach(copy -> waiting.remove(copy.id()));
        return together;
    }

    /// Puts copies back to the front.
    void giveBack(List<WorkingCopy> copies) {
        for (int i = copies.size() - 1; i >= 0; i--) {
            waiting.addFirst(copies.get(i).id());
        }
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
            waiting.addFirst(id);
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
        boolean waited = waiting.remove(id);
        boolean wasHeld = held.remove(id) != null;
        Optional<WorkingCopy> copy = copy(id);
        return waited || wasHeld ? copy : Optional.empty();
    }

    void drop(String id) {
        entries.remove(id);
    }

    /// Brings the copies that wait into another order: all copies of the list come first or last, in the
    /// order they have among each other.
    void move(Collection<String> ids, boolean first) {
        List<String> moved = waiting.stream().filter(ids::contains).toList();
        waiting.removeAll(moved);
        waiting.addAll(first ? 0 : waiting.size(), moved);
        reorderEntries();
    }

    /// Puts copies that wait in front of another one that waits.
    void moveBefore(Collection<String> ids, String target) {
        List<String> moved = waiting.stream().filter(ids::contains).toList();
        if (moved.contains(target) || !waiting.contains(target)) {
            return;
        }
        waiting.removeAll(moved);
        waiting.addAll(waiting.indexOf(target), moved);
        reorderEntries();
    }

    /// What waits stands last, in its order.
    private void reorderEntries() {
        for (String id : waiting) {
            Entry entry = entries.remove(id);
            if (entry != null) {
                entries.put(id, entry);
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
