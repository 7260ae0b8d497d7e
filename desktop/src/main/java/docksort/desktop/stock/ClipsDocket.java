package docksort.desktop.stock;

import docksort.arrival.Clip;
import docksort.catalogue.WorkingCopy;
import docksort.desktop.parts.CopyMark;
import docksort.desktop.parts.FileName;
import docksort.desktop.parts.Mark;
import docksort.desktop.parts.Parts;
import docksort.desktop.parts.TaskFields;
import docksort.desktop.workshop.Workshop;
import docksort.link.Adoption;
import docksort.link.MediaSearch.Result;
import docksort.link.OriginalName;
import docksort.media.ByteSize;
import docksort.sort.CopyKind;
import docksort.stock.StockLine;
import java.nio.file.Path;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.BiConsumer;
import java.util.function.Consumer;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.TextField;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/// One clip, or several, with their copies and what can be done about them.
final class ClipsDocket {
    private final Workshop workshop;
    private final StockModel model;
    private final Consumer<List<Clip>> plan;
    private final BiConsumer<StockLine, List<WorkingCopy>> pair;
    private final BiConsumer<Path, List<Result>> found;
    private final Consumer<Adoption.Pair> said;
    private final Runnable places;

    /// @param plan shows clips where their copies are decided
    /// @param pair shows an original beside its copies
    /// @param found shows what followed from pointing out where an original lies
    /// @param said shows what speaks for and against a file that somebody says is a copy
    /// @param places shows the places instead
    ClipsDocket(
            Workshop workshop,
            StockModel model,
            Consumer<List<Clip>> plan,
            BiConsumer<StockLine, List<WorkingCopy>> pair,
            BiConsumer<Path, List<Result>> found,
            Consumer<Adoption.Pair> said,
            Runnable places) {
        this.workshop = workshop;
        this.model = model;
        this.plan = plan;
        this.pair = pair;
        this.found = found;
        this.said = said;
        this.places = places;
    }

    List<Node> several(List<StockLine> lines) {
        var nodes = new ArrayList<Node>();
        nodes.add(Parts.label(lines.size() + " clips", "docket-name"));
        List<WorkingCopy> copies =
                lines.stream().flatMap(line -> line.copies().stream()).toList();
        List<WorkingCopy> serving = copies.stream()
                .filter(copy -> copy.state().serves() && !copy.service().stopped())
                .toList();
        List<WorkingCopy> stopped = copies.stream()
                .filter(copy -> copy.state().serves() && copy.service().stopped() && !copy.awaitsAcceptance())
                .toList();
        for (CopyKind kind : CopyKind.values()) {
            long having = lines.stream()
                    .filter(line -> StockModel.copy(line, kind).isPresent())
                    .count();
            if (having > 0 || kind == CopyKind.LIGHT || kind == CopyKind.FULL) {
                nodes.add(Parts.wrapped(
                        "with a " + kind.label() + " copy: " + having + ", without: " + (lines.size() - having)));
            }
        }
        long bytes = copies.stream().mapToLong(copy -> copy.place().bytes()).sum();
        nodes.add(Parts.wrapped("Their copies take " + new ByteSize(bytes) + ".", "quiet"));
        nodes.add(Parts.section("What to do"));
        Button inSort = Parts.button(
                "Decide copies in Sort",
                () -> plan.accept(lines.stream().map(StockLine::clip).toList()),
                "main");
        inSort.setId("plan-selected");
        nodes.add(inSort);
        if (!serving.isEmpty()) {
            nodes.add(Parts.button(
                    "Stop using " + serving.size() + " copies",
                    () -> workshop.stock().stopUsing(serving, true, _ -> {})));
        }
        if (!stopped.isEmpty()) {
            nodes.add(Parts.button(
                    "Use " + stopped.size() + " again", () -> workshop.stock().stopUsing(stopped, false, _ -> {})));
        }
        nodes.add(Parts.section(""));
        nodes.add(Parts.button("Places", places));
        return nodes;
    }

