package docksort.desktop.shell;

import static org.assertj.core.api.Assertions.assertThat;

import docksort.Footage;
import docksort.WithMedia;
import docksort.arrival.Clip;
import docksort.catalogue.CopyState;
import docksort.desktop.parts.Docket;
import docksort.desktop.parts.Theme;
import docksort.desktop.workshop.Workshop;
import docksort.engine.MediaEngine;
import docksort.sort.Recipe;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.time.LocalTime;
import java.time.format.DateTimeFormatter;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Callable;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.prefs.Preferences;
import javafx.application.Platform;
import javafx.scene.Scene;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Control;
import javafx.scene.control.Label;
import javafx.scene.control.Labeled;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.TableView;
import javafx.scene.control.TextField;
import javafx.scene.input.ClipboardContent;
import javafx.scene.input.KeyCode;
import javafx.scene.input.TransferMode;
import javafx.scene.layout.StackPane;
import javafx.stage.Stage;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.MethodOrderer;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.TestMethodOrder;
import org.junit.jupiter.api.io.TempDir;
import org.testfx.api.FxRobot;
import org.testfx.api.FxToolkit;
import org.testfx.util.WaitForAsyncUtils;

/// Drives the real window through the whole job with mouse, keyboard and drop. The steps build on each
/// other, as they do for the person at the desk.
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
@TestMethodOrder(MethodOrderer.OrderAnnotation.class)
@WithMedia
class WindowTest {
    private final FxRobot robot = new FxRobot();
    private Path folder = Path.of("");
    private Optional<Workshop> opened = Optional.empty();
    private Optional<Window> window = Optional.empty();

    @BeforeAll
    void open(@TempDir Path temporary) throws Exception {
        folder = temporary;
        Path card = Files.createDirectories(folder.resolve("volume/Card 1"));
        Path more = Files.createDirectories(folder.resolve("volume/Card 2"));
        try (MediaEngine engine = MediaEngine.locate()) {
            var footage = new Footage(engine);
            footage.clip(
                    card.resolve("A001.mov"),
                    "1280x720",
                    "25",
                    50,
                    "-c:v",
                    "libx264",
                    "-g",
                    "50",
                    "-timecode",
                    "10:00:00:00");
            footage.clip(card.resolve("A002.mov"), "1280x720", "25", 40, "-c:v", "libx264", "-g", "1");
            footage.clip(more.resolve("B001.mov"), "1280x720", "50", 60, "-c:v", "libx264", "-g", "30");
        }
        Files.writeString(card.resolve("A009.mov"), "no clip");
        Files.writeString(folder.resolve("cut.otio"), timeline());
        Files.writeString(folder.resolve("broken.otio"), "{");
        awaitDisplay();
        FxToolkit.registerPrimaryStage();
        Workshop workshop = Workshop.open(folder.resolve("Night Optics"), Platform::runLater);
        opened = Optional.of(workshop);
        onWindow(() -> {
            Theme.install();
            window = Optional.of(new Window(workshop));
            Stage stage = FxToolkit.toolkitContext().getRegisteredStage();
            stage.setScene(window.orElseThrow().scene());
            stage.setX(0);
            stage.setY(0);
            stage.show();
            return true;
        });
        await(() -> workshop().views().view().get().isPresent());
    }

    private static void awaitDisplay() throws Exception {
        String display = System.getenv().getOrDefault("DISPLAY", "");
        if (display.startsWith(":")) {
            Path socket = Path.of("/tmp/.X11-unix/X" + display.substring(1).replaceAll("\\..*", ""));
            WaitForAsyncUtils.waitFor(30, TimeUnit.SECONDS, () -> Files.exists(socket));
        }
    }

    @AfterAll
    void close() throws TimeoutException {
        FxToolkit.cleanupStages();
        opened.ifPresent(Workshop::close);
    }

    private Workshop workshop() {
        return opened.orElseThrow();
    }

    private static <T> T onWindow(Callable<T> work) throws Exception {
        return WaitForAsyncUtils.waitForAsyncFx(30_000, work);
    }

    /// Presses a button of the docket, which may be drawn anew while a pointer moves towards it.
    private void press(String button) {
        robot.interact(() -> robot.lookup(button)
                .queryAs(javafx.scene.control.ButtonBase.class)
                .fire());
    }

    private static void await(Callable<Boolean> reached) throws Exception {
        WaitForAsyncUtils.waitFor(40, TimeUnit.SECONDS, () -> onWindow(reached));
        WaitForAsyncUtils.waitForFxEvents();
    }

    private TableView<?> table(String id) {
        return robot.lookup("#" + id).queryTableView();
    }

    private boolean isInTable(String id, String text) {
        return table(id).lookupAll(".label").stream()
                .anyMatch(node -> node instanceof Labeled label && text.equals(label.getText()));
    }

