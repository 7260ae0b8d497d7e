package docksort.desktop.arrivals;

import docksort.arrival.Clip;
import docksort.arrival.Unreadable;
import docksort.desktop.parts.ClipPicture;
import docksort.desktop.parts.FileName;
import docksort.desktop.parts.Parts;
import docksort.desktop.parts.Thumbnails;
import docksort.desktop.workshop.Insight;
import docksort.desktop.workshop.MeasuringDesk;
import docksort.desktop.workshop.Workshop;
import docksort.media.AudioStream;
import docksort.media.ByteSize;
import docksort.media.ClipFacts;
import docksort.media.ClipSound;
import docksort.media.FrameRate;
import docksort.media.FrameStructure;
import docksort.media.Hdr;
import docksort.media.Rational;
import docksort.media.Timecode;
import docksort.media.VideoFacts;
import docksort.strain.ClipMeasurements;
import docksort.strain.Lever;
import docksort.strain.Reason;
import docksort.strain.RecordingAdvice;
import docksort.strain.Verdict;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.image.ImageView;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;

/// The side sheet that explains one clip, or several: picture, strain with every reason, what can be
/// measured, advice, all facts.
final class ClipDocket {
    private static final double WIDTH = 284;
    private static final int PICTURES_IN_A_CLIP = 12;
    private static final int MOST_TOLD = 12;

    private final Workshop workshop;
    private final Thumbnails thumbnails;
    private final Insight insight;

    ClipDocket(Workshop workshop, Thumbnails thumbnails, Insight insight) {
        this.workshop = workshop;
        this.thumbnails = thumbnails;
        this.insight = insight;
    }

    List<Node> of(ClipRow row) {
        return switch (row) {
            case ClipRow.Refused refused -> refused(refused);
            case ClipRow.Known readable -> readable(readable);
        };
    }

    /// What several clips have in common, and what can be done with all of them.
    List<Node> ofSeveral(List<ClipRow.Known> rows) {
        var page = new ArrayList<Node>();
        page.add(Parts.label(rows.size() + " clips", "docket-name"));
        Map<Verdict, Long> verdicts =
                rows.stream().collect(Collectors.groupingBy(ClipRow::verdict, TreeMap::new, Collectors.counting()));
        verdicts.forEach((verdict, count) ->
                page.add(new HBox(10, ClipColumns.verdict(verdict), Parts.label(count.toString(), "mono"))));
        page.add(Parts.fact(
                "Size",
                new ByteSize(rows.stream()
                                .mapToLong(row -> row.clip().facts().size().bytes())
                                .sum())
                        .toString()));
        List<Clip> open = rows.stream()
                .map(ClipRow.Known::clip)
                .filter(clip -> clip.facts().isRateOpen())
                .toList();
        if (!open.isEmpty()) {
            page.add(rateQuestion(open));
        }
        List<Clip> silent = rows.stream()
                .map(ClipRow.Known::clip)
                .filter(clip -> DescribeModel.concerns(clip.facts()))
                .toList();
        if (!silent.isEmpty()) {
            page.add(describing(silent));
        }
        page.add(Parts.section("Measured on this machine"));
        long measured = rows.stream()
                .filter(row -> insight.measured(row.clip()).play().isPresent())
                .count();
        page.add(Parts.wrapped(measured + " of " + rows.size() + " measured."));
        List<Clip> clips = rows.stream().map(ClipRow.Known::clip).toList();
        page.add(new FlowPane(
                8,
                8,
                Parts.button(
                        "Measure play and jumps", () -> workshop.measuring().measure(clips)),
                Parts.button("Which lever helps?", () -> workshop.measuring().testLevers(clips))));
        Map<Lever.Limit, Long> limits = clips.stream()
                .flatMap(clip -> insight.lever(clip).stream())
                .collect(Collectors.groupingBy(Lever::limit, TreeMap::new, Collectors.counting()));
        limits.forEach((limit, count) -> page.add(Parts.fact(count + " limited by", limit.label())));
        if (clips.stream().anyMatch(MeasuringDesk::hasSound)) {
            page.addAll(soundOfSeveral(clips));
        }
        page.add(Parts.section("Out again"));
        page.add(out(clips, List.of(), rows.stream().allMatch(ClipRow::isAside)));
        return page;
    }

