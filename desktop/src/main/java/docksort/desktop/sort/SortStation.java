package docksort.desktop.sort;

import docksort.desktop.Mark;
import docksort.desktop.Parts;
import docksort.desktop.ScopeList;
import docksort.desktop.Station;
import docksort.desktop.Workshop;
import docksort.desktop.sort.SortModel.SortRow;
import docksort.sort.LoadSheet;
import docksort.sort.PlannedCopy;
import docksort.sort.Recipe;
import docksort.sort.Warning;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.ContextMenu;
import javafx.scene.control.Label;
import javafx.scene.control.MenuButton;
import javafx.scene.control.MenuItem;
import javafx.scene.control.SelectionMode;
import javafx.scene.control.TableView;
import javafx.scene.control.Tooltip;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;

/// The Sort station: which clips get which copies, how big that is, and whether it fits.
public final class SortStation implements Station {
    private final Workshop workshop;
    private final SortModel model;
    private final ScopeList scope = new ScopeList();
    private final VBox rules = new VBox();
    private final TableView<SortRow> table = new TableView<>();
    private final RoomBar room = new RoomBar();
    private final Label roomWords = Parts.label("", "quiet");
    private final Label roomTitle = Parts.label("Room for copies", "caption");
    private final VBox page = new VBox();
    private final VBox centre = new VBox(10);
    private final Runnable afterStart;

    /// @param afterStart called when a run was asked for
    public SortStation(Workshop workshop, Runnable afterStart) {
        this.workshop = workshop;
        this.afterStart = afterStart;
        this.model = new SortModel(workshop);
        model.groupsProperty().subscribe(scope::show);
        model.scope().bind(scope.chosen());
        page.getStyleClass().add("docket-page");
        centre.getStyleClass().add("centre");
        var content = new VBox(10, ruleSection(), clipBar(), table(), roomSection());
        content.setStyle("-fx-padding: 0 1.2em 1em 0;");
        VBox.setVgrow(content, Priority.ALWAYS);
        VBox.setVgrow(table, Priority.ALWAYS);
        centre.getChildren().add(content);
        model.sheet()
                .subscribe(sheet -> sheet.ifPresentOrElse(
                        this::show, () -> page.getChildren().setAll(Parts.label("Load sheet", "docket-name"))));
    }

    private Node ruleSection() {
        return new VBox(Parts.section("Sort rules, first match wins", Parts.label("clips caught", "quiet")), rules);
    }

    private Node clipBar() {
        var set = new MenuButton("Set selected clips to…");
        set.setId("set-recipe");
        set.getItems().addAll(choices());
        set.disableProperty()
                .bind(table.getSelectionModel().selectedItemProperty().isNull());
        var hint = Parts.label("", "quiet");
        table.getSelectionModel()
                .selectedItemProperty()
                .subscribe(item -> hint.setText(item == null ? "select clips to decide by hand" : ""));
        var bar = new HBox(10, Parts.label("Clips and their copies", "caption"), Parts.spring(), hint, set);
        bar.getStyleClass().add("section");
        return bar;
    }

