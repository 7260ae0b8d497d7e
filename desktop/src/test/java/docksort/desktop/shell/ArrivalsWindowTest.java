package docksort.desktop.shell;

import static docksort.desktop.shell.Desk.await;
import static org.assertj.core.api.Assertions.assertThat;

import docksort.WithMedia;
import docksort.desktop.shell.Desk.Stand;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.TimeUnit;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.input.ClipboardContent;
import javafx.scene.input.KeyCode;
import javafx.scene.input.TransferMode;
import javafx.stage.Stage;
import org.junit.jupiter.api.Test;
import org.testfx.util.WaitForAsyncUtils;

/// What comes in, seen and driven in the window.
@WithMedia
class ArrivalsWindowTest extends AtTheDesk {
    @Test
    void anEmptyProjectSaysWhatToDo() throws Exception {
        Desk desk = sit(Stand.EMPTY);
        await(() -> desk.shows("Nothing has come in yet"));
        assertThat(desk.shows("Add the whole folder of a camera card")).isTrue();
        for (KeyCode key : List.of(KeyCode.DIGIT2, KeyCode.DIGIT3, KeyCode.DIGIT4, KeyCode.DIGIT5)) {
            desk.station(key);
        }
        await(() -> desk.shows("No timeline is open"));
    }

    @Test
    void aFolderDroppedOnTheWindowBecomesClips() throws Exception {
        Desk desk = sit(Stand.EMPTY);
        var label = new Label("drag me");
        label.setId("drag-source");
        label.setOnDragDetected(_ -> {
            var content = new ClipboardContent();
            content.putFiles(List.of(folder.resolve("volume/Card 1").toFile()));
            label.startDragAndDrop(TransferMode.COPY).setContent(content);
        });
        Stage shelf = Desk.beside(label, 160);
        desk.robot.drag("#drag-source").dropTo("#arrivals-table");
        await(() -> desk.table("arrivals-table").getItems().size() == 3);
        desk.comeBackFrom(shelf);
        assertThat(desk.shows("1 unreadable")).isTrue();
    }

    @Test
    void severalFoldersComeInAndThoseThatCannotAreRefusedInPlace() throws Exception {
        Desk desk = sit(Stand.CLIPS);
        desk.shoot(Files.createDirectories(folder.resolve("volume/Card 3")).resolve("C001.mov"));
        desk.robot.interact(() -> desk.workshop()
                .arrivals()
                .add(List.of(
                        folder.resolve("volume/Card 3"), folder.resolve("volume/Card 1"), folder.resolve("nowhere"))));
        await(() -> desk.table("arrivals-table").getItems().size() == 5);
        await(() -> desk.shows("Cannot add"));
        assertThat(desk.shows("in the project already")).isTrue();
        desk.robot.clickOn("#put-away");
        await(() -> !desk.shows("Cannot add"));
    }

    @Test
    void slashFiltersAndASelectedClipIsExplained() throws Exception {
        Desk desk = sit(Stand.CLIPS);
        await(() -> desk.table("arrivals-table").getItems().size() == 4);
        desk.robot.type(KeyCode.SLASH);
        desk.robot.write("a00 long-gop");
        await(() -> desk.table("arrivals-table").getItems().size() == 1);
        desk.robot.clickOn("A001");
        await(() -> desk.shows("Keyframe every 2.0 s"));
        assertThat(desk.shows("counted"))
                .as("the docket tells where the frame count is from")
                .isTrue();
        desk.fill("#arrivals-filter", "");
        await(() -> desk.table("arrivals-table").getItems().size() == 4);
    }

    @Test
    void aClipIsMeasuredAndTheMapSelectsWithARubberBand() throws Exception {
        Desk desk = sit(Stand.CLIPS);
        desk.robot.clickOn("A001");
        await(() -> desk.shows("has not been measured yet"));
        desk.robot.clickOn("#measure-clip");
        await(() -> desk.shows("times its rate when decoded on this machine"));
        assertThat(desk.shows("from a jump to its frame")).isTrue();
        desk.robot.clickOn("#show-map");
        // On the window's thread: bounds that are asked for beside it break the scene.
        var map = Desk.onWindow(() -> {
            var drawn = desk.robot.lookup("#strain-map").query();
            return drawn.localToScene(drawn.getBoundsInLocal());
        });
        desk.robot.drag(map.getMinX() + 66, map.getMinY() + 36).dropTo(map.getMaxX() - 30, map.getMaxY() - 30);
        await(() -> desk.shows("3 clips"));
        desk.robot.clickOn("Back to the summary");
        await(() -> desk.shows("Where clips lie"));
        desk.robot.clickOn("List");
        await(() -> desk.isThere("#arrivals-table"));
    }

