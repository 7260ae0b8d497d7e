package docksort.desktop.sort;

import docksort.arrival.Clip;
import docksort.desktop.parts.Parts;
import docksort.desktop.workshop.Workshop;
import docksort.media.BurnIn;
import docksort.media.FrameRate;
import docksort.media.SoundForm;
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
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import javafx.application.Platform;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;

/// Edits one recipe. Parts that do not go together are told at once, and such a recipe cannot be saved.
final class RecipePage {
    private static final List<Scaling> SCALINGS = List.of(
            new Scaling.Full(),
            new Scaling.PerSide(2),
            new Scaling.PerSide(4),
            new Scaling.PerSide(8),
            new Scaling.PerSide(16),
            new Scaling.FitLines(List.of(1080, 720)),
            new Scaling.FitLines(List.of(720)),
            new Scaling.FitLines(List.of(540)),
            new Scaling.FitTimeline());

    private final Workshop workshop;
    private final SortBook book;
    private final Recipe from;
    private final boolean isNew;
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
    private final TextField naming = new TextField();
    private final TextField words = new TextField();
    private final Map<BurnIn.What, ComboBox<Optional<BurnIn.At>>> burnIns = new EnumMap<>(BurnIn.What.class);
    private final CheckBox alpha = new CheckBox("keep transparency where there is any");
    private final CheckBox square = new CheckBox("make pixels square");
    private final CheckBox deinterlace = new CheckBox("make whole pictures of fields");
    private final CheckBox sdr = new CheckBox("bring high dynamic range down for viewing");
    private final CheckBox hardware = new CheckBox("use the graphics processor's encoder where one works");
    private final Label fault = Parts.wrapped("", "stop");
    private final VBox outcome = new VBox(4);
    private final Button save;

