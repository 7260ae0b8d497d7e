package docksort.desktop.workshop;

import docksort.arrival.Clip;
import docksort.catalogue.Root;
import docksort.desktop.work.Job;
import docksort.dispatch.Addressing;
import docksort.dispatch.Conform;
import docksort.dispatch.ConformedEvent;
import docksort.dispatch.CutList;
import docksort.dispatch.DepartureCheck;
import docksort.dispatch.DepartureCheck.Purpose;
import docksort.dispatch.DepartureReport;
import docksort.dispatch.Parcel;
import docksort.dispatch.PinnedUse;
import docksort.dispatch.Places;
import docksort.dispatch.PullList;
import docksort.dispatch.Switching;
import docksort.dispatch.TimelineComparison;
import docksort.media.Raster;
import docksort.problem.CoreException.InputRefused;
import docksort.problem.Problem;
import docksort.project.Departures;
import docksort.project.Project;
import docksort.stock.ServingOrder;
import docksort.stock.StockLine;
import docksort.timeline.TimelineDocument;
import docksort.timeline.TimelineEvent;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.Executor;
import java.util.function.Consumer;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;

/// The open timeline, and what the Dispatch station asks of the project and changes in it. Answers come
/// on the window's thread.
public final class DispatchDesk {
    private final Project project;
    private final ProjectThread thread;
    private final ViewFeed feed;
    private final Errands errands;
    private final UndoOrder undo;
    private final Executor window;
    private final ReadOnlyObjectWrapper<Optional<TimelineView>> timeline =
            new ReadOnlyObjectWrapper<>(Optional.empty());

    // Only touched on the steps thread; what is shown of them is immutable.
    private Optional<TimelineDocument> open = Optional.empty();
    private final Deque<TimelineDocument> before = new ArrayDeque<>();
    private final Deque<TimelineDocument> after = new ArrayDeque<>();
    private Optional<TimelineComparison> news = Optional.empty();
    private boolean unsaved;

    DispatchDesk(
            Project project, ProjectThread thread, ViewFeed feed, Errands errands, UndoOrder undo, Executor window) {
        this.project = project;
        this.thread = thread;
        this.feed = feed;
        this.errands = errands;
        this.undo = undo;
        this.window = window;
        feed.follow(shown -> show(shown.stock()));
    }

    public ReadOnlyObjectProperty<Optional<TimelineView>> timeline() {
        return timeline.getReadOnlyProperty();
    }

    // Opening and saving

    /// Whether the project remembers a timeline that is still there.
    public boolean hasTimeline() {
        return project.timelines().last().filter(Files::exists).isPresent();
    }

    public CompletableFuture<Void> open(Path file) {
        return thread.step(() -> {
            take(project.timelines().open(file));
            feed.reload(false);
        });
    }

    void openLast() throws InterruptedException {
        Optional<Path> last = project.timelines().last().filter(Files::exists);
        if (last.isPresent()) {
            take(project.timelines().open(last.get()));
            feed.reload(false);
        }
    }

    private void take(TimelineDocument document) {
        open = Optional.of(document);
        before.clear();
        after.clear();
        news = Optional.empty();
        unsaved = false;
        undo.projectChanged();
        project.timelines().useOf(conform(document), project.settings().handles());
    }

    private Conform conform(TimelineDocument document) {
        return project.timelines().conform(document, stock());
    }

    private List<StockLine> stock() {
        return project.stocktaking().lines(feed.all(), project.settings().servingOrder());
    }

    /// Whether another program has written the file, and nothing of ours would be lost by reading it
    /// again. The disk is asked on the caller's thread, not on that of the steps.
    boolean hasChangedOnDisk() throws InterruptedException {
        Optional<TimelineDocument> clean = thread.read(() -> open.filter(_ -> !unsaved));
        return clean.filter(DispatchDesk::isOutdated).isPresent();
    }

    private static boolean isOutdated(TimelineDocument document) {
        return Files.exists(document.file()) && document.version().isOutdated(document.file());
    }

    /// Reads the file again where it was changed, and keeps what is otherwise.
    CompletableFuture<Void> readAgain() {
        return errands.step(this::readChanged);
    }

