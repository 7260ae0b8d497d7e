package docksort.desktop.stock;

import docksort.arrival.Arrival;
import docksort.catalogue.WorkingCopy;
import docksort.desktop.parts.Parts;
import docksort.desktop.parts.TaskPage;
import docksort.desktop.parts.TaskPage.Line;
import docksort.desktop.parts.TaskPage.Standing;
import docksort.desktop.parts.Typed;
import docksort.desktop.workshop.ProjectView;
import docksort.desktop.workshop.Workshop;
import docksort.dispatch.ChecksumCheck;
import docksort.files.Trash;
import docksort.link.Adoption;
import docksort.link.CopyNames;
import docksort.link.MediaSearch.Result;
import docksort.link.NamePattern;
import docksort.media.ByteSize;
import docksort.stock.CleanUp;
import docksort.stock.CopySelection;
import docksort.stock.Limits;
import java.io.File;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
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
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import javafx.stage.DirectoryChooser;
import javafx.stage.FileChooser;

/// The tasks of the Stock station: taking over, searching, naming, cleaning up, checksums.
final class StockTasks {
    private static final long GIGABYTE = 1_000_000_000;

    private final Workshop workshop;
    private final Runnable back;

    /// @param back shows the list again
    StockTasks(Workshop workshop, Runnable back) {
        this.workshop = workshop;
        this.back = back;
    }

    private List<WorkingCopy> copies() {
        return workshop.views().view().get().stream()
                .flatMap(view -> view.stock().stream())
                .flatMap(line -> line.copies().stream())
                .toList();
    }

    // Taking over

    TaskPage takeOver() {
        TextField folder = field("take-over-folder", "Folder with the copies");
        TextField names = field("take-over-names", "How they are named; empty to learn it, for instance *_P");
        var task = new TaskPage[1];
        Runnable look = () -> path(folder.getText())
                .filter(_ -> Typed.patterns(names.getText()).isEmpty())
                .ifPresent(place -> task[0].follow(workshop.stock().look(place, patterns(names.getText()), adoption -> {
                    names.setPromptText(
                            adoption.patterns().isEmpty()
                                    ? "No pattern was found: write one, for instance *_P"
                                    : "Found: "
                                            + adoption.patterns().stream()
                                                    .map(NamePattern::label)
                                                    .collect(Collectors.joining("  ")));
                    show(task[0], adoption);
                })));
        task[0] = new TaskPage(
                "take-over",
                "Take over copies",
                "Copies that a camera or another program made, or that another project has. Names suggest pairs;"
                        + " length, rate, timecode, shape and, where those leave a doubt, pictures decide. Nothing is"
                        + " copied or moved.",
                TaskPage.columns("File", "Is a copy of", "Why", 170, 130, 320),
                "Choose the folder that the copies lie in, and look.",
                inputs(
                        folder,
                        chooseFolder(folder, "Folder with the copies"),
                        growing(Parts.checked(names, Typed::patterns)),
                        look),
                back);
        return task[0];
    }

    private static List<NamePattern> patterns(String text) {
        return text.isBlank()
                ? List.of()
                : Arrays.stream(text.strip().split("\\s+"))
                        .map(NamePattern::parse)
                        .toList();
    }

