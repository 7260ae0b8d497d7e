package docksort.run;

import docksort.arrival.Clip;
import docksort.arrival.ClipId;
import docksort.catalogue.Catalogue;
import docksort.catalogue.CopyState;
import docksort.catalogue.WorkingCopy;
import docksort.engine.Cancellation;
import docksort.engine.CopyMaker;
import docksort.engine.CopyOrder;
import docksort.engine.Inspection;
import docksort.engine.Inspector;
import docksort.files.CopyFolder;
import docksort.files.PartialFile;
import docksort.media.ClipFacts;
import docksort.media.ClipSource;
import docksort.media.CopyForm;
import docksort.media.FrameRange;
import docksort.problem.CoreException;
import docksort.problem.Problem;
import docksort.sort.Recipe;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.TimeUnit;

/// One carrying-out of the queue: workers take waiting copies in order, make them under a partial name, check
/// them, and give them their final name. What fails is told and the rest goes on. Stopping leaves what is not
/// finished waiting.
///
/// The queue itself lives in the catalogue; this object holds what is only true while it runs.
public final class Run implements AutoCloseable {
    private final Catalogue catalogue;
    private final CopyMaker maker;
    private final Inspector inspector;
    private final PictureCheck pictures;
    private final RunHost host;
    private final Map<ClipId, Clip> clips;
    private final Runnable changed;
    private final Pace pace;
    private final ExecutorService workers;
    private final long startedNanos = System.nanoTime();
    private final int most;

    private final Object lock = new Object();
    private final Map<String, Entry> entries = new LinkedHashMap<>();
    private final Deque<String> waiting = new ArrayDeque<>();
    private final Map<String, Cancellation> inWork = new HashMap<>();
    private boolean stopping;
    private boolean paused;
    private int working;
    private long endedNanos;

    private record Entry(CopyProgress progress, long startedNanos) {}

    /// Starts at once.
    ///
    /// @param workers how many copies are made at the same time
    /// @param pace when it works, and how hard
    /// @param changed called from worker threads after every change; must return quickly
    public Run(
            Catalogue catalogue,
            CopyMaker maker,
            Inspector inspector,
            PictureCheck pictures,
            RunHost host,
            List<Clip> clips,
            int workers,
            Pace pace,
            Runnable changed) {
        this.catalogue = catalogue;
        this.maker = maker;
        this.inspector = inspector;
        this.pictures = pictures;
        this.host = host;
        this.clips = new java.util.concurrent.ConcurrentHashMap<>();
        clips.forEach(clip -> this.clips.put(clip.id(), clip));
        this.changed = changed;
        this.pace = pace;
        this.most = workers;
        listQueue();
        this.working = workers;
        this.workers = Executors.newFixedThreadPool(
                workers, Thread.ofPlatform().daemon().name("copy-worker-", 0).factory());
        for (int i = 0; i < workers; i++) {
            this.workers.execute(this::work);
        }
    }

    private void listQueue() {
        List<WorkingCopy> queued = catalogue.copies().stream()
                .filter(copy -> copy.state().isQueued())
                .toList();
        synchronized (lock) {
            for (WorkingCopy copy : queued) {
                Entry known = entries.get(copy.id());
                if (known == null || !known.progress.copy().state().isQueued()) {
                    entries.remove(copy.id());
                    entries.put(copy.id(), new Entry(waiting(copy), 0));
                    waiting.add(copy.id());
                }
            }
        }
    }

    private CopyProgress waiting(WorkingCopy copy) {
        Clip clip = clips.get(copy.clip());
        long all = clip == null
                ? 0
                : clip.facts().video().map(v -> v.frames().count()).orElse(0L);
        long frames = copy.range().map(FrameRange::count).orElse(all);
        String name = clip == null ? copy.clip().value() : clip.name();
        return new CopyProgress(copy.withState(CopyState.WAITING, ""), name, 0, frames, 0);
    }

    /// Takes up what was put into the queue since the run started, behind what it has.
    ///
    /// @param known the project's clips as they are now
    /// @return false when the run is over or stopping: a new one is needed then
    public boolean takeUp(List<Clip> known) {
        synchronized (lock) {
            if (stopping || working == 0) {
                return false;
            }
            known.forEach(clip -> clips.put(clip.id(), clip));
        }
        listQueue();
        synchronized (lock) {
            for (; working < most; working++) {
                workers.execute(this::work);
            }
        }
        changed.run();
        return true;
    }

    /// How the run stands now. Cheap; may be called from any thread.
    public RunSnapshot snapshot() {
        synchronized (lock) {
            long until = working > 0 ? System.nanoTime() : endedNanos;
            return new RunSnapshot(
                    entries.values().stream().map(Entry::progress).toList(),
                    working > 0,
                    paused,
                    pace.from().filter(Instant.now()::isBefore),
                    Duration.ofNanos(Math.max(0, until - startedNanos)));
        }
    }

