package docksort.desktop.sort;

import docksort.arrival.Clip;
import docksort.arrival.ClipId;
import docksort.desktop.parts.ClipPicture;
import docksort.desktop.parts.ColumnMenu;
import docksort.desktop.parts.ColumnSets;
import docksort.desktop.parts.Docket;
import docksort.desktop.parts.FileName;
import docksort.desktop.parts.Filter;
import docksort.desktop.parts.Parts;
import docksort.desktop.parts.ScopeList;
import docksort.desktop.parts.Station;
import docksort.desktop.parts.Thumbnails;
import docksort.desktop.sort.SortModel.SortRow;
import docksort.desktop.workshop.Workshop;
import docksort.media.ByteSize;
import docksort.sort.LoadSheet;
import docksort.sort.PlannedCopy;
import docksort.sort.Recipe;
import docksort.sort.VolumeLoad;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.CompletableFuture;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import javafx.collections.FXCollections;
import javafx.geometry.VPos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.Menu;
import javafx.scene.control.MenuButton;
import javafx.scene.control.MenuItem;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.SelectionMode;
import javafx.scene.control.TableColumn;
import javafx.scene.control.TableView;
import javafx.scene.control.TextField;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import javafx.stage.DirectoryChooser;

/// The Sort station: which clips get which copies, how big that is, and whether it fits.
public final class SortStation implements Station {
    private final Workshop workshop;
    private final SortModel model;
    private final ScopeList scope = new ScopeList();
    private final VBox rules = new VBox();
    private final TableView<SortRow> table = new TableView<>();
    private final VBox rooms = new VBox(8);
    private final MenuButton set = new MenuButton("Set selected clips to…");
    private final Menu menu = new Menu("Set to");
    private final TextField filter = Filter.field("sort-filter", "clips by name, rule or copy");
    private final Thumbnails thumbnails;
    private final Docket page = new Docket(this::docket);
    private List<Node> other = List.of();
    private final VBox centre = new VBox(10);
    private final Runnable afterStart;
    private boolean sheetShown = true;

    /// @param afterStart called when a run was asked for
    public SortStation(Workshop workshop, Thumbnails thumbnails, Runnable afterStart) {
        this.workshop = workshop;
        this.thumbnails = thumbnails;
        this.afterStart = afterStart;
        this.model = new SortModel(
                workshop.views(), (clips, recipes) -> workshop.sort().choose(clips, recipes));
        table.setId("sort-table");
        model.groupsProperty().subscribe(scope::show);
        model.scope().bind(scope.chosen());
        centre.getStyleClass().add("centre");
        var content = new VBox(10, ruleSection(), table(), rooms);
        content.getChildren().add(1, clipBar()); // of the table's columns
        content.setStyle("-fx-padding: 0 1.2em 1em 0;");
        VBox.setVgrow(content, Priority.ALWAYS);
        VBox.setVgrow(table, Priority.ALWAYS);
        centre.getChildren().add(content);
        model.sheet().subscribe(sheet -> sheet.ifPresent(this::show));
    }

    private Node ruleSection() {
        Button add = Parts.button("Add a rule", () -> editRule(-1), "link");
        add.setId("add-rule");
        Button recipes = Parts.button("Recipes…", this::showRecipes, "link");
        recipes.setId("show-recipes");
        return new VBox(Parts.section("Sort rules, the first that catches a clip decides", recipes, add), rules);
    }

    private Node clipBar() {
        set.setId("set-recipe");
        set.disableProperty()
                .bind(table.getSelectionModel().selectedItemProperty().isNull());
        Button compare = Parts.button("Compare recipes", this::compare);
        compare.setId("compare-recipes");
        compare.disableProperty()
                .bind(table.getSelectionModel().selectedItemProperty().isNull());
        model.filter().bind(filter.textProperty());
        set.setMinWidth(Region.USE_PREF_SIZE);
        // Goes on in a second line where text is large.
        var bar = new FlowPane(
                10,
                6,
                Parts.label("Clips", "caption"),
                filter,
                ColumnMenu.of(table, ColumnSets.ofThisPerson(table.getId())),
                compare,
                set);
        bar.setRowValignment(VPos.CENTER);
        bar.getStyleClass().add("section");
        return bar;
    }

