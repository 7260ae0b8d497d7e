package docksort.desktop.shell;

import docksort.Footage;
import docksort.arrival.ScanListener;
import docksort.catalogue.WorkingCopy;
import docksort.desktop.parts.Theme;
import docksort.desktop.workshop.ProjectView;
import docksort.desktop.workshop.Workshop;
import docksort.engine.Cancellation;
import docksort.engine.MediaEngine;
import docksort.project.LockedRun;
import docksort.project.Project;
import docksort.sort.Condition;
import docksort.sort.Fact;
import docksort.sort.Recipe;
import docksort.sort.SortBook;
import docksort.sort.SortRule;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.InstantSource;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Callable;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import java.util.stream.Stream;
import javafx.application.Platform;
import javafx.scene.Node;
import javafx.scene.Scene;
import javafx.scene.control.ButtonBase;
import javafx.scene.control.Control;
import javafx.scene.control.Label;
import javafx.scene.control.Labeled;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.TableView;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import javafx.scene.layout.StackPane;
import javafx.stage.Stage;
import org.testfx.api.FxRobot;
import org.testfx.api.FxToolkit;
import org.testfx.util.WaitForAsyncUtils;

/// The real window over a project of its own, driven with mouse, keyboard and drop. Two cards with three
/// clips: A001 hard and A002 easy to scrub on the first, B001 at 50 fps on the second.
final class Desk implements AutoCloseable {
    /// How far the project has come when the window opens.
    enum Stand {
        EMPTY,
        CLIPS,
        COPIES
    }

    private static Optional<Path> film = Optional.empty();

    final FxRobot robot = new FxRobot();
    private final Path folder;
    private final Workshop workshop;
    private Optional<Window> window = Optional.empty();

    private Desk(Path folder) {
        this.folder = folder;
        this.workshop = Workshop.open(folder.resolve("Night Optics"), Platform::runLater);
    }

    static Desk open(Path folder, Stand stand) throws Exception {
        for (String card : List.of("Card 1", "Card 2")) {
            Path to = Files.createDirectories(folder.resolve("volume").resolve(card));
            try (Stream<Path> clips = Files.list(film().resolve(card))) {
                for (Path clip : clips.toList()) {
                    Files.copy(clip, to.resolve(clip.getFileName()));
                }
            }
        }
        Files.writeString(folder.resolve("volume/Card 1/A009.mov"), "no clip");
        Files.writeString(folder.resolve("cut.otio"), timeline());
        if (stand != Stand.EMPTY) {
            prepare(folder, stand);
        }
        return open(folder);
    }

    /// The window over what is there.
    static Desk open(Path folder) throws Exception {
        awaitDisplay();
        FxToolkit.registerPrimaryStage();
        var desk = new Desk(folder);
        desk.window = Optional.of(onWindow(() -> {
            Theme.install();
            var shown = new Window(desk.workshop);
            Stage stage = FxToolkit.toolkitContext().getRegisteredStage();
            stage.setScene(shown.scene());
            stage.setX(0);
            stage.setY(0);
            stage.show();
            stage.requestFocus();
            desk.robot.targetWindow(stage);
            return shown;
        }));
        await(() -> desk.workshop.views().view().get().isPresent());
        return desk;
    }

    /// Made once for all.
    private static synchronized Path film() throws Exception {
        if (film.isEmpty()) {
            Path made = Files.createTempDirectory("film");
            Path card = Files.createDirectories(made.resolve("Card 1"));
            Path more = Files.createDirectories(made.resolve("Card 2"));
            try (MediaEngine engine = MediaEngine.locate()) {
                clip(engine, card.resolve("A001.mov"), "25", 50, "50", "-timecode", "10:00:00:00");
                clip(engine, card.resolve("A002.mov"), "25", 40, "1");
                clip(engine, more.resolve("B001.mov"), "50", 60, "30");
            }
            Runtime.getRuntime().addShutdownHook(new Thread(() -> sweep(made)));
            film = Optional.of(made);
        }
        return film.get();
    }

