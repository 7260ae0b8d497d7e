package docksort.desktop.arrivals;

import docksort.desktop.parts.Docket;
import docksort.desktop.parts.Mark;
import docksort.desktop.parts.Parts;
import docksort.desktop.parts.ScopeList;
import docksort.desktop.parts.Station;
import docksort.desktop.parts.TaskFields;
import docksort.desktop.parts.Thumbnails;
import docksort.desktop.workshop.ProjectView;
import docksort.desktop.workshop.Workshop;
import docksort.strain.PlayRatio;
import docksort.strain.Verdict;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import javafx.collections.ListChangeListener;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.SelectionMode;
import javafx.scene.control.TableColumn;
import javafx.scene.control.TableView;
import javafx.scene.control.TextField;
import javafx.scene.control.ToggleButton;
import javafx.scene.control.ToggleGroup;
import javafx.scene.image.ImageView;
import javafx.scene.layout.BorderPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.StackPane;

/// The Arrivals station: what came in, and what will hurt.
public final class ArrivalsStation implements Station {
    private final Workshop workshop;
    private final ArrivalsModel model;
    private final Thumbnails thumbnails;
    private final ScopeList scope = new ScopeList();
    private final TableView<ClipRow> table = new TableView<>();
    private final TextField filter = new TextField();
    private final Docket page = new Docket(this::docket);
    private final BorderPane centre = new BorderPane();
    private final ToggleButton listView = view("List");
    private final ToggleButton mapView = view("Map");
    private final Set<String> kept = new HashSet<>();
    private final StrainMap map = new StrainMap(this::select);

    public ArrivalsStation(Workshop workshop, Thumbnails thumbnails) {
        this.workshop = workshop;
        this.thumbnails = thumbnails;
        this.model = new ArrivalsModel(
                workshop.views(),
                workshop.arrivals().scanned(),
                workshop.arrivals().scan());
        model.groups().subscribe(scope::show);
        model.scope().bind(scope.chosen());
        centre.getStyleClass().add("centre");
        centre.setTop(bar());
        centre.setCenter(table());
        table.getSelectionModel().getSelectedItems().addListener((ListChangeListener<ClipRow>) _ -> {
            if (!model.changing().get()) {
                kept.clear();
                chosen().forEach(row -> kept.add(row.key()));
                showDocket();
            }
        });
        model.changing().subscribe(now -> {
            if (!now) {
                map.show(model.rows());
                selectWhere(row -> kept.contains(row.key()));
                showDocket();
            }
        });
        workshop.views().each(_ -> {
            // What a run changes of a clip is in its row.
            if (!workshop.runs().shown().get().running()) {
                showDocket();
            }
        });
        table.addEventHandler(javafx.scene.input.KeyEvent.KEY_PRESSED, event -> {
            if (event.getCode() == javafx.scene.input.KeyCode.ESCAPE) {
                table.getSelectionModel().clearSelection();
            }
        });
        showDocket();
    }

    private Node views() {
        var group = new ToggleGroup();
        listView.setToggleGroup(group);
        mapView.setToggleGroup(group);
        mapView.setId("show-map");
        listView.setOnAction(_ -> showMap(false));
        mapView.setOnAction(_ -> showMap(true));
        listView.setSelected(true);
        return new HBox(listView, mapView);
    }

    private static ToggleButton view(String name) {
        var button = new ToggleButton(name);
        button.setMinWidth(javafx.scene.layout.Region.USE_PREF_SIZE);
        button.getStyleClass().setAll("order");
        return button;
    }

    /// Selects rows in the list, however they were chosen.
    private void select(List<ClipRow.Known> rows) {
        var wanted = new HashSet<ClipRow>(rows);
        selectWhere(wanted::contains);
    }

    private void selectWhere(java.util.function.Predicate<ClipRow> wanted) {
        int[] indices = java.util.stream.IntStream.range(0, table.getItems().size())
                .filter(i -> wanted.test(table.getItems().get(i)))
                .toArray();
        table.getSelectionModel().clearSelection();
        if (indices.length > 0) {
            table.getSelectionModel()
                    .selectIndices(indices[0], java.util.Arrays.copyOfRange(indices, 1, indices.length));
        }
    }

    /// Shows the map in place of the list, or the list.
    public void showMap(boolean on) {
        if (on) {
            map.show(model.rows());
        }
        centre.setCenter(on ? map : table);
        listView.setSelected(!on);
        mapView.setSelected(on);
    }

