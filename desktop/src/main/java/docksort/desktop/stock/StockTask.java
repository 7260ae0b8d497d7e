package docksort.desktop.stock;

import docksort.desktop.Mark;
import docksort.desktop.Parts;
import java.util.List;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ProgressBar;
import javafx.scene.control.TableView;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;

/// One task of the Stock station in place of the list: what to go by at the top, below it what would happen
/// line by line, and the button that does it.
final class StockTask {
    /// How a line stands.
    enum Standing {
        GOOD,
        LOOK,
        STOP,
        PLAIN
    }

    /// One line of what would happen.
    ///
    /// @param word how it stands, in a word
    /// @param name what it is about
    /// @param other what it is held against, or becomes
    /// @param words why
    record Line(Standing standing, String word, String name, String other, String words) {}

    private final VBox page = new VBox(10);
    private final TableView<Line> table = new TableView<>();
    private final Label summary = Parts.wrapped("", "strong");
    private final ProgressBar progress = new ProgressBar(0);
    private final HBox actions = new HBox(8);

    /// @param id of the page, for pictures and tests
    /// @param titles of the four columns
    /// @param next what to do first, shown while nothing is there
    StockTask(String id, String title, String words, List<String> titles, String next, Node inputs, Runnable back) {
        page.setId(id);
        page.setStyle("-fx-padding: 0.9em 1.2em 0.6em 1.2em;");
        Button toList = Parts.button("Back to the list", back);
        toList.setId("back-to-list");
        var head = new HBox(8, Parts.label(title, "docket-name"), Parts.spring(), toList);
        progress.setMaxWidth(Double.MAX_VALUE);
        progress.setAccessibleText("Progress of " + title);
        shown(progress, false);
        table.setId(id + "-table");
        table.setAccessibleText(title);
        table.setPlaceholder(Parts.empty("Nothing yet", next));
        table.getColumns()
                .addAll(List.of(
                        Parts.<Line>drawn(titles.get(0), 104, Line::word, StockTask::mark),
                        Parts.text(titles.get(1), 200, Line::name, "mono"),
                        Parts.text(titles.get(2), 200, Line::other, "mono"),
                        Parts.text(titles.get(3), 330, Line::words)));
        VBox.setVgrow(table, Priority.ALWAYS);
        actions.setAlignment(javafx.geometry.Pos.CENTER_LEFT);
        page.getChildren().addAll(head, Parts.wrapped(words, "quiet"), inputs, progress, summary, table, actions);
        shown(summary, false);
        shown(actions, false);
    }

    private static Node mark(Line line) {
        return switch (line.standing) {
            case GOOD -> Parts.marked(Mark.full(), line.word);
            case LOOK -> Parts.marked(Mark.look(), line.word, "look");
            case STOP -> Parts.marked(Mark.cross("stop"), line.word, "stop");
            case PLAIN -> Parts.marked(Mark.dash(), line.word, "quiet");
        };
    }

    Node node() {
        return page;
    }

    /// Shows how far the looking is.
    void progress(int done, int all) {
        shown(progress, all > 0 && done < all);
        progress.setProgress(all == 0 ? 0 : (double) done / all);
        summary.setText("Looking: " + done + " of " + all);
        shown(summary, true);
    }

    /// Shows what would happen.
    ///
    /// @param words in one sentence
    /// @param buttons what can be done about it
    void show(String words, List<Line> lines, List<Button> buttons) {
        shown(progress, false);
        summary.setText(words);
        shown(summary, true);
        table.getItems().setAll(lines);
        actions.getChildren().setAll(buttons);
        shown(actions, !buttons.isEmpty());
    }

    private static void shown(Node node, boolean visible) {
        node.setVisible(visible);
        node.setManaged(visible);
    }
}