    private boolean shows(String text) {
        return robot.lookup((Labeled label) ->
                        label.getText() != null && label.getText().contains(text) && isShown(label))
                .tryQuery()
                .isPresent();
    }

    /// What the keyboard can come to and a screen reader could not name.
    private List<String> nameless() throws Exception {
        return onWindow(() -> robot
                .lookup((javafx.scene.Node node) ->
                        node instanceof Control && node.isFocusTraversable() && isShown(node) && !isNamed(node))
                .queryAll()
                .stream()
                .map(node -> node.getClass().getSimpleName() + " " + node.getId() + " " + node.getStyleClass())
                .toList());
    }

    private static boolean isNamed(javafx.scene.Node node) {
        boolean byText = node instanceof Labeled labeled
                && labeled.getText() != null
                && !labeled.getText().isBlank();
        boolean byName =
                node.getAccessibleText() != null && !node.getAccessibleText().isBlank();
        boolean byLabel = hasLabel(node);
        return byText || byName || byLabel || node instanceof ScrollPane;
    }

    private static boolean hasLabel(javafx.scene.Node node) {
        return node.getScene().getRoot().lookupAll(".label").stream()
                .anyMatch(label -> label instanceof Label its && node.equals(its.getLabelFor()));
    }

    private static boolean isShown(javafx.scene.Node node) {
        for (javafx.scene.Node at = node; at != null; at = at.getParent()) {
            if (!at.isVisible()) {
                return false;
            }
        }
        return true;
    }

    private String timeline() {
        return """
            {"OTIO_SCHEMA": "Timeline.1", "name": "cut 7", "tracks": {"OTIO_SCHEMA": "Stack.1", "children": [{"OTIO_SCHEMA": "Clip.2",
             "name": "A001", "active_media_reference_key": "DEFAULT_MEDIA", "media_references": {"DEFAULT_MEDIA":
             {"OTIO_SCHEMA": "ExternalReference.1", "target_url": "volume/Card 1/A001.mov"}}}]}}
            """;
    }

    @Test
    @Order(1)
    void anEmptyProjectSaysWhatToDo() throws Exception {
        await(() -> shows("Nothing has come in yet"));
        assertThat(shows("Add the whole folder of a camera card")).isTrue();
        for (KeyCode key : List.of(KeyCode.DIGIT2, KeyCode.DIGIT3, KeyCode.DIGIT4, KeyCode.DIGIT5)) {
            robot.type(key);
            WaitForAsyncUtils.waitForFxEvents();
        }
        await(() -> shows("No timeline is open"));
        robot.type(KeyCode.DIGIT1);
    }

    @Test
    @Order(2)
    void aFolderDroppedOnTheWindowBecomesClips() throws Exception {
        Stage shelf = onWindow(() -> {
            var label = new Label("drag me");
            label.setId("drag-source");
            label.setOnDragDetected(_ -> {
                var content = new ClipboardContent();
                content.putFiles(List.of(folder.resolve("volume/Card 1").toFile()));
                label.startDragAndDrop(TransferMode.COPY).setContent(content);
            });
            var stage = new Stage();
            stage.setScene(new Scene(new StackPane(label), 160, 60));
            stage.setX(20);
            stage.setY(820);
            stage.show();
            return stage;
        });
        robot.drag("#drag-source").dropTo("#arrivals-table");
        await(() -> table("arrivals-table").getItems().size() == 3);
        onWindow(() -> {
            shelf.close();
            // Without a window manager the keyboard does not come back by itself.
            Stage main = FxToolkit.toolkitContext().getRegisteredStage();
            main.requestFocus();
            robot.targetWindow(main);
            return true;
        });
        assertThat(shows("1 unreadable")).isTrue();
    }

    @Test
    @Order(3)
    void aSecondFolderIsAddedAndTheSameOneIsRefusedInPlace() throws Exception {
        onWindow(() -> workshop()
                .arrivals()
                .add(List.of(
                        folder.resolve("volume/Card 2"), folder.resolve("volume/Card 1"), folder.resolve("nowhere"))));
        await(() -> table("arrivals-table").getItems().size() == 4);
        await(() -> shows("Cannot add"));
        assertThat(shows("in the project already")).isTrue();
        robot.clickOn("#put-away");
        await(() -> !shows("Cannot add"));
    }

    @Test
    @Order(4)
    void slashFiltersAndASelectedClipIsExplained() throws Exception {
        robot.type(KeyCode.SLASH);
        robot.write("a00 long-gop");
        await(() -> table("arrivals-table").getItems().size() == 1);
        robot.clickOn("A001");
        await(() -> shows("Keyframe every 2.0 s"));
        assertThat(shows("counted"))
                .as("the docket tells where the frame count is from")
                .isTrue();
        onWindow(() -> {
            robot.lookup("#arrivals-filter").queryAs(TextField.class).clear();
            return true;
        });
        robot.type(KeyCode.ESCAPE);
        await(() -> table("arrivals-table").getItems().size() == 4);
    }