    private void show(TaskPage task, Adoption adoption) {
        var lines = new ArrayList<Line>();
        for (Adoption.Pair pair : adoption.pairs()) {
            Standing standing = switch (pair.level()) {
                case SURE -> Standing.GOOD;
                case DOUBTFUL -> Standing.LOOK;
                case REFUSED -> Standing.STOP;
            };
            lines.add(new Line(
                    standing,
                    pair.level().label(),
                    adoption.folder().relativize(pair.file()).toString(),
                    pair.clip().name(),
                    pair.reason()));
        }
        adoption.unpaired()
                .forEach(file -> lines.add(new Line(
                        Standing.PLAIN,
                        "no clip",
                        adoption.folder().relativize(file.file()).toString(),
                        "",
                        file.reason())));
        adoption.without()
                .forEach(clip -> lines.add(new Line(
                        Standing.PLAIN, "no copy", "", clip.name(), "no file here is a copy of it: Sort plans one")));
        List<Adoption.Pair> sure = adoption.pairs(Adoption.Level.SURE);
        List<Adoption.Pair> doubtful = adoption.pairs(Adoption.Level.DOUBTFUL);
        Button take = Parts.button(
                "Take over the " + sure.size() + " sure ones", () -> adopt(task, adoption.folder(), sure), "main");
        take.setId("adopt-sure");
        take.setDisable(sure.isEmpty());
        var buttons = new ArrayList<>(List.of(take));
        if (!doubtful.isEmpty()) {
            var all = new ArrayList<>(sure);
            all.addAll(doubtful);
            buttons.add(Parts.button(
                    "The " + doubtful.size() + " doubtful ones too", () -> adopt(task, adoption.folder(), all)));
        }
        task.show(
                sure.size() + " sure, " + doubtful.size() + " doubtful, "
                        + adoption.pairs(Adoption.Level.REFUSED).size() + " refused, "
                        + adoption.unpaired().size() + " without a clip; "
                        + adoption.without().size()
                        + " clips without a copy here",
                lines,
                buttons);
    }

    private void adopt(TaskPage task, Path folder, List<Adoption.Pair> pairs) {
        workshop.stock()
                .adopt(
                        folder,
                        pairs,
                        count -> task.show(count + " copies taken over. Undo takes them back.", List.of(), List.of()));
    }

    // Searching

    TaskPage search() {
        TextField folder = field("search-folder", "Folder or volume to search");
        CheckBox twins = new CheckBox("twins of what is in use");
        twins.setId("search-twins");
        var task = new TaskPage[1];
        Runnable look = () -> path(folder.getText())
                .ifPresent(place -> task[0].follow(
                        workshop.stock().search(place, twins.isSelected(), results -> show(task[0], place, results))));
        task[0] = new TaskPage(
                "search",
                "Search for media",
                "Originals and copies that are not in their place are recognised by what they hold, whatever their"
                    + " names and folders are now. Another recording is refused, also when it has the name. Twins are"
                    + " the same recordings elsewhere, to move over to.",
                TaskPage.columns("Wanted", "Found at", "How", 140, 270, 215),
                "Choose where to search, and look.",
                inputs(folder, chooseFolder(folder, "Folder or volume to search"), twins, look),
                back);
        return task[0];
    }

    /// A search whose results are there already.
    TaskPage found(Path place, List<Result> results) {
        TaskPage task = search();
        show(task, place, results);
        return task;
    }

    private void show(TaskPage task, Path place, List<Result> results) {
        List<Line> lines = results.stream()
                .map(result -> switch (result) {
                    case Result.Found(var wanted, var source, var how) ->
                        new Line(
                                Standing.GOOD,
                                "found",
                                wanted.name(),
                                source.head().toString(),
                                how);
                    case Result.Several(var wanted, var sources) ->
                        new Line(
                                Standing.LOOK,
                                "several",
                                wanted.name(),
                                sources.getFirst().head().toString(),
                                "the same content in " + sources.size() + " places: search the right folder alone");
                    case Result.ByHeader(var wanted, var source, var how) ->
                        new Line(
                                Standing.LOOK,
                                "likely",
                                wanted.name(),
                                source.head().toString(),
                                how);
                    case Result.Another(var wanted, var file, var why) ->
                        new Line(Standing.STOP, "refused", wanted.name(), file.toString(), why);
                    case Result.NotThere(var wanted) ->
                        new Line(
                                Standing.PLAIN,
                                "not there",
                                wanted.name(),
                                "",
                                "was at " + wanted.source().head());
                })
                .toList();
        long found = results.stream().filter(Result.Found.class::isInstance).count();
        Consumer<Integer> told = count -> task.show(
                count + " originals and copies are in their place again. Undo takes it back.", List.of(), List.of());
        Button point = Parts.button(
                "Use the " + found + " that were found",
                () -> workshop.stock().relink(place, results, false, told),
                "main");
        point.setId("use-found");
        point.setDisable(found == 0);
        var buttons = new ArrayList<>(List.of(point));
        long likely = results.stream().filter(Result.ByHeader.class::isInstance).count();
        if (likely > 0) {
            buttons.add(Parts.button(
                    "The " + likely + " likely ones too", () -> workshop.stock().relink(place, results, true, told)));
        }
        task.show(
                results.isEmpty()
                        ? "Everything is in its place; there is nothing to search for"
                        : found + " of " + results.size() + " found",
                lines,
                results.isEmpty() ? List.of() : buttons);
    }

