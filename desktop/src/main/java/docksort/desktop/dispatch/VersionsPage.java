package docksort.desktop.dispatch;

import static docksort.desktop.parts.TaskFields.row;

import docksort.desktop.parts.Parts;
import docksort.desktop.parts.TaskFields;
import docksort.desktop.parts.TaskPage;
import docksort.desktop.workshop.DispatchDesk;
import docksort.desktop.workshop.TimelineView;
import java.nio.file.Path;
import javafx.scene.control.Button;

/// The task of comparing a timeline with an older version of it.
final class VersionsPage {
    private final DispatchDesk desk;
    private final TaskPage page;

    private VersionsPage(DispatchDesk desk, Runnable back) {
        this.desk = desk;
        Button choose = Parts.button(
                "Choose the older version…",
                () -> TaskFields.file("The older version").ifPresent(this::compareWith),
                "main");
        choose.setId("compare-choose");
        this.page = new TaskPage(
                "compare",
                "Compare versions",
                "What is otherwise in the open timeline than in an older version: uses of recordings that were added,"
                        + " extended, shortened, dropped or put in the place of others.",
                TaskPage.columns("Event", "Track", "What", 190, 80, 355),
                "Choose the older version.",
                row(choose),
                back);
    }

    static TaskPage of(DispatchDesk desk, Runnable back) {
        var versions = new VersionsPage(desk, back);
        desk.timeline().get().flatMap(TimelineView::news).ifPresent(news -> versions.page.show(VersionsModel.of(news)));
        return versions.page;
    }

    private void compareWith(Path older) {
        page.follow(desk.compare(older, comparison -> page.show(VersionsModel.of(comparison))));
    }
}
