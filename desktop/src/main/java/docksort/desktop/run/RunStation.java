package docksort.desktop.run;

import docksort.arrival.ClipNames;
import docksort.catalogue.CopyState;
import docksort.catalogue.Machine;
import docksort.desktop.parts.CopyMark;
import docksort.desktop.parts.Docket;
import docksort.desktop.parts.FileName;
import docksort.desktop.parts.Filter;
import docksort.desktop.parts.Mark;
import docksort.desktop.parts.Parts;
import docksort.desktop.parts.ScopeList;
import docksort.desktop.parts.Station;
import docksort.desktop.workshop.Workshop;
import docksort.media.ByteSize;
import docksort.run.CopyProgress;
import docksort.run.RunSnapshot;
import docksort.run.RunSnapshot.Phase;
import docksort.sort.Recipe;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import javafx.collections.ListChangeListener;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.CheckMenuItem;
import javafx.scene.control.Label;
import javafx.scene.control.MenuButton;
import javafx.scene.control.ProgressBar;
import javafx.scene.control.SelectionMode;
import javafx.scene.control.TableRow;
import javafx.scene.control.TableView;
import javafx.scene.control.TextField;
import javafx.scene.input.ClipboardContent;
import javafx.scene.input.DragEvent;
import javafx.scene.input.MouseEvent;
import javafx.scene.input.TransferMode;
import javafx.scene.layout.BorderPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/// The Run station: what is being made, how fast, how long still, and what failed and why.
public final class RunStation implements Station {
    private static final String A_RUN = "A run makes what the load sheet wants. Each copy is written under a name that"
            + " cannot be taken for a clip, checked against its original, and only then gets its own name.";
    private static final int MOST_LANES = 4;
    private static final int MOST_FAILURES = 8;

    private final Workshop workshop;
    private final RunModel model;
    private final ScopeList scope = new ScopeList();
    private final TableView<CopyProgress> table = new TableView<>();
    private final Docket page = new Docket(this::docket);
    private final VBox centre = new VBox(12);
    private final BorderPane task = new BorderPane(centre);
    private final VBox lanes = new VBox(5);
    private final VBox machines = new VBox(6);
    private final ProgressBar total = new ProgressBar(0);
    private final Label figures = Parts.label("", "quiet");
    private final Label why = Parts.wrapped("", "look");
    private final TextField filter = Filter.field("run-filter", "copies by clip, recipe or state");
    private ClipNames names = ClipNames.NONE;
    private String shownInDocket = "";

    public RunStation(Workshop workshop) {
        this.workshop = workshop;
        this.model = new RunModel(
                workshop.runs().shown(),
                row -> name(row) + " " + workshop.sort().recipeLabel(row.copy().recipeId()) + " "
                        + row.copy().state().label());
        model.filter().bind(filter.textProperty());
        model.groups().subscribe(scope::show);
        model.scope().bind(scope.chosen());
        centre.getStyleClass().add("centre");
        centre.setStyle("-fx-padding: 0.9em 1.2em 0 1.2em;");
        lanes.setId("run-lanes");
        machines.setId("machines");
        workshop.runs()
                .machines()
                .subscribe(now ->
                        show(MachinesModel.lines(now, id -> workshop.sort().recipeLabel(id))));
        centre.getChildren().addAll(bar(), soon(), why, lanes, machines, filter, table());
        filter.setMaxWidth(170);
        VBox.setVgrow(table, Priority.ALWAYS);
        model.snapshot().subscribe(this::show);
        workshop.views().each(view -> {
            if (!view.insight().names().equals(names)) {
                names = view.insight().names();
                table.refresh(); // the copies themselves are the same
            }
        });
        table.getSelectionModel().getSelectedItems().addListener((ListChangeListener<CopyProgress>) _ -> showDocket());
        showDocket();
    }

