package docksort.desktop.workshop;

import docksort.arrival.Clip;
import docksort.arrival.ClipId;
import docksort.arrival.ClipNames;
import docksort.arrival.Whereabouts;
import docksort.catalogue.Activity;
import docksort.files.Room;
import docksort.project.Project;
import java.time.Duration;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.Executor;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.function.Consumer;
import java.util.function.Supplier;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;

/// What is shown of the project: one immutable view after the other, the next one when all have taken the
/// last.
public final class ViewFeed implements Views {
    private static final int NEWS_MILLIS = 150;
    private static final int HAND_OVER_SECONDS = 20;
    private static final int LATEST_DEEDS = 20;

    private final Project project;
    private final ProjectThread thread;
    private final Executor window;
    private final Incoming incoming;
    private final Supplier<ProjectView.Turns> turns;
    private final ReadOnlyObjectWrapper<Optional<ProjectView>> view = new ReadOnlyObjectWrapper<>(Optional.empty());
    private final List<Consumer<ProjectView>> takers = new CopyOnWriteArrayList<>();
    private final List<Consumer<ProjectView>> followers = new CopyOnWriteArrayList<>();
    private final AtomicBoolean reloadIsDue = new AtomicBoolean();
    private volatile long reloadMillis; // what the last one took
    private final AtomicBoolean othersAreDue = new AtomicBoolean();
    private volatile long othersMillis;
    private volatile long othersEnd = System.nanoTime();

    // Only touched by the project's steps.
    private List<Clip> all = List.of();
    private List<Clip> clips = List.of();
    private Whereabouts whereabouts = Whereabouts.NONE;
    private ClipNames names = ClipNames.NONE;

    /// @param turns what undo and redo would turn
    ViewFeed(
            Project project,
            ProjectThread thread,
            Executor window,
            Incoming incoming,
            Supplier<ProjectView.Turns> turns) {
        this.project = project;
        this.thread = thread;
        this.window = window;
        this.incoming = incoming;
        this.turns = turns;
    }

    @Override
    public ReadOnlyObjectProperty<Optional<ProjectView>> view() {
        return view.getReadOnlyProperty();
    }

    @Override
    public void each(Consumer<ProjectView> taker) {
        takers.add(taker);
        view.get().ifPresent(taker);
    }

    /// Hands every new view over on the project's thread, after the window has it.
    void follow(Consumer<ProjectView> follower) {
        followers.add(follower);
    }

    /// All clips, those that were put aside too.
    List<Clip> all() {
        return all;
    }

    /// The project's clips that are not put aside, as the last view has them. Called by the project's
    /// steps.
    List<Clip> clips() {
        return clips;
    }

    /// Reads the project anew and shows it. Called by the project's steps.
    void reload(boolean clipsToo) throws InterruptedException {
        if (clipsToo) {
            all = project.clips();
            clips = project.puttingAside().others(all);
            whereabouts = Whereabouts.of(clips);
            names = ClipNames.of(all, project.arrivals().all());
        }
        ProjectView shown = read();
        Set<ClipId> known = clipsToo ? Incoming.ids(clips) : Set.of();
        window.execute(() -> {
            incoming.leave(known);
            view.set(Optional.of(shown));
        });
        handOver(shown);
        followers.forEach(follower -> follower.accept(shown));
    }

    private ProjectView read() {
        List<Activity> deeds = project.activity(LATEST_DEEDS); // first: what comes now may not be in the rest
        return new ProjectView(
                project.settings().name(),
                project.settings().timelineFormat(),
                project.arrivals().all(),
                clips,
                project.arrivals().unreadable(),
                aside(),
                project.arrivals().asides().values().stream()
                        .mapToInt(Integer::intValue)
                        .sum(),
                project.book().now(),
                Room.of(project.roots().copies().path()),
                project.settings().handles(),
                project.plans().loadSheet(clips),
                project.stocktaking().lines(clips, project.settings().servingOrder()),
                project.settings().servingOrder(),
                project.clearing().limits(),
                project.roots().all(),
                deeds,
                turns.get(),
                new Insight(
                        project.measurements().all(),
                        project.sounds().all(),
                        project.measurements().levers(),
                        whereabouts,
                        project.arrivals().missingCompanions(clips),
                        project.arrivals().watched(),
                        project.watchedPlaces().watched(),
                        names));
    }

    private ProjectView.Aside aside() {
        Set<ClipId> aside = project.puttingAside().clips();
        return new ProjectView.Aside(
                all.stream().filter(clip -> aside.contains(clip.id())).toList(),
                project.puttingAside().unreadable());
    }

    /// While many copies come to their end, the rest of the window follows once a second, or so much less
    /// often that following takes no more than a sixth of a processor.
    void reloadSoon() {
        if (!reloadIsDue.getAndSet(true)) {
            thread.stepIn(Duration.ofMillis(Math.clamp(5 * reloadMillis, 1_000, 15_000)), () -> {
                reloadIsDue.set(false);
                long begin = System.nanoTime();
                reload(false);
                reloadMillis = TimeUnit.NANOSECONDS.toMillis(System.nanoTime() - begin);
            });
        }
    }

    /// Another program changed the project: shown at once, and while that goes on no more often than while
    /// copies come to their end.
    void reloadForOthers() {
        if (!othersAreDue.getAndSet(true)) {
            long sinceLast = TimeUnit.NANOSECONDS.toMillis(System.nanoTime() - othersEnd);
            long pause = Math.clamp(5 * othersMillis - sinceLast, 0, 15_000);
            thread.stepIn(Duration.ofMillis(pause), () -> {
                othersAreDue.set(false);
                long begin = System.nanoTime();
                reload(true);
                othersEnd = System.nanoTime();
                othersMillis = TimeUnit.NANOSECONDS.toMillis(othersEnd - begin);
            });
        }
    }

    /// Takes until all have the view.
    private void handOver(ProjectView shown) throws InterruptedException {
        var done = new CountDownLatch(1);
        // Counted on the window's thread: who comes before has a place, who comes after finds the view.
        window.execute(() -> handOverNext(shown, new ArrayDeque<>(takers), done));
        // A window that was closed takes nothing more.
        long end = System.nanoTime() + TimeUnit.SECONDS.toNanos(HAND_OVER_SECONDS);
        boolean taken = false;
        while (!taken && !thread.isClosing() && System.nanoTime() < end) {
            taken = done.await(NEWS_MILLIS, TimeUnit.MILLISECONDS);
        }
        if (!taken && !thread.isClosing()) {
            System.getLogger(ViewFeed.class.getName())
                    .log(System.Logger.Level.WARNING, "the window did not take a view in time");
        }
    }

    private void handOverNext(ProjectView shown, Deque<Consumer<ProjectView>> left, CountDownLatch done) {
        Consumer<ProjectView> next = left.poll();
        if (next == null) {
            done.countDown();
            return;
        }
        try {
            next.accept(shown);
        } finally {
            window.execute(() -> handOverNext(shown, left, done));
        }
    }
}
