package docksort.desktop.shell;

import docksort.desktop.parts.Mark;
import docksort.desktop.parts.Parts;
import docksort.desktop.work.Job;
import docksort.desktop.work.Jobs;
import javafx.collections.ListChangeListener;
import javafx.geometry.Pos;
import javafx.geometry.VPos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ProgressBar;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;

/// The jobs that go on, in the bottom line: each with how far it is and its own Stop, and those that came
/// to their end while something else was looked at.
final class JobsLine {
    private final FlowPane line = new FlowPane(24, 6);
    private final Jobs jobs;

    JobsLine(Jobs jobs) {
        this.jobs = jobs;
        line.setId("jobs");
        line.getStyleClass().add("jobs");
        line.setRowValignment(VPos.CENTER);
        jobs.all().addListener((ListChangeListener<Job>) this::changed);
        shown();
    }

    Node node() {
        return line;
    }

    private void changed(ListChangeListener.Change<? extends Job> change) {
        while (change.next()) {
            change.getRemoved().forEach(gone -> line.getChildren().removeIf(node -> node.getUserData() == gone));
            change.getAddedSubList().forEach(job -> line.getChildren().add(entry(job)));
        }
        shown();
    }

    private void shown() {
        boolean some = !jobs.all().isEmpty();
        line.setVisible(some);
        line.setManaged(some);
    }

    private static Node entry(Job job) {
        var words = new Label();
        words.setMaxWidth(420);
        var bar = new ProgressBar();
        bar.setPrefWidth(110);
        bar.setPrefHeight(8);
        bar.setAccessibleText("Progress of " + job.what());
        var entry = new HBox(8);
        entry.setAlignment(Pos.CENTER_LEFT);
        entry.setUserData(job);
        Runnable tell = () -> {
            words.setText(words(job));
            Job.Progress now = job.progress().get();
            bar.setProgress(now.all() == 0 ? ProgressBar.INDETERMINATE_PROGRESS : (double) now.done() / now.all());
        };
        job.progress().subscribe(_ -> tell.run());
        job.state().subscribe(state -> {
            tell.run();
            entry.getChildren().setAll(parts(job, state, words, bar));
        });
        return entry;
    }

    private static Node[] parts(Job job, Job.State state, Label words, ProgressBar bar) {
        if (state.isOver()) {
            Button show = Parts.button(
                    "Show",
                    () -> {
                        job.show().ifPresent(Runnable::run);
                        job.seen();
                    },
                    "link");
            Button away = Parts.button("Put away", job::seen, "link");
            Node mark = state == Job.State.DONE ? Mark.full() : Mark.cross("stop");
            return new Node[] {mark, words, show, away};
        }
        Button stop = Parts.button("Stop", job::stop, "link");
        stop.setAccessibleText("Stop " + job.what());
        stop.setDisable(state == Job.State.STOPPING);
        return new Node[] {words, bar, stop};
    }

    private static String words(Job job) {
        Job.Progress now = job.progress().get();
        return switch (job.state().get()) {
            case GOING ->
                now.all() == 0
                        ? job.what()
                        : (job.what() + ": " + now.done() + " of " + now.all() + " " + job.unit()).strip();
            case STOPPING -> job.what() + ": stopping";
            case DONE -> job.what() + ": done";
            case STOPPED -> job.what() + ": stopped";
            case FAILED -> job.what() + ": broke down";
        };
    }
}
