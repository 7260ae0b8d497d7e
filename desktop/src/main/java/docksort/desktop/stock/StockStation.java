package docksort.desktop.stock;

import docksort.arrival.Clip;
import docksort.catalogue.Presence;
import docksort.catalogue.Root;
import docksort.catalogue.WorkingCopy;
import docksort.desktop.pair.PairPage;
import docksort.desktop.parts.CopyMark;
import docksort.desktop.parts.Docket;
import docksort.desktop.parts.Mark;
import docksort.desktop.parts.Parts;
import docksort.desktop.parts.ScopeList;
import docksort.desktop.parts.Station;
import docksort.desktop.parts.TaskPage;
import docksort.desktop.parts.Typed;
import docksort.desktop.workshop.ProjectView;
import docksort.desktop.workshop.Workshop;
import docksort.link.OriginalName;
import docksort.link.Relink;
import docksort.media.ByteSize;
import docksort.sort.CopyKind;
import docksort.stock.StockLine;
import java.io.File;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.function.Supplier;
import javafx.beans.binding.Bindings;
import javafx.collections.ListChangeListener;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.SelectionMode;
import javafx.scene.control.TableRow;
import javafx.scene.control.TableView;
import javafx.scene.control.TextField;
import javafx.scene.input.ClipboardContent;
import javafx.scene.input.MouseEvent;
import javafx.scene.input.TransferMode;
import javafx.scene.layout.BorderPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;
import javafx.stage.DirectoryChooser;
import javafx.stage.FileChooser;

/// The Stock station: which file stands in for which clip right now, and finding media that moved.
public final class StockStation implements Station {
    private final Workshop workshop;
    private final Runnable bring;
    private final StockModel model;
    private final StockTasks tasks;
    private final Consumer<List<Clip>> plan;
    private final ScopeList scope = new ScopeList();
    private final TableView<StockLine> table = new TableView<>();
    private final Docket page = new Docket(this::docket);
    private final BorderPane centre = new BorderPane();

    /// @param plan shows clips where their copies are decided
    /// @param bring shows this station
    public StockStation(Workshop workshop, Consumer<List<Clip>> plan, Runnable bring) {
        this.workshop = workshop;
        this.bring = bring;
        this.plan = plan;
        this.model = new StockModel(workshop.views());
        this.tasks = new StockTasks(workshop, this::showList);
        model.groups().subscribe(scope::show);
        model.scope().bind(scope.chosen());
        centre.getStyleClass().add("centre");
        centre.setTop(bar());
        centre.setCenter(table());
        table.getSelectionModel().getSelectedItems().addListener((ListChangeListener<StockLine>) _ -> page.refresh());
        workshop.views().each(_ -> page.refresh());
        workshop.stock().relinkPreview().subscribe(_ -> page.refresh());
    }

    private Node bar() {
        Button selectAll = Parts.button("", () -> table.getSelectionModel().selectAll());
        selectAll.setId("select-all");
        selectAll.textProperty().bind(Bindings.size(model.rows()).map(count -> "Select all " + count));
        selectAll.disableProperty().bind(Bindings.isEmpty(model.rows()));
        var bar = new HBox(
                task("open-take-over", "Take over…", tasks::takeOver),
                task("open-search", "Search…", tasks::search),
                task("open-names", "Names…", tasks::names),
                task("open-clean-up", "Clean up…", tasks::cleanUp),
                task("open-checksums", "Checksums…", tasks::checksums),
                Parts.spring(),
                selectAll,
                Parts.button("Look again", workshop.stock()::refresh));
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
        centre.setTop(bar());
        centre.setCenter(table);
    }

    private void writeTable() {
        var chooser = new FileChooser();
        chooser.setTitle("Clips and their copies");
        chooser.setInitialFileName("copies.html");
        chooser.getExtensionFilters()
                .addAll(
                        new FileChooser.ExtensionFilter("to read (HTML)", "*.html"),
                        new FileChooser.ExtensionFilter("to count with (CSV)", "*.csv"));
        Optional.ofNullable(chooser.showSaveDialog(table.getScene().getWindow()))
                .ifPresent(file -> workshop.stock().writeTable(file.toPath()));
    }

