package docksort.desktop.shell;

import static docksort.desktop.shell.Desk.await;
import static docksort.desktop.shell.Desk.onWindow;
import static org.assertj.core.api.Assertions.assertThat;

import docksort.Cable;
import docksort.PostgresServer;
import docksort.WithMedia;
import docksort.catalogue.Password;
import docksort.catalogue.Root;
import docksort.catalogue.SharedAddress;
import docksort.desktop.parts.Theme;
import docksort.desktop.shell.Desk.Stand;
import docksort.desktop.workshop.Joining;
import docksort.desktop.workshop.Workshop;
import docksort.engine.MediaEngine;
import docksort.project.Project;
import docksort.project.Sharing;
import docksort.sort.Recipe;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.TimeUnit;
import java.util.stream.Collectors;
import javafx.application.Platform;
import javafx.scene.control.ButtonBase;
import javafx.scene.control.Label;
import javafx.scene.control.Labeled;
import javafx.scene.control.TextField;
import javafx.stage.Stage;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInfo;
import org.testfx.api.FxRobot;
import org.testfx.api.FxToolkit;
import org.testfx.service.query.NodeQuery;

/// One project in two windows: "desk", and beside it the one of another workstation, "suite". Both reach the
/// database by one cable.
@WithMedia
class SharedWindowTest extends AtTheDesk {
    private static final InstantSource CLOCK = InstantSource.system();

    private static final FxRobot ROBOT = new FxRobot();

    private SharedAddress direct;
    private Cable cable;

    @BeforeEach
    void share(TestInfo test) throws Exception {
        direct = PostgresServer.address(SharedAddress.schemaFor(
                "window " + test.getTestMethod().orElseThrow().getName()));
        cable = new Cable(direct);
        sit(Stand.CLIPS);
        leave();
        try (MediaEngine engine = MediaEngine.locate();
                Project project = Project.open(folder.resolve("Night Optics"), engine, CLOCK)) {
            Map<String, Path> places = project.roots().all().stream().collect(Collectors.toMap(Root::name, Root::path));
            project.sharing().share(cable.address(direct));
            Sharing.join(
                    folder.resolve("suite"),
                    cable.address(direct),
                    new Sharing.Joining(new docksort.catalogue.Desk("suite", "Keeper"), places, false, false),
                    CLOCK);
        }
    }

    @AfterEach
    void pull() {
        cable.close();
    }

    /// The other workstation's window.
    private static final class Suite implements AutoCloseable {
        private final Workshop workshop;
        private final Window window;
        private final Stage stage;

        Suite(Path folder) throws Exception {
            workshop = Workshop.open(folder, Platform::runLater);
            window = onWindow(() -> new Window(workshop));
            stage = onWindow(() -> {
                var shown = new Stage();
                shown.setScene(window.scene());
                shown.setX(300);
                shown.setY(100);
                shown.show();
                return shown;
            });
            await(() -> workshop.views().view().get().isPresent());
        }

        @Override
        public void close() {
            ROBOT.interact(stage::close);
            workshop.close();
        }
    }

    private static NodeQuery in(Window window, String what) {
        return ROBOT.from(window.scene().getRoot()).lookup(what);
    }

    private static boolean shows(Window window, String words) {
        return ROBOT.from(window.scene().getRoot())
                .lookup((Labeled label) ->
                        label.getText() != null && label.getText().contains(words))
                .tryQuery()
                .isPresent();
    }

    private static void press(Window window, String button) throws Exception {
        await(() -> in(window, button).tryQuery().isPresent());
        ROBOT.interact(() -> in(window, button).queryAs(ButtonBase.class).fire());
    }

    private static TextField value(Window window, String text) throws Exception {
        return onWindow(() -> in(window, ".docket-page .text-field").queryAll().stream()
                .map(TextField.class::cast)
                .filter(field -> field.getText().equals(text))
                .findFirst()
                .orElseThrow());
    }