    private static void sweep(Path folder) {
        try (Stream<Path> all = Files.walk(folder)) {
            all.sorted(Comparator.reverseOrder()).map(Path::toFile).forEach(file -> file.delete());
        } catch (IOException e) {
            throw new AssertionError(folder + " is left behind", e);
        }
    }

    private static void clip(MediaEngine engine, Path file, String rate, int frames, String group, String... more)
            throws InterruptedException {
        String[] usual = {"-c:v", "libx264", "-g", group};
        new Footage(engine)
                .clip(
                        file,
                        "1280x720",
                        rate,
                        frames,
                        Stream.concat(Stream.of(usual), Stream.of(more)).toArray(String[]::new));
    }

    /// A clip more on a card.
    /// @param sound a formula for each channel, with a bar between them
    void shootWithSound(Path file, String sound) throws InterruptedException {
        try (MediaEngine engine = MediaEngine.locate()) {
            engine.run(List.of(
                    "-f",
                    "lavfi",
                    "-i",
                    "testsrc2=size=320x180:rate=25:duration=4",
                    "-f",
                    "lavfi",
                    "-i",
                    "aevalsrc='" + sound + "':s=48000:d=4",
                    "-c:v",
                    "mjpeg",
                    "-c:a",
                    "pcm_s16le",
                    "file:" + file));
        }
    }

    void shoot(Path file) throws InterruptedException {
        try (MediaEngine engine = MediaEngine.locate()) {
            clip(engine, file, "25", 10, "1");
        }
    }

    private static void prepare(Path folder, Stand stand) throws Exception {
        try (MediaEngine engine = MediaEngine.locate();
                Project project = Project.open(folder.resolve("Night Optics"), engine, InstantSource.system())) {
            for (String card : List.of("Card 1", "Card 2")) {
                project.arrivals().add(folder.resolve("volume").resolve(card), ScanListener.none(), new Cancellation());
            }
            var small = new SortRule(
                    List.of(new Condition(Fact.SCRUB_COST, Fact.Is.AT_LEAST, "4")),
                    List.of(Recipe.LIGHT_PRORES_HALF.id()));
            project.book()
                    .change(
                            SortBook.BUILT_IN.withRules(
                                    List.of(SortRule.BUILT_IN.get(0), SortRule.BUILT_IN.get(1), small)),
                            "rules for small clips");
            if (stand == Stand.COPIES) {
                project.queue().enqueue(project.plans().loadSheet());
                try (LockedRun run = project.runs().start(2, () -> {}).orElseThrow()) {
                    if (!run.run().awaitEnd(Duration.ofMinutes(2))) {
                        throw new AssertionError("the copies are not made in time");
                    }
                }
            }
        }
    }

    static String timeline() {
        return """
            {"OTIO_SCHEMA": "Timeline.1", "name": "cut 7", "tracks": {"OTIO_SCHEMA": "Stack.1", "children": [{"OTIO_SCHEMA": "Clip.2",
             "name": "A001", "active_media_reference_key": "DEFAULT_MEDIA", "media_references": {"DEFAULT_MEDIA":
             {"OTIO_SCHEMA": "ExternalReference.1", "target_url": "volume/Card 1/A001.mov"}}}]}}
            """;
    }

    private static void awaitDisplay() throws Exception {
        String display = System.getenv().getOrDefault("DISPLAY", "");
        if (display.startsWith(":")) {
            Path socket = Path.of("/tmp/.X11-unix/X" + display.substring(1).replaceAll("\\..*", ""));
            WaitForAsyncUtils.waitFor(30, TimeUnit.SECONDS, () -> Files.exists(socket));
        }
    }

    @Override
    public void close() throws TimeoutException {
        FxToolkit.cleanupStages();
        workshop.close();
    }

    Path folder() {
        return folder;
    }

    Workshop workshop() {
        return workshop;
    }

    Window window() {
        return window.orElseThrow();
    }

