package docksort.desktop.workshop;

import docksort.arrival.Arrival;
import docksort.arrival.ArrivalId;
import docksort.problem.Causes;
import docksort.problem.Problem;
import docksort.project.Project;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Duration;
import java.time.InstantSource;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.TimeUnit;

/// Looks every few seconds at what other programs wrote: the open timeline, and folders that are watched.
/// The next look waits for the end of this one; a volume that does not answer keeps nothing else waiting.
final class NewsWatch {
    private static final int SECONDS = 4;
    private static final Duration SETTLED_AFTER = Duration.ofSeconds(6);

    private final ScheduledExecutorService watching = Executors.newSingleThreadScheduledExecutor(
            Thread.ofPlatform().daemon().name("watching").factory());
    private final Project project;
    private final ProjectThread thread;
    private final Troubles troubles;
    private final SharedWatch shared;
    private final RunDesk runs;
    private final Editing editing;
    private final boolean isShared;
    private final boolean mayChange;
    private final DispatchDesk dispatch;
    private final ArrivalsDesk arrivals;
    private final Set<Path> away = new HashSet<>(); // only touched by the look

    NewsWatch(
            Project project,
            ProjectThread thread,
            Troubles troubles,
            SharedWatch shared,
            RunDesk runs,
            Editing editing,
            DispatchDesk dispatch,
            ArrivalsDesk arrivals) {
        this.shared = shared;
        this.runs = runs;
        this.editing = editing;
        this.isShared = project.sharing().address().isPresent();
        this.mayChange = project.mayChange();
        this.project = project;
        this.thread = thread;
        this.troubles = troubles;
        this.dispatch = dispatch;
        this.arrivals = arrivals;
    }

    void begin() {
        watching.scheduleWithFixedDelay(this::look, SECONDS, SECONDS, TimeUnit.SECONDS);
    }

    private void look() {
        if (thread.isClosing() || shared.isAway()) {
            return;
        }
        try {
            if (dispatch.hasChangedOnDisk()) {
                dispatch.readAgain().get();
            }
            if (isShared) {
                runs.lookAtMachines();
                editing.look();
            }
            if (mayChange) {
                lookForNewFiles();
                lookForNewFolders();
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        } catch (ExecutionException | RuntimeException e) {
            if (!thread.isClosing() && !shared.isAway()) {
                troubles.tell(e);
            }
        }
    }

    private void lookForNewFiles() throws InterruptedException, ExecutionException {
        Set<ArrivalId> watched = project.arrivals().watched();
        for (Arrival arrival : project.arrivals().all()) {
            Set<Path> settled = watched.contains(arrival.id())
                    ? project.watchedPlaces()
                            .late(arrival, SETTLED_AFTER, InstantSource.system().instant())
                    : Set.of();
            if (!settled.isEmpty()) {
                arrivals.lookAgain(arrival, Optional.of(settled)).get();
            }
        }
    }

    private void lookForNewFolders() throws InterruptedException, ExecutionException {
        for (Path place : project.watchedPlaces().watched()) {
            try {
                List<Path> settled = project.watchedPlaces()
                        .settled(place, SETTLED_AFTER, InstantSource.system().instant());
                settled.forEach(project.watchedPlaces()::taken);
                away.remove(place);
                if (!settled.isEmpty()) {
                    arrivals.add(settled).get();
                    for (Arrival arrival : project.watchedPlaces().of(place)) {
                        if (settled.contains(arrival.folder())) {
                            arrivals.watch(arrival, true).get(); // what comes late comes in, too
                        }
                    }
                }
            } catch (IOException e) {
                if (away.add(place)) {
                    troubles.show(new Problem(
                            place + " cannot be watched now",
                            Causes.inWords(e),
                            "What came in is as it was.",
                            "Bring its volume back, and it is watched again; or stop watching it."));
                }
            }
        }
    }

    void stop() {
        watching.shutdownNow();
    }
}
