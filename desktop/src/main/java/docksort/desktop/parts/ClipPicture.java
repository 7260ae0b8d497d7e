package docksort.desktop.parts;

import docksort.arrival.Clip;
import docksort.media.VideoFacts;
import java.util.Comparator;
import java.util.Optional;
import java.util.function.Function;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.geometry.Insets;
import javafx.scene.Node;
import javafx.scene.control.TableCell;
import javafx.scene.control.TableColumn;
import javafx.scene.image.ImageView;
import javafx.scene.image.PixelFormat;
import javafx.scene.image.WritableImage;
import javafx.scene.layout.Background;
import javafx.scene.layout.BackgroundFill;
import javafx.scene.layout.CornerRadii;
import javafx.scene.layout.StackPane;
import javafx.scene.paint.ImagePattern;
import org.jspecify.annotations.Nullable;

/// The small picture at the beginning of a row. It is never blank: what is transparent shows a
/// checkerboard, and what has no picture a sign.
public final class ClipPicture {
    private static final int SQUARE = 4; // pixels
    private static final Background CHECKED = checked();

    private ClipPicture() {}

    /// @param clip empty where a row has none
    public static <T> TableColumn<T, T> column(
            Thumbnails thumbnails, Function<T, Optional<Clip>> clip, Function<T, String> sortKey) {
        var column = new TableColumn<T, T>("");
        column.setId("Picture");
        column.setPrefWidth(56);
        column.setCellValueFactory(row -> new ReadOnlyObjectWrapper<>(row.getValue()));
        column.setComparator(Comparator.comparing(sortKey));
        column.setCellFactory(_ -> new Cell<>(thumbnails, clip));
        return column;
    }

    /// Keeps what it is made of from row to row.
    private static final class Cell<T> extends TableCell<T, T> {
        private final Thumbnails thumbnails;
        private final Function<T, Optional<Clip>> clip;
        private final ImageView view = new ImageView();
        private final StackPane board = new StackPane(view);
        private final StackPane frame = new StackPane(board);
        private @Nullable T drawn;

        Cell(Thumbnails thumbnails, Function<T, Optional<Clip>> clip) {
            this.thumbnails = thumbnails;
            this.clip = clip;
            frame.getStyleClass().addAll("thumb", "thumb-cell");
            view.setPreserveRatio(true);
            view.fitWidthProperty().bind(frame.widthProperty());
            view.fitHeightProperty().bind(frame.heightProperty());
            fit(board, view);
        }

        @Override
        @SuppressWarnings("ReferenceEquality") // a row that changed is another object
        protected void updateItem(T item, boolean empty) {
            super.updateItem(item, empty);
            T row = empty ? null : item;
            if (row == drawn) {
                return;
            }
            drawn = row;
            setGraphic(row == null ? null : frame);
            if (row != null) {
                show(row, clip.apply(row));
            }
        }

        @SuppressWarnings("ReferenceEquality") // as above
        private void show(T row, Optional<Clip> of) {
            if (of.filter(one -> one.facts().isDecodable()).isEmpty()) {
                boolean sound = of.filter(one -> one.facts().video().isEmpty()).isPresent();
                frame.getChildren().setAll(sound ? Mark.dash() : Mark.cross("stop"));
                frame.setAccessibleText(sound ? "sound alone" : "no picture can be shown");
                return;
            }
            view.setImage(null);
            board.setBackground(null);
            frame.setAccessibleText("");
            frame.getChildren().setAll(board);
            thumbnails.orNone(of.get(), image -> {
                if (drawn != row) {
                    return; // another row is shown here by now
                }
                image.ifPresentOrElse(
                        picture -> {
                            view.setImage(picture);
                            board.setBackground(isTransparent(of.get()) ? CHECKED : null);
                        },
                        () -> {
                            frame.getChildren().setAll(Mark.dash());
                            frame.setAccessibleText("no picture could be made");
                        });
            });
        }
    }

    private static boolean isTransparent(Clip clip) {
        return clip.facts()
                .video()
                .map(VideoFacts::pixels)
                .filter(docksort.media.PixelFormat::alpha)
                .isPresent();
    }

    private static void fit(StackPane board, ImageView view) {
        board.maxWidthProperty().bind(view.layoutBoundsProperty().map(bounds -> bounds.getWidth()));
        board.maxHeightProperty().bind(view.layoutBoundsProperty().map(bounds -> bounds.getHeight()));
    }

    /// A picture on what shows where it is transparent.
    public static Node backed(Clip clip, ImageView view) {
        if (!isTransparent(clip)) {
            return view;
        }
        var board = new StackPane(view);
        board.setBackground(CHECKED);
        fit(board, view);
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
