package docksort.desktop.arrivals;

import docksort.desktop.parts.Mark;
import docksort.desktop.parts.Parts;
import docksort.strain.CardClass;
import java.util.ArrayList;
import java.util.List;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.control.ToggleButton;
import javafx.scene.control.ToggleGroup;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/// Whether a memory card records a shooting mode with the camera's own proxies.
final class CardPage {
    private CardPage() {}

    static List<Node> page() {
        var page = new ArrayList<Node>();
        page.add(Parts.section("Can the card record proxies too?"));
        var list = new VBox();
        var own = new VBox();
        var classes = new HBox();
        var group = new ToggleGroup();
        TextField main = field("200", "Main stream, Mb/s");
        TextField proxy = field("16", "Proxy, Mb/s");
        Runnable tell = () -> {
            CardClass card = (CardClass) group.getSelectedToggle().getUserData();
            list.getChildren()
                    .setAll(CardModel.usual(card).stream().map(CardPage::line).toList());
            own.getChildren()
                    .setAll(CardModel.typed(card, main.getText(), proxy.getText())
                            .map(CardPage::line)
                            .orElseGet(() -> Parts.wrapped(
                                    "Type whole megabits a second; leave the second empty where there is no proxy.",
                                    "quiet")));
        };
        for (CardClass card : CardClass.values()) {
            var button = new ToggleButton(card.name());
            button.getStyleClass().setAll("order");
            button.setToggleGroup(group);
            button.setUserData(card);
            button.setAccessibleText(card.name() + ", at least " + card.megabytesPerSecond() + " MB/s");
            button.setOnAction(_ -> {
                button.setSelected(true);
                tell.run();
            });
            button.setSelected(card == CardClass.V30);
            classes.getChildren().add(button);
        }
        main.textProperty().subscribe(_ -> tell.run());
        proxy.textProperty().subscribe(_ -> tell.run());
        page.add(classes);
        page.add(Parts.wrapped(
                "The class guarantees that many megabytes a second; 1 MB/s is 8 Mb/s. Usual data rates:", "quiet"));
        page.add(list);
        page.add(Parts.label("Your camera's own figures", "caption"));
        var typed = new HBox(8, main, Parts.label("+", "quiet"), proxy, Parts.label("Mb/s", "quiet"));
        typed.setAlignment(Pos.CENTER_LEFT);
        page.add(typed);
        page.add(own);
        return page;
    }

    private static TextField field(String text, String meaning) {
        var field = new TextField(text);
        field.setPrefWidth(64);
        field.setAccessibleText(meaning);
        return field;
    }

    private static Node line(CardModel.Line of) {
        Label name = Parts.label(of.name());
        name.setMinWidth(0);
        var line = new VBox(
                1,
                new HBox(8, name, Parts.spring(), Parts.label(of.megabits(), "mono")),
                Parts.marked(
                        switch (of.fit()) {
                            case MAIN_AND_PROXY -> Mark.full();
                            case MAIN_ONLY, NO_PROXY_MADE -> Mark.open();
                            case TOO_SLOW -> Mark.cross("stop");
                        },
                        of.words(),
                        "quiet"));
        line.getStyleClass().add("reason");
        return line;
    }
}
