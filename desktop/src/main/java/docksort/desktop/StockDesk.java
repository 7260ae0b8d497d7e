package docksort.desktop;

import docksort.arrival.Arrival;
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
import docksort.project.StockRoom;
import docksort.stock.CleanUp;
import docksort.stock.CopySelection;
import docksort.stock.Limits;
import java.nio.file.Path;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;

/// What the Stock station asks of the project and changes in it, for the workshop. Answers come on the
/// interface thread.
public final class StockDesk {
    private final Workshop workshop;

    StockDesk(Workshop workshop) {
        this.workshop = workshop;
    }

    public Job look(Path folder, List<NamePattern> patterns, Consumer<Adoption> then) {
        return workshop.begin(
                "Looking for copies in " + Workshop.nameOf(folder),
                (project, heard, cancellation) -> project.stockRoom().look(folder, patterns, heard, cancellation),
                then);
    }

    public void adopt(Path folder, List<Adoption.Pair> pairs, Consumer<Integer> then) {
        workshop.change(project -> project.stockRoom().adopt(folder, pairs), then);
    }

    /// @param twins whether the same recordings as those in use are looked for, instead of missing ones
    public Job search(Path folder, boolean twins, Consumer<List<MediaSearch.Result>> then) {
        return workshop.begin(
                "Searching " + Workshop.nameOf(folder),
                (project, heard, cancellation) -> {
                    project.refreshStock();
                    return twins
                            ? project.stockRoom().twins(folder, project.clips(), heard, cancellation)
                            : project.stockRoom().search(folder, heard, cancellation);
                },
                then);
    }

    /// What follows when a person points at the file of a clip.
    public void follow(String clip, Path place, Consumer<List<MediaSearch.Result>> then) {
        workshop.ask("follow", project -> project.stockRoom().follow(clip, place), then);
    }

    /// @param byHeader whether those are taken, too, whose content cannot be read
    public void relink(Path folder, List<MediaSearch.Result> results, boolean byHeader, Consumer<Integer> then) {
        workshop.change(project -> project.stockRoom().relink(folder, results, byHeader), then);
    }

    public void names(String pattern, List<WorkingCopy> copies, Consumer<CopyNames> then) {
        workshop.ask("names", project -> project.stockRoom().names(pattern, copies), then);
    }

    public void rename(CopyNames names, Consumer<Integer> then) {
        workshop.change(project -> project.stockRoom().rename(names), then);
    }

    public void rename(OriginalName name) {
        workshop.change(
                project -> {
                    project.stockRoom().rename(name);
                    return name;
                },
                _ -> {});
    }

    public void cleanUp(CopySelection selection, Consumer<CleanUp> then) {
        workshop.ask(
                "clean-up",
                project -> project.stockRoom().cleanUp(selection.from(project.stock(), Instant.now())),
                then);
    }

    /// What a clean-up of all that is past the project's limits would do.
    public void cleanUpPast(Consumer<CleanUp> then) {
        workshop.ask(
                "clean-up",
                project -> {
                    StockRoom room = project.stockRoom();
                    return room.cleanUp(room.limits().past(project.stock(), Instant.now()));
                },
                then);
    }

    public void limit(Limits limits, Consumer<Limits> then) {
        workshop.change(
                project -> {
                    project.stockRoom().limit(limits);
                    return limits;
                },
                then);
    }

    /// @param trash empty to delete for good
    public void delete(CleanUp plan, Optional<Trash> trash, Consumer<CopyRemoval.Outcome> then) {
        workshop.change(project -> project.stockRoom().carryOut(plan, trash), then);
    }

    public void forget(List<WorkingCopy> copies, Consumer<Integer> then) {
        workshop.change(
                project -> {
                    project.stockRoom().forget(copies);
                    return copies.size();
                },
                then);
    }

    public void stopUsing(List<WorkingCopy> copies, boolean stopped, Consumer<Integer> then) {
        workshop.change(
                project -> {
                    project.stockRoom().stopUsing(copies, stopped);
                    return copies.size();
                },
                then);
    }

    public Job verify(Path list, Consumer<ChecksumCheck> then) {
        return workshop.begin(
                "Verifying " + Workshop.nameOf(list),
                (_, heard, cancellation) -> StockRoom.verify(list, heard, cancellation),
                then);
    }

    public Job writeChecksums(Arrival arrival, Consumer<AscMhl.Generation> then) {
        return workshop.jobs()
                .begin(
                        "Checksums of " + arrival.name(),
                        "",
                        (_, cancellation) -> workshop.project().stockRoom().writeChecksums(arrival, cancellation),
                        then);
    }

    /// Writes clips and their copies as CSV or HTML, by the file's ending.
    public void writeTable(Path file) {
        workshop.change(
                project -> {
                    project.stockRoom().writeCoverage(project.stock(), file);
                    return file;
                },
                _ -> {});
    }
}
