package docksort.desktop.shell;

import static docksort.desktop.shell.Desk.await;
import static org.assertj.core.api.Assertions.assertThat;

import docksort.WithMedia;
import docksort.catalogue.WorkingCopy;
import docksort.desktop.shell.Desk.Stand;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import javafx.scene.image.ImageView;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.Test;

/// A timeline on its way out, in the window.
@WithMedia
class DispatchWindowTest extends AtTheDesk {
    @Test
    void aTimelineIsSwitchedAndSavedBothWays() throws Exception {
        Desk desk = sit(Stand.COPIES);
        desk.openTimeline();
        desk.press("#order-light");
        await(() -> desk.shows("1 of 1 events are on copies"));
        desk.press("#save-timeline");
        await(() -> Files.readString(folder.resolve("cut.otio")).contains("A001_light.mov"));
        desk.press("#order-originals");
        await(() -> desk.shows("every event is on its original"));
        desk.press("#save-timeline");
        await(() -> !Files.readString(folder.resolve("cut.otio")).contains("A001_light.mov"));
    }

    @Test
    void whatAnotherProgramWroteIsTold() throws Exception {
        Desk desk = sit(Stand.CLIPS);
        desk.openTimeline();
        Path longer = folder.resolve("longer.otio");
        String text = Desk.timeline();
        String clip = text.substring(text.indexOf("[{") + 1, text.lastIndexOf("}]") + 1);
        Files.writeString(longer, text.replace(clip, clip + ", " + clip));
        Files.move(longer, folder.resolve("cut.otio"), StandardCopyOption.REPLACE_EXISTING); // as another program
        await(() -> desk.shows("Another program has written it since: "));
        Files.writeString(longer, text);
        Files.move(longer, folder.resolve("cut.otio"), StandardCopyOption.REPLACE_EXISTING);
        await(() -> desk.table("dispatch-table").getItems().size() == 1);
    }

    @Test
    void aBrokenTimelineIsRefusedAndTheOpenOneStays() throws Exception {
        Desk desk = sit(Stand.CLIPS);
        desk.openTimeline();
        desk.take(Files.writeString(folder.resolve("broken.otio"), "{"));
        await(() -> desk.shows("Cannot open the timeline"));
        assertThat(desk.shows("every event is on its original")).isTrue();
        desk.robot.clickOn("#put-away");
        await(() -> !desk.shows("Cannot open the timeline"));
    }

    @Test
    void anEventIsPinnedAndThePinGoesAway() throws Exception {
        Desk desk = sit(Stand.COPIES);
        desk.openTimeline();
        desk.selectFirst("dispatch-table");
        desk.press("#pin-clip-full");
        await(() -> desk.shows("original, pinned") && desk.isInTable("dispatch-table", "original, pinned"));
        desk.press("#pin-away");
        await(() -> !desk.shows("original, pinned"));
    }

    @Test
    void aTimelineOnCopiesDoesNotLeaveForFinishing() throws Exception {
        Desk desk = sit(Stand.COPIES);
        desk.openTimeline();
        desk.press("#order-light");
        await(() -> desk.shows("1 of 1 events are on copies"));
        desk.robot.clickOn("#open-departure");
        desk.fill("#departure-delivery", "1920x1080");
        desk.robot.clickOn("#departure-check");
        await(() -> desk.shows("It does not leave: 1 thing is not as it must be"));
        desk.fill("#departure-name", "the keeper");
        assertThat(desk.robot.lookup("#departure-leave").queryButton().isDisabled())
                .as("not without a reason")
                .isTrue();
        desk.fill("#departure-reason", "a test");
        assertThat(desk.robot.lookup("#departure-leave").queryButton().isDisabled())
                .isFalse();
        desk.robot.clickOn("#back-to-list");
        desk.press("#order-originals");
        await(() -> desk.shows("every event is on its original"));
        desk.robot.clickOn("#open-departure");
        desk.robot.clickOn("#departure-check");
        await(() -> desk.shows("It may leave: 1 event, "));
    }

    @Test
    void originalAndCopyAreSeenAtOneFrameAndADeadDecoderIsTold() throws Exception {
        Desk desk = sit(Stand.COPIES);
        desk.openTimeline();
        desk.selectFirst("dispatch-table");
        desk.press("#open-pair");
        await(() -> desk.shows("A jump is reached in: original"));
        await(() -> desk.robot
                        .lookup("#pair-picture")
                        .lookup((ImageView view) -> view.isVisible()
                                && view.getImage() != null
                                && view.getImage().getWidth() > 100)
                        .queryAll()
                        .size()
                == 2);
        desk.robot.clickOn("#pair-least-alike");
        await(() -> desk.shows(leastAlike(desk) + " of 49"));
        desk.robot.type(KeyCode.HOME);
        await(() -> desk.shows("0 of 49"));
        desk.robot.clickOn("#pair-next");
        await(() -> desk.shows("1 of 49"));
        desk.robot.type(KeyCode.RIGHT);
        await(() -> desk.shows("2 of 49"));
        desk.robot.clickOn("#pair-alike-here");
        await(() -> desk.shows("luma SSIM 0.9"));
        ProcessHandle.current()
                .children()
                .filter(child -> child.info()
                        .command()
                        .filter(command -> command.endsWith("java"))
                        .isPresent())
                .forEach(ProcessHandle::destroyForcibly);
        desk.robot.clickOn("#pair-next");
        await(() -> desk.shows("The decoder ended over"));
        desk.robot.clickOn("#pair-next");
        await(() -> desk.shows("4 of 49") && !desk.shows("The decoder ended over"));
    }

    /// Of the copy that is shown, as its check says it.
    private static String leastAlike(Desk desk) {
        String note = desk.workshop().views().view().get().orElseThrow().stock().stream()
                .flatMap(line -> line.copies().stream())
                .map(WorkingCopy::note)
                .filter(each -> each.contains("least in frame "))
                .findFirst()
                .orElseThrow();
        return note.replaceFirst("(?s).*least in frame (\\d+).*", "$1");
    }
}