    private Node bar() {
        filter.setId("arrivals-filter");
        filter.setPromptText("/ filter by name or fact");
        filter.setPrefWidth(210);
        filter.setMinWidth(120);
        filter.setAccessibleText("Filter clips by name or fact");
        model.filter().bind(filter.textProperty());
        var summary = new Label();
        summary.getStyleClass().add("quiet");
        summary.textProperty().bind(model.summary());
        summary.setMinWidth(0);
        var measured = Parts.label("", "quiet");
        var stopMeasuring = Parts.button("Stop", workshop.measuring()::stop);
        stopMeasuring.setId("stop-measuring");
        var measuring = new HBox(10, measured, stopMeasuring);
        measuring.setAlignment(javafx.geometry.Pos.CENTER_LEFT);
        workshop.measuring().progress().subscribe(now -> {
            measuring.setVisible(now.running());
            measuring.setManaged(now.running());
            measured.setText(
                    "Measuring " + now.what() + (now.all() > 1 ? ", " + (now.done() + 1) + " of " + now.all() : ""));
        });
        Button add = Parts.button("Add arrival…", this::chooseFolder, "main");
        add.setId("add-arrival");
        var bar = new HBox(filter, views(), summary, Parts.spring(), measuring, add);
        bar.getStyleClass().add("bar");
        return bar;
    }

    private void chooseFolder() {
        TaskFields.folder("Add the folder of a card, a drive or a recording")
                .ifPresent(chosen -> workshop.arrivals().add(List.of(chosen)));
    }

    private Node table() {
        table.setId("arrivals-table");
        table.getSelectionModel().setSelectionMode(SelectionMode.MULTIPLE);
        table.setItems(model.rows());
        table.setAccessibleText("Clips of all arrivals");
        table.getColumns().addAll(newColumns());
        explain("Scrub cost", "Frames decoded to show one random frame: on average / at worst");
        explain("Frames", "Coded frames in stored order: height is bytes, full lines are keyframes");
        explain("Timing", "CFR: constant frame rate. VFR: variable frame rate");
        explain("Raster", "≠ marks what is not as in the project's timeline");
        explain("Rate", "Frames a second; ≠ marks what is not as in the project's timeline");
        explain("Plays at", "Decode speed measured on this machine over the clip's rate; below 1 it stutters");
        explain("Differs in", "What is not as in the project's timeline");
        table.setPlaceholder(placeholder());
        model.rows().addListener((ListChangeListener<ClipRow>) _ -> table.setPlaceholder(placeholder()));
        // Model keys are sorted, not cells: the built-in sort looks up every cell again for each comparison.
        table.setSortPolicy(view -> {
            if (view.getComparator() != null) {
                javafx.collections.FXCollections.sort(view.getItems(), view.getComparator());
            }
            return true;
        });
        return table;
    }

    private void explain(String title, String words) {
        for (TableColumn<ClipRow, ?> column : table.getColumns()) {
            if (column.getText().equals(title)) {
                Label label = Parts.label(title);
                label.setTooltip(new javafx.scene.control.Tooltip(words));
                column.setText("");
                column.setGraphic(label);
            }
        }
    }

    private Node placeholder() {
        if (!model.isEmpty()) {
            return Parts.empty("Nothing matches", "Clear the filter, or choose Everything at the left.");
        }
        return Parts.empty(
                "Nothing has come in yet",
                "Add the whole folder of a camera card, a drive or a recording. Drop it anywhere on this window, or:",
                Parts.button("Add arrival…", this::chooseFolder, "main"));
    }

    private List<TableColumn<ClipRow, ?>> newColumns() {
        return List.of(
                Parts.drawn("", 56, ClipRow::name, this::thumbnail),
                Parts.text("Clip", 134, ClipRow::name, "mono"),
                Parts.<ClipRow>drawn(
                        "Strain", 112, row -> Integer.toString(row.verdict().weight()), ArrivalsStation::verdict),
                figure(
                        "Scrub cost",
                        80,
                        row -> row.strain()
                                .scrubCost()
                                .map(c -> c.mean()
                                        .times(docksort.media.Rational.of(100))
                                        .rounded())
                                .orElse(0L),
                        ClipRow.Known::scrub),
                Parts.<ClipRow>drawn("Frames", 112, ClipRow::name, ArrivalsStation::ribbon),
                fact("Codec", 146, ClipRow.Known::codec),
                figure(
                        "Raster",
                        106,
                        row -> row.video().map(v -> v.raster().pixels()).orElse(0L),
                        ClipRow.Known::raster),
                figure(
                        "Rate",
                        74,
                        row -> row.video()
                                .map(v -> v.rate()
                                        .exact()
                                        .times(docksort.media.Rational.of(1000))
                                        .rounded())
                                .orElse(0L),
                        ClipRow.Known::rateLabel),
                fact("Timing", 78, ClipRow.Known::rateKind),
                fact("Depth, chroma", 130, ClipRow.Known::pixels),
                fact("Structure", 152, ClipRow.Known::structure),
                figure(
                        "Length",
                        72,
                        row -> row.clip()
                                .facts()
                                .seconds()
                                .times(docksort.media.Rational.of(1000))
                                .rounded(),
                        ClipRow.Known::length),
                fact("Timecode", 104, ClipRow.Known::timecode),
                fact("Container", 78, row -> row.clip().facts().container()),
                figure(
                        "Size",
                        78,
                        row -> row.clip().facts().size().bytes(),
                        row -> row.clip().facts().size().label()),
                fact("Differs in", 190, row -> String.join(", ", row.differences())),
                figure(
                        "Plays at",
                        74,
                        row -> playRatio(row)
                                .map(play -> Math.round(play.value() * 1000))
                                .orElse(-1L),
                        row -> playRatio(row).map(play -> play.label() + " ×").orElse("–")),
                fact("Served by", 90, ClipRow.Known::servedBy),
                fact("First reason", 420, row -> row.strain().firstReason()));
    }