    private List<Node> soundOfSeveral(List<Clip> clips) {
        List<Clip> heard =
                clips.stream().filter(clip -> insight.sound(clip).isPresent()).toList();
        var page = new ArrayList<Node>();
        page.add(Parts.section("Sound"));
        page.add(Parts.wrapped(heard.size() + " of "
                + clips.stream().filter(MeasuringDesk::hasSound).count() + " with sound measured."));
        List<Clip> odd = heard.stream()
                .filter(clip -> !insight.sound(clip)
                        .map(ClipSound::told)
                        .orElse(List.of())
                        .isEmpty())
                .toList();
        odd.stream()
                .limit(MOST_TOLD)
                .forEach(clip -> page.add(Parts.wrapped(
                        insight.names().of(clip) + ": "
                                + String.join(
                                        ". ", insight.sound(clip).orElseThrow().told()) + ".",
                        "look")));
        if (odd.size() > MOST_TOLD) {
            page.add(Parts.wrapped(
                    "and " + (odd.size() - MOST_TOLD) + " more with a silent or clipping channel.", "look"));
        }
        page.add(Parts.button("Measure sound", () -> workshop.measuring().measureSound(clips)));
        return page;
    }

    private Node out(List<Clip> clips, List<Unreadable> files, boolean aside) {
        return TakeOutBox.of(
                then -> workshop.arrivals().hangingOn(clips, files, then),
                () -> workshop.arrivals().takeOut(clips, files),
                aside ? Optional.empty() : Optional.of(() -> workshop.arrivals().putAside(clips, files)),
                aside ? Optional.of(() -> workshop.arrivals().bringBack(clips, files)) : Optional.empty());
    }

    private List<Node> refused(ClipRow.Refused row) {
        return List.of(
                Parts.wrapped(row.name(), "docket-name"),
                ClipColumns.verdict(row.verdict()),
                Parts.wrapped("Cannot be read: " + row.file().problem().why() + "."),
                Parts.wrapped(row.file().problem().untouched(), "quiet"),
                Parts.wrapped(row.file().problem().next(), "remedy"),
                FileName.of(row.file().file()),
                Parts.section("Out again"),
                out(List.of(), List.of(row.file()), row.isAside()));
    }

    private List<Node> readable(ClipRow.Known row) {
        var page = new ArrayList<Node>();
        page.add(Parts.wrapped(insight.names().of(row.clip()), "docket-name"));
        if (row.clip().facts().isDecodable()) {
            page.add(picture(row));
        }
        var verdict = new HBox(10, ClipColumns.verdict(row), Parts.label("served by " + row.servedBy(), "quiet"));
        verdict.setAlignment(Pos.CENTER_LEFT);
        page.add(verdict);
        if (row.clip().facts().isRateOpen()) {
            page.add(rateQuestion(List.of(row.clip())));
        }
        if (DescribeModel.concerns(row.clip().facts())) {
            page.add(describing(List.of(row.clip())));
        }
        row.video()
                .map(VideoFacts::structure)
                .filter(FrameStructure::isKnown)
                .ifPresent(structure -> page.add(ribbon(structure)));
        row.strain().reasons().forEach(reason -> page.add(reason(reason)));
        if (row.clip().facts().isDecodable()) {
            page.addAll(measuring(row));
        }
        if (MeasuringDesk.hasSound(row.clip())) {
            page.addAll(sound(row.clip()));
        }
        RecordingAdvice.of(row.clip().facts())
                .ifPresent(advice -> row.strain().scrubCost().ifPresent(cost -> page.addAll(WhatIf.of(advice, cost))));
        page.add(Parts.section("Facts"));
        facts(row.clip().facts()).forEach(page::add);
        if (row.differs()) {
            page.add(Parts.fact("Differs in", String.join(", ", row.differences())));
        }
        insight.whereabouts().volumes().stream()
                .filter(on -> on.clips().contains(row.clip()))
                .findFirst()
                .ifPresent(on -> page.add(Parts.fact(
                        "Volume",
                        ArrivalsModel.shortName(on.volume().name()) + ", "
                                + on.volume().kind())));
        page.add(FileName.of(row.clip().source().head()));
        if (row.clip().source().files().size() > 1) {
            page.add(Parts.fact(
                    "Files", Integer.toString(row.clip().source().files().size())));
        }
        page.add(Parts.fact("Fingerprint", row.clip().fingerprint().hash().substring(0, 12)));
        page.add(Parts.section("Out again"));
        page.add(out(List.of(row.clip()), List.of(), row.isAside()));
        return page;
    }

    private static Node ribbon(FrameStructure structure) {
        var ribbon = new FrameRibbon(structure, WIDTH, 46);
        ribbon.setId("docket-ribbon");
        Label told = Parts.wrapped(legend(structure), "quiet");
        told.setId("ribbon-words");
        told.setMinHeight(38);
        ribbon.onGroup(words -> told.setText(words.isEmpty() ? legend(structure) : words));
        return new VBox(4, ribbon, told);
    }

