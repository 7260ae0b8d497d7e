package docksort.desktop.dispatch;

import docksort.catalogue.Pin;
import docksort.catalogue.WorkingCopy;
import docksort.desktop.pair.PairPage;
import docksort.desktop.parts.ClipPicture;
import docksort.desktop.parts.Docket;
import docksort.desktop.parts.FileName;
import docksort.desktop.parts.Filter;
import docksort.desktop.parts.Mark;
import docksort.desktop.parts.Parts;
import docksort.desktop.parts.ScopeList;
import docksort.desktop.parts.Station;
import docksort.desktop.parts.TaskFields;
import docksort.desktop.parts.TaskPage;
import docksort.desktop.parts.Thumbnails;
import docksort.desktop.workshop.ProjectView;
import docksort.desktop.workshop.TimelineView;
import docksort.desktop.workshop.Workshop;
import docksort.dispatch.ConformedEvent;
import docksort.dispatch.PinnedUse;
import docksort.dispatch.Standing;
import docksort.media.FrameRange;
import docksort.stock.ServingOrder;
import docksort.stock.StockLine;
import docksort.timeline.MediaPath;
import docksort.timeline.TimelineDocument;
import java.io.File;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.TreeMap;
import java.util.function.Supplier;
import java.util.stream.Collectors;
import javafx.beans.property.SimpleStringProperty;
import javafx.beans.property.StringProperty;
import javafx.collections.ListChangeListener;
import javafx.geometry.Pos;
import javafx.geometry.VPos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.SelectionMode;
import javafx.scene.control.TableView;
import javafx.scene.control.TextField;
import javafx.scene.layout.BorderPane;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.stage.FileChooser;

/// The Dispatch station: which event of a timeline is served by what, switching it, and letting it leave.
public final class DispatchStation implements Station {
    private final Workshop workshop;
    private final Runnable bring;
    private final DispatchModel model;
    private final StringProperty signedBy = new SimpleStringProperty(System.getProperty("user.name", ""));
    private final ScopeList scope = new ScopeList();
    private final TableView<ConformedEvent> table = new TableView<>();
    private final Docket page = new Docket(this::docket);
    private final BorderPane centre = new BorderPane();
    private final Label title = Parts.label("", "strong");
    private final TextField filter = Filter.field("dispatch-filter", "events");
    private final Thumbnails thumbnails;
    private final HBox orders = new HBox();
    private List<Pin> shownPins = List.of();
    private final Node bar;

    /// @param bring shows this station
    public DispatchStation(Workshop workshop, Thumbnails thumbnails, Runnable bring) {
        this.workshop = workshop;
        this.thumbnails = thumbnails;
        this.bring = bring;
        this.model = new DispatchModel(workshop.dispatch().timeline());
        this.bar = bar();
        model.groups().subscribe(scope::show);
        model.scope().bind(scope.chosen());
        model.filter().bind(filter.textProperty());
        centre.getStyleClass().add("centre");
        centre.setCenter(table());
        showList();
        table.getSelectionModel().setSelectionMode(SelectionMode.MULTIPLE);
        table.getSelectionModel().getSelectedItems().addListener((ListChangeListener<ConformedEvent>)
                _ -> page.refresh());
        workshop.dispatch().timeline().subscribe(_ -> show());
        workshop.views().each(view -> {
            if (model.take(view.insight().names())) {
                table.refresh(); // the events themselves are the same
            }
            show();
        });
    }

    private Node bar() {
        Button open = Parts.button("Open timeline…", this::open);
        open.setId("open-timeline");
        orders.setId("orders");
        var serve = new HBox(8, Parts.label("Serve", "quiet"), orders);
        serve.setAlignment(Pos.CENTER_LEFT);
        // Goes on in a second line where text is large.
        var box = new FlowPane(12, 6, title, filter, serve, open);
        box.setRowValignment(VPos.CENTER);
        box.getStyleClass().add("bar");
        return box;
    }

    private void showList() {
        centre.setTop(bar);
        centre.setCenter(table);
    }

    private void showPair(ConformedEvent event, List<WorkingCopy> copies) {
        long first = event.used().map(FrameRange::first).orElse(0L);
        centre.setTop(null);
        centre.setCenter(
                new PairPage(workshop.pairs(), event.clip().orElseThrow(), copies, first, this::showList).node());
    }

    private Button task(String id, String text, Supplier<TaskPage> task) {
        Button button = Parts.button(text, () -> show(task.get()));
        button.setId(id);
        return button;
    }

    private void show(TaskPage task) {
        task.shownBy(() -> {
            bring.run();
            show(task);
        });
        centre.setTop(null);
        centre.setCenter(task.node());
    }

