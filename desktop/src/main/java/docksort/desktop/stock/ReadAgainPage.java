package docksort.desktop.stock;

import static docksort.desktop.parts.TaskFields.field;

import docksort.catalogue.WorkingCopy;
import docksort.desktop.parts.Parts;
import docksort.desktop.parts.TaskFields;
import docksort.desktop.parts.TaskPage;
import docksort.desktop.stock.ReadAgainModel.Wish;
import docksort.desktop.workshop.StockDesk;
import java.time.ZoneId;
import java.util.List;
import java.util.Map;
import javafx.scene.control.TextField;

/// The task of reading copies whole again, to find what disks have lost.
final class ReadAgainPage {
    private final StockDesk desk;
    private final TextField days = field("read-days", "Days that a copy was not read for, empty for all copies", 5);
    private final TextField most = field("read-most", "Megabytes a second, empty for as fast as it goes", 6);
    private final TaskPage page;

    private ReadAgainPage(StockDesk desk, Runnable back) {
        this.desk = desk;
        days.setText(Integer.toString(ReadAgainModel.USUAL_DAYS));
        most.setText(Integer.toString(ReadAgainModel.USUAL_MEGABYTES));
        days.setPromptText("");
        most.setPromptText("");
        days.setOnAction(_ -> look());
        most.setOnAction(_ -> look());
        var look = Parts.button("Look", this::look);
        look.setId("read-look");
        this.page = new TaskPage(
                "read-again",
                "Read again",
                "Every byte of a copy is read from its disk and held against the checksum that was taken when the copy"
                        + " was checked. Nothing is written to it. You can stop at any time; the next time goes on"
                        + " with the rest.",
                TaskPage.columns("Copy", "Size", "When, or why", 220, 90, 300),
                "Look which copies are due.",
                TaskFields.row(
                        Parts.label("Copies not read whole for"),
                        Parts.checked(days, text -> new Wish(text, "").daysFault()),
                        Parts.label("days, at most"),
                        Parts.checked(most, text -> new Wish("", text).megabytesFault()),
                        Parts.label("MB a second"),
                        look),
                back);
    }

    static TaskPage of(StockDesk desk, Runnable back) {
        var task = new ReadAgainPage(desk, back);
        task.look();
        return task.page;
    }

    private void look() {
        var wish = new Wish(days.getText(), most.getText());
        if (wish.isSound()) {
            desk.notReadFor(wish.notFor(), due -> show(due, wish));
        }
    }

    private void show(List<WorkingCopy> due, Wish wish) {
        page.show(ReadAgainModel.due(due, wish, ZoneId.systemDefault()), Map.of(ReadAgainModel.READ, () -> read(due)));
    }

    /// At the speed that is written there now.
    private void read(List<WorkingCopy> due) {
        var wish = new Wish(days.getText(), most.getText());
        if (wish.isSound()) {
            page.follow(desk.readAgain(due, wish.most(), read -> page.show(ReadAgainModel.read(read))));
        }
    }
}
