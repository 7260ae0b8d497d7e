package docksort.desktop.sort;

import docksort.arrival.Clip;
import docksort.desktop.parts.Parts;
import docksort.desktop.workshop.Workshop;
import docksort.files.Documents;
import docksort.media.ByteSize;
import docksort.media.CopyForm;
import docksort.problem.CoreException;
import docksort.sort.PlannedCopy;
import docksort.sort.Recipe;
import docksort.sort.SortBook;
import docksort.sort.Tried;
import docksort.strain.BayProfile;
import docksort.strain.PlaybackBudget;
import java.io.ByteArrayInputStream;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.CompletableFuture;
import java.util.stream.Collectors;
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
    private final SortBook book;
    private final List<Clip> clips;
    private final Runnable done;
    private final VBox lines = new VBox(2);
    private final TextField streams = new TextField("3");
    private final Map<String, Tried> tried = new HashMap<>();
    private List<PlannedCopy> planned = List.of();
    private Optional<BayProfile> bay = Optional.empty();

    ComparePage(Workshop workshop, SortBook book, List<Clip> clips, Runnable done) {
        this.workshop = workshop;
        this.book = book;
        this.clips = clips;
        this.done = done;
        load();
    }

    List<Node> nodes() {
        var nodes = new ArrayList<Node>();
        nodes.add(Parts.button("Back to the load sheet", done, "link"));
        nodes.add(Parts.label("Recipes compared", "docket-name"));
        nodes.add(
                Parts.wrapped(clips.size() == 1 ? clips.getFirst().name() : clips.size() + " selected clips", "mono"));
        Button trial = Parts.button("Try seconds of " + clips.getFirst().name(), this::tryOut);
        trial.setId("try-recipes");
        trial.setDisable(!clips.getFirst().facts().isDecodable());
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
                .planned(clips, book.recipes())
                .thenAccept(copies -> Platform.runLater(() -> {
                    planned = copies;
                    show();
                }));
    }

    /// Makes some seconds of the first clip by every recipe.
    CompletableFuture<Void> tryOut() {
        return workshop.sort()
                .compare(clips.getFirst(), book.recipes())
                .thenAccept(results -> Platform.runLater(() -> {
                    results.forEach(result -> tried.put(result.name(), result));
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
                        bay = Optional.of(BayProfile.read(Documents.read(file.toPath()), file.toString()));
                        show();
                    } catch (CoreException e) {
                        workshop.troubles().latest().set(Optional.of(e.problem()));
                    }
                });
    }

    private void show() {
        if (planned.isEmpty()) {
            return;
        }
        lines.getChildren().clear();
        long original =
                clips.stream().mapToLong(clip -> clip.facts().size().bytes()).sum();
        long most = original;
        for (Recipe recipe : book.recipes()) {
            most = Math.max(most, likely(of(recipe)));
        }
        lines.getChildren()
                .add(line(
                        "The original", new ByteSize(original).label(), "", original, most, List.of(), "the original"));
        for (Recipe recipe : book.recipes()) {
            List<PlannedCopy> made =
                    of(recipe).stream().filter(copy -> copy.form().isPresent()).toList();
            if (made.isEmpty()) {
                continue;
            }
            boolean exact = made.stream().allMatch(copy -> copy.bytes().isExact());
            long likely = likely(made);
            String time = made.stream()
                    .map(PlannedCopy::time)
                    .reduce((a, b) -> a.plus(b))
                    .map(all -> all.label())
                    .orElse("");
            lines.getChildren()
                    .add(line(
                            recipe.label(),
                            (exact ? "" : "about ") + new ByteSize(likely),
                            time,
                            likely,
                            most,
                            made,
                            recipe.label()));
        }
    }

    private List<PlannedCopy> of(Recipe recipe) {
        return planned.stream()
                .filter(copy -> copy.recipe().id().equals(recipe.id()))
                .toList();
    }

    private static long likely(List<PlannedCopy> copies) {
        return copies.stream().mapToLong(copy -> copy.bytes().likely().bytes()).sum();
    }

    private Node line(
            String title, String bytes, String time, long likely, long most, List<PlannedCopy> made, String name) {
        var bar = new Region();
        bar.getStyleClass().add("lever-bar");
        bar.setMinSize(Math.max(2, WIDTH * likely / most), 6);
        bar.setMaxSize(Math.max(2, WIDTH * likely / most), 6);
        var box = new VBox(4, Parts.wrapped(title), bar);
        box.getChildren().add(new HBox(10, Parts.label(bytes, "mono"), Parts.label(time, "quiet")));
        String forms = made.stream()
                .flatMap(copy -> copy.form().stream())
                .map(form -> form.label())
                .distinct()
                .limit(3)
                .collect(Collectors.joining(", "));
        if (!forms.isEmpty()) {
            box.getChildren().add(Parts.wrapped(forms, "quiet"));
            made.stream()
                    .findFirst()
                    .flatMap(this::budget)
                    .ifPresent(words -> box.getChildren().add(Parts.wrapped(words, "quiet")));
        }
        Optional.ofNullable(tried.get(name))
                .ifPresent(result -> box.getChildren().addAll(figures(result)));
        box.getStyleClass().add("reason");
        return box;
    }

    private Optional<String> budget(PlannedCopy copy) {
        try {
            int count = Math.clamp(Integer.parseInt(streams.getText().strip()), 1, 99);
            double frames = Math.max(1, copy.form().orElseThrow().frames());
            Optional<Double> volume = workshop.sort().volumeSpeed();
            return copy.form()
                    .filter(form -> form.target().isPresent())
                    .map(form -> PlaybackBudget.of(
                                    count, form, copy.bytes().likely().bytes() / frames, volume, machine(copy, form))
                            .sentence());
        } catch (NumberFormatException e) {
            return Optional.empty();
        }
    }

    /// The machine that was chosen, or this one as far as the recipe was tried here.
    private Optional<BayProfile> machine(PlannedCopy copy, CopyForm form) {
        return bay.or(() -> Optional.ofNullable(tried.get(copy.recipe().label()))
                .map(result -> BayProfile.of(
                        "this machine",
                        0,
                        Map.of(
                                form.target().orElseThrow(),
                                result.playRatio().median()
                                        * form.rate().exact().toDouble()
                                        * form.raster().pixels()))));
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