    @Test
    @Order(5)
    void choosingByHandChangesTheLoadSheetAndUndoTakesItBack() throws Exception {
        robot.type(KeyCode.DIGIT2);
        await(() -> shows("scrub cost at least 4"));
        long before = workshop()
                .views()
                .view()
                .get()
                .orElseThrow()
                .sheet()
                .bytes()
                .likely()
                .bytes();
        robot.clickOn("A002");
        robot.clickOn("#set-recipe").clickOn("#choose-" + Recipe.FULL_VC3.id());
        await(() -> workshop()
                        .views()
                        .view()
                        .get()
                        .orElseThrow()
                        .sheet()
                        .bytes()
                        .likely()
                        .bytes()
                > before);
        assertThat(shows("by hand")).isTrue();
        robot.clickOn("#undo");
        await(() -> workshop()
                        .views()
                        .view()
                        .get()
                        .orElseThrow()
                        .sheet()
                        .bytes()
                        .likely()
                        .bytes()
                == before);
    }

    @Test
    @Order(5)
    void rulesAndRecipesAreMadeInTheWindowAndSayWhatWouldChange() throws Exception {
        robot.type(KeyCode.DIGIT2);
        await(() -> shows("scrub cost at least 4"));
        robot.clickOn("#edit-rule-3");
        await(() -> shows("Nothing: the same clips get the same copies."));
        TextField value = onWindow(() -> robot.lookup(".docket-page .text-field").queryAll().stream()
                .map(TextField.class::cast)
                .filter(field -> field.getText().equals("4"))
                .findFirst()
                .orElseThrow());
        onWindow(() -> {
            value.setText("many");
            return true;
        });
        await(() -> shows("scrub cost cannot be compared with"));
        onWindow(() -> {
            value.setText("1");
            return true;
        });
        await(() -> robot.lookup(".docket-page .label").queryAll().stream()
                .map(node -> ((javafx.scene.control.Label) node).getText())
                .anyMatch(text -> text.matches("\\d+ gets? light.*|\\d+ get light.*")));
        robot.clickOn("#apply-rule");
        await(() -> shows("scrub cost at least 1"));
        robot.clickOn("#undo");
        await(() -> shows("scrub cost at least 4"));
        robot.clickOn("#show-recipes");
        await(() -> robot.lookup("#new-from-full-vc3").tryQuery().isPresent());
        onWindow(() -> {
            robot.lookup("#new-from-full-vc3").queryAs(Button.class).fire();
            return true;
        });
        onWindow(() -> {
            combo("#recipe-codec").getSelectionModel().select(0);
            combo("#recipe-container").getSelectionModel().select(2);
            return true;
        });
        await(() -> shows("MP4 does not take ProRes Proxy"));
        assertThat(onWindow(
                        () -> robot.lookup("#save-recipe").queryAs(Button.class).isDisabled()))
                .isTrue();
        onWindow(() -> {
            combo("#recipe-container").getSelectionModel().select(0);
            robot.lookup("#recipe-name").queryAs(TextField.class).setText("Desk copies");
            return true;
        });
        onWindow(() -> {
            robot.lookup("#save-recipe").queryAs(Button.class).fire();
            return true;
        });
        await(() -> workshop()
                .views()
                .view()
                .get()
                .orElseThrow()
                .book()
                .byId("desk-copies")
                .isPresent());
        robot.clickOn("#undo");
        await(() -> workshop().views().view().get().orElseThrow().book().own().isEmpty());
        robot.clickOn("Back to the load sheet");
        await(() -> shows("Load sheet"));
    }

    private ComboBox<?> combo(String id) {
        return robot.lookup(id).queryAs(ComboBox.class);
    }

    @Test
    @Order(5)
    void aMistakeOfThePlanIsMendedWithOneClick() throws Exception {
        List<Clip> first = workshop().views().view().get().orElseThrow().clips().stream()
                .filter(clip -> clip.name().equals("A001"))
                .toList();
        workshop().sort().choose(first, Optional.of(List.of(Recipe.REVIEW))).get(30, TimeUnit.SECONDS);
        await(() -> shows("would be long-GOP"));
        robot.clickOn("Use an all-intra recipe");
        await(() -> !shows("would be long-GOP"));
        assertThat(workshop().views().view().get().orElseThrow().sheet().wanted())
                .anyMatch(copy -> copy.recipe().equals(Recipe.LIGHT_PRORES_HALF));
        robot.clickOn("#undo");
        await(() -> shows("would be long-GOP"));
        robot.clickOn("#undo");
        await(() -> !shows("would be long-GOP"));
    }

