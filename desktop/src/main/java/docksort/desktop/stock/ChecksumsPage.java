package docksort.desktop.stock;

import static docksort.desktop.parts.TaskFields.choice;
import static docksort.desktop.parts.TaskFields.field;
import static docksort.desktop.parts.TaskFields.growing;

import docksort.arrival.Arrival;
import docksort.desktop.parts.Parts;
import docksort.desktop.parts.TaskFields;
import docksort.desktop.parts.TaskPage;
import docksort.desktop.parts.Typed;
import docksort.desktop.workshop.ProjectView;
import docksort.desktop.workshop.StockDesk;
import docksort.desktop.workshop.Views;
import java.util.List;
import java.util.Optional;
import javafx.scene.control.Button;
import javafx.scene.control.ChoiceBox;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/// The task of verifying lists of checksums and writing them.
final class ChecksumsPage {
    private final StockDesk desk;
    private final TextField list = field("sums-list", "A list: .mhl, .md5, .sha1, .xxh", 30);
    private final ChoiceBox<Arrival> arrival;
    private final TaskPage page;

    private ChecksumsPage(StockDesk desk, Views views, Runnable back) {
        this.desk = desk;
        List<Arrival> arrivals = views.view().get().map(ProjectView::arrivals).orElse(List.of());
        this.arrival = choice("sums-arrival", "Arrival to write checksums of", arrivals, Arrival::name);
        list.setOnAction(_ -> verify());
        Button write = Parts.button("Write a generation", this::write);
        write.setDisable(arrivals.isEmpty());
        Button choose = Parts.button(
                "Choose…", () -> TaskFields.file("List of checksums").ifPresent(file -> list.setText(file.toString())));
        var verify = new HBox(
                8, growing(Parts.checked(list, Typed::path)), choose, Parts.button("Verify", this::verify, "main"));
        this.page = new TaskPage(
                "checksums",
                "Checksums",
                "Every file of a list is read whole and held against it. A generation of an ASC Media Hash List is"
                        + " written into a folder of its own beside the originals, which are only read.",
                TaskPage.columns("File", "", "Why", 200, 10, 410),
                "Choose the list that came with the footage, and verify.",
                new VBox(8, verify, new HBox(8, arrival, write)),
                back);
    }

    static TaskPage of(StockDesk desk, Views views, Runnable back) {
        return new ChecksumsPage(desk, views, back).page;
    }

    private void verify() {
        Typed.asPath(list.getText())
                .ifPresent(file -> page.follow(desk.verify(file, check -> page.show(ChecksumsModel.of(check)))));
    }

    private void write() {
        Optional.ofNullable(arrival.getValue())
                .ifPresent(chosen -> page.follow(
                        desk.writeChecksums(chosen, generation -> page.show(ChecksumsModel.written(generation)))));
    }
}