    private void open() {
        var chooser = new FileChooser();
        chooser.setTitle("Open a timeline");
        chooser.getExtensionFilters()
                .add(new FileChooser.ExtensionFilter(
                        "Timelines, edit lists, tables of links",
                        TimelineDocument.ENDINGS.stream()
                                .map(ending -> "*." + ending)
                                .toList()));
        File chosen = chooser.showOpenDialog(table.getScene().getWindow());
        if (chosen != null) {
            workshop.dispatch().open(chosen.toPath());
        }
    }

    private Node table() {
        table.setId("dispatch-table");
        table.setAccessibleText("Events of the timeline");
        table.setItems(model.rows());
        FileName.of(table, DispatchStation::files, List.of());
        table.setPlaceholder(empty());
        table.getColumns()
                .addAll(List.of(
                        Parts.number("", 40, ConformedEvent::number, row -> Integer.toString(row.number())),
                        ClipPicture.column(thumbnails, ConformedEvent::clip, row -> Integer.toString(row.number())),
                        Parts.text(
                                "Track", 48, (ConformedEvent row) -> row.event().track()),
                        Parts.text("Event", 146, model::name, "mono"),
                        Parts.<ConformedEvent>number(
                                "Frames used",
                                94,
                                row -> row.used().map(FrameRange::first).orElse(-1L),
                                row -> row.used()
                                        .map(used -> used.first() + "–" + (used.end() - 1))
                                        .orElse("")),
                        Parts.<ConformedEvent>drawn(
                                "Served by", 118, row -> row.standing().label(), this::servedWord, this::served),
                        Parts.text("File", 118, DispatchStation::fileName, "mono"),
                        Parts.text("To look at", 150, ConformedEvent::inWords)));
        return table;
    }

    private Node empty() {
        return Parts.empty(
                "No timeline is open",
                "Open an OpenTimelineIO file (.otio), a CMX 3600 edit list (.edl) or a table of links (.csv) to see"
                        + " which event is served by what. Drop it on this window, or:",
                Parts.button("Open timeline…", this::open, "main"));
    }

    /// What it leads to, as far as it is the project's.
    private static List<Path> files(ConformedEvent event) {
        return event
                .copy()
                .map(WorkingCopy::file)
                .or(() -> event.clip().map(clip -> clip.source().head()))
                .stream()
                .toList();
    }

    private static String fileName(ConformedEvent event) {
        String address = event.event().media().address();
        return MediaPath.readings(address).stream()
                .findFirst()
                .map(MediaPath::fileName)
                .orElse(address);
    }

    private String servedWord(ConformedEvent event) {
        boolean onTrust = event.copy().filter(WorkingCopy::isOnTrust).isPresent();
        return event.standing().label() + (onTrust ? ", on trust" : "") + (model.isPinned(event) ? ", pinned" : "");
    }

    private Node served(ConformedEvent event) {
        boolean onTrust = event.copy().filter(WorkingCopy::isOnTrust).isPresent();
        String word = servedWord(event);
        if (onTrust) {
            return Parts.marked(Mark.look(), word, "look");
        }
        return switch (event.standing()) {
            case Standing.OnOriginal _ -> Parts.marked(Mark.full(), word);
            case Standing.OnCopy _ -> Parts.marked(Mark.arrow("good"), word);
            case Standing.Doubtful _, Standing.Foreign _ -> Parts.marked(Mark.look(), word, "look");
            case Standing.WithoutMedia _ -> Parts.marked(Mark.dash(), word, "quiet");
        };
    }

    private void show() {
        Optional<TimelineView> timeline = workshop.dispatch().timeline().get();
        title.setText(timeline.map(t -> t.name() + (t.unsaved() ? " · not saved" : ""))
                .orElse(""));
        List<Pin> pins = timeline.map(TimelineView::pins).orElse(List.of());
        if (!pins.equals(shownPins)) {
            shownPins = pins;
            table.refresh(); // the events themselves are the same
        }
        boolean filtered = timeline.filter(view -> !view.events().isEmpty()).isPresent();
        table.setPlaceholder(
                filtered ? Parts.empty("No such events", "Choose Everything, or empty the filter.") : empty());
        ServingOrder now = workshop.views().view().get().map(ProjectView::order).orElse(ServingOrder.LIGHT_FIRST);
        orders.getChildren()
                .setAll(OrderButtons.of(
                        "order-",
                        timeline.flatMap(view -> followed(view, now)),
                        order -> workshop.dispatch().switchTo(order)));
        orders.setDisable(timeline.isEmpty());
        page.refresh();
    }

    /// The order in which the open timeline is served, as far as it can be told.
    private static Optional<ServingOrder> followed(TimelineView view, ServingOrder now) {
        if (view.onCopies() == 0) {
            return Optional.of(ServingOrder.ORIGINALS);
        }
        return Optional.of(now).filter(order -> !order.kinds().isEmpty());
    }

