package docksort.desktop.sort;

import docksort.desktop.parts.Mark;
import docksort.desktop.parts.Parts;
import docksort.desktop.workshop.Workshop;
import docksort.run.Afterwards;
import docksort.run.Pace;
import docksort.sort.LoadSheet;
import docksort.sort.PlannedCopy;
import docksort.sort.Warning;
import docksort.sort.Warning.Remedy;
import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import javafx.geometry.Pos;
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
        workshop.runs().hours(kept -> {
            hoursAreKnown = true;
            if (hours.getText().isEmpty()) {
                hours.setText(kept.text());
            }
        });
        hours.setOnAction(_ -> keepHours());
        hours.focusedProperty().subscribe((_, focused) -> {
            if (!focused) {
                keepHours();
            }
        });
        prepareAfterwards();
    }

    /// What is done when the run has come to its end, by this machine whoever began the run.
    private void prepareAfterwards() {
        afterwards.setId("start-afterwards");
        afterwards.setAccessibleText("What this machine does after the run");
        afterwards.getItems().setAll(Afterwards.Kind.values());
        afterwards.setConverter(RulePage.words(Afterwards.Kind::label));
        afterwards.setValue(Afterwards.Kind.NOTHING);
        afterwards.setMaxWidth(Double.MAX_VALUE);
        command.setId("start-command");
        command.setPromptText("a program and its arguments");
        command.setAccessibleText("Command after the run");
        workshop.runs().afterwards(kept -> {
            afterwards.setValue(kept.kind());
            command.setText(kept.line());
            showCommand();
            afterwards.setOnAction(_ -> keepAfterwards());
            command.setOnAction(_ -> keepAfterwards());
            command.focusedProperty().subscribe((was, focused) -> {
                if (was && !focused) {
                    keepAfterwards();
                }
            });
        });
        showCommand();
        tellAfterwards(Optional.empty());
    }

    private void keepAfterwards() {
        showCommand();
        var act = new Afterwards(afterwards.getValue(), command.getText().strip());
        workshop.runs().doAfterwards(act, this::tellAfterwards);
    }

    private void showCommand() {
        boolean isCommand = afterwards.getValue() == Afterwards.Kind.COMMAND;
        command.setVisible(isCommand);
        command.setManaged(isCommand);
    }

    private void tellAfterwards(Optional<String> fault) {
        afterwardsFault.setText(fault.map(words -> "Not kept: " + words + ".").orElse(""));
        afterwardsFault.setVisible(fault.isPresent());
        afterwardsFault.setManaged(fault.isPresent());
    }

    private void keepHours() {
        if (hoursAreKnown && SheetModel.Times.hoursFault(hours.getText()).isEmpty()) {
            workshop.runs().workWithin(times().weekly());
        }
    }

    List<Node> of(LoadSheet sheet) {
        var of = new SheetModel(sheet);
        var nodes = new ArrayList<Node>();
        nodes.add(Parts.label("Load sheet", "docket-name"));
        of.figures().forEach(figure -> nodes.add(figure(figure.value(), figure.meaning())));
        of.time().ifPresent(time -> nodes.add(Parts.fact("Time", time)));
        addTrial(of.worthTrying(), nodes);
        if (of.asksForHandles()) {
            nodes.add(handles());
        }
        nodes.addAll(when(of));
        Button go = Parts.button("Start run", () -> start.accept(new Start(false, pace())), "main");
        go.setId("start-run");
        Optional<String> why = of.whyNot();
        go.setDisable(why.isPresent());
        nodes.add(go);
        why.ifPresent(words -> {
            nodes.add(Parts.wrapped(words, "quiet"));
            go.setTooltip(new Tooltip(words));
        });
        sheet.warnings().forEach(warning -> nodes.add(warning(warning)));
        var queue = new CheckBox("New arrivals go into the queue by themselves");
        queue.setId("queue-arrivals");
        queue.setWrapText(true);
        queue.setSelected(model.book().queueNewArrivals());
        queue.setOnAction(_ -> workshop.sort()
                .change(
                        model.book(),
                        model.book().queueing(queue.isSelected()),
                        queue.isSelected()
                                ? "New arrivals go into the queue by themselves"
                                : "New arrivals wait for a start",
                        _ -> {}));
        nodes.add(queue);
        return nodes;
    }

    /// How a run is to be started.
    ///
    /// @param onlyWhatFits whether only as many copies as fit are made
    record Start(boolean onlyWhatFits, Pace pace) {}

    private final TextField from = time("from");
    private final TextField until = time("until");
    private final TextField hours = hours();
    private final ComboBox<Afterwards.Kind> afterwards = new ComboBox<>();
    private final TextField command = new TextField();
    private final Label afterwardsFault = Parts.wrapped("", "look");
    private boolean hoursAreKnown; // what is kept of them was read
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

    private static TextField hours() {
        var field = new TextField();
        field.setId("start-hours");
        field.setPromptText("Mo-Fr 19:00-07:00");
        field.setMaxWidth(Double.MAX_VALUE);
        field.setAccessibleText("Hours of the week in which this machine makes copies");
        return field;
    }

    private List<Node> when(SheetModel sheet) {
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
        var line = new HBox(8, Parts.label("from", "quiet"), from, Parts.label("until", "quiet"), until);
        line.setAlignment(Pos.CENTER_LEFT);
        from.textProperty().subscribe(_ -> tellEnd(sheet));
        until.textProperty().subscribe(_ -> tellEnd(sheet));
        hours.textProperty().subscribe(_ -> tellEnd(sheet));
        tellEnd(sheet);
        HBox.setHgrow(hours, Priority.ALWAYS);
        var week = new HBox(8, Parts.label("within", "quiet"), hours);
        week.setAlignment(Pos.CENTER_LEFT);
        HBox.setHgrow(afterwards, Priority.ALWAYS);
        var then = new HBox(8, Parts.label("afterwards", "quiet"), afterwards);
        then.setAlignment(Pos.CENTER_LEFT);
        return List.of(line, week, gently, cap, then, command, afterwardsFault, end);
    }

    private void tellEnd(SheetModel sheet) {
        for (TextField field : List.of(from, until)) {
            field.getStyleClass().removeAll("wrong");
            if (SheetModel.Times.fault(field.getText()).isPresent()) {
                field.getStyleClass().add("wrong");
            }
        }
        hours.getStyleClass().removeAll("wrong");
        if (SheetModel.Times.hoursFault(hours.getText()).isPresent()) {
            hours.getStyleClass().add("wrong");
        }
        end.setText(sheet.end(times(), Instant.now(), ZoneId.systemDefault()));
    }

    private SheetModel.Times times() {
        return new SheetModel.Times(
                from.getText(), until.getText(), hours.getText(), gently.isSelected(), cap.getValue());
    }

    private Pace pace() {
        return times().pace(Instant.now(), ZoneId.systemDefault());
    }

    /// How much range copies hold besides what the timeline uses.
    private Node handles() {
        var field = new TextField(Long.toString(model.handles()));
        field.setId("handles");
        field.setPrefWidth(60);
        field.setAccessibleText("Handles in frames");
        field.setOnAction(_ -> {
            String text = field.getText();
            if (!text.isBlank() && SheetModel.handlesFault(text).isEmpty()) {
                workshop.sort().setHandles(Long.parseLong(text.strip()));
            }
        });
        var line = new HBox(
                8,
                Parts.label("Ranges with", "quiet"),
                Parts.checked(field, SheetModel::handlesFault),
                Parts.label("frames before and after", "quiet"));
        line.setAlignment(Pos.CENTER_LEFT);
        return line;
    }

    /// Sizes and times that are not known well yet can be tried.
    private void addTrial(List<PlannedCopy> open, List<Node> nodes) {
        if (open.isEmpty()) {
            return;
        }
        Button trial =
                Parts.button(SheetModel.trial(open), () -> workshop.sort().tryOut(open));
        trial.setId("try-out");
        trial.setTooltip(new Tooltip("Makes about a second of each copy to learn its size and time; nothing is kept"));
        nodes.add(trial);
    }

    private static Node figure(String value, String meaning) {
        var box = new HBox(8, Parts.label(value, "figure"), Parts.wrapped(meaning, "quiet"));
        box.setAlignment(Pos.BASELINE_LEFT);
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
            case Remedy.Choose choose -> Optional.of(() -> workshop.sort().choose(choose));
            case Remedy.OnlyWhatFits _ -> Optional.of(() -> start.accept(new Start(true, pace())));
            case Remedy.OtherFolder _ -> Optional.of(otherFolder);
            case Remedy.Advice _ -> Optional.empty();
        };
        String words = warning.remedy().words();
        if (action.isEmpty()) {
            return Parts.wrapped(words, "quiet");
        }
        var offer = new VBox(1, Parts.button(words, action.get(), "link"));
        if (warning.remedy() instanceof Remedy.Choose choose) {
            offer.getChildren().add(Parts.wrapped(choose.effect(), "quiet"));
        }
        return offer;
    }
}
