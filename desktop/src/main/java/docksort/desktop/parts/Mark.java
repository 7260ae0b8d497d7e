package docksort.desktop.parts;

import javafx.scene.layout.Pane;
import javafx.scene.shape.LineTo;
import javafx.scene.shape.MoveTo;
import javafx.scene.shape.Path;
import javafx.scene.transform.Scale;

/// A small shape that stands beside a state's word, so that no state is told by colour alone.
public final class Mark {
    private static final double SIDE = 14; // pixels, at 100 %

    private Mark() {}

    /// One to three lines, heavier for harder.
    public static Pane bars(int count, String... styles) {
        var path = new Path();
        for (int i = 0; i < count; i++) {
            double y = 11 - i * 3.5;
            path.getElements().addAll(new MoveTo(2, y), new LineTo(12, y));
        }
        return framed(path, styles);
    }

    /// For what cannot go on.
    public static Pane cross(String... styles) {
        return framed(new Path(new MoveTo(3, 3), new LineTo(11, 11), new MoveTo(11, 3), new LineTo(3, 11)), styles);
    }

    /// An empty square: nothing there yet, or waiting.
    public static Pane open(String... styles) {
        return framed(square(), styles);
    }

    /// A filled square: there, and good.
    public static Pane full() {
        return framed(square(), "good", "filled");
    }

    /// An arrow: being worked on.
    public static Pane arrow(String... styles) {
        return framed(new Path(new MoveTo(4, 2), new LineTo(11, 7), new LineTo(4, 12)), styles);
    }

    /// A short dash: nothing wanted.
    public static Pane dash(String... styles) {
        return framed(new Path(new MoveTo(4, 7), new LineTo(10, 7)), styles);
    }

    /// A triangle: look at this.
    public static Pane look() {
        return framed(
                new Path(new MoveTo(7, 2), new LineTo(12.5, 11.5), new LineTo(1.5, 11.5), new LineTo(7, 2)), "look");
    }

    private static Path square() {
        return new Path(new MoveTo(3, 3), new LineTo(11, 3), new LineTo(11, 11), new LineTo(3, 11), new LineTo(3, 3));
    }

    private static Pane framed(Path path, String... styles) {
        path.getStyleClass().setAll("state-shape");
        path.getStyleClass().addAll(styles);
        var pane = new Pane(path);
        pane.getStyleClass().add("mark");
        var grown = new Scale(1, 1, 0, 0);
        pane.widthProperty().subscribe(width -> {
            grown.setX(width.doubleValue() / SIDE);
            grown.setY(width.doubleValue() / SIDE);
        });
        path.getTransforms().add(grown);
        return pane;
    }
}
