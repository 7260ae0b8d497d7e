package docksort.desktop.parts;

import docksort.arrival.Clip;
import docksort.media.VideoFacts;
import java.util.Optional;
import java.util.function.Function;
import javafx.geometry.Insets;
import javafx.scene.Node;
import javafx.scene.control.TableColumn;
import javafx.scene.image.ImageView;
import javafx.scene.image.PixelFormat;
import javafx.scene.image.WritableImage;
import javafx.scene.layout.Background;
import javafx.scene.layout.BackgroundFill;
import javafx.scene.layout.CornerRadii;
import javafx.scene.layout.StackPane;
import javafx.scene.paint.ImagePattern;

/// The small picture at the beginning of a row. It is never blank: what is transparent shows a
/// checkerboard, and what has no picture a sign.
public final class ClipPicture {
    private static final int SQUARE = 4; // pixels
    private static final Background CHECKED = checked();

    private ClipPicture() {}

    /// @param clip empty where a row has none
    public static <T> TableColumn<T, String> column(
            Thumbnails thumbnails, Function<T, Optional<Clip>> clip, Function<T, String> sortKey) {
        TableColumn<T, String> column = Parts.drawn("", 56, sortKey, row -> of(thumbnails, clip.apply(row)));
        column.setId("Picture");
        return column;
    }

    private static Node of(Thumbnails thumbnails, Optional<Clip> clip) {
        var frame = new StackPane();
        frame.getStyleClass().addAll("thumb", "thumb-cell");
        if (clip.filter(one -> one.facts().isDecodable()).isEmpty()) {
            boolean sound = clip.filter(one -> one.facts().video().isEmpty()).isPresent();
            frame.getChildren().setAll(sound ? Mark.dash() : Mark.cross("stop"));
            frame.setAccessibleText(sound ? "sound alone" : "no picture can be shown");
            return frame;
        }
        thumbnails.of(clip.get(), image -> {
            var view = new ImageView(image);
            view.setPreserveRatio(true);
            view.fitWidthProperty().bind(frame.widthProperty());
            view.fitHeightProperty().bind(frame.heightProperty());
            frame.getChildren().setAll(backed(clip.get(), view));
        });
        return frame;
    }

    /// A picture on what shows where it is transparent.
    public static Node backed(Clip clip, ImageView view) {
        boolean alpha = clip.facts()
                .video()
                .map(VideoFacts::pixels)
                .filter(docksort.media.PixelFormat::alpha)
                .isPresent();
        if (!alpha) {
            return view;
        }
        var board = new StackPane(view);
        board.setBackground(CHECKED);
        board.maxWidthProperty().bind(view.layoutBoundsProperty().map(bounds -> bounds.getWidth()));
        board.maxHeightProperty().bind(view.layoutBoundsProperty().map(bounds -> bounds.getHeight()));
        return board;
    }

    private static Background checked() {
        int side = 2 * SQUARE;
        var image = new WritableImage(side, side);
        var pixels = new int[side * side];
        for (int i = 0; i < pixels.length; i++) {
            boolean light = (i % side / SQUARE + i / side / SQUARE) % 2 == 0;
            pixels[i] = light ? 0xffc4c4c4 : 0xff8e8e8e;
        }
        image.getPixelWriter().setPixels(0, 0, side, side, PixelFormat.getIntArgbInstance(), pixels, 0, side);
        return new Background(
                new BackgroundFill(new ImagePattern(image, 0, 0, side, side, false), CornerRadii.EMPTY, Insets.EMPTY));
    }
}
