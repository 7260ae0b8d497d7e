package docksort.desktop.shell;

import static docksort.desktop.shell.Desk.await;
import static docksort.desktop.shell.Desk.onWindow;
import static org.assertj.core.api.Assertions.assertThat;

import docksort.WithMedia;
import docksort.arrival.Clip;
import docksort.desktop.shell.Desk.Stand;
import docksort.sort.Recipe;
import docksort.stock.ServingOrder;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import javafx.geometry.Bounds;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Labeled;
import javafx.scene.control.TableColumn;
import javafx.scene.control.TableView;
import javafx.scene.input.Clipboard;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.Test;
import org.testfx.util.WaitForAsyncUtils;

/// What all lists of the window have in common: the filter, pictures, names that tell clips apart, paths
/// that are handed on; and what was done, taken back and done again.
@WithMedia
class ListsWindowTest extends AtTheDesk {
    private static List<String> names(TableView<?> table) {
        return names(table, "Clip");
    }

    private static <T> List<String> names(TableView<T> table, String title) {
        TableColumn<T, ?> column = table.getColumns().stream()
                .filter(one -> title.equals(one.getId()))
                .findFirst()
                .orElseThrow();
        return table.getItems().stream()
                .map(row -> String.valueOf(column.getCellObservableValue(row).getValue()))
                .toList();
    }

    @Test
    void theSlashFiltersInEveryStationAndEqualNamesHaveTheirArrivalBeside() throws Exception {
        Desk desk = sit(Stand.COPIES);
        Path second = Files.createDirectories(desk.folder().resolve("volume/Card 3"));
        desk.shoot(second.resolve("A001.mov"));
        desk.take(second);
        await(() -> desk.view().clips().size() == 4);
        Clip fresh = desk.view().clips().getLast();
        desk.workshop().sort().choose(List.of(fresh), Optional.of(List.of(Recipe.FULL_VC3)));
        desk.workshop().runs().start();
        await(() -> !desk.workshop().runs().shown().get().running()
                && !desk.workshop().runs().shown().get().copies().isEmpty());
        for (var station : List.of(
                List.of(KeyCode.DIGIT1, "arrivals"),
                List.of(KeyCode.DIGIT2, "sort"),
                List.of(KeyCode.DIGIT3, "run"),
                List.of(KeyCode.DIGIT4, "stock"))) {
            String name = (String) station.getLast();
            desk.station((KeyCode) station.getFirst());
            desk.robot.write("/");
            desk.robot.write("a001");
            List<String> wanted =
                    name.equals("run") ? List.of("A001 · Card 3") : List.of("A001 · Card 1", "A001 · Card 3");
            await(() -> names(desk.table(name + "-table")).equals(wanted));
            desk.robot.type(KeyCode.ESCAPE);
        }
        desk.station(KeyCode.DIGIT4);
        desk.fill("#stock-filter", "a001 3");
        await(() -> names(desk.table("stock-table")).equals(List.of("A001 · Card 3")));
        desk.fill("#stock-filter", "");
        await(() -> names(desk.table("stock-table")).equals(List.of("A001 · Card 1", "A002", "B001", "A001 · Card 3")));
    }

    @Test
    void pathsAreCopiedAndFoldersShown() throws Exception {
        Desk desk = sit(Stand.CLIPS);
        var asked = new ArrayList<Path>();
        desk.window().showFilesWith(asked::add);
        desk.station(KeyCode.DIGIT1);
        robotSelect(desk, "arrivals-table", 1, 2);
        desk.robot.interact(() -> desk.table("arrivals-table").requestFocus());
        desk.robot.press(KeyCode.CONTROL, KeyCode.C).release(KeyCode.C, KeyCode.CONTROL);
        await(() -> Clipboard.getSystemClipboard().getString() != null
                && Clipboard.getSystemClipboard().getString().endsWith("B001.mov"));
        Path card = desk.folder().toRealPath().resolve("volume");
        assertThat(onWindow(() -> Clipboard.getSystemClipboard().getString()))
                .isEqualTo(card.resolve("Card 1/A002.mov") + "\n" + card.resolve("Card 2/B001.mov"));
        robotSelect(desk, "arrivals-table", 0);
        await(() -> desk.shows("Show in folder"));
        desk.robot.interact(() -> desk.robot
                .lookup((Button button) -> "Show in folder".equals(button.getText()))
                .queryButton()
                .fire());
        assertThat(asked).containsExactly(card.resolve("Card 1/A001.mov"));
    }

    private static void robotSelect(Desk desk, String table, int first, int... more) {
        desk.robot.interact(() -> {
            desk.table(table).getSelectionModel().clearSelection();
            desk.table(table).getSelectionModel().selectIndices(first, more);
        });
    }

