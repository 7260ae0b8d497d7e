package docksort.desktop.sort;

import docksort.arrival.Clip;
import docksort.desktop.parts.Parts;
import docksort.desktop.parts.TaskLine;
import docksort.desktop.workshop.Workshop;
import docksort.media.BurnIn;
import docksort.media.FrameLines;
import docksort.media.Wrapper;
import docksort.sort.CopyKind;
import docksort.sort.Encoding;
import docksort.sort.Placing;
import docksort.sort.PlannedCopy;
import docksort.sort.Recipe;
import docksort.sort.Scaling;
import docksort.sort.SortBook;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import javafx.application.Platform;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Control;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;

/// Edits one recipe. Parts that do not go together are told at once, and such a recipe cannot be saved.
final class RecipePage {
    private final Workshop workshop;
    private final RecipeModel model;
    private final Optional<Clip> example;
    private final Runnable done;
    private final TextField name = new TextField();
    private final ComboBox<CopyKind> kind;
    private final ComboBox<Encoding> encoding;
    private final ComboBox<Wrapper> wrapper;
    private final ComboBox<Scaling> scaling;
    private final ComboBox<Placing> placing;
    private final ComboBox<Integer> bits;
    private final ComboBox<Integer> sampleRate;
    private final TextField conform = new TextField();
    private final TextField muted = new TextField();
    private final TextField mix = new TextField();
    private final TextField naming = new TextField();
    private final TextField words = new TextField();
    private final TextField frame = new TextField();
    private final ComboBox<FrameLines.Outside> outside;
    private final Map<BurnIn.What, ComboBox<Optional<BurnIn.At>>> burnIns = new EnumMap<>(BurnIn.What.class);
    private final CheckBox alpha = new CheckBox("keep transparency where there is any");
    private final CheckBox square = new CheckBox("make pixels square");
    private final CheckBox deinterlace = new CheckBox("make whole pictures of fields");
    private final CheckBox sdr = new CheckBox("bring high dynamic range down for viewing");
    private final CheckBox hardware = new CheckBox("use the graphics processor's encoder where one works");
    private final LookFields look;
    private final ImageFields image;
    private final Label fault = Parts.wrapped("", "stop");
    private final VBox outcome = new VBox(4);
    private final Button save;
    private final Keeping keeping;

    /// @param isNew whether a new recipe is made of `from`
    /// @param example a clip to show the outcome for
    RecipePage(Workshop workshop, SortBook book, Recipe from, boolean isNew, Optional<Clip> example, Runnable done) {
        this.workshop = workshop;
        this.model = new RecipeModel(book, from, isNew);
        this.example = example;
        this.done = done;
        this.keeping = new Keeping(workshop, isNew ? "" : "recipe " + from.id(), done);
        save = Parts.button("Save", this::save, "main");
        save.setId("save-recipe");
        name.setId("recipe-name");
        RecipeModel.Draft start = model.start();
        name.setText(start.name());
        kind = box(List.of(CopyKind.values()), start.kind(), CopyKind::label);
        encoding = box(List.of(Encoding.values()), start.encoding(), Encoding::label);
        encoding.setId("recipe-codec");
        wrapper = box(List.of(Wrapper.values()), start.wrapper(), Wrapper::label);
        wrapper.setId("recipe-container");
        scaling = box(model.scalings(), start.scaling(), Scaling::label);
        scaling.setId("recipe-raster");
        placing = box(List.of(Placing.values()), start.placing(), Placing::label);
        bits = box(List.of(0, 16, 24), start.bits(), b -> b == 0 ? "kept" : b + " bit");
        sampleRate = box(model.sampleRates(), start.sampleRate(), rate -> rate == 0 ? "kept" : rate + " Hz");
        conform.setText(start.conform());
        conform.setPromptText("as found");
        muted.setText(start.muted());
        muted.setPromptText("none, or 3, 4");
        mix.setText(start.mix());
        mix.setPromptText("1+2, 3, or all, or each");
        mix.setId("recipe-mix");
        naming.setText(start.naming());
        words.setText(start.words());
        words.setPromptText("words of the text");
        words.setAccessibleText("Words of the text");
        frame.setText(start.frame());
        frame.setPromptText("none, or 2.39, or 16:9");
        frame.setId("recipe-frame");
        outside = box(List.of(FrameLines.Outside.values()), start.outside(), FrameLines.Outside::label);
        frame.textProperty().subscribe(text -> outside.setDisable(text.isBlank()));
        alpha.setSelected(start.alpha());
        square.setSelected(start.square());
        deinterlace.setSelected(start.deinterlace());
        sdr.setSelected(start.look().toSdr());
        look = new LookFields(workshop.sort(), model, start.look(), this::changed);
        image = new ImageFields(workshop.sort(), model, start.watermark(), this::changed);
        hardware.setSelected(start.hardware());
        for (BurnIn.What what : BurnIn.What.values()) {
            burnIns.put(what, burnIn(Optional.ofNullable(start.burnIns().get(what))));
        }
        for (TextField field : List.of(name, conform, muted, mix, naming, words, frame)) {
            field.textProperty().subscribe(_ -> changed());
        }
        for (CheckBox check : List.of(alpha, square, deinterlace, sdr, hardware)) {
            check.setWrapText(true);
            check.selectedProperty().subscribe(_ -> changed());
        }
        changed();
    }

