package docksort.desktop.sort;

import docksort.arrival.Clip;
import docksort.arrival.ClipId;
import docksort.arrival.ClipNames;
import docksort.desktop.parts.Filter;
import docksort.desktop.parts.Rows;
import docksort.desktop.parts.Scope.Group;
import docksort.desktop.parts.Scope.Line;
import docksort.desktop.parts.Searched;
import docksort.desktop.workshop.ProjectView;
import docksort.desktop.workshop.Views;
import docksort.sort.CopyKind;
import docksort.sort.LoadSheet;
import docksort.sort.PlannedCopy;
import docksort.sort.Recipe;
import docksort.sort.SortBook;
import docksort.sort.SortRule;
import docksort.sort.Sorted;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.beans.property.ReadOnlyStringProperty;
import javafx.beans.property.ReadOnlyStringWrapper;
import javafx.beans.property.SimpleStringProperty;
import javafx.beans.property.StringProperty;
import javafx.collections.FXCollections;
import javafx.collections.ObservableList;

/// What the Sort station shows: rules with the clips they caught, a row for each clip, the load sheet.
public final class SortModel {
    private final Choosing choosing;
    private final ObservableList<SortRow> rows = FXCollections.observableArrayList();
    private final ReadOnlyObjectWrapper<Optional<LoadSheet>> sheet = new ReadOnlyObjectWrapper<>(Optional.empty());
    private final ReadOnlyObjectWrapper<List<Group>> groups = new ReadOnlyObjectWrapper<>(List.of());
    private final ReadOnlyStringWrapper number = new ReadOnlyStringWrapper("0");
    private final ReadOnlyStringWrapper line = new ReadOnlyStringWrapper("nothing wanted");
    private final StringProperty scope = new SimpleStringProperty("");
    private final StringProperty filter = new SimpleStringProperty("");
    private final Searched<SortRow> searched = new Searched<>(this::words);
    private ClipNames names = ClipNames.NONE;
    private List<SortRow> all = List.of();
    private SortBook book = SortBook.BUILT_IN;
    private long handles;

    /// One clip and what it gets.
    public record SortRow(Sorted sorted, List<PlannedCopy> copies) {
        public SortRow {
            copies = List.copyOf(copies);
        }

        Clip clip() {
            return sorted.clip();
        }

        long bytes() {
            return copies.stream()
                    .filter(PlannedCopy::isWanted)
                    .mapToLong(c -> c.bytes().likely().bytes())
                    .sum();
        }

        boolean isWanted() {
            return copies.stream().anyMatch(PlannedCopy::isWanted);
        }
    }

    /// A rule in words, and how many clips it caught.
    public record RuleLine(String number, String condition, String outcome, long caught) {}

    /// Sets the recipes of clips by hand, or with nothing leaves them to the rules.
    @FunctionalInterface
    public interface Choosing {
        void choose(List<Clip> clips, Optional<List<Recipe>> recipes);
    }

    public SortModel(Views views, Choosing choosing) {
        this.choosing = choosing;
        views.each(this::take);
        scope.subscribe(_ -> show());
        filter.subscribe(_ -> show());
    }

    private void take(ProjectView view) {
        LoadSheet now = view.sheet();
        book = view.book();
        handles = view.handles();
        names = view.insight().names();
        searched.forget();
        var copies = new HashMap<String, List<PlannedCopy>>();
        now.copies()
                .forEach(copy -> copies.computeIfAbsent(copy.clip().id().value(), _ -> new ArrayList<>())
                        .add(copy));
        all = now.sorted().stream()
                .map(sorted -> new SortRow(
                        sorted, copies.getOrDefault(sorted.clip().id().value(), List.of())))
                .toList();
        sheet.set(Optional.of(now));
        int wanted = now.wanted().size();
        number.set(Integer.toString(wanted));
        line.set(
                wanted == 0 ? "nothing wanted" : "wanted · " + now.bytes().likely() + (now.fits() ? "" : " · no room"));
        groups.set(groups());
        show();
    }

