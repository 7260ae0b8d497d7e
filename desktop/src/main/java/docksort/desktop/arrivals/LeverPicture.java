package docksort.desktop.arrivals;

import docksort.desktop.parts.Parts;
import docksort.strain.Lever;
import java.util.ArrayList;
import java.util.List;
import javafx.scene.Node;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/// The figures of a lever test as bars, with what follows from them.
final class LeverPicture {
    private static final double WIDTH = 270;

    private LeverPicture() {}

    static List<Node> of(Lever lever) {
        var page = new ArrayList<Node>();
        page.add(Parts.wrapped(
                lever.limit() == Lever.Limit.NONE
                        ? "Nothing is the limit: it plays as it is"
                        : "The limit is " + lever.limit().label(),
                "strong"));
        page.add(Parts.wrapped(lever.advice(), "remedy"));
        for (Lever.Line line : lever.lines()) {
            var bar = new Region();
            bar.getStyleClass().add("lever-bar");
            bar.setPrefHeight(6);
            bar.setMaxWidth(Math.max(2, WIDTH * line.share()));
            bar.setMinWidth(Math.max(2, WIDTH * line.share()));
            var words = new HBox(6, Parts.label(line.change()), Parts.spring());
            page.add(new VBox(2, words, Parts.label(line.figure(), "mono"), bar));
        }
        page.add(Parts.wrapped(
                "The same stretch each time, three rounds in turn; in brackets the lowest and highest. The volume's bar"
                        + " is the share of its speed that playing needs.",
                "quiet"));
        return page;
    }
}
