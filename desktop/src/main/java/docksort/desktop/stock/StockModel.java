package docksort.desktop.stock;

import docksort.arrival.ClipNames;
import docksort.catalogue.WorkingCopy;
import docksort.desktop.parts.Filter;
import docksort.desktop.parts.Rows;
import docksort.desktop.parts.Scope.Group;
import docksort.desktop.parts.Scope.Line;
import docksort.desktop.parts.Searched;
import docksort.desktop.parts.Typed;
import docksort.desktop.workshop.ProjectView;
import docksort.desktop.workshop.Views;
import docksort.media.ByteSize;
import docksort.sort.CopyKind;
import docksort.stock.Coverage;
import docksort.stock.Limits;
import docksort.stock.Served;
import docksort.stock.StockLine;
import java.time.Instant;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.beans.property.ReadOnlyStringProperty;
import javafx.beans.property.ReadOnlyStringWrapper;
import javafx.beans.property.SimpleStringProperty;
import javafx.beans.property.StringProperty;
import javafx.collections.FXCollections;
import javafx.collections.ObservableList;

/// What the Stock station shows: every clip with its copies and what serves it.
public final class StockModel {
    private final ObservableList<StockLine> rows = FXCollections.observableArrayList();
    private final StringProperty scope = new SimpleStringProperty("");
    private final ReadOnlyObjectWrapper<List<Group>> groups = new ReadOnlyObjectWrapper<>(List.of());
    private final ReadOnlyStringWrapper number = new ReadOnlyStringWrapper("0");
    private final ReadOnlyStringWrapper line = new ReadOnlyStringWrapper("no copies yet");
    private List<StockLine> all = List.of();
    private Coverage coverage = new Coverage(List.of());
    private Limits limits = Limits.NONE;
    private Set<WorkingCopy> past = Set.of();
    private final StringProperty filter = new SimpleStringProperty("");
    private final Searched<StockLine> searched = new Searched<>(this::words);
    private ClipNames names = ClipNames.NONE;

    public StockModel(Views views) {
        views.each(this::take);
        scope.subscribe(_ -> show());
        filter.subscribe(_ -> show());
    }

    private void take(ProjectView view) {
        all = view.stock();
        coverage = Coverage.of(all);
        limits = view.limits();
        names = view.insight().names();
        searched.forget();
        past = limits.isNone() ? Set.of() : Set.copyOf(limits.past(all, Instant.now()));
        List<WorkingCopy> copies =
                all.stream().flatMap(stock -> stock.copies().stream()).toList();
        long ready = copies.stream().filter(WorkingCopy::mayServe).count();
        long look = copies.stream().filter(StockModel::needsLook).count();
        long away = count(stock -> !stock.presence().isOnline());
        number.set(Long.toString(ready));
        line.set(
                copies.isEmpty() && away == 0
                        ? "no copies yet"
                        : "ready" + (look > 0 ? ", " + look + (look == 1 ? " needs a look" : " need a look") : "")
                                + (away > 0 ? ", " + away + (away == 1 ? " original away" : " originals away") : "")
                                + (past.isEmpty() ? "" : ", " + past.size() + " past the limits"));
        groups.set(List.of(
                new Group(
                        "Served by",
                        List.of(
                                new Line("", "Everything", all.size()),
                                new Line("light", "light", count(stock -> isServedBy(stock, CopyKind.LIGHT))),
                                new Line("full", "full", count(stock -> isServedBy(stock, CopyKind.FULL))),
                                new Line(
                                        "original",
                                        "original",
                                        count(stock -> stock.served() instanceof Served.ByOriginal)))),
                new Group(
                        "Look at",
                        List.of(
                                new Line("look", "copies with a fault", count(StockModel::hasFault)),
                                new Line("away", "originals away", away),
                                new Line("camera", "made elsewhere", count(StockModel::hasAdopted)),
                                new Line("past", "past the limits", count(this::isPast)))),
                new Group(
                        "Coverage",
                        List.of(
                                new Line(
                                        "no-light",
                                        "without a light copy",
                                        coverage.lacking(CopyKind.LIGHT).size()),
                                new Line(
                                        "no-full",
                                        "without a full copy",
                                        coverage.lacking(CopyKind.FULL).size()),
                                new Line("unused", "made, not used", rows(Coverage.Row::hasUnused)),
                                new Line(
                                        "odd",
                                        "unlike its camera's",
                                        rows(row -> !row.oddities().isEmpty()))))));
        show();
    }

    private static boolean needsLook(WorkingCopy copy) {
        return copy.awaitsAcceptance()
                || (!copy.state().serves() && !copy.state().isQueued());
    }

    private static boolean hasFault(StockLine stock) {
        return stock.copies().stream().anyMatch(StockModel::needsLook);
    }

