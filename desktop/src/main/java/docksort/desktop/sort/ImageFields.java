package docksort.desktop.sort;

import docksort.desktop.parts.Parts;
import docksort.desktop.parts.TaskFields;
import docksort.desktop.workshop.SortDesk;
import docksort.media.BurnIn;
import docksort.media.KeptFile;
import docksort.media.KeptImage;
import docksort.media.Watermark;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;

/// The fields of an image that is laid over the picture.
final class ImageFields {
    private final SortDesk desk;
    private final RecipeModel model;
    private final ComboBox<Optional<KeptImage>> image = new ComboBox<>();
    private final ComboBox<BurnIn.At> at = new ComboBox<>();
    private final ComboBox<Integer> high = new ComboBox<>();
    private final ComboBox<Integer> seen = new ComboBox<>();

    /// @param start what the recipe has
    ImageFields(SortDesk desk, RecipeModel model, Optional<Watermark> start, Runnable changed) {
        this.desk = desk;
        this.model = model;
        image.setId("recipe-image");
        image.setConverter(RulePage.words(
                chosen -> chosen.map(KeptImage::file).map(KeptFile::name).orElse("none")));
        at.setConverter(RulePage.words(BurnIn.At::label));
        high.setConverter(RulePage.words(part -> part + " % of the height"));
        seen.setConverter(RulePage.words(part -> part + " %"));
        at.getItems().setAll(BurnIn.At.values());
        high.getItems().setAll(RecipeModel.parts(start.map(Watermark::high)));
        seen.getItems().setAll(RecipeModel.parts(start.map(Watermark::seen)));
        at.setValue(start.map(Watermark::at).orElse(BurnIn.At.BOTTOM_RIGHT));
        high.setValue(start.map(Watermark::high).orElse(10));
        seen.setValue(start.map(Watermark::seen).orElse(50));
        Optional<KeptImage> chosen = start.map(Watermark::image);
        offer(List.of(), chosen);
        for (ComboBox<?> box : List.of(image, at, high, seen)) {
            box.setMaxWidth(Double.MAX_VALUE);
            box.valueProperty().subscribe((_, _) -> {
                show();
                changed.run();
            });
        }
        show();
        desk.images(known -> offer(known, image.getValue()));
    }

    /// How large it is and how much of it is seen tells nothing where there is none.
    private void show() {
        for (ComboBox<?> box : List.of(at, high, seen)) {
            box.setDisable(image.getValue().isEmpty());
        }
    }

    /// The recipe's image first, which may not be there any more.
    private void offer(List<KeptImage> known, Optional<KeptImage> chosen) {
        var choices = new ArrayList<>(model.images(known));
        if (!choices.contains(chosen)) {
            choices.add(chosen);
        }
        image.getItems().setAll(choices);
        image.setValue(chosen);
    }

    List<Node> nodes() {
        Button add = Parts.button(
                "Add an image…",
                () -> TaskFields.file("An image, .png")
                        .ifPresent(file -> desk.addImage(file, (added, known) -> offer(known, Optional.of(added)))));
        add.setId("add-image");
        return List.of(
                RecipePage.named("image", image),
                RecipePage.named("where", at),
                RecipePage.named("how high", high),
                RecipePage.named("how strong", seen),
                add);
    }

    Optional<Watermark> watermark() {
        // Boxes have no value for a moment while their choices are exchanged.
        Optional<KeptImage> chosen = image.getValue() == null ? Optional.empty() : image.getValue();
        return chosen.map(file -> new Watermark(file, at.getValue(), high.getValue(), seen.getValue()));
    }
}
