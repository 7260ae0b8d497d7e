package docksort.desktop.dispatch;

import docksort.catalogue.Root;
import docksort.desktop.parts.Parts;
import docksort.desktop.parts.TaskPage;
import docksort.desktop.parts.TaskPage.Line;
import docksort.desktop.parts.TaskPage.Standing;
import docksort.desktop.parts.Typed;
import docksort.desktop.workshop.DispatchDesk;
import docksort.desktop.workshop.TimelineView;
import docksort.desktop.workshop.Workshop;
import docksort.dispatch.DepartureCheck;
import docksort.dispatch.DepartureCheck.Condition;
import docksort.dispatch.DepartureCheck.Finding;
import docksort.dispatch.DepartureCheck.Purpose;
import docksort.dispatch.DepartureReport;
import docksort.dispatch.Places;
import docksort.dispatch.PullList;
import docksort.dispatch.TimelineComparison;
import docksort.media.ByteSize;
import docksort.media.Raster;
import java.io.File;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ChoiceBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.stage.DirectoryChooser;
import javafx.stage.FileChooser;
import javafx.util.StringConverter;

/// The tasks of the Dispatch station: the departure check, pull lists, comparing versions, edit lists, and
/// where other workstations see the roots.
final class DispatchTasks {
    private static final String THIS_ONE = "this workstation";

    private final Workshop workshop;
    private final Runnable back;
    private String signedBy = System.getProperty("user.name", "");

    /// @param back shows the list again
    DispatchTasks(Workshop workshop, Runnable back) {
        this.workshop = workshop;
        this.back = back;
    }

    private DispatchDesk desk() {
        return workshop.dispatch();
    }

    private Optional<TimelineView> timeline() {
        return desk().timeline().get();
    }

    // Departure

    TaskPage departure() {
        var purpose = choice("departure-purpose", "What it leaves for", List.of(Purpose.values()), Purpose::label);
        var sums = new CheckBox("with checksums");
        sums.setId("departure-sums");
        sums.setSelected(true);
        sums.setTooltip(new javafx.scene.control.Tooltip("Reads every file whole, which takes a while for large ones"));
        TextField delivery = field("departure-delivery", "Raster of the delivery, such as 1920x1080", 9);
        delivery.setPromptText("say it once");
        timeline()
                .flatMap(TimelineView::delivery)
                .ifPresent(raster -> delivery.setText(raster.width() + "x" + raster.height()));
        delivery.setOnAction(_ -> raster(delivery.getText()).ifPresent(desk()::deliver));
        var task = new TaskPage[1];
        Button check = Parts.button(
                "Check",
                () -> {
                    if (Typed.raster(delivery.getText()).isPresent()) {
                        return; // told below the field
                    }
                    raster(delivery.getText())
                            .filter(wanted -> timeline()
                                    .filter(view -> view.delivery().equals(Optional.of(wanted)))
                                    .isEmpty())
                            .ifPresent(desk()::deliver);
                    task[0].follow(desk().check(purpose.getValue(), sums.isSelected(), found -> show(task[0], found)));
                },
                "main");
        check.setId("departure-check");
        var inputs = row(
                Parts.label("For", "quiet"),
                purpose,
                Parts.label("delivered in", "quiet"),
                Parts.checked(delivery, Typed::raster),
                sums,
                check);
        task[0] = new TaskPage(
                "departure",
                "Departure check",
                "Looks at the timeline and at every file it leads to as they are now. A timeline for finishing leaves"
                        + " on originals or not at all, unless somebody lets it go by name and reason. One for a review"
                        + " may be on copies, and says so.",
                TaskPage.columns("What", "Event", "What holds, or was found", 130, 130, 360),
                "Choose what it leaves for, and check.",
                inputs,
                back);
        return task[0];
    }

    private static Optional<Raster> raster(String text) {
        return text.isBlank() || Typed.raster(text).isPresent() ? Optional.empty() : Optional.of(Raster.parse(text));
    }

