package docksort.desktop.shell;

import docksort.desktop.arrivals.ArrivalsStation;
import docksort.desktop.dispatch.DispatchStation;
import docksort.desktop.parts.FileWish;
import docksort.desktop.parts.Mark;
import docksort.desktop.parts.Parts;
import docksort.desktop.parts.Station;
import docksort.desktop.parts.Theme;
import docksort.desktop.parts.Thumbnails;
import docksort.desktop.parts.Words;
import docksort.desktop.run.RunStation;
import docksort.desktop.shell.CommandFinder.Command;
import docksort.desktop.sort.SortStation;
import docksort.desktop.stock.StockStation;
import docksort.desktop.workshop.SharedWatch;
import docksort.desktop.workshop.Workshop;
import docksort.problem.Problem;
import docksort.run.CopyProgress;
import docksort.run.RunSnapshot;
import docksort.timeline.TimelineDocument;
import java.io.File;
import java.nio.file.Path;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.Optional;
import java.util.function.Consumer;
import javafx.beans.property.BooleanProperty;
import javafx.beans.property.SimpleBooleanProperty;
import javafx.collections.ListChangeListener;
import javafx.collections.WeakListChangeListener;
import javafx.scene.Node;
import javafx.scene.Parent;
import javafx.scene.Scene;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ProgressBar;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.TextInputControl;
import javafx.scene.control.Tooltip;
import javafx.scene.input.DragEvent;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyCodeCombination;
import javafx.scene.input.KeyCombination;
import javafx.scene.input.KeyEvent;
import javafx.scene.input.TransferMode;
import javafx.scene.layout.BorderPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;
import javafx.stage.PopupWindow;

/// The one window: flow strip, scope, station, docket, and the bottom line.
public final class Window {
    private static final DateTimeFormatter TIME = DateTimeFormatter.ofPattern("HH:mm:ss");
    private static final double[] SCALES = {1, 1.25, 1.5, 1.75, 2};
    private static final double LEAST_WIDTH = 800; // pixels for scope, list and docket, at 100 %
    private static final double TALKATIVE_WIDTH = 960; // pixels for all that the bottom line says, at 100 %

    private final Workshop workshop;
    private final Thumbnails thumbnails;
    private final ArrivalsStation arrivals;
    private final StockStation stock;
    private final SortStation sort;
    private final List<Station> stations;
    private final FlowStrip strip;
    private final BorderPane root = new BorderPane();
    private final BorderPane body = new BorderPane();
    private final VBox top = new VBox();
    private final Scene scene;
    private final Button night = Parts.button("Night", () -> {}, "link");
    private final CommandFinder finder = new CommandFinder(this::commands, this::closeFinder);
    private final HBox projects = new HBox();
    private final DonePage done;
    private Consumer<Path> folders = _ -> {};
    private Optional<Boolean> docketWanted = Optional.empty(); // empty until somebody has said it
    private boolean doneShown;
    private Runnable reopen = () -> {};
    private final ListChangeListener<javafx.stage.Window> popups = this::dress; // held here, weakly by the system
    private final BooleanProperty roomy = new SimpleBooleanProperty(true);
    private int current;
    private int scale;

    public Window(Workshop workshop) {
        this.workshop = workshop;
        thumbnails = new Thumbnails(workshop.pictures());
        arrivals = new ArrivalsStation(workshop, thumbnails);
        sort = new SortStation(workshop, thumbnails, () -> show(2));
        stock = new StockStation(
                workshop,
                thumbnails,
                clips -> {
                    show(1);
                    sort.select(clips);
                },
                () -> show(3));
        var dispatch = new DispatchStation(workshop, thumbnails, () -> show(4));
        stations = List.of(arrivals, sort, new RunStation(workshop), stock, dispatch);
        done = new DonePage(workshop, this::showAgain);
        strip = new FlowStrip(stations, this::show);
        body.setMinWidth(0);
        top.getChildren().add(strip);
        root.setTop(top);
        root.setCenter(body);
        root.setBottom(new VBox(new JobsLine(workshop.jobs()).node(), footer()));
        scene = new Scene(root, 1280, 800);
        scene.getStylesheets().add(Theme.stylesheet());
        setScale(0);
        scene.addEventFilter(KeyEvent.KEY_PRESSED, this::key);
        scene.addEventFilter(KeyEvent.KEY_TYPED, this::slash);
        scene.setOnDragOver(Window::dragOver);
        scene.setOnDragDropped(this::dropped);
        scene.widthProperty().subscribe(_ -> fit());
        root.addEventHandler(FileWish.SHOW_IN_FOLDER, wish -> folders.accept(wish.file()));
        javafx.stage.Window.getWindows().addListener(new WeakListChangeListener<>(popups));
        workshop.views().each(strip::show);
        workshop.troubles().latest().subscribe(_ -> showTop());
        workshop.shared().outage().subscribe(_ -> showTop());
        workshop.contests().open().subscribe(_ -> showTop());
        show(0);
    }