    @Test
    void whatIsDoneInOneIsShownInTheOtherAndARuleThatBothChangeIsDecided() throws Exception {
        Desk desk = sit();
        try (var suite = new Suite(folder.resolve("suite"))) {
            ROBOT.interact(() -> desk.window().show(1));
            ROBOT.interact(() -> suite.window.show(1));
            await(() -> shows(desk.window(), "scrub cost at least 4") && shows(suite.window, "scrub cost at least 4"));
            assertThat(shows(suite.window, Recipe.FULL_PRORES.label())).isFalse();
            ROBOT.interact(() -> desk.workshop()
                    .sort()
                    .choose(desk.view().clips().subList(0, 1), Optional.of(List.of(Recipe.FULL_PRORES))));
            await(() -> shows(suite.window, Recipe.FULL_PRORES.label()));

            // Both have the same rule open.
            press(desk.window(), "#edit-rule-3");
            press(suite.window, "#edit-rule-3");
            await(() -> in(suite.window, "#apply-rule").tryQuery().isPresent());
            await(() -> shows(desk.window(), "Keeper at suite has it open too"));
            TextField there = value(suite.window, "4");
            ROBOT.interact(() -> there.setText("5"));
            press(suite.window, "#apply-rule");
            await(() -> shows(suite.window, "scrub cost at least 5"));
            TextField here = value(desk.window(), "4");
            ROBOT.interact(() -> here.setText("3"));
            press(desk.window(), "#apply-rule");
            await(() -> shows(desk.window(), "Keeper at suite: Changed rule 3"));
            assertThat(here.getText()).as("what was typed").isEqualTo("3");
            assertThat(shows(desk.window(), "scrub cost at least 5")).isTrue();
            await(() -> !shows(desk.window(), "has it open too"));
            press(desk.window(), "#put-mine");
            await(() -> shows(suite.window, "scrub cost at least 3"));
            assertThat(desk.nameless()).isEmpty();
        }
    }

    /// Nobody makes them yet: both see the queue, each can take something out of it, and begin.
    @Test
    void theQueueIsThereInBothAndMadeInOne() throws Exception {
        Desk desk = sit();
        try (var suite = new Suite(folder.resolve("suite"));
                MediaEngine engine = MediaEngine.locate();
                Project third = Project.open(folder.resolve("suite"), engine, CLOCK)) {
            ROBOT.interact(() -> desk.window().show(2));
            ROBOT.interact(() -> suite.window.show(2));
            third.queue().enqueue(third.plans().loadSheet());
            await(() -> shows(desk.window(), "2 waiting") && shows(suite.window, "2 waiting"));
            assertThat(in(desk.window(), "#stop-run").query().isVisible()).isFalse();
            ROBOT.interact(() -> in(desk.window(), "#run-table")
                    .queryTableView()
                    .getSelectionModel()
                    .select(0));
            assertThat(in(desk.window(), "#leave-out").tryQuery())
                    .as("there is no run")
                    .isEmpty();
            press(desk.window(), "#take-out");
            await(() -> shows(suite.window, "1 waiting"));
            press(suite.window, "#carry-on");
            await(() -> shows(suite.window, "1 of 1") && shows(desk.window(), "nothing is being made"));
            assertThat(third.queue().size()).isZero();
        }
    }

    @Test
    void bothStayOpenWhileTheDatabaseIsAwayAndGoOnWhenItIsBack() throws Exception {
        Desk desk = sit();
        try (var suite = new Suite(folder.resolve("suite"))) {
            ROBOT.interact(() -> desk.window().show(1));
            ROBOT.interact(() -> suite.window.show(1));
            await(() -> shows(desk.window(), "scrub cost at least 4") && shows(suite.window, "scrub cost at least 4"));
            press(desk.window(), "#edit-rule-3");
            TextField typed = value(desk.window(), "4");
            cable.pullOut();
            await(() ->
                    shows(desk.window(), "has not answered since") && shows(suite.window, "has not answered since"));
            ROBOT.interact(() -> typed.setText("6"));
            press(desk.window(), "#apply-rule");
            await(() -> shows(desk.window(), "The database of the shared project does not answer"));
            assertThat(typed.getText()).as("what was typed").isEqualTo("6");
            assertThat(typed.getScene()).as("its page is still there").isNotNull();
            assertThat(shows(suite.window, "scrub cost at least 4")).isTrue();
            cable.putIn();
            await(() ->
                    !shows(desk.window(), "has not answered since") && !shows(suite.window, "has not answered since"));
            await(() -> !shows(desk.window(), "The database of the shared project does not answer"));
            press(desk.window(), "#apply-rule");
            await(() -> shows(suite.window, "scrub cost at least 6"));
        }
    }