    /// Called by the project's steps.
    void readChanged() {
        if (!unsaved && open.filter(DispatchDesk::isOutdated).isPresent()) {
            TimelineDocument old = open.orElseThrow();
            take(project.timelines().open(old.file()));
            Conform now = conform(open.orElseThrow());
            news = Optional.of(TimelineComparison.of(now.with(old).events(), now.events()));
        }
    }

    public CompletableFuture<Void> save(Path target) {
        return thread.step(() -> {
            if (open.isPresent()) {
                project.timelineFiles().saveAs(conform(open.get()), target);
                after.clear();
                before.clear(); // from here the file itself can be put back
                undo.projectChanged();
                unsaved = unsaved
                        && !target.toAbsolutePath()
                                .normalize()
                                .equals(open.get().file());
                feed.reload(false);
            }
        });
    }

    void setHandles(long frames) {
        open.ifPresent(document -> project.timelines().useOf(conform(document), frames));
    }

    void show(List<StockLine> stock) {
        Optional<TimelineView> now = open.map(document -> new TimelineView(
                document.name(),
                document.file(),
                document.rate(),
                document.raster(),
                project.settings().delivery(),
                project.timelines().conform(document, stock).events(),
                project.serving().pins(),
                unsaved,
                !before.isEmpty(),
                news,
                project.roots().places().workstations()));
        window.execute(() -> timeline.set(now));
    }

    // Serving

    /// Gives every event of the open timeline the file that serves it in an order.
    public CompletableFuture<Void> switchTo(ServingOrder order) {
        return thread.step(() -> {
            project.stocktaking().refresh();
            project.settings().setServingOrder(order);
            if (open.isPresent()) {
                turn(order);
            }
            feed.reload(false);
        });
    }

    /// The open document itself is never changed: those who look at it beside the steps keep looking at it.
    private void turn(ServingOrder order) {
        TimelineDocument now = open.orElseThrow();
        TimelineDocument next = now.copy();
        Switching.Outcome outcome = project.serving().switchTo(conform(next), order);
        if (outcome.changed() > 0) {
            before.push(now);
            after.clear();
            open = Optional.of(next);
            unsaved = true;
            undo.timelineSwitched();
        }
        project.log(outcome.changed() + (outcome.changed() == 1 ? " event of " : " events of ") + now.name()
                + " switched, " + order.label());
    }

    /// Pins clips, or uses of some of their frames, to an order; empty takes the pins away. The open
    /// timeline follows where it is on copies.
    public CompletableFuture<Void> pin(List<PinnedUse> uses, Optional<ServingOrder> order) {
        return errands.asSeen(seen -> project.serving().pin(uses, order, seen), () -> {
            ServingOrder now = project.settings().servingOrder();
            boolean onCopies = open.filter(
                            document -> conform(document).events().stream().anyMatch(ConformedEvent::isOnCopy))
                    .isPresent();
            if (onCopies && !now.kinds().isEmpty()) {
                turn(now);
            }
        });
    }

    /// Keeps that an event means a recording.
    public CompletableFuture<Void> say(TimelineEvent event, Clip clip) {
        return thread.step(() -> {
            project.timelines().say(event, clip);
            undo.projectChanged();
            open.ifPresent(document -> project.timelines()
                    .useOf(conform(document), project.settings().handles()));
            feed.reload(false);
        });
    }

    public CompletableFuture<Void> takeBackSwitch() {
        return thread.step(() -> {
            takeBackLast();
            feed.reload(false);
        });
    }

    /// Takes the last switch back, where nothing was done after it.
    ///
    /// @return whether there was one
    boolean takeBack() {
        if (!undo.isSwitch() || before.isEmpty()) {
            return false;
        }
        takeBackLast();
        return true;
    }

    private void takeBackLast() {
        if (before.isEmpty()) {
            return;
        }
        after.push(open.orElseThrow());
        open = Optional.of(before.pop());
        unsaved = true;
        undo.switchTakenBack(!before.isEmpty());
        project.log("Took back the switch of the timeline");
    }

    /// Does the switch again that was taken back last, where nothing was done after that.
    ///
    /// @return whether there was one
    boolean doAgain() {
        if (!undo.wasSwitch() || after.isEmpty()) {
            return false;
        }
        before.push(open.orElseThrow());
        open = Optional.of(after.pop());
        unsaved = true;
        undo.timelineSwitched();
        if (!after.isEmpty()) {
            undo.switchTakenBack(true);
        }
        project.log("Did the switch of the timeline again");
        return true;
    }

