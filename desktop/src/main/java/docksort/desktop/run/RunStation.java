package docksort.desktop.run;

import docksort.catalogue.CopyState;
import docksort.desktop.CopyMark;
import docksort.desktop.Parts;
import docksort.desktop.ScopeList;
import docksort.desktop.Station;
import docksort.desktop.Words;
import docksort.desktop.Workshop;
import docksort.run.CopyProgress;
import docksort.run.RunSnapshot;
import java.util.List;
import java.util.Locale;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ProgressBar;
import javafx.scene.control.TableView;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;

/// The Run station: what is being made, how fast, how long still, and what failed and why.
public final class RunStation implements Station {
    private final Workshop workshop;
    private final RunModel model;
    private final ScopeList scope = new ScopeList();
    private final TableView<CopyProgress> table = new TableView<>();
    private final VBox page = new VBox();
    private final VBox centre = new VBox(12);
    private final ProgressBar total = new ProgressBar(0);
    private final Label figures = Parts.label("", "quiet");

    public RunStation(Workshop workshop) {
        this.workshop = workshop;
        this.model = new RunModel(workshop);
        model.groups().subscribe(scope::show);
        model.scope().bind(scope.chosen());
        page.getStyleClass().add("docket-page");
        centre.getStyleClass().add("centre");
        centre.setStyle("-fx-padding: 0.9em 1.2em 0 1.2em;");
        centre.getChildren().addAll(bar(), table());
        VBox.setVgrow(table, Priority.ALWAYS);
        model.snapshot().subscribe(this::show);
        table.getSelectionModel().selectedItemProperty().subscribe(_ -> showDocket());
        showDocket();
    }

    private Node bar() {
        total.setPrefWidth(260);
        Button stop = Parts.button("Stop", workshop::stopRun);
        Button carryOn = Parts.button("Carry on", workshop::startRun, "main");
        Button retry = Parts.button("Retry failed", workshop::retryFailed);
        stop.setId("stop-run");
        Button pause = Parts.button("Pause after these", () -> workshop.pauseRun(true));
        pause.setId("pause-run");
        Button goOn = Parts.button("Go on", () -> workshop.pauseRun(false), "main");
        goOn.setId("go-on");
        model.snapshot().subscribe(run -> {
            shown(stop, run.running());
            shown(pause, run.running() && !run.paused());
            shown(goOn, run.running() && run.paused());
            shown(carryOn, !run.running() && run.count(CopyState.WAITING) > 0);
            shown(retry, run.count(CopyState.FAILED) > 0);
            shown(total, !run.copies().isEmpty());
        });
        var bar = new HBox(total, figures, Parts.spring(), retry, carryOn, goOn, pause, stop);
        bar.getStyleClass().add("bar");
        bar.setMinHeight(34);
        return bar;
    }

    private static void shown(Node node, boolean visible) {
        node.setVisible(visible);
        node.setManaged(visible);
    }

    private Node table() {
        table.setId("run-table");
        table.setAccessibleText("Copies of the run");
        table.setItems(model.rows());
        table.setPlaceholder(Parts.empty(
                "Nothing is being made",
                "Decide in Sort what is to be made, look at the load sheet, and start the run there."));
        table.getColumns()
                .addAll(List.of(
                        Parts.text("Clip", 140, CopyProgress::clipName, "mono"),
                        Parts.text(
                                "Copy",
                                230,
                                row -> workshop.recipeLabel(row.copy().recipeId())),
                        Parts.<CopyProgress>drawn(
                                "State",
                                100,
                                row -> row.copy().state().label(),
                                row -> CopyMark.of(row.copy().state())),
                        Parts.<CopyProgress>drawn("Progress", 124, CopyProgress::clipName, RunStation::progress),
                        Parts.number("Frames", 92, CopyProgress::framesDone, RunStation::frames),
                        Parts.number(
                                "fps",
                                52,
                                row -> (long) row.framesPerSecond(),
                                row -> row.framesPerSecond() > 0
                                        ? String.format(Locale.ROOT, "%.0f", row.framesPerSecond())
                                        : "")));
        return table;
    }

    private static String frames(CopyProgress row) {
        return row.copy().state() == CopyState.FAILED ? "" : row.framesDone() + " / " + row.framesAll();
    }

    private static Node progress(CopyProgress row) {
        if (row.copy().state() == CopyState.FAILED) {
            return Parts.label("thrown away", "quiet");
        }
        var bar = new ProgressBar(row.framesAll() == 0 ? 0 : (double) row.framesDone() / row.framesAll());
        bar.setPrefWidth(112);
        return bar;
    }

    private void show(RunSnapshot run) {
        total.setProgress(model.progress());
        if (run.copies().isEmpty()) {
            figures.setText("");
        } else {
            String speed = model.speed();
            figures.setText(run.finished() + " of " + run.copies().size()
                    + (speed.isEmpty() ? "" : " · " + speed)
                    + " · " + Words.of(run.elapsed()) + " so far"
                    + run.timeLeft()
                            .map(left -> " · " + Words.of(left) + " left")
                            .orElse(""));
        }
        showDocket();
    }

    private void showDocket() {
        CopyProgress chosen = table.getSelectionModel().getSelectedItem();
        if (chosen == null) {
            RunSnapshot run = model.snapshot().get();
            page.getChildren()
                    .setAll(
                            Parts.label("Run", "docket-name"),
                            Parts.wrapped(
                                    run.copies().isEmpty()
                                            ? "A run makes what the load sheet wants. Each copy is written under a"
                                                    + " name that cannot be taken for a clip, checked against its"
                                                    + " original, and only then gets its own name."
                                            : run.count(CopyState.READY) + " made and checked, "
                                                    + run.count(CopyState.FAILED) + " failed, "
                                                    + run.count(CopyState.WAITING) + " waiting."));
            run.copies().stream()
                    .filter(copy -> copy.copy().state() == CopyState.FAILED)
                    .limit(8)
                    .forEach(copy -> {
                        page.getChildren().add(CopyMark.of(CopyState.FAILED, copy.clipName()));
                        page.getChildren().add(Parts.wrapped(copy.copy().note(), "quiet"));
                    });
            return;
        }
        page.getChildren()
                .setAll(
                        Parts.wrapped(chosen.clipName(), "docket-name"),
                        CopyMark.of(chosen.copy().state()),
                        Parts.wrapped(workshop.recipeLabel(chosen.copy().recipeId())),
                        Parts.wrapped(chosen.copy().note(), "quiet"),
                        Parts.wrapped(chosen.copy().file().toString(), "mono"));
        if (chosen.copy().state().isQueued()) {
            page.getChildren()
                    .add(Parts.button(
                            "Take out of the queue",
                            () -> workshop.cancelCopy(chosen.copy().id())));
        }
    }

    @Override
    public Face face() {
        return new Face("Run", scope, table, centre, page, model.number(), model.line());
    }
}