    private List<Node> docket() {
        Optional<TimelineView> timeline = workshop.dispatch().timeline().get();
        List<ConformedEvent> chosen = table.getSelectionModel().getSelectedItems().stream()
                .filter(Objects::nonNull)
                .toList();
        if (timeline.isEmpty()) {
            return List.of(
                    Parts.label("Dispatch", "docket-name"),
                    Parts.wrapped(
                            "A timeline's references are switched to copies for cutting and back to originals"
                                    + " for finishing. Nothing else in it is touched.",
                            "quiet"));
        }
        var nodes = new ArrayList<Node>(timeline(timeline.get()));
        if (chosen.size() == 1) {
            nodes.addAll(event(timeline.get(), chosen.getFirst()));
        } else if (chosen.size() > 1) {
            nodes.addAll(events(timeline.get(), chosen));
        }
        return nodes;
    }

    private List<Node> event(TimelineView view, ConformedEvent event) {
        var nodes = new ArrayList<Node>();
        nodes.add(Parts.section("Event " + event.number() + ", " + event.event().name()));
        nodes.add(served(event));
        event.clip()
                .ifPresent(clip ->
                        nodes.add(Parts.wrapped("Recording " + model.name(clip) + ": " + event.how() + ".", "quiet")));
        event.used()
                .ifPresent(
                        used -> nodes.add(Parts.wrapped("It uses " + used.inWords() + " of the recording.", "quiet")));
        if (event.needsALook()) {
            nodes.add(Parts.wrapped(event.inWords() + ".", "look"));
        }
        for (var candidate : event.candidates()) {
            Button pick = Parts.button(
                    "It is " + model.name(candidate.clip()),
                    () -> workshop.dispatch().say(event.event(), candidate.clip()));
            pick.setId("pick-" + candidate.clip().name());
            nodes.add(pick);
            nodes.add(FileName.of(candidate.clip().source().head()));
        }
        nodes.add(Parts.wrapped(
                event.event().media().address().isEmpty()
                        ? "no reference"
                        : event.event().media().address(),
                "mono"));
        List<WorkingCopy> visible = event.line().map(StockLine::copiesToSee).orElse(List.of());
        if (!visible.isEmpty()) {
            Button pair = Parts.button("See original and copy…", () -> showPair(event, visible));
            pair.setId("open-pair");
            nodes.add(pair);
        }
        event.clip().ifPresent(clip -> nodes.addAll(pins(view, event)));
        return nodes;
    }

    private List<Node> events(TimelineView view, List<ConformedEvent> events) {
        var nodes = new ArrayList<Node>();
        nodes.add(Parts.section(events.size() + " events"));
        events.stream()
                .collect(Collectors.groupingBy(event -> event.standing().label(), TreeMap::new, Collectors.counting()))
                .forEach((label, count) -> nodes.add(Parts.fact(label, count.toString())));
        List<PinnedUse> uses = events.stream()
                .filter(event -> event.used().isPresent())
                .flatMap(event -> event.clip().stream().map(clip -> new PinnedUse(clip, event.used())))
                .distinct()
                .toList();
        List<PinnedUse> clips = events.stream()
                .flatMap(event -> event.clip().stream())
                .distinct()
                .map(clip -> new PinnedUse(clip, Optional.empty()))
                .toList();
        List<PinnedUse> pinned = events.stream()
                .flatMap(event -> view.pinOf(event).stream()
                        .map(pin -> new PinnedUse(event.clip().orElseThrow(), pin.frames())))
                .distinct()
                .toList();
        if (clips.isEmpty()) {
            nodes.add(Parts.wrapped("None of them has a recording that is known for certain.", "quiet"));
            return nodes;
        }
        nodes.add(Parts.wrapped(
                "Pin what serves them, whatever the order says. Originals for finishing are not turned by a pin.",
                "quiet"));
        nodes.add(pinLine("these uses", "pin-uses-", Optional.empty(), uses));
        nodes.add(pinLine("their clips", "pin-clips-", Optional.empty(), clips));
        if (!pinned.isEmpty()) {
            Button away = Parts.button(
                    pinned.size() == 1 ? "Take the pin away" : "Take " + pinned.size() + " pins away",
                    () -> workshop.dispatch().pin(pinned, Optional.empty()));
            away.setId("pins-away");
            nodes.add(away);
        }
        return nodes;
    }

