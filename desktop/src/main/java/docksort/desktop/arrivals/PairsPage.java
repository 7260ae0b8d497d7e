package docksort.desktop.arrivals;

import docksort.arrival.Arrival;
import docksort.arrival.Clip;
import docksort.arrival.PairSearch;
import docksort.desktop.parts.Parts;
import docksort.desktop.parts.TaskFields;
import docksort.desktop.parts.TaskPage;
import docksort.desktop.workshop.CameraPairsDesk;
import docksort.stock.CameraPairs;
import docksort.stock.Filling;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import javafx.application.Platform;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.ChoiceBox;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;

/// The small files that a camera wrote beside an arrival's originals.
final class PairsPage {
    private final CameraPairsDesk desk;
    private final Arrival arrival;
    private final PairsModel model;
    private final Button footage = Parts.button("This is footage", this::isFootage);
    private final Button copy = Parts.button("This is a copy of", this::isCopy);
    private final ChoiceBox<Clip> originals =
            TaskFields.choice("pairs-original", "Original that it is a copy of", List.of(), Clip::name);
    private final TaskPage page;

    private PairsPage(CameraPairsDesk desk, Arrival arrival, Runnable back) {
        this.desk = desk;
        this.arrival = arrival;
        this.model = new PairsModel(arrival.folder());
        Button look = Parts.button("Look among footage", this::lookAmongFootage, "main");
        look.setId("pairs-look");
        footage.setId("pairs-footage");
        copy.setId("pairs-copy");
        this.page = new TaskPage(
                "pairs",
                "Small files of " + arrival.name(),
                "Files that the camera wrote beside its originals. Names only suggest a pair; frame count, rate,"
                        + " timecode, shape and, in doubt, pictures decide. Choose a line to say otherwise by hand.",
                TaskPage.columns("Small file", "Original", "Proof, or what is wrong", 150, 90, 380),
                "Reading the pairs.",
                TaskFields.row(look),
                back);
    }

    static TaskPage of(CameraPairsDesk desk, Arrival arrival, Runnable back) {
        var pairs = new PairsPage(desk, arrival, back);
        pairs.page.chosen().subscribe(_ -> pairs.offer());
        pairs.reload();
        return pairs.page;
    }

    private void reload() {
        desk.of(arrival, this::show);
    }

    private void show(CameraPairs pairs) {
        page.show(model.show(pairs), nodes(Optional.empty()));
        offer();
        desk.filling(arrival, filling -> {
            if (filling.isPresent()) {
                page.show(model.show(pairs), nodes(filling));
                offer();
            }
        });
    }

    /// What may be done by hand, and what the camera's settings came to.
    private List<Node> nodes(Optional<Filling> filling) {
        var nodes = new ArrayList<Node>();
        nodes.add(byHand());
        filling.ifPresent(lacking -> {
            Button fill = Parts.button(
                    PairsModel.fill(lacking),
                    () -> desk.fill(lacking, () -> Platform.runLater(() -> page.show(PairsModel.filled(lacking)))));
            fill.setId("pairs-fill");
            nodes.add(fill);
        });
        List<String> settings = model.settings();
        if (settings.isEmpty()) {
            return nodes;
        }
        var below = new VBox(6, new FlowPane(8, 8, nodes.toArray(Node[]::new)));
        below.getChildren().add(Parts.section("For the next shoot: the camera's settings, the easiest copies first"));
        settings.forEach(words -> below.getChildren().add(Parts.wrapped(words)));
        HBox.setHgrow(below, Priority.ALWAYS);
        return List.of(below);
    }

    private Node byHand() {
        return new FlowPane(8, 8, footage, copy, originals);
    }

    /// What may be said of the line that is chosen.
    private void offer() {
        int row = page.chosen().get();
        footage.setDisable(model.copy(row).isEmpty());
        originals.getItems().setAll(model.originals(row));
        originals.getSelectionModel().selectFirst();
        originals.setDisable(originals.getItems().isEmpty());
        copy.setDisable(originals.getItems().isEmpty());
    }

    private void isFootage() {
        model.copy(page.chosen().get()).ifPresent(found -> desk.isFootage(found, this::reload));
    }

    private void isCopy() {
        Optional<Clip> small = model.clip(page.chosen().get());
        Optional<Clip> original = Optional.ofNullable(originals.getValue());
        if (small.isPresent() && original.isPresent()) {
            desk.isCopyOf(small.get(), original.get(), _ -> reload());
        }
    }

    private void lookAmongFootage() {
        page.follow(desk.listedAsFootage(arrival, this::found));
    }

    private void found(List<PairSearch.Pair> pairs) {
        Button take = Parts.button(
                "Make " + (pairs.size() == 1 ? "it a copy" : "them copies"),
                () -> desk.areCopies(pairs, count -> page.show(PairsModel.moved(count))),
                "main");
        take.setId("pairs-take");
        Button leave = Parts.button("Leave them", this::reload);
        page.show(model.show(pairs), pairs.isEmpty() ? List.of(leave) : List.of(take, leave));
    }
}
