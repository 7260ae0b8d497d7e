package docksort.desktop.shell;

import static docksort.desktop.shell.Desk.await;
import static org.assertj.core.api.Assertions.assertThat;

import docksort.WithMedia;
import docksort.arrival.Clip;
import docksort.desktop.shell.Desk.Stand;
import docksort.media.KeptFile;
import docksort.sort.Recipe;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.TimeUnit;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.Test;

/// What is planned, in the window.
@WithMedia
class SortWindowTest extends AtTheDesk {
    private static long likely(Desk desk) {
        return desk.view().sheet().bytes().likely().bytes();
    }

    @Test
    void choosingByHandChangesTheLoadSheetAndUndoTakesItBack() throws Exception {
        Desk desk = sit(Stand.CLIPS);
        desk.station(KeyCode.DIGIT2);
        await(() -> desk.shows("scrub cost at least 4"));
        long before = likely(desk);
        desk.robot.clickOn("A002");
        desk.robot.clickOn("#set-recipe").clickOn("#choose-" + Recipe.FULL_VC3.id());
        await(() -> likely(desk) > before);
        assertThat(desk.shows("by hand")).isTrue();
        desk.robot.clickOn("#undo");
        await(() -> likely(desk) == before);
    }

    @Test
    void aRuleSaysWhatWouldChangeAndIsTakenBack() throws Exception {
        Desk desk = sit(Stand.CLIPS);
        desk.station(KeyCode.DIGIT2);
        await(() -> desk.shows("scrub cost at least 4"));
        desk.robot.clickOn("#edit-rule-3");
        await(() -> desk.shows("Nothing: the same clips get the same copies."));
        TextField value = Desk.onWindow(() -> desk.robot.lookup(".docket-page .text-field").queryAll().stream()
                .map(TextField.class::cast)
                .filter(field -> field.getText().equals("4"))
                .findFirst()
                .orElseThrow());
        desk.robot.interact(() -> value.setText("many"));
        await(() -> desk.shows("scrub cost cannot be compared with"));
        desk.robot.interact(() -> value.setText("1"));
        await(() -> desk.robot.lookup(".docket-page .label").queryAll().stream()
                .map(node -> ((Label) node).getText())
                .anyMatch(text -> text.matches("\\d+ gets? light.*")));
        desk.robot.clickOn("#apply-rule");
        await(() -> desk.shows("scrub cost at least 1"));
        desk.robot.clickOn("#undo");
        await(() -> desk.shows("scrub cost at least 4"));
    }

    @Test
    void aRecipeIsSavedOnlyWhenItsPartsGoTogether() throws Exception {
        Desk desk = sit(Stand.CLIPS);
        desk.station(KeyCode.DIGIT2);
        desk.press("#show-recipes");
        desk.press("#new-from-full-vc3");
        choose(desk, "#recipe-codec", 0);
        choose(desk, "#recipe-container", 2);
        await(() -> desk.shows("MP4 does not take ProRes Proxy"));
        assertThat(desk.robot.lookup("#save-recipe").queryButton().isDisabled()).isTrue();
        choose(desk, "#recipe-container", 0);
        desk.fill("#recipe-name", "Desk copies");
        desk.press("#save-recipe");
        await(() -> desk.view().book().byId("desk-copies").isPresent());
        desk.robot.clickOn("#undo");
        await(() -> desk.view().book().own().isEmpty());
        desk.robot.clickOn("Back to the load sheet");
        await(() -> desk.shows("Load sheet"));
    }

    /// From a file to a recipe, and to what a clip would come to by it.
    @Test
    void aRecipeTakesALookAndARuleASecondSize() throws Exception {
        Desk desk = sit(Stand.CLIPS);
        Path cube = Files.writeString(desk.folder().resolve("Night.cube"), "LUT_3D_SIZE 2\n" + "0 0.5 1\n".repeat(8));
        var added = new CompletableFuture<KeptFile>();
        Desk.onWindow(() -> {
            desk.workshop().sort().addTable(cube, (table, _) -> added.complete(table));
            return true;
        });
        KeptFile table = added.get(30, TimeUnit.SECONDS);
        desk.station(KeyCode.DIGIT2);
        desk.robot.clickOn("A002");
        desk.press("#show-recipes");
        desk.press("#new-from-light-prores-half");
        await(() -> desk.robot
                        .lookup("#recipe-table")
                        .queryAs(ComboBox.class)
                        .getItems()
                        .size()
                == 2);
        choose(desk, "#recipe-table", 1);
        await(() -> desk.shows("the look Night.cube baked in"));
        desk.fill("#recipe-name", "Night look");
        desk.press("#save-recipe");
        await(() -> desk.view().book().byId("night-look").isPresent());
        assertThat(desk.view().book().byId("night-look").orElseThrow().look().table())
                .contains(table);

        desk.robot.clickOn("Back to the load sheet");
        desk.press("#edit-rule-3");
        desk.press("#add-light");
        await(() -> desk.isThere("#rule-makes-light-2"));
        desk.robot.interact(() -> {
            ComboBox<?> second = desk.robot.lookup("#rule-makes-light-2").queryAs(ComboBox.class);
            second.getSelectionModel().selectLast();
        });
        await(() -> desk.shows("Night look"));
        desk.press("#apply-rule");
        await(() -> desk.view().book().rules().get(2).make().contains("night-look"));
        assertThat(desk.view().book().rules().get(2).make()).hasSize(2);
    }

    private static void choose(Desk desk, String box, int index) throws Exception {
        await(() -> desk.isThere(box));
        desk.robot.interact(() -> desk.robot
                .lookup(box)
                .queryAs(ComboBox.class)
                .getSelectionModel()
                .select(index));
    }

    @Test
    void aMistakeOfThePlanIsMendedWithOneClick() throws Exception {
        Desk desk = sit(Stand.CLIPS);
        desk.station(KeyCode.DIGIT2);
        List<Clip> first = desk.view().clips().stream()
                .filter(clip -> clip.name().equals("A001"))
                .toList();
        desk.workshop()
                .sort()
                .choose(first, Optional.of(List.of(Recipe.RANGE_VC3)))
                .get(30, TimeUnit.SECONDS);
        await(() -> desk.shows("cannot be made: no timeline"));
        desk.robot.clickOn("Plan no such copy of these clips");
        await(() -> !desk.shows("cannot be made: no timeline"));
        assertThat(desk.view().sheet().wanted()).noneMatch(copy -> copy.recipe().equals(Recipe.RANGE_VC3));
        desk.robot.clickOn("#undo");
        await(() -> desk.shows("cannot be made: no timeline"));
        desk.robot.clickOn("#undo");
        await(() -> !desk.shows("cannot be made: no timeline"));
    }
}
