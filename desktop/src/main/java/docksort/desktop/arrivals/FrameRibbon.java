package docksort.desktop.arrivals;

import docksort.media.CodedFrame;
import docksort.media.FrameStructure;
import docksort.media.FrameStructure.FrameKind;
import docksort.media.Rational;
import docksort.media.ScrubCost;
import java.util.List;
import java.util.Locale;
import java.util.function.Consumer;
import javafx.scene.layout.Pane;
import javafx.scene.shape.LineTo;
import javafx.scene.shape.MoveTo;
import javafx.scene.shape.Path;
import javafx.scene.shape.Rectangle;

/// A clip's frame structure as a band of ticks: height is bytes, colour and foot tell the kind. Intra
/// frames stand on the full line, predicted ones are half as strong, two-way ones are thin and start
/// above the line.
///
/// With a listener, the group under the pointer is lit and what it costs to show its frames is told.
public final class FrameRibbon extends Pane {
    private static final double STEP = 2;
    private static final double FOOT_OF_TWO_WAY = 3;

    private final List<CodedFrame> frames;
    private final Rectangle light = new Rectangle();

    /// @param width how much of the structure is drawn: two pixels a frame
    public FrameRibbon(FrameStructure structure, double width, double height) {
        setMinSize(width, height);
        setPrefSize(width, height);
        setMaxSize(width, height);
        light.getStyleClass().add("ribbon-light");
        light.setVisible(false);
        light.setHeight(height);
        var intra = path("intra");
        var predicted = path("predicted");
        var twoWay = path("two-way");
        int shown = (int) Math.min(structure.count(), width / STEP);
        frames = structure.frames(0, shown);
        List<FrameKind> kinds = FrameStructure.kinds(frames);
        double most = frames.stream().mapToInt(CodedFrame::bytes).max().orElse(1);
        for (int i = 0; i < shown; i++) {
            // The square root keeps small frames visible beside a keyframe many times their size.
            double tall = Math.max(2, height * Math.sqrt(frames.get(i).bytes() / Math.max(1, most)));
            double x = i * STEP + 0.6;
            Path path = switch (kinds.get(i)) {
                case INTRA -> intra;
                case PREDICTED -> predicted;
                case TWO_WAY -> twoWay;
            };
            double foot = kinds.get(i) == FrameKind.TWO_WAY && height > 20 ? height - FOOT_OF_TWO_WAY : height;
            path.getElements().addAll(new MoveTo(x, foot), new LineTo(x, Math.min(foot - 1, height - tall)));
        }
        getChildren().addAll(light, twoWay, predicted, intra);
        setAccessibleText(
                "keyframe every " + structure.keyframeInterval().meanFrames().rounded() + " frames");
    }

    /// Tells of the group under the pointer.
    ///
    /// @param told hears the group in words, and an empty text when the pointer leaves
    public void onGroup(Consumer<String> told) {
        setPickOnBounds(true);
        setOnMouseMoved(event -> lit((int) (event.getX() / STEP), told));
        setOnMouseExited(_ -> {
            light.setVisible(false);
            told.accept("");
        });
    }

    /// Lights the group of a frame, as the pointer does.
    void lit(int frame, Consumer<String> told) {
        if (frame < 0 || frame >= frames.size()) {
            return;
        }
        int from = frame;
        while (from > 0 && !frames.get(from).key()) {
            from--;
        }
        int end = frame + 1;
        while (end < frames.size() && !frames.get(end).key()) {
            end++;
        }
        light.setX(from * STEP);
        light.setWidth((end - from) * STEP);
        light.setVisible(true);
        ScrubCost cost = FrameStructure.of(frames.subList(from, end), FrameStructure.Extent.WHOLE, Rational.of(1))
                .scrubCost();
        long bytes =
                frames.subList(from, end).stream().mapToLong(CodedFrame::bytes).sum();
        String cut = end == frames.size() ? " drawn" : "";
        told.accept(String.format(
                Locale.ROOT,
                "Frames %d to %d%s: %s decoded for one on average, %d at worst, %,d kB",
                from + 1,
                end,
                cut,
                cost.meanLabel(),
                cost.worst(),
                bytes / 1000));
    }

    private static Path path(String kind) {
        var path = new Path();
        path.getStyleClass().setAll("tick", kind);
        path.setMouseTransparent(true);
        return path;
    }
}
