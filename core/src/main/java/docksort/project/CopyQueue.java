package docksort.project;

import docksort.arrival.ClipId;
import docksort.catalogue.Catalogue;
import docksort.catalogue.CopyState;
import docksort.catalogue.WorkingCopy;
import docksort.problem.CoreException.StorageFailed;
import docksort.problem.Problem;
import docksort.sort.LoadSheet;
import docksort.sort.PlannedCopy;
import docksort.sort.Planning;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Predicate;

/// Copies that wait to be made.
public final class CopyQueue {
    private final Catalogue catalogue;
    private final Plans plans;
    private final Roots roots;

    CopyQueue(Catalogue catalogue, Plans plans, Roots roots) {
        this.catalogue = catalogue;
        this.plans = plans;
        this.roots = roots;
    }

    /// Puts what a load sheet wants into the queue.
    ///
    /// @return how many copies were put in
    /// @throws StorageFailed when they cannot fit
    public int enqueue(LoadSheet sheet) {
        List<PlannedCopy> wanted = sheet.wanted();
        sheet.fullest().filter(load -> !load.fits()).ifPresent(load -> {
            throw new StorageFailed(new Problem(
                    "The run was not started",
                    load.missing() + " are missing on " + load.room().volume() + ": "
                            + load.bytes().most() + " are needed at most, "
                            + load.room().free() + " are free",
                    "Nothing was made.",
                    sheet.thatFit(plans.planning()).wanted().size() + " of " + wanted.size()
                            + " copies would fit; free room, choose a smaller recipe or fewer clips."));
        });
        if (!wanted.isEmpty()) {
            catalogue.copies().enqueue(newCopies(wanted), wanted.size() + " copies put into the queue");
        }
        return wanted.size();
    }

    /// Puts what the rules want of clips that just came in into the queue.
    ///
    /// @return how many copies were put in
    /// @throws StorageFailed when they cannot fit
    public int enqueueArrived(Set<ClipId> arrived) {
        Planning now = plans.planning();
        return enqueue(LoadSheet.plan(catalogue.clips().all(), now).only(arrived, now));
    }

    private List<WorkingCopy> newCopies(List<PlannedCopy> wanted) {
        var places = new FreePlaces(catalogue.arrivals().all(), roots.all(), roots.copies());
        Map<String, WorkingCopy> known = new HashMap<>();
        for (WorkingCopy copy : catalogue.copies().all()) {
            known.put(copy.id(), copy);
            places.take(copy.file(), copy.clip());
        }
        places.expect(wanted);
        var made = new ArrayList<WorkingCopy>();
        for (PlannedCopy plan : wanted) {
            String stretch = plan.range().map(range -> "-" + range).orElse("");
            String id = plan.clip().id().value() + "-" + plan.recipe().id() + stretch;
            WorkingCopy old = known.get(id);
            Path file = old != null ? old.file() : places.free(plan);
            places.take(file, plan.clip().id());
            made.add(new WorkingCopy(
                    id,
                    plan.clip().id(),
                    plan.recipe().kind(),
                    plan.recipe().id(),
                    old != null ? old.rootId() : places.root(plan).id(),
                    file,
                    CopyState.WAITING,
                    "",
                    plan.clip().fingerprint(),
                    plan.range(),
                    WorkingCopy.Place.NOT_YET,
                    WorkingCopy.Service.USUAL,
                    0));
        }
        return made;
    }

    /// Whether copies wait in the queue, for instance since a run was interrupted.
    public int size() {
        return (int) catalogue.copies().all().stream()
                .filter(copy -> copy.state().isQueued())
                .count();
    }

    /// Puts failed copies back into the queue.
    public int retryFailed() {
        return retry(copy -> copy.state() == CopyState.FAILED);
    }

    /// Puts copies that failed or were left out back into the queue.
    public int retry(List<String> copyIds) {
        Set<String> wanted = Set.copyOf(copyIds);
        return retry(copy ->
                wanted.contains(copy.id()) && (copy.state() == CopyState.FAILED || copy.state() == CopyState.WANTED));
    }

    private int retry(Predicate<WorkingCopy> which) {
        Set<ClipId> aside = catalogue.aside().clips();
        List<WorkingCopy> failed = catalogue.copies().all().stream()
                .filter(copy -> !aside.contains(copy.clip()))
                .filter(which)
                .map(copy -> copy.withState(CopyState.WAITING, ""))
                .toList();
        if (!failed.isEmpty()) {
            catalogue.copies().enqueue(failed, failed.size() + " copies put back into the queue");
        }
        return failed.size();
    }

    /// Brings copies of the queue into another order while no run does it.
    ///
    /// @param first whether they come first or last
    public void move(List<String> copyIds, boolean first) {
        List<String> order = catalogue.copies().all().stream()
                .filter(copy -> copy.state().isQueued())
                .map(WorkingCopy::id)
                .toList();
        Set<String> wanted = Set.copyOf(copyIds);
        var next = new ArrayList<String>();
        order.stream().filter(id -> wanted.contains(id) == first).forEach(next::add);
        order.stream().filter(id -> wanted.contains(id) != first).forEach(next::add);
        catalogue.copies().reorder(next);
    }

    /// Takes copies out of the queue that wait while no run goes on here. Those that somebody makes stay.
    public void takeOut(List<String> copyIds) {
        catalogue
                .copies()
                .forget(catalogue.copies().of(copyIds).stream()
                        .filter(copy -> copy.state() == CopyState.WAITING)
                        .toList());
    }

    /// Puts back what an interrupted run was making.
    void resetInterrupted() {
        Set<String> others = catalogue.claims().others();
        List<WorkingCopy> interrupted = catalogue.copies().all().stream()
                .filter(copy -> copy.state() == CopyState.MAKING || copy.state() == CopyState.CHECKING)
                .filter(copy -> !others.contains(copy.id()))
                .map(copy -> copy.withState(CopyState.WAITING, "interrupted, starts again"))
                .toList();
        if (!interrupted.isEmpty()) {
            catalogue.claims().update(interrupted);
        }
    }
}
