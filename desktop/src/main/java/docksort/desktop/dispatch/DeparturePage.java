package docksort.desktop.dispatch;

import static docksort.desktop.parts.TaskFields.choice;
import static docksort.desktop.parts.TaskFields.field;
import static docksort.desktop.parts.TaskFields.row;

import docksort.desktop.parts.Parts;
import docksort.desktop.parts.TaskFields;
import docksort.desktop.parts.TaskPage;
import docksort.desktop.parts.Typed;
import docksort.desktop.workshop.DispatchDesk;
import docksort.desktop.workshop.TimelineView;
import docksort.dispatch.DepartureCheck;
import docksort.dispatch.DepartureCheck.Purpose;
import docksort.media.Raster;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import javafx.beans.property.StringProperty;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ChoiceBox;
import javafx.scene.control.TextField;
import javafx.scene.control.Tooltip;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;

/// The task of checking a timeline and letting it leave.
final class DeparturePage {
    private final DispatchDesk desk;
    private final StringProperty signedBy;
    private final ChoiceBox<Purpose> purpose =
            choice("departure-purpose", "What it leaves for", List.of(Purpose.values()), Purpose::label);
    private final CheckBox sums = new CheckBox("with checksums");
    private final TextField delivery = field("departure-delivery", "Raster of the delivery, such as 1920x1080", 9);
    private final TaskPage page;

    private DeparturePage(DispatchDesk desk, StringProperty signedBy, Runnable back) {
        this.desk = desk;
        this.signedBy = signedBy;
        sums.setId("departure-sums");
        sums.setSelected(true);
        sums.setTooltip(new Tooltip("Reads every file whole, which takes a while for large ones"));
        delivery.setPromptText("say it once");
        known().ifPresent(raster -> delivery.setText(raster.width() + "x" + raster.height()));
        delivery.setOnAction(_ -> keepDelivery());
        Button check = Parts.button("Check", this::check, "main");
        check.setId("departure-check");
        this.page = new TaskPage(
                "departure",
                "Departure check",
                "Looks at the timeline and at every file it leads to as they are now. A timeline for finishing leaves"
                        + " on originals or not at all, unless somebody lets it go by name and reason. One for a review"
                        + " may be on copies, and says so.",
                TaskPage.columns("What", "Event", "What holds, or was found", 130, 130, 360),
                "Choose what it leaves for, and check.",
                row(
                        Parts.label("For", "quiet"),
                        purpose,
                        Parts.label("delivered in", "quiet"),
                        Parts.checked(delivery, Typed::raster),
                        sums,
                        check),
                back);
    }

    /// @param signedBy who signs, kept from one departure to the next
    static TaskPage of(DispatchDesk desk, StringProperty signedBy, Runnable back) {
        return new DeparturePage(desk, signedBy, back).page;
    }

    private Optional<Raster> known() {
        return desk.timeline().get().flatMap(TimelineView::delivery);
    }

    private void keepDelivery() {
        DepartureModel.newDelivery(delivery.getText(), known()).ifPresent(desk::deliver);
    }

    private void check() {
        if (Typed.raster(delivery.getText()).isEmpty()) { // otherwise it is told below the field
            keepDelivery();
            page.follow(desk.check(purpose.getValue(), sums.isSelected(), this::show));
        }
    }

    private void show(DepartureCheck check) {
        page.show(DepartureModel.of(check), check.complete() ? List.of(letGo(check)) : List.of());
    }

    private Node letGo(DepartureCheck check) {
        TextField name = field("departure-name", "Signed by", 10);
        name.textProperty().bindBidirectional(signedBy);
        TextField reason = field("departure-reason", "Why it leaves all the same", 20);
        List<String> stations = DepartureModel.workstations(desk.timeline().get());
        var station = choice("departure-workstation", "For which workstation it is written", stations, text -> text);
        Button leave = Parts.button(
                DepartureModel.deed(check),
                () -> target().ifPresent(target -> leave(check, target, station.getValue(), reason.getText())),
                "main");
        leave.setId("departure-leave");
        Runnable may = () -> leave.setDisable(!DepartureModel.mayGo(check, name.getText(), reason.getText()));
        name.textProperty().subscribe((_, _) -> may.run());
        reason.textProperty().subscribe((_, _) -> may.run());
        may.run();
        var box = new FlowPane(8, 8, Parts.label("signed by"), name);
        if (!check.passes()) {
            box.getChildren().addAll(Parts.label("because"), reason);
        }
        if (stations.size() > 1) {
            box.getChildren().addAll(Parts.label("for"), station);
        }
        box.getChildren().add(leave);
        HBox.setHgrow(box, Priority.ALWAYS);
        return box;
    }

    private void leave(DepartureCheck check, Path target, String station, String reason) {
        desk.depart(
                check,
                target,
                Optional.of(station).filter(text -> !text.equals(DepartureModel.THIS_ONE)),
                signedBy.get(),
                Optional.of(reason.strip()).filter(text -> !text.isEmpty()),
                report -> page.show(DepartureModel.left(report)));
    }

    private Optional<Path> target() {
        String name = desk.timeline()
                .get()
                .map(view -> String.valueOf(view.file().getFileName()))
                .orElse("");
        return TaskFields.save("Where the timeline leaves to", name);
    }
}
