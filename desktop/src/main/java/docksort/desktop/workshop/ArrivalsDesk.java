package docksort.desktop.workshop;

import docksort.arrival.Arrival;
import docksort.arrival.Clip;
import docksort.arrival.ClipId;
import docksort.arrival.ScanListener;
import docksort.arrival.ScanResult;
import docksort.arrival.Unreadable;
import docksort.catalogue.TakenOut.Hanging;
import docksort.desktop.work.Job;
import docksort.desktop.work.Jobs;
import docksort.engine.Cancellation;
import docksort.files.Brought;
import docksort.files.TreeCopy;
import docksort.media.Described;
import docksort.media.FrameRate;
import docksort.problem.CoreException;
import docksort.problem.Problem;
import docksort.project.BringingIn;
import docksort.project.Project;
import docksort.strain.TimelineFormat;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.Executor;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.TimeUnit;
import java.util.function.BiConsumer;
import java.util.function.Consumer;
import java.util.stream.Collectors;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.collections.ObservableList;

/// Takes folders in as arrivals and looks at them again, one folder after the other, beside the steps of
/// the project.
public final class ArrivalsDesk {
    private final Project project;
    private final ProjectThread thread;
    private final ViewFeed feed;
    private final Errands errands;
    private final UndoOrder undo;
    private final Jobs jobs;
    private final Executor window;
    private final Incoming incoming;
    private final RunDesk runs;
    private final Troubles troubles;
    private final ExecutorService looking = Executors.newSingleThreadExecutor(
            Thread.ofPlatform().daemon().name("looking-through").factory());
    private final List<Job> begun = new ArrayList<>(); // on the window's thread
    private final ReadOnlyObjectWrapper<ScanProgress> scan = new ReadOnlyObjectWrapper<>(ScanProgress.NONE);

    ArrivalsDesk(
            Project project,
            ProjectThread thread,
            ViewFeed feed,
            Errands errands,
            UndoOrder undo,
            Jobs jobs,
            Executor window,
            Incoming incoming,
            RunDesk runs,
            Troubles troubles) {
        this.project = project;
        this.thread = thread;
        this.feed = feed;
        this.errands = errands;
        this.undo = undo;
        this.jobs = jobs;
        this.window = window;
        this.incoming = incoming;
        this.runs = runs;
        this.troubles = troubles;
    }

    public ReadOnlyObjectProperty<ScanProgress> scan() {
        return scan.getReadOnlyProperty();
    }

    /// Clips of the arrivals that are being looked into, before they are part of the project.
    public ObservableList<Clip> scanned() {
        return incoming.shown();
    }

    /// Each folder is a job of its own: what goes wrong with one keeps none of the others.
    public CompletableFuture<Void> add(List<Path> folders) {
        var refused = Collections.synchronizedList(new ArrayList<Problem>());
        return CompletableFuture.allOf(folders.stream()
                        .map(folder -> look(Workshop.nameOf(folder), (listener, cancellation) -> {
                            try {
                                ScanResult found = project.arrivals().add(folder, listener, cancellation);
                                return Incoming.ids(found.clips());
                            } catch (CoreException e) {
                                refused.add(e.problem());
                                return Set.of();
                            }
                        }))
                        .toArray(CompletableFuture<?>[]::new))
                .thenRun(() -> told(refused));
    }

    private void told(List<Problem> refused) {
        if (refused.size() == 1) {
            troubles.show(refused.getFirst());
        } else if (!refused.isEmpty()) {
            String all = refused.stream()
                    .map(problem -> problem.what() + ": " + problem.why())
                    .collect(Collectors.joining("; "));
            troubles.show(new Problem(all, "", "The other folders were looked through.", "Choose other folders."));
        }
    }

    /// Looks at an arrival's folder again; files that are as before are not opened.
    public CompletableFuture<Void> lookAgain(Arrival arrival) {
        return lookAgain(arrival, Optional.empty());
    }

    /// @param settled new files that have stopped growing, empty for all that is there
    CompletableFuture<Void> lookAgain(Arrival arrival, Optional<Set<Path>> settled) {
        return look(arrival.name(), (listener, cancellation) -> {
            Set<ClipId> before = Incoming.ids(project.clips());
            project.arrivals().lookAgain(arrival, settled, listener, cancellation);
            Set<ClipId> arrived = Incoming.ids(project.clips());
            arrived.removeAll(before);
            project.stocktaking().refresh();
            return arrived;
        });
    }

    /// What would go out of the project with clips and files that cannot be read.
    public void hangingOn(List<Clip> clips, List<Unreadable> files, Consumer<Hanging> then) {
        errands.ask("hanging", asked -> asked.takingOut().hangingOn(clips, files), then);
    }

    public CompletableFuture<Void> takeOut(List<Clip> clips, List<Unreadable> files) {
        return errands.changeClips(() -> project.takingOut().takeOut(clips, files));
    }

    public void hangingOn(Arrival arrival, Consumer<Hanging> then) {
        errands.ask("hanging", asked -> asked.takingOut().hangingOn(arrival), then);
    }

    public CompletableFuture<Void> takeOut(Arrival arrival) {
        return errands.changeClips(() -> project.takingOut().takeOut(arrival));
    }

    public CompletableFuture<Void> putAside(List<Clip> clips, List<Unreadable> files) {
        return errands.changeClips(() -> project.puttingAside().put(clips, files));
    }