    @Test
    void howLoudTheChannelsOfAClipAreIsMeasuredAndASilentOneTold() throws Exception {
        Desk desk = sit(Stand.CLIPS);
        Path card = Files.createDirectories(folder.resolve("volume/Card 3"));
        desk.shootWithSound(card.resolve("C001.mov"), "0.1*sin(600*PI*t)|0");
        desk.robot.interact(() -> desk.workshop().arrivals().add(List.of(card)));
        await(() -> desk.table("arrivals-table").getItems().size() == 5);
        desk.robot.clickOn("C001");
        await(() -> desk.shows("whether one is silent or clips, has not been measured yet"));
        desk.press("#measure-sound");
        await(() -> desk.shows("Channel 2 is silent: nothing above −60 dBFS."));
        assertThat(desk.shows("−20.0")).isTrue();
    }

    @Test
    void theTimelineOfTheProjectIsSetInPlaceAndMarksWhatDiffers() throws Exception {
        Desk desk = sit(Stand.CLIPS);
        desk.fill("#timeline-raster", "1280x720");
        desk.robot.clickOn("#timeline-raster").type(KeyCode.ENTER);
        await(() -> desk.view().format().raster().height() == 720);
        await(() -> desk.shows("1 of 3 from the project's timeline")); // the clip of 50 fps
        desk.fill("#timeline-raster", "wide");
        TextField wrong = desk.robot.lookup("#timeline-raster").queryAs(TextField.class);
        desk.robot.clickOn(wrong).type(KeyCode.ENTER);
        await(() -> wrong.getStyleClass().contains("wrong"));
        assertThat(desk.view().format().raster().height()).isEqualTo(720);
    }

    @Test
    void aWatchedArrivalTakesNewFilesInByItself() throws Exception {
        Desk desk = sit(Stand.CLIPS);
        desk.robot.clickOn("Card 2");
        await(() -> desk.isThere("#watch-arrival"));
        desk.robot.clickOn("#watch-arrival");
        await(() -> !desk.view().insight().watched().isEmpty());
        desk.shoot(folder.resolve("volume/Card 2/B002.mov"));
        await(() -> desk.view().clips().size() == 4);
        await(() -> desk.shows("B002"));
    }

    @Test
    void pairsOfAnArrivalAreShown() throws Exception {
        Desk desk = sit(Stand.CLIPS);
        desk.robot.clickOn("Card 1");
        desk.press("#open-pairs");
        await(() -> desk.shows("0 pairs, 2 originals without a small file"));
        assertThat(desk.nameless()).isEmpty();
        desk.robot.clickOn("#back-to-list");
        await(() -> desk.isThere("#arrivals-table"));
    }

    @Test
    void whatCameInByMistakeGoesOutAndComesBack() throws Exception {
        Desk desk = sit(Stand.CLIPS);
        desk.robot.interact(() -> desk.window().arrivals().select("A002"));
        desk.press("#take-out");
        await(() -> desk.shows("1 clip") && desk.isThere("#take-out-now"));
        desk.press("#take-out-now");
        WaitForAsyncUtils.waitForFxEvents();
        assertThat(desk.workshop().troubles().latest().get()).isEmpty();
        await(() -> desk.view().clips().size() == 2);
        desk.robot.clickOn("#undo");
        await(() -> desk.view().clips().size() == 3);
    }

    @Test
    void whatIsPutAsideIsInAScopeOfItsOwnUntilItIsBroughtBack() throws Exception {
        Desk desk = sit(Stand.CLIPS);
        desk.robot.interact(() -> desk.window().arrivals().select("A002"));
        desk.press("#put-aside");
        await(() -> desk.shows("All that hangs on it stays."));
        desk.press("#put-aside-now");
        await(() -> desk.table("arrivals-table").getItems().size() == 3);
        await(() -> desk.shows("put aside"));
        desk.robot.clickOn("put aside");
        await(() -> desk.table("arrivals-table").getItems().size() == 1);
        desk.robot.interact(() -> desk.window().arrivals().select("A002"));
        desk.press("#bring-back");
        await(() ->
                desk.view().clips().size() == 3 && desk.view().aside().clips().isEmpty());
    }