    /// Takes one copy out of the queue, or ends the making of it.
    public void cancel(String copyId) {
        Cancellation running;
        Entry entry;
        synchronized (lock) {
            running = inWork.get(copyId);
            entry = entries.get(copyId);
            if (entry != null && running == null && waiting.remove(copyId)) {
                entries.remove(copyId);
            } else {
                entry = null;
            }
        }
        if (running != null) {
            running.cancel();
        }
        if (entry != null) {
            catalogue.forget(entry.progress.copy());
            changed.run();
        }
    }

    /// Begins nothing more, or goes on. What is in the making is finished.
    public void pause(boolean on) {
        synchronized (lock) {
            paused = on;
            lock.notifyAll();
        }
        changed.run();
    }

    /// Ends the run after killing what is in the making; unfinished copies stay in the queue for the next run.
    public void stop() {
        List<Cancellation> running;
        synchronized (lock) {
            stopping = true;
            lock.notifyAll();
            running = List.copyOf(inWork.values());
        }
        running.forEach(Cancellation::cancel);
    }

    /// Waits until all workers are done.
    ///
    /// @return false when the time ran out before
    public boolean awaitEnd(Duration atMost) throws InterruptedException {
        workers.shutdown();
        return workers.awaitTermination(atMost.toMillis(), TimeUnit.MILLISECONDS);
    }

