package docksort.desktop.arrivals;

import docksort.desktop.Parts;
import docksort.desktop.Thumbnails;
import docksort.media.AudioStream;
import docksort.media.ClipFacts;
import docksort.media.FrameStructure;
import docksort.media.Timecode;
import docksort.media.VideoFacts;
import docksort.strain.Reason;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Collectors;
import javafx.scene.Node;
import javafx.scene.control.Label;
import javafx.scene.image.ImageView;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;
import org.jspecify.annotations.Nullable;

/// The side sheet that explains one clip: its picture, its strain with every reason, all its facts.
final class ClipDocket {
    private ClipDocket() {}

    static List<Node> of(@Nullable ClipRow row, Thumbnails thumbnails) {
        return switch (row) {
            case null ->
                List.of(
                        Parts.label("Docket", "docket-name"),
                        Parts.wrapped("Select a clip to see its facts and why it is easy or hard to scrub.", "quiet"));
            case ClipRow.Refused refused -> refused(refused);
            case ClipRow.Known readable -> readable(readable, thumbnails);
        };
    }

    private static List<Node> refused(ClipRow.Refused row) {
        return List.of(
                Parts.wrapped(row.name(), "docket-name"),
                ArrivalsStation.verdict(row.verdict()),
                Parts.wrapped("Cannot be read: " + row.file().problem().why() + "."),
                Parts.wrapped(row.file().problem().untouched(), "quiet"),
                Parts.wrapped(row.file().problem().next(), "remedy"),
                Parts.wrapped(row.file().file().toString(), "mono"));
    }

    private static List<Node> readable(ClipRow.Known row, Thumbnails thumbnails) {
        var page = new ArrayList<Node>();
        page.add(Parts.wrapped(row.name(), "docket-name"));
        page.add(picture(row, thumbnails));
        var verdict = new HBox(10, ArrivalsStation.verdict(row), Parts.label("served by " + row.servedBy(), "quiet"));
        verdict.setAlignment(javafx.geometry.Pos.CENTER_LEFT);
        page.add(verdict);
        row.video()
                .map(VideoFacts::structure)
                .filter(FrameStructure::isKnown)
                .ifPresent(structure -> page.add(new FrameRibbon(structure, 284, 46)));
        row.strain().reasons().forEach(reason -> page.add(reason(reason)));
        page.add(Parts.section("Facts"));
        facts(row.clip().facts()).forEach(page::add);
        page.add(fact("File", row.clip().source().head().toString()));
        page.add(fact("Fingerprint", row.clip().fingerprint().hash().substring(0, 12)));
        return page;
    }

    private static Node picture(ClipRow.Known row, Thumbnails thumbnails) {
        var frame = new StackPane();
        frame.getStyleClass().add("thumb");
        frame.setMinHeight(160);
        thumbnails.of(row.clip(), image -> {
            var view = new ImageView(image);
            view.setPreserveRatio(true);
            view.setFitWidth(284);
            view.setFitHeight(160);
            frame.getChildren().setAll(view);
        });
        return frame;
    }

    private static Node reason(Reason reason) {
        Label figure = Parts.label(reason.figure(), "reason-figure");
        figure.setMinWidth(62);
        var text = new VBox(2, Parts.wrapped(reason.text()));
        if (!reason.remedy().isEmpty()) {
            text.getChildren().add(Parts.wrapped(reason.remedy(), "remedy"));
        }
        HBox.setHgrow(text, Priority.ALWAYS);
        var line = new HBox(10, figure, text);
        line.getStyleClass().add("reason");
        return line;
    }

    private static List<Node> facts(ClipFacts facts) {
        var lines = new ArrayList<Node>();
        lines.add(fact("Container", facts.container()));
        facts.video().ifPresent(v -> {
            lines.add(fact(
                    "Codec",
                    v.codec().label()
                            + (v.codec().level() > 0 ? ", level " + v.codec().level() : "")));
            lines.add(fact(
                    "Raster", v.raster() + (v.rotationDegrees() != 0 ? ", turned " + v.rotationDegrees() + "°" : "")));
            if (!v.displayRaster().equals(v.raster())) {
                lines.add(fact("Shown at", v.displayRaster().toString()));
            }
            lines.add(fact(
                    "Pixel aspect", v.isSquare() ? "square" : v.pixelAspect().toString()));
            lines.add(fact("Rate", v.rate() + " fps, " + v.rateKind().label()));
            lines.add(fact(
                    "Frames",
                    v.frames().count() + ", "
                            + switch (v.frames().origin()) {
                                case COUNTED -> "counted";
                                case STATED -> "by the container's index";
                                case ESTIMATED -> "from duration and rate";
                            }));
            lines.add(fact("Depth, chroma", v.pixels().label()));
            lines.add(fact("Scan", v.scan().label()));
            lines.add(fact("Colour", v.colour().label()));
            if (v.structure().isKnown() && !v.structure().isAllIntra()) {
                lines.add(fact(
                        "Keyframes",
                        "every " + v.structure().keyframeInterval().meanFrames().rounded() + " frames, at most "
                                + v.structure().keyframeInterval().worstFrames()));
                lines.add(fact("Two-way frames", "at most " + v.structure().longestTwoWayRun() + " in a row"));
            }
        });
        lines.add(fact("Timecode", facts.startTimecode().map(Timecode::toString).orElse("none")));
        lines.add(fact("Reel", facts.reel().orElse("not stated")));
        lines.add(fact(
                "Sound",
                facts.audio().isEmpty()
                        ? "none"
                        : facts.audio().stream().map(AudioStream::label).collect(Collectors.joining("; "))));
        lines.add(fact(
                "Size",
                facts.size() + ", " + String.format(java.util.Locale.ROOT, "%.1f Mb/s", facts.bitsPerSecond() / 1e6)));
        facts.complaints().forEach(said -> lines.add(fact("Complaint", said)));
        return lines;
    }

    private static Node fact(String name, String value) {
        Label title = Parts.label(name, "quiet");
        title.setMinWidth(92);
        Label text = Parts.wrapped(value);
        HBox.setHgrow(text, Priority.ALWAYS);
        var line = new HBox(title, text);
        line.getStyleClass().add("fact-line");
        return line;
    }
}