    @Test
    void aCardIsCopiedReadBackAndTakenIn() throws Exception {
        Desk desk = sit(Stand.EMPTY);
        desk.robot.clickOn("#open-bring");
        assertThat(desk.nameless()).isEmpty();
        desk.fill("#bring-card", folder.resolve("volume/Card 1").toString());
        desk.fill("#bring-first", folder.resolve("raid").toString());
        desk.fill("#bring-second", folder.resolve("shuttle").toString());
        desk.robot.clickOn("#bring-copy");
        await(() -> desk.shows("Safe to clear: every file of the card was read back at every place"));
        for (String place : List.of("raid", "shuttle")) {
            assertThat(folder.resolve(place).resolve("Card 1/A001.mov"))
                    .hasSameBinaryContentAs(folder.resolve("volume/Card 1/A001.mov"));
        }
        await(() -> desk.view().clips().size() == 2);
        desk.robot.clickOn("#back-to-list");
        await(() -> desk.isThere("#arrivals-table"));
        // Another file there is never written over.
        Files.writeString(folder.resolve("shuttle/Card 1/A002.mov"), "another");
        desk.robot.clickOn("#open-bring");
        desk.fill("#bring-card", folder.resolve("volume/Card 1").toString());
        desk.fill("#bring-first", folder.resolve("shuttle").toString());
        desk.robot.clickOn("#bring-copy");
        await(() -> desk.shows("NOT safe to clear"));
        assertThat(folder.resolve("shuttle/Card 1/A002.mov")).hasContent("another");
    }

    @Test
    void aWatchedPlaceTakesNewFoldersIn() throws Exception {
        Desk desk = sit(Stand.EMPTY);
        Path incoming = Files.createDirectories(folder.resolve("incoming"));
        desk.workshop().arrivals().watchPlace(incoming).get(30, TimeUnit.SECONDS);
        await(() -> desk.shows("No longer watch it"));
        desk.shoot(Files.createDirectories(incoming.resolve("Card 7")).resolve("G001.mov"));
        await(() -> desk.view().clips().size() == 1);
        assertThat(desk.view().arrivals())
                .singleElement()
                .satisfies(arrival -> assertThat(arrival.name()).isEqualTo("Card 7"));
    }

    @Test
    void rawIsDescribedAndServedByACopyThatIsTakenOnTrust() throws Exception {
        Path card = Files.createDirectories(folder.resolve("volume/Card 3"));
        Path elsewhere = Files.createDirectories(folder.resolve("volume/Elsewhere"));
        Files.write(card.resolve("R001.r3d"), new byte[] {0, 1, 2, 3, (byte) 0xFE, 7, 8, 9});
        Desk desk = sit(Stand.EMPTY);
        desk.shoot(elsewhere.resolve("R001_p.mov"));
        desk.robot.interact(() -> desk.workshop().arrivals().add(List.of(card)));
        await(() -> desk.table("arrivals-table").getItems().size() == 1);
        desk.selectFirst("arrivals-table");
        await(() -> desk.shows("Nothing here states its raster, rate, number of frames"));
        desk.fill("#describe-raster", "1920x1080");
        desk.fill("#describe-rate", "25");
        desk.fill("#describe-frames", "10");
        desk.press("#describe");
        await(() -> desk.view().clips().getFirst().facts().lacking().isEmpty());
        await(() -> desk.shows("as it was said"));

        desk.station(KeyCode.DIGIT4);
        desk.press("#open-take-over");
        desk.fill("#take-over-folder", elsewhere.toString());
        desk.press("#take-over-folder-look");
        await(() -> desk.isThere("#adopt-doubtful"));
        desk.press("#adopt-doubtful");
        await(() -> desk.copies().size() == 1);
        assertThat(desk.copies().getFirst().isOnTrust()).isTrue();
        desk.robot.clickOn("#undo");
        await(() -> desk.copies().isEmpty());
    }
}