    @Test
    void whatWasTakenBackIsDoneAgainAndThePageTellsAllOfIt() throws Exception {
        Desk desk = sit(Stand.COPIES);
        desk.openTimeline();
        desk.station(KeyCode.DIGIT5);
        desk.selectFirst("dispatch-table");
        desk.press("#pin-clip-originals");
        await(() -> desk.view()
                .turns()
                .undo()
                .filter(what -> what.contains("pinned"))
                .isPresent());
        desk.robot.press(KeyCode.CONTROL, KeyCode.Z).release(KeyCode.Z, KeyCode.CONTROL);
        await(() -> desk.view()
                .turns()
                .redo()
                .filter(what -> what.contains("pinned"))
                .isPresent());
        desk.robot.press(KeyCode.CONTROL, KeyCode.SHIFT, KeyCode.Z).release(KeyCode.Z, KeyCode.SHIFT, KeyCode.CONTROL);
        await(() -> desk.view().turns().redo().isEmpty());
        assertThat(desk.workshop().dispatch().timeline().get().orElseThrow().pins())
                .hasSize(1);

        desk.robot.press(KeyCode.CONTROL, KeyCode.Z).release(KeyCode.Z, KeyCode.CONTROL);
        await(() -> desk.view().turns().redo().isPresent());
        desk.press("#show-done");
        await(() -> desk.isInTable("done-table", "taken back"));
        assertThat(names(desk.table("done-table"), "What"))
                .startsWith("Took back: A001 is pinned to " + ServingOrder.ORIGINALS.label());
        desk.fill("#done-filter", "again PINNED");
        await(() -> desk.table("done-table").getItems().size() == 1);
        desk.press("#back-from-done");
        await(() -> desk.isThere("#dispatch-table"));

        desk.press("#order-light");
        await(() -> desk.workshop().dispatch().timeline().get().orElseThrow().onCopies() == 1);
        desk.press("#undo");
        await(() -> desk.workshop().dispatch().timeline().get().orElseThrow().onCopies() == 0);
        desk.press("#redo");
        await(() -> desk.workshop().dispatch().timeline().get().orElseThrow().onCopies() == 1);
    }

    /// Everything is looked for that stands outside the window or is cut off at its edges.
    @Test
    void nothingLeavesTheWindowAtTwiceTheSizeOfText() throws Exception {
        Desk desk = sit(Stand.COPIES);
        desk.openTimeline();
        desk.robot.interact(() -> desk.window().setScale(4));
        for (KeyCode station :
                List.of(KeyCode.DIGIT1, KeyCode.DIGIT2, KeyCode.DIGIT3, KeyCode.DIGIT4, KeyCode.DIGIT5)) {
            desk.station(station);
            WaitForAsyncUtils.waitForFxEvents();
            assertThat(outside(desk)).as(station.getName()).isEmpty();
        }
        assertThat(desk.robot.lookup(".docket").tryQuery())
                .as("the docket gives way")
                .isEmpty();
        desk.robot.type(KeyCode.D);
        await(() -> desk.isThere(".docket"));
        assertThat(outside(desk)).isEmpty();
    }

    private static List<String> outside(Desk desk) throws Exception {
        return onWindow(() -> {
            Node root = desk.window().scene().getRoot();
            root.applyCss();
            double width = desk.window().scene().getWidth();
            double height = desk.window().scene().getHeight();
            return root.lookupAll("*").stream()
                    .filter(node -> node instanceof Labeled || node instanceof TableView<?>)
                    .filter(ListsWindowTest::isSeen)
                    .filter(node -> !isScrolled(node))
                    .filter(node -> {
                        Bounds at = node.localToScene(node.getLayoutBounds());
                        return at.getMinX() < -1
                                || at.getMinY() < -1
                                || at.getMaxX() > width + 1
                                || at.getMaxY() > height + 1;
                    })
                    .map(node -> String.format(
                            Locale.ROOT, "%s %s %s", node, node.getId(), node.localToScene(node.getLayoutBounds())))
                    .toList();
        });
    }

    private static boolean isSeen(Node node) {
        for (Node at = node; at != null; at = at.getParent()) {
            if (!at.isVisible()) {
                return false;
            }
        }
        return true;
    }

    /// What lies in something that scrolls can be brought into view.
    private static boolean isScrolled(Node node) {
        for (Node at = node.getParent(); at != null; at = at.getParent()) {
            if (at.getStyleClass().contains("viewport")
                    || at.getStyleClass().contains("clipped-container")
                    || at.getStyleClass().contains("column-header-background")) {
                return true;
            }
        }
        return false;
    }
}