    // Names

    TaskPage names() {
        TextField pattern = field("names-pattern", "Pattern");
        pattern.setText("{clip}_{kind}");
        var task = new TaskPage[1];
        Runnable look =
                () -> workshop.stock().names(pattern.getText().strip(), finished(), names -> show(task[0], names));
        pattern.textProperty().subscribe((_, _) -> look.run());
        task[0] = new TaskPage(
                "names",
                "Names of copies",
                "{clip} {kind} {recipe} {arrival} {reel} {raster} are filled in for each copy. Originals keep their"
                        + " names. All copies are renamed, or none; doing it twice changes nothing.",
                TaskPage.columns("Now", "Then", "", 200, 220, 200),
                "Write a pattern.",
                inputs(pattern, look),
                back);
        look.run();
        return task[0];
    }

    private List<WorkingCopy> finished() {
        return copies().stream()
                .filter(copy -> copy.state().serves() && !copy.isAdopted())
                .toList();
    }

    private void show(TaskPage task, CopyNames names) {
        List<Line> lines = names.lines().stream()
                .map(line -> {
                    String now = String.valueOf(line.copy().file().getFileName());
                    if (line.fault().isPresent()) {
                        return new Line(
                                Standing.STOP, "cannot", now, "", line.fault().get());
                    }
                    return line.changes()
                            ? new Line(
                                    Standing.GOOD,
                                    "changes",
                                    now,
                                    String.valueOf(line.to().getFileName()),
                                    "")
                            : new Line(Standing.PLAIN, "stays", now, now, "");
                })
                .toList();
        int changes = names.changes().size();
        Button rename = Parts.button(
                "Rename " + changes + (changes == 1 ? " copy" : " copies"),
                () -> workshop.stock()
                        .rename(
                                names,
                                count -> task.show(
                                        count + " copies renamed. Undo gives them their names back.",
                                        List.of(),
                                        List.of())),
                "main");
        rename.setId("rename-copies");
        rename.setDisable(!names.isSound() || changes == 0);
        long faults =
                names.lines().stream().filter(line -> line.fault().isPresent()).count();
        String words = names.lines().isEmpty()
                ? "There are no finished copies of this project's own"
                : faults > 0
                        ? faults + " cannot have their name, so none is renamed"
                        : changes == 0 ? "All copies have these names already" : changes + " would be renamed";
        task.show(words, lines, names.lines().isEmpty() ? List.of() : List.of(rename));
    }

    // Room

    private enum Which {
        PAST("past the project's limits"),
        ALL("all copies"),
        UNUSED("not used for 7 days"),
        OLD("made at least 30 days ago"),
        BUDGET("beyond a budget of 100 GB");

        private final String label;

        Which(String label) {
            this.label = label;
        }

        CopySelection selection() {
            return switch (this) {
                case PAST, ALL -> CopySelection.ALL;
                case UNUSED -> CopySelection.ALL.unusedFor(CopySelection.USUAL_AGE);
                case OLD -> CopySelection.ALL.olderThan(Duration.ofDays(30));
                case BUDGET -> CopySelection.ALL.within(new ByteSize(100_000_000_000L));
            };
        }

