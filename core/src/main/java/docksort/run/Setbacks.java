package docksort.run;

import docksort.catalogue.CopyState;
import docksort.catalogue.WorkingCopy;
import docksort.engine.CopyMaker.Lack;
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

    /// A copy that could not be made. One that lacks its volume has not failed.
    void failOrWait(Job job, Problem problem, Lack lack, MakingListener listener, Spent spent) {
        boolean waits = isObstructed(job, lack == Lack.ROOM, listener)
                || (lack == Lack.ORIGINAL
                        && Files.exists(job.clip().source().head())
                        && isMadeAgain(job, sourceAway(job), listener));
        if (!waits) {
            fail(job, problem, List.of(), listener, spent, 0);
        }
    }

    private Obstacle sourceAway(Job job) {
        return new Obstacle.SourceAway(host.sourceFolder(job.clip()));
    }

    /// A copy that was written and did not get its name.
    void failOrWait(
            Begun written,
            Problem problem,
            List<Finding> findings,
            MakingListener listener,
            Spent spent,
            double checking) {
        Job job = written.job();
        if (!isObstructed(job, false, listener) && !isMadeAgain(written, findings, listener)) {
            fail(job, problem, findings, listener, spent, checking);
        }
    }

    private boolean isObstructed(Job job, boolean full, MakingListener listener) {
        Optional<Obstacle> obstacle = waits() ? obstacle(job, full) : Optional.empty();
        obstacle.ifPresent(found -> listener.obstructed(job.copy(), found));
        return obstacle.isPresent();
    }

    /// Something was away for a moment, and is not the copy's fault: what was written, as another workstation sweeps
    /// it that takes this one for stopped, or the original's volume while it was looked at.
    private boolean isMadeAgain(Begun written, List<Finding> findings, MakingListener listener) {
        Job job = written.job();
        Optional<Obstacle> passing = !Files.exists(written.partial().working())
                ? Optional.of(new Obstacle.Swept())
                : PictureCheck.sawNoOriginal(findings) ? Optional.of(sourceAway(job)) : Optional.empty();
        return passing.isPresent() && isMadeAgain(job, passing.get(), listener);
    }

    /// @param passing what stood in the way for a moment
    private boolean isMadeAgain(Job job, Obstacle passing, MakingListener listener) {
        if (!waits() || again.merge(job.copy().id(), 1, Integer::sum) > AGAIN) {
            return false;
        }
        listener.obstructed(job.copy(), passing);
        return true;
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