    private java.util.Optional<PlayRatio> playRatio(ClipRow.Known row) {
        return workshop.views()
                .view()
                .get()
                .flatMap(view -> view.insight().measured(row.clip()).play());
    }

    private static TableColumn<ClipRow, String> fact(
            String title, double width, java.util.function.Function<ClipRow.Known, String> words) {
        return Parts.text(title, width, row -> switch (row) {
            case ClipRow.Known known -> words.apply(known);
            case ClipRow.Refused refused ->
                title.equals("Codec")
                        ? "unreadable: " + refused.file().problem().why()
                        : "";
        });
    }

    private static TableColumn<ClipRow, Long> figure(
            String title,
            double width,
            java.util.function.ToLongFunction<ClipRow.Known> value,
            java.util.function.Function<ClipRow.Known, String> words) {
        return Parts.number(
                title,
                width,
                row -> row instanceof ClipRow.Known known ? value.applyAsLong(known) : -1,
                row -> row instanceof ClipRow.Known known ? words.apply(known) : "–");
    }

    private Node thumbnail(ClipRow row) {
        var frame = new StackPane();
        frame.getStyleClass().add("thumb");
        frame.setMinSize(46, 26);
        frame.setMaxSize(46, 26);
        if (row instanceof ClipRow.Known known) {
            thumbnails.of(known.clip(), image -> {
                var view = new ImageView(image);
                view.setPreserveRatio(true);
                view.setFitWidth(46);
                view.setFitHeight(26);
                frame.getChildren().setAll(view);
            });
        }
        return frame;
    }

    static Node verdict(ClipRow row) {
        return verdict(row.verdict());
    }

    static Node verdict(Verdict verdict) {
        return switch (verdict) {
            case EASY -> Parts.marked(Mark.bars(1), verdict.label());
            case FAIR -> Parts.marked(Mark.bars(2), verdict.label());
            case HARD -> Parts.marked(Mark.bars(3, "look"), verdict.label(), "look");
            case OUT_OF_REACH -> Parts.marked(Mark.cross("stop"), verdict.label(), "stop");
        };
    }

    private static Node ribbon(ClipRow row) {
        if (row instanceof ClipRow.Known known && known.video().isPresent()) {
            return new FrameRibbon(known.video().get().structure(), 100, 17);
        }
        return new StackPane();
    }

    private void showDocket() {
        map.showSelected(chosen());
        page.refresh();
    }

    private List<Node> docket() {
        List<ClipRow> chosen = chosen();
        ProjectView view = workshop.views().view().get().orElse(null);
        if (view == null) {
            return List.of(Parts.label("Reading the project", "quiet"));
        }
        if (chosen.isEmpty()) {
            return ArrivalPage.of(workshop, view, known(model.rows()), model.arrivalInScope());
        }
        var docket = new ClipDocket(workshop, thumbnails, view.insight());
        var nodes = new ArrayList<Node>();
        nodes.add(Parts.button(
                "Back to the summary", () -> table.getSelectionModel().clearSelection(), "link"));
        nodes.addAll(chosen.size() == 1 ? docket.of(chosen.getFirst()) : docket.ofSeveral(known(chosen)));
        return nodes;
    }

    private List<ClipRow> chosen() {
        return table.getSelectionModel().getSelectedItems().stream()
                .filter(java.util.Objects::nonNull)
                .toList();
    }

    private static List<ClipRow.Known> known(List<ClipRow> rows) {
        return rows.stream()
                .filter(ClipRow.Known.class::isInstance)
                .map(ClipRow.Known.class::cast)
                .toList();
    }

    /// Selects a row, for pictures and tests.
    public void select(String clipName) {
        for (ClipRow row : table.getItems()) {
            if (row.name().equals(clipName)) {
                table.getSelectionModel().clearSelection();
                table.getSelectionModel().select(row);
                return;
            }
        }
    }

    @Override
    public void findFocus() {
        filter.requestFocus();
    }

    @Override
    public Face face() {
        return new Face("Arrivals", scope, table, centre, page, model.number(), model.line());
    }
}