        @Override
        public String toString() {
            return label;
        }
    }

    TaskPage cleanUp() {
        var which = new ChoiceBox<Which>();
        which.setId("clean-which");
        which.getItems().setAll(Which.values());
        which.setAccessibleText("Which copies");
        var arrival = new ChoiceBox<String>();
        arrival.setAccessibleText("Of which arrival");
        List<Arrival> arrivals =
                workshop.views().view().get().map(ProjectView::arrivals).orElse(List.of());
        arrival.getItems().add("of every arrival");
        arrivals.forEach(each -> arrival.getItems().add("of " + each.name()));
        arrival.setValue("of every arrival");
        var task = new TaskPage[1];
        Runnable look = () -> {
            arrival.setDisable(which.getValue() == Which.PAST);
            if (which.getValue() == Which.PAST) {
                workshop.stock().cleanUpPast(plan -> show(task[0], plan, "No copy is past the limits"));
                return;
            }
            CopySelection selection = which.getValue().selection();
            int index = arrival.getItems().indexOf(arrival.getValue()) - 1;
            CopySelection chosen =
                    index < 0 ? selection : selection.of(arrivals.get(index).id());
            workshop.stock().cleanUp(chosen, plan -> show(task[0], plan, "No copy is meant by this"));
        };
        task[0] = new TaskPage(
                "clean-up",
                "Room and clean-up",
                "All copies can be made again, originals never: only files that the catalogue and the file itself call"
                        + " copies are deleted. Nothing happens before you press a button below.",
                TaskPage.columns("Copy", "Size", "Where, or why it stays", 200, 80, 345),
                "Choose which copies are meant.",
                new VBox(8, new HBox(8, which, arrival), limits(() -> which.setValue(Which.PAST), look)),
                back);
        which.setValue(limits().isNone() ? Which.UNUSED : Which.PAST);
        which.valueProperty().subscribe((_, _) -> look.run());
        arrival.valueProperty().subscribe((_, _) -> look.run());
        look.run();
        return task[0];
    }

    private Limits limits() {
        return workshop.views().view().get().map(ProjectView::limits).orElse(Limits.NONE);
    }

    /// The project's standing rules, to be set.
    private Node limits(Runnable choose, Runnable look) {
        TextField days = new TextField(
                limits().unusedFor().map(age -> Long.toString(age.toDays())).orElse(""));
        days.setId("limit-days");
        days.setPrefColumnCount(4);
        days.setAccessibleText("Days that a copy is kept after it was last needed, empty for no limit");
        TextField most = new TextField(limits().most()
                .map(bytes -> Long.toString(bytes.bytes() / GIGABYTE))
                .orElse(""));
        most.setId("limit-gigabytes");
        most.setPrefColumnCount(6);
        most.setAccessibleText("Gigabytes that all copies may take together, empty for no limit");
        var set = Parts.button("Set as limits", () -> {
            Optional<Duration> age = whole(days.getText()).map(Duration::ofDays);
            Optional<ByteSize> bytes = whole(most.getText()).map(count -> new ByteSize(count * GIGABYTE));
            workshop.stock().limit(new Limits(age, bytes), _ -> {
                choose.run();
                look.run();
            });
        });
        set.setId("set-limits");
        Runnable check = () -> {
            boolean sound = isWhole(days.getText()) && isWhole(most.getText());
            set.setDisable(!sound);
            set.setText(sound ? "Set as limits" : "Whole numbers, or nothing");
        };
        days.textProperty().subscribe((_, _) -> check.run());
        most.textProperty().subscribe((_, _) -> check.run());
        var line = new FlowPane(
                8,
                8,
                whole(Parts.label("Limits: keep for")),
                days,
                whole(Parts.label("days without need, at most")),
                most,
                whole(Parts.label("GB in all")),
                set);
        line.setAlignment(javafx.geometry.Pos.CENTER_LEFT);
        return line;
    }