    /// @param isNew whether a new recipe is made of `from`
    /// @param example a clip to show the outcome for
    RecipePage(Workshop workshop, SortBook book, Recipe from, boolean isNew, Optional<Clip> example, Runnable done) {
        this.workshop = workshop;
        this.book = book;
        this.from = from;
        this.isNew = isNew;
        this.example = example;
        this.done = done;
        save = Parts.button("Save", this::save, "main");
        save.setId("save-recipe");
        name.setId("recipe-name");
        String title = isNew ? from.name() + ", mine" : from.name();
        name.setText(title.substring(0, Math.min(60, title.length())));
        kind = box(List.of(CopyKind.values()), from.kind(), CopyKind::label);
        encoding = box(List.of(Encoding.values()), from.encoding(), Encoding::label);
        encoding.setId("recipe-codec");
        wrapper = box(List.of(Wrapper.values()), from.wrapper(), Wrapper::label);
        wrapper.setId("recipe-container");
        var scalings = new ArrayList<>(SCALINGS);
        if (!scalings.contains(from.scaling())) {
            scalings.add(from.scaling());
        }
        scaling = box(scalings, from.scaling(), Scaling::label);
        scaling.setId("recipe-raster");
        placing = box(List.of(Placing.values()), from.placing(), Placing::label);
        bits = box(List.of(0, 16, 24), from.sound().bits(), b -> b == 0 ? "kept" : b + " bit");
        var rates = new ArrayList<>(List.of(0, 44_100, 48_000, 96_000));
        if (!rates.contains(from.sound().samplesPerSecond())) {
            rates.add(from.sound().samplesPerSecond());
        }
        sampleRate = box(rates, from.sound().samplesPerSecond(), rate -> rate == 0 ? "kept" : rate + " Hz");
        conform.setText(from.conformTo().map(FrameRate::toString).orElse(""));
        conform.setPromptText("as found");
        muted.setText(String.join(
                ", ", from.sound().muted().stream().map(String::valueOf).toList()));
        muted.setPromptText("none, or 3, 4");
        naming.setText(from.naming());
        words.setPromptText("words of the text");
        words.setAccessibleText("Words of the text");
        alpha.setSelected(from.keepsAlpha());
        square.setSelected(from.squarePixels());
        deinterlace.setSelected(from.deinterlaces());
        sdr.setSelected(from.toSdr());
        hardware.setSelected(from.hardware());
        for (BurnIn.What what : BurnIn.What.values()) {
            burnIns.put(what, burnIn(what));
        }
        for (TextField field : List.of(name, conform, muted, naming, words)) {
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

    private ComboBox<Optional<BurnIn.At>> burnIn(BurnIn.What what) {
        Optional<BurnIn> had =
                from.burnIns().stream().filter(b -> b.what() == what).findFirst();
        had.filter(b -> what == BurnIn.What.TEXT).ifPresent(b -> words.setText(b.text()));
        var places = new ArrayList<Optional<BurnIn.At>>();
        places.add(Optional.empty());
        for (BurnIn.At at : BurnIn.At.values()) {
            places.add(Optional.of(at));
        }
        return box(places, had.map(BurnIn::at), at -> at.map(BurnIn.At::label).orElse("not drawn"));
    }

    List<Node> nodes() {
        var nodes = new ArrayList<Node>();
        nodes.add(Parts.button("Back to the recipes", done, "link"));
        nodes.add(Parts.wrapped(isNew ? "New recipe" : from.name(), "docket-name"));
        nodes.add(named("name", name));
        nodes.add(named("copy", kind));
        nodes.add(named("codec", encoding));
        nodes.add(named("container", wrapper));
        nodes.add(named("raster", scaling));
        nodes.addAll(List.of(alpha, square, deinterlace, sdr, hardware));
        nodes.add(named("variable rate to", conform));
        nodes.add(Parts.section("Sound"));
        nodes.add(named("bits", bits));
        nodes.add(named("sample rate", sampleRate));
        nodes.add(named("mute channels", muted));
        nodes.add(Parts.section("Drawn into the picture"));
        burnIns.forEach((what, box) -> nodes.add(named(what.label(), box)));
        nodes.add(words);
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

    private static Node named(String title, Node control) {
        Label label = Parts.label(title, "quiet");
        label.setMinWidth(98);
        if (control instanceof javafx.scene.control.Control field) {
            field.setAccessibleText(title);
        }
        HBox.setHgrow(control, Priority.ALWAYS);
        var line = new HBox(6, label, control);
        line.setAlignment(javafx.geometry.Pos.CENTER_LEFT);
        return line;
    }

    /// @throws IllegalArgumentException with what does not go together
    private Recipe recipe() {
        var drawn = new ArrayList<BurnIn>();
        burnIns.forEach((what, box) -> box.getValue()
                .ifPresent(at -> drawn.add(new BurnIn(what, at, what == BurnIn.What.TEXT ? words.getText() : ""))));
        var silent = new ArrayList<Integer>();
        for (String number : List.of(muted.getText().strip().split("[,\\s]+", -1))) {
            if (!number.isEmpty()) {
                silent.add(number(number));
            }
        }
        Optional<FrameRate> rate =
                conform.getText().isBlank() ? Optional.empty() : Optional.of(FrameRate.parse(conform.getText()));
        return new Recipe(
                isNew ? freshId() : from.id(),
                name.getText().strip(),
                kind.getValue(),
                encoding.getValue(),
                wrapper.getValue(),
                scaling.getValue(),
                alpha.isSelected(),
                square.isSelected(),
                rate,
                deinterlace.isSelected(),
                sdr.isSelected(),
                new SoundForm(bits.getValue(), sampleRate.getValue(), silent),
                drawn,
                naming.getText(),
                placing.getValue(),
                hardware.isSelected());
    }

    private static int number(String text) {
        try {
            return Integer.parseInt(text);
        } catch (NumberFormatException e) {
            throw new IllegalArgumentException("\"" + text + "\" is no number of a channel", e);
        }
    }

    /// Of the name: small letters, digits and dashes; a number where it is taken.
    private String freshId() {
        String base = name.getText()
                .toLowerCase(Locale.ROOT)
                .replaceAll("[^a-z0-9]+", "-")
                .replaceAll("^-|-$", "");
        String start = base.isEmpty() ? "recipe" : base.substring(0, Math.min(50, base.length()));
        String id = start;
        for (int n = 2; book.byId(id).isPresent(); n++) {
            id = start + "-" + n;
        }
        return id;
    }

    private void changed() {
        if (burnIns.size() < BurnIn.What.values().length) {
            return; // still being built
        }
        try {
            Recipe recipe = recipe();
            fault.setText("");
            save.setDisable(false);
            example.ifPresentOrElse(
                    clip -> workshop.sort()
                            .planned(List.of(clip), List.of(recipe))
                            .thenAccept(copies -> Platform.runLater(() -> show(clip, copies))),
                    () -> outcome.getChildren()
                            .setAll(Parts.wrapped("Select a clip before, to see what it would come to.", "quiet")));
        } catch (IllegalArgumentException | ArithmeticException e) {
            fault.setText("Cannot be saved: " + e.getMessage());
            save.setDisable(true);
            outcome.getChildren().clear();
        }
    }

    private void show(Clip clip, List<PlannedCopy> copies) {
        outcome.getChildren().setAll(Parts.label(clip.name(), "mono"));
        for (PlannedCopy copy : copies) {
            switch (copy.resolution()) {
                case Recipe.Resolution.Possible(var form, var chosen) -> {
                    outcome.getChildren()
                            .add(Parts.wrapped(form.label() + ", "
                                    + (copy.bytes().isExact() ? "exactly " : "about ")
                                    + copy.bytes().likely()));
                    chosen.forEach(why -> outcome.getChildren().add(Parts.wrapped(why, "quiet")));
                }
                case Recipe.Resolution.Impossible(var why) ->
                    outcome.getChildren().add(Parts.wrapped("cannot be made: " + why, "look"));
            }
        }
    }

    private void save() {
        Recipe recipe = recipe();
        workshop.sort()
                .change(book.with(recipe), (isNew ? "Made the recipe " : "Changed the recipe ") + recipe.name())
                .thenRun(() -> Platform.runLater(done));
    }
}