    private void show(TaskPage task, DepartureCheck check) {
        var lines = new ArrayList<Line>();
        for (Condition condition : Condition.values()) {
            if (!check.failed(condition)) {
                lines.add(new Line(Standing.GOOD, "holds", condition.title(), "", condition.label()));
            }
            check.findings().stream()
                    .filter(finding -> finding.condition() == condition && finding.blocks())
                    .forEach(finding -> lines.add(line(finding, Standing.STOP, "blocks")));
        }
        check.findings().stream()
                .filter(finding -> !finding.blocks())
                .forEach(finding -> lines.add(line(finding, Standing.PLAIN, "remark")));
        long blocking = check.findings().stream().filter(Finding::blocks).count();
        String words = !check.complete()
                ? "The check was not finished"
                : blocking == 0
                        ? "It may leave: " + check.events() + " events, "
                                + check.files().size() + " files"
                        : "It does not leave: "
                                + (blocking == 1
                                        ? "1 thing is not as it must be"
                                        : blocking + " things are not as they must be");
        task.show(words, lines, check.complete() ? List.of(letGo(task, check)) : List.of());
    }

    private static Line line(Finding finding, Standing standing, String word) {
        String event = finding.event() == 0 ? finding.subject() : finding.event() + "  " + finding.subject();
        return new Line(standing, word, finding.condition().title(), event, finding.words());
    }

    private Node letGo(TaskPage task, DepartureCheck check) {
        TextField name = field("departure-name", "Signed by", 10);
        name.setText(signedBy);
        name.textProperty().subscribe(text -> signedBy = text);
        TextField reason = field("departure-reason", "Why it leaves all the same", 20);
        List<String> stations = new ArrayList<>(List.of(THIS_ONE));
        timeline().ifPresent(view -> stations.addAll(view.workstations()));
        var station = choice("departure-workstation", "For which workstation it is written", stations, text -> text);
        Button leave = Parts.button(
                check.passes() ? "Let it leave…" : "Let it go by name and reason…",
                () -> target().ifPresent(target -> desk().depart(
                                check,
                                target,
                                Optional.of(station.getValue()).filter(text -> !text.equals(THIS_ONE)),
                                name.getText(),
                                Optional.of(reason.getText().strip()).filter(text -> !text.isEmpty()),
                                report -> left(task, report))),
                "main");
        leave.setId("departure-leave");
        leave.disableProperty()
                .bind(name.textProperty()
                        .isEmpty()
                        .or(reason.textProperty()
                                .isEmpty()
                                .and(new javafx.beans.property.SimpleBooleanProperty(!check.passes()))));
        var box = new FlowPane(8, 8, Parts.label("signed by"), name);
        if (!check.passes()) {
            box.getChildren().addAll(Parts.label("because"), reason);
        }
        if (stations.size() > 1) {
            box.getChildren().addAll(Parts.label("for"), station);
        }
        box.getChildren().add(leave);
        HBox.setHgrow(box, Priority.ALWAYS);
        return box;
    }

    private Optional<Path> target() {
        var chooser = new FileChooser();
        chooser.setTitle("Where the timeline leaves to");
        timeline()
                .ifPresent(view ->
                        chooser.setInitialFileName(String.valueOf(view.file().getFileName())));
        return Optional.ofNullable(chooser.showSaveDialog(window())).map(File::toPath);
    }

    private void left(TaskPage task, DepartureReport report) {
        task.show(
                "It left: " + report.result() + ", signed by " + report.signedBy(),
                List.of(
                        new Line(
                                Standing.GOOD,
                                "written",
                                "Timeline",
                                "",
                                report.timeline().toString()),
                        new Line(Standing.GOOD, "written", "Report", "", report.timeline() + ".departure.html"),
                        new Line(
                                Standing.GOOD, "written", "Report as JSON", "", report.timeline() + ".departure.json")),
                List.of());
    }

    // Pulling

    TaskPage pull() {
        var what = choice("pull-what", "What is pulled", List.of(PullList.What.values()), PullList.What::label);
        var task = new TaskPage[1];
        Button look = Parts.button("List", () -> desk().pullList(what.getValue(), list -> show(task[0], list)), "main");
        look.setId("pull-list");
        what.valueProperty().subscribe((_, _) -> desk().pullList(what.getValue(), list -> show(task[0], list)));
        task[0] = new TaskPage(
                "pull",
                "Pull list",
                "Only the files that this timeline needs: originals for finishing, or the copies it is on for an"
                        + " editor elsewhere. Packed into a folder they come with the timeline, a list and their"
                        + " checksums, and open there by relative paths.",
                TaskPage.columns("Recording", "File", "Used", 134, 220, 270),
                "Choose what to pull, and list.",
                row(Parts.label("Pull"), what, look),
                back);
        return task[0];
    }