    private void work() {
        try {
            while (true) {
                Entry next;
                var cancellation = new Cancellation();
                synchronized (lock) {
                    awaitBeginning();
                    String id = stopping || pace.isOver(Instant.now()) ? null : waiting.poll();
                    if (id == null) {
                        leave();
                        return;
                    }
                    next = java.util.Objects.requireNonNull(entries.get(id));
                    inWork.put(id, cancellation);
                }
                WorkingCopy copy = next.progress.copy();
                try {
                    process(copy, cancellation);
                } catch (CoreException e) {
                    fail(copy, e.problem());
                } catch (RuntimeException e) {
                    // The outermost loop of a worker: a fault in one copy must not end the run.
                    System.getLogger(Run.class.getName()).log(System.Logger.Level.ERROR, "copy " + copy.file(), e);
                    fail(
                            copy,
                            new Problem(
                                    "The copy " + copy.file() + " could not be made",
                                    "fault in the program: " + e,
                                    "",
                                    "Retry."));
                } finally {
                    synchronized (lock) {
                        inWork.remove(copy.id());
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

    /// Waits, under the lock, until the pace lets something be begun.
    private void awaitBeginning() throws InterruptedException {
        while (!stopping && !waiting.isEmpty()) {
            long millis = paused ? 60_000 : pace.wait(Instant.now()).toMillis();
            if (millis <= 0) {
                return;
            }
            lock.wait(Math.min(millis, 60_000)); // clocks are set and machines sleep: look again now and then
        }
    }

    /// A worker goes. Under the lock that it found the queue empty in, so that nobody counts on it any more.
    private void leave() {
        working--;
        if (working == 0) {
            endedNanos = System.nanoTime();
        }
    }

    private void process(WorkingCopy copy, Cancellation cancellation) throws InterruptedException {
        Clip clip = clips.get(copy.clip());
        Recipe recipe = host.recipe(copy.recipeId()).orElse(null);
        if (clip == null || recipe == null) {
            fail(
                    copy,
                    new Problem(
                            "The copy " + copy.file() + " cannot be made",
                            "its clip or recipe is gone",
                            "",
                            "Plan it anew."));
            return;
        }
        switch (recipe.resolve(clip, host.circumstances(), copy.range())) {
            case Recipe.Resolution.Impossible(var why) ->
                fail(
                        copy,
                        new Problem(
                                "No copy of " + clip.source().head(),
                                why,
                                "The original is as it was.",
                                "Leave it as it is."));
            case Recipe.Resolution.Possible(var form, var _) -> make(copy, clip, form, cancellation);
        }
    }

    private void make(WorkingCopy copy, Clip clip, CopyForm form, Cancellation cancellation)
            throws InterruptedException {
        set(copy.withState(CopyState.MAKING, ""));
        try (PartialFile partial = begin(copy, clip)) {
            var order = new CopyOrder(
                    clip.source(), clip.facts(), form, clip.name(), CopyTags.of(clip, copy), partial.working());
            long before = System.nanoTime();
            switch (maker.make(
                    order, progress -> progressed(copy.id(), progress.frames()), cancellation, pace.gently())) {
                case CopyMaker.Outcome.Cancelled() -> cancelled(copy);
                case CopyMaker.Outcome.Failed(var problem, var _) -> fail(copy, problem);
                case CopyMaker.Outcome.Written() -> {
                    double seconds = (System.nanoTime() - before) / 1e9 / beside();
                    checkAndPublish(copy, clip, form, partial, seconds, cancellation);
                }
            }
        }
    }

    /// How many copies are in the making now.
    private int beside() {
        synchronized (lock) {
            return Math.max(1, inWork.size());
        }
    }

    private PartialFile begin(WorkingCopy copy, Clip clip) {
        CopyFolder folder = host.folder(copy, clip);
        Path inFolder = folder.root().relativize(copy.file());
        var subFolders = new ArrayList<String>();
        for (int i = 0; i < inFolder.getNameCount() - 1; i++) {
            subFolders.add(inFolder.getName(i).toString());
        }
        return folder.begin(subFolders, String.valueOf(copy.file().getFileName()));
    }

    private void checkAndPublish(
            WorkingCopy copy, Clip clip, CopyForm form, PartialFile partial, double seconds, Cancellation cancellation)
            throws InterruptedException {
        set(copy.withState(CopyState.CHECKING, ""));
        Inspection inspection =
                inspector.inspect(new ClipSource.SingleFile(partial.working()), form.rate(), cancellation);
        if (cancellation.isCancelled()) {
            cancelled(copy);
            return;
        }
        switch (inspection) {
            case Inspection.Unreadable(var problem) ->
                fail(
                        copy,
                        new Problem(
                                "The copy of " + clip.source().head() + " is not readable",
                                problem.why(),
                                "The original is as it was; the copy was thrown away.",
                                "Retry."));
            case Inspection.Known(ClipFacts facts) -> {
                Optional<CopyCheck.Verdict> checked = checked(clip, form, facts, partial, cancellation);
                if (checked.isEmpty()) {
                    cancelled(copy);
                    return;
                }
                CopyCheck.Verdict verdict = checked.get();
                if (!verdict.passes()) {
                    fail(
                            copy,
                            new Problem(
                                    "The copy of " + clip.source().head() + " is no stand-in for it",
                                    verdict.inWords(),
                                    "The original is as it was; the copy was thrown away.",
                                    "Look at the original, then retry or choose another recipe."));
                    return;
                }
                partial.publish();
                CopyTags.besideWhereNeeded(copy, form, CopyTags.of(clip, copy));
                set(copy.withState(CopyState.READY, verdict.inWords()).withPlace(place(partial, facts)));
                host.made(copy, clip, form, facts, seconds);
            }
        }
    }

    /// Facts first; pictures only of a copy whose facts hold.
    private Optional<CopyCheck.Verdict> checked(
            Clip clip, CopyForm form, ClipFacts facts, PartialFile partial, Cancellation cancellation)
            throws InterruptedException {
        CopyCheck.Verdict verdict = CopyCheck.check(clip.facts(), form, facts);
        if (!verdict.passes() || form.target().isEmpty()) {
            return Optional.of(verdict);
        }
        var copy = new ClipSource.SingleFile(partial.working());
        return pictures.check(clip.source(), clip.facts().video().orElseThrow(), form, copy, cancellation)
                .map(verdict::with);
    }

    private static WorkingCopy.Place place(PartialFile partial, ClipFacts facts) {
        return new WorkingCopy.Place(
                facts.size().bytes(),
                partial.target().toFile().lastModified(),
                facts.video().map(v -> v.raster().width()).orElse(0),
                facts.video().map(v -> v.raster().height()).orElse(0),
                facts.video().map(v -> v.codec().label()).orElse("sound"));
    }

    private void cancelled(WorkingCopy copy) {
        boolean wholeRun;
        synchronized (lock) {
            wholeRun = stopping;
        }
        if (wholeRun) {
            set(copy.withState(CopyState.WAITING, ""));
        } else {
            synchronized (lock) {
                entries.remove(copy.id());
            }
            catalogue.forget(copy);
            changed.run();
        }
    }

    private void fail(WorkingCopy copy, Problem problem) {
        set(copy.withState(CopyState.FAILED, problem.sentence()));
    }

    private void set(WorkingCopy copy) {
        catalogue.update(List.of(copy));
        synchronized (lock) {
            entries.computeIfPresent(copy.id(), (_, old) -> {
                long done = switch (copy.state()) {
                    case READY -> old.progress.framesAll();
                    case CHECKING -> old.progress.framesDone();
                    default -> 0;
                };
                long all = copy.state() == CopyState.FAILED ? 0 : old.progress.framesAll();
                long started = copy.state() == CopyState.MAKING ? System.nanoTime() : old.startedNanos;
                return new Entry(new CopyProgress(copy, old.progress.clipName(), done, all, 0), started);
            });
        }
        changed.run();
    }

    private void progressed(String id, long frames) {
        synchronized (lock) {
            entries.computeIfPresent(id, (_, old) -> {
                double seconds = (System.nanoTime() - old.startedNanos) / 1e9;
                CopyProgress was = old.progress;
                long done = Math.min(frames, was.framesAll());
                return new Entry(
                        new CopyProgress(
                                was.copy(), was.clipName(), done, was.framesAll(), seconds > 0 ? frames / seconds : 0),
                        old.startedNanos);
            });
        }
        changed.run();
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
    }
}
