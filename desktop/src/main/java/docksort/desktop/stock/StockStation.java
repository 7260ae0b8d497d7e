package docksort.desktop.stock;

import docksort.arrival.Clip;
import docksort.catalogue.WorkingCopy;
import docksort.desktop.pair.PairPage;
import docksort.desktop.parts.ClipPicture;
import docksort.desktop.parts.ColumnMenu;
import docksort.desktop.parts.ColumnSets;
import docksort.desktop.parts.CopyMark;
import docksort.desktop.parts.Docket;
import docksort.desktop.parts.FileName;
import docksort.desktop.parts.Filter;
import docksort.desktop.parts.Mark;
import docksort.desktop.parts.Parts;
import docksort.desktop.parts.ScopeList;
import docksort.desktop.parts.Station;
import docksort.desktop.parts.TaskPage;
import docksort.desktop.parts.Thumbnails;
import docksort.desktop.workshop.Workshop;
import docksort.link.Relink;
import docksort.sort.CopyKind;
import docksort.stock.StockLine;
import java.io.File;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.function.Supplier;
import javafx.beans.binding.Bindings;
import javafx.collections.FXCollections;
import javafx.collections.ListChangeListener;
import javafx.geometry.VPos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.SelectionMode;
import javafx.scene.control.TableColumn;
import javafx.scene.control.TableRow;
import javafx.scene.control.TableView;
import javafx.scene.control.TextField;
import javafx.scene.input.ClipboardContent;
import javafx.scene.input.MouseEvent;
import javafx.scene.input.TransferMode;
import javafx.scene.layout.BorderPane;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.VBox;

/// The Stock station: which file stands in for which clip right now, and finding media that moved.
public final class StockStation implements Station {
    private final Workshop workshop;
    private final Runnable bring;
    private final StockModel model;
    private final PlacesDocket places;
    private final ClipsDocket clips;

    private final ScopeList scope = new ScopeList();
    private final TableView<StockLine> table = new TableView<>();
    private final Docket page = new Docket(this::docket);
    private final BorderPane centre = new BorderPane();

    private final TextField filter = Filter.field("stock-filter", "clips by name, file or state");
    private final Thumbnails thumbnails;
    private final Node bar;

    /// @param plan shows clips where their copies are decided
    /// @param bring shows this station
    public StockStation(Workshop workshop, Thumbnails thumbnails, Consumer<List<Clip>> plan, Runnable bring) {
        this.workshop = workshop;
        this.thumbnails = thumbnails;
        this.bring = bring;
        this.model = new StockModel(workshop.views());
        this.places = new PlacesDocket(
                workshop, model, () -> show(CleanUpPage.of(workshop.stock(), workshop.views(), this::showList)));
        this.clips = new ClipsDocket(
                workshop,
                model,
                plan,
                this::showPair,
                (place, results) -> show(SearchPage.found(
                        workshop.stock(), Objects.requireNonNull(place.getParent()), results, this::showList)),
                said -> show(TakeOverPage.of(workshop.stock(), said, this::showList)),
                () -> table.getSelectionModel().clearSelection());
        model.groups().subscribe(scope::show);
        model.scope().bind(scope.chosen());
        centre.getStyleClass().add("centre");
        model.filter().bind(filter.textProperty());
        centre.setCenter(table());
        bar = bar();
        centre.setTop(bar);
        table.getSelectionModel().getSelectedItems().addListener((ListChangeListener<StockLine>) _ -> page.refresh());
        workshop.views().each(_ -> page.refresh());
        workshop.stock().relinkPreview().subscribe(_ -> page.refresh());
    }

    private Node bar() {
        Button selectAll = Parts.button("", () -> table.getSelectionModel().selectAll());
        selectAll.setId("select-all");
        selectAll.textProperty().bind(Bindings.size(model.rows()).map(count -> "Select all " + count));
        selectAll.disableProperty().bind(Bindings.isEmpty(model.rows()));
        var tasks = new FlowPane(
                8,
                6,
                task("open-take-over", "Take over…", () -> TakeOverPage.of(workshop.stock(), this::showList)),
                task("open-search", "Search…", () -> SearchPage.of(workshop.stock(), this::showList)),
                task("open-names", "Names…", () -> NamesPage.of(workshop.stock(), workshop.views(), this::showList)),
                task(
                        "open-clean-up",
                        "Clean up…",
                        () -> CleanUpPage.of(workshop.stock(), workshop.views(), this::showList)),
                task(
                        "open-checksums",
                        "Checksums…",
                        () -> ChecksumsPage.of(workshop.stock(), workshop.views(), this::showList)),
                task("open-read-again", "Read again…", () -> ReadAgainPage.of(workshop.stock(), this::showList)),
                Parts.button("Look again", workshop.stock()::refresh));
        var list = new FlowPane(10, 6, filter, ColumnMenu.of(table, ColumnSets.ofThisPerson(table.getId())), selectAll);
        list.setRowValignment(VPos.CENTER);
        var bar = new VBox(8, tasks, list);
        bar.getStyleClass().add("bar");
        return bar;
    }