    private Node bar() {
        total.setPrefWidth(Double.MAX_VALUE);
        total.setMaxWidth(Double.MAX_VALUE);
        total.setAccessibleText("The run as a whole");
        Button stop = Parts.button("Stop", workshop.runs()::stop);
        Button carryOn = Parts.button("", workshop.runs()::carryOn, "main");
        carryOn.setId("carry-on");
        Button retry = Parts.button("Retry failed", workshop.runs()::retryFailed);
        stop.setId("stop-run");
        Button pause = Parts.button("Pause after these", () -> workshop.runs().pause(true));
        pause.setId("pause-run");
        Button hold = Parts.button("Hold still", () -> workshop.runs().hold(true));
        hold.setId("hold-run");
        Button goOn = Parts.button(
                "Go on",
                () -> {
                    workshop.runs().hold(false);
                    workshop.runs().pause(false);
                },
                "main");
        goOn.setId("go-on");
        model.snapshot().subscribe(run -> {
            Set<RunModel.Deed> deeds = model.deeds();
            shown(stop, deeds.contains(RunModel.Deed.STOP));
            shown(pause, deeds.contains(RunModel.Deed.PAUSE));
            shown(hold, deeds.contains(RunModel.Deed.HOLD));
            shown(goOn, deeds.contains(RunModel.Deed.GO_ON));
            shown(carryOn, deeds.contains(RunModel.Deed.CARRY_ON));
            carryOn.setText(run.neverBegan() ? "Make what waits here" : "Carry on");
            shown(retry, deeds.contains(RunModel.Deed.RETRY));
            shown(total, !run.copies().isEmpty() && !run.neverBegan());
            shown(filter, !run.copies().isEmpty());
        });
        var buttons = new HBox(figures, Parts.spring(), retry, carryOn, goOn, pause, hold, stop);
        buttons.getStyleClass().add("bar");
        buttons.setStyle("-fx-padding: 0;");
        buttons.setMinHeight(34);
        return new VBox(6, buttons, total);
    }

    /// What is about to be done because the run is over.
    private Node soon() {
        Label what = Parts.wrapped("", "look");
        Button not = Parts.button("Not this time", () -> workshop.runs().end().callOff());
        not.setId("call-off");
        not.setMinWidth(Region.USE_PREF_SIZE);
        HBox.setHgrow(what, Priority.ALWAYS);
        var line = new HBox(12, what, not);
        line.setAlignment(Pos.CENTER_LEFT);
        workshop.runs().end().soon().subscribe(now -> {
            what.setText(now.map(act -> "The run is over. In " + act.seconds() + " s: " + act.what() + ".")
                    .orElse(""));
            shown(line, now.isPresent());
        });
        return line;
    }

    /// The keyboard goes to the list from what goes away, not into the next field.
    private void shown(Node node, boolean visible) {
        if (!visible && node.isFocused()) {
            table.requestFocus();
        }
        node.setVisible(visible);
        node.setManaged(visible);
    }

    private Node table() {
        table.setId("run-table");
        table.setAccessibleText("Copies of the run");
        table.getSelectionModel().setSelectionMode(SelectionMode.MULTIPLE);
        table.setItems(model.rows());
        FileName.of(table, row -> List.of(row.copy().file()), List.of());
        table.setRowFactory(_ -> draggable(new TableRow<>()));
        table.setPlaceholder(Parts.empty(
                "Nothing is being made",
                "Decide in Sort what is to be made, look at the load sheet, and start the run there."));
        table.getColumns()
                .addAll(List.of(
                        Parts.text("Clip", 140, this::name, "mono"),
                        Parts.text(
                                "Copy",
                                226,
                                row -> workshop.sort().recipeLabel(row.copy().recipeId())),
                        Parts.<CopyProgress>drawn(
                                "State",
                                100,
                                row -> row.copy().state().label(),
                                row -> CopyMark.of(row.copy().state())),
                        Parts.<CopyProgress>drawn("Progress", 96, CopyProgress::clipName, RunStation::progress),
                        Parts.number("Frames", 92, CopyProgress::framesDone, RunStation::frames),
                        Parts.number("Size", 80, CopyProgress::bytes, row -> size(row.bytes()))));
        table.getColumns().forEach(column -> column.setSortable(false)); // the order is the queue's
        return table;
    }