    public Scene scene() {
        return scene;
    }

    /// Offers other projects beside the name of this one.
    public void offer(ProjectDoor door, Path project) {
        reopen = () -> door.begin(project);
        projects.getChildren().setAll(new ProjectPage(door).menu(project, workshop.library(), this::showShare));
    }

    /// Who shows a file in its folder.
    public void showFilesWith(Consumer<Path> shower) {
        folders = shower;
    }

    private void showAgain() {
        show(current);
    }

    /// Everything that was done, in place of a station.
    void showDone() {
        doneShown = true;
        body.setCenter(done.shown());
        body.setRight(null);
        done.findFocus();
    }

    /// How the project is shared, in place of a station.
    void showShare() {
        doneShown = true;
        body.setCenter(new SharePage(workshop, () -> reopen.run(), this::showAgain).node());
        body.setRight(null);
    }

    /// The docket gives way to the list where both have no room beside each other.
    private boolean isDocketShown() {
        return docketWanted.orElse(scene.getWidth() >= LEAST_WIDTH * SCALES[scale]);
    }

    private void fit() {
        if (!doneShown && isDocketShown() != (body.getRight() != null)) {
            show(current);
        }
        fitWords();
    }

    /// Strip and bottom line say less where text is large.
    private void fitWords() {
        strip.fit(scene.getWidth(), SCALES[scale]);
        roomy.set(scene.getWidth() >= TALKATIVE_WIDTH * SCALES[scale]);
    }

    /// Shows a station by its place in the flow, from 0.
    public void show(int index) {
        current = index;
        doneShown = false;
        Station station = stations.get(index);
        strip.choose(index);
        body.setLeft(Station.scrolledScope(station.face().scope()));
        body.setCenter(station.face().centre());
        ScrollPane docket = Station.scrolled(station.face().docket(), SCALES[scale]);
        body.setRight(isDocketShown() ? docket : null);
        station.face().list().requestFocus();
    }

    List<Station> stations() {
        return stations;
    }

    boolean isNight() {
        return root.getStyleClass().contains("night");
    }

    /// As for [#setScale].
    int scaleStep() {
        return scale;
    }

    /// Everything that can be done now, wherever it stands.
    private List<Command> commands() {
        var commands = new ArrayList<Command>();
        for (int i = 0; i < stations.size(); i++) {
            int index = i;
            String name = stations.get(i).face().name();
            commands.add(new Command(name, "Go to " + name, Integer.toString(i + 1), true, () -> show(index)));
        }
        boolean undo = workshop.views()
                .view()
                .get()
                .flatMap(view -> view.turns().undo())
                .isPresent();
        commands.add(new Command("everywhere", "Undo", "Ctrl+Z", undo, workshop::undo));
        boolean redo = workshop.views()
                .view()
                .get()
                .flatMap(view -> view.turns().redo())
                .isPresent();
        commands.add(new Command("everywhere", "Redo", "Ctrl+Shift+Z", redo, workshop::redo));
        commands.add(new Command("everywhere", "What was done", "", true, this::showDone));
        commands.add(new Command("everywhere", "Share with other workstations", "", true, this::showShare));
        commands.add(new Command("everywhere", "Filter the list", "/", true, this::findFocus));
        commands.add(new Command("everywhere", "Fold or show the docket", "D", true, this::foldDocket));
        commands.add(new Command(
                "everywhere", isNight() ? "Daylight colours" : "Night colours", "", true, () -> setNight(!isNight())));
        commands.add(new Command("everywhere", "Larger text", "Ctrl++", true, () -> setScale(scale + 1)));
        commands.add(new Command("everywhere", "Smaller text", "Ctrl+-", true, () -> setScale(scale - 1)));
        for (int i = 0; i < stations.size(); i++) {
            int index = i;
            Station.Face face = stations.get(i).face();
            face.docket().bring();
            for (Node node : List.of(face.centre(), face.docket())) {
                commands.addAll(CommandFinder.below(node, face.name(), () -> show(index)));
            }
        }
        return commands;
    }

