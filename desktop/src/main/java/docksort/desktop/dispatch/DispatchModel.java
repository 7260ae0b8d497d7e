package docksort.desktop.dispatch;

import docksort.arrival.Clip;
import docksort.arrival.ClipNames;
import docksort.desktop.parts.Filter;
import docksort.desktop.parts.Rows;
import docksort.desktop.parts.Scope.Group;
import docksort.desktop.parts.Scope.Line;
import docksort.desktop.parts.Searched;
import docksort.desktop.workshop.TimelineView;
import docksort.dispatch.ConformedEvent;
import docksort.dispatch.Standing;
import java.util.List;
import java.util.Optional;
import java.util.function.Predicate;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.beans.property.ReadOnlyStringProperty;
import javafx.beans.property.ReadOnlyStringWrapper;
import javafx.beans.property.SimpleStringProperty;
import javafx.beans.property.StringProperty;
import javafx.beans.value.ObservableValue;
import javafx.collections.FXCollections;
import javafx.collections.ObservableList;

/// What the Dispatch station shows: the events of the open timeline and what serves each.
public final class DispatchModel {
    private final ObservableList<ConformedEvent> rows = FXCollections.observableArrayList();
    private final StringProperty scope = new SimpleStringProperty("");
    private final StringProperty filter = new SimpleStringProperty("");
    private final ReadOnlyObjectWrapper<List<Group>> groups = new ReadOnlyObjectWrapper<>(List.of());
    private final ReadOnlyStringWrapper number = new ReadOnlyStringWrapper("0");
    private final ReadOnlyStringWrapper line = new ReadOnlyStringWrapper("no timeline open");
    private Optional<TimelineView> timeline = Optional.empty();
    private final Searched<ConformedEvent> searched = new Searched<>(this::text);
    private ClipNames names = ClipNames.NONE;

    /// @param shown the open timeline
    public DispatchModel(ObservableValue<Optional<TimelineView>> shown) {
        shown.subscribe(this::take);
        scope.subscribe(_ -> show());
        filter.subscribe(_ -> show());
    }

    private void take(Optional<TimelineView> shown) {
        timeline = shown;
        searched.forget();
        long look = count(ConformedEvent::needsALook);
        long onCopies = shown.map(TimelineView::onCopies).orElse(0L);
        number.set(shown.map(view -> Integer.toString(view.events().size())).orElse("0"));
        line.set(
                shown.isEmpty() ? "no timeline open" : where(onCopies) + (look > 0 ? ", " + look + " to look at" : ""));
        groups.set(List.of(new Group(
                "Events",
                List.of(
                        new Line("", "Everything", count(_ -> true)),
                        new Line("look", "to look at", look),
                        new Line("copies", "on copies", onCopies),
                        new Line("originals", "on originals", count(e -> e.standing() instanceof Standing.OnOriginal)),
                        new Line("pinned", "pinned", count(this::isPinned)),
                        new Line("doubtful", "doubtful", count(e -> e.standing() instanceof Standing.Doubtful)),
                        new Line("foreign", "not in the project", count(e -> e.standing() instanceof Standing.Foreign)),
                        new Line(
                                "none", "without media", count(e -> e.standing() instanceof Standing.WithoutMedia))))));
        show();
    }

    private String where(long onCopies) {
        boolean allKnown = all().stream()
                .noneMatch(event ->
                        event.standing() instanceof Standing.Foreign || event.standing() instanceof Standing.Doubtful);
        if (onCopies == 0) {
            return allKnown ? "every event on its original" : "no event on a copy";
        }
        return onCopies == 1 ? "1 event on a copy" : onCopies + " events on copies";
    }

    boolean isPinned(ConformedEvent event) {
        return timeline.flatMap(view -> view.pinOf(event)).isPresent();
    }

    private List<ConformedEvent> all() {
        return timeline.map(TimelineView::events).orElse(List.of());
    }

    private long count(Predicate<ConformedEvent> test) {
        return all().stream().filter(test).count();
    }

    private void show() {
        Filter.Words wanted = Filter.words(filter.get());
        Rows.bring(
                rows,
                all().stream()
                        .filter(event -> switch (scope.get()) {
                            case "look" -> event.needsALook();
                            case "copies" -> event.isOnCopy();
                            case "originals" -> event.standing() instanceof Standing.OnOriginal;
                            case "pinned" -> isPinned(event);
                            case "doubtful" -> event.standing() instanceof Standing.Doubtful;
                            case "foreign" -> event.standing() instanceof Standing.Foreign;
                            case "none" -> event.standing() instanceof Standing.WithoutMedia;
                            default -> true;
                        })
                        .filter(event -> searched.has(event, wanted))
                        .toList());
    }

    private String text(ConformedEvent event) {
        return String.join(
                " ",
                event.event().track(),
                event.event().name(),
                event.clip().map(names::of).orElse(""),
                event.event().media().address(),
                event.standing().label(),
                event.inWords());
    }

    /// Which clips have the names of others, too.
    ///
    /// @return whether that is otherwise than before
    boolean take(ClipNames now) {
        if (now.equals(names)) {
            return false;
        }
        names = now;
        searched.forget();
        show();
        return true;
    }

    /// The event's name, with the arrival of its recording where another has the same name.
    String name(ConformedEvent event) {
        return event.clip()
                .map(clip -> names.of(clip.id(), event.event().name()))
                .orElse(event.event().name());
    }

    String name(Clip clip) {
        return names.of(clip);
    }

    public ObservableList<ConformedEvent> rows() {
        return rows;
    }

    public StringProperty scope() {
        return scope;
    }

    /// Words that a row must have somewhere.
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
}
