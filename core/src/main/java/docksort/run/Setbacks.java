package docksort.run;

import docksort.catalogue.CopyState;
import docksort.catalogue.WorkingCopy;
import docksort.problem.Problem;
import docksort.run.CopyCheck.Finding;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;

/// What becomes of a copy that cannot be made now: it waits for what is away, or has failed.
final class Setbacks {
    /// How often a copy is made again of which, or of whose original, something was away for a moment.
    private static final int AGAIN = 3;

    private final RunHost host;
    private final Terms terms;
    private final Map<String, Integer> again = new ConcurrentHashMap<>();

    Setbacks(RunHost host, Terms terms) {
        this.host = host;
        this.terms = terms;
    }

    /// Whether something is in the way of a job: then it waits, or has failed.
    boolean isInTheWay(Job job, MakingListener listener) {
        Optional<Obstacle> obstacle = obstacle(job, false);
        obstacle.ifPresent(found -> {
            if (waits()) {
                listener.obstructed(job.copy(), found);
            } else {
                fail(job, found.problem(job.copy(), terms.patience()), List.of(), listener, Spent.NOTHING, 0);
            }
        });
        return obstacle.isPresent();
    }

    /// A copy that was not begun.
    void failOrWait(Job job, Problem problem, MakingListener listener) {
        failOrWait(job, false, problem, List.of(), false, listener, Spent.NOTHING, 0);
    }

    void failOrWait(Begun begun, Problem problem, boolean full, MakingListener listener, Spent spent) {
        failOrWait(begun, problem, List.of(), full, listener, spent, 0);
    }

    void failOrWait(
            Begun begun,
            Problem problem,
            List<Finding> findings,
            boolean full,
            MakingListener listener,
            Spent spent,
            double checking) {
        boolean swept = !Files.exists(begun.partial().working());
        failOrWait(begun.job(), swept, problem, findings, full, listener, spent, checking);
    }

    /// A copy that lacks its volume has not failed.
    ///
    /// @param swept whether its file in the making was taken away, as another workstation does that takes this
    ///     one for stopped
    private void failOrWait(
            Job job,
            boolean swept,
            Problem problem,
            List<Finding> findings,
            boolean full,
            MakingListener listener,
            Spent spent,
            double checking) {
        Optional<Obstacle> obstacle = waits() ? obstacle(job, full) : Optional.empty();
        if (obstacle.isPresent()) {
            listener.obstructed(job.copy(), obstacle.get());
            return;
        }
        if (swept && isMadeAgain(job)) {
            listener.obstructed(job.copy(), new Obstacle.Swept());
            return;
        }
        // Its volume was away while it was checked, and is back.
        if (PictureCheck.sawNoOriginal(findings) && isMadeAgain(job)) {
            listener.obstructed(job.copy(), new Obstacle.SourceAway(host.sourceFolder(job.clip())));
            return;
        }
        fail(job, problem, findings, listener, spent, checking);
    }

    private boolean isMadeAgain(Job job) {
        return waits() && again.merge(job.copy().id(), 1, Integer::sum) <= AGAIN;
    }

    private boolean waits() {
        return !terms.patience().isZero();
    }

    /// What is in the way now and may not be later.
    private Optional<Obstacle> obstacle(Job job, boolean full) {
        Path source = host.sourceFolder(job.clip());
        if (!Files.isDirectory(source)) {
            return Optional.of(new Obstacle.SourceAway(source));
        }
        Path target = host.targetFolder(job.copy(), job.clip());
        if (host.targetFault(target).isPresent()) {
            return Optional.of(new Obstacle.TargetAway(target, host));
        }
        return full
                ? Optional.of(new Obstacle.VolumeFull(target, host.need(job.clip(), job.recipe(), job.form())))
                : Optional.empty();
    }

    private void fail(
            Job job, Problem problem, List<Finding> findings, MakingListener listener, Spent spent, double checking) {
        WorkingCopy copy = failed(job.copy(), problem);
        listener.state(copy);
        listener.line(copy, RunLine.of(job, copy, findings, spent, checking));
    }

    static WorkingCopy failed(WorkingCopy copy, Problem problem) {
        return copy.withState(CopyState.FAILED, problem.sentence());
    }
}