    private <T> ComboBox<T> box(List<T> choices, T chosen, Function<T, String> label) {
        var box = new ComboBox<T>();
        box.getItems().setAll(choices);
        box.setConverter(RulePage.words(label));
        box.setValue(chosen);
        box.setMaxWidth(Double.MAX_VALUE);
        box.valueProperty().subscribe((_, _) -> changed());
        return box;
    }

    private ComboBox<Optional<BurnIn.At>> burnIn(Optional<BurnIn.At> chosen) {
        var places = new ArrayList<Optional<BurnIn.At>>();
        places.add(Optional.empty());
        for (BurnIn.At at : BurnIn.At.values()) {
            places.add(Optional.of(at));
        }
        return box(places, chosen, at -> at.map(BurnIn.At::label).orElse("not drawn"));
    }

    List<Node> nodes() {
        var nodes = new ArrayList<Node>();
        nodes.add(Parts.button("Back to the recipes", done, "link"));
        nodes.add(Parts.wrapped(model.title(), "docket-name"));
        nodes.add(keeping.node());
        nodes.add(named("name", name));
        nodes.add(named("copy", kind));
        nodes.add(named("codec", encoding));
        nodes.add(named("container", wrapper));
        nodes.add(named("raster", scaling));
        nodes.addAll(List.of(alpha, square, deinterlace, sdr, hardware));
        nodes.add(named("variable rate to", conform));
        nodes.add(Parts.section("Look"));
        nodes.addAll(look.nodes());
        nodes.add(Parts.section("Sound"));
        nodes.add(named("bits", bits));
        nodes.add(named("sample rate", sampleRate));
        nodes.add(named("mute channels", muted));
        nodes.add(named("mix channels", mix));
        nodes.add(Parts.section("Drawn into the picture"));
        burnIns.forEach((what, box) -> nodes.add(named(what.label(), box)));
        nodes.add(words);
        nodes.add(named("frame lines", frame));
        nodes.add(named("drawn as", outside));
        nodes.addAll(image.nodes());
        nodes.add(Parts.section("File"));
        nodes.add(named("name", naming));
        nodes.add(Parts.wrapped("{clip} {kind} {recipe} {arrival} {reel} {raster} are filled in", "quiet"));
        nodes.add(named("place", placing));
        nodes.add(Parts.section("Comes to"));
        nodes.add(outcome);
        nodes.add(fault);
        nodes.add(save);
        return nodes;
    }

    static Node named(String title, Node control) {
        Label label = Parts.label(title, "quiet", "field-name");
        if (control instanceof Control field) {
            field.setAccessibleText(title);
        }
        HBox.setHgrow(control, Priority.ALWAYS);
        var line = new HBox(6, label, control);
        line.setAlignment(Pos.CENTER_LEFT);
        return line;
    }

    /// @throws IllegalArgumentException with what does not go together
    private RecipeModel.Draft draft() {
        var drawn = new EnumMap<BurnIn.What, BurnIn.At>(BurnIn.What.class);
        burnIns.forEach((what, box) -> box.getValue().ifPresent(at -> drawn.put(what, at)));
        return new RecipeModel.Draft(
                name.getText(),
                kind.getValue(),
                encoding.getValue(),
                wrapper.getValue(),
                scaling.getValue(),
                alpha.isSelected(),
                square.isSelected(),
                deinterlace.isSelected(),
                RecipeModel.look(sdr.isSelected(), look.decision(), look.table()),
                hardware.isSelected(),
                conform.getText(),
                bits.getValue(),
                sampleRate.getValue(),
                muted.getText(),
                mix.getText(),
                drawn,
                words.getText(),
                frame.getText(),
                outside.getValue(),
                image.watermark(),
                naming.getText(),
                placing.getValue());
    }

    private void changed() {
        if (burnIns.size() < BurnIn.What.values().length) {
            return; // still being built
        }
        Optional<String> wrong = model.fault(this::draft);
        fault.setText(wrong.orElse(""));
        save.setDisable(wrong.isPresent());
        if (wrong.isPresent()) {
            outcome.getChildren().clear();
            return;
        }
        RecipeModel.Draft draft = draft();
        if (example.isEmpty()) {
            outcome.getChildren().setAll(Parts.wrapped("Select a clip before, to see what it would come to.", "quiet"));
        } else {
            workshop.sort()
                    .planned(List.of(example.get()), List.of(model.recipe(draft)))
                    .thenAccept(copies -> Platform.runLater(() -> show(copies)));
        }
    }

    private void show(List<PlannedCopy> copies) {
        outcome.getChildren().setAll(Parts.label(example.orElseThrow().name(), "mono"));
        for (TaskLine line : RecipeModel.outcome(copies)) {
            outcome.getChildren()
                    .add(
                            switch (line.tone()) {
                                case GOOD -> Parts.wrapped(line.words());
                                case LOOK, STOP -> Parts.wrapped(line.words(), "look");
                                case PLAIN -> Parts.wrapped(line.words(), "quiet");
                            });
        }
    }

    private void save() {
        keeping.keep(model.saved(draft()));
    }
}