    private List<MenuItem> choices() {
        var items = new ArrayList<MenuItem>();
        items.add(choice("by the rules", Optional.empty()));
        items.add(choice("leave as it is", Optional.of(List.of())));
        for (Recipe recipe : model.book().recipes()) {
            items.add(choice(recipe.label(), Optional.of(List.of(recipe))));
        }
        items.add(choice(
                Recipe.LIGHT_PRORES_HALF.label() + " and " + Recipe.FULL_VC3.label(),
                Optional.of(List.of(Recipe.LIGHT_PRORES_HALF, Recipe.FULL_VC3))));
        return items;
    }

    private MenuItem choice(String words, Optional<List<Recipe>> recipes) {
        var item = new MenuItem(words);
        item.setMnemonicParsing(false);
        item.setId("choose-"
                + recipes.map(chosen -> chosen.isEmpty()
                                ? "nothing"
                                : chosen.stream().map(Recipe::id).collect(Collectors.joining("-")))
                        .orElse("rules"));
        item.setOnAction(_ -> model.choose(List.copyOf(table.getSelectionModel().getSelectedItems()), recipes));
        return item;
    }

    private Node table() {
        table.setAccessibleText("Clips and the copies they get");
        table.getSelectionModel().setSelectionMode(SelectionMode.MULTIPLE);
        table.setItems(model.rows());
        FileName.of(table, row -> List.of(row.clip().source().head()), List.of(menu));
        table.setSortPolicy(view -> {
            if (view.getComparator() != null) {
                FXCollections.sort(view.getItems(), view.getComparator());
            }
            return true;
        });
        table.setPlaceholder(
                Parts.empty("No clips here", "Add arrivals first, or choose Everything and empty the filter."));
        table.getColumns()
                .addAll(List.of(
                        ClipPicture.column(
                                thumbnails,
                                row -> Optional.of(row.clip()),
                                row -> row.clip().name()),
                        Parts.text("Clip", 144, model::name, "mono"),
                        Parts.text(
                                "Decided by", 70, (SortRow row) -> row.sorted().why()),
                        Parts.text("Copies", 176, SortStation::copies),
                        Parts.text("Comes to", 150, SortStation::outcome),
                        Parts.number(
                                "Bytes",
                                68,
                                SortRow::bytes,
                                row -> row.isWanted() ? new ByteSize(row.bytes()).label() : "–"),
                        certainty()));
        return table;
    }

    private static String copies(SortRow row) {
        return row.copies().isEmpty()
                ? "left as it is"
                : row.copies().stream().map(copy -> copy.recipe().label()).collect(Collectors.joining(" + "));
    }

    private static String outcome(SortRow row) {
        return row.copies().stream()
                .map(copy -> switch (copy.resolution()) {
                    case Recipe.Resolution.Possible(var form, var _) -> form.label();
                    case Recipe.Resolution.Impossible(var why) -> "no: " + why;
                })
                .collect(Collectors.joining(" + "));
    }

    private static TableColumn<SortRow, String> certainty() {
        TableColumn<SortRow, String> column = Parts.text("", 74, SortStation::exactness);
        column.setId("Certainty"); // it goes with the figure before it
        return column;
    }

    private static String exactness(SortRow row) {
        if (row.copies().stream().anyMatch(PlannedCopy::already)) {
            return "in stock";
        }
        if (!row.isWanted()) {
            return "";
        }
        return row.copies().stream().allMatch(copy -> copy.bytes().isExact()) ? "exact" : "to " + most(row);
    }

    private static String most(SortRow row) {
        long bytes = row.copies().stream()
                .filter(PlannedCopy::isWanted)
                .mapToLong(c -> c.bytes().most().bytes())
                .sum();
        return new ByteSize(bytes).label();
    }

    private void show(LoadSheet sheet) {
        rules.getChildren().setAll(model.rules().stream().map(this::rule).toList());
        set.getItems().setAll(choices());
        menu.getItems().setAll(choices());
        rooms.getChildren().clear();
        for (VolumeLoad load : sheet.volumes()) {
            rooms.getChildren().addAll(room(load));
        }
        if (sheetShown) {
            showSheet(); // a rule or a recipe that is being edited stays
        }
    }

    private static List<Node> room(VolumeLoad load) {
        var title = Parts.section(
                "Room on " + load.room().volume() + ", " + load.room().total());
        var bar = new RoomBar();
        bar.show(load);
        long used = load.room().total().bytes() - load.room().free().bytes();
        Label words = Parts.label(
                "used " + new ByteSize(Math.max(0, used)) + "     this plan at most "
                        + load.bytes().most() + "     "
                        + (load.fits()
                                ? "free after " + load.freeAfter()
                                : "does not fit: " + load.missing() + " missing"),
                "quiet");
        return List.of(title, bar, words);
    }