    /// Puts all that came in with an arrival aside.
    public CompletableFuture<Void> putAside(Arrival arrival) {
        return errands.changeClips(() -> project.puttingAside().put(arrival));
    }

    public CompletableFuture<Void> bringBack(List<Clip> clips, List<Unreadable> files) {
        return errands.changeClips(() -> project.puttingAside().bringBack(clips, files));
    }

    /// Takes new folders of a place in by themselves.
    public CompletableFuture<Void> watchPlace(Path place) {
        return errands.step(() -> project.watchedPlaces().watch(place));
    }

    public CompletableFuture<Void> leavePlace(Path place) {
        return errands.step(() -> project.watchedPlaces().leave(place));
    }

    /// Copies a card to storage.
    ///
    /// @param pace hears how far and how fast it goes, in words, on the window's thread
    public Job bring(Path card, List<Path> places, boolean twice, Consumer<String> pace, Consumer<Brought> then) {
        return errands.begin(
                "Bringing " + Workshop.nameOf(card) + " in",
                "MB",
                (heard, cancellation) -> {
                    var told = new Pace(heard, pace);
                    return Optional.of(project.bringingIn()
                            .bring(card, places, TreeCopy.Source.DISK, twice, told::hear, cancellation));
                },
                then);
    }

    /// Tells a few times a second how far a copy is.
    private final class Pace {
        private static final long EVERY_NANOS = 300_000_000L;
        private final long begun = System.nanoTime();
        private final BiConsumer<Integer, Integer> heard;
        private final Consumer<String> words;
        private long told = begun;

        Pace(BiConsumer<Integer, Integer> heard, Consumer<String> words) {
            this.heard = heard;
            this.words = words;
        }

        void hear(long read, long all) {
            long now = System.nanoTime();
            if (now - told > EVERY_NANOS) {
                told = now;
                heard.accept((int) (read / 1_000_000), (int) (all / 1_000_000));
                String text = BringingIn.pace(read, all, (now - begun) / 1e9);
                window.execute(() -> words.accept(text));
            }
        }
    }

    private interface Looking {
        /// @return the clips that are new
        Set<ClipId> through(ScanListener listener, Cancellation cancellation) throws InterruptedException;
    }

    /// @return ends when the window shows what was found
    private CompletableFuture<Void> look(String name, Looking work) {
        var shown = new CompletableFuture<Void>();
        window.execute(() -> {
            Job job = jobs.begin(
                    looking,
                    "Looking through " + name,
                    "",
                    (heard, cancellation) -> {
                        try {
                            // What was found before it was stopped is kept.
                            return Optional.of(work.through(listener(name, heard), cancellation));
                        } finally {
                            window.execute(() -> scan.set(ScanProgress.NONE));
                        }
                    },
                    arrived -> shown(arrived, shown));
            begun.add(job);
            job.state().subscribe(state -> {
                if (state.isOver()) {
                    begun.remove(job);
                }
                if (state == Job.State.FAILED || state == Job.State.STOPPED) {
                    shown(Set.of(), shown);
                }
            });
        });
        return shown;
    }

    private void shown(Set<ClipId> arrived, CompletableFuture<Void> shown) {
        thread.step(() -> {
                    undo.projectChanged();
                    runs.queueArrived(arrived);
                    feed.reload(true);
                    window.execute(() -> {
                        if (begun.isEmpty()) {
                            incoming.clear();
                        }
                    });
                })
                .whenComplete((_, _) -> shown.complete(null));
    }

    private ScanListener listener(String name, BiConsumer<Integer, Integer> heard) {
        return new ScanListener() {
            @Override
            public void progress(int done, int all) {
                heard.accept(done, all);
                window.execute(() -> scan.set(new ScanProgress(name, done, all, true)));
            }

            @Override
            public void clip(Clip clip) {
                incoming.add(clip);
            }

            @Override
            public void unreadable(Unreadable file) {
                // Shown with the arrival, when all of it is known.
            }
        };
    }

    /// Takes new files of an arrival in by itself, once they have stopped growing, or no longer.
    public CompletableFuture<Void> watch(Arrival arrival, boolean on) {
        return errands.step(() -> project.arrivals().watch(arrival, on));
    }

    /// Says how to read clips that state no frame rate.
    public CompletableFuture<Void> readAt(List<Clip> chosen, FrameRate rate) {
        return thread.step(() -> {
            project.arrivals().readAt(chosen, rate);
            undo.projectChanged();
            feed.reload(true);
        });
    }

    /// Writes what came in for people who do not have the project.
    public Job report(List<Arrival> arrivals, Path file, boolean pictures, Consumer<Boolean> then) {
        return errands.begin(
                "Writing " + Workshop.nameOf(file),
                (asked, heard, cancellation) ->
                        asked.arrivalReports().write(arrivals, file, pictures, heard, cancellation),
                then);
    }

    /// Says of recordings that cannot be decoded here what nothing else states.
    public CompletableFuture<Void> describe(List<Clip> chosen, Described said) {
        return thread.step(() -> {
            project.arrivals().describe(chosen, said);
            undo.projectChanged();
            feed.reload(true);
        });
    }

    public CompletableFuture<Void> setFormat(TimelineFormat format) {
        return errands.step(() -> project.settings().setTimelineFormat(format));
    }

    boolean ended(Duration patience) throws InterruptedException {
        looking.shutdownNow();
        return looking.awaitTermination(patience.toSeconds(), TimeUnit.SECONDS);
    }
}
