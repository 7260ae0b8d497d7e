package docksort.desktop.parts;

import docksort.desktop.work.Job;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import javafx.beans.property.ReadOnlyIntegerProperty;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ProgressBar;
import javafx.scene.control.TableView;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;

/// One task of a station in place of its list: what to go by at the top, below it what would happen
/// line by line, and the button that does it.
public final class TaskPage {
    public record Column(String title, double width) {}

    /// Four columns from titles and widths in turn.
    public static List<Column> columns(String one, String two, String three, int first, int second, int third) {
        return List.of(new Column("", 92), new Column(one, first), new Column(two, second), new Column(three, third));
    }

    private static final double TEXT_SIZE = 13; // pixels, at 100 %

    private final VBox page = new VBox(10);
    private final TableView<TaskLine> table = new TableView<>();
    private final Label summary = Parts.wrapped("", "strong");
    private final ProgressBar progress = new ProgressBar(0);
    private final HBox bar = new HBox(10);
    private final HBox actions = new HBox(8);
    private final Node inputs;
    private Runnable show = () -> {};
    private final Label detail = Parts.wrapped("", "quiet");

    /// @param id of the page, for pictures and tests
    /// @param columns titles and widths of the four columns
    /// @param next what to do first, shown while nothing is there
    public TaskPage(
            String id, String title, String words, List<Column> columns, String next, Node inputs, Runnable back) {
        this.inputs = inputs;
        page.setId(id);
        page.setStyle("-fx-padding: 0.9em 1.2em 0.6em 1.2em;");
        Button toList = Parts.button("Back to the list", back);
        toList.setId("back-to-list");
        var head = new HBox(8, Parts.label(title, "docket-name"), Parts.spring(), toList);
        progress.setMaxWidth(Double.MAX_VALUE);
        progress.setAccessibleText("Progress of " + title);
        HBox.setHgrow(progress, Priority.ALWAYS);
        bar.setAlignment(Pos.CENTER_LEFT);
        bar.setId(id + "-going");
        shown(bar, false);
        table.setId(id + "-table");
        table.setAccessibleText(title);
        table.setPlaceholder(Parts.empty("Nothing yet", next));
        table.getColumns()
                .addAll(List.of(
                        Parts.<TaskLine>drawn(
                                columns.get(0).title, columns.get(0).width, TaskLine::word, TaskPage::mark),
                        Parts.text(columns.get(1).title, columns.get(1).width, TaskLine::name, "mono"),
                        Parts.text(columns.get(2).title, columns.get(2).width, TaskLine::other, "mono"),
                        Parts.text(columns.get(3).title, columns.get(3).width, TaskLine::words)));
        // Columns grow with the text.
        toList.fontProperty().subscribe(font -> {
            for (int i = 0; i < columns.size(); i++) {
                table.getColumns().get(i).setPrefWidth(columns.get(i).width * font.getSize() / TEXT_SIZE);
            }
        });
        table.getSelectionModel().selectedItemProperty().subscribe(line -> {
            detail.setText(line == null ? "" : line.inFull());
            shown(detail, line != null);
        });
        shown(detail, false);
        FileName.copied(table, TaskLine::inFull);
        VBox.setVgrow(table, Priority.ALWAYS);
        actions.setAlignment(Pos.CENTER_LEFT);
        page.getChildren().addAll(head, Parts.wrapped(words, "quiet"), inputs, bar, summary, table, detail, actions);
        shown(summary, false);
        shown(actions, false);
    }

    private static Node mark(TaskLine line) {
        return switch (line.tone()) {
            case GOOD -> Parts.marked(Mark.full(), line.word());
            case LOOK -> Parts.marked(Mark.look(), line.word(), "look");
            case STOP -> Parts.marked(Mark.cross("stop"), line.word(), "stop");
            case PLAIN -> Parts.marked(Mark.dash(), line.word(), "quiet");
        };
    }

    /// Place of the line that is chosen among those that were shown, -1 for none.
    public ReadOnlyIntegerProperty chosen() {
        return table.getSelectionModel().selectedIndexProperty();
    }

    public Node node() {
        return page;
    }

    /// Keeps how the station shows this page, for a job that comes to its end while another is shown.
    public void shownBy(Runnable station) {
        show = station;
    }

    /// Shows how far a job is that was begun here. What begins another one waits for its end.
    public void follow(Job job) {
        Button stop = Parts.button("Stop", job::stop);
        stop.setId(page.getId() + "-stop");
        progress.setProgress(ProgressBar.INDETERMINATE_PROGRESS);
        bar.getChildren().setAll(progress, stop);
        job.shownBy(() -> show.run());
        job.progress().subscribe(now -> {
            if (now.all() > 0) {
                progress.setProgress((double) now.done() / now.all());
                summary.setText((job.what() + ": " + now.done() + " of " + now.all() + " " + job.unit()).strip());
            }
        });
        job.state().subscribe(state -> stands(job, state, stop));
    }

    private void stands(Job job, Job.State state, Button stop) {
        inputs.setDisable(!state.isOver());
        actions.setDisable(!state.isOver());
        shown(bar, !state.isOver());
        table.setPlaceholder(Parts.label("", "quiet")); // the sentence above says how it stands
        shown(summary, true);
        stop.setDisable(state == Job.State.STOPPING);
        switch (state) {
            case GOING -> summary.setText(job.what());
            case STOPPING -> summary.setText(job.what() + ": stopping");
            case STOPPED -> summary.setText(job.what() + ": stopped before its end");
            case FAILED -> summary.setText(job.what() + " did not come to its end; what happened is told at the top");
            case DONE -> {} // what came of it is shown
        }
        if (page.getScene() != null) {
            job.seen();
        }
    }

    /// Shows what was found, with a button for each deed.
    public void show(TaskFindings found, Map<String, Runnable> deeds) {
        show(found, found.deeds().stream().map(deed -> button(deed, deeds)).toList());
    }

    private static Button button(TaskFindings.Deed deed, Map<String, Runnable> deeds) {
        Runnable how = Objects.requireNonNull(deeds.get(deed.id()), deed.id());
        Button button = deed.main() ? Parts.button(deed.text(), how, "main") : Parts.button(deed.text(), how);
        button.setId(deed.id());
        button.setDisable(!deed.possible());
        return button;
    }

    /// Shows something that was done.
    public void show(TaskFindings found) {
        show(found, Map.of());
    }

    /// @param below what can be done about it, in place of the findings' deeds
    public void show(TaskFindings found, List<? extends Node> below) {
        summary.setText(found.words());
        shown(summary, true);
        table.getItems().setAll(found.lines());
        table.setPlaceholder(Parts.label("", "quiet")); // the sentence above says it
        actions.getChildren().setAll(below);
        shown(actions, !below.isEmpty());
    }

    private static void shown(Node node, boolean visible) {
        node.setVisible(visible);
        node.setManaged(visible);
    }
}