    private Node rule(SortModel.RuleLine line) {
        Label number = Parts.label(line.number(), "mono");
        number.setMinWidth(18);
        boolean last = line.number().isEmpty();
        Label condition = Parts.label(line.condition(), last ? "quiet" : "rule-condition");
        condition.setMinWidth(260);
        var row = new HBox(
                number,
                condition,
                Parts.label(line.outcome()),
                Parts.spring(),
                Parts.label(Long.toString(line.caught()), "mono"));
        row.getStyleClass().add("rule");
        if (!last) {
            int index = Integer.parseInt(line.number()) - 1;
            Button edit = Parts.button("Edit", () -> editRule(index), "link");
            edit.setId("edit-rule-" + line.number());
            edit.setAccessibleText("Edit rule " + line.number() + ": " + line.condition());
            row.getChildren().add(edit);
        } else {
            Button room = Parts.button("Edit", () -> {}, "link"); // keeps the figures in one column
            room.setVisible(false);
            row.getChildren().add(room);
        }
        return row;
    }

    private void showSheet() {
        sheetShown = true;
        page.refresh();
    }

    private List<Node> docket() {
        return sheetShown
                ? model.sheet()
                        .get()
                        .map(new SheetPage(workshop, model, this::start, this::otherFolder)::of)
                        .orElse(List.of())
                : other;
    }

    private void back() {
        showSheet();
    }

    private void show(List<Node> nodes) {
        sheetShown = false;
        this.other = nodes;
        page.refresh();
        for (Node at = page; at != null; at = at.getParent()) {
            if (at instanceof ScrollPane pane) {
                pane.setVvalue(0); // a new page is read from its top
            }
        }
    }

    private void editRule(int index) {
        show(new RulePage(workshop, model.book(), index, this::back).nodes());
    }

    private void showRecipes() {
        show(new RecipesPage(workshop, model.book(), this::editRecipe, this::back).nodes());
    }

    private void editRecipe(Recipe from, boolean isNew) {
        Optional<Clip> example =
                Optional.ofNullable(table.getSelectionModel().getSelectedItem()).map(SortRow::clip);
        show(new RecipePage(workshop, model.book(), from, isNew, example, this::showRecipes).nodes());
    }

    private void compare() {
        List<Clip> chosen = table.getSelectionModel().getSelectedItems().stream()
                .map(SortRow::clip)
                .toList();
        show(new ComparePage(workshop, model.book(), chosen, this::back).nodes());
    }

    /// Selects clips, to decide their copies.
    public void select(List<Clip> clips) {
        scope.chosen().set("");
        filter.clear();
        Set<ClipId> wanted = clips.stream().map(Clip::id).collect(Collectors.toSet());
        int[] places = IntStream.range(0, table.getItems().size())
                .filter(i -> wanted.contains(table.getItems().get(i).clip().id()))
                .toArray();
        table.getSelectionModel().clearSelection();
        if (places.length > 0) {
            table.getSelectionModel().selectIndices(places[0], places);
            table.scrollTo(places[0]);
        }
    }

    /// Compares the recipes for one clip, as the button does for the selection.
    public CompletableFuture<Void> compare(String clipName) {
        table.getSelectionModel().clearSelection();
        table.getItems().stream()
                .filter(row -> row.clip().name().equals(clipName))
                .findFirst()
                .ifPresent(table.getSelectionModel()::select);
        var compared = new ComparePage(
                workshop,
                model.book(),
                table.getSelectionModel().getSelectedItems().stream()
                        .map(SortRow::clip)
                        .toList(),
                this::back);
        show(compared.nodes());
        return compared.tryOut();
    }

    private void otherFolder() {
        var chooser = new DirectoryChooser();
        chooser.setTitle("Folder for copies");
        Optional.ofNullable(chooser.showDialog(page.getScene().getWindow()))
                .ifPresent(folder -> workshop.sort().copiesInto(folder.toPath()));
    }

    private void start(SheetPage.Start how) {
        if (how.onlyWhatFits()) {
            workshop.runs().startWhatFits(how.pace());
        } else {
            workshop.runs().start(how.pace());
        }
        afterStart.run();
    }

    @Override
    public void findFocus() {
        filter.requestFocus();
    }

    @Override
    public Face face() {
        return new Face("Sort", scope, table, centre, page, model.number(), model.line());
    }
}