    private List<Group> groups() {
        return List.of(
                new Group(
                        "Wanted",
                        List.of(
                                new Line("", "Everything", all.size()),
                                new Line("wanted", "to be made", count(SortRow::isWanted)),
                                new Line("light", "light", count(row -> has(row, CopyKind.LIGHT))),
                                new Line("full", "full", count(row -> has(row, CopyKind.FULL))),
                                new Line("range", "ranges", count(row -> has(row, CopyKind.RANGE))),
                                new Line("sound", "sound", count(row -> has(row, CopyKind.SOUND))))),
                new Group(
                        "Look at",
                        List.of(
                                new Line(
                                        "hand",
                                        "set by hand",
                                        count(row -> row.sorted().byHand())),
                                new Line(
                                        "left",
                                        "left as it is",
                                        count(row -> row.copies().isEmpty())),
                                new Line("stock", "in stock already", count(SortModel::isInStock)))));
    }

    private static boolean has(SortRow row, CopyKind kind) {
        return row.copies().stream().anyMatch(copy -> copy.recipe().kind() == kind);
    }

    private static boolean isInStock(SortRow row) {
        return row.copies().stream().anyMatch(PlannedCopy::already);
    }

    private long count(Predicate<SortRow> test) {
        return all.stream().filter(test).count();
    }

    /// The clip's name, with its arrival where another has the same.
    String name(SortRow row) {
        return names.of(row.clip());
    }

    private String words(SortRow row) {
        return name(row) + " " + row.sorted().why() + " "
                + row.copies().stream().map(copy -> copy.recipe().label()).collect(Collectors.joining(" "));
    }

    private void show() {
        Filter.Words words = Filter.words(filter.get());
        List<SortRow> wanted = all.stream()
                .filter(row -> switch (scope.get()) {
                    case "wanted" -> row.isWanted();
                    case "light" -> has(row, CopyKind.LIGHT);
                    case "full" -> has(row, CopyKind.FULL);
                    case "range" -> has(row, CopyKind.RANGE);
                    case "sound" -> has(row, CopyKind.SOUND);
                    case "hand" -> row.sorted().byHand();
                    case "left" -> row.copies().isEmpty();
                    case "stock" -> isInStock(row);
                    default -> true;
                })
                .filter(row -> searched.has(row, words))
                .toList();
        Rows.bring(rows, wanted);
    }

    public List<RuleLine> rules() {
        var lines = new ArrayList<RuleLine>();
        for (int i = 0; i < book.rules().size(); i++) {
            SortRule rule = book.rules().get(i);
            int number = i + 1;
            String outcome = rule.make().stream()
                    .map(id -> book.byId(id).map(Recipe::label).orElse(id))
                    .collect(Collectors.joining(" + "));
            lines.add(new RuleLine(
                    Integer.toString(number),
                    rule.sentence(),
                    outcome.isEmpty() ? "left as it is" : outcome,
                    count(row -> row.sorted().rule() == number)));
        }
        lines.add(new RuleLine(
                "",
                "anything else",
                "left as it is",
                count(row -> row.sorted().rule() == 0 && !row.sorted().byHand())));
        return lines;
    }

    public SortBook book() {
        return book;
    }

    public long handles() {
        return handles;
    }

    /// Clips that get a copy now.
    public List<Clip> wantedClips() {
        return all.stream().filter(SortRow::isWanted).map(SortRow::clip).toList();
    }

    public List<Clip> clips(List<ClipId> ids) {
        var wanted = new HashSet<>(ids);
        return all.stream()
                .map(SortRow::clip)
                .filter(clip -> wanted.contains(clip.id()))
                .toList();
    }

    /// Narrows the list to the clips of a warning.
    public void showOnly(List<ClipId> ids) {
        var wanted = new HashSet<>(ids);
        rows.setAll(all.stream().filter(row -> wanted.contains(row.clip().id())).toList());
    }

    public void choose(List<SortRow> chosen, Optional<List<Recipe>> recipes) {
        if (!chosen.isEmpty()) {
            choosing.choose(chosen.stream().map(SortRow::clip).toList(), recipes);
        }
    }

    public ObservableList<SortRow> rows() {
        return rows;
    }

    public ReadOnlyObjectProperty<Optional<LoadSheet>> sheet() {
        return sheet.getReadOnlyProperty();
    }

    public ReadOnlyObjectProperty<List<Group>> groupsProperty() {
        return groups.getReadOnlyProperty();
    }

    public StringProperty scope() {
        return scope;
    }

    /// Words that a row must have.
    public StringProperty filter() {
        return filter;
    }

    public ReadOnlyStringProperty number() {
        return number.getReadOnlyProperty();
    }

    public ReadOnlyStringProperty line() {
        return line.getReadOnlyProperty();
    }
}
