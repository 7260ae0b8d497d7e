package docksort.desktop.parts;

import java.util.List;
import javafx.beans.value.ObservableValue;
import javafx.scene.Node;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.TableColumn;
import javafx.scene.control.TableView;

/// One station of the window: its middle, its scope list, its docket, and its line in the flow strip.
public interface Station {
    /// What a station consists of.
    ///
    /// @param list the table that has the keyboard when the station is shown
    /// @param docket the docket's page; the window puts it into a scroll pane
    /// @param number the live number of the flow strip
    /// @param line the line of text of the flow strip
    record Face(
            String name,
            ScopeList scope,
            TableView<?> list,
            Node centre,
            Docket docket,
            ObservableValue<String> number,
            ObservableValue<String> line) {}

    /// The same parts at every call.
    Face face();

    /// The columns of the station's list.
    default List<? extends TableColumn<?, ?>> columns() {
        return face().list().getColumns();
    }

    /// Puts the cursor into the filter, where there is one.
    default void findFocus() {}

    /// The scope list, which scrolls where text is large and arrivals are many.
    static ScrollPane scrolledScope(ScopeList scope) {
        var pane = new ScrollPane(scope);
        pane.setFitToHeight(true);
        pane.setFitToWidth(true);
        pane.setHbarPolicy(ScrollPane.ScrollBarPolicy.NEVER);
        pane.setMinHeight(0);
        pane.setMinWidth(scope.getMinWidth());
        pane.setFocusTraversable(false);
        pane.getStyleClass().add("scope-pane");
        return pane;
    }

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
