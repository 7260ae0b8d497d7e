package docksort.desktop.shell;

import docksort.catalogue.Activity;
import docksort.desktop.parts.Filter;
import docksort.desktop.parts.Mark;
import docksort.desktop.parts.Parts;
import docksort.desktop.parts.Rows;
import docksort.desktop.workshop.Workshop;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.List;
import java.util.Locale;
import javafx.collections.FXCollections;
import javafx.collections.ObservableList;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.TableView;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;

/// Everything that was done in the project, the latest first, and what of it was taken back.
final class DonePage {
    private static final DateTimeFormatter AT =
            DateTimeFormatter.ofPattern("uuuu-MM-dd HH:mm:ss", Locale.ROOT).withZone(ZoneId.systemDefault());

    private final Workshop workshop;
    private final TextField filter = Filter.field("done-filter", "What was done, by word");
    private final ObservableList<Activity> rows = FXCollections.observableArrayList();
    private final Label summary = Parts.label("", "quiet");
    private final VBox page = new VBox(10);
    private List<Activity> deeds = List.of();

    DonePage(Workshop workshop, Runnable back) {
        this.workshop = workshop;
        page.setId("done");
        page.getStyleClass().add("centre");
        page.setStyle("-fx-padding: 0.9em 1.2em 0.6em 1.2em;");
        Button close = Parts.button("Back to the list", back);
        close.setId("back-from-done");
        var table = new TableView<>(rows);
        table.setId("done-table");
        table.setAccessibleText("What was done");
        table.setPlaceholder(Parts.empty("Nothing that says so", "Empty the filter to see all of it."));
        table.getColumns()
                .addAll(List.of(
                        Parts.text("When", 160, deed -> AT.format(deed.at()), "mono"),
                        Parts.text("Who", 190, Activity::who),
                        Parts.text("What", 560, Activity::what),
                        Parts.<Activity>drawn("", 130, deed -> deed.back().name(), DonePage::mark)));
        VBox.setVgrow(table, Priority.ALWAYS);
        var line = new HBox(12, filter, summary);
        line.setAlignment(Pos.CENTER_LEFT);
        page.getChildren()
                .addAll(
                        new HBox(8, Parts.label("What was done", "docket-name"), Parts.spring(), close),
                        Parts.wrapped(
                                "The latest first. Undo takes back the latest change that can be, Redo does it again."
                                        + " Files that were deleted and copies that were made stay as they are.",
                                "quiet"),
                        line,
                        table);
        filter.textProperty().subscribe(_ -> show());
        workshop.views().each(_ -> {
            if (page.getScene() != null) {
                ask();
            }
        });
    }

    /// The page, brought to what was done by now.
    Node shown() {
        ask();
        return page;
    }

    void findFocus() {
        filter.requestFocus();
    }

    private static Node mark(Activity deed) {
        return deed.back() == Activity.Back.TAKEN ? Parts.marked(Mark.open(), "taken back", "quiet") : Parts.label("");
    }

    private void ask() {
        workshop.deeds(now -> {
            deeds = now;
            show();
        });
    }

    private void show() {
        Filter.Words wanted = Filter.words(filter.getText());
        List<Activity> found = deeds.stream()
                .filter(deed -> wanted.areIn(deed.what() + " " + deed.who()))
                .toList();
        Rows.bring(rows, found);
        summary.setText(found.size() == deeds.size() ? found.size() + " in all" : found.size() + " of " + deeds.size());
    }
}