    private String name(CopyProgress row) {
        return names.of(row.copy().clip(), row.clipName());
    }

    private static String size(long bytes) {
        return bytes == 0 ? "" : new ByteSize(bytes).toString();
    }

    private static String frames(CopyProgress row) {
        return row.framesAll() == 0 ? "" : row.framesDone() + " / " + row.framesAll();
    }

    private static Node progress(CopyProgress row) {
        if (row.copy().state() == CopyState.FAILED) {
            return Parts.label("thrown away", "quiet");
        }
        if (row.copy().state() == CopyState.WANTED) {
            return Parts.label("left out", "quiet");
        }
        return bar(row, 84);
    }

    private static ProgressBar bar(CopyProgress row, double width) {
        var bar = new ProgressBar(row.framesAll() == 0 ? 0 : (double) row.framesDone() / row.framesAll());
        bar.setPrefWidth(width);
        return bar;
    }

    // Order

    /// Rows that wait are dragged to another place in the queue.
    private TableRow<CopyProgress> draggable(TableRow<CopyProgress> row) {
        row.setOnDragDetected(event -> drag(row, event));
        row.setOnDragOver(event -> {
            if (event.getGestureSource() instanceof TableRow<?> && waits(row.getItem())) {
                event.acceptTransferModes(TransferMode.MOVE);
            }
            event.consume();
        });
        row.setOnDragDropped(event -> drop(row, event));
        return row;
    }

    private void drag(TableRow<CopyProgress> row, MouseEvent event) {
        if (waits(row.getItem())) {
            var content = new ClipboardContent();
            content.putString(String.join("\n", chosenThatWait()));
            row.startDragAndDrop(TransferMode.MOVE).setContent(content);
        }
        event.consume();
    }

    private void drop(TableRow<CopyProgress> row, DragEvent event) {
        List<String> moved = chosenThatWait();
        boolean good = waits(row.getItem()) && !moved.isEmpty();
        if (good) {
            workshop.runs().moveBefore(moved, row.getItem().copy().id());
        }
        event.setDropCompleted(good);
        event.consume();
    }

    private static boolean waits(@org.jspecify.annotations.Nullable CopyProgress row) {
        return row != null && row.copy().state() == CopyState.WAITING;
    }

    private List<CopyProgress> chosen() {
        return table.getSelectionModel().getSelectedItems().stream()
                .filter(Objects::nonNull)
                .toList();
    }

    private List<String> chosenThatWait() {
        return model.of(chosen()).waiting();
    }

    // What it shows

    private void show(RunSnapshot run) {
        total.setProgress(run.done());
        figures.setText(model.figures());
        boolean told = run.phase() != Phase.WORKING && run.phase() != Phase.PAUSED;
        why.setText(told ? run.why() : "");
        shown(why, !why.getText().isEmpty());
        List<CopyProgress> inWork = run.running() ? run.inWork() : List.of(); // else they are made elsewhere
        lanes.getChildren()
                .setAll(inWork.stream().limit(MOST_LANES).map(this::lane).toList());
        if (inWork.size() > MOST_LANES) {
            lanes.getChildren().add(Parts.label("and " + (inWork.size() - MOST_LANES) + " more", "quiet"));
        }
        shown(lanes, !inWork.isEmpty());
        showDocket();
    }

    private void show(List<MachinesModel.Line> lines) {
        shown(machines, !lines.isEmpty());
        if (lines.equals(machines.getUserData())) {
            return; // a button must not go away under the mouse
        }
        machines.setUserData(lines);
        machines.getChildren().setAll(Parts.section("Machines"));
        lines.forEach(line -> machines.getChildren().add(machine(line)));
    }

