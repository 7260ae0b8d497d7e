package docksort.desktop.arrivals;

import docksort.media.CodedFrame;
import docksort.media.FrameStructure;
import docksort.media.FrameStructure.FrameKind;
import java.util.List;
import javafx.scene.layout.Pane;
import javafx.scene.shape.LineTo;
import javafx.scene.shape.MoveTo;
import javafx.scene.shape.Path;

/// A clip's frame structure as a band of ticks: height is bytes, colour and foot tell the kind. Intra frames
/// stand on the full line, predicted ones are half as strong, two-way ones are thin and short-footed.
public final class FrameRibbon extends Pane {
    private static final double STEP = 2;

    /// @param width how much of the structure is drawn: two pixels a frame
    public FrameRibbon(FrameStructure structure, double width, double height) {
        setMinSize(width, height);
        setPrefSize(width, height);
        setMaxSize(width, height);
        var intra = path("intra");
        var predicted = path("predicted");
        var twoWay = path("two-way");
        List<CodedFrame> frames = structure.frames();
        List<FrameKind> kinds = structure.kinds();
        int shown = (int) Math.min(frames.size(), width / STEP);
        double most =
                frames.stream().limit(shown).mapToInt(CodedFrame::bytes).max().orElse(1);
        for (int i = 0; i < shown; i++) {
            // The square root keeps small frames visible beside a keyframe many times their size.
            double tall = Math.max(2, height * Math.sqrt(frames.get(i).bytes() / Math.max(1, most)));
            double x = i * STEP + 0.6;
            Path path = switch (kinds.get(i)) {
                case INTRA -> intra;
                case PREDICTED -> predicted;
                case TWO_WAY -> twoWay;
            };
            path.getElements().addAll(new MoveTo(x, height), new LineTo(x, height - tall));
        }
        getChildren().addAll(twoWay, predicted, intra);
        setAccessibleText(
                "keyframe every " + structure.keyframeInterval().meanFrames().rounded() + " frames");
    }

    private static Path path(String kind) {
        var path = new Path();
        path.getStyleClass().setAll("tick", kind);
        path.setMouseTransparent(true);
        return path;
    }
}
