package docksort.desktop.arrivals;

import docksort.desktop.parts.Parts;
import docksort.media.ScrubCost;
import docksort.strain.RecordingAdvice;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import javafx.scene.Node;
import javafx.scene.control.Label;
import javafx.scene.control.Slider;
import javafx.scene.layout.VBox;

/// How to record next time, and what the scrub cost would be for any keyframe interval and number of
/// B-frames.
final class WhatIf {
    private static final int LONGEST = 600;
    private static final int MOST_TWO_WAY = 4;

    private WhatIf() {}

    static List<Node> of(RecordingAdvice advice, ScrubCost now) {
        var page = new ArrayList<Node>();
        page.add(Parts.section("Next time record like this"));
        if (advice.points().isEmpty()) {
            page.add(Parts.wrapped("It was recorded as advised: a keyframe every 2 s, one B-frame at most."));
        } else {
            advice.points().forEach(point -> page.add(Parts.wrapped(point)));
            page.add(Parts.wrapped(
                    "A random frame would then take " + advice.would().meanLabel() + " decoded frames instead of "
                            + now.meanLabel() + ".",
                    "remedy"));
        }
        var interval = new Slider(1, LONGEST, Math.min(LONGEST, advice.interval()));
        interval.setId("what-if-interval");
        interval.setAccessibleText("Keyframe interval in frames");
        var twoWay = new Slider(0, MOST_TWO_WAY, 1);
        twoWay.setMajorTickUnit(1);
        twoWay.setMinorTickCount(0);
        twoWay.setSnapToTicks(true);
        twoWay.setAccessibleText("B-frames in a row");
        Label set = Parts.label("");
        Label result = Parts.label("", "strong");
        result.setId("what-if-result");
        Runnable tell = () -> {
            int frames = (int) Math.round(interval.getValue());
            int run = (int) Math.round(twoWay.getValue());
            ScrubCost cost = RecordingAdvice.whatIf(frames, run);
            set.setText(String.format(
                    Locale.ROOT, "Keyframe every %d frames, %d B-frame%s", frames, run, run == 1 ? "" : "s"));
            result.setText("Scrub cost " + cost.meanLabel() + " on average, " + cost.worst() + " at worst");
        };
        interval.valueProperty().subscribe(_ -> tell.run());
        twoWay.valueProperty().subscribe(_ -> tell.run());
        tell.run();
        page.add(new VBox(
                4,
                Parts.label("What if", "caption"),
                set,
                Parts.label("Keyframe interval, 1 to " + LONGEST + " frames", "quiet"),
                interval,
                Parts.label("B-frames in a row, 0 to " + MOST_TWO_WAY, "quiet"),
                twoWay,
                result));
        return page;
    }
}