    private static String legend(FrameStructure structure) {
        String frames = Math.min(structure.count(), (int) (WIDTH / 2)) + " of " + structure.count() + " frames"
                + (structure.extent() == FrameStructure.Extent.STRETCH ? " that were sampled" : "");
        return structure.isAllIntra()
                ? frames + "; every one stands alone"
                : frames + "; full ticks are keyframes. Point at a group to see its cost.";
    }

    /// Nothing states a rate: the person must say how to read the clip, because a guess would change its
    /// length.
    private Node rateQuestion(List<Clip> open) {
        var buttons = new FlowPane(6, 6);
        for (FrameRate rate : FrameRate.COMMON) {
            if (rate.exact().compareTo(Rational.of(61)) < 0) {
                var button =
                        Parts.button(rate.label(), () -> workshop.arrivals().readAt(open, rate));
                button.setAccessibleText("Read at " + rate.label() + " frames a second");
                buttons.getChildren().add(button);
            }
        }
        var box = new VBox(
                8,
                Parts.wrapped(
                        open.size() == 1
                                ? "It states no frame rate. How is it to be read?"
                                : open.size() + " of them state no frame rate. How are they to be read?",
                        "look"),
                buttons);
        box.setId("rate-question");
        return box;
    }

    private Node describing(List<Clip> silent) {
        return DescribeBox.of(
                silent.stream().map(Clip::facts).toList(),
                said -> workshop.arrivals().describe(silent, said));
    }

    private List<Node> measuring(ClipRow.Known row) {
        var page = new ArrayList<Node>();
        ClipMeasurements measured = insight.measured(row.clip());
        page.add(Parts.section("Measured on this machine"));
        if (measured.play().isEmpty()) {
            page.add(Parts.wrapped("How it plays and how long a jump takes has not been measured yet.", "quiet"));
        } else {
            measured.play()
                    .ifPresent(play -> page.add(Parts.fact(
                            "Plays at",
                            play.label() + " times its rate: "
                                    + play.framesPerSecond().label() + " fps")));
            page.add(Parts.fact(
                    "A jump takes",
                    measured.seekMillis().map(ms -> ms.label() + " ms").orElse("not measured: too short, or stills")));
        }
        Button measure = Parts.button(
                measured.play().isEmpty() ? "Measure play and jumps" : "Measure again",
                () -> workshop.measuring().measure(List.of(row.clip())));
        measure.setId("measure-clip");
        Button lever =
                Parts.button("Which lever helps?", () -> workshop.measuring().testLevers(List.of(row.clip())));
        lever.setId("test-levers");
        boolean copyable = MeasuringDesk.canTestLevers(row.clip());
        lever.setDisable(!copyable);
        page.add(new FlowPane(8, 8, measure, lever));
        if (!copyable) {
            page.add(Parts.wrapped("The levers need a trial copy, and none can be made yet.", "quiet"));
        }
        insight.lever(row.clip()).ifPresent(found -> page.addAll(LeverPicture.of(found)));
        return page;
    }

    private List<Node> sound(Clip clip) {
        var page = new ArrayList<Node>();
        page.add(Parts.section("Sound"));
        Optional<ClipSound> known = insight.sound(clip);
        if (known.isEmpty()) {
            page.add(Parts.wrapped(
                    "How loud its channels are, and whether one is silent or clips, has not been measured yet.",
                    "quiet"));
        }
        known.ifPresent(sound -> page.addAll(SoundPicture.of(sound)));
        Button measure = Parts.button(
                known.isEmpty() ? "Measure sound" : "Measure sound again",
                () -> workshop.measuring().measureSound(List.of(clip)));
        measure.setId("measure-sound");
        page.add(measure);
        return page;
    }