    private void find() {
        if (!top.getChildren().contains(finder)) {
            top.getChildren().add(finder);
        }
        finder.open();
    }

    private void closeFinder() {
        top.getChildren().remove(finder);
        stations.get(current).face().list().requestFocus();
    }

    private void foldDocket() {
        docketWanted = Optional.of(!isDocketShown());
        show(current);
    }

    private void findFocus() {
        if (doneShown) {
            done.findFocus();
        } else {
            stations.get(current).findFocus();
        }
    }

    /// Pictures of clips that are still being made.
    public int picturesPending() {
        return thumbnails.pending();
    }

    public ArrivalsStation arrivals() {
        return arrivals;
    }

    public SortStation sort() {
        return sort;
    }

    public StockStation stock() {
        return stock;
    }

    public void setNight(boolean on) {
        root.getStyleClass().remove("night");
        if (on) {
            root.getStyleClass().add("night");
        }
        night.setText(on ? "Daylight" : "Night");
    }

    /// Menus and hints are windows of their own, and look like the one they belong to.
    private void dress(ListChangeListener.Change<? extends javafx.stage.Window> change) {
        while (change.next()) {
            for (javafx.stage.Window added : change.getAddedSubList()) {
                if (added instanceof PopupWindow popup && isOurs(popup)) {
                    Parent content = popup.getScene().getRoot();
                    content.getStyleClass().remove("night");
                    if (isNight()) {
                        content.getStyleClass().add("night");
                    }
                    content.setStyle(root.getStyle());
                }
            }
        }
    }

    private boolean isOurs(PopupWindow popup) {
        javafx.stage.Window owner = popup.getOwnerWindow();
        return Objects.equals(owner, scene.getWindow()) || (owner instanceof PopupWindow other && isOurs(other));
    }

    /// @param step 0 for 100 %, up to 4 for 200 %
    public void setScale(int step) {
        double before = SCALES[scale];
        scale = Math.clamp(step, 0, SCALES.length - 1);
        double change = SCALES[scale] / before;
        for (Station station : stations) {
            station.face().scope().setScale(SCALES[scale]);
            station.columns().forEach(column -> column.setPrefWidth(column.getPrefWidth() * change));
        }
        strip.setScale(SCALES[scale]);
        fitWords();
        show(current);
        root.setStyle(String.format(Locale.ROOT, "-fx-font-size: %.1fpx;", 13 * SCALES[scale]));
    }