    /// From the page without a project to a member of the shared one: a wrong name is said, folders are
    /// proposed.
    @Test
    void aSharedProjectIsJoinedFromItsAddressAndAPlaceForEachFolder() throws Exception {
        var opened = new CompletableFuture<Path>();
        ProjectDoor door = new NoDoor() {
            @Override
            public void openShared(Path project, Password password) {
                opened.complete(project);
            }
        };
        FxToolkit.registerPrimaryStage();
        onWindow(() -> {
            Theme.install();
            Stage stage = FxToolkit.toolkitContext().getRegisteredStage();
            stage.setScene(new JoinPage(door, new Joining(Platform::runLater)).scene());
            stage.show();
            return stage;
        });
        fill("#join-address", "mysql://somewhere");
        fill("#join-schema", direct.schema());
        fire("#join-look");
        await(() -> told().contains("it is not of the form postgresql://"));
        fill("#join-address", direct.uri());
        fill("#join-workstation", "suite");
        fire("#join-look");
        await(() -> ROBOT.lookup("#join-now").tryQuery().isPresent());
        assertThat(told()).isEmpty();
        List<String> places = ROBOT
                .lookup((TextField field) -> String.valueOf(field.getId()).startsWith("join-root-"))
                .queryAllAs(TextField.class)
                .stream()
                .map(TextField::getText)
                .toList();
        assertThat(places).hasSizeGreaterThan(1).allMatch(place -> place.startsWith(folder.toString()));
        Path mine = folder.resolve("third");
        fill("#join-folder", mine.toString());
        fire("#join-now");
        await(() -> told().contains("joined under the name suite"));
        assertThat(Project.isIn(mine)).isFalse();
        fill("#join-workstation", "third");
        fire("#join-now");
        assertThat(opened.get(60, TimeUnit.SECONDS)).isEqualTo(mine);
        assertThat(Project.isIn(mine)).isTrue();
    }

    private static void fill(String field, String text) {
        ROBOT.interact(() -> ROBOT.lookup(field).queryAs(TextField.class).setText(text));
    }

    private static void fire(String button) {
        ROBOT.interact(() -> ROBOT.lookup(button).queryAs(ButtonBase.class).fire());
    }

    private static String told() {
        return ROBOT.lookup("#join-told").queryAs(Label.class).getText();
    }

    /// A project in a file becomes a shared one.
    @Test
    void aProjectIsSharedFromItsMenuAndOpenedAnew() throws Exception {
        Path alone = folder.resolve("alone");
        try (MediaEngine engine = MediaEngine.locate()) {
            Project.open(alone, engine, CLOCK).close();
        }
        SharedAddress to = PostgresServer.address("window_shared_from_the_menu");
        var opened = new CompletableFuture<Path>();
        try (var lonely = new Suite(alone)) {
            ROBOT.interact(() -> {
                lonely.window.offer(
                        new NoDoor() {
                            @Override
                            public void begin(Path project) {
                                opened.complete(project);
                            }
                        },
                        alone);
                lonely.window.showShare();
            });
            await(() -> in(lonely.window, "#share-now").tryQuery().isPresent());
            ROBOT.interact(() -> {
                in(lonely.window, "#share-address").queryAs(TextField.class).setText(to.uri());
                in(lonely.window, "#share-schema").queryAs(TextField.class).setText(to.schema());
            });
            press(lonely.window, "#share-now");
            press(lonely.window, "#open-shared");
            assertThat(opened.get(60, TimeUnit.SECONDS)).isEqualTo(alone);
        }
        try (var shared = new Suite(alone)) {
            ROBOT.interact(shared.window::showShare);
            await(() -> shows(shared.window, "Shared with other workstations"));
            assertThat(in(shared.window, "#join-command")
                            .queryAs(TextField.class)
                            .getText())
                    .isEqualTo("dock-sort join '" + to.uri() + "' --schema " + to.schema());
        }
    }

    /// Leads nowhere.
    private static class NoDoor implements ProjectDoor {
        @Override
        public List<Path> recent() {
            return List.of();
        }

        @Override
        public CompletableFuture<Boolean> isThere(Path project) {
            return CompletableFuture.completedFuture(false);
        }

        @Override
        public void open(Path project) {}

        @Override
        public void openShared(Path project, Password password) {}

        @Override
        public void join() {}

        @Override
        public void begin(Path project) {}

        @Override
        public void beginLike(Path project, Path template) {}

        @Override
        public void close() {}
    }
}