    @Test
    @Order(6)
    void aRunIsPutInOrderHeldAndTellsItself() throws Exception {
        onWindow(() -> {
            // A time that has just gone by is tomorrow's: nothing is begun yet.
            String justGone = DateTimeFormatter.ofPattern("HH:mm")
                    .format(LocalTime.now(java.time.ZoneId.systemDefault()).minusMinutes(2));
            robot.lookup("#start-from").queryAs(TextField.class).setText(justGone);
            return true;
        });
        robot.clickOn("#start-run");
        await(() -> shows("begins at"));
        TableView<?> table = table("run-table");
        List<String> before = order();
        onWindow(() -> {
            table.getSelectionModel().clearAndSelect(1);
            return true;
        });
        await(() -> robot.lookup("#move-first").tryQuery().isPresent());
        robot.clickOn("#move-first");
        await(() -> order().equals(before.reversed()));
        robot.clickOn("#leave-out");
        await(() -> workshop().runs().shown().get().count(CopyState.WANTED) == 1
                || workshop().runs().shown().get().copies().size() == 1);
        robot.clickOn("#hold-run");
        await(() -> shows("held still"));
        robot.clickOn("#stop-run");
        await(() -> !workshop().runs().shown().get().running());
        robot.type(KeyCode.DIGIT2);
        onWindow(() -> {
            robot.lookup("#start-from").queryAs(TextField.class).clear();
            return true;
        });
        await(() -> !robot.lookup("#start-run").queryAs(Button.class).isDisabled());
        robot.clickOn("#start-run");
        await(() -> workshop().runs().shown().get().finished() == 2
                && !workshop().runs().shown().get().running());
        assertThat(workshop().runs().shown().get().count(CopyState.READY)).isEqualTo(2);
        await(() -> shows("done in"));
        robot.clickOn("B001");
        await(() -> shows("frames 60\nrate 50 fps"));
        Path report = folder.resolve("report.html");
        workshop().runs().writeReport(report).get(30, TimeUnit.SECONDS);
        assertThat(Files.readString(report))
                .contains("2 made and checked, 0 failed")
                .contains("B001");
    }

    private List<String> order() {
        return workshop().runs().shown().get().copies().stream()
                .map(copy -> copy.copy().id())
                .toList();
    }

    @Test
    @Order(7)
    void stockShowsWhichFileServes() throws Exception {
        robot.clickOn("#station-stock");
        await(() -> shows("A001_light.mov"));
        Path copy = workshop()
                .views()
                .view()
                .get()
                .orElseThrow()
                .stock()
                .getFirst()
                .served()
                .file();
        Stage elsewhere = onWindow(() -> {
            var label = new Label("another program");
            label.setId("drop-target");
            label.setOnDragOver(event -> event.acceptTransferModes(TransferMode.COPY));
            label.setOnDragDropped(event -> {
                label.setText(event.getDragboard().getFiles().toString());
                event.setDropCompleted(true);
            });
            var stage = new Stage();
            stage.setScene(new Scene(new StackPane(label), 900, 60));
            stage.setX(20);
            stage.setY(820);
            stage.show();
            return stage;
        });
        robot.drag("A001_light.mov").dropTo("#drop-target");
        await(() -> robot.lookup("#drop-target").queryAs(Label.class).getText().equals("[" + copy + "]"));
        onWindow(() -> {
            elsewhere.close();
            Stage main = FxToolkit.toolkitContext().getRegisteredStage();
            main.requestFocus();
            return true;
        });
        Path aside = Files.move(copy, copy.resolveSibling("aside"));
        await(() -> shows("1 needs a look")); // by itself
        Files.move(aside, copy);
        robot.clickOn("Look again");
        await(() -> !shows("1 needs a look"));
    }

    @Test
    @Order(8)
    void aTimelineIsSwitchedSavedAndBrokenOnesAreRefused() throws Exception {
        onWindow(() -> {
            window.orElseThrow().take(List.of(folder.resolve("cut.otio")));
            return true;
        });
        await(() -> shows("every event is on its original"));
        press("#order-light");
        await(() -> shows("1 of 1 events are on copies"));
        press("#save-timeline");
        await(() -> Files.readString(folder.resolve("cut.otio")).contains("A001_light.mov"));
        press("#order-originals");
        await(() -> shows("every event is on its original"));
        press("#save-timeline");
        await(() -> !Files.readString(folder.resolve("cut.otio")).contains("A001_light.mov"));
        Path longer = folder.resolve("longer.otio");
        String clip =
                timeline().substring(timeline().indexOf("[{") + 1, timeline().lastIndexOf("}]") + 1);
        Files.writeString(longer, timeline().replace(clip, clip + ", " + clip));
        Files.move(longer, folder.resolve("cut.otio"), StandardCopyOption.REPLACE_EXISTING); // as another program
        await(() -> shows("Another program has written it since: "));
        Files.writeString(longer, timeline());
        Files.move(longer, folder.resolve("cut.otio"), StandardCopyOption.REPLACE_EXISTING);
        await(() -> table("dispatch-table").getItems().size() == 1);
        onWindow(() -> {
            window.orElseThrow().take(List.of(folder.resolve("broken.otio")));
            return true;
        });
        await(() -> shows("Cannot open the timeline"));
        assertThat(shows("every event is on its original"))
                .as("the open timeline stays")
                .isTrue();
        robot.clickOn("#put-away");
    }

