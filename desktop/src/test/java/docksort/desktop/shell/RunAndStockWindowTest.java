package docksort.desktop.shell;

import static docksort.desktop.shell.Desk.await;
import static org.assertj.core.api.Assertions.assertThat;

import docksort.WithMedia;
import docksort.catalogue.CopyState;
import docksort.catalogue.WorkingCopy;
import docksort.desktop.shell.Desk.Stand;
import docksort.engine.MediaEngine;
import docksort.run.RunReport;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.List;
import java.util.Locale;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.TimeUnit;
import javafx.event.ActionEvent;
import javafx.scene.control.ChoiceBox;
import javafx.scene.control.Label;
import javafx.scene.control.TableView;
import javafx.scene.input.KeyCode;
import javafx.scene.input.TransferMode;
import javafx.stage.Stage;
import org.junit.jupiter.api.Test;

/// Copies are made and kept, in the window.
@WithMedia
class RunAndStockWindowTest extends AtTheDesk {
    @Test
    void aRunIsPutInOrderHeldAndTellsItself() throws Exception {
        Desk desk = sit(Stand.CLIPS);
        desk.station(KeyCode.DIGIT2);
        // A time that has just gone by is tomorrow's: nothing is begun yet.
        desk.fill(
                "#start-from",
                DateTimeFormatter.ofPattern("HH:mm")
                        .format(LocalTime.now(ZoneId.systemDefault()).minusMinutes(2)));
        desk.robot.clickOn("#start-run");
        await(() -> desk.shows("begins at"));
        TableView<?> table = desk.table("run-table");
        List<String> before = order(desk);
        desk.robot.interact(() -> table.getSelectionModel().clearAndSelect(1));
        await(() -> desk.isThere("#move-first"));
        desk.robot.clickOn("#move-first");
        await(() -> order(desk).equals(before.reversed()));
        desk.robot.clickOn("#leave-out");
        await(() ->
                order(desk).size() == 1 || desk.workshop().runs().shown().get().count(CopyState.WANTED) == 1);
        desk.robot.clickOn("#hold-run");
        await(() -> desk.shows("held still"));
        desk.robot.clickOn("#stop-run");
        await(() -> !desk.workshop().runs().shown().get().running());
        desk.station(KeyCode.DIGIT2);
        desk.fill("#start-from", "");
        await(() -> !desk.robot.lookup("#start-run").queryButton().isDisabled());
        desk.robot.clickOn("#start-run");
        await(() -> desk.workshop().runs().shown().get().finished() == 2
                && !desk.workshop().runs().shown().get().running());
        assertThat(desk.workshop().runs().shown().get().count(CopyState.READY)).isEqualTo(2);
        await(() -> desk.shows("done in"));
        desk.robot.clickOn("B001");
        await(() -> desk.shows("frames 60\nrate 50 fps"));
        desk.robot.interact(() -> desk.table("run-table").getSelectionModel().clearSelection());
        await(() -> desk.isThere("#open-past-runs"));
        desk.press("#open-past-runs");
        await(() -> desk.shows("1 run: 2 copies made and checked"));
        assertThat(desk.robot.lookup("#write-past-report").queryButton().isDisabled())
                .isTrue();
        desk.robot.interact(
                () -> desk.table("past-runs-table").getSelectionModel().clearAndSelect(0));
        assertThat(desk.robot.lookup("#write-past-report").queryButton().isDisabled())
                .isFalse();
        desk.press("#back-to-list");
        await(() -> desk.isThere("#run-table"));
        Path report = folder.resolve("report.html");
        var runs = new CompletableFuture<List<RunReport>>();
        desk.workshop().runs().past(1, runs::complete);
        desk.workshop()
                .runs()
                .writeReport(runs.get(30, TimeUnit.SECONDS).getFirst(), report)
                .get(30, TimeUnit.SECONDS);
        assertThat(Files.readString(report))
                .contains("2 made and checked, 0 failed")
                .contains("B001");
    }