    private HBox footer() {
        var words = Parts.label("Nothing is being made", "quiet");
        var progress = new ProgressBar(0);
        progress.setPrefWidth(170);
        progress.setPrefHeight(8);
        progress.setVisible(false);
        progress.setManaged(false);
        workshop.runs().shown().subscribe(run -> showRun(run, words, progress));
        var room = Parts.label("", "quiet");
        Button last = Parts.button("", this::showDone, "link");
        last.setId("show-done");
        last.setMaxWidth(330);
        last.setMinWidth(0);
        room.setMinWidth(0);
        words.setMinWidth(0);
        for (Label less : List.of(words, room)) {
            less.visibleProperty().bind(roomy);
            less.managedProperty().bind(roomy);
        }
        Button undo = Parts.button("Undo", workshop::undo, "link");
        undo.setId("undo");
        undo.setDisable(true);
        Button redo = Parts.button("Redo", workshop::redo, "link");
        redo.setId("redo");
        redo.setDisable(true);
        night.setId("theme");
        night.setOnAction(_ -> setNight(!isNight()));
        workshop.views()
                .view()
                .subscribe(view -> view.ifPresent(shown -> {
                    room.setText(shown.room().free() + " free for copies");
                    last.setText(
                            shown.activity().isEmpty()
                                    ? ""
                                    : shown.activity().getFirst().what());
                    last.setAccessibleText("What was done; last: " + last.getText());
                    Optional<String> back = shown.turns().undo();
                    undo.setDisable(back.isEmpty());
                    Optional<String> again = shown.turns().redo();
                    redo.setDisable(again.isEmpty());
                    redo.setTooltip(
                            new Tooltip(again.map(what -> "Does again: " + what).orElse("Nothing was taken back")));
                    String latest = shown.activity().isEmpty()
                            ? ""
                            : shown.activity().getFirst().what();
                    // The button names what it takes back where that is not the latest thing that happened.
                    undo.setText(back.filter(what -> roomy.get() && !what.equals(latest))
                            .map(what -> "Undo: " + (what.length() > 34 ? what.substring(0, 33) + "…" : what))
                            .orElse("Undo"));
                    undo.setTooltip(
                            new Tooltip(back.map(what -> "Takes back: " + what).orElse("Nothing can be taken back")));
                }));
        var footer = new HBox(projects, words, progress, Parts.spring(), room, last, undo, redo, night);
        footer.getStyleClass().add("footer");
        return footer;
    }

    private static void showRun(RunSnapshot run, Label words, ProgressBar progress) {
        progress.setVisible(run.running());
        progress.setManaged(run.running());
        if (!run.running()) {
            words.setText("Nothing is being made");
            return;
        }
        List<String> making =
                run.inWork().stream().map(CopyProgress::clipName).distinct().toList();
        String doing = making.isEmpty() ? "Nothing is begun yet" : "Making " + String.join(", ", making);
        words.setText(run.why().isEmpty() ? doing : Words.capital(run.why()));
        progress.setProgress(run.done());
    }

    private void showTop() {
        boolean finding = top.getChildren().contains(finder);
        top.getChildren().setAll(strip);
        if (finding) {
            top.getChildren().add(finder);
        }
        if (!workshop.sharing().mayChange()) {
            var only = new HBox(
                    Mark.look(),
                    Parts.wrapped("You may look at this shared project, not change it: what is asked for is"
                            + " refused by its database. Who set it up gives more rights."));
            only.setId("only-sees");
            only.getStyleClass().add("banner");
            top.getChildren().add(only);
        }
        workshop.shared().outage().get().ifPresent(this::showOutage);
        workshop.contests().open().get().ifPresent(contest -> showContest(contest.problem()));
        workshop.troubles().latest().get().ifPresent(this::showProblem);
    }

    /// Both wishes, until the person decides.
    private void showContest(Problem both) {
        var text = new VBox(2, Parts.wrapped(both.what(), "strong"), Parts.wrapped(both.why()));
        HBox.setHgrow(text, Priority.ALWAYS);
        Button leave =
                Parts.button("Leave it as it is now", () -> workshop.contests().leave());
        leave.setId("leave-other");
        Button mine =
                Parts.button("Put mine in its place", () -> workshop.contests().putMine());
        mine.setId("put-own");
        var banner = new HBox(10, Mark.look(), text, leave, mine);
        banner.setId("contest");
        banner.getStyleClass().add("banner");
        top.getChildren().add(banner);
    }

    /// It stays as long as the outage does.
    private void showOutage(SharedWatch.Outage outage) {
        String since = TIME.format(outage.since().atZone(ZoneId.systemDefault()));
        var text = new VBox(
                2,
                Parts.wrapped("The project's database has not answered since " + since + ": " + outage.why(), "strong"),
                Parts.wrapped("What is shown is from then, and nothing can be changed until it answers again. Copies in"
                        + " the making go on; what is finished is kept and entered then. It is tried every second."));
        HBox.setHgrow(text, Priority.ALWAYS);
        var banner = new HBox(Mark.look(), text);
        banner.setId("outage");
        banner.getStyleClass().add("banner");
        top.getChildren().add(banner);
    }