    private void show(TaskPage task, PullList list) {
        var lines = new ArrayList<Line>();
        list.left().forEach(words -> lines.add(new Line(Standing.LOOK, "left out", words, "", "")));
        for (PullList.Line line : list.lines()) {
            String used = line.ranges().stream()
                    .map(range -> range.first() + "–" + (range.end() - 1))
                    .collect(Collectors.joining(", "));
            lines.add(new Line(
                    Standing.GOOD,
                    "pulled",
                    line.clip().name(),
                    line.place().toString(),
                    new ByteSize(line.bytes())
                            + (used.isEmpty()
                                    ? ""
                                    : "; frames " + used + " are about " + new ByteSize(line.rangeBytes()))));
        }
        Button write = Parts.button(
                "Write the list…",
                () -> save("pull list.csv", "*.csv")
                        .ifPresent(target -> desk().writePullList(
                                        list, target, done -> task.show("Written: " + done, lines, List.of()))));
        write.setDisable(list.lines().isEmpty());
        Button pack = Parts.button(
                "Pack into a folder…",
                () -> folder().ifPresent(place -> task.follow(desk().pack(
                                list,
                                place,
                                parcel -> task.show(
                                        "Packed: " + parcel.files() + " files, " + new ByteSize(parcel.bytes())
                                                + ", in " + parcel.folder(),
                                        lines,
                                        List.of())))),
                "main");
        pack.setId("pull-pack");
        pack.setDisable(list.lines().isEmpty());
        task.show(
                list.files() + " files of " + list.lines().size() + " recordings, " + new ByteSize(list.bytes())
                        + "; the frames used of them are about " + new ByteSize(list.rangeBytes())
                        + (list.left().isEmpty() ? "" : "; " + list.left().size() + " events are left out"),
                lines,
                List.of(pack, write));
    }

    // Comparing

    TaskPage compare() {
        var task = new TaskPage[1];
        Button choose = Parts.button(
                "Choose the older version…",
                () -> {
                    var chooser = new FileChooser();
                    chooser.setTitle("The older version");
                    Optional.ofNullable(chooser.showOpenDialog(window()))
                            .ifPresent(file -> compareWith(task[0], file.toPath()));
                },
                "main");
        choose.setId("compare-choose");
        task[0] = new TaskPage(
                "compare",
                "Compare versions",
                "What is otherwise in the open timeline than in an older version: uses of recordings that were added,"
                        + " extended, shortened, dropped or put in the place of others.",
                TaskPage.columns("Event", "Track", "What", 190, 80, 355),
                "Choose the older version.",
                row(choose),
                back);
        timeline().flatMap(TimelineView::news).ifPresent(news -> show(task[0], news));
        return task[0];
    }

    void compareWith(TaskPage task, Path older) {
        task.follow(desk().compare(older, comparison -> show(task, comparison)));
    }

    private static void show(TaskPage task, TimelineComparison comparison) {
        task.show(
                inWords(comparison),
                comparison.changes().stream()
                        .map(change -> new Line(
                                change.kind() == TimelineComparison.Kind.SHORTENED ? Standing.PLAIN : Standing.LOOK,
                                change.kind().label(),
                                change.event().number() + "  " + change.event().name(),
                                change.event().track(),
                                change.words()))
                        .toList(),
                List.of());
    }

    static String inWords(TimelineComparison comparison) {
        String changes = Arrays.stream(TimelineComparison.Kind.values())
                .filter(kind -> comparison.count(kind) > 0)
                .map(kind -> comparison.count(kind) + " " + kind.label())
                .collect(Collectors.joining(", "));
        return (changes.isEmpty() ? "nothing is otherwise" : changes) + "; " + comparison.same() + " the same";
    }

    // Edit lists

    TaskPage editLists() {
        var task = new TaskPage(
                "lists",
                "Edit lists",
                "Each track of picture as a CMX 3600 edit list, for programs that read nothing else: cuts, dissolves"
                        + " and speeds, with reels, names and files. The timeline itself stays as it is.",
                TaskPage.columns("Track", "", "", 400, 110, 110),
                "Reading the timeline.",
                row(),
                back);
        desk().tracks(tracks -> task.show(
                tracks.size() + (tracks.size() == 1 ? " track of picture" : " tracks of picture"),
                tracks.stream()
                        .map(track -> new Line(Standing.PLAIN, "track", track, "", ""))
                        .toList(),
                tracks.stream()
                        .map(track -> Parts.button(
                                "Write " + track + "…",
                                () -> save(track + ".edl", "*.edl")
                                        .ifPresent(target -> desk().writeEditList(
                                                        track, target, left -> written(task, target, left)))))
                        .toList()));
        return task;
    }

