package docksort.desktop.dispatch;

import docksort.desktop.ScopeList.Group;
import docksort.desktop.ScopeList.Line;
import docksort.desktop.TimelineView;
import docksort.desktop.Workshop;
import docksort.dispatch.TimelineEvent;
import docksort.dispatch.TimelineEvent.Standing;
import java.util.List;
import java.util.Optional;
import java.util.function.Predicate;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.beans.property.ReadOnlyStringProperty;
import javafx.beans.property.ReadOnlyStringWrapper;
import javafx.beans.property.SimpleStringProperty;
import javafx.beans.property.StringProperty;
import javafx.collections.FXCollections;
import javafx.collections.ObservableList;

/// What the Dispatch station shows: the events of the open timeline and what serves each.
public final class DispatchModel {
    private final ObservableList<TimelineEvent> rows = FXCollections.observableArrayList();
    private final StringProperty scope = new SimpleStringProperty("");
    private final ReadOnlyObjectWrapper<List<Group>> groups = new ReadOnlyObjectWrapper<>(List.of());
    private final ReadOnlyStringWrapper number = new ReadOnlyStringWrapper("0");
    private final ReadOnlyStringWrapper line = new ReadOnlyStringWrapper("no timeline open");
    private List<TimelineEvent> all = List.of();

    public DispatchModel(Workshop workshop) {
        workshop.timeline().subscribe(this::take);
        scope.subscribe(_ -> show());
    }

    private void take(Optional<TimelineView> timeline) {
        all = timeline.map(TimelineView::events).orElse(List.of());
        number.set(timeline.isPresent() ? "1" : "0");
        long onCopies = timeline.map(TimelineView::onCopies).orElse(0L);
        line.set(
                timeline.isEmpty()
                        ? "no timeline open"
                        : onCopies == 0 ? "every event on originals" : onCopies + " events on copies");
        groups.set(List.of(new Group(
                "Events",
                List.of(
                        new Line("", "Everything", all.size()),
                        new Line("copies", "on copies", count(TimelineEvent::isOnCopy)),
                        new Line("originals", "on originals", count(e -> e.standing() instanceof Standing.OnOriginal)),
                        new Line("foreign", "not in the project", count(e -> e.standing() instanceof Standing.Foreign)),
                        new Line(
                                "none", "without media", count(e -> e.standing() instanceof Standing.WithoutMedia))))));
        show();
    }

    private long count(Predicate<TimelineEvent> test) {
        return all.stream().filter(test).count();
    }

    private void show() {
        rows.setAll(all.stream()
                .filter(event -> switch (scope.get()) {
                    case "copies" -> event.isOnCopy();
                    case "originals" -> event.standing() instanceof Standing.OnOriginal;
                    case "foreign" -> event.standing() instanceof Standing.Foreign;
                    case "none" -> event.standing() instanceof Standing.WithoutMedia;
                    default -> true;
                })
                .toList());
    }

    public ObservableList<TimelineEvent> rows() {
        return rows;
    }

    public StringProperty scope() {
        return scope;
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
}
