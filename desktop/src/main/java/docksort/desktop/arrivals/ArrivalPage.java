package docksort.desktop.arrivals;

import docksort.arrival.Arrival;
import docksort.arrival.Whereabouts;
import docksort.desktop.parts.Parts;
import docksort.desktop.parts.TaskFields;
import docksort.desktop.parts.Typed;
import docksort.desktop.workshop.Insight;
import docksort.desktop.workshop.ProjectView;
import docksort.desktop.workshop.Workshop;
import docksort.media.FrameRate;
import docksort.strain.TimelineFormat;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.function.Function;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;
import javafx.util.StringConverter;
import org.jspecify.annotations.Nullable;

/// The docket while no clip is selected: what came in at one glance, what the project is, where clips
/// lie, and the card calculator.
final class ArrivalPage {
    private static final List<String> PRIMARIES = List.of("bt709", "bt2020", "smpte432", "smpte170m", "bt470bg");
    private static final List<Integer> SOUND_RATES = List.of(44_100, 48_000, 96_000);

    private final Workshop workshop;
    private final ProjectView view;
    private final List<ClipRow.Known> rows;
    private final Optional<Arrival> arrival;

    private final Consumer<Arrival> pairs;
    private final Runnable bring;
    private final List<Node> card;

    private ArrivalPage(
            Workshop workshop,
            ProjectView view,
            List<ClipRow.Known> rows,
            Optional<Arrival> arrival,
            Consumer<Arrival> pairs,
            Runnable bring,
            List<Node> card) {
        this.workshop = workshop;
        this.view = view;
        this.rows = rows;
        this.arrival = arrival;
        this.pairs = pairs;
        this.bring = bring;
        this.card = card;
    }

    /// @param rows what the list shows now
    /// @param arrival the arrival that the scope is narrowed to
    /// @param pairs shows an arrival's small files with their originals
    /// @param bring shows the page that copies a card
    /// @param card the card calculator
    static List<Node> of(
            Workshop workshop,
            ProjectView view,
            List<ClipRow.Known> rows,
            Optional<Arrival> arrival,
            Consumer<Arrival> pairs,
            Runnable bring,
            List<Node> card) {
        return new ArrivalPage(workshop, view, rows, arrival, pairs, bring, card).page();
    }

    private List<Node> page() {
        var page = new ArrayList<Node>();
        page.add(Parts.wrapped(arrival.map(Arrival::name).orElse("What came in"), "docket-name"));
        page.addAll(glance());
        arrival.ifPresent(known -> page.add(again(known)));
        for (var hint : view.insight().hints()) {
            page.add(Parts.wrapped(hint.label(), "look"));
        }
        if (arrival.isEmpty()) {
            page.add(Parts.section("Cards and watched places"));
            page.addAll(places());
        }
        if (!view.arrivals().isEmpty()) {
            page.add(report());
        }
        page.add(Parts.section("The project's timeline"));
        page.addAll(settings());
        page.add(Parts.section("Where clips lie"));
        page.addAll(volumes());
        arrival.ifPresent(known -> {
            page.add(Parts.section("Out again"));
            page.add(TakeOutBox.of(
                    then -> workshop.arrivals().hangingOn(known, then),
                    () -> workshop.arrivals().takeOut(known),
                    Optional.of(() -> workshop.arrivals().putAside(known)),
                    Optional.empty()));
        });
        page.addAll(card);
        return page;
    }

    private List<Node> glance() {
        var model = new ArrivalModel(rows, view.asideFiles());
        var lines = new ArrayList<Node>();
        lines.add(rows.isEmpty() ? Parts.wrapped(model.summary(), "quiet") : Parts.wrapped(model.summary()));
        model.verdicts()
                .forEach((verdict, count) ->
                        lines.add(new HBox(10, ClipColumns.verdict(verdict), Parts.label(count.toString(), "mono"))));
        model.facts().forEach(fact -> lines.add(Parts.fact(fact.name(), fact.value())));
        return lines;
    }

    private Node again(Arrival known) {
        var watch = new CheckBox("Take in new files by themselves");
        watch.setId("watch-arrival");
        watch.setSelected(view.insight().watched().contains(known.id()));
        watch.setOnAction(_ -> workshop.arrivals().watch(known, watch.isSelected()));
        var again = Parts.button("Look again", () -> workshop.arrivals().lookAgain(known));
        again.setId("look-again");
        var cameras = Parts.button("Camera's small files…", () -> pairs.accept(known));
        cameras.setId("open-pairs");
        return new VBox(
                8,
                new FlowPane(8, 8, again, cameras),
                watch,
                Parts.wrapped(
                        "Files come in once they have stopped growing. What is as before is not opened.", "quiet"));
    }

    private Node report() {
        List<Arrival> cards = arrival.map(List::of).orElse(view.arrivals());
        var pictures = new CheckBox("With three pictures of each clip");
        pictures.setId("report-pictures");
        pictures.setSelected(true);
        var told = Parts.wrapped("A page to print, each card on a sheet of its own; or a table (CSV).", "quiet");
        told.setId("report-told");
        Button write = Parts.button(
                "Report for the team…",
                () -> TaskFields.save("Report", "what came in.html", "html", "csv")
                        .ifPresent(file -> workshop.arrivals()
                                .report(
                                        cards,
                                        file,
                                        pictures.isSelected(),
                                        written -> told.setText(
                                                written
                                                        ? "Written: " + file
                                                        : "Stopped. Nothing was written to " + file + "."))));
        write.setId("write-report");
        return new VBox(8, write, pictures, told);
    }

