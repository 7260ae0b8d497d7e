package docksort.desktop.stock;

import static docksort.desktop.parts.TaskFields.field;
import static docksort.desktop.parts.TaskFields.growing;

import docksort.desktop.parts.TaskPage;
import docksort.desktop.workshop.ProjectView;
import docksort.desktop.workshop.StockDesk;
import docksort.desktop.workshop.Views;
import docksort.link.CopyNames;
import docksort.stock.StockLine;
import java.util.List;
import java.util.Map;
import javafx.scene.control.CheckBox;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Region;

/// The task of naming copies by a pattern.
final class NamesPage {
    private final StockDesk desk;
    private final Views views;
    private final TextField pattern = field("names-pattern", "Pattern", 30);
    private final CheckBox takenOver = new CheckBox("those that were taken over, too");
    private final TaskPage page;

    private NamesPage(StockDesk desk, Views views, Runnable back) {
        this.desk = desk;
        this.views = views;
        pattern.setText("{clip}_{kind}");
        pattern.setOnAction(_ -> look());
        takenOver.setId("names-taken-over");
        takenOver.setOnAction(_ -> look());
        takenOver.setMinWidth(Region.USE_PREF_SIZE);
        this.page = new TaskPage(
                "names",
                "Names of copies",
                "{clip} {kind} {recipe} {arrival} {reel} {raster} are filled in for each copy. Originals keep their"
                        + " names. All copies are renamed, or none; doing it twice changes nothing.",
                TaskPage.columns("Now", "Then", "", 200, 220, 200),
                "Write a pattern.",
                new HBox(8, growing(pattern), takenOver),
                back);
    }

    static TaskPage of(StockDesk desk, Views views, Runnable back) {
        var names = new NamesPage(desk, views, back);
        names.pattern.textProperty().subscribe((_, _) -> names.look());
        names.look();
        return names.page;
    }

    private void look() {
        desk.names(
                pattern.getText().strip(),
                NamesModel.meant(stock(), takenOver.isSelected()),
                takenOver.isSelected(),
                this::show);
    }

    private List<StockLine> stock() {
        return views.view().get().map(ProjectView::stock).orElse(List.of());
    }

    private void show(CopyNames names) {
        page.show(
                NamesModel.of(names, NamesModel.aside(stock(), takenOver.isSelected())),
                Map.of(NamesModel.RENAME, () -> rename(names)));
    }

    private void rename(CopyNames names) {
        desk.rename(names, count -> page.show(NamesModel.done(count)));
    }
}
