package docksort.desktop.dispatch;

import docksort.desktop.Mark;
import docksort.desktop.Parts;
import docksort.desktop.ScopeList;
import docksort.desktop.Station;
import docksort.desktop.TimelineView;
import docksort.desktop.Workshop;
import docksort.dispatch.TimelineEvent;
import docksort.dispatch.TimelineEvent.Standing;
import docksort.stock.ServingOrder;
import java.io.File;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.TableView;
import javafx.scene.control.ToggleButton;
import javafx.scene.control.ToggleGroup;
import javafx.scene.layout.BorderPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;
import javafx.stage.FileChooser;

/// The Dispatch station: which event of a timeline is served by what, and switching it.
public final class DispatchStation implements Station {
    private final Workshop workshop;
    private final DispatchModel model;
    private final ScopeList scope = new ScopeList();
    private final TableView<TimelineEvent> table = new TableView<>();
    private final VBox page = new VBox();
    private final BorderPane centre = new BorderPane();
    private final Label title = Parts.label("", "strong");
    private final HBox orders = new HBox();

    public DispatchStation(Workshop workshop) {
        this.workshop = workshop;
        this.model = new DispatchModel(workshop);
        model.groups().subscribe(scope::show);
        model.scope().bind(scope.chosen());
        page.getStyleClass().add("docket-page");
        centre.getStyleClass().add("centre");
        centre.setTop(bar());
        centre.setCenter(table());
        table.getSelectionModel().selectedItemProperty().subscribe(_ -> showDocket());
        workshop.timeline().subscribe(_ -> show());
        workshop.eachView(_ -> show());
    }

    private Node bar() {
        Button open = Parts.button("Open timeline…", this::open);
        open.setId("open-timeline");
        var bar = new HBox(title, Parts.spring(), Parts.label("Serve", "quiet"), orders, open);
        orders.setId("orders");
        bar.getStyleClass().add("bar");
        return bar;
    }

    private void open() {
        var chooser = new FileChooser();
        chooser.setTitle("Open a timeline");
        chooser.getExtensionFilters().add(new FileChooser.ExtensionFilter("OpenTimelineIO", "*.otio"));
        File chosen = chooser.showOpenDialog(table.getScene().getWindow());
        if (chosen != null) {
            workshop.openTimeline(chosen.toPath());
        }
    }

    private Node table() {
        table.setId("dispatch-table");
        table.setAccessibleText("Events of the timeline");
        table.setItems(model.rows());
        table.setPlaceholder(Parts.empty(
                "No timeline is open",
                "Open an OpenTimelineIO file (.otio) to see which event is served by what. Drop it on this window, or:",
                Parts.button("Open timeline…", this::open, "main")));
        table.getColumns()
                .addAll(List.of(
                        Parts.number("", 40, TimelineEvent::number, row -> Integer.toString(row.number())),
                        Parts.text("Track", 56, TimelineEvent::track),
                        Parts.text("Event", 148, TimelineEvent::name, "mono"),
                        Parts.number(
                                "Frames",
                                68,
                                TimelineEvent::frames,
                                row -> row.frames() > 0 ? Long.toString(row.frames()) : ""),
                        Parts.<TimelineEvent>drawn(
                                "Served by", 150, row -> row.standing().label(), DispatchStation::standing),
                        Parts.text("File", 276, DispatchStation::fileName, "mono")));
        return table;
    }

    private static String fileName(TimelineEvent event) {
        String reference = event.reference();
        String last = reference.substring(reference.lastIndexOf('/') + 1);
        return java.net.URLDecoder.decode(
                last.replace("+", "%2B").replaceAll("%(?![0-9A-Fa-f]{2})", "%25"),
                java.nio.charset.StandardCharsets.UTF_8);
    }

    private static Node standing(TimelineEvent event) {
        String word = event.standing().label();
        return switch (event.standing()) {
            case Standing.OnOriginal _ -> Parts.marked(Mark.full(), word);
            case Standing.OnCopy _ -> Parts.marked(Mark.arrow("good"), word);
            case Standing.Foreign _ -> Parts.marked(Mark.look(), word, "look");
            case Standing.WithoutMedia _ -> Parts.marked(Mark.dash(), word, "quiet");
        };
    }