    private static void written(TaskPage task, Path target, List<String> left) {
        task.show(
                "Written: " + target + (left.isEmpty() ? "" : "; " + left.size() + " events are left out"),
                left.stream()
                        .map(words -> new Line(Standing.LOOK, "left out", words, "", ""))
                        .toList(),
                List.of());
    }

    // Workstations

    TaskPage workstations() {
        List<Root> roots = workshop.views().view().get().stream()
                .flatMap(view -> view.roots().stream())
                .toList();
        var root = choice("workstation-root", "Root", roots, Root::name);
        TextField name = field("workstation-name", "Name of the workstation", 12);
        TextField path = field("workstation-path", "Its path, such as E:\\Footage; empty for none", 22);
        var task = new TaskPage[1];
        Runnable keep = () -> Optional.ofNullable(root.getValue())
                .ifPresent(chosen ->
                        desk().placeElsewhere(chosen, name.getText(), path.getText(), places -> show(task[0], places)));
        path.setOnAction(_ -> keep.run());
        Button button = Parts.button("Keep", keep, "main");
        button.setId("workstation-keep");
        task[0] = new TaskPage(
                "workstations",
                "Workstations",
                "Each workstation sees the storage under its own path. A timeline written there is read here by these,"
                        + " and one that leaves can be written for there.",
                TaskPage.columns("Root", "Workstation", "Path", 140, 140, 340),
                "Say where a workstation sees a root.",
                row(root, name, path, button),
                back);
        desk().places(places -> show(task[0], places));
        return task[0];
    }

    private static void show(TaskPage task, Places places) {
        var lines = new ArrayList<Line>();
        for (Places.Place place : places.roots()) {
            lines.add(new Line(
                    Standing.GOOD, "here", place.name(), THIS_ONE, place.here().toString()));
            place.elsewhere().entrySet().stream()
                    .sorted(java.util.Map.Entry.comparingByKey())
                    .forEach(entry -> lines.add(new Line(
                            Standing.PLAIN,
                            "there",
                            place.name(),
                            entry.getKey(),
                            entry.getValue().toString())));
        }
        int others = places.workstations().size();
        task.show(others == 0 ? "No other workstation is known yet" : others + " other workstations", lines, List.of());
    }

    // Parts of pages

    private static <T> ChoiceBox<T> choice(
            String id, String name, List<T> values, java.util.function.Function<T, String> words) {
        var box = new ChoiceBox<T>();
        box.setId(id);
        box.setAccessibleText(name);
        box.setConverter(new StringConverter<>() {
            @Override
            public String toString(T value) {
                return value == null ? "" : words.apply(value);
            }

            @Override
            public T fromString(String text) {
                throw new UnsupportedOperationException("it is only shown");
            }
        });
        box.getItems().setAll(values);
        box.getSelectionModel().selectFirst();
        return box;
    }

    private static TextField field(String id, String prompt, int columns) {
        var field = new TextField();
        field.setId(id);
        field.setPromptText(prompt);
        field.setAccessibleText(prompt);
        field.setPrefColumnCount(columns);
        return field;
    }

    private static Node row(Node... nodes) {
        for (Node node : nodes) {
            if (node instanceof Label || node instanceof CheckBox) {
                ((javafx.scene.layout.Region) node).setMinWidth(javafx.scene.layout.Region.USE_PREF_SIZE);
            }
        }
        var row = new FlowPane(8, 6, nodes); // goes on in a second line where text is large
        row.setRowValignment(javafx.geometry.VPos.CENTER);
        return row;
    }

    private static javafx.stage.@org.jspecify.annotations.Nullable Window window() {
        return javafx.stage.Window.getWindows().stream().findFirst().orElse(null);
    }

    private static Optional<Path> save(String name, String pattern) {
        var chooser = new FileChooser();
        chooser.setInitialFileName(name);
        chooser.getExtensionFilters().add(new FileChooser.ExtensionFilter(pattern.substring(2), pattern));
        return Optional.ofNullable(chooser.showSaveDialog(window())).map(File::toPath);
    }

    private static Optional<Path> folder() {
        var chooser = new DirectoryChooser();
        chooser.setTitle("New or empty folder to pack into");
        return Optional.ofNullable(chooser.showDialog(window())).map(File::toPath);
    }
}
