package docksort.desktop.shell;

import static docksort.desktop.shell.Desk.await;
import static docksort.desktop.shell.Desk.onWindow;
import static org.assertj.core.api.Assertions.assertThat;

import docksort.WithMedia;
import docksort.catalogue.Password;
import docksort.desktop.parts.Docket;
import docksort.desktop.shell.Desk.Stand;
import docksort.desktop.workshop.Workshop;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.prefs.Preferences;
import javafx.application.Platform;
import javafx.scene.Scene;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.TableView;
import javafx.scene.input.KeyCode;
import javafx.scene.layout.StackPane;
import javafx.stage.Stage;
import org.junit.jupiter.api.Test;
import org.testfx.api.FxToolkit;
import org.testfx.util.WaitForAsyncUtils;

/// What the window offers at every station: its keys, names, commands, and what it remembers.
@WithMedia
class WindowTest extends AtTheDesk {
    @Test
    void everyActionIsFoundByItsName() throws Exception {
        Desk desk = sit(Stand.CLIPS);
        desk.robot.type(KeyCode.DIGIT1);
        desk.robot.press(KeyCode.CONTROL, KeyCode.K).release(KeyCode.K, KeyCode.CONTROL);
        await(() -> desk.robot.lookup("#finder-words").tryQuery().isPresent());
        desk.robot.write("stock checks");
        desk.robot.type(KeyCode.ENTER);
        await(() -> desk.shows("Every file of a list is read whole"));
        assertThat(desk.robot.lookup("#finder-words").tryQuery())
                .as("it is put away")
                .isEmpty();
        desk.robot.clickOn("#back-to-list");
        desk.robot.press(KeyCode.CONTROL, KeyCode.K).release(KeyCode.K, KeyCode.CONTROL);
        desk.robot.write("no such thing");
        await(() -> desk.shows("Nothing is called that"));
        desk.robot.type(KeyCode.ESCAPE);
        await(() -> desk.robot.lookup("#finder-words").tryQuery().isEmpty());
    }