    /// The picture; moving the pointer over it goes through the clip.
    private Node picture(ClipRow.Known row) {
        var frame = new StackPane();
        frame.getStyleClass().add("thumb");
        frame.setMinHeight(160);
        frame.setId("docket-picture");
        frame.setAccessibleText("Picture of " + row.name() + "; move the pointer over it to go through the clip");
        var view = new ImageView();
        view.setPreserveRatio(true);
        view.setFitWidth(WIDTH);
        view.setFitHeight(160);
        frame.getChildren().setAll(ClipPicture.backed(row.clip(), view));
        thumbnails.of(row.clip(), view::setImage);
        frame.setOnMouseMoved(event -> {
            int place = (int) Math.clamp(
                    event.getX() / Math.max(1, frame.getWidth()) * PICTURES_IN_A_CLIP, 0, PICTURES_IN_A_CLIP - 1);
            thumbnails.at(row.clip(), new Rational(place * 2L + 1, PICTURES_IN_A_CLIP * 2L), view::setImage);
        });
        frame.setOnMouseExited(_ -> thumbnails.of(row.clip(), view::setImage));
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
        lines.add(Parts.fact("Container", facts.container()));
        facts.video().ifPresent(v -> {
            lines.add(Parts.fact(
                    "Codec",
                    v.codec().label()
                            + (v.codec().level() > 0 ? ", level " + v.codec().level() : "")));
            lines.add(Parts.fact(
                    "Raster", v.raster() + (v.rotationDegrees() != 0 ? ", turned " + v.rotationDegrees() + "°" : "")));
            if (!v.displayRaster().equals(v.raster())) {
                lines.add(Parts.fact("Shown at", v.displayRaster().toString()));
            }
            if (!v.codedRaster().equals(v.raster())) {
                lines.add(Parts.fact("Coded raster", v.codedRaster().toString()));
            }
            lines.add(Parts.fact(
                    "Pixel aspect", v.isSquare() ? "square" : v.pixelAspect().toString()));
            lines.add(Parts.fact("Rate", v.rate() + " fps, " + v.rateKind().label()));
            lines.add(Parts.fact(
                    "Frames",
                    v.frames().count() + ", "
                            + switch (v.frames().origin()) {
                                case COUNTED -> "counted";
                                case STATED ->
                                    v.codec().name().equals("camera_raw")
                                            ? "as it was said"
                                            : "by the container's index";
                                case ESTIMATED -> "from duration and rate";
                            }));
            lines.add(Parts.fact("Depth, chroma", v.pixels().label()));
            lines.add(Parts.fact("Scan", v.scan().label()));
            lines.add(Parts.fact("Colour", v.colour().label()));
            String hdr = Stream.of(
                            Hdr.kind(v.colour()), v.hdr().mastering(), v.hdr().light())
                    .filter(text -> !text.isEmpty())
                    .collect(Collectors.joining(", "));
            if (!hdr.isEmpty()) {
                lines.add(Parts.fact("High dynamic range", hdr));
            }
            structure(v.structure(), lines);
        });
        lines.add(Parts.fact(
                "Timecode", facts.startTimecode().map(Timecode::toString).orElse("none")));
        lines.add(Parts.fact("Reel", facts.reel().orElse("not stated")));
        lines.add(Parts.fact(
                "Sound",
                facts.audio().isEmpty()
                        ? "none"
                        : facts.audio().stream().map(AudioStream::label).collect(Collectors.joining("; "))));
        lines.add(Parts.fact(
                "Size", facts.size() + ", " + String.format(Locale.ROOT, "%.1f Mb/s", facts.bitsPerSecond() / 1e6)));
        lines.add(Parts.fact("Shot", facts.recordedAt().orElse("not stated")));
        facts.notes().forEach((name, said) -> lines.add(Parts.fact(capital(name), said)));
        facts.complaints().forEach(said -> lines.add(Parts.fact("Complaint", said)));
        facts.findings().contradictions().forEach(two -> lines.add(Parts.fact("Two answers", two.label())));
        return lines;
    }

    private static String capital(String name) {
        return name.substring(0, 1).toUpperCase(Locale.ROOT) + name.substring(1);
    }

    private static void structure(FrameStructure structure, List<Node> lines) {
        if (!structure.isKnown() || structure.isAllIntra()) {
            return;
        }
        FrameStructure.KeyframeInterval interval = structure.keyframeInterval();
        lines.add(Parts.fact(
                "Keyframes",
                String.format(
                        Locale.ROOT,
                        "every %.1f frames (%.2f s), at most %d (%.2f s)",
                        interval.meanFrames().toDouble(),
                        interval.meanSeconds().toDouble(),
                        interval.worstFrames(),
                        interval.worstSeconds().toDouble())));
        lines.add(Parts.fact(
                "B-frames",
                structure.longestTwoWayRun() == 0
                        ? "none"
                        : "at most " + structure.longestTwoWayRun() + " in a row, held back "
                                + structure.reorderDepth()));
        lines.add(Parts.fact("Groups", structure.grouping().label()));
        lines.add(Parts.fact(
                "Read",
                structure.extent() == FrameStructure.Extent.WHOLE
                        ? "whole, " + structure.count() + " frames"
                        : "sampled, " + structure.count() + " frames"));
    }
}
