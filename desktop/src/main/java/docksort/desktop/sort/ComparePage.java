package docksort.desktop.sort;

import docksort.arrival.Clip;
import docksort.desktop.parts.Parts;
import docksort.desktop.workshop.Workshop;
import docksort.files.Documents;
import docksort.problem.CoreException;
import docksort.sort.SortBook;
import docksort.sort.Tried;
import docksort.strain.BayProfile;
import java.io.ByteArrayInputStream;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.concurrent.CompletableFuture;
import javafx.application.Platform;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.TextField;
import javafx.scene.image.Image;
import javafx.scene.image.ImageView;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import javafx.stage.FileChooser;

/// The selected clips as each recipe would make them: bytes against each other, time, what some seconds
/// of the first one measured, a piece of its picture, and how many streams of it play at once.
final class ComparePage {
    private static final double WIDTH = 270;

    private final Workshop workshop;
    private final CompareModel model;
    private final Runnable done;
    private final VBox lines = new VBox(2);
    private final TextField streams = new TextField("3");

    ComparePage(Workshop workshop, SortBook book, List<Clip> clips, Runnable done) {
        this.workshop = workshop;
        this.model = new CompareModel(book, clips);
        this.done = done;
        load();
    }

    List<Node> nodes() {
        var nodes = new ArrayList<Node>();
        nodes.add(Parts.button("Back to the load sheet", done, "link"));
        nodes.add(Parts.label("Recipes compared", "docket-name"));
        nodes.add(Parts.wrapped(model.subject(), "mono"));
        Button trial = Parts.button("Try seconds of " + model.first().name(), this::tryOut);
        trial.setId("try-recipes");
        trial.setDisable(!model.first().facts().isDecodable());
        nodes.add(trial);
        streams.setPrefWidth(46);
        streams.setId("streams");
        streams.setAccessibleText("Streams that play at once");
        streams.textProperty().subscribe(_ -> show());
        var budget = new FlowPane(
                8,
                6,
                streams,
                Parts.label("streams at once, on", "quiet"),
                Parts.button("another machine…", this::chooseBay, "link"));
        nodes.add(budget);
        nodes.add(lines);
        return nodes;
    }

    private void load() {
        lines.getChildren().setAll(Parts.label("Reckoning…", "quiet"));
        workshop.sort()
                .planned(model.clips(), model.recipes())
                .thenAccept(copies -> Platform.runLater(() -> {
                    model.plan(copies);
                    show();
                }));
    }

    /// Makes some seconds of the first clip by every recipe.
    CompletableFuture<Void> tryOut() {
        return workshop.sort()
                .compare(model.first(), model.recipes())
                .thenAccept(results -> Platform.runLater(() -> {
                    model.tried(results);
                    load();
                }));
    }

    private void chooseBay() {
        var chooser = new FileChooser();
        chooser.setTitle("Bay profile, measured there with dock-sort bay");
        chooser.getExtensionFilters().add(new FileChooser.ExtensionFilter("Bay profile", "*.json"));
        Optional.ofNullable(chooser.showOpenDialog(lines.getScene().getWindow()))
                .ifPresent(file -> {
                    try {
                        model.playOn(BayProfile.read(Documents.read(file.toPath()), file.toString()));
                        show();
                    } catch (CoreException e) {
                        workshop.troubles().latest().set(Optional.of(e.problem()));
                    }
                });
    }

    private void show() {
        List<CompareModel.Line> all =
                model.lines(streams.getText(), workshop.sort().volumeSpeed());
        if (!all.isEmpty()) {
            lines.getChildren().setAll(all.stream().map(ComparePage::line).toList());
        }
    }

    private static Node line(CompareModel.Line of) {
        var bar = new Region();
        bar.getStyleClass().add("lever-bar");
        double width = Math.max(2, WIDTH * of.share());
        bar.setMinSize(width, 6);
        bar.setMaxSize(width, 6);
        var box = new VBox(
                4,
                Parts.wrapped(of.title()),
                bar,
                new HBox(10, Parts.label(of.bytes(), "mono"), Parts.label(of.time(), "quiet")));
        if (!of.forms().isEmpty()) {
            box.getChildren().add(Parts.wrapped(of.forms(), "quiet"));
        }
        of.budget().ifPresent(words -> box.getChildren().add(Parts.wrapped(words, "quiet")));
        of.tried().ifPresent(result -> box.getChildren().addAll(figures(result)));
        box.getStyleClass().add("reason");
        return box;
    }

    private static List<Node> figures(Tried result) {
        var nodes = new ArrayList<Node>();
        nodes.add(Parts.fact("Plays at", result.playRatio().label() + " times its rate"));
        nodes.add(Parts.fact(
                "Scrub cost",
                String.format(
                        Locale.ROOT, "%.1f frames for one", result.scrubCost().toDouble())));
        nodes.add(Parts.fact(
                "Picture",
                Double.isInfinite(result.psnr())
                        ? "the original's"
                        : String.format(Locale.ROOT, "SSIM %.4f, PSNR %.1f dB", result.ssim(), result.psnr())));
        byte[] bytes = new byte[result.crop().remaining()];
        result.crop().duplicate().get(bytes);
        if (bytes.length > 0) {
            var view = new ImageView(new Image(new ByteArrayInputStream(bytes)));
            view.setAccessibleText("A piece from the middle of the picture, pixel for pixel");
            nodes.add(view);
        }
        return nodes;
    }
}