    private Node table() {
        table.setId("stock-table");
        table.setAccessibleText("Clips and their copies");
        table.setItems(model.rows());
        table.getSelectionModel().setSelectionMode(SelectionMode.MULTIPLE);
        table.setPlaceholder(Parts.empty("No clips here", "Add arrivals first, or choose Everything at the left."));
        table.setOnDragDetected(this::dragOut);
        table.setSortPolicy(view -> {
            if (view.getComparator() != null) {
                javafx.collections.FXCollections.sort(view.getItems(), view.getComparator());
            }
            return true;
        });
        table.getColumns()
                .addAll(List.of(
                        Parts.text("Clip", 136, (StockLine row) -> row.clip().name(), "mono"),
                        Parts.<StockLine>drawn(
                                "Original",
                                118,
                                row -> row.presence().state().label(),
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

    private static javafx.scene.control.TableColumn<StockLine, String> copies(String title, CopyKind kind) {
        return Parts.drawn(
                title,
                kind == CopyKind.LIGHT ? 122 : 106,
                row -> StockModel.copy(row, kind)
                        .map(copy -> copy.state().label())
                        .orElse(""),
                row -> StockModel.copy(row, kind)
                        .map(CopyMark::brief)
                        .orElseGet(() -> Parts.marked(Mark.dash(), "none", "quiet")));
    }

    private List<Node> docket() {
        Optional<Relink> relink = workshop.stock().relinkPreview().get();
        List<StockLine> chosen = List.copyOf(table.getSelectionModel().getSelectedItems());
        if (relink.isPresent()) {
            return preview(relink.get());
        }
        return switch (chosen.size()) {
            case 0 -> places();
            case 1 -> clip(chosen.getFirst());
            default -> several(chosen);
        };
    }

    private List<Node> several(List<StockLine> lines) {
        var nodes = new ArrayList<Node>();
        nodes.add(Parts.label(lines.size() + " clips", "docket-name"));
        List<WorkingCopy> copies =
                lines.stream().flatMap(line -> line.copies().stream()).toList();
        List<WorkingCopy> serving = copies.stream()
                .filter(copy -> copy.state().serves() && !copy.service().stopped())
                .toList();
        List<WorkingCopy> stopped = copies.stream()
                .filter(copy -> copy.state().serves() && copy.service().stopped() && !copy.awaitsAcceptance())
                .toList();
        for (CopyKind kind : CopyKind.values()) {
            long having = lines.stream()
                    .filter(line -> StockModel.copy(line, kind).isPresent())
                    .count();
            if (having > 0 || kind == CopyKind.LIGHT || kind == CopyKind.FULL) {
                nodes.add(Parts.wrapped(
                        "with a " + kind.label() + " copy: " + having + ", without: " + (lines.size() - having)));
            }
        }
        long bytes = copies.stream().mapToLong(copy -> copy.place().bytes()).sum();
        nodes.add(Parts.wrapped("Their copies take " + new ByteSize(bytes) + ".", "quiet"));
        nodes.add(Parts.section("What to do"));
        Button inSort = Parts.button(
                "Decide copies in Sort",
                () -> plan.accept(lines.stream().map(StockLine::clip).toList()),
                "main");
        inSort.setId("plan-selected");
        nodes.add(inSort);
        if (!serving.isEmpty()) {
            nodes.add(Parts.button(
                    "Stop using " + serving.size() + " copies",
                    () -> workshop.stock().stopUsing(serving, true, _ -> {})));
        }
        if (!stopped.isEmpty()) {
            nodes.add(Parts.button(
                    "Use " + stopped.size() + " again", () -> workshop.stock().stopUsing(stopped, false, _ -> {})));
        }
        nodes.add(Parts.section(""));
        nodes.add(Parts.button("Places", () -> table.getSelectionModel().clearSelection()));
        return nodes;
    }

    private List<Node> clip(StockLine line) {
        var nodes = new ArrayList<Node>();
        nodes.add(Parts.wrapped(line.clip().name(), "docket-name"));
        nodes.add(Parts.wrapped("Served by " + line.served().label() + ":", "strong"));
        nodes.add(Parts.wrapped(line.served().file().toString(), "mono"));
        nodes.add(Parts.wrapped("Drag the row onto another program to hand this file over.", "quiet"));
        model.oddities(line).forEach(odd -> nodes.add(Parts.wrapped(odd, "look")));
        List<WorkingCopy> visible = line.copiesToSee();
        if (!visible.isEmpty()) {
            Button pair = Parts.button("See original and copy…", () -> showPair(line, visible));
            pair.setId("open-pair");
            nodes.add(pair);
        }
        nodes.add(Parts.section("Original"));
        nodes.add(CopyMark.of(line.presence()));
        if (!line.presence().note().isEmpty()) {
            nodes.add(Parts.wrapped(line.presence().note(), "quiet"));
        }
        nodes.add(Parts.wrapped(line.clip().source().head().toString(), "mono"));
        nodes.add(
                line.presence().isOnline()
                        ? renamer(line, workshop.stock()::rename)
                        : Parts.button("Point it out…", () -> pointOut(line)));
        for (WorkingCopy copy : line.copies()) {
            nodes.add(Parts.section(copy.kind().label() + " copy"));
            nodes.add(CopyMark.of(copy));
            nodes.add(Parts.wrapped(
                    copy.isCameras()
                            ? "the camera's own"
                            : copy.isAdopted()
                                    ? "made elsewhere"
                                    : workshop.sort().recipeLabel(copy.recipeId())));
            if (copy.place().bytes() > 0) {
                nodes.add(Parts.wrapped(copy.place().codec() + " · "
                        + copy.place().width() + "×" + copy.place().height() + " · "
                        + new ByteSize(copy.place().bytes())));
            }
            nodes.add(Parts.wrapped(copy.note(), "quiet"));
            nodes.add(Parts.wrapped(copy.file().toString(), "mono"));
            if (copy.state().serves()) {
                boolean stopped = copy.service().stopped();
                nodes.add(Parts.button(
                        copy.awaitsAcceptance()
                                ? "Accept its holes: let it serve"
                                : stopped ? "Use it again" : "Stop using it",
                        () -> workshop.stock().stopUsing(List.of(copy), !stopped, _ -> {})));
            }
        }
        nodes.add(Parts.section(""));
        nodes.add(Parts.button("Places", () -> table.getSelectionModel().clearSelection()));
        return nodes;
    }

    /// Asks for a new name in place, with what that breaks; nothing happens before the second button.
    private static Node renamer(StockLine line, Consumer<OriginalName> rename) {
        var box = new VBox(6);
        Button open = Parts.button("Rename the original…", () -> {});
        open.setId("rename-original");
        open.setOnAction(_ -> {
            TextField name =
                    new TextField(String.valueOf(line.clip().source().head().getFileName()));
            name.setId("original-name");
            name.setAccessibleText("New name of the original");
            var fault = Parts.wrapped("", "look");
            Button carryOut = Parts.button(
                    "Rename it", () -> rename.accept(OriginalName.preview(line.clip(), name.getText())), "main");
            carryOut.setId("carry-out-original-name");
            name.textProperty().subscribe(text -> {
                Optional<String> why = OriginalName.preview(line.clip(), text).fault();
                fault.setText(why.orElse(""));
                fault.setManaged(why.isPresent());
                carryOut.setDisable(why.isPresent());
            });
            Button leave = Parts.button("Leave it", () -> box.getChildren().setAll(open));
            box.getChildren()
                    .setAll(
                            Parts.marked(Mark.look(), "An original", "look"),
                            Parts.wrapped(OriginalName.WARNING, "quiet"),
                            name,
                            fault,
                            new HBox(8, carryOut, leave));
            name.requestFocus();
            name.selectAll();
        });
        box.getChildren().setAll(open);
        return box;
    }

    /// Where one lies now: the rest that moved along follows.
    private void pointOut(StockLine line) {
        var chooser = new FileChooser();
        chooser.setTitle("Where " + line.clip().name() + " lies now");
        File file = chooser.showOpenDialog(table.getScene().getWindow());
        if (file != null) {
            Path place = file.toPath();
            workshop.stock()
                    .follow(
                            line.clip().id().value(),
                            place,
                            results -> show(tasks.found(java.util.Objects.requireNonNull(place.getParent()), results)));
        }
    }

    private List<Node> places() {
        var nodes = new ArrayList<Node>();
        nodes.add(Parts.label("Places", "docket-name"));
        nodes.add(Parts.wrapped(
                "Each root is a folder that media lies below. When it moved, point the root at its new place: what is"
                        + " the same recording is back, what is not is refused.",
                "quiet"));
        List<Root> roots = workshop.views().view().get().map(ProjectView::roots).orElse(List.of());
        for (Root root : roots) {
            var field = new TextField(root.path().toString());
            field.setId("root-" + root.name().replace(' ', '-'));
            field.setAccessibleText("Folder of root " + root.name());
            Button look = Parts.button("Look there", () -> look(root, field.getText()));
            field.setOnAction(_ -> look(root, field.getText()));
            Button choose = Parts.button("Choose…", () -> choose(root));
            nodes.add(Parts.section(root.name()));
            nodes.add(Parts.checked(field, Typed::path));
            nodes.add(new HBox(8, look, choose));
        }
        nodes.add(Parts.section("Room"));
        nodes.add(Parts.wrapped(model.room(), "quiet"));
        if (model.pastLimits() > 0) {
            nodes.add(Parts.button("Look at those", () -> show(tasks.cleanUp())));
        }
        nodes.add(Parts.section("Table"));
        nodes.add(Parts.wrapped("Every clip with its copies and what serves it, to read or to count with.", "quiet"));
        nodes.add(Parts.button("Write a table…", this::writeTable));
        return nodes;
    }

    private void look(Root root, String path) {
        if (!path.isBlank() && Typed.path(path).isEmpty()) {
            workshop.stock().previewRelink(root, Path.of(path.strip()));
        }
    }

    private void choose(Root root) {
        var chooser = new DirectoryChooser();
        chooser.setTitle("Where " + root.name() + " lies now");
        File chosen = chooser.showDialog(table.getScene().getWindow());
        if (chosen != null) {
            workshop.stock().previewRelink(root, chosen.toPath());
        }
    }

    private List<Node> preview(Relink relink) {
        var nodes = new ArrayList<Node>();
        nodes.add(Parts.wrapped("Root " + relink.root().name(), "docket-name"));
        nodes.add(Parts.wrapped(relink.newPath().toString(), "mono"));
        nodes.add(line(Mark.full(), relink.count(Presence.State.ONLINE) + " are the same recording"));
        nodes.add(line(Mark.cross("stop"), relink.count(Presence.State.REFUSED) + " are another recording: refused"));
        nodes.add(line(Mark.look(), relink.count(Presence.State.OFFLINE) + " are not there"));
        Button carryOut =
                Parts.button("Point the root there", () -> workshop.stock().carryOut(relink), "main");
        carryOut.setId("carry-out-relink");
        if (relink.lines().isEmpty()) {
            nodes.add(Parts.wrapped("No originals lie below this root; only where copies are kept changes.", "quiet"));
        } else if (relink.count(Presence.State.ONLINE) == 0) {
            carryOut.setDisable(true);
            nodes.add(Parts.wrapped("Nothing of this root is there. Choose another folder.", "quiet"));
        }
        nodes.add(new HBox(8, carryOut, Parts.button("Leave it", workshop.stock()::dropRelink)));
        relink.lines().stream()
                .filter(each -> !each.presence().isOnline())
                .limit(30)
                .forEach(each -> {
                    nodes.add(Parts.section(each.clip().name()));
                    nodes.add(Parts.wrapped(each.presence().note(), "quiet"));
                });
        return nodes;
    }

    private static Node line(Node mark, String words) {
        return Parts.marked(mark, words);
    }

    /// Selects a row, for pictures and tests.
    public void select(String clipName) {
        for (StockLine row : table.getItems()) {
            if (row.clip().name().equals(clipName)) {
                table.getSelectionModel().select(row);
                return;
            }
        }
    }

    @Override
    public Face face() {
        return new Face("Stock", scope, table, centre, page, model.number(), model.line());
    }
}
