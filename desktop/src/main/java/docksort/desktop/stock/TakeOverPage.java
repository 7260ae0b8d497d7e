package docksort.desktop.stock;

import static docksort.desktop.parts.TaskFields.chooseFolder;
import static docksort.desktop.parts.TaskFields.field;
import static docksort.desktop.parts.TaskFields.growing;
import static docksort.desktop.parts.TaskFields.lookFor;

import docksort.desktop.parts.Parts;
import docksort.desktop.parts.TaskPage;
import docksort.desktop.parts.Typed;
import docksort.desktop.workshop.StockDesk;
import docksort.link.Adoption;
import java.util.Map;
import javafx.scene.control.TextField;

/// The task of taking over copies that were made elsewhere.
final class TakeOverPage {
    private final StockDesk desk;
    private final TextField folder = field("take-over-folder", "Folder with the copies", 30);
    private final TextField names =
            field("take-over-names", "How they are named; empty to learn it, for instance *_P", 30);
    private final TaskPage page;

    private TakeOverPage(StockDesk desk, Runnable back) {
        this.desk = desk;
        this.page = new TaskPage(
                "take-over",
                "Take over copies",
                "Copies that a camera or another program made, or that another project has. Names suggest pairs;"
                        + " length, rate, timecode, shape and, where those leave a doubt, pictures decide. Nothing is"
                        + " copied or moved.",
                TaskPage.columns("File", "Is a copy of", "Why", 170, 130, 320),
                "Choose the folder that the copies lie in, and look.",
                lookFor(
                        folder,
                        chooseFolder(folder, "Folder with the copies"),
                        growing(Parts.checked(names, Typed::patterns)),
                        this::look),
                back);
    }

    static TaskPage of(StockDesk desk, Runnable back) {
        return new TakeOverPage(desk, back).page;
    }

    /// With one file of which somebody said what it is a copy of.
    static TaskPage of(StockDesk desk, Adoption.Pair said, Runnable back) {
        var made = new TakeOverPage(desk, back);
        made.folder.setText(String.valueOf(said.file().getParent()));
        made.show(TakeOverModel.of(said));
        return made.page;
    }

    private void look() {
        Typed.asPath(folder.getText())
                .filter(_ -> Typed.patterns(names.getText()).isEmpty())
                .ifPresent(place -> page.follow(desk.look(place, TakeOverModel.patterns(names.getText()), this::show)));
    }

    private void show(Adoption adoption) {
        names.setPromptText(TakeOverModel.learned(adoption));
        page.show(
                TakeOverModel.of(adoption),
                Map.of(
                        TakeOverModel.SURE, () -> adopt(adoption, TakeOverModel.SURE),
                        TakeOverModel.DOUBTFUL_TOO, () -> adopt(adoption, TakeOverModel.DOUBTFUL_TOO)));
    }

    private void adopt(Adoption adoption, String deed) {
        desk.adopt(
                adoption.folder(), TakeOverModel.taken(adoption, deed), count -> page.show(TakeOverModel.done(count)));
    }
}
