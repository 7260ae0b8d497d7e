package docksort.desktop.arrivals;

import docksort.desktop.arrivals.CardModel.Reckoned;
import docksort.desktop.arrivals.CardModel.Typed;
import docksort.desktop.parts.Mark;
import docksort.desktop.parts.Parts;
import docksort.desktop.workshop.LibraryDesk;
import docksort.strain.CardClass;
import docksort.strain.ShootingMode;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.control.ToggleButton;
import javafx.scene.control.ToggleGroup;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/// Whether a memory card records a shooting mode with the camera's own proxies, and for how long.
final class CardPage {
    private final LibraryDesk library;
    private final VBox usual = new VBox();
    private final VBox kept = new VBox();
    private final VBox own = new VBox(4);
    private final HBox classes = new HBox();
    private final ToggleGroup group = new ToggleGroup();
    private final TextField raster = field("card-raster", "3840x2160", "Raster, such as 3840x2160", 92);
    private final TextField rate = field("card-rate", "25", "Frames a second", 50);
    private final TextField bits = field("card-bits", "10", "Bits a sample", 36);
    private final TextField main = field("card-main", "", "Main stream, Mb/s; empty for the usual one", 56);
    private final TextField proxy = field("card-proxy", "", "Proxy, Mb/s; empty for none", 56);
    private final TextField gigabytes = field("card-gigabytes", "128", "Size of the card, GB", 50);
    private Optional<ShootingMode> toKeep = Optional.empty();

    private CardPage(LibraryDesk library) {
        this.library = library;
    }

    /// The same nodes go on showing what was typed, however often the page around them is built anew.
    static List<Node> page(LibraryDesk library) {
        return List.copyOf(new CardPage(library).nodes());
    }

    private List<Node> nodes() {
        for (CardClass card : CardClass.values()) {
            var button = new ToggleButton(card.name());
            button.getStyleClass().setAll("order");
            button.setToggleGroup(group);
            button.setUserData(card);
            button.setAccessibleText(card.name() + ", at least " + card.megabytesPerSecond() + " MB/s");
            button.setOnAction(_ -> {
                button.setSelected(true);
                tell();
            });
            button.setSelected(card == CardClass.V30);
            classes.getChildren().add(button);
        }
        main.setPromptText("usual");
        proxy.setPromptText("none");
        for (TextField field : List.of(raster, rate, bits, main, proxy, gigabytes)) {
            field.textProperty().subscribe(_ -> tell());
        }
        library.kept().subscribe(_ -> tell());
        Button keep = Parts.button("Keep these data rates", () -> toKeep.ifPresent(library::keep));
        keep.setId("card-keep");
        own.getChildren().setAll(new VBox(), keep);
        var page = new ArrayList<Node>();
        page.add(Parts.section("Can the card record proxies too?"));
        page.add(classes);
        page.add(Parts.wrapped(
                "The class guarantees that many megabytes a second; 1 MB/s is 8 Mb/s. Usual data rates:", "quiet"));
        page.add(usual);
        page.add(kept);
        page.add(Parts.label("What do you shoot?", "caption"));
        page.add(line(raster, word("at"), rate, word("fps,"), bits, word("bit")));
        page.add(line(main, word("+"), proxy, word("Mb/s, on"), gigabytes, word("GB")));
        page.add(own);
        tell();
        return page;
    }

    private static FlowPane line(Node... parts) {
        var line = new FlowPane(5, 4, parts);
        line.setAlignment(Pos.CENTER_LEFT);
        return line;
    }

    private static Label word(String text) {
        return Parts.label(text, "quiet");
    }

    private void tell() {
        if (group.getSelectedToggle() == null || own.getChildren().isEmpty()) {
            return; // not all of it is there yet
        }
        CardClass card = (CardClass) group.getSelectedToggle().getUserData();
        List<ShootingMode> modes = library.kept().get().modes();
        usual.getChildren()
                .setAll(CardModel.of(card, ShootingMode.USUAL).stream()
                        .map(CardPage::line)
                        .toList());
        kept.getChildren().clear();
        if (!modes.isEmpty()) {
            kept.getChildren().add(Parts.label("Your own", "caption"));
        }
        List<CardModel.Line> lines = CardModel.of(card, modes);
        for (int i = 0; i < lines.size(); i++) {
            ShootingMode mode = modes.get(i);
            Button forget = Parts.button("Forget", () -> library.forget(mode), "link");
            forget.setAccessibleText("Forget " + mode.name());
            kept.getChildren().addAll(line(lines.get(i)), forget);
        }
        Optional<Reckoned> reckoned = CardModel.reckon(
                card,
                new Typed(
                        raster.getText(),
                        rate.getText(),
                        bits.getText(),
                        main.getText(),
                        proxy.getText(),
                        gigabytes.getText()),
                modes);
        toKeep = reckoned.filter(Reckoned::own).map(Reckoned::mode);
        own.getChildren().getLast().setVisible(toKeep.isPresent());
        own.getChildren().getLast().setManaged(toKeep.isPresent());
        own.getChildren()
                .set(
                        0,
                        reckoned.map(of -> (Node) new VBox(2, line(of.line()), Parts.wrapped(of.words(), "quiet")))
                                .orElseGet(() -> Parts.wrapped(
                                        "Type a raster such as 3840x2160, frames a second, and bits; data rates are"
                                                + " whole megabits a second, or left empty.",
                                        "quiet")));
    }

    private static TextField field(String id, String text, String meaning, double width) {
        var field = new TextField(text);
        field.setId(id);
        field.setPrefWidth(width);
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