    /// Name and deeds in one line, what it does below: it goes on in the next line where there is no room.
    private Node machine(MachinesModel.Line line) {
        Label name = Parts.label(line.name(), "mono");
        name.setMinWidth(Region.USE_PREF_SIZE);
        Label doing = Parts.wrapped(
                Stream.of(line.doing(), line.figures(), line.reads(), line.sign())
                        .filter(words -> !words.isEmpty())
                        .collect(Collectors.joining(" · ")),
                line.lives() ? "quiet" : "look");
        var head = new HBox(10, line.lives() ? Mark.full() : Mark.look(), name, Parts.spring());
        head.setAlignment(Pos.CENTER_LEFT);
        for (Machine.Wish wish : line.wishes()) {
            Button ask = Parts.button(
                    MachinesModel.words(wish), () -> workshop.runs().ask(line.workstation(), wish), "link");
            ask.setAccessibleText(MachinesModel.words(wish) + ": " + line.workstation());
            head.getChildren().add(ask);
        }
        head.getChildren().add(recipes(line));
        return new VBox(head, doing);
    }

    /// Which recipes it makes, kept at each tick. The last one stays: a machine that makes none is asked to
    /// pause.
    private MenuButton recipes(MachinesModel.Line line) {
        var menu = new MenuButton("Recipes");
        menu.getStyleClass().add("link");
        menu.setAccessibleText("Recipes that " + line.workstation() + " makes");
        menu.setOnShowing(_ -> menu.getItems().setAll(ticks(line)));
        menu.getItems().setAll(ticks(line)); // a menu without items does not open
        return menu;
    }

    private List<CheckMenuItem> ticks(MachinesModel.Line line) {
        List<Recipe> all = workshop.views()
                .view()
                .get()
                .map(shown -> shown.book().recipes())
                .orElse(List.of());
        Map<Recipe, CheckMenuItem> ticks = new LinkedHashMap<>();
        for (Recipe recipe : all) {
            var item = new CheckMenuItem(recipe.label());
            item.setSelected(
                    line.recipes().map(given -> given.contains(recipe.id())).orElse(true));
            item.setOnAction(_ -> {
                List<Recipe> ticked = ticks.keySet().stream()
                        .filter(each -> isTicked(ticks, each))
                        .toList();
                if (ticked.isEmpty()) {
                    item.setSelected(true);
                } else {
                    workshop.runs()
                            .give(
                                    line.workstation(),
                                    ticked.size() == all.size() ? Optional.empty() : Optional.of(ticked));
                }
            });
            ticks.put(recipe, item);
        }
        return List.copyOf(ticks.values());
    }

    private static boolean isTicked(Map<Recipe, CheckMenuItem> ticks, Recipe recipe) {
        return Objects.requireNonNull(ticks.get(recipe)).isSelected();
    }

    /// One copy in the making.
    private Node lane(CopyProgress row) {
        Label name = Parts.label(name(row), "mono");
        name.setMinWidth(120);
        name.setPrefWidth(150);
        ProgressBar bar = bar(row, 200);
        bar.setAccessibleText(name(row));
        boolean still = model.snapshot().get().phase() == Phase.HELD;
        String speed = row.framesPerSecond() > 0
                ? String.format(Locale.ROOT, "%.0f fps, %.1f ×", row.framesPerSecond(), row.timesRealTime())
                : still ? "held still" : row.copy().state().label();
        Label words = Parts.label(speed, "quiet");
        words.setMinWidth(110);
        Label copy = Parts.label(workshop.sort().recipeLabel(row.copy().recipeId()), "quiet");
        var line = new HBox(12, name, bar, words, copy);
        line.setAlignment(Pos.CENTER_LEFT);
        return line;
    }

    private void showDocket() {
        List<CopyProgress> chosen = chosen();
        // Built anew only when something of it changed: a button must not go away under the mouse.
        String key = chosen.isEmpty()
                ? model.snapshot().get().phase()
                        + model.counts()
                        + model.snapshot().get().workers()
                : chosen.stream()
                        .map(row -> row.copy().id() + row.copy().state())
                        .toList()
                        .toString();
        if (key.equals(shownInDocket)) {
            return;
        }
        shownInDocket = key;
        page.refresh();
    }

    private List<Node> docket() {
        List<CopyProgress> chosen = chosen();
        return chosen.isEmpty() ? runPage() : copyPage(chosen);
    }