    private static boolean hasAdopted(StockLine stock) {
        return stock.copies().stream().anyMatch(WorkingCopy::isAdopted);
    }

    private boolean isPast(StockLine stock) {
        return stock.copies().stream().anyMatch(past::contains);
    }

    /// How much room copies take, and how that stands to the limits.
    String room() {
        List<WorkingCopy> copies = all.stream()
                .flatMap(stock -> stock.copies().stream())
                .filter(copy -> copy.place().bytes() > 0)
                .toList();
        String all = copies.size() + " copies take " + bytes(copies) + ". ";
        if (limits.isNone()) {
            return all + "There are no limits; Clean up… sets them.";
        }
        String over = past.isEmpty() ? "None is past that." : past.size() + " of " + bytes(past) + " are past that.";
        return all + "Limits: " + limits.label() + ". " + over;
    }

    private static ByteSize bytes(Collection<WorkingCopy> copies) {
        return new ByteSize(
                copies.stream().mapToLong(copy -> copy.place().bytes()).sum());
    }

    int pastLimits() {
        return past.size();
    }

    private static boolean isServedBy(StockLine stock, CopyKind kind) {
        return stock.served() instanceof Served.ByCopy copy && copy.kind() == kind;
    }

    private long count(Predicate<StockLine> test) {
        return all.stream().filter(test).count();
    }

    private long rows(Predicate<Coverage.Row> test) {
        return coverage.rows().stream().filter(test).count();
    }

    /// In what a clip's copies differ from those of its camera's rest.
    List<String> oddities(StockLine stock) {
        return coverage.rows().stream()
                .filter(row -> row.line().clip().id().equals(stock.clip().id()))
                .findFirst()
                .map(Coverage.Row::oddities)
                .orElse(List.of());
    }

    /// The clip's name, with its arrival where another has the same.
    String name(StockLine line) {
        return names.of(line.clip());
    }

    private String words(StockLine line) {
        return name(line) + " " + line.presence().state().label() + " "
                + line.served().label() + " " + line.served().file().getFileName() + " "
                + line.copies().stream()
                        .map(copy -> copy.kind().label() + " " + copy.state().label())
                        .collect(Collectors.joining(" "));
    }

    private List<StockLine> filtered(Stream<StockLine> lines) {
        Filter.Words words = Filter.words(filter.get());
        return lines.filter(line -> searched.has(line, words)).toList();
    }

    private void show() {
        Optional<Predicate<Coverage.Row>> byCoverage = switch (scope.get()) {
            case "no-light" -> Optional.of(row -> !row.has(CopyKind.LIGHT));
            case "no-full" -> Optional.of(row -> !row.has(CopyKind.FULL));
            case "unused" -> Optional.of(Coverage.Row::hasUnused);
            case "odd" -> Optional.of(row -> !row.oddities().isEmpty());
            default -> Optional.empty();
        };
        if (byCoverage.isPresent()) {
            Rows.bring(
                    rows,
                    filtered(coverage.rows().stream().filter(byCoverage.get()).map(Coverage.Row::line)));
            return;
        }
        List<StockLine> wanted = filtered(all.stream().filter(stock -> switch (scope.get()) {
            case "light" -> isServedBy(stock, CopyKind.LIGHT);
            case "full" -> isServedBy(stock, CopyKind.FULL);
            case "original" -> stock.served() instanceof Served.ByOriginal;
            case "look" -> hasFault(stock);
            case "away" -> !stock.presence().isOnline();
            case "camera" -> hasAdopted(stock);
            case "past" -> isPast(stock);
            default -> true;
        }));
        Rows.bring(rows, wanted);
    }

    static Optional<WorkingCopy> copy(StockLine stock, CopyKind kind) {
        return stock.copies().stream().filter(copy -> copy.kind() == kind).findFirst();
    }

    public ObservableList<StockLine> rows() {
        return rows;
    }

    public StringProperty scope() {
        return scope;
    }

    /// Words that a row must have.
    public StringProperty filter() {
        return filter;
    }

    public ReadOnlyObjectProperty<List<Group>> groups() {
        return groups.getReadOnlyProperty();
    }

    public ReadOnlyStringProperty number() {
        return number.getReadOnlyProperty();
    }

    public ReadOnlyStringProperty line() {
        return line.getReadOnlyProperty();
    }

    static Optional<String> linesFault(String typed) {
        return typed.isBlank() ? Optional.empty() : Typed.wholeNumber(typed, 0, 65_536);
    }

    /// Nothing written is 0, for the largest.
    static int lines(String typed) {
        return typed.isBlank() ? 0 : Integer.parseInt(typed.strip());
    }
}