    @Test
    @Order(9)
    void aTimelineOnCopiesDoesNotLeaveForFinishing() throws Exception {
        robot.interact(() -> table("dispatch-table").getSelectionModel().select(0));
        // They may lie below what the docket shows without scrolling.
        robot.interact(() -> robot.lookup("#pin-clip-full")
                .queryAs(javafx.scene.control.ToggleButton.class)
                .fire());
        await(() -> shows("original, pinned") && isInTable("dispatch-table", "original, pinned"));
        robot.interact(() -> robot.lookup("#pin-away").queryButton().fire());
        await(() -> !shows("original, pinned"));
        press("#order-light");
        await(() -> shows("1 of 1 events are on copies"));
        robot.clickOn("#open-departure");
        robot.interact(() ->
                robot.lookup("#departure-delivery").queryAs(TextField.class).setText("1920x1080"));
        robot.clickOn("#departure-check");
        await(() -> shows("It does not leave: 1 thing is not as it must be"));
        robot.interact(
                () -> robot.lookup("#departure-name").queryAs(TextField.class).setText("the keeper"));
        assertThat(robot.lookup("#departure-leave").queryButton().isDisabled())
                .as("not without a reason")
                .isTrue();
        robot.interact(
                () -> robot.lookup("#departure-reason").queryAs(TextField.class).setText("a test"));
        assertThat(robot.lookup("#departure-leave").queryButton().isDisabled()).isFalse();
        robot.clickOn("#back-to-list");
        press("#order-originals");
        await(() -> shows("every event is on its original"));
        robot.clickOn("#open-departure");
        robot.clickOn("#departure-check");
        await(() -> shows("It may leave: 1 event, "));
        robot.clickOn("#back-to-list");
    }

    @Test
    @Order(10)
    void originalAndCopyAreSeenAtOneFrameAndADeadDecoderIsTold() throws Exception {
        robot.interact(() -> table("dispatch-table").getSelectionModel().select(0));
        robot.clickOn("#open-pair");
        await(() -> shows("A jump is reached in: original"));
        await(() -> robot.lookup("#pair-picture")
                        .lookup((javafx.scene.image.ImageView view) -> view.isVisible()
                                && view.getImage() != null
                                && view.getImage().getWidth() > 100)
                        .queryAll()
                        .size()
                == 2);
        robot.clickOn("#pair-next");
        await(() -> shows("1 of 49"));
        robot.type(KeyCode.RIGHT);
        await(() -> shows("2 of 49"));
        robot.clickOn("#pair-alike-here");
        await(() -> shows("luma SSIM 0.9"));
        ProcessHandle.current()
                .children()
                .filter(child -> child.info()
                        .command()
                        .filter(command -> command.endsWith("java"))
                        .isPresent())
                .forEach(ProcessHandle::destroyForcibly);
        robot.clickOn("#pair-next");
        await(() -> shows("The decoder ended over"));
        robot.clickOn("#pair-next");
        await(() -> shows("4 of 49") && !shows("The decoder ended over"));
        robot.clickOn("#back-to-list");
    }

    @Test
    @Order(11)
    void everyActionIsFoundByItsName() throws Exception {
        robot.type(KeyCode.DIGIT1);
        robot.press(KeyCode.CONTROL, KeyCode.K).release(KeyCode.K, KeyCode.CONTROL);
        await(() -> robot.lookup("#finder-words").tryQuery().isPresent());
        robot.write("stock checks");
        robot.type(KeyCode.ENTER);
        await(() -> shows("Every file of a list is read whole"));
        assertThat(robot.lookup("#finder-words").tryQuery())
                .as("it is put away")
                .isEmpty();
        robot.clickOn("#back-to-list");
        robot.press(KeyCode.CONTROL, KeyCode.K).release(KeyCode.K, KeyCode.CONTROL);
        robot.write("no such thing");
        await(() -> shows("Nothing is called that"));
        robot.type(KeyCode.ESCAPE);
        await(() -> robot.lookup("#finder-words").tryQuery().isEmpty());
    }