    Optional<String> whatIsDoneAgain() {
        return undo.wasSwitch() && !after.isEmpty() ? Optional.of("the switch of the timeline") : Optional.empty();
    }

    Optional<String> whatIsTakenBack() {
        return undo.isSwitch() && !before.isEmpty() ? Optional.of("the switch of the timeline") : Optional.empty();
    }

    // Leaving

    /// Checks the open timeline as it stands.
    ///
    /// @param sums whether every file is read whole for its checksum
    public Job check(Purpose purpose, boolean sums, Consumer<DepartureCheck> then) {
        return errands.begin(
                "Departure check",
                (project, heard, cancellation) -> {
                    project.stocktaking().refresh();
                    Conform conform = asItStands();
                    return project.departures().check(conform, purpose, sums, heard, cancellation::isCancelled);
                },
                then);
    }

    /// Lets the open timeline leave.
    ///
    /// @param workstation for whom it is written, empty for this one
    public void depart(
            DepartureCheck check,
            Path target,
            Optional<String> workstation,
            String signedBy,
            Optional<String> override,
            Consumer<DepartureReport> then) {
        errands.change(
                project -> {
                    Addressing addressing = workstation
                            .map(name -> Addressing.forWorkstation(
                                    project.roots().places(), name, Addressing.Manner.ABSOLUTE))
                            .orElse(Addressing.AS_IT_STANDS);
                    return project.departures()
                            .depart(
                                    open.orElseThrow(),
                                    check,
                                    new Departures.Departure(target, addressing, signedBy, override));
                },
                then);
    }

    public CompletableFuture<Void> deliver(Raster raster) {
        return thread.step(() -> {
            project.settings().deliver(raster);
            undo.projectChanged();
            feed.reload(false);
        });
    }

    // Pulling, comparing, listing

    public void pullList(PullList.What what, Consumer<PullList> then) {
        errands.ask("pull-list", project -> project.pulls().pullList(asItStands(), what), then);
    }

    public void writePullList(PullList list, Path target, Consumer<Path> then) {
        errands.change(
                project -> {
                    project.pulls().writePullList(list, target);
                    return target;
                },
                then);
    }

    public Job pack(PullList list, Path folder, Consumer<Parcel> then) {
        return errands.begin(
                "Packing " + Workshop.nameOf(folder),
                "MB",
                (heard, cancellation) -> project.pulls()
                        .pack(
                                asItStands(),
                                list,
                                folder,
                                (done, all) -> heard.accept(megabytes(done), megabytes(all)),
                                cancellation::isCancelled),
                then);
    }

    private static int megabytes(long bytes) {
        return Math.toIntExact(Math.min(Integer.MAX_VALUE, bytes / 1_000_000));
    }

    public Job compare(Path older, Consumer<TimelineComparison> then) {
        return errands.begin(
                "Comparing with " + Workshop.nameOf(older),
                (project, _, _) -> project.timelines().compare(older, asItStands()),
                then);
    }

    public void tracks(Consumer<List<String>> then) {
        errands.ask("tracks", _ -> CutList.tracks(asItStands()), then);
    }

    /// @param then gets what the list could not hold
    public void writeEditList(String track, Path target, Consumer<List<String>> then) {
        errands.change(
                project -> project.timelineFiles().writeEditList(conform(open.orElseThrow()), track, target), then);
    }

    // Workstations

    public void places(Consumer<Places> then) {
        errands.ask("places", project -> project.roots().places(), then);
    }

    /// Says where a workstation sees a root; an empty path takes that back.
    public void placeElsewhere(Root root, String workstation, String path, Consumer<Places> then) {
        errands.change(
                project -> {
                    project.roots().placeElsewhere(root, workstation, path);
                    return project.roots().places();
                },
                then);
    }

    /// The open timeline as it stands now, for those that work beside the steps, which may put another in
    /// its place.
    private Conform asItStands() throws InterruptedException {
        TimelineDocument document = thread.read(() -> open)
                .orElseThrow(() -> new InputRefused(new Problem(
                        "No timeline is open", "", "Nothing was done.", "Open one in Dispatch, then try again.")));
        return project.timelines().conform(document, project.stocktaking().lines());
    }
}
