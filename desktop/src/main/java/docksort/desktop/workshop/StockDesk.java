package docksort.desktop.workshop;

import docksort.arrival.Arrival;
import docksort.arrival.Clip;
import docksort.catalogue.Root;
import docksort.catalogue.WorkingCopy;
import docksort.desktop.work.Job;
import docksort.dispatch.AscMhl;
import docksort.dispatch.ChecksumCheck;
import docksort.files.CopyRemoval;
import docksort.files.Trash;
import docksort.link.Adoption;
import docksort.link.CopyNames;
import docksort.link.MediaSearch;
import docksort.link.NamePattern;
import docksort.link.OriginalName;
import docksort.link.Relink;
import docksort.project.Checksums;
import docksort.project.Clearing;
import docksort.project.Project;
import docksort.stock.CleanUp;
import docksort.stock.CopySelection;
import docksort.stock.Limits;
import docksort.stock.Reread;
import docksort.stock.ServingOrder;
import docksort.stock.StockLine;
import docksort.stock.StockWatch;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.Executor;
import java.util.function.BooleanSupplier;
import java.util.function.Consumer;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;

/// What is asked of originals and copies and changed in them. Answers come on the window's thread.
public final class StockDesk {
    private final Project project;
    private final ProjectThread thread;
    private final ViewFeed feed;
    private final Errands errands;
    private final Executor window;
    private final BooleanSupplier isRunning;
    private final StockWatch watch = new StockWatch(this::changedOnDisk);
    private final ReadOnlyObjectWrapper<Optional<Relink>> relink = new ReadOnlyObjectWrapper<>(Optional.empty());

    /// @param isRunning whether a run writes where copies lie, which says itself what became of them
    StockDesk(
            Project project,
            ProjectThread thread,
            ViewFeed feed,
            Errands errands,
            Executor window,
            BooleanSupplier isRunning) {
        this.project = project;
        this.thread = thread;
        this.feed = feed;
        this.errands = errands;
        this.window = window;
        this.isRunning = isRunning;
        feed.follow(shown -> watch.folders(foldersOf(shown.stock())));
    }

    private static Set<Path> foldersOf(List<StockLine> stock) {
        Set<Path> folders = new HashSet<>();
        for (StockLine line : stock) {
            Optional.ofNullable(line.clip().source().head().getParent()).ifPresent(folders::add);
            line.copies()
                    .forEach(
                            copy -> Optional.ofNullable(copy.file().getParent()).ifPresent(folders::add));
        }
        return folders;
    }

    private void changedOnDisk() {
        if (!isRunning.getAsBoolean()) {
            thread.step(() -> {
                if (project.stocktaking().refresh() > 0) {
                    feed.reload(false);
                }
            });
        }
    }

    public CompletableFuture<Void> refresh() {
        return errands.step(project.stocktaking()::refresh);
    }

    public CompletableFuture<Void> serve(ServingOrder order) {
        return errands.step(() -> project.settings().setServingOrder(order));
    }

    /// Of several light copies of a clip the largest with so many lines serves; 0 for the largest of all.
    public CompletableFuture<Void> serveLightUpTo(int lines) {
        return errands.change(() -> project.settings().serveLightUpTo(lines));
    }

    /// What pointing a root at another folder would do, until it is carried out or dropped.
    public ReadOnlyObjectProperty<Optional<Relink>> relinkPreview() {
        return relink.getReadOnlyProperty();
    }

    public CompletableFuture<Void> previewRelink(Root root, Path path) {
        return thread.step(() -> {
            Optional<Relink> preview = Optional.of(project.relinking().preview(root, path));
            window.execute(() -> relink.set(preview));
        });
    }

    public void dropRelink() {
        relink.set(Optional.empty());
    }

    public void carryOut(Relink wanted) {
        errands.change(
                asked -> {
                    asked.relinking().carryOut(wanted);
                    return wanted;
                },
                _ -> dropRelink());
    }

    public Job look(Path folder, List<NamePattern> patterns, Consumer<Adoption> then) {
        return errands.begin(
                "Looking for copies in " + Workshop.nameOf(folder),
                (project, heard, cancellation) -> project.adoptions().look(folder, patterns, heard, cancellation),
                then);
    }

    /// What speaks for and against a file of which somebody says that it is a copy of a clip.
    public Job lookAt(Path file, Clip clip, Consumer<Adoption.Pair> then) {
        return errands.begin(
                "Looking at " + Workshop.nameOf(file),
                (project, _, cancellation) -> project.adoptions().look(file, clip, cancellation),
                then);
    }

    public void adopt(Path folder, List<Adoption.Pair> pairs, Consumer<Integer> then) {
        errands.change(project -> project.adoptions().adopt(folder, pairs), then);
    }

