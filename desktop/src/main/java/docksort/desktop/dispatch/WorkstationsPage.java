package docksort.desktop.dispatch;

import static docksort.desktop.parts.TaskFields.choice;
import static docksort.desktop.parts.TaskFields.field;
import static docksort.desktop.parts.TaskFields.row;

import docksort.catalogue.Root;
import docksort.desktop.parts.Parts;
import docksort.desktop.parts.TaskPage;
import docksort.desktop.workshop.DispatchDesk;
import docksort.desktop.workshop.Views;
import docksort.dispatch.Places;
import java.util.List;
import java.util.Optional;
import javafx.scene.control.Button;
import javafx.scene.control.ChoiceBox;
import javafx.scene.control.TextField;

/// The task of saying where other workstations see the roots.
final class WorkstationsPage {
    private final DispatchDesk desk;
    private final ChoiceBox<Root> root;
    private final TextField name = field("workstation-name", "Name of the workstation", 12);
    private final TextField path = field("workstation-path", "Its path, such as E:\\Footage; empty for none", 22);
    private final TaskPage page;

    private WorkstationsPage(DispatchDesk desk, Views views, Runnable back) {
        this.desk = desk;
        List<Root> roots = views.view().get().stream()
                .flatMap(view -> view.roots().stream())
                .toList();
        this.root = choice("workstation-root", "Root", roots, Root::name);
        path.setOnAction(_ -> keep());
        Button button = Parts.button("Keep", this::keep, "main");
        button.setId("workstation-keep");
        this.page = new TaskPage(
                "workstations",
                "Workstations",
                "Each workstation sees the storage under its own path. A timeline written there is read here by these,"
                        + " and one that leaves can be written for there.",
                TaskPage.columns("Root", "Workstation", "Path", 140, 140, 340),
                "Say where a workstation sees a root.",
                row(root, name, path, button),
                back);
    }

    static TaskPage of(DispatchDesk desk, Views views, Runnable back) {
        var workstations = new WorkstationsPage(desk, views, back);
        desk.places(workstations::show);
        return workstations.page;
    }

    private void keep() {
        Optional.ofNullable(root.getValue())
                .ifPresent(chosen -> desk.placeElsewhere(chosen, name.getText(), path.getText(), this::show));
    }

    private void show(Places places) {
        page.show(WorkstationsModel.of(places));
    }
}