    @Test
    void aRunKeepsToHoursOfTheWeekUntilTheyAreTakenAway() throws Exception {
        Desk desk = sit(Stand.CLIPS);
        desk.station(KeyCode.DIGIT2);
        String day = DateTimeFormatter.ofPattern("EEE", Locale.ENGLISH)
                .format(LocalDate.now(ZoneId.systemDefault()).plusDays(3));
        desk.fill("#start-hours", day + " 06:00-07:00");
        desk.robot.clickOn("#start-run");
        await(() -> desk.shows("begins at " + day + " 06:00"));
        assertThat(desk.workshop().runs().shown().get().running()).isTrue();
        assertThat(desk.workshop().runs().shown().get().finished()).isZero();
        desk.station(KeyCode.DIGIT2);
        desk.fill("#start-hours", "");
        desk.robot.interact(
                () -> desk.robot.lookup("#start-hours").queryTextInputControl().fireEvent(new ActionEvent()));
        await(() -> desk.workshop().runs().shown().get().finished() == 2);
    }

    private static List<String> order(Desk desk) {
        return desk.workshop().runs().shown().get().copies().stream()
                .map(copy -> copy.copy().id())
                .toList();
    }

    @Test
    void aCopyIsDraggedIntoAnotherProgram() throws Exception {
        Desk desk = sit(Stand.COPIES);
        desk.robot.clickOn("#station-stock");
        await(() -> desk.shows("A001_light.mov"));
        Path copy = desk.view().stock().getFirst().served().file();
        var label = new Label("another program");
        label.setId("drop-target");
        label.setOnDragOver(event -> event.acceptTransferModes(TransferMode.COPY));
        label.setOnDragDropped(event -> {
            label.setText(event.getDragboard().getFiles().toString());
            event.setDropCompleted(true);
        });
        Stage elsewhere = Desk.beside(label, 900);
        desk.robot.drag("A001_light.mov").dropTo("#drop-target");
        await(() -> label.getText().equals("[" + copy + "]"));
        desk.comeBackFrom(elsewhere);
    }

    @Test
    void aCopyThatGoesAwayIsNoticed() throws Exception {
        Desk desk = sit(Stand.COPIES);
        desk.robot.clickOn("#station-stock");
        await(() -> desk.shows("A001_light.mov"));
        Path copy = desk.view().stock().getFirst().served().file();
        Path aside = Files.move(copy, copy.resolveSibling("aside"));
        await(() -> desk.shows("1 needs a look")); // by itself
        Files.move(aside, copy);
        desk.robot.clickOn("Look again");
        await(() -> !desk.shows("1 needs a look"));
    }

    @Test
    void aMovedRootIsPointedAtItsNewPlaceByTyping() throws Exception {
        Desk desk = sit(Stand.CLIPS);
        Files.move(folder.resolve("volume"), folder.resolve("moved"));
        desk.robot.clickOn("#station-stock");
        desk.robot.clickOn("Look again");
        await(() -> desk.shows("3 originals away"));
        desk.fill("#root-volume", folder.resolve("moved").toString());
        desk.robot.clickOn("#root-volume").type(KeyCode.ENTER);
        await(() -> desk.shows("3 are the same recording"));
        desk.robot.clickOn("#carry-out-relink");
        await(() -> !desk.shows("3 originals away"));
        assertThat(desk.view().clips())
                .allSatisfy(clip -> assertThat(clip.source().head()).startsWith(folder.resolve("moved")));
    }

    @Test
    void copiesFromElsewhereAreTakenOver() throws Exception {
        Desk desk = sit(Stand.CLIPS);
        Path elsewhere = Files.createDirectories(folder.resolve("elsewhere"));
        try (MediaEngine engine = MediaEngine.locate()) {
            engine.run(List.of(
                    "-i",
                    "file:" + folder.resolve("volume/Card 2/B001.mov"),
                    "-vf",
                    "scale=iw/2:ih/2",
                    "-c:v",
                    "mjpeg",
                    "-q:v",
                    "3",
                    "file:" + elsewhere.resolve("B001_P.mov")));
        }
        Files.writeString(elsewhere.resolve("C009_P.mov"), "no film");
        desk.station(KeyCode.DIGIT4);
        desk.press("#open-take-over");
        desk.robot.clickOn("#take-over-folder").write(elsewhere.toString());
        desk.robot.clickOn("#take-over-folder-look");
        await(() -> desk.shows("1 sure, 0 doubtful, 0 refused, 1 without a clip"));
        desk.robot.clickOn("#adopt-sure");
        await(() -> desk.shows("1 copy taken over"));
        desk.robot.clickOn("#back-to-list");
        await(() -> desk.shows("ready, adopted"));
        desk.robot.clickOn("#undo");
        await(() -> desk.copies().stream().noneMatch(WorkingCopy::isAdopted));
    }