    private List<Node> settings() {
        TimelineFormat format = view.format();
        var raster =
                new TextField(format.raster().width() + "x" + format.raster().height());
        raster.setId("timeline-raster");
        raster.setAccessibleText("Raster of the timeline");
        raster.setOnAction(
                _ -> ArrivalModel.withRaster(format, raster.getText()).ifPresent(this::keep));
        var aspect = new TextField(format.pixelAspect().toString());
        aspect.setAccessibleText("Pixel aspect of the timeline");
        aspect.setOnAction(
                _ -> ArrivalModel.withPixelAspect(format, aspect.getText()).ifPresent(this::keep));
        ComboBox<FrameRate> rate = box(FrameRate.COMMON, format.rate(), FrameRate::label);
        rate.setId("timeline-rate");
        rate.setAccessibleText("Frame rate of the timeline");
        rate.setOnAction(_ -> keep(ArrivalModel.withRate(format, rate.getValue())));
        ComboBox<String> primaries = box(PRIMARIES, format.primaries(), text -> text);
        primaries.setAccessibleText("Colour of the timeline");
        primaries.setOnAction(_ -> keep(ArrivalModel.withPrimaries(format, primaries.getValue())));
        ComboBox<Integer> sound = box(
                SOUND_RATES,
                format.samplesPerSecond(),
                hertz -> String.format(Locale.ROOT, "%.1f kHz", hertz / 1000.0));
        sound.setAccessibleText("Sound rate of the timeline");
        sound.setOnAction(_ -> keep(ArrivalModel.withSamples(format, sound.getValue())));
        return List.of(
                setting("Raster", Parts.checked(raster, Typed::raster)),
                setting("Rate", rate),
                setting("Pixel aspect", Parts.checked(aspect, Typed::pixelAspect)),
                setting("Colour", primaries),
                setting("Sound", sound),
                Parts.wrapped("Clips that differ are marked in the list. Enter keeps what was typed.", "quiet"));
    }

    private void keep(TimelineFormat format) {
        workshop.arrivals().setFormat(format);
    }

    private static <T> ComboBox<T> box(List<T> values, T now, Function<T, String> label) {
        var all = new ArrayList<>(values);
        if (!all.contains(now)) {
            all.addFirst(now);
        }
        var box = new ComboBox<T>();
        box.getItems().setAll(all);
        box.setConverter(new StringConverter<>() {
            @Override
            public String toString(@Nullable T value) {
                return value == null ? "" : label.apply(value);
            }

            @Override
            public T fromString(String text) {
                throw new UnsupportedOperationException("not editable");
            }
        });
        box.setValue(now);
        box.setMaxWidth(Double.MAX_VALUE);
        return box;
    }

    private static Node setting(String name, Node control) {
        Label title = Parts.label(name, "quiet", "fact-name");
        HBox.setHgrow(control, Priority.ALWAYS);
        var line = new HBox(8, title, control);
        line.setAlignment(Pos.CENTER_LEFT);
        return line;
    }

    private List<Node> places() {
        var lines = new ArrayList<Node>();
        lines.add(Parts.wrapped(
                view.insight().places().isEmpty()
                        ? "No place is watched. Each new folder in one comes in by itself, once nothing in it grows."
                        : "Each new folder in these places comes in by itself, once nothing in it grows.",
                "quiet"));
        for (Path place : view.insight().places()) {
            Button leave =
                    Parts.button("No longer watch it", () -> workshop.arrivals().leavePlace(place), "link");
            leave.setAccessibleText("No longer watch " + place);
            lines.add(new VBox(2, Parts.wrapped(place.toString(), "mono"), leave));
        }
        Button watch = Parts.button(
                "Watch a place…",
                () -> TaskFields.folder("Folder that new folders come into")
                        .ifPresent(place -> workshop.arrivals().watchPlace(place)));
        watch.setId("watch-place");
        Button card = Parts.button("Bring a card in…", bring);
        card.setId("open-bring");
        lines.add(new FlowPane(8, 8, card, watch));
        return lines;
    }

    private List<Node> volumes() {
        Whereabouts where = view.insight().whereabouts();
        var lines = new ArrayList<Node>();
        ArrivalModel.noVolume(where, view.clips().size()).ifPresent(words -> lines.add(Parts.wrapped(words, "quiet")));
        for (Whereabouts.OnVolume on : where.volumes()) {
            lines.add(volume(on, view.insight()));
        }
        ArrivalModel.away(where).ifPresent(words -> lines.add(Parts.wrapped(words, "look")));
        ArrivalModel.Twins twins = ArrivalModel.twins(where);
        twins.labels().forEach(label -> lines.add(Parts.wrapped("The same recording: " + label)));
        if (twins.more() > 0) {
            lines.add(Parts.wrapped("and " + twins.more() + " more: see \u201Cduplicates\u201D", "quiet"));
        }
        return lines;
    }

    private Node volume(Whereabouts.OnVolume on, Insight insight) {
        ArrivalModel.VolumeLine line = ArrivalModel.volume(on, insight);
        var page = new VBox(
                3,
                Parts.wrapped(line.name(), "mono"),
                Parts.wrapped(line.kind()),
                Parts.wrapped(line.room()),
                Parts.wrapped(line.speed(), "quiet"),
                Parts.button("Measure read speed", () -> workshop.measuring().measureVolume(on), "link"));
        page.getStyleClass().add("reason");
        return page;
    }
}
