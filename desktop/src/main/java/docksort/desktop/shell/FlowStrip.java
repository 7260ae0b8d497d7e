package docksort.desktop.shell;

import docksort.desktop.parts.Parts;
import docksort.desktop.parts.Station;
import docksort.desktop.workshop.ProjectView;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.function.IntConsumer;
import javafx.beans.binding.Bindings;
import javafx.css.PseudoClass;
import javafx.scene.control.Label;
import javafx.scene.control.ToggleButton;
import javafx.scene.control.ToggleGroup;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Pane;
import javafx.scene.layout.Priority;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;
import javafx.scene.shape.Line;

/// The five stations along the top: navigation and status at once.
final class FlowStrip extends HBox {
    private final Label name = Parts.label("Dock Sort", "brand-name");
    private final Label format = Parts.label("opening the project", "quiet");
    private final VBox brand = new VBox(3, name, format);
    private static final PseudoClass NARROW = PseudoClass.getPseudoClass("narrow");
    private static final double LEAST_TAB = 150; // pixels for name, number and line, at 100 %
    private final List<ToggleButton> tabs = new ArrayList<>();
    private final List<Tab> shown = new ArrayList<>();
    private boolean roomy = true;

    /// A station's words: name and number in one line above what it says, or below each other.
    private record Tab(VBox content, HBox head, Label name, Label number, Label line) {
        void fit(boolean room) {
            head.getChildren().setAll(name, Parts.spring());
            content.getChildren().setAll(head);
            if (room) {
                head.getChildren().add(number);
                content.getChildren().add(line);
            } else {
                content.getChildren().add(number);
            }
        }
    }

    FlowStrip(List<Station> stations, IntConsumer choose) {
        getStyleClass().add("flow");
        brand.getStyleClass().add("brand");
        brand.setMinWidth(186);
        getChildren().add(brand);
        var group = new ToggleGroup();
        for (int i = 0; i < stations.size(); i++) {
            int index = i;
            ToggleButton tab = tab(stations.get(i).face(), i + 1);
            tab.setToggleGroup(group);
            tab.setOnAction(_ -> choose.accept(index));
            tabs.add(tab);
            var slanted = new StackPane(tab, slant());
            HBox.setHgrow(slanted, Priority.ALWAYS);
            slanted.setPrefWidth(100);
            slanted.setMinWidth(100);
            getChildren().add(slanted);
        }
    }

    private ToggleButton tab(Station.Face station, int key) {
        var number = Parts.label("", "station-number");
        number.textProperty().bind(station.number());
        var line = Parts.label("", "quiet");
        line.textProperty().bind(station.line());
        line.setMaxWidth(Double.MAX_VALUE);
        var content = new VBox(6);
        content.setFillWidth(true);
        var words = new Tab(content, new HBox(), Parts.label(station.name(), "station-name"), number, line);
        words.fit(true);
        shown.add(words);
        var tab = new ToggleButton();
        tab.setId("station-" + station.name().toLowerCase(Locale.ROOT));
        tab.setGraphic(content);
        tab.getStyleClass().setAll("station");
        tab.setMinWidth(0);
        tab.setMaxWidth(Double.MAX_VALUE);
        tab.setMaxHeight(Double.MAX_VALUE);
        content.prefWidthProperty()
                .bind(Bindings.createDoubleBinding(
                        () -> tab.getWidth()
                                - tab.getInsets().getLeft()
                                - tab.getInsets().getRight(),
                        tab.widthProperty(),
                        tab.insetsProperty()));
        content.setMinWidth(0);
        line.setMinWidth(0);
        station.line()
                .subscribe(text -> tab.setAccessibleText(station.name() + ", key " + key + ": "
                        + station.number().getValue() + " " + text));
        return tab;
    }

    private static Pane slant() {
        var line = new Line(0, 0, 14, 73);
        line.getStyleClass().add("slant");
        var pane = new Pane(line);
        pane.setMouseTransparent(true);
        line.setManaged(false); // it follows the strip's height and must not make it
        line.endYProperty().bind(pane.heightProperty().subtract(1));
        return pane;
    }

    void setScale(double scale) {
        brand.setMinWidth(186 * (1 + scale) / 2);
    }

    /// Names and numbers stay where lines have no room.
    void fit(double width, double scale) {
        boolean room = (width - brand.getMinWidth()) / tabs.size() >= LEAST_TAB * scale;
        if (room == roomy) {
            return;
        }
        roomy = room;
        shown.forEach(tab -> tab.fit(room));
        tabs.forEach(tab -> tab.pseudoClassStateChanged(NARROW, !room));
    }

    void choose(int index) {
        tabs.get(index).setSelected(true);
    }

    void show(ProjectView view) {
        name.setText(view.name());
        format.setText(view.format().label());
    }
}