    private List<Node> runPage() {
        RunSnapshot run = model.snapshot().get();
        var nodes = new ArrayList<Node>();
        nodes.add(Parts.label("Run", "docket-name"));
        nodes.add(Parts.wrapped(
                run.copies().isEmpty()
                        ? A_RUN
                        : run.neverBegan()
                                ? "No run goes on here: these copies wait in the project's queue, or are made on other"
                                        + " machines. " + A_RUN
                                : run.ready() + " made and checked, " + run.count(CopyState.FAILED) + " failed, "
                                        + run.count(CopyState.WAITING) + " waiting."));
        if (run.running()) {
            nodes.add(Parts.fact("at a time", run.workers() + (run.workers() == 1 ? " clip" : " clips")));
        }
        var all = new CheckBox("compare every frame of each copy in its check");
        all.setWrapText(true);
        all.setId("check-all");
        all.setSelected(workshop.runs().checksAll());
        all.setOnAction(_ -> workshop.runs().checkAll(all.isSelected()));
        nodes.add(all);
        nodes.add(Parts.wrapped(
                "Then each frame is compared with what went to the encoder. Otherwise only what lies around five places"
                        + " is looked at. Counts from the next run on; every copy says which it was.",
                "quiet"));
        Button past = Parts.button("Past runs…", this::showPast);
        past.setId("open-past-runs");
        nodes.add(past);
        run.copies().stream()
                .filter(copy -> copy.copy().state() == CopyState.FAILED)
                .limit(MOST_FAILURES)
                .forEach(copy -> {
                    nodes.add(CopyMark.of(CopyState.FAILED, name(copy)));
                    nodes.add(Parts.wrapped(copy.copy().note(), "quiet"));
                });
        long more = run.count(CopyState.FAILED) - MOST_FAILURES;
        if (more > 0) {
            nodes.add(Parts.wrapped("and " + more + " more: choose \"failed\" on the left", "quiet"));
        }
        return nodes;
    }

    private void showPast() {
        task.setCenter(
                PastRunsPage.of(workshop.runs(), () -> task.setCenter(centre)).node());
    }

    private List<Node> copyPage(List<CopyProgress> chosen) {
        var nodes = new ArrayList<Node>();
        if (chosen.size() == 1) {
            CopyProgress one = chosen.getFirst();
            nodes.add(Parts.wrapped(name(one), "docket-name"));
            nodes.add(CopyMark.of(one.copy().state()));
            nodes.add(Parts.wrapped(workshop.sort().recipeLabel(one.copy().recipeId())));
            nodes.add(FileName.of(one.copy().file()));
            nodes.add(Parts.wrapped(one.copy().note().replace(", ", "\n"), "quiet"));
        } else {
            nodes.add(Parts.wrapped(chosen.size() + " copies", "docket-name"));
        }
        RunModel.Chosen can = model.of(chosen);
        List<String> waiting = can.waiting();
        List<String> again = can.again();
        List<String> queued = can.queued();
        if (!waiting.isEmpty()) {
            nodes.add(
                    identified("move-first", "Make next", () -> workshop.runs().move(waiting, true)));
            nodes.add(identified("move-last", "Make last", () -> workshop.runs().move(waiting, false)));
        }
        if (!queued.isEmpty() && model.snapshot().get().running()) {
            nodes.add(identified(
                    "leave-out", "Leave out for now", () -> workshop.runs().skip(queued)));
        }
        if (!queued.isEmpty()) {
            nodes.add(identified(
                    "take-out", "Take out of the queue", () -> workshop.runs().cancel(queued)));
        }
        if (!again.isEmpty()) {
            nodes.add(identified(
                    "retry-these",
                    "Put back into the queue",
                    () -> workshop.runs().retry(again)));
        }
        return nodes;
    }

    private static Button identified(String id, String text, Runnable action) {
        Button button = Parts.button(text, action);
        button.setId(id);
        return button;
    }

    @Override
    public void findFocus() {
        if (filter.isVisible()) {
            filter.requestFocus();
        }
    }

    @Override
    public Face face() {
        return new Face("Run", scope, table, task, page, model.number(), model.line());
    }
}
