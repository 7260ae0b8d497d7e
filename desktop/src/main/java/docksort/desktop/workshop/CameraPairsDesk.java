package docksort.desktop.workshop;

import docksort.arrival.Arrival;
import docksort.arrival.Clip;
import docksort.arrival.PairSearch;
import docksort.catalogue.WorkingCopy;
import docksort.desktop.work.Job;
import docksort.project.Project;
import docksort.stock.CameraPairs;
import docksort.stock.Filling;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;

/// Small files that cameras wrote beside their originals: which is whose, by proof or by a person's word.
public final class CameraPairsDesk {
    private final Project project;
    private final Errands errands;

    CameraPairsDesk(Project project, Errands errands) {
        this.project = project;
        this.errands = errands;
    }

    public void of(Arrival arrival, Consumer<CameraPairs> then) {
        errands.ask("pairs", asked -> asked.pairing().of(arrival), then);
    }

    /// What copies could be planned for recordings of which the camera wrote no small file.
    public void filling(Arrival arrival, Consumer<Optional<Filling>> then) {
        errands.ask("filling", asked -> asked.pairFilling().of(arrival), then);
    }

    public void fill(Filling filling, Runnable then) {
        errands.step(() -> project.pairFilling().choose(filling)).thenRun(then);
    }

    /// Looks for small files that are listed as footage; pictures may have to be compared.
    public Job listedAsFootage(Arrival arrival, Consumer<List<PairSearch.Pair>> then) {
        return errands.begin(
                "Looking for small files of " + arrival.name(),
                (asked, _, cancellation) -> asked.pairing().listedAsFootage(arrival, cancellation),
                then);
    }

    public void areCopies(List<PairSearch.Pair> pairs, Consumer<Integer> then) {
        errands.change(changed -> changed.pairing().areCopies(pairs), then);
    }

    public void isCopyOf(Clip small, Clip original, Consumer<Clip> then) {
        errands.change(
                changed -> {
                    changed.pairing().isCopyOf(small, original);
                    return small;
                },
                then);
    }

    /// @param then is run when the window shows it
    public void isFootage(WorkingCopy copy, Runnable then) {
        errands.changeClips(() -> project.pairing().isFootage(copy)).thenRun(then);
    }
}