    ProjectView view() {
        return workshop.views().view().get().orElseThrow();
    }

    List<WorkingCopy> copies() {
        return view().stock().stream().flatMap(line -> line.copies().stream()).toList();
    }

    static <T> T onWindow(Callable<T> work) throws Exception {
        return WaitForAsyncUtils.waitForAsyncFx(30_000, work);
    }

    static void await(Callable<Boolean> reached) throws Exception {
        WaitForAsyncUtils.waitFor(40, TimeUnit.SECONDS, () -> onWindow(reached));
        WaitForAsyncUtils.waitForFxEvents();
    }

    /// Opens the project's timeline.
    void openTimeline() throws Exception {
        take(folder.resolve("cut.otio"));
        await(() -> shows("every event is on its original"));
    }

    void take(Path file) {
        robot.interact(() -> window().take(List.of(file)));
    }

    /// Presses a button of the docket, which may be drawn anew while a pointer moves towards it, or which
    /// lies below what is shown without scrolling.
    void press(String button) throws Exception {
        await(() -> isThere(button));
        robot.interact(() -> robot.lookup(button).queryAs(ButtonBase.class).fire());
    }

    boolean isThere(String id) {
        return robot.lookup(id).tryQuery().isPresent();
    }

    /// Writes into a field at once.
    void fill(String field, String text) throws Exception {
        await(() -> isThere(field));
        robot.interact(() -> robot.lookup(field).queryAs(TextField.class).setText(text));
    }

    void station(KeyCode key) {
        robot.type(key);
        WaitForAsyncUtils.waitForFxEvents();
    }

    void selectFirst(String table) throws Exception {
        await(() -> !table(table).getItems().isEmpty());
        robot.interact(() -> table(table).getSelectionModel().select(0));
    }

    TableView<?> table(String id) {
        return robot.lookup("#" + id).queryTableView();
    }

    boolean isInTable(String id, String text) {
        return table(id).lookupAll(".label").stream()
                .anyMatch(node -> node instanceof Labeled label && text.equals(label.getText()));
    }

    boolean shows(String text) {
        return robot.lookup((Labeled label) ->
                        label.getText() != null && label.getText().contains(text) && isShown(label))
                .tryQuery()
                .isPresent();
    }

    /// Another program's window, below this one.
    static Stage beside(Label label, double width) throws Exception {
        return onWindow(() -> {
            var stage = new Stage();
            stage.setScene(new Scene(new StackPane(label), width, 60));
            stage.setX(20);
            stage.setY(820);
            stage.show();
            return stage;
        });
    }

    /// Without a window manager the keyboard does not come back by itself.
    void comeBackFrom(Stage other) {
        robot.interact(() -> {
            other.close();
            Stage main = FxToolkit.toolkitContext().getRegisteredStage();
            main.requestFocus();
            robot.targetWindow(main);
        });
    }

    /// What the keyboard can come to and a screen reader could not name.
    List<String> nameless() throws Exception {
        return onWindow(() -> robot
                .lookup((Node node) ->
                        node instanceof Control && node.isFocusTraversable() && isShown(node) && !isNamed(node))
                .queryAll()
                .stream()
                .map(node -> node.getClass().getSimpleName() + " " + node.getId() + " " + node.getStyleClass())
                .toList());
    }

    private static boolean isNamed(Node node) {
        boolean byText = node instanceof Labeled labeled
                && labeled.getText() != null
                && !labeled.getText().isBlank();
        boolean byName =
                node.getAccessibleText() != null && !node.getAccessibleText().isBlank();
        return byText || byName || hasLabel(node) || node instanceof ScrollPane;
    }

    private static boolean hasLabel(Node node) {
        return node.getScene().getRoot().lookupAll(".label").stream()
                .anyMatch(label -> label instanceof Label its && node.equals(its.getLabelFor()));
    }

    private static boolean isShown(Node node) {
        for (Node at = node; at != null; at = at.getParent()) {
            if (!at.isVisible()) {
                return false;
            }
        }
        return true;
    }
}
