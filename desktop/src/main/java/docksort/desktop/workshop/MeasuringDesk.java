package docksort.desktop.workshop;

import docksort.arrival.Clip;
import docksort.arrival.Whereabouts;
import docksort.desktop.work.Job;
import docksort.desktop.work.Jobs;
import docksort.engine.Cancellation;
import docksort.problem.CoreException.ToolFailed;
import docksort.project.ClipSounds;
import docksort.project.Measurements;
import docksort.project.Project;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.Executor;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.TimeUnit;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;

/// Measures clips and volumes, one after the other: figures that are taken beside one another are wrong.
public final class MeasuringDesk {
    private final Project project;
    private final ProjectThread thread;
    private final ViewFeed feed;
    private final Jobs jobs;
    private final Executor window;
    private final ExecutorService queue = Executors.newSingleThreadExecutor(
            Thread.ofPlatform().daemon().name("measuring").factory());
    private final List<Job> begun = new ArrayList<>(); // on the window's thread
    private final ReadOnlyObjectWrapper<MeasureProgress> progress = new ReadOnlyObjectWrapper<>(MeasureProgress.NONE);

    MeasuringDesk(Project project, ProjectThread thread, ViewFeed feed, Jobs jobs, Executor window) {
        this.project = project;
        this.thread = thread;
        this.feed = feed;
        this.jobs = jobs;
        this.window = window;
    }

    public ReadOnlyObjectProperty<MeasureProgress> progress() {
        return progress.getReadOnlyProperty();
    }

    /// Measures how clips play and how long jumps in them take.
    public CompletableFuture<Void> measure(List<Clip> chosen) {
        List<Clip> wanted =
                chosen.stream().filter(clip -> clip.facts().isDecodable()).toList();
        return begin("Measuring " + subject(wanted), cancellation -> {
            for (int i = 0; i < wanted.size(); i++) {
                show(new MeasureProgress(wanted.get(i).name(), i, wanted.size(), true));
                if (!project.measurements().measure(wanted.get(i), cancellation)) {
                    break;
                }
                thread.step(() -> feed.reload(false));
            }
        });
    }

    /// Measures how loud the channels of clips are; clips without sound are left out. One that cannot be decoded
    /// keeps none of the others from being measured.
    public CompletableFuture<Void> measureSound(List<Clip> chosen) {
        List<Clip> wanted = chosen.stream().filter(ClipSounds::hasSound).toList();
        return begin("Measuring the sound of " + subject(wanted), cancellation -> {
            Optional<ToolFailed> failed = Optional.empty();
            for (int i = 0; i < wanted.size(); i++) {
                show(new MeasureProgress(wanted.get(i).name(), i, wanted.size(), true));
                try {
                    if (project.sounds().measure(wanted.get(i), cancellation).isEmpty()) {
                        break;
                    }
                } catch (ToolFailed e) {
                    failed = failed.or(() -> Optional.of(e));
                }
                thread.step(() -> feed.reload(false));
            }
            if (failed.isPresent()) {
                throw failed.get();
            }
        });
    }

    public static boolean hasSound(Clip clip) {
        return ClipSounds.hasSound(clip);
    }

    /// Whether a trial copy of a clip can be made.
    public static boolean canTestLevers(Clip clip) {
        return Measurements.canTestLevers(clip);
    }

    /// Finds out which lever helps; clips of which no trial copy can be made are left out.
    public CompletableFuture<Void> testLevers(List<Clip> chosen) {
        List<Clip> wanted = chosen.stream()
                .filter(clip -> clip.facts().isDecodable())
                .filter(Measurements::canTestLevers)
                .toList();
        return begin("Testing levers of " + subject(wanted), cancellation -> {
            for (int i = 0; i < wanted.size() && !cancellation.isCancelled(); i++) {
                Clip clip = wanted.get(i);
                int done = i;
                project.measurements()
                        .lever(
                                clip,
                                what -> show(new MeasureProgress(clip.name() + ": " + what, done, wanted.size(), true)),
                                cancellation);
                thread.step(() -> feed.reload(false));
            }
        });
    }

    /// Measures how fast a volume is read.
    public CompletableFuture<Void> measureVolume(Whereabouts.OnVolume on) {
        return begin("Reading " + on.volume().name(), cancellation -> {
            show(new MeasureProgress("reading " + on.volume().name(), 0, 0, true));
            project.measurements().readSpeed(on.clips(), cancellation);
            thread.step(() -> feed.reload(false));
        });
    }

    /// Ends what is measured or tried now; what waits behind it goes on.
    public void stop() {
        begun.stream().findFirst().ifPresent(Job::stop);
    }

    private static String subject(List<Clip> clips) {
        return clips.size() == 1 ? clips.getFirst().name() : clips.size() + " clips";
    }

    interface Work {
        void run(Cancellation cancellation) throws InterruptedException;
    }

    void show(MeasureProgress now) {
        window.execute(() -> progress.set(now));
    }

    /// Begins work that uses the machine as a measurement does, in its turn. May be called on any thread.
    CompletableFuture<Void> begin(String what, Work work) {
        var end = new CompletableFuture<Void>();
        window.execute(() -> {
            Job job = jobs.begin(
                    queue,
                    what,
                    "",
                    (_, cancellation) -> {
                        try {
                            work.run(cancellation);
                        } finally {
                            show(MeasureProgress.NONE);
                        }
                        return cancellation.isCancelled() ? Optional.<Boolean>empty() : Optional.of(true);
                    },
                    _ -> {});
            begun.add(job);
            job.state().subscribe(state -> {
                if (state.isOver()) {
                    begun.remove(job);
                    end.complete(null);
                }
            });
        });
        return end;
    }

    boolean ended(Duration patience) throws InterruptedException {
        queue.shutdownNow();
        return queue.awaitTermination(patience.toSeconds(), TimeUnit.SECONDS);
    }
}
