package docksort.desktop.sort;

import docksort.desktop.parts.Mark;
import docksort.desktop.parts.Parts;
import docksort.desktop.parts.Typed;
import docksort.desktop.parts.Words;
import docksort.desktop.workshop.Workshop;
import docksort.run.Pace;
import docksort.sort.CopyKind;
import docksort.sort.LoadSheet;
import docksort.sort.PlannedCopy;
import docksort.sort.Warning;
import docksort.sort.Warning.Remedy;
import java.time.Instant;
import java.time.LocalTime;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.time.format.DateTimeParseException;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.Consumer;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.control.Tooltip;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;

/// The load sheet as a docket page: figures, warnings with what one click does about them, and the start.
final class SheetPage {
    private static final double WIDE = 1.3; // a trial comes nearer than this

    private final Workshop workshop;
    private final SortModel model;
    private final Consumer<Start> start;
    private final Runnable otherFolder;

    /// @param otherFolder asks for another folder for copies
    SheetPage(Workshop workshop, SortModel model, Consumer<Start> start, Runnable otherFolder) {
        this.workshop = workshop;
        this.model = model;
        this.start = start;
        this.otherFolder = otherFolder;
    }

    List<Node> of(LoadSheet sheet) {
        var nodes = new ArrayList<Node>();
        List<PlannedCopy> wanted = sheet.wanted();
        long clips = wanted.stream().map(copy -> copy.clip().id()).distinct().count();
        nodes.add(Parts.label("Load sheet", "docket-name"));
        nodes.add(figure(
                Integer.toString(wanted.size()),
                wanted.size() == 1 ? "copy of 1 clip" : "copies of " + clips + " clips"));
        nodes.add(figure(
                sheet.bytes().likely().label(),
                sheet.bytes().isExact()
                        ? "exact"
                        : sheet.bytes().least() + " to " + sheet.bytes().most()));
        if (!wanted.isEmpty()) {
            nodes.add(Parts.fact("Time", sheet.time().label()));
            addTrial(sheet, nodes);
        }
        if (sheet.copies().stream().anyMatch(copy -> copy.recipe().kind() == CopyKind.RANGE)) {
            nodes.add(handles());
        }
        nodes.addAll(when(sheet));
        Button go = Parts.button("Start run", () -> start.accept(new Start(false, pace())), "main");
        go.setId("start-run");
        String why = wanted.isEmpty() ? "Nothing is wanted." : sheet.fits() ? "" : "It does not fit: see below.";
        go.setDisable(!why.isEmpty());
        nodes.add(go);
        if (!why.isEmpty()) {
            nodes.add(Parts.wrapped(why, "quiet"));
            go.setTooltip(new Tooltip(why));
        }
        sheet.warnings().forEach(warning -> nodes.add(warning(warning)));
        var queue = new CheckBox("New arrivals go into the queue by themselves");
        queue.setId("queue-arrivals");
        queue.setWrapText(true);
        queue.setSelected(model.book().queueNewArrivals());
        queue.setOnAction(_ -> workshop.sort()
                .change(
                        model.book().queueing(queue.isSelected()),
                        queue.isSelected()
                                ? "New arrivals go into the queue by themselves"
                                : "New arrivals wait for a start"));
        nodes.add(queue);
        return nodes;
    }

    /// How a run is to be started.
    ///
    /// @param onlyWhatFits whether only as many copies as fit are made
    record Start(boolean onlyWhatFits, Pace pace) {}

    private static final long MOST_HANDLES = 100_000; // more than an hour at any rate

    private final TextField from = time("from");
    private final TextField until = time("until");
    private final CheckBox gently =
            new CheckBox("gently: held still while others need the machine or it is on battery");
    private final ComboBox<Integer> cap = new ComboBox<>();
    private final Label end = Parts.wrapped("", "quiet");

    private static TextField time(String name) {
        var field = new TextField();
        field.setId("start-" + name);
        field.setPromptText("hh:mm");
        field.setPrefWidth(66);
        field.setAccessibleText("Work " + name + ", as hours and minutes");
        return field;
    }

    private List<Node> when(LoadSheet sheet) {
        gently.setId("start-gently");
        gently.setWrapText(true);
        if (cap.getItems().isEmpty()) {
            cap.setId("start-speed");
            cap.setAccessibleText("Speed");
            cap.getItems().setAll(0, 1, 2, 4, 8);
            cap.setConverter(
                    RulePage.words(times -> times == 0 ? "as fast as it goes" : "at most " + times + " × real time"));
            cap.setValue(0);
        }
        var times = new HBox(8, Parts.label("from", "quiet"), from, Parts.label("until", "quiet"), until);
        times.setAlignment(javafx.geometry.Pos.CENTER_LEFT);
        from.textProperty().subscribe(_ -> tellEnd(sheet));
        until.textProperty().subscribe(_ -> tellEnd(sheet));
        tellEnd(sheet);
        return List.of(times, gently, cap, end);
    }