    private Button task(String id, String text, Supplier<TaskPage> task) {
        Button button = Parts.button(text, () -> {
            show(task.get());
        });
        button.setId(id);
        return button;
    }

    private void show(TaskPage task) {
        task.shownBy(() -> {
            bring.run();
            show(task);
        });
        centre.setTop(null);
        centre.setCenter(task.node());
    }

    private void showPair(StockLine line, List<WorkingCopy> copies) {
        centre.setTop(null);
        centre.setCenter(new PairPage(workshop.pairs(), line.clip(), copies, 0, this::showList).node());
    }

    private void showList() {
        centre.setTop(bar);
        centre.setCenter(table);
    }

    private Node table() {
        table.setId("stock-table");
        table.setAccessibleText("Clips and their copies");
        table.setItems(model.rows());
        table.getSelectionModel().setSelectionMode(SelectionMode.MULTIPLE);
        FileName.of(table, row -> List.of(row.served().file()), List.of());
        table.setPlaceholder(
                Parts.empty("No clips here", "Add arrivals first, or choose Everything and empty the filter."));
        table.setOnDragDetected(this::dragOut);
        table.setSortPolicy(view -> {
            if (view.getComparator() != null) {
                FXCollections.sort(view.getItems(), view.getComparator());
            }
            return true;
        });
        table.getColumns()
                .addAll(List.of(
                        ClipPicture.column(
                                thumbnails,
                                row -> Optional.of(row.clip()),
                                row -> row.clip().name()),
                        Parts.text("Clip", 150, model::name, "mono"),
                        Parts.<StockLine>drawn(
                                "Original",
                                100,
                                row -> row.presence().state().label(),
                                row -> row.presence().state(),
                                row -> CopyMark.of(row.presence())),
                        copies("Light", CopyKind.LIGHT),
                        copies("Full", CopyKind.FULL),
                        Parts.text(
                                "Served by", 78, (StockLine row) -> row.served().label()),
                        Parts.text(
                                "File that serves",
                                174,
                                (StockLine row) ->
                                        String.valueOf(row.served().file().getFileName()),
                                "mono")));
        return table;
    }

    /// Hands the files that serve what is selected to another program.
    private void dragOut(MouseEvent event) {
        List<File> files = table.getSelectionModel().getSelectedItems().stream()
                .map(line -> line.served().file())
                .filter(Files::isRegularFile)
                .map(Path::toFile)
                .toList();
        if (!files.isEmpty() && event.getTarget() instanceof Node target && isInRow(target)) {
            var content = new ClipboardContent();
            content.putFiles(files);
            table.startDragAndDrop(TransferMode.COPY, TransferMode.LINK).setContent(content);
            event.consume();
        }
    }

    /// Headings and scroll bars are dragged for themselves.
    private static boolean isInRow(Node target) {
        for (Node at = target; at != null; at = at.getParent()) {
            if (at instanceof TableRow<?>) {
                return true;
            }
        }
        return false;
    }

    private static TableColumn<StockLine, String> copies(String title, CopyKind kind) {
        return Parts.drawn(
                title,
                kind == CopyKind.LIGHT ? 128 : 96,
                row -> StockModel.copy(row, kind)
                        .map(copy -> copy.state().label())
                        .orElse(""),
                row -> StockModel.copy(row, kind).map(CopyMark.Look::of),
                row -> StockModel.copy(row, kind)
                        .map(CopyMark::brief)
                        .orElseGet(() -> Parts.marked(Mark.dash(), "none", "quiet")));
    }

    private List<Node> docket() {
        Optional<Relink> relink = workshop.stock().relinkPreview().get();
        List<StockLine> chosen = List.copyOf(table.getSelectionModel().getSelectedItems());
        if (relink.isPresent()) {
            return places.preview(relink.get());
        }
        return switch (chosen.size()) {
            case 0 -> places.places();
            case 1 -> clips.clip(chosen.getFirst());
            default -> clips.several(chosen);
        };
    }

    /// Selects a row, for pictures and tests.
    public void select(String clipName) {
        for (int i = 0; i < table.getItems().size(); i++) {
            if (table.getItems().get(i).clip().name().equals(clipName)) {
                table.getSelectionModel().clearAndSelect(i);
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
        return new Face("Stock", scope, table, centre, page, model.number(), model.line());
    }
}