    /// Never cut off.
    private static Label whole(Label label) {
        label.setMinWidth(Region.USE_PREF_SIZE);
        return label;
    }

    private static boolean isWhole(String text) {
        return text.isBlank() || text.strip().matches("[1-9]\\d{0,6}");
    }

    private static Optional<Long> whole(String text) {
        return text.isBlank() ? Optional.empty() : Optional.of(Long.valueOf(text.strip()));
    }

    private void show(TaskPage task, CleanUp plan, String none) {
        List<WorkingCopy> all = plan.lines().stream().map(CleanUp.Line::copy).toList();
        List<Line> lines = plan.lines().stream()
                .map(line -> new Line(
                        line.refusal().isPresent() ? Standing.STOP : Standing.GOOD,
                        line.refusal().isPresent() ? "stays" : "may go",
                        String.valueOf(line.copy().file().getFileName()),
                        line.refusal().isPresent() ? "" : line.bytes().toString(),
                        line.refusal().orElse(line.copy().file().toString())))
                .toList();
        Button stop = act(
                "stop-using",
                "Stop using " + all.size(),
                task,
                "no longer serve; their files stay",
                then -> workshop.stock().stopUsing(all, true, then));
        Button forget = act(
                "forget",
                "Forget " + all.size(),
                task,
                "forgotten; their files stay",
                then -> workshop.stock().forget(all, then));
        int going = plan.going().size();
        Button trash =
                Parts.button("Move " + going + " to the trash", () -> delete(task, plan, Optional.of(Trash.ofUser())));
        trash.setId("to-trash");
        Button delete = Parts.button("Delete " + going + " for good", () -> delete(task, plan, Optional.empty()));
        trash.setDisable(going == 0);
        delete.setDisable(going == 0);
        task.show(
                all.isEmpty()
                        ? none
                        : all.size() + " copies meant; deleting " + going + " of them frees " + plan.bytes(),
                lines,
                all.isEmpty() ? List.of() : List.of(stop, forget, trash, delete));
    }

    private Button act(String id, String text, TaskPage task, String done, Consumer<Consumer<Integer>> how) {
        Button button = Parts.button(
                text,
                () -> how.accept(
                        count -> task.show(count + " copies " + done + ". Undo takes it back.", List.of(), List.of())));
        button.setId(id);
        return button;
    }

    private void delete(TaskPage task, CleanUp plan, Optional<Trash> trash) {
        workshop.stock()
                .delete(
                        plan,
                        trash,
                        outcome -> task.show(
                                outcome.gone().size()
                                        + (trash.isPresent() ? " copies are in the trash" : " copies deleted")
                                        + (outcome.left().isEmpty()
                                                ? ""
                                                : "; " + outcome.left().size() + " stayed"),
                                outcome.left().entrySet().stream()
                                        .map(left -> new Line(
                                                Standing.STOP,
                                                "stays",
                                                String.valueOf(left.getKey().getFileName()),
                                                "",
                                                left.getValue()))
                                        .toList(),
                                List.of()));
    }

    // Checksums