    private List<MenuItem> choices() {
        var items = new ArrayList<MenuItem>();
        items.add(choice("by the rules", Optional.empty()));
        items.add(choice("leave as it is", Optional.of(List.of())));
        for (Recipe recipe : Recipe.BUILT_IN) {
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
        table.setId("sort-table");
        table.setAccessibleText("Clips and the copies they get");
        table.getSelectionModel().setSelectionMode(SelectionMode.MULTIPLE);
        table.setItems(model.rows());
        var menu = new ContextMenu();
        menu.getItems().addAll(choices());
        table.setContextMenu(menu);
        table.setSortPolicy(view -> {
            if (view.getComparator() != null) {
                javafx.collections.FXCollections.sort(view.getItems(), view.getComparator());
            }
            return true;
        });
        table.setPlaceholder(Parts.empty("No clips here", "Add arrivals first, or choose Everything at the left."));
        table.getColumns()
                .addAll(List.of(
                        Parts.text("Clip", 126, (SortRow row) -> row.clip().name(), "mono"),
                        Parts.text(
                                "Decided by", 76, (SortRow row) -> row.sorted().why()),
                        Parts.text("Copies", 216, SortStation::copies),
                        Parts.text("Comes to", 156, SortStation::outcome),
                        Parts.number(
                                "Bytes",
                                64,
                                SortRow::bytes,
                                row -> row.isWanted() ? new docksort.media.ByteSize(row.bytes()).label() : "–"),
                        Parts.text("", 84, SortStation::exactness)));
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
                    case Recipe.Resolution.Possible(var target, var raster, var _) -> target.label() + " " + raster;
                    case Recipe.Resolution.Impossible(var why) -> "no: " + why;
                })
                .collect(Collectors.joining(" + "));
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
        return new docksort.media.ByteSize(bytes).label();
    }

    private Node roomSection() {
        var title = new HBox(roomTitle, Parts.spring());
        title.getStyleClass().add("section");
        return new VBox(8, title, room, roomWords);
    }

    private void show(LoadSheet sheet) {
        rules.getChildren().setAll(model.rules().stream().map(SortStation::rule).toList());
        room.show(sheet);
        roomTitle.setText(
                "Room on " + sheet.room().volume() + ", " + sheet.room().total());
        long used = sheet.room().total().bytes() - sheet.room().free().bytes();
        roomWords.setText("used " + new docksort.media.ByteSize(Math.max(0, used)) + "     this plan at most "
                + sheet.bytes().most()
                + "     "
                + (sheet.fits()
                        ? "free after "
                                + new docksort.media.ByteSize(
                                        sheet.room().free().bytes()
                                                - sheet.bytes().most().bytes())
                        : "does not fit: " + sheet.missing() + " missing"));
        showDocket(sheet);
    }

    private static Node rule(SortModel.RuleLine line) {
        Label number = Parts.label(line.number(), "mono");
        number.setMinWidth(18);
        Label condition = Parts.label(line.condition(), line.number().isEmpty() ? "quiet" : "rule-condition");
        condition.setMinWidth(260);
        var row = new HBox(
                number,
                condition,
                Parts.label(line.outcome()),
                Parts.spring(),
                Parts.label(Long.toString(line.caught()), "mono"));
        row.getStyleClass().add("rule");
        return row;
    }

    private void showDocket(LoadSheet sheet) {
        int wanted = sheet.wanted().size();
        long clips =
                sheet.wanted().stream().map(copy -> copy.clip().id()).distinct().count();
        page.getChildren()
                .setAll(
                        Parts.label("Load sheet", "docket-name"),
                        figure(
                                Integer.toString(wanted),
                                wanted == 1 ? "copy of 1 clip" : "copies of " + clips + " clips"),
                        figure(
                                sheet.bytes().likely().label(),
                                sheet.bytes().isExact()
                                        ? "exact"
                                        : sheet.bytes().least() + " to "
                                                + sheet.bytes().most()),
                        figure(sheet.room().free().label(), "free where copies go"));
        for (Warning warning : sheet.warnings()) {
            page.getChildren().add(warning(warning));
        }
        Button start = Parts.button("Start run", this::start, "main");
        start.setId("start-run");
        String why = wanted == 0
                ? "Nothing is wanted."
                : sheet.fits() ? "" : "It does not fit: " + sheet.thatFit().size() + " of " + wanted + " copies would.";
        start.setDisable(!why.isEmpty());
        page.getChildren().add(start);
        if (!why.isEmpty()) {
            page.getChildren().add(Parts.wrapped(why, "quiet"));
            start.setTooltip(new Tooltip(why));
        }
        page.getChildren().add(Parts.section("These clips by recipe"));
        for (SortModel.Compared compared : model.compared()) {
            page.getChildren()
                    .add(new HBox(
                            10,
                            Parts.label(compared.recipe().label()),
                            Parts.spring(),
                            Parts.label(
                                    (compared.bytes().isExact() ? "" : "about ")
                                            + compared.bytes().likely().label(),
                                    "mono")));
        }
    }

    private void start() {
        workshop.startRun();
        afterStart.run();
    }

    private static Node figure(String value, String meaning) {
        var box = new HBox(8, Parts.label(value, "figure"), Parts.wrapped(meaning, "quiet"));
        box.setAlignment(javafx.geometry.Pos.BASELINE_LEFT);
        return box;
    }

    private static Node warning(Warning warning) {
        var words = new VBox(2, Parts.wrapped(warning.text()), Parts.wrapped(warning.remedy(), "remedy"));
        HBox.setHgrow(words, Priority.ALWAYS);
        var line = new HBox(10, warning.stops() ? Mark.cross("stop") : Mark.look(), words);
        line.getStyleClass().add("reason");
        return line;
    }

    @Override
    public Face face() {
        return new Face("Sort", scope, table, centre, page, model.number(), model.line());
    }
}
