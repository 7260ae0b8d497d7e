package docksort.desktop.arrivals;

import docksort.arrival.Arrival;
import docksort.desktop.parts.ColumnMenu;
import docksort.desktop.parts.ColumnSets;
import docksort.desktop.parts.Docket;
import docksort.desktop.parts.FileName;
import docksort.desktop.parts.Filter;
import docksort.desktop.parts.Parts;
import docksort.desktop.parts.ScopeList;
import docksort.desktop.parts.Station;
import docksort.desktop.parts.TaskFields;
import docksort.desktop.parts.Thumbnails;
import docksort.desktop.workshop.ProjectView;
import docksort.desktop.workshop.Workshop;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import java.util.function.Predicate;
import java.util.stream.IntStream;
import javafx.collections.FXCollections;
import javafx.collections.ListChangeListener;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.SelectionMode;
import javafx.scene.control.TableColumn;
import javafx.scene.control.TableView;
import javafx.scene.control.TextField;
import javafx.scene.control.ToggleButton;
import javafx.scene.control.ToggleGroup;
import javafx.scene.control.Tooltip;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.layout.BorderPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Region;

/// The Arrivals station: what came in, and what will hurt.
public final class ArrivalsStation implements Station {
    private final Workshop workshop;
    private final ArrivalsModel model;
    private final Thumbnails thumbnails;
    private final ScopeList scope = new ScopeList();
    private final TableView<ClipRow> table = new TableView<>();
    private final TextField filter = Filter.field("arrivals-filter", "clips by name or fact");
    private final Docket page = new Docket(this::docket);
    private final BorderPane centre = new BorderPane();
    private final Node bar;
    private final ToggleButton listView = view("List");
    private final ToggleButton mapView = view("Map");
    private final Set<String> kept = new HashSet<>();
    private final List<Node> card;
    private final StrainMap map = new StrainMap(this::select);

    public ArrivalsStation(Workshop workshop, Thumbnails thumbnails) {
        this.workshop = workshop;
        this.thumbnails = thumbnails;
        this.model = new ArrivalsModel(
                workshop.views(),
                workshop.arrivals().scanned(),
                workshop.arrivals().scan());
        this.card = CardPage.page(workshop.library());
        model.groups().subscribe(scope::show);
        model.scope().bind(scope.chosen());
        centre.getStyleClass().add("centre");
        centre.setCenter(table());
        this.bar = bar();
        centre.setTop(bar);
        table.getSelectionModel().getSelectedItems().addListener((ListChangeListener<ClipRow>) _ -> {
            if (!model.changing().get()) {
                kept.clear();
                chosen().forEach(row -> kept.add(row.key()));
                showDocket();
            }
        });
        model.changing().subscribe(now -> {
            if (!now) {
                if (mapView.isSelected()) {
                    map.show(model.rows());
                }
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
        table.addEventHandler(KeyEvent.KEY_PRESSED, event -> {
            if (event.getCode() == KeyCode.ESCAPE) {
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
        button.setMinWidth(Region.USE_PREF_SIZE);
        button.getStyleClass().setAll("order");
        return button;
    }

    /// Selects rows in the list, however they were chosen.
    private void select(List<ClipRow.Known> rows) {
        var wanted = new HashSet<ClipRow>(rows);
        selectWhere(wanted::contains);
    }

    private void selectWhere(Predicate<ClipRow> wanted) {
        int[] indices = IntStream.range(0, table.getItems().size())
                .filter(i -> wanted.test(table.getItems().get(i)))
                .toArray();
        table.getSelectionModel().clearSelection();
        if (indices.length > 0) {
            table.getSelectionModel().selectIndices(indices[0], Arrays.copyOfRange(indices, 1, indices.length));
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
        model.filter().bind(filter.textProperty());
        var summary = new Label();
        summary.getStyleClass().add("quiet");
        summary.textProperty().bind(model.summary());
        summary.setMinWidth(0);
        var measured = Parts.label("", "quiet");
        var stopMeasuring = Parts.button("Stop", workshop.measuring()::stop);
        stopMeasuring.setId("stop-measuring");
        var measuring = new HBox(10, measured, stopMeasuring);
        measuring.setAlignment(Pos.CENTER_LEFT);
        workshop.measuring().progress().subscribe(now -> {
            measuring.setVisible(now.running());
            measuring.setManaged(now.running());
            measured.setText(
                    "Measuring " + now.what() + (now.all() > 1 ? ", " + (now.done() + 1) + " of " + now.all() : ""));
        });
        var columns = ColumnMenu.of(table, ColumnSets.ofThisPerson(table.getId()));
        Button add = Parts.button("Add arrival…", this::chooseFolder, "main");
        add.setId("add-arrival");
        var bar = new HBox(filter, views(), columns, summary, Parts.spring(), measuring, add);
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
        table.getColumns().addAll(new ClipColumns(workshop, thumbnails).columns());
        explain("Scrub cost", "Frames decoded to show one random frame: on average / at worst");
        explain("Frames", "Coded frames in stored order: height is bytes, full lines are keyframes");
        explain("Timing", "CFR: constant frame rate. VFR: variable frame rate");
        explain("Raster", "≠ marks what is not as in the project's timeline");
        explain("Rate", "Frames a second; ≠ marks what is not as in the project's timeline");
        explain("Plays at", "Decode speed measured on this machine over the clip's rate; below 1 it stutters");
        explain("Differs in", "What is not as in the project's timeline");
        FileName.of(table, row -> List.of(row.path()), List.of());
        table.setPlaceholder(placeholder());
        model.rows().addListener((ListChangeListener<ClipRow>) _ -> table.setPlaceholder(placeholder()));
        // Model keys are sorted, not cells: the built-in sort looks up every cell again for each comparison.
        table.setSortPolicy(view -> {
            if (view.getComparator() != null) {
                FXCollections.sort(view.getItems(), view.getComparator());
            }
            return true;
        });
        return table;
    }

    private void explain(String title, String words) {
        for (TableColumn<ClipRow, ?> column : table.getColumns()) {
            if (column.getText().equals(title)) {
                Label label = Parts.label(title);
                label.setTooltip(new Tooltip(words));
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
                Parts.button("Add arrival…", this::chooseFolder, "main"),
                Parts.button("Bring a card in…", this::showBring));
    }

    private void showDocket() {
        map.showSelected(chosen());
        page.refresh();
    }

    /// Shows the small files of an arrival with their originals, in place of the list.
    public void showPairs(Arrival arrival) {
        table.getSelectionModel().clearSelection();
        centre.setTop(null);
        centre.setCenter(
                PairsPage.of(workshop.cameraPairs(), arrival, this::showList).node());
    }

    /// Shows the page that copies a card, in place of the list.
    public void showBring() {
        table.getSelectionModel().clearSelection();
        centre.setTop(null);
        centre.setCenter(BringPage.of(workshop.arrivals(), this::showList).node());
    }

    /// Shows the list again, or the map.
    public void showList() {
        centre.setTop(bar);
        showMap(mapView.isSelected());
    }

    private List<Node> docket() {
        List<ClipRow> chosen = chosen();
        ProjectView view = workshop.views().view().get().orElse(null);
        if (view == null) {
            return List.of(Parts.label("Reading the project", "quiet"));
        }
        if (chosen.isEmpty()) {
            return ArrivalPage.of(
                    workshop,
                    view,
                    known(model.rows()),
                    model.arrivalInScope(),
                    this::showPairs,
                    this::showBring,
                    card);
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
                .filter(Objects::nonNull)
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
