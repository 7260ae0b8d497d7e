package docksort.desktop.stock;

import static docksort.desktop.parts.TaskFields.chooseFolder;
import static docksort.desktop.parts.TaskFields.field;
import static docksort.desktop.parts.TaskFields.lookFor;

import docksort.desktop.parts.TaskPage;
import docksort.desktop.parts.Typed;
import docksort.desktop.workshop.StockDesk;
import docksort.link.MediaSearch.Result;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import javafx.scene.control.CheckBox;
import javafx.scene.control.TextField;

/// The task of searching for media that is not in its place.
final class SearchPage {
    private final StockDesk desk;
    private final TextField folder = field("search-folder", "Folder or volume to search", 30);
    private final CheckBox twins = new CheckBox("twins of what is in use");
    private final TaskPage page;

    private SearchPage(StockDesk desk, Runnable back) {
        this.desk = desk;
        twins.setId("search-twins");
        this.page = new TaskPage(
                "search",
                "Search for media",
                "Originals and copies that are not in their place are recognised by what they hold, whatever their"
                    + " names and folders are now. Another recording is refused, also when it has the name. Twins are"
                    + " the same recordings elsewhere, to move over to.",
                TaskPage.columns("Wanted", "Found at", "How", 140, 270, 215),
                "Choose where to search, and look.",
                lookFor(folder, chooseFolder(folder, "Folder or volume to search"), twins, this::look),
                back);
    }

    static TaskPage of(StockDesk desk, Runnable back) {
        return new SearchPage(desk, back).page;
    }

    /// A search whose results are there already.
    static TaskPage found(StockDesk desk, Path place, List<Result> results, Runnable back) {
        var search = new SearchPage(desk, back);
        search.show(place, results);
        return search.page;
    }

    private void look() {
        Typed.asPath(folder.getText())
                .ifPresent(
                        place -> page.follow(desk.search(place, twins.isSelected(), results -> show(place, results))));
    }

    private void show(Path place, List<Result> results) {
        page.show(
                SearchModel.of(results),
                Map.of(
                        SearchModel.USE_FOUND, () -> use(place, results, false),
                        SearchModel.USE_LIKELY, () -> use(place, results, true)));
    }

    private void use(Path place, List<Result> results, boolean likelyToo) {
        desk.relink(place, results, likelyToo, count -> page.show(SearchModel.done(count)));
    }
}
