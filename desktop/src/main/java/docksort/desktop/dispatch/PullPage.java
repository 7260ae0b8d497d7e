package docksort.desktop.dispatch;

import static docksort.desktop.parts.TaskFields.choice;
import static docksort.desktop.parts.TaskFields.row;

import docksort.desktop.parts.Parts;
import docksort.desktop.parts.TaskFields;
import docksort.desktop.parts.TaskPage;
import docksort.desktop.workshop.DispatchDesk;
import docksort.dispatch.PullList;
import java.util.List;
import java.util.Map;
import javafx.scene.control.Button;
import javafx.scene.control.ChoiceBox;

/// The task of pulling the files that a timeline needs.
final class PullPage {
    private final DispatchDesk desk;
    private final ChoiceBox<PullList.What> what =
            choice("pull-what", "What is pulled", List.of(PullList.What.values()), PullList.What::label);
    private final TaskPage page;

    private PullPage(DispatchDesk desk, Runnable back) {
        this.desk = desk;
        Button look = Parts.button("List", this::look, "main");
        look.setId("pull-list");
        this.page = new TaskPage(
                "pull",
                "Pull list",
                "Only the files that this timeline needs: originals for finishing, or the copies it is on for an"
                        + " editor elsewhere. Packed into a folder they come with the timeline, a list and their"
                        + " checksums, and open there by relative paths.",
                TaskPage.columns("Recording", "File", "Used", 134, 220, 270),
                "Choose what to pull, and list.",
                row(Parts.label("Pull"), what, look),
                back);
    }

    static TaskPage of(DispatchDesk desk, Runnable back) {
        var pull = new PullPage(desk, back);
        pull.what.valueProperty().subscribe((_, _) -> pull.look());
        return pull.page;
    }

    private void look() {
        desk.pullList(what.getValue(), this::show);
    }

    private void show(PullList list) {
        page.show(PullModel.of(list), Map.of(PullModel.PACK, () -> pack(list), PullModel.WRITE, () -> write(list)));
    }

    private void write(PullList list) {
        TaskFields.save("Pull list", "pull list.csv", "csv")
                .ifPresent(
                        target -> desk.writePullList(list, target, done -> page.show(PullModel.written(list, done))));
    }

    private void pack(PullList list) {
        TaskFields.folder("New or empty folder to pack into")
                .ifPresent(place ->
                        page.follow(desk.pack(list, place, parcel -> page.show(PullModel.packed(list, parcel)))));
    }
}
