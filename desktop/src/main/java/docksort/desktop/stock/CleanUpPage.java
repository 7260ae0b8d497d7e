package docksort.desktop.stock;

import static docksort.desktop.parts.TaskFields.choice;
import static docksort.desktop.parts.TaskFields.field;
import static docksort.desktop.parts.TaskFields.whole;

import docksort.arrival.Arrival;
import docksort.catalogue.WorkingCopy;
import docksort.desktop.parts.Parts;
import docksort.desktop.parts.TaskPage;
import docksort.desktop.stock.CleanUpModel.Which;
import docksort.desktop.stock.CleanUpModel.Written;
import docksort.desktop.workshop.ProjectView;
import docksort.desktop.workshop.StockDesk;
import docksort.desktop.workshop.Views;
import docksort.files.Trash;
import docksort.stock.CleanUp;
import docksort.stock.Limits;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.ChoiceBox;
import javafx.scene.control.TextField;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/// The task of making room, and the project's limits for it.
final class CleanUpPage {
    private final StockDesk desk;
    private final ChoiceBox<Which> which;
    private final ChoiceBox<Optional<Arrival>> arrival;
    private final TaskPage page;

    private CleanUpPage(StockDesk desk, Views views, Runnable back) {
        this.desk = desk;
        List<Arrival> arrivals = views.view().get().map(ProjectView::arrivals).orElse(List.of());
        Limits limits = views.view().get().map(ProjectView::limits).orElse(Limits.NONE);
        this.which = choice("clean-which", "Which copies", List.of(Which.values()), Which::label);
        this.arrival = choice(
                "clean-arrival",
                "Of which arrival",
                Stream.concat(
                                Stream.of(Optional.<Arrival>empty()),
                                arrivals.stream().map(Optional::of))
                        .toList(),
                one -> one.map(each -> "of " + each.name()).orElse("of every arrival"));
        this.page = new TaskPage(
                "clean-up",
                "Room and clean-up",
                "All copies can be made again, originals never: only files that the catalogue and the file itself call"
                        + " copies are deleted. Nothing happens before you press a button below.",
                TaskPage.columns("Copy", "Size", "Where, or why it stays", 200, 80, 345),
                "Choose which copies are meant.",
                new VBox(8, new HBox(8, which, arrival), limits(limits)),
                back);
        which.setValue(Which.first(limits));
    }

    static TaskPage of(StockDesk desk, Views views, Runnable back) {
        var task = new CleanUpPage(desk, views, back);
        task.which.valueProperty().subscribe((_, _) -> task.look());
        task.arrival.valueProperty().subscribe((_, _) -> task.look());
        task.look();
        return task.page;
    }

    private void look() {
        Which meant = which.getValue();
        arrival.setDisable(meant == Which.PAST);
        if (meant == Which.PAST) {
            desk.cleanUpPast(plan -> show(plan, meant));
        } else {
            desk.cleanUp(meant.selection(arrival.getValue()), plan -> show(plan, meant));
        }
    }

    /// The project's standing rules, to be set.
    private Node limits(Limits now) {
        Written written = Written.of(now);
        TextField days =
                field("limit-days", "Days that a copy is kept after it was last needed, empty for no limit", 4);
        days.setPromptText("");
        days.setText(written.days());
        TextField most = field("limit-gigabytes", "Gigabytes that all copies may take together, empty for no limit", 6);
        most.setPromptText("");
        most.setText(written.gigabytes());
        var set = Parts.button(
                "Set as limits",
                () -> desk.limit(new Written(days.getText(), most.getText()).limits(), _ -> {
                    which.setValue(Which.PAST);
                    look();
                }));
        set.setId("set-limits");
        Runnable check = () -> {
            var wanted = new Written(days.getText(), most.getText());
            set.setDisable(!wanted.isSound());
            set.setText(wanted.deed());
        };
        days.textProperty().subscribe((_, _) -> check.run());
        most.textProperty().subscribe((_, _) -> check.run());
        var line = new FlowPane(
                8,
                8,
                whole(Parts.label("Limits: keep for")),
                days,
                whole(Parts.label("days without need, at most")),
                most,
                whole(Parts.label("GB in all")),
                set);
        line.setAlignment(Pos.CENTER_LEFT);
        return line;
    }

    private void show(CleanUp plan, Which meant) {
        List<WorkingCopy> all = CleanUpModel.meant(plan);
        page.show(
                CleanUpModel.of(plan, meant),
                Map.of(
                        CleanUpModel.STOP_USING,
                        () -> desk.stopUsing(all, true, count -> page.show(CleanUpModel.stopped(count))),
                        CleanUpModel.FORGET,
                        () -> desk.forget(all, count -> page.show(CleanUpModel.forgotten(count))),
                        CleanUpModel.TO_TRASH,
                        () -> delete(plan, Optional.of(Trash.ofUser())),
                        CleanUpModel.DELETE,
                        () -> delete(plan, Optional.empty())));
    }

    private void delete(CleanUp plan, Optional<Trash> trash) {
        desk.delete(plan, trash, outcome -> page.show(CleanUpModel.deleted(outcome, trash.isPresent())));
    }
}