    List<Node> clip(StockLine line) {
        var nodes = new ArrayList<Node>();
        nodes.add(Parts.wrapped(model.name(line), "docket-name"));
        nodes.add(Parts.wrapped("Served by " + line.served().label() + ":", "strong"));
        nodes.add(FileName.of(line.served().file()));
        nodes.add(Parts.wrapped("Drag the row onto another program to hand this file over.", "quiet"));
        model.oddities(line).forEach(odd -> nodes.add(Parts.wrapped(odd, "look")));
        List<WorkingCopy> visible = line.copiesToSee();
        if (!visible.isEmpty()) {
            Button look = Parts.button("See original and copy…", () -> pair.accept(line, visible));
            look.setId("open-pair");
            nodes.add(look);
        }
        nodes.add(Parts.section("Original"));
        nodes.add(CopyMark.of(line.presence()));
        if (!line.presence().note().isEmpty()) {
            nodes.add(Parts.wrapped(line.presence().note(), "quiet"));
        }
        nodes.add(FileName.of(line.clip().source().head()));
        nodes.add(
                line.presence().isOnline()
                        ? renamer(line, workshop.stock()::rename)
                        : Parts.button("Point it out…", () -> pointOut(line)));
        for (WorkingCopy copy : line.copies()) {
            nodes.add(Parts.section(copy.kind().label() + " copy"));
            nodes.add(CopyMark.of(copy));
            nodes.add(Parts.wrapped(
                    copy.isCameras()
                            ? "the camera's own"
                            : copy.isAdopted()
                                    ? copy.isOnTrust()
                                            ? "made elsewhere; only somebody's word says that it is a copy of this clip"
                                            : "made elsewhere"
                                    : workshop.sort().recipeLabel(copy.recipeId())));
            if (copy.place().bytes() > 0) {
                nodes.add(Parts.wrapped(copy.place().codec() + " · "
                        + copy.place().width() + "×" + copy.place().height() + " · "
                        + new ByteSize(copy.place().bytes())));
            }
            if (copy.bakesLook()) {
                nodes.add(Parts.wrapped("A look is baked in: its colours are not the original's."));
            }
            nodes.add(Parts.wrapped(copy.note(), "quiet"));
            ReadAgainModel.words(copy, ZoneId.systemDefault())
                    .ifPresent(words -> nodes.add(Parts.wrapped(words, "quiet")));
            nodes.add(FileName.of(copy.file()));
            if (copy.state().serves()) {
                boolean stopped = copy.service().stopped();
                nodes.add(Parts.button(
                        copy.awaitsAcceptance()
                                ? "Accept its holes: let it serve"
                                : stopped ? "Use it again" : "Stop using it",
                        () -> workshop.stock().stopUsing(List.of(copy), !stopped, _ -> {})));
            }
        }
        nodes.add(Parts.section(""));
        Button sayCopy = Parts.button("A file is a copy of it…", () -> sayCopy(line));
        sayCopy.setId("say-copy");
        nodes.add(new FlowPane(8, 8, sayCopy, Parts.button("Places", places)));
        return nodes;
    }

    /// Somebody's word that a file is a copy of the clip: what speaks for and against it is shown first.
    private void sayCopy(StockLine line) {
        TaskFields.file("Copy of " + line.clip().name())
                .ifPresent(file -> workshop.stock().lookAt(file, line.clip(), said));
    }

    /// Asks for a new name in place, with what that breaks; nothing happens before the second button.
    private static Node renamer(StockLine line, Consumer<OriginalName> rename) {
        var box = new VBox(6);
        Button open = Parts.button("Rename the original…", () -> {});
        open.setId("rename-original");
        open.setOnAction(_ -> {
            TextField name =
                    new TextField(String.valueOf(line.clip().source().head().getFileName()));
            name.setId("original-name");
            name.setAccessibleText("New name of the original");
            var fault = Parts.wrapped("", "look");
            Button carryOut = Parts.button(
                    "Rename it", () -> rename.accept(OriginalName.preview(line.clip(), name.getText())), "main");
            carryOut.setId("carry-out-original-name");
            name.textProperty().subscribe(text -> {
                Optional<String> why = OriginalName.preview(line.clip(), text).fault();
                fault.setText(why.orElse(""));
                fault.setManaged(why.isPresent());
                carryOut.setDisable(why.isPresent());
            });
            Button leave = Parts.button("Leave it", () -> box.getChildren().setAll(open));
            box.getChildren()
                    .setAll(
                            Parts.marked(Mark.look(), "An original", "look"),
                            Parts.wrapped(OriginalName.WARNING, "quiet"),
                            name,
                            fault,
                            new HBox(8, carryOut, leave));
            name.requestFocus();
            name.selectAll();
        });
        box.getChildren().setAll(open);
        return box;
    }

    /// Where one lies now: the rest that moved along follows.
    private void pointOut(StockLine line) {
        TaskFields.file("Where " + line.clip().name() + " lies now")
                .ifPresent(place -> workshop.stock()
                        .follow(line.clip().id().value(), place, results -> found.accept(place, results)));
    }
}
