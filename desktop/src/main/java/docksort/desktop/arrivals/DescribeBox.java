package docksort.desktop.arrivals;

import docksort.desktop.parts.Parts;
import docksort.desktop.parts.Typed;
import docksort.media.ClipFacts;
import docksort.media.Described;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.function.Function;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;

/// Asks what nothing states of recordings that cannot be decoded here.
final class DescribeBox {
    private final TextField raster = field("describe-raster", "6144x3240");
    private final TextField rate = field("describe-rate", "24");
    private final TextField frames = field("describe-frames", "480");
    private final TextField timecode = field("describe-timecode", "10:00:00:00");
    private final TextField reel = field("describe-reel", "A001C003");

    private DescribeBox() {}

    static Node of(List<ClipFacts> all, Consumer<Described> say) {
        return new DescribeBox().box(all, say);
    }

    private DescribeModel written() {
        return new DescribeModel(
                raster.getText(), rate.getText(), frames.getText(), timecode.getText(), reel.getText());
    }

    private Node box(List<ClipFacts> all, Consumer<Described> say) {
        DescribeModel known = DescribeModel.of(all);
        raster.setText(known.raster());
        rate.setText(known.rate());
        frames.setText(known.frames());
        timecode.setText(known.timecode());
        reel.setText(known.reel());
        Button button = Parts.button("Say so", () -> written().said().ifPresent(say), "main");
        button.setId("describe");
        Runnable check =
                () -> button.setDisable(written().said().isEmpty() || written().equals(known));
        check.run();
        for (TextField field : List.of(raster, rate, frames, timecode, reel)) {
            field.textProperty().subscribe(check);
            field.setOnAction(_ -> button.fire());
        }
        boolean open = all.stream().anyMatch(facts -> !facts.lacking().isEmpty());
        var box = new VBox(
                8,
                open
                        ? Parts.wrapped(DescribeModel.question(all), "look")
                        : Parts.wrapped(DescribeModel.question(all), "quiet"),
                line("Raster", raster, Typed::raster),
                line("Rate, fps", rate, DescribeModel::rateFault),
                line("Frames", frames, DescribeModel::framesFault),
                line("Timecode", timecode, text -> written().timecodeFault(text)),
                line("Reel", reel, _ -> Optional.empty()),
                button);
        box.setId("describe-box");
        return box;
    }

    private static Node line(String name, TextField field, Function<String, Optional<String>> fault) {
        Label label = Parts.label(name, "quiet");
        label.setMinWidth(76);
        label.setLabelFor(field);
        Node checked = Parts.checked(field, fault);
        HBox.setHgrow(checked, Priority.ALWAYS);
        return new HBox(8, label, checked);
    }

    private static TextField field(String id, String prompt) {
        var field = new TextField();
        field.setId(id);
        field.setPromptText(prompt);
        field.setAccessibleText("What it is, for instance " + prompt);
        return field;
    }
}
