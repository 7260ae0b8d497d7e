package docksort.desktop.arrivals;

import docksort.catalogue.TakenOut.Hanging;
import docksort.desktop.parts.Mark;
import docksort.desktop.parts.Parts;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/// Takes something out of the project, or puts it aside, in place: first it says what that does to what
/// hangs on it, and nothing happens before the second button.
final class TakeOutBox {
    private final VBox box = new VBox(6);
    private final FlowPane open = new FlowPane(8, 8);
    private final List<Node> begin = new ArrayList<>();
    private final Consumer<Consumer<Hanging>> ask;

    private TakeOutBox(Consumer<Consumer<Hanging>> ask) {
        this.ask = ask;
    }

    /// @param ask finds out what hangs on it
    /// @param putAside empty for what is aside already
    /// @param bringBack empty for what is not
    static Node of(
            Consumer<Consumer<Hanging>> ask,
            Runnable takeOut,
            Optional<Runnable> putAside,
            Optional<Runnable> bringBack) {
        var made = new TakeOutBox(ask);
        putAside.ifPresent(put -> made.offer(
                "Put aside…",
                "put-aside",
                hanging -> new Preview(
                        TakeOutModel.aside(hanging),
                        "It is kept, and neither planned nor counted, until it is brought back. Copies and timelines"
                                + " stay as they are.",
                        "Put it aside",
                        put)));
        bringBack.ifPresent(bring -> {
            Button back = Parts.button("Bring back", bring, "main");
            back.setId("bring-back");
            made.open.getChildren().add(back);
        });
        made.offer(
                "Take out of the project…",
                "take-out",
                hanging -> new Preview(
                        TakeOutModel.with(hanging),
                        "All files stay where they are. Undo brings all of it back.",
                        "Take it out",
                        takeOut));
        if (bringBack.isPresent()) {
            made.begin.add(Parts.marked(Mark.dash(), "Put aside: neither planned nor counted"));
        }
        made.begin.add(made.open);
        made.box.getChildren().setAll(made.begin);
        return made.box;
    }

    private record Preview(String hanging, String words, String button, Runnable act) {}

    private interface Previewing {
        Preview of(Hanging hanging);
    }

    private void offer(String name, String id, Previewing previewing) {
        Button button = Parts.button(name, () -> ask.accept(hanging -> show(id, hanging, previewing.of(hanging))));
        button.setId(id);
        open.getChildren().add(button);
    }

    private void show(String id, Hanging hanging, Preview preview) {
        Button carryOut = Parts.button(preview.button, preview.act, "main");
        carryOut.setId(id + "-now");
        Button leave = Parts.button("Leave it", () -> box.getChildren().setAll(begin));
        box.getChildren()
                .setAll(
                        Parts.marked(Mark.look(), TakeOutModel.what(hanging), "look"),
                        Parts.wrapped(preview.hanging),
                        Parts.wrapped(preview.words, "quiet"),
                        new HBox(8, carryOut, leave));
    }
}
