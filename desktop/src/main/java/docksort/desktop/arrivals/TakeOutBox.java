package docksort.desktop.arrivals;

import docksort.catalogue.TakenOut.Hanging;
import docksort.desktop.parts.Mark;
import docksort.desktop.parts.Parts;
import java.util.function.Consumer;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/// Takes something out of the project in place: first it says what would go with it, and nothing happens
/// before the second button.
final class TakeOutBox {
    private TakeOutBox() {}

    /// @param ask finds out what hangs on it
    static Node of(Consumer<Consumer<Hanging>> ask, Runnable takeOut) {
        var box = new VBox(6);
        Button open = Parts.button("Take out of the project…", () -> {});
        open.setId("take-out");
        open.setOnAction(_ -> ask.accept(hanging -> {
            Button carryOut = Parts.button("Take it out", takeOut, "main");
            carryOut.setId("take-out-now");
            Button leave = Parts.button("Leave it", () -> box.getChildren().setAll(open));
            box.getChildren()
                    .setAll(
                            Parts.marked(Mark.look(), TakeOutModel.what(hanging), "look"),
                            Parts.wrapped(TakeOutModel.with(hanging)),
                            Parts.wrapped("All files stay where they are. Undo brings all of it back.", "quiet"),
                            new HBox(8, carryOut, leave));
        }));
        box.getChildren().setAll(open);
        return box;
    }
}
