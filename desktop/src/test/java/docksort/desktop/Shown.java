package docksort.desktop;

import docksort.Clips;
import docksort.arrival.Arrival;
import docksort.arrival.ArrivalId;
import docksort.arrival.Clip;
import docksort.arrival.Unreadable;
import docksort.catalogue.CopyState;
import docksort.catalogue.Presence;
import docksort.catalogue.WorkingCopy;
import docksort.desktop.workshop.Insight;
import docksort.desktop.workshop.ProjectView;
import docksort.desktop.workshop.Views;
import docksort.problem.Problem;
import docksort.sort.CopyKind;
import docksort.sort.LoadSheet;
import docksort.sort.Planning;
import docksort.sort.SortBook;
import docksort.stock.Limits;
import docksort.stock.ServingOrder;
import docksort.stock.StockLine;
import docksort.strain.TimelineFormat;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.function.UnaryOperator;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;

/// Views of a project that is made of facts alone, for models: no toolkit, no engine, no catalogue.
public final class Shown implements Views {
    private final ReadOnlyObjectWrapper<Optional<ProjectView>> view = new ReadOnlyObjectWrapper<>(Optional.empty());
    private final List<Consumer<ProjectView>> takers = new ArrayList<>();
    private final List<StockLine> stock = new ArrayList<>();
    private final List<Unreadable> unreadable = new ArrayList<>();
    private UnaryOperator<Planning> planning = plain -> plain;

    public SortBook book = SortBook.BUILT_IN;
    public ServingOrder order = ServingOrder.LIGHT_FIRST;
    public Limits limits = Limits.NONE;
    public ProjectView.Aside aside = ProjectView.Aside.NONE;
    public Insight insight = Insight.NONE;

    @Override
    public ReadOnlyObjectProperty<Optional<ProjectView>> view() {
        return view.getReadOnlyProperty();
    }

    @Override
    public void each(Consumer<ProjectView> taker) {
        takers.add(taker);
        view.get().ifPresent(taker);
    }

    public Clip add(Clip clip, WorkingCopy... copies) {
        return add(clip, Presence.ONLINE, copies);
    }

    public Clip add(Clip clip, Presence presence, WorkingCopy... copies) {
        stock.add(new StockLine(clip, presence, List.of(copies), order.serve(clip, List.of(copies), presence)));
        return clip;
    }

    public void unreadable(String arrival, String name, String why) {
        unreadable.add(new Unreadable(
                new ArrivalId(arrival),
                Path.of("/" + arrival + "/" + name),
                new Problem(name + " cannot be read", why, "It is as it was.", "")));
    }

    public void planned(UnaryOperator<Planning> with) {
        planning = with;
    }

    /// Puts another line in the place of a clip's.
    public void replace(Clip clip, WorkingCopy... copies) {
        int at = clips().indexOf(clip);
        stock.set(
                at,
                new StockLine(
                        clip, Presence.ONLINE, List.of(copies), order.serve(clip, List.of(copies), Presence.ONLINE)));
    }

    public void remove(Clip clip) {
        stock.removeIf(line -> line.clip().equals(clip));
    }

    public List<Clip> clips() {
        return stock.stream().map(StockLine::clip).toList();
    }

    /// Shows what there is now.
    public void show() {
        List<Clip> clips = clips();
        List<Arrival> arrivals = clips.stream()
                .map(Clip::arrival)
                .distinct()
                .map(id -> new Arrival(id, "Arrival " + id.value(), Path.of("/" + id.value()), Instant.EPOCH))
                .toList();
        var shown = new ProjectView(
                "Night Optics",
                TimelineFormat.HD_25,
                arrivals,
                clips,
                unreadable,
                aside,
                0,
                book,
                Clips.AMPLE,
                12,
                LoadSheet.plan(clips, planning.apply(Clips.planning(book))),
                stock,
                order,
                limits,
                List.of(),
                List.of(),
                ProjectView.Turns.NONE,
                insight);
        view.set(Optional.of(shown));
        takers.forEach(taker -> taker.accept(shown));
    }

    /// @param id its last word tells what it is: "-camera" for one that the camera wrote
    public static WorkingCopy copy(Clip clip, String id, CopyKind kind, CopyState state) {
        boolean adopted = id.endsWith("-camera") || id.startsWith("adopted");
        return new WorkingCopy(
                id,
                clip.id(),
                kind,
                adopted ? "" : "recipe",
                "copies",
                Path.of("/copies/" + id + ".mov"),
                state,
                "",
                clip.fingerprint(),
                Optional.empty(),
                state.serves() ? new WorkingCopy.Place(1_000_000, 1, 960, 540, "x", "", "") : WorkingCopy.Place.NOT_YET,
                WorkingCopy.Service.USUAL,
                0);
    }
}