    TaskPage checksums() {
        TextField list = field("sums-list", "A list: .mhl, .md5, .sha1, .xxh");
        var task = new TaskPage[1];
        Runnable look = () -> path(list.getText())
                .ifPresent(file -> task[0].follow(workshop.stock().verify(file, check -> show(task[0], check))));
        Button choose = Parts.button("Choose…", () -> {
            var chooser = new FileChooser();
            chooser.setTitle("List of checksums");
            File file = chooser.showOpenDialog(list.getScene().getWindow());
            if (file != null) {
                list.setText(file.toString());
            }
        });
        var arrival = new ChoiceBox<String>();
        arrival.setAccessibleText("Arrival to write checksums of");
        List<Arrival> arrivals =
                workshop.views().view().get().map(ProjectView::arrivals).orElse(List.of());
        arrivals.forEach(each -> arrival.getItems().add(each.name()));
        arrival.getSelectionModel().selectFirst();
        Button write = Parts.button("Write a generation", () -> {
            int index = arrival.getSelectionModel().getSelectedIndex();
            if (index >= 0) {
                task[0].follow(workshop.stock()
                        .writeChecksums(
                                arrivals.get(index),
                                generation -> task[0].show(
                                        "Generation " + generation.number() + " of " + generation.files() + " files: "
                                                + generation.manifest(),
                                        generation.changed().stream()
                                                .map(file -> new Line(
                                                        Standing.STOP,
                                                        "changed",
                                                        String.valueOf(file.getFileName()),
                                                        "",
                                                        "not as in an earlier generation"))
                                                .toList(),
                                        List.of())));
            }
        });
        write.setDisable(arrivals.isEmpty());
        var verify =
                new HBox(8, growing(Parts.checked(list, Typed::path)), choose, Parts.button("Verify", look, "main"));
        var inputs = new VBox(8, verify, new HBox(8, arrival, write));
        task[0] = new TaskPage(
                "checksums",
                "Checksums",
                "Every file of a list is read whole and held against it. A generation of an ASC Media Hash List is"
                        + " written into a folder of its own beside the originals, which are only read.",
                TaskPage.columns("File", "", "Why", 200, 10, 410),
                "Choose the list that came with the footage, and verify.",
                inputs,
                back);
        return task[0];
    }

    private static void show(TaskPage task, ChecksumCheck check) {
        var lines = new ArrayList<Line>();
        check.lines().stream()
                .filter(line -> line.result() != ChecksumCheck.Result.SAME)
                .forEach(line -> lines.add(new Line(
                        line.result() == ChecksumCheck.Result.UNKNOWN_KIND ? Standing.LOOK : Standing.STOP,
                        line.result().label(),
                        String.valueOf(line.file().getFileName()),
                        "",
                        line.words())));
        check.unlisted()
                .forEach(file -> lines.add(new Line(
                        Standing.PLAIN, "not listed", String.valueOf(file.getFileName()), "", file.toString())));
        task.show(
                check.count(ChecksumCheck.Result.SAME) + " of "
                        + check.list().entries().size() + " files are the same, "
                        + check.unlisted().size() + " are not in the list",
                lines,
                List.of());
    }

    // Parts of pages

    private static TextField field(String id, String prompt) {
        var field = new TextField();
        field.setId(id);
        field.setPromptText(prompt);
        field.setAccessibleText(prompt);
        field.setPrefColumnCount(30);
        return field;
    }

    private static Node inputs(TextField first, Button choose, Node more, Runnable look) {
        first.setOnAction(_ -> look.run());
        Button button = Parts.button("Look", look, "main");
        button.setId(first.getId() + "-look");
        var line = new HBox(8, growing(Parts.checked(first, Typed::path)), choose, more, button);
        line.setAlignment(javafx.geometry.Pos.TOP_LEFT);
        return line;
    }

    private static Node growing(Node node) {
        HBox.setHgrow(node, Priority.ALWAYS);
        return node;
    }

    private static Node inputs(TextField first, Runnable look) {
        first.setOnAction(_ -> look.run());
        HBox.setHgrow(first, Priority.ALWAYS);
        return new HBox(8, first);
    }

    private static Button chooseFolder(TextField into, String title) {
        return Parts.button("Choose…", () -> {
            var chooser = new DirectoryChooser();
            chooser.setTitle(title);
            File chosen = chooser.showDialog(into.getScene().getWindow());
            if (chosen != null) {
                into.setText(chosen.toString());
            }
        });
    }

    /// What is written there, where nothing is wrong with it.
    private static Optional<Path> path(String text) {
        return text.isBlank() || Typed.path(text).isPresent() ? Optional.empty() : Optional.of(Path.of(text.strip()));
    }
}