    private void show() {
        Optional<TimelineView> timeline = workshop.timeline().get();
        title.setText(timeline.map(t -> t.name() + (t.unsaved() ? " · not saved" : ""))
                .orElse(""));
        ServingOrder now =
                workshop.view().get().map(docksort.desktop.ProjectView::order).orElse(ServingOrder.LIGHT_FIRST);
        var group = new ToggleGroup();
        orders.getChildren().clear();
        for (ServingOrder order : ServingOrder.ALL) {
            var button = new ToggleButton(
                    switch (order.id()) {
                        case "light" -> "light first";
                        case "full" -> "full first";
                        default -> "originals";
                    });
            button.setId("order-" + order.id());
            button.getStyleClass().setAll("order");
            button.setAccessibleText("Serve " + order.label());
            button.setToggleGroup(group);
            button.setSelected(order.equals(now));
            button.setOnAction(_ -> {
                button.setSelected(true);
                workshop.switchTimeline(order);
            });
            orders.getChildren().add(button);
        }
        orders.setDisable(timeline.isEmpty());
        showDocket();
    }

    private void showDocket() {
        Optional<TimelineView> timeline = workshop.timeline().get();
        TimelineEvent chosen = table.getSelectionModel().getSelectedItem();
        if (timeline.isEmpty()) {
            page.getChildren()
                    .setAll(
                            Parts.label("Dispatch", "docket-name"),
                            Parts.wrapped(
                                    "A timeline's references are switched to copies for cutting and back to originals"
                                            + " for finishing. Nothing else in it is touched.",
                                    "quiet"));
            return;
        }
        var nodes = new ArrayList<Node>(timeline(timeline.get()));
        if (chosen != null) {
            nodes.add(Parts.section("Event " + chosen.number() + ", " + chosen.name()));
            nodes.add(standing(chosen));
            chosen.clip().ifPresent(clip -> nodes.add(Parts.wrapped("clip " + clip.name(), "quiet")));
            nodes.add(Parts.wrapped(chosen.reference().isEmpty() ? "no reference" : chosen.reference(), "mono"));
        }
        page.getChildren().setAll(nodes);
    }

    private List<Node> timeline(TimelineView view) {
        long copies = view.onCopies();
        long foreign = view.events().stream()
                .filter(e -> e.standing() instanceof Standing.Foreign)
                .count();
        Button save = Parts.button("Save", () -> workshop.saveTimeline(view.file()), "main");
        save.setId("save-timeline");
        save.setDisable(!view.unsaved());
        Button saveAs = Parts.button("Save as…", () -> saveAs(view.file()));
        Button back = Parts.button("Take back the switch", workshop::takeBackSwitch);
        back.setDisable(!view.canTakeBack());
        var nodes = new ArrayList<Node>();
        nodes.add(Parts.wrapped(view.name(), "docket-name"));
        nodes.add(
                copies == 0
                        ? Parts.marked(Mark.full(), "every event is on its original")
                        : Parts.marked(
                                Mark.look(), copies + " of " + view.events().size() + " events are on copies", "look"));
        nodes.add(Parts.wrapped(
                copies == 0
                        ? "Nothing in it is served by a copy."
                        : "For cutting. Serve originals before it leaves for finishing.",
                "quiet"));
        if (foreign > 0) {
            nodes.add(Parts.marked(Mark.look(), foreign + " events use media that is not in the project", "look"));
        }
        nodes.add(new HBox(8, save, saveAs));
        nodes.add(back);
        if (!view.unsaved()) {
            nodes.add(Parts.wrapped("Saved as it stands.", "quiet"));
        }
        nodes.add(Parts.wrapped(view.file().toString(), "mono"));
        return nodes;
    }

    private void saveAs(Path file) {
        var chooser = new FileChooser();
        chooser.setTitle("Save the timeline as");
        chooser.setInitialFileName(String.valueOf(file.getFileName()));
        File chosen = chooser.showSaveDialog(table.getScene().getWindow());
        if (chosen != null) {
            workshop.saveTimeline(chosen.toPath());
        }
    }

    @Override
    public Face face() {
        return new Face("Dispatch", scope, table, centre, page, model.number(), model.line());
    }
}