    @Test
    void copiesAreRenamedByAPatternAndGetTheirNamesBack() throws Exception {
        Desk desk = sit(Stand.COPIES);
        desk.station(KeyCode.DIGIT4);
        desk.press("#open-names");
        await(() -> desk.shows("All copies have these names already"));
        desk.robot.clickOn("#names-pattern").eraseText(20).write("{kind} of {clip}");
        await(() -> !desk.robot.lookup("#rename-copies").queryButton().isDisabled());
        desk.robot.clickOn("#rename-copies");
        await(() -> desk.shows("Undo gives them their names back"));
        assertThat(desk.copies())
                .anyMatch(copy -> copy.file().endsWith("light of A001.mov") && Files.exists(copy.file()));
        desk.robot.clickOn("#undo");
        await(() ->
                desk.copies().stream().noneMatch(copy -> copy.file().toString().contains(" of ")));
    }

    @Test
    void limitsAreSetAndCopiesStoppedAndAllOfItTakenBack() throws Exception {
        Desk desk = sit(Stand.COPIES);
        desk.station(KeyCode.DIGIT4);
        int before = desk.copies().size();
        desk.press("#open-clean-up");
        desk.robot.clickOn("#limit-days").write("30");
        desk.robot.clickOn("#set-limits");
        await(() -> desk.view().limits().unusedFor().isPresent());
        await(() -> desk.shows("No copy is past the limits"));
        desk.robot.clickOn("#undo");
        await(() -> desk.view().limits().isNone());
        desk.robot.interact(
                () -> ((ChoiceBox<?>) desk.robot.lookup("#clean-which").query())
                        .getSelectionModel()
                        .select(1));
        await(() -> desk.shows(before + " copies meant; deleting " + before + " of them frees"));
        desk.robot.clickOn("#stop-using");
        await(() -> desk.copies().stream().allMatch(copy -> copy.service().stopped()));
        desk.robot.clickOn("#undo");
        await(() -> desk.copies().stream().noneMatch(copy -> copy.service().stopped()));
    }

    @Test
    void aByteThatADiskLostIsFoundAndTheCopyIsMadeAgain() throws Exception {
        Desk desk = sit(Stand.COPIES);
        desk.station(KeyCode.DIGIT4);
        Path copy = desk.view().stock().getFirst().served().file();
        FileTime time = Files.getLastModifiedTime(copy);
        byte[] bytes = Files.readAllBytes(copy);
        bytes[bytes.length / 2] ^= 1;
        Files.write(copy, bytes);
        Files.setLastModifiedTime(copy, time);
        desk.press("#open-read-again");
        await(() -> desk.shows("Every copy that is there was read whole within 30 days"));
        desk.fill("#read-days", "");
        desk.press("#read-look");
        await(() -> desk.shows("copies of"));
        desk.press("#read-them-again");
        await(() -> desk.shows("1 damaged"));
        assertThat(desk.copies())
                .filteredOn(other -> other.place().whole().damaged())
                .extracting(WorkingCopy::file)
                .containsExactly(copy);
        await(() -> desk.copies().stream().anyMatch(other -> other.state() == CopyState.SUSPECT));
        desk.press("#back-to-list");
        await(() -> desk.shows("1 needs a look"));
    }

    @Test
    void theSizeOfTheLightCopiesThatServeIsSaidOnceAndTakenBack() throws Exception {
        Desk desk = sit(Stand.COPIES);
        desk.station(KeyCode.DIGIT4);
        desk.fill("#light-lines", "270");
        desk.robot.interact(
                () -> desk.robot.lookup("#light-lines").queryTextInputControl().fireEvent(new ActionEvent()));
        await(() -> desk.view().order().lightLines() == 270);
        await(() -> desk.shows("light, large")); // there is one size only, and it has more
        desk.robot.clickOn("#undo");
        await(() -> desk.view().order().lightLines() == 0);
        await(() -> !desk.shows("light, large"));
    }
}