    @Test
    @Order(11)
    void aDocketIsBuiltOnceForManyChangesAndOnlyWhileItIsSeen() throws Exception {
        var built = new AtomicInteger();
        var docket = new Docket(() -> List.of(new Label("page " + built.incrementAndGet())));
        for (int i = 0; i < 5; i++) {
            onWindow(() -> {
                docket.refresh();
                return true;
            });
        }
        assertThat(built).hasValue(0);
        Stage stage = onWindow(() -> {
            var shown = new Stage();
            shown.setScene(new Scene(new StackPane(docket), 160, 60));
            docket.refresh();
            docket.refresh();
            return shown;
        });
        await(() -> docket.getChildren().size() == 1);
        assertThat(built).hasValue(1);
        onWindow(() -> {
            docket.refresh();
            stage.close();
            return true;
        });
        WaitForAsyncUtils.waitForFxEvents();
        assertThat(built).hasValue(2);
        var unseen = new Docket(() -> List.of(new Button("do it")));
        assertThat(unseen.getChildren()).isEmpty();
        onWindow(() -> {
            unseen.bring(); // as the command finder does, which names what stations offer that were never shown
            return true;
        });
        assertThat(CommandFinder.below(unseen, "here", () -> {}))
                .extracting(CommandFinder.Command::name)
                .containsExactly("do it");
    }

    @Test
    @Order(11)
    void everyControlHasANameForAScreenReader() throws Exception {
        var pages = new LinkedHashMap<String, List<String>>();
        for (KeyCode station : List.of(KeyCode.DIGIT1, KeyCode.DIGIT2, KeyCode.DIGIT3)) {
            robot.type(station);
            WaitForAsyncUtils.waitForFxEvents();
            pages.put("station " + station.getChar(), nameless());
        }
        robot.type(KeyCode.DIGIT2);
        for (String page : List.of("add-rule", "show-recipes")) {
            robot.interact(() -> robot.lookup("#" + page).queryButton().fire());
            pages.put(page, nameless());
        }
        robot.interact(
                () -> robot.lookup("#new-from-light-prores-half").queryButton().fire());
        pages.put("a recipe", nameless());
        for (String task : List.of("take-over", "search", "names", "clean-up", "checksums")) {
            pages.put(task, namelessOf(KeyCode.DIGIT4, "#open-" + task));
        }
        for (String task : List.of("departure", "pull", "compare", "lists", "workstations", "pair")) {
            pages.put(task, namelessOf(KeyCode.DIGIT5, "#open-" + task));
        }
        assertThat(pages).allSatisfy((page, left) -> assertThat(left).as(page).isEmpty());
    }

    private List<String> namelessOf(KeyCode station, String button) throws Exception {
        robot.type(station);
        if (station == KeyCode.DIGIT5) {
            robot.interact(() -> table("dispatch-table").getSelectionModel().select(0));
        }
        robot.interact(() -> robot.lookup(button).queryButton().fire());
        await(() -> robot.lookup("#back-to-list").tryQuery().isPresent());
        List<String> left = nameless();
        robot.interact(() -> robot.lookup("#back-to-list").queryButton().fire());
        return left;
    }

    @Test
    @Order(12)
    void theWindowComesBackAsItWasLeft() throws Exception {
        Preferences kept = Preferences.userRoot()
                .node("dock-sort/test-" + ProcessHandle.current().pid());
        var memory = new WindowMemory(kept);
        Window shown = window.orElseThrow();
        try {
            List<List<String>> asLeft = onWindow(() -> {
                tables(shown).forEach(WindowTest::putLast);
                tables(shown).forEach(table -> table.getColumns().getFirst().setPrefWidth(211));
                shown.setNight(true);
                return tables(shown).stream().map(WindowTest::titles).toList();
            });
            WaitForAsyncUtils.waitForFxEvents();
            List<List<String>> cameBack = onWindow(() -> {
                Stage stage = FxToolkit.toolkitContext().getRegisteredStage();
                memory.keep(shown, stage);
                for (TableView<?> table : tables(shown)) {
                    putLast(table);
                    table.getColumns().forEach(column -> column.setPrefWidth(90));
                }
                shown.setNight(false);
                memory.restore(shown, stage);
                return tables(shown).stream().map(WindowTest::titles).toList();
            });
            assertThat(cameBack).isEqualTo(asLeft);
            assertThat(onWindow(shown::isNight)).isTrue();
            assertThat(kept.get("columns.stock-table", "")).contains("=");
        } finally {
            kept.removeNode();
            onWindow(() -> {
                shown.setNight(false);
                return true;
            });
        }
    }

    private static List<TableView<?>> tables(Window shown) {
        return shown.stations().stream()
                .<TableView<?>>map(station -> station.face().list())
                .toList();
    }

    private static List<String> titles(TableView<?> table) {
        return table.getColumns().stream().map(column -> column.getId()).toList();
    }

    private static <T> void putLast(TableView<T> table) {
        table.getColumns().add(table.getColumns().removeFirst());
    }