    private List<Node> pins(TimelineView view, ConformedEvent event) {
        var clip = event.clip().orElseThrow();
        Optional<FrameRange> frames = view.pinOf(event).map(pin -> pin.frames()).orElse(event.used());
        var nodes = new ArrayList<Node>();
        nodes.add(Parts.wrapped(
                "Pin what serves it, whatever the order says. Originals for finishing are not turned by a pin.",
                "quiet"));
        Optional<FrameRange> use = frames.isPresent() ? frames : event.used();
        nodes.add(pinLine("this use", "pin-use-", pinned(view, event, use), List.of(new PinnedUse(clip, use))));
        nodes.add(pinLine(
                "the clip",
                "pin-clip-",
                pinned(view, event, Optional.empty()),
                List.of(new PinnedUse(clip, Optional.empty()))));
        if (view.pinOf(event).isPresent()) {
            Button away = Parts.button(
                    "Take the pin away",
                    () -> workshop.dispatch()
                            .pin(
                                    List.of(new PinnedUse(
                                            clip,
                                            view.pinOf(event).orElseThrow().frames())),
                                    Optional.empty()));
            away.setId("pin-away");
            nodes.add(away);
        }
        return nodes;
    }

    private static Optional<ServingOrder> pinned(TimelineView view, ConformedEvent event, Optional<FrameRange> frames) {
        return view.pinOf(event)
                .filter(pin -> pin.frames().equals(frames))
                .flatMap(pin -> ServingOrder.named(pin.order()));
    }

    private Node pinLine(String words, String id, Optional<ServingOrder> now, List<PinnedUse> uses) {
        var box = new FlowPane(0, 2, Parts.label(words + "  ", "quiet"));
        box.getChildren()
                .addAll(OrderButtons.of(id, now, order -> workshop.dispatch().pin(uses, Optional.of(order))));
        return box;
    }

    private List<Node> timeline(TimelineView view) {
        long copies = view.onCopies();
        Button save = Parts.button("Save", () -> workshop.dispatch().save(view.file()), "main");
        save.setId("save-timeline");
        save.setDisable(!view.unsaved());
        Button saveAs = Parts.button("Save as…", () -> saveAs(view.file()));
        Button back = Parts.button("Take back the switch", workshop.dispatch()::takeBackSwitch);
        back.setDisable(!view.canTakeBack());
        var nodes = new ArrayList<Node>();
        nodes.add(Parts.wrapped(view.name(), "docket-name"));
        nodes.add(
                copies == 0
                        ? Parts.marked(Mark.full(), "every event is on its original")
                        : Parts.marked(
                                Mark.look(), copies + " of " + view.events().size() + " events are on copies", "look"));
        nodes.add(Parts.wrapped(
                copies == 0
                        ? "Nothing in it is served by a copy."
                        : "For cutting. Serve originals before it leaves for finishing.",
                "quiet"));
        long looks = ConformedEvent.filesWithLook(view.events());
        if (looks > 0) {
            String serve = looks == 1 ? "1 copy that serves has" : looks + " copies that serve have";
            nodes.add(Parts.wrapped(serve + " a look baked in: the originals have other colours.", "look"));
        }
        if (view.notKnown() > 0) {
            nodes.add(Parts.marked(Mark.look(), view.notKnown() + " events are not known for certain", "look"));
        }
        view.news()
                .filter(news -> !news.changes().isEmpty())
                .ifPresent(news -> nodes.add(Parts.wrapped(
                        "Another program has written it since: " + VersionsModel.inWords(news) + ".", "look")));
        nodes.add(new HBox(8, save, saveAs));
        if (view.canTakeBack()) {
            nodes.add(back);
        }
        nodes.add(Parts.wrapped(view.unsaved() ? "Not saved yet." : "Saved as it stands.", "quiet"));
        nodes.add(FileName.of(view.file()));
        nodes.add(Parts.section("Before it leaves"));
        var buttons = new FlowPane(8, 8);
        buttons.getChildren()
                .addAll(
                        task(
                                "open-departure",
                                "Departure check…",
                                () -> DeparturePage.of(workshop.dispatch(), signedBy, this::showList)),
                        task("open-pull", "Pull list…", () -> PullPage.of(workshop.dispatch(), this::showList)),
                        task("open-compare", "Compare…", () -> VersionsPage.of(workshop.dispatch(), this::showList)),
                        task("open-lists", "Edit list…", () -> EditListsPage.of(workshop.dispatch(), this::showList)),
                        task(
                                "open-workstations",
                                "Workstations…",
                                () -> WorkstationsPage.of(workshop.dispatch(), workshop.views(), this::showList)));
        nodes.add(buttons);
        return nodes;
    }

    private void saveAs(Path file) {
        TaskFields.save("Save the timeline as", String.valueOf(file.getFileName()))
                .ifPresent(workshop.dispatch()::save);
    }

    @Override
    public void findFocus() {
        filter.requestFocus();
    }

    @Override
    public Face face() {
        return new Face("Dispatch", scope, table, centre, page, model.number(), model.line());
    }
}
