package docksort.desktop.stock;

import docksort.catalogue.Presence;
import docksort.catalogue.Root;
import docksort.desktop.parts.Mark;
import docksort.desktop.parts.Parts;
import docksort.desktop.parts.TaskFields;
import docksort.desktop.parts.Typed;
import docksort.desktop.workshop.ProjectView;
import docksort.desktop.workshop.Workshop;
import docksort.link.Relink;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;

/// Roots and what they take, and what pointing one elsewhere would do.
final class PlacesDocket {
    private final Workshop workshop;
    private final StockModel model;
    private final Runnable cleanUp;

    /// @param cleanUp shows what is past the limits
    PlacesDocket(Workshop workshop, StockModel model, Runnable cleanUp) {
        this.workshop = workshop;
        this.model = model;
        this.cleanUp = cleanUp;
    }

    List<Node> places() {
        var nodes = new ArrayList<Node>();
        nodes.add(Parts.label("Places", "docket-name"));
        nodes.add(Parts.wrapped(
                "Each root is a folder that media lies below. When it moved, point the root at its new place: what is"
                        + " the same recording is back, what is not is refused.",
                "quiet"));
        List<Root> roots = workshop.views().view().get().map(ProjectView::roots).orElse(List.of());
        for (Root root : roots) {
            var field = new TextField(root.path().toString());
            field.setId("root-" + root.name().replace(' ', '-'));
            field.setAccessibleText("Folder of root " + root.name());
            Button look = Parts.button("Look there", () -> look(root, field.getText()));
            field.setOnAction(_ -> look(root, field.getText()));
            Button choose = Parts.button("Choose…", () -> choose(root));
            nodes.add(Parts.section(root.name()));
            nodes.add(Parts.checked(field, Typed::path));
            nodes.add(new HBox(8, look, choose));
        }
        nodes.add(Parts.section("Room"));
        nodes.add(Parts.wrapped(model.room(), "quiet"));
        if (model.pastLimits() > 0) {
            nodes.add(Parts.button("Look at those", () -> cleanUp.run()));
        }
        nodes.add(Parts.section("Light copies"));
        nodes.add(lightLines());
        nodes.add(Parts.wrapped(
                "Where a clip has several sizes. The largest that is no larger serves, or else the smallest there is;"
                        + " empty serves the largest.",
                "quiet"));
        nodes.add(Parts.section("Table"));
        nodes.add(Parts.wrapped("Every clip with its copies and what serves it, to read or to count with.", "quiet"));
        nodes.add(Parts.button("Write a table…", this::writeTable));
        return nodes;
    }

    private Node lightLines() {
        int now = workshop.views()
                .view()
                .get()
                .map(view -> view.order().lightLines())
                .orElse(0);
        var field = new TextField(now == 0 ? "" : Integer.toString(now));
        field.setId("light-lines");
        field.setPrefColumnCount(5);
        field.setAccessibleText("Most lines of the light copy that serves");
        field.setOnAction(_ -> {
            if (StockModel.linesFault(field.getText()).isEmpty()) {
                workshop.stock().serveLightUpTo(StockModel.lines(field.getText()));
            }
        });
        return TaskFields.row(
                Parts.label("of up to"), Parts.checked(field, StockModel::linesFault), Parts.label("lines serve"));
    }

    private void look(Root root, String path) {
        if (!path.isBlank() && Typed.path(path).isEmpty()) {
            workshop.stock().previewRelink(root, Path.of(path.strip()));
        }
    }

    private void choose(Root root) {
        TaskFields.folder("Where " + root.name() + " lies now")
                .ifPresent(chosen -> workshop.stock().previewRelink(root, chosen));
    }

    List<Node> preview(Relink relink) {
        var nodes = new ArrayList<Node>();
        nodes.add(Parts.wrapped("Root " + relink.root().name(), "docket-name"));
        nodes.add(Parts.wrapped(relink.newPath().toString(), "mono"));
        nodes.add(line(Mark.full(), relink.count(Presence.State.ONLINE) + " are the same recording"));
        nodes.add(line(Mark.cross("stop"), relink.count(Presence.State.REFUSED) + " are another recording: refused"));
        nodes.add(line(Mark.look(), relink.count(Presence.State.OFFLINE) + " are not there"));
        Button carryOut =
                Parts.button("Point the root there", () -> workshop.stock().carryOut(relink), "main");
        carryOut.setId("carry-out-relink");
        if (relink.lines().isEmpty()) {
            nodes.add(Parts.wrapped("No originals lie below this root; only where copies are kept changes.", "quiet"));
        } else if (relink.count(Presence.State.ONLINE) == 0) {
            carryOut.setDisable(true);
            nodes.add(Parts.wrapped("Nothing of this root is there. Choose another folder.", "quiet"));
        }
        nodes.add(new HBox(8, carryOut, Parts.button("Leave it", workshop.stock()::dropRelink)));
        relink.lines().stream()
                .filter(each -> !each.presence().isOnline())
                .limit(30)
                .forEach(each -> {
                    nodes.add(Parts.section(each.clip().name()));
                    nodes.add(Parts.wrapped(each.presence().note(), "quiet"));
                });
        return nodes;
    }

    private static Node line(Node mark, String words) {
        return Parts.marked(mark, words);
    }

    private void writeTable() {
        TaskFields.save("Clips and their copies", "copies.html", "html", "csv")
                .ifPresent(file -> workshop.stock().writeTable(file));
    }
}