    /// @param twins whether the same recordings as those in use are looked for, instead of missing ones
    public Job search(Path folder, boolean twins, Consumer<List<MediaSearch.Result>> then) {
        return errands.begin(
                "Searching " + Workshop.nameOf(folder),
                (project, heard, cancellation) -> {
                    project.stocktaking().refresh();
                    return twins
                            ? project.relinking().twins(folder, project.clips(), heard, cancellation)
                            : project.relinking().search(folder, heard, cancellation);
                },
                then);
    }

    /// What follows when a person points at the file of a clip.
    public void follow(String clip, Path place, Consumer<List<MediaSearch.Result>> then) {
        errands.ask("follow", project -> project.relinking().follow(clip, place), then);
    }

    /// @param byHeader whether those are taken, too, whose content cannot be read
    public void relink(Path folder, List<MediaSearch.Result> results, boolean byHeader, Consumer<Integer> then) {
        errands.change(project -> project.relinking().relink(folder, results, byHeader), then);
    }

    /// @param onCards whether copies that lie in arrivals get names there, too
    public void names(String pattern, List<WorkingCopy> copies, boolean onCards, Consumer<CopyNames> then) {
        errands.ask("names", project -> project.renaming().names(pattern, copies, onCards), then);
    }

    public void rename(CopyNames names, Consumer<Integer> then) {
        errands.change(project -> project.renaming().rename(names), then);
    }

    public void rename(OriginalName name) {
        errands.change(
                project -> {
                    project.renaming().rename(name);
                    return name;
                },
                _ -> {});
    }

    public void cleanUp(CopySelection selection, Consumer<CleanUp> then) {
        errands.ask(
                "clean-up",
                project -> project.clearing()
                        .cleanUp(selection.from(project.stocktaking().lines(), Instant.now())),
                then);
    }

    /// What a clean-up of all that is past the project's limits would do.
    public void cleanUpPast(Consumer<CleanUp> then) {
        errands.ask(
                "clean-up",
                project -> {
                    Clearing clearing = project.clearing();
                    return clearing.cleanUp(
                            clearing.limits().past(project.stocktaking().lines(), Instant.now()));
                },
                then);
    }

    public void limit(Limits limits, Consumer<Limits> then) {
        errands.change(
                project -> {
                    project.clearing().limit(limits);
                    return limits;
                },
                then);
    }

    /// @param trash empty to delete for good
    public void delete(CleanUp plan, Optional<Trash> trash, Consumer<CopyRemoval.Outcome> then) {
        errands.change(project -> project.clearing().carryOut(plan, trash), then);
    }

    public void forget(List<WorkingCopy> copies, Consumer<Integer> then) {
        errands.change(
                project -> {
                    project.clearing().forget(copies);
                    return copies.size();
                },
                then);
    }

    public void stopUsing(List<WorkingCopy> copies, boolean stopped, Consumer<Integer> then) {
        errands.change(
                project -> {
                    project.clearing().stopUsing(copies, stopped);
                    return copies.size();
                },
                then);
    }

    public Job verify(Path list, Consumer<ChecksumCheck> then) {
        return errands.begin(
                "Verifying " + Workshop.nameOf(list),
                (_, heard, cancellation) -> Checksums.verify(list, heard, cancellation),
                then);
    }

    public Job writeChecksums(Arrival arrival, Consumer<AscMhl.Generation> then) {
        return errands.begin(
                "Checksums of " + arrival.name(),
                "",
                (_, cancellation) -> project.checksums().write(arrival, cancellation),
                then);
    }

    /// Copies of which not all bytes were read for so long.
    public void notReadFor(Duration time, Consumer<List<WorkingCopy>> then) {
        errands.ask("not-read", project -> project.rereading().due(time), then);
    }

    /// Reads copies whole again. What was read when it is stopped is kept.
    ///
    /// @param mostMegabytes a second, 0 for as fast as it goes
    public Job readAgain(List<WorkingCopy> copies, int mostMegabytes, Consumer<Reread> then) {
        return errands.begin(
                "Reading " + copies.size() + (copies.size() == 1 ? " copy" : " copies") + " again",
                "MB",
                (heard, cancellation) ->
                        Optional.of(project.rereading().read(copies, mostMegabytes, heard, cancellation)),
                read -> {
                    errands.step(() -> {}); // what is damaged serves no more
                    then.accept(read);
                });
    }

    /// Writes clips and their copies as CSV or HTML, by the file's ending.
    public void writeTable(Path file) {
        errands.change(
                project -> {
                    project.stocktaking().writeCoverage(project.stocktaking().lines(), file);
                    return file;
                },
                _ -> {});
    }

    void close() {
        watch.close();
    }
}