    @Test
    void aDocketIsBuiltOnceForManyChangesAndOnlyWhileItIsSeen() throws Exception {
        sit(Stand.EMPTY);
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
    void everyControlHasANameForAScreenReader() throws Exception {
        Desk desk = sit(Stand.COPIES);
        desk.openTimeline();
        var pages = new LinkedHashMap<String, List<String>>();
        for (KeyCode station : List.of(KeyCode.DIGIT1, KeyCode.DIGIT2, KeyCode.DIGIT3)) {
            desk.robot.type(station);
            WaitForAsyncUtils.waitForFxEvents();
            pages.put("station " + station.getChar(), desk.nameless());
        }
        desk.robot.type(KeyCode.DIGIT2);
        for (String page : List.of("add-rule", "show-recipes")) {
            desk.robot.interact(
                    () -> desk.robot.lookup("#" + page).queryButton().fire());
            pages.put(page, desk.nameless());
        }
        desk.robot.interact(() ->
                desk.robot.lookup("#new-from-light-prores-half").queryButton().fire());
        pages.put("a recipe", desk.nameless());
        for (String task : List.of("take-over", "search", "names", "clean-up", "checksums")) {
            pages.put(task, namelessOf(desk, KeyCode.DIGIT4, "#open-" + task));
        }
        for (String task : List.of("departure", "pull", "compare", "lists", "workstations", "pair")) {
            pages.put(task, namelessOf(desk, KeyCode.DIGIT5, "#open-" + task));
        }
        assertThat(pages).allSatisfy((page, left) -> assertThat(left).as(page).isEmpty());
    }

    private static List<String> namelessOf(Desk desk, KeyCode station, String button) throws Exception {
        desk.robot.type(station);
        if (station == KeyCode.DIGIT5) {
            desk.robot.interact(
                    () -> desk.table("dispatch-table").getSelectionModel().select(0));
        }
        desk.robot.interact(() -> desk.robot.lookup(button).queryButton().fire());
        await(() -> desk.robot.lookup("#back-to-list").tryQuery().isPresent());
        List<String> left = desk.nameless();
        desk.robot.interact(
                () -> desk.robot.lookup("#back-to-list").queryButton().fire());
        return left;
    }

    @Test
    void keysFoldTheDocketAndChangeTheSize() throws Exception {
        Desk desk = sit(Stand.CLIPS);
        desk.robot.type(KeyCode.DIGIT1);
        await(() -> desk.shows("The project's timeline") || desk.shows("Facts"));
        desk.robot.type(KeyCode.D);
        await(() -> !desk.shows("Facts") && !desk.shows("The project's timeline"));
        desk.robot.type(KeyCode.D);
        desk.robot.press(KeyCode.CONTROL).type(KeyCode.EQUALS).release(KeyCode.CONTROL);
        await(() -> desk.window().scene().getRoot().getStyle().contains("16.3"));
        desk.robot.press(KeyCode.CONTROL).type(KeyCode.MINUS).release(KeyCode.CONTROL);
        desk.robot.clickOn("#theme");
        await(() -> desk.robot.lookup("#theme").queryAs(Button.class).getText().equals("Daylight"));
        desk.robot.clickOn("#theme");
    }

    @Test
    void theWindowComesBackAsItWasLeft() throws Exception {
        Desk desk = sit(Stand.CLIPS);
        Preferences kept = Preferences.userRoot()
                .node("dock-sort/test-" + ProcessHandle.current().pid());
        var memory = new WindowMemory(kept);
        Window shown = desk.window();
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
    void theStateOfTheProjectSurvivesARestart() throws Exception {
        Desk desk = sit(Stand.COPIES);
        desk.openTimeline();
        int copies = desk.copies().size();
        leave();
        try (Workshop again = Workshop.open(folder.resolve("Night Optics"), Platform::runLater)) {
            assertThat(again.knownArrivals()).hasSize(2);
            assertThat(again.dispatch().hasTimeline()).isTrue();
            await(() -> again.views().view().get().isPresent());
            assertThat(again.views().view().get().orElseThrow().stock().stream()
                            .mapToInt(line -> line.copies().size())
                            .sum())
                    .isEqualTo(copies);
        }
    }

    /// Notes where somebody wants to go.
    private static final class NotedDoor implements ProjectDoor {
        private final List<String> calls = new ArrayList<>();

        @Override
        public List<Path> recent() {
            return List.of(Path.of("/projects/Night Optics"), Path.of("/projects/Mirror"));
        }

        @Override
        public CompletableFuture<Boolean> isThere(Path folder) {
            return CompletableFuture.completedFuture(folder.endsWith("Mirror"));
        }

        @Override
        public void open(Path folder) {
            calls.add("open " + folder);
        }

        @Override
        public void openShared(Path folder, Password password) {
            calls.add("open shared " + folder + ", password " + password);
        }

        @Override
        public void join() {
            calls.add("join");
        }

        @Override
        public void begin(Path folder) {
            calls.add("begin " + folder);
        }

        @Override
        public void beginLike(Path folder, Path template) {
            calls.add("begin " + folder + " like " + template);
        }

        @Override
        public void close() {
            calls.add("close");
        }
    }

    @Test
    void anotherProjectIsOneMenuAwayAndThePageWithoutOneNamesTheLast() throws Exception {
        Desk desk = sit(Stand.EMPTY);
        var door = new NotedDoor();
        desk.robot.interact(() -> desk.window().offer(door, Path.of("/projects/Night Optics")));
        desk.robot.clickOn("#project-menu").clickOn("Close this project");
        assertThat(door.calls).containsExactly("close");
        desk.robot.clickOn("#project-menu");
        assertThat(desk.shows("Night Optics   ")).as("the one that is open").isFalse();
        desk.robot.clickOn("Mirror   /projects/Mirror");
        desk.robot.clickOn("#project-menu").clickOn("Keep its recipes, rules and limits for new projects");
        await(() -> desk.workshop().library().kept().get().beginning());
        desk.robot.clickOn("#project-menu").clickOn("Begin new projects with the built-in rules");
        await(() -> !desk.workshop().library().kept().get().beginning());
        assertThat(door.calls).containsExactly("close", "open /projects/Mirror");
        assertThat(desk.nameless()).isEmpty();
        desk.robot.interact(() -> {
            Stage stage = FxToolkit.toolkitContext().getRegisteredStage();
            stage.setScene(new ProjectPage(door).scene(Optional.of("/x holds no project.")));
        });
        await(() -> desk.shows("not there"));
        assertThat(desk.shows("/x holds no project.")).isTrue();
        assertThat(desk.robot.lookup("#recent-0").queryButton().isDisabled()).isTrue();
        desk.robot.clickOn("#recent-1");
        assertThat(door.calls).hasSize(3).endsWith("open /projects/Mirror");
    }
}
