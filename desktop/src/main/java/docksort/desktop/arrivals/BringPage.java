package docksort.desktop.arrivals;

import static docksort.desktop.parts.TaskFields.chooseFolder;
import static docksort.desktop.parts.TaskFields.field;

import docksort.desktop.parts.Parts;
import docksort.desktop.parts.TaskFields;
import docksort.desktop.parts.TaskPage;
import docksort.desktop.parts.Typed;
import docksort.desktop.workshop.ArrivalsDesk;
import docksort.files.Brought;
import java.nio.file.Path;
import java.util.List;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.control.Tooltip;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;

/// The task of copying a card to storage, so that it may be cleared.
final class BringPage {
    private final ArrivalsDesk desk;
    private final TextField card = field("bring-card", "The card's folder", 30);
    private final TextField first = field("bring-first", "Folder that it is copied into", 30);
    private final TextField second = field("bring-second", "A second one, or nothing", 30);
    private final CheckBox add = new CheckBox("take it in as an arrival when all is well");
    private final CheckBox twice = new CheckBox("read the card a second time");
    private final Label pace = Parts.label("", "mono");
    private final TaskPage page;

    private BringPage(ArrivalsDesk desk, Runnable back) {
        this.desk = desk;
        add.setId("bring-add");
        add.setSelected(true);
        twice.setId("bring-twice");
        twice.setTooltip(new Tooltip("What the card or its reader gave wrong the first time is found so"));
        Button copy = Parts.button("Copy and read back", this::copy, "main");
        copy.setId("bring-copy");
        this.page = new TaskPage(
                "bring",
                "Bring a card in",
                "Every file is read once, written to each place, read back from there and compared; checksums (XXH64)"
                    + " are written beside the copy as an ASC Media Hash List. No file is ever written over, and the"
                    + " card itself is only read.",
                TaskPage.columns("File or folder", "Place", "Why", 190, 190, 240),
                "Choose the card, and where it goes.",
                new VBox(8, fields(), TaskFields.row(copy, add, twice, pace)),
                back);
    }

    static TaskPage of(ArrivalsDesk desk, Runnable back) {
        return new BringPage(desk, back).page;
    }

    private Node fields() {
        var grid = new GridPane(8, 8);
        line(grid, 0, "from", card, "The card's folder");
        line(grid, 1, "to", first, "Folder that it is copied into");
        line(grid, 2, "and", second, "A second folder, on another volume");
        return grid;
    }

    private static void line(GridPane grid, int row, String word, TextField field, String title) {
        Label name = TaskFields.whole(Parts.label(word, "quiet"));
        Node checked = Parts.checked(field, Typed::path);
        GridPane.setHgrow(checked, Priority.ALWAYS);
        grid.addRow(row, name, checked, chooseFolder(field, title));
    }

    private void copy() {
        BringModel.order(card.getText(), first.getText(), second.getText())
                .ifPresent(order -> page.follow(
                        desk.bring(order.card(), order.places(), twice.isSelected(), pace::setText, this::done)));
    }

    private void done(Brought brought) {
        pace.setText("");
        page.show(BringModel.of(brought));
        Path folder = brought.folders().getFirst();
        if (add.isSelected() && brought.outcome().isSafeToClear()) {
            desk.add(List.of(folder));
        }
    }
}