    @Test
    @Order(13)
    void aMovedRootIsPointedAtItsNewPlaceByTyping() throws Exception {
        Files.move(folder.resolve("volume"), folder.resolve("moved"));
        robot.clickOn("#station-stock");
        robot.clickOn("Look again");
        await(() -> shows("3 originals away"));
        TextField field = robot.lookup("#root-volume").queryAs(TextField.class);
        onWindow(() -> {
            field.setText(folder.resolve("moved").toString());
            return true;
        });
        robot.clickOn(field).type(KeyCode.ENTER);
        await(() -> shows("3 are the same recording"));
        robot.clickOn("#carry-out-relink");
        await(() -> !shows("3 originals away"));
        List<Clip> clips = workshop().views().view().get().orElseThrow().clips();
        assertThat(clips).allSatisfy(clip -> assertThat(clip.source().head()).startsWith(folder.resolve("moved")));
    }

    @Test
    @Order(14)
    void copiesAreTakenOverRenamedStoppedAndAllOfItTakenBack() throws Exception {
        robot.type(KeyCode.DIGIT4);
        Path elsewhere = Files.createDirectories(folder.resolve("elsewhere"));
        Path original = workshop().views().view().get().orElseThrow().clips().stream()
                .filter(clip -> clip.name().equals("B001"))
                .findFirst()
                .orElseThrow()
                .source()
                .head();
        try (MediaEngine engine = MediaEngine.locate()) {
            engine.run(List.of(
                    "-i",
                    "file:" + original,
                    "-vf",
                    "scale=iw/2:ih/2",
                    "-c:v",
                    "mjpeg",
                    "-q:v",
                    "3",
                    "file:" + elsewhere.resolve("B001_P.mov")));
        }
        Files.writeString(elsewhere.resolve("C009_P.mov"), "no film");
        robot.clickOn("#open-take-over");
        robot.clickOn("#take-over-folder").write(elsewhere.toString());
        robot.clickOn("#take-over-folder-look");
        await(() -> shows("1 sure, 0 doubtful, 0 refused, 1 without a clip"));
        robot.clickOn("#adopt-sure");
        await(() -> shows("1 copy taken over"));
        robot.clickOn("#back-to-list");
        await(() -> shows("ready, adopted"));

        robot.clickOn("#open-names");
        await(() -> shows("All copies have these names already"));
        robot.clickOn("#names-pattern").eraseText(20).write("{kind} of {clip}");
        await(() -> !robot.lookup("#rename-copies").queryButton().isDisabled());
        robot.clickOn("#rename-copies");
        await(() -> shows("Undo gives them their names back"));
        assertThat(copies()).anyMatch(copy -> copy.file().endsWith("light of A001.mov") && Files.exists(copy.file()));
        robot.clickOn("#undo");
        await(() -> copies().stream().noneMatch(copy -> copy.file().toString().contains(" of ")));
        robot.clickOn("#undo");
        await(() -> copies().stream().noneMatch(copy -> copy.isAdopted()));
        robot.clickOn("#back-to-list");

        int before = copies().size();
        robot.clickOn("#open-clean-up");
        robot.clickOn("#limit-days").write("30");
        robot.clickOn("#set-limits");
        await(() -> workshop()
                .views()
                .view()
                .get()
                .orElseThrow()
                .limits()
                .unusedFor()
                .isPresent());
        await(() -> shows("No copy is past the limits"));
        robot.clickOn("#undo");
        await(() -> workshop().views().view().get().orElseThrow().limits().isNone());
        onWindow(() -> {
            ((javafx.scene.control.ChoiceBox<?>) robot.lookup("#clean-which").query())
                    .getSelectionModel()
                    .select(1);
            return true;
        });
        await(() -> shows(before + " copies meant; deleting " + before + " of them frees"));
        robot.clickOn("#stop-using");
        await(() -> copies().stream().allMatch(copy -> copy.service().stopped()));
        robot.clickOn("#undo");
        await(() -> copies().stream().noneMatch(copy -> copy.service().stopped()));
        robot.clickOn("#back-to-list");
        robot.type(KeyCode.DIGIT1);
    }

    private List<docksort.catalogue.WorkingCopy> copies() {
        return workshop().views().view().get().orElseThrow().stock().stream()
                .flatMap(line -> line.copies().stream())
                .toList();
    }

