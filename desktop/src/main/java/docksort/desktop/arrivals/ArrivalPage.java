package docksort.desktop.arrivals;

import docksort.arrival.Arrival;
import docksort.arrival.Whereabouts;
import docksort.desktop.parts.Parts;
import docksort.desktop.parts.Typed;
import docksort.desktop.workshop.Insight;
import docksort.desktop.workshop.ProjectView;
import docksort.desktop.workshop.Workshop;
import docksort.media.FrameRate;
import docksort.media.Measured;
import docksort.media.Raster;
import docksort.media.Rational;
import docksort.media.VideoFacts;
import docksort.strain.TimelineFormat;
import docksort.strain.Verdict;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.function.Consumer;
import java.util.function.Function;
import java.util.stream.Collectors;
import javafx.scene.Node;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;

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

    private ArrivalPage(
            Workshop workshop,
            ProjectView view,
            List<ClipRow.Known> rows,
            Optional<Arrival> arrival,
            Consumer<Arrival> pairs) {
        this.workshop = workshop;
        this.view = view;
        this.rows = rows;
        this.arrival = arrival;
        this.pairs = pairs;
    }

    /// @param rows what the list shows now
    /// @param arrival the arrival that the scope is narrowed to
    /// @param pairs shows an arrival's small files with their originals
    static List<Node> of(
            Workshop workshop,
            ProjectView view,
            List<ClipRow.Known> rows,
            Optional<Arrival> arrival,
            Consumer<Arrival> pairs) {
        return new ArrivalPage(workshop, view, rows, arrival, pairs).page();
    }

    private List<Node> page() {
        var page = new ArrayList<Node>();
        page.add(Parts.wrapped(arrival.map(Arrival::name).orElse("What came in"), "docket-name"));
        page.addAll(glance());
        arrival.ifPresent(known -> page.add(again(known)));
        for (var hint : view.insight().hints()) {
            page.add(Parts.wrapped(hint.label(), "look"));
        }
        page.add(Parts.section("The project's timeline"));
        page.addAll(settings());
        page.add(Parts.section("Where clips lie"));
        page.addAll(volumes());
        arrival.ifPresent(known -> {
            page.add(Parts.section("Out again"));
            page.add(TakeOutBox.of(
                    then -> workshop.arrivals().hangingOn(known, then),
                    () -> workshop.arrivals().takeOut(known)));
        });
        page.addAll(CardPage.page());
        return page;
    }

    private List<Node> glance() {
        if (rows.isEmpty()) {
            return List.of(Parts.wrapped("Nothing in this scope.", "quiet"));
        }
        var lines = new ArrayList<Node>();
        lines.add(Parts.wrapped(rows.size() + (rows.size() == 1 ? " clip, " : " clips, ") + length() + ", "
                + new docksort.media.ByteSize(rows.stream()
                        .mapToLong(row -> row.clip().facts().size().bytes())
                        .sum())));
        Map<Verdict, Long> verdicts =
                rows.stream().collect(Collectors.groupingBy(ClipRow::verdict, TreeMap::new, Collectors.counting()));
        verdicts.forEach((verdict, count) ->
                lines.add(new HBox(10, ClipColumns.verdict(verdict), Parts.label(count.toString(), "mono"))));
        lines.add(mix("Codecs", v -> v.codec().family()));
        lines.add(mix("Rates", v -> v.rate().label() + (v.rateKind() == VideoFacts.RateKind.VARIABLE ? " VFR" : "")));
        lines.add(mix("Rasters", v -> v.raster().toString()));
        lines.add(mix(
                "Pixel aspect", v -> v.isSquare() ? "square" : v.pixelAspect().toString()));
        lines.add(mix("Depth, chroma", v -> v.pixels().label()));
        lines.add(mix(
                "Colour",
                v -> v.colour().primaries().isEmpty()
                        ? "not stated"
                        : v.colour().primaries()));
        long differ = rows.stream().filter(ClipRow.Known::differs).count();
        lines.add(Parts.fact("Differ", differ + " of " + rows.size() + " from the project's timeline"));
        if (view.asideFiles() > 0) {
            lines.add(Parts.fact(
                    "Left aside",
                    view.asideFiles() + (view.asideFiles() == 1 ? " file that is" : " files that are")
                            + " not footage: sidecars, notes, strays"));
        }
        return lines;
    }

    private String length() {
        long seconds = Math.round(rows.stream()
                .mapToDouble(row -> row.clip().facts().seconds().toDouble())
                .sum());
        return docksort.desktop.parts.Words.of(java.time.Duration.ofSeconds(seconds));
    }

    /// How often each value occurs, the most frequent first.
    private Node mix(String name, Function<VideoFacts, String> value) {
        Map<String, Long> counts = rows.stream()
                .flatMap(row -> row.video().stream())
                .collect(Collectors.groupingBy(value, Collectors.counting()));
        String words = counts.entrySet().stream()
                .sorted(Map.Entry.<String, Long>comparingByValue(Comparator.reverseOrder())
                        .thenComparing(Map.Entry.comparingByKey()))
                .limit(6)
                .map(entry -> entry.getKey() + " ×" + entry.getValue())
                .collect(Collectors.joining(", "));
        return Parts.fact(
                name,
                counts.isEmpty() ? "–" : words + (counts.size() > 6 ? " and " + (counts.size() - 6) + " more" : ""));
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

    private List<Node> settings() {
        TimelineFormat format = view.format();
        var raster =
                new TextField(format.raster().width() + "x" + format.raster().height());
        raster.setId("timeline-raster");
        raster.setAccessibleText("Raster of the timeline");
        raster.setOnAction(_ -> {
            if (!raster.getText().isBlank() && Typed.raster(raster.getText()).isEmpty()) {
                workshop.arrivals().setFormat(with(format, Raster.parse(raster.getText()), format.pixelAspect()));
            }
        });
        var aspect = new TextField(format.pixelAspect().toString());
        aspect.setAccessibleText("Pixel aspect of the timeline");
        aspect.setOnAction(_ -> {
            if (Typed.pixelAspect(aspect.getText()).isEmpty()) {
                workshop.arrivals()
                        .setFormat(with(
                                format,
                                format.raster(),
                                Rational.parse(aspect.getText().strip())));
            }
        });
        ComboBox<FrameRate> rate = box(FrameRate.COMMON, format.rate(), FrameRate::label);
        rate.setId("timeline-rate");
        rate.setAccessibleText("Frame rate of the timeline");
        rate.setOnAction(_ -> workshop.arrivals()
                .setFormat(new TimelineFormat(
                        format.raster(),
                        rate.getValue(),
                        format.pixelAspect(),
                        format.primaries(),
                        format.samplesPerSecond())));
        ComboBox<String> primaries = box(PRIMARIES, format.primaries(), text -> text);
        primaries.setAccessibleText("Colour of the timeline");
        primaries.setOnAction(_ -> workshop.arrivals()
                .setFormat(new TimelineFormat(
                        format.raster(),
                        format.rate(),
                        format.pixelAspect(),
                        primaries.getValue(),
                        format.samplesPerSecond())));
        ComboBox<Integer> sound = box(
                SOUND_RATES,
                format.samplesPerSecond(),
                hertz -> String.format(Locale.ROOT, "%.1f kHz", hertz / 1000.0));
        sound.setAccessibleText("Sound rate of the timeline");
        sound.setOnAction(_ -> workshop.arrivals()
                .setFormat(new TimelineFormat(
                        format.raster(), format.rate(), format.pixelAspect(), format.primaries(), sound.getValue())));
        return List.of(
                setting("Raster", Parts.checked(raster, Typed::raster)),
                setting("Rate", rate),
                setting("Pixel aspect", Parts.checked(aspect, Typed::pixelAspect)),
                setting("Colour", primaries),
                setting("Sound", sound),
                Parts.wrapped("Clips that differ are marked in the list. Enter keeps what was typed.", "quiet"));
    }

    private static TimelineFormat with(TimelineFormat format, Raster raster, Rational aspect) {
        return new TimelineFormat(raster, format.rate(), aspect, format.primaries(), format.samplesPerSecond());
    }

    private static <T> ComboBox<T> box(List<T> values, T now, Function<T, String> label) {
        var all = new ArrayList<>(values);
        if (!all.contains(now)) {
            all.addFirst(now);
        }
        var box = new ComboBox<T>();
        box.getItems().setAll(all);
        box.setConverter(new javafx.util.StringConverter<>() {
            @Override
            public String toString(@org.jspecify.annotations.Nullable T value) {
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
        Label title = Parts.label(name, "quiet");
        title.setMinWidth(92);
        HBox.setHgrow(control, Priority.ALWAYS);
        var line = new HBox(8, title, control);
        line.setAlignment(javafx.geometry.Pos.CENTER_LEFT);
        return line;
    }

    private List<Node> volumes() {
        Whereabouts where = view.insight().whereabouts();
        var lines = new ArrayList<Node>();
        if (where.volumes().isEmpty()) {
            lines.add(Parts.wrapped("Nothing has come in yet.", "quiet"));
        }
        for (Whereabouts.OnVolume on : where.volumes()) {
            lines.add(volume(on, view.insight()));
        }
        if (!where.away().isEmpty()) {
            lines.add(Parts.wrapped(where.away().size() + " clips lie on a volume that is away.", "look"));
        }
        for (Whereabouts.Twins twins : where.twins().stream().limit(5).toList()) {
            lines.add(Parts.wrapped("The same recording: " + twins.label()));
        }
        if (where.twins().size() > 5) {
            lines.add(
                    Parts.wrapped("and " + (where.twins().size() - 5) + " more: see \u201Cduplicates\u201D", "quiet"));
        }
        return lines;
    }

    private Node volume(Whereabouts.OnVolume on, Insight insight) {
        var volume = on.volume();
        Optional<Measured> speed = on.clips().stream()
                .flatMap(clip -> insight.measured(clip).volumeBytesPerSecond().stream())
                .findFirst();
        var page = new VBox(
                3,
                Parts.wrapped(ArrivalsModel.shortName(volume.name()), "mono"),
                Parts.wrapped(
                        volume.kind() + ", " + volume.fileSystem() + (volume.system() ? ", the system's own" : "")),
                Parts.wrapped(on.clips().size() + " clips, " + on.bytes() + "; " + volume.free() + " of "
                        + volume.total() + " free"),
                Parts.wrapped(
                        speed.map(s -> "read at " + s.dividedBy(1e6).label() + " MB/s")
                                .orElse("read speed not measured"),
                        "quiet"),
                Parts.button("Measure read speed", () -> workshop.measuring().measureVolume(on), "link"));
        page.getStyleClass().add("reason");
        return page;
    }
}