    private void showProblem(Problem what) {
        var text = new VBox(2, Parts.wrapped(headline(what), "strong"), Parts.wrapped(advice(what)));
        HBox.setHgrow(text, Priority.ALWAYS);
        Button close =
                Parts.button("Put away", () -> workshop.troubles().latest().set(Optional.empty()));
        close.setId("put-away");
        var banner = new HBox(Mark.cross("stop"), text, close);
        banner.getStyleClass().add("banner");
        top.getChildren().add(banner);
    }

    private static String headline(Problem problem) {
        return problem.why().isEmpty() ? problem.what() : problem.what() + ": " + problem.why();
    }

    private static String advice(Problem problem) {
        return (problem.untouched() + " " + problem.next()).strip();
    }

    private void key(KeyEvent event) {
        boolean typing = scene.getFocusOwner() instanceof TextInputControl;
        if (new KeyCodeCombination(KeyCode.Z, KeyCombination.SHORTCUT_DOWN).match(event) && !typing) {
            workshop.undo();
            event.consume();
        } else if (!typing
                && (new KeyCodeCombination(KeyCode.Z, KeyCombination.SHORTCUT_DOWN, KeyCombination.SHIFT_DOWN)
                                .match(event)
                        || new KeyCodeCombination(KeyCode.Y, KeyCombination.SHORTCUT_DOWN).match(event))) {
            workshop.redo();
            event.consume();
        } else if (new KeyCodeCombination(KeyCode.K, KeyCombination.SHORTCUT_DOWN).match(event)) {
            find();
            event.consume();
        } else if (event.isShortcutDown()
                && (event.getCode() == KeyCode.PLUS
                        || event.getCode() == KeyCode.EQUALS
                        || event.getCode() == KeyCode.ADD)) {
            setScale(scale + 1);
            event.consume();
        } else if (event.isShortcutDown()
                && (event.getCode() == KeyCode.MINUS || event.getCode() == KeyCode.SUBTRACT)) {
            setScale(scale - 1);
            event.consume();
        } else if (typing
                && event.getCode() == KeyCode.ESCAPE
                && !top.getChildren().contains(finder)) {
            root.requestFocus();
            event.consume();
        } else if (!typing && !event.isShortcutDown() && !event.isAltDown()) {
            plainKey(event);
        }
    }

    /// The slash is taken when it is typed, not when it is pressed: otherwise the filter would receive it
    /// as its first letter.
    private void slash(KeyEvent event) {
        if (event.getCharacter().equals("/") && !(scene.getFocusOwner() instanceof TextInputControl)) {
            findFocus();
            event.consume();
        }
    }

    private void plainKey(KeyEvent event) {
        switch (event.getCode()) {
            case DIGIT1, NUMPAD1 -> show(0);
            case DIGIT2, NUMPAD2 -> show(1);
            case DIGIT3, NUMPAD3 -> show(2);
            case DIGIT4, NUMPAD4 -> show(3);
            case DIGIT5, NUMPAD5 -> show(4);
            case D -> foldDocket();
            default -> {
                return;
            }
        }
        event.consume();
    }

    /// What comes from this window itself is no arrival.
    private static void dragOver(DragEvent event) {
        if (event.getDragboard().hasFiles() && event.getGestureSource() == null) {
            event.acceptTransferModes(TransferMode.COPY, TransferMode.LINK);
        }
        event.consume();
    }

    private void dropped(DragEvent event) {
        take(event.getDragboard().getFiles().stream().map(File::toPath).toList());
        event.setDropCompleted(true);
        event.consume();
    }

    /// Takes what was dropped on the window or named on the command line: timelines are opened, the rest
    /// are arrivals.
    public void take(List<Path> dropped) {
        var folders = new ArrayList<Path>();
        for (Path path : dropped) {
            if (TimelineDocument.isTimeline(path)) {
                workshop.dispatch().open(path);
                show(4);
            } else {
                folders.add(path);
            }
        }
        if (!folders.isEmpty()) {
            workshop.arrivals().add(folders);
            show(0);
        }
    }
}