    @Test
    @Order(14)
    void keysFoldTheDocketAndChangeTheSize() throws Exception {
        robot.type(KeyCode.DIGIT1);
        await(() -> shows("The project's timeline") || shows("Facts"));
        robot.type(KeyCode.D);
        await(() -> !shows("Facts") && !shows("The project's timeline"));
        robot.type(KeyCode.D);
        robot.press(KeyCode.CONTROL).type(KeyCode.EQUALS).release(KeyCode.CONTROL);
        await(() -> window.orElseThrow().scene().getRoot().getStyle().contains("16.3"));
        robot.press(KeyCode.CONTROL).type(KeyCode.MINUS).release(KeyCode.CONTROL);
        robot.clickOn("#theme");
        await(() -> robot.lookup("#theme").queryAs(Button.class).getText().equals("Daylight"));
        robot.clickOn("#theme");
    }

    @Test
    @Order(15)
    void aClipIsMeasuredAndTheMapSelectsWithARubberBand() throws Exception {
        robot.clickOn("A001");
        await(() -> shows("has not been measured yet"));
        robot.clickOn("#measure-clip");
        await(() -> shows("times its rate when decoded on this machine"));
        assertThat(shows("from a jump to its frame")).isTrue();
        robot.clickOn("#show-map");
        // On the window's thread: bounds that are asked for beside it break the scene.
        var map = onWindow(() -> {
            var drawn = robot.lookup("#strain-map").query();
            return drawn.localToScene(drawn.getBoundsInLocal());
        });
        robot.drag(map.getMinX() + 66, map.getMinY() + 36).dropTo(map.getMaxX() - 30, map.getMaxY() - 30);
        await(() -> shows("3 clips"));
        robot.clickOn("Back to the summary");
        await(() -> shows("Where clips lie"));
        robot.clickOn("List");
    }

    @Test
    @Order(16)
    void theTimelineOfTheProjectIsSetInPlaceAndMarksWhatDiffers() throws Exception {
        TextField raster = robot.lookup("#timeline-raster").queryAs(TextField.class);
        onWindow(() -> {
            raster.setText("1280x720");
            return true;
        });
        robot.clickOn(raster).type(KeyCode.ENTER);
        await(() ->
                workshop().views().view().get().orElseThrow().format().raster().height() == 720);
        await(() -> shows("1 of 3 from the project's timeline")); // the clip of 50 fps
        TextField wrong = robot.lookup("#timeline-raster").queryAs(TextField.class);
        onWindow(() -> {
            wrong.setText("wide");
            return true;
        });
        robot.clickOn(wrong).type(KeyCode.ENTER);
        await(() -> wrong.getStyleClass().contains("wrong"));
        assertThat(workshop()
                        .views()
                        .view()
                        .get()
                        .orElseThrow()
                        .format()
                        .raster()
                        .height())
                .isEqualTo(720);
    }

    @Test
    @Order(17)
    void aWatchedArrivalTakesNewFilesInByItself() throws Exception {
        robot.clickOn("Card 2");
        await(() -> robot.lookup("#watch-arrival").tryQuery().isPresent());
        robot.clickOn("#watch-arrival");
        await(() -> !workshop()
                .views()
                .view()
                .get()
                .orElseThrow()
                .insight()
                .watched()
                .isEmpty());
        try (MediaEngine engine = MediaEngine.locate()) {
            new Footage(engine)
                    .clip(folder.resolve("moved/Card 2/B002.mov"), "1280x720", "25", 10, "-c:v", "libx264", "-g", "1");
        }
        await(() -> workshop().views().view().get().orElseThrow().clips().size() == 4);
        await(() -> shows("B002"));
    }

    @Test
    @Order(18)
    void whatCameInByMistakeGoesOutAndComesBack() throws Exception {
        robot.interact(() -> robot.lookup("#open-pairs").queryButton().fire());
        await(() -> shows("0 pairs, 2 originals without a small file"));
        assertThat(nameless()).isEmpty();
        robot.clickOn("#back-to-list");
        robot.interact(() -> window.orElseThrow().arrivals().select("B002"));
        await(() -> robot.lookup("#take-out").tryQuery().isPresent());
        robot.interact(() -> robot.lookup("#take-out").queryButton().fire());
        await(() -> shows("1 clip") && robot.lookup("#take-out-now").tryQuery().isPresent());
        robot.interact(() -> robot.lookup("#take-out-now").queryButton().fire());
        WaitForAsyncUtils.waitForFxEvents();
        assertThat(workshop().troubles().latest().get()).isEmpty();
        await(() -> workshop().views().view().get().orElseThrow().clips().size() == 3);
        robot.clickOn("#undo");
        await(() -> workshop().views().view().get().orElseThrow().clips().size() == 4);
    }

    @Test
    @Order(19)
    void theStateOfTheProjectSurvivesARestart() throws IOException {
        opened.ifPresent(Workshop::close);
        try (Workshop again = Workshop.open(folder.resolve("Night Optics"), Platform::runLater)) {
            opened = Optional.empty();
            assertThat(again.knownArrivals()).hasSize(2);
            assertThat(again.dispatch().hasTimeline()).isTrue();
        }
        Platform.runLater(() -> {});
    }
}