    /// When the run would be over, as far as times are known.
    private void tellEnd(LoadSheet sheet) {
        from.getStyleClass().removeAll("wrong");
        until.getStyleClass().removeAll("wrong");
        boolean fromGood = isTime(from);
        boolean good = isTime(until) && fromGood;
        if (!good || sheet.wanted().isEmpty() || sheet.time().likelySeconds() == 0) {
            end.setText(good ? "" : "Write times as 22:30, or leave them out.");
            return;
        }
        Pace pace = pace();
        Instant begin = pace.from().orElse(Instant.now());
        Instant over = begin.plus(sheet.time().likely());
        String words =
                "Over at about " + Words.clock(over) + (sheet.time().isKnown() ? "" : ", and what is not known yet");
        boolean late = pace.until().filter(over::isAfter).isPresent();
        end.setText(late ? words + ": not all of it is done by " + until.getText() : words);
    }

    private static boolean isTime(TextField field) {
        boolean good = field.getText().isBlank() || read(field).isPresent();
        if (!good) {
            field.getStyleClass().add("wrong");
        }
        return good;
    }

    private static Optional<LocalTime> read(TextField field) {
        try {
            return field.getText().isBlank()
                    ? Optional.empty()
                    : Optional.of(
                            LocalTime.parse(field.getText().strip(), DateTimeFormatter.ofPattern("H:mm", Locale.ROOT)));
        } catch (DateTimeParseException e) {
            return Optional.empty();
        }
    }

    private Pace pace() {
        return Pace.at(read(from), read(until), gently.isSelected(), Instant.now(), ZoneId.systemDefault())
                .cappedAt(cap.getValue());
    }

    /// How much range copies hold besides what the timeline uses.
    private Node handles() {
        var field = new TextField(Long.toString(model.handles()));
        field.setId("handles");
        field.setPrefWidth(60);
        field.setAccessibleText("Handles in frames");
        field.setOnAction(_ -> {
            String text = field.getText();
            if (!text.isBlank() && Typed.wholeNumber(text, 0, MOST_HANDLES).isEmpty()) {
                workshop.sort().setHandles(Long.parseLong(text.strip()));
            }
        });
        var line = new HBox(
                8,
                Parts.label("Ranges with", "quiet"),
                Parts.checked(field, text -> Typed.wholeNumber(text, 0, MOST_HANDLES)),
                Parts.label("frames before and after", "quiet"));
        line.setAlignment(javafx.geometry.Pos.CENTER_LEFT);
        return line;
    }

    /// Sizes and times that are not known well yet can be tried.
    private void addTrial(LoadSheet sheet, List<Node> nodes) {
        List<PlannedCopy> open = sheet.wanted().stream()
                .filter(copy -> !copy.time().isKnown()
                        || copy.bytes().most().bytes() > copy.bytes().likely().bytes() * WIDE)
                .toList();
        if (open.isEmpty()) {
            return;
        }
        Button trial = Parts.button(
                open.size() == 1 ? "Try a second of it" : "Try a second of each (" + open.size() + ")",
                () -> workshop.sort().tryOut(open));
        trial.setId("try-out");
        trial.setTooltip(new Tooltip("Makes about a second of each copy to learn its size and time; nothing is kept"));
        nodes.add(trial);
    }

    private static Node figure(String value, String meaning) {
        var box = new HBox(8, Parts.label(value, "figure"), Parts.wrapped(meaning, "quiet"));
        box.setAlignment(javafx.geometry.Pos.BASELINE_LEFT);
        return box;
    }

    private Node warning(Warning warning) {
        var words = new VBox(3, Parts.wrapped(warning.text()), remedy(warning));
        if (!warning.clips().isEmpty()) {
            Button show = Parts.button("Show them", () -> model.showOnly(warning.clips()), "link");
            words.getChildren().add(show);
        }
        HBox.setHgrow(words, Priority.ALWAYS);
        Node mark = switch (warning.weight()) {
            case STOPS -> Mark.cross("stop");
            case MISTAKE -> Mark.look();
            case NOTE -> Mark.dash();
        };
        var line = new HBox(10, mark, words);
        line.getStyleClass().add("reason");
        return line;
    }

    private Node remedy(Warning warning) {
        Optional<Runnable> action = switch (warning.remedy()) {
            case Remedy.UseRecipe(String id, String _) ->
                model.book()
                        .byId(id)
                        .map(recipe -> () ->
                                workshop.sort().choose(model.clips(warning.clips()), Optional.of(List.of(recipe))));
            case Remedy.LeaveAsIs _ ->
                Optional.of(() -> workshop.sort().choose(model.clips(warning.clips()), Optional.of(List.of())));
            case Remedy.OnlyWhatFits _ -> Optional.of(() -> start.accept(new Start(true, pace())));
            case Remedy.OtherFolder _ -> Optional.of(otherFolder);
            case Remedy.Advice _ -> Optional.empty();
        };
        String words = warning.remedy().words();
        return action.<Node>map(run -> Parts.button(words, run, "link")).orElseGet(() -> Parts.wrapped(words, "quiet"));
    }
}
