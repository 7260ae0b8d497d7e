package docksort.desktop.workshop;

import docksort.catalogue.AsSeen;
import docksort.desktop.work.Job;
import docksort.desktop.work.Jobs;
import docksort.engine.Cancellation;
import docksort.problem.CoreException.ChangedMeanwhile;
import docksort.project.Project;
import java.util.Optional;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.Executor;
import java.util.function.BiConsumer;
import java.util.function.Consumer;
import java.util.function.Function;

/// The ways in which a desk works with the project: a change is one of its steps, a job or a question
/// goes on beside them.
final class Errands {
    /// Work on the project that may take a while.
    interface Errand<T> {
        T run(Project project, BiConsumer<Integer, Integer> progress, Cancellation cancellation)
                throws InterruptedException;
    }

    interface Question<T> {
        T ask(Project project) throws InterruptedException;
    }

    private final Project project;
    private final ProjectThread thread;
    private final ViewFeed feed;
    private final UndoOrder undo;
    private final Jobs jobs;
    private final Executor window;
    private final Contests contests;

    Errands(
            Project project,
            ProjectThread thread,
            ViewFeed feed,
            UndoOrder undo,
            Jobs jobs,
            Executor window,
            Contests contests) {
        this.contests = contests;
        this.project = project;
        this.thread = thread;
        this.feed = feed;
        this.undo = undo;
        this.jobs = jobs;
        this.window = window;
    }

    /// Changes the project as one step and shows it.
    CompletableFuture<Void> change(ProjectThread.Step step) {
        return thread.step(() -> {
            step.run();
            undo.projectChanged();
            feed.reload(false);
        });
    }

    /// The same where clips come or go.
    CompletableFuture<Void> changeClips(ProjectThread.Step step) {
        return thread.step(() -> {
            step.run();
            undo.projectChanged();
            feed.reload(true);
        });
    }

    /// Changes the project as one step, by what the window shows at this moment. Where somebody else changed
    /// the same since, both are shown and the person decides. To be called on the window's thread.
    CompletableFuture<Void> asSeen(Consumer<AsSeen> change) {
        return asSeen(change, () -> {});
    }

    /// @param then belongs to the same step, and to no other one of undo
    CompletableFuture<Void> asSeen(Consumer<AsSeen> change, Runnable then) {
        return asSeen(change, then, feed.view().get().map(ProjectView::seen).orElse(AsSeen.NOW));
    }

    private CompletableFuture<Void> asSeen(Consumer<AsSeen> change, Runnable then, AsSeen seen) {
        return thread.step(() -> {
            try {
                change.accept(seen);
                undo.projectChanged();
                then.run();
            } catch (ChangedMeanwhile e) {
                contests.ask(e.problem(), () -> asSeen(change, then, new AsSeen(e.deed())));
            }
            feed.reload(false);
        });
    }

    /// Changes the project as one step.
    ///
    /// @param then gets the answer on the window's thread, after the window shows the change
    <T> void change(Function<Project, T> change, Consumer<T> then) {
        thread.step(() -> {
            T answer = change.apply(project);
            undo.projectChanged();
            feed.reload(true);
            window.execute(() -> then.accept(answer));
        });
    }

    /// The same where no clips come or go.
    <T> void decide(Function<Project, T> change, Consumer<T> then) {
        thread.step(() -> {
            T answer = change.apply(project);
            undo.projectChanged();
            feed.reload(false);
            window.execute(() -> then.accept(answer));
        });
    }

    /// Does as one step what undo has nothing to do with, and shows it.
    CompletableFuture<Void> step(ProjectThread.Step step) {
        return thread.step(() -> {
            step.run();
            feed.reload(false);
        });
    }

    /// Begins work beside the steps of the project, of which nothing is kept when it is stopped.
    ///
    /// @param then gets what came of it on the window's thread
    <T> Job begin(String what, Errand<T> errand, Consumer<T> then) {
        return jobs.begin(what, "", whole(errand), then);
    }

    /// Begins work that says itself what is kept when it is stopped.
    <T> Job begin(String what, String unit, Jobs.Work<T> work, Consumer<T> then) {
        return jobs.begin(what, unit, work, then);
    }

    /// Asks the project something whose answer is wanted at once.
    ///
    /// @param kind a question of the same kind that waits for its answer gets none
    <T> void ask(String kind, Question<T> question, Consumer<T> then) {
        jobs.ask(kind, whole((asked, _, _) -> question.ask(asked)), then);
    }

    private <T> Jobs.Work<T> whole(Errand<T> errand) {
        return (progress, cancellation) -> {
            T answer = errand.run(project, progress, cancellation);
            return cancellation.isCancelled() ? Optional.empty() : Optional.of(answer);
        };
    }
}
