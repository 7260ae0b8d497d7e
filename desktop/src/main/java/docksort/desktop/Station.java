package docksort.desktop;

import java.util.List;
import javafx.scene.Node;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.TableColumn;

/// One station of the window: its middle, its scope list, its docket, and its line in the flow strip.
public interface Station {
    String name();

    ScopeList scope();

    Node centre();

    /// The docket's page; it is put into a scroll pane of the window's.
    Node docket();

    /// The live number of the flow strip.
    javafx.beans.value.ObservableValue<String> number();

    /// The line of text of the flow strip.
    javafx.beans.value.ObservableValue<String> line();

    /// The columns of the station's list.
    List<? extends TableColumn<?, ?>> columns();

    /// Gives the keyboard to the station's list.
    void listFocus();

    /// Puts the cursor into the filter, where there is one.
    default void findFocus() {}

    /// A docket page that scrolls when it is too long.
    static ScrollPane scrolled(Node page, double scale) {
        var pane = new ScrollPane(page);
        pane.setFitToWidth(true);
        pane.setHbarPolicy(ScrollPane.ScrollBarPolicy.NEVER);
        pane.getStyleClass().add("docket");
        double width = 322 * (1 + scale) / 2;
        pane.setMinWidth(width);
        pane.setPrefWidth(width);
        pane.setMaxWidth(width);
        return pane;
    }
}
