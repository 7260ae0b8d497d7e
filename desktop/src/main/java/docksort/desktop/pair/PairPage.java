package docksort.desktop.pair;

import docksort.arrival.Clip;
import docksort.catalogue.WorkingCopy;
import docksort.desktop.parts.Parts;
import docksort.desktop.workshop.PairDesk;
import docksort.desktop.workshop.PairDesk.Answer;
import docksort.desktop.workshop.PairDesk.Likeness;
import docksort.desktop.workshop.PairDesk.Side;
import docksort.desktop.workshop.PairDesk.Wanted;
import docksort.media.FrameRange;
import docksort.media.Timecode;
import docksort.media.VideoFacts;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import javafx.animation.Animation;
import javafx.animation.KeyFrame;
import javafx.animation.Timeline;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.ChoiceBox;
import javafx.scene.control.Label;
import javafx.scene.control.Slider;
import javafx.scene.control.TextField;
import javafx.scene.control.ToggleButton;
import javafx.scene.control.ToggleGroup;
import javafx.scene.effect.BlendMode;
import javafx.scene.image.ImageView;
import javafx.scene.image.PixelFormat;
import javafx.scene.image.WritableImage;
import javafx.scene.input.KeyEvent;
import javafx.scene.input.MouseEvent;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Pane;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;
import javafx.scene.shape.Line;
import javafx.scene.shape.Rectangle;
import javafx.util.Duration;
import javafx.util.StringConverter;

/// A recording and one of its copies at the same frame: one wiped over the other, side by side, in turn, or
/// their difference; down to single pixels; with the time that each took and how alike they are.
public final class PairPage {
    private static final int PLACES = 12;
    private static final int REMEMBERED = 30;
    private static final long NOWHERE = -10;
    private static final double BLINK_MILLIS = 600;

    private enum Mode {
        WIPE("wipe"),
        SIDE("side by side"),
        BLINK("in turn"),
        DIFFERENCE("difference");

        private final String label;

        Mode(String label) {
            this.label = label;
        }
    }

    /// Pixels of the window for one of the original; 0 fits the picture.
    private static final List<Integer> ZOOMS = List.of(0, 1, 2, 4, 8);

    private final PairDesk desk;
    private final Clip clip;
    private final VideoFacts video;
    private final VBox page = new VBox(8);
    private final Pane picture = new Pane();
    private final ImageView original = new ImageView();
    private final ImageView copyView = new ImageView();
    private final Line wipeLine = new Line();
    private final Label originalName = Parts.label("original", "picture-name");
    private final Label copyName = Parts.label("", "picture-name");
    private final Label fault = Parts.wrapped("", "look");
    private final ChoiceBox<WorkingCopy> copies = new ChoiceBox<>();
    private final Slider slider = new Slider();
    private final Label place = Parts.label("", "mono");
    private final Label times = Parts.label("", "quiet");
    private final Label likeness = Parts.label("", "quiet");
    private final Deque<Double> originalMillis = new ArrayDeque<>();
    private final Deque<Double> copyMillis = new ArrayDeque<>();
    private final Timeline blinking = new Timeline(new KeyFrame(Duration.millis(BLINK_MILLIS), _ -> blink()));
    private Mode mode = Mode.WIPE;
    private int zoom;
    private long timed = NOWHERE;
    private double wipe = 0.5;
    private double centreX = 0.5;
    private double centreY = 0.5;
    private double grabbedX;
    private double grabbedY;

    /// @param ready its finished copies that have a picture, at least one
    /// @param first frame to begin with
    public PairPage(PairDesk desk, Clip clip, List<WorkingCopy> ready, long first, Runnable back) {
        this.desk = desk;
        this.clip = clip;
        this.video = clip.facts().video().orElseThrow();
        blinking.setCycleCount(Animation.INDEFINITE);
        page.setId("pair");
        page.getStyleClass().add("pair");
        page.getChildren().addAll(head(ready, back), controls(), picture, fault, scrub(first), figures());
        VBox.setVgrow(picture, Priority.ALWAYS);
        picture.setMinSize(0, 0);
        picture.setId("pair-picture");
        picture.getStyleClass().add("pair-picture");
        picture.setAccessibleText("Original and copy at the same frame");
        picture.getChildren().addAll(original, copyView, wipeLine, originalName, copyName);
        wipeLine.getStyleClass().add("wipe-line");
        picture.widthProperty().subscribe(_ -> ask());
        picture.heightProperty().subscribe(_ -> ask());
        picture.setOnMousePressed(this::grab);
        picture.setOnMouseDragged(this::drag);
        var clipping = new Rectangle();
        clipping.widthProperty().bind(picture.widthProperty());
        clipping.heightProperty().bind(picture.heightProperty());
        picture.setClip(clipping);
        page.addEventFilter(KeyEvent.KEY_PRESSED, this::key);
        page.sceneProperty().subscribe(scene -> {
            if (scene == null) {
                blinking.stop();
            }
        });
        shown(fault, false);
    }

    public Node node() {
        return page;
    }

    private Node head(List<WorkingCopy> ready, Runnable back) {
        copies.setId("pair-copy");
        copies.setAccessibleText("The copy beside it");
        copies.getItems().setAll(ready);
        copies.setConverter(new StringConverter<>() {
            @Override
            public String toString(WorkingCopy copy) {
                return copy == null
                        ? ""
                        : copy.kind().label() + " · " + copy.place().width() + "×"
                                + copy.place().height() + " · " + copy.place().codec();
            }

            @Override
            public WorkingCopy fromString(String text) {
                throw new UnsupportedOperationException("it is only shown");
            }
        });
        copies.getSelectionModel().selectFirst();
        copies.valueProperty().subscribe((_, _) -> {
            copyMillis.clear();
            originalMillis.clear();
            timed = NOWHERE;
            likeness.setText("");
            ask();
        });
        Button toList = Parts.button("Back to the list", back);
        toList.setId("back-to-list");
        Label name = Parts.label(clip.name(), "docket-name");
        name.setMinWidth(javafx.scene.layout.Region.USE_PREF_SIZE);
        copies.setMinWidth(60);
        var head = new HBox(8, name, Parts.label("beside", "quiet"), copies, Parts.spring(), toList);
        head.setAlignment(javafx.geometry.Pos.CENTER_LEFT);
        return head;
    }

    private Node controls() {
        var modes = new HBox();
        var group = new ToggleGroup();
        for (Mode each : Mode.values()) {
            ToggleButton button = toggle("pair-" + each.name().toLowerCase(Locale.ROOT), each.label, group, () -> {
                mode = each;
                if (each == Mode.BLINK) {
                    blinking.play();
                } else {
                    blinking.stop();
                }
                ask();
            });
            button.setSelected(each == mode);
            modes.getChildren().add(button);
        }
        var zooms = new HBox();
        var sizes = new ToggleGroup();
        for (int each : ZOOMS) {
            ToggleButton button = toggle("pair-zoom-" + each, each == 0 ? "fit" : each + ":1", sizes, () -> {
                zoom = each;
                ask();
            });
            button.setSelected(each == zoom);
            zooms.getChildren().add(button);
        }
        return new FlowPane(14, 6, modes, zooms); // goes on in a second line where text is large
    }

    private static ToggleButton toggle(String id, String text, ToggleGroup group, Runnable chosen) {
        var button = new ToggleButton(text);
        button.setId(id);
        button.getStyleClass().setAll("order");
        button.setToggleGroup(group);
        button.setMinWidth(javafx.scene.layout.Region.USE_PREF_SIZE);
        button.setOnAction(_ -> {
            button.setSelected(true);
            chosen.run();
        });
        return button;
    }

    private Node scrub(long first) {
        slider.setId("pair-frame");
        slider.setAccessibleText("Frame");
        slider.setMax((double) Math.max(0, video.frames().count() - 1));
        slider.setBlockIncrement(1);
        slider.setValue((double) first);
        slider.valueProperty().subscribe((_, _) -> ask());
        HBox.setHgrow(slider, Priority.ALWAYS);
        Button before = Parts.button("<", () -> step(-1));
        before.setAccessibleText("One frame back");
        Button after = Parts.button(">", () -> step(1));
        after.setId("pair-next");
        after.setAccessibleText("One frame on");
        var jump = new TextField();
        jump.setId("pair-jump");
        jump.setPromptText("Timecode or frame");
        jump.setAccessibleText("Jump to a timecode or frame");
        jump.setPrefColumnCount(11);
        jump.setMinWidth(60);
        jump.setOnAction(_ -> {
            Optional<Long> frame = frameOf(jump.getText());
            frame.ifPresent(number -> slider.setValue((double) number));
            jump.setText(frame.isPresent() ? "" : jump.getText());
        });
        VBox checkedJump = Parts.checked(
                jump,
                text -> text.isBlank() || frameOf(text).isPresent()
                        ? Optional.empty()
                        : Optional.of("a frame to " + Math.round(slider.getMax()) + ", or its timecode"));
        place.setMinWidth(javafx.scene.layout.Region.USE_PREF_SIZE);
        var row = new HBox(8, before, after, slider, place, checkedJump);
        row.setAlignment(javafx.geometry.Pos.CENTER_LEFT);
        return row;
    }

    private Node figures() {
        Button here = Parts.button("How alike here", () -> compare(List.of(frame())));
        here.setId("pair-alike-here");
        Button over = Parts.button("At " + PLACES + " places", () -> compare(places()));
        over.setId("pair-alike-over");
        likeness.setMinWidth(0);
        var alike = new HBox(8, here, over, likeness);
        alike.setAlignment(javafx.geometry.Pos.CENTER_LEFT);
        return new VBox(6, alike, new FlowPane(14, 4, times, Parts.label("← → one frame, with Shift ten", "quiet")));
    }

    private long frame() {
        return Math.round(slider.getValue());
    }

    private void step(int frames) {
        slider.setValue(Math.clamp((double) (frame() + frames), 0, slider.getMax()));
    }

    private void key(KeyEvent event) {
        if (event.getTarget() instanceof TextField) {
            return;
        }
        int many = event.isShiftDown() ? 10 : 1;
        switch (event.getCode()) {
            case LEFT -> step(-many);
            case RIGHT -> step(many);
            case HOME -> slider.setValue(0);
            case END -> slider.setValue(slider.getMax());
            default -> {
                return;
            }
        }
        event.consume();
    }

    private Optional<Long> frameOf(String text) {
        try {
            long frame = text.strip().matches("\\d{1,9}")
                    ? Long.parseLong(text.strip())
                    : Timecode.parse(text.strip(), video.rate()).frameOfDay()
                            - clip.facts()
                                    .startTimecode()
                                    .map(Timecode::frameOfDay)
                                    .orElse(0L);
            return Optional.of(frame).filter(number -> number >= 0 && number <= slider.getMax());
        } catch (IllegalArgumentException e) {
            return Optional.empty();
        }
    }

    // Asking for a frame

    private record Size(int width, int height) {}

    /// The largest size of the picture's shape that fits.
    private Size size() {
        double wide = mode == Mode.SIDE ? (picture.getWidth() - 8) / 2 : picture.getWidth();
        double aspect =
                (double) video.displayRaster().width() / video.displayRaster().height();
        double width = Math.min(wide, picture.getHeight() * aspect);
        return new Size((int) Math.max(16, width), (int) Math.max(16, Math.round(width / aspect)));
    }

    private double share() {
        return zoom == 0
                ? 1
                : Math.min(
                        1, size().width / (double) (zoom * video.uprightRaster().width()));
    }

    private void ask() {
        if (picture.getWidth() < 40 || picture.getHeight() < 40 || copies.getValue() == null) {
            return;
        }
        Size size = size();
        double share = share();
        double left = Math.clamp(centreX - share / 2, 0, 1 - share);
        double top = Math.clamp(centreY - share / 2, 0, 1 - share);
        long frame = frame();
        place.setText(frame + " of " + (long) slider.getMax()
                + clip.facts()
                        .startTimecode()
                        .map(start -> "  " + start.plus(frame))
                        .orElse(""));
        WorkingCopy copy = copies.getValue();
        boolean inCopy = copy.range()
                .map(range -> range.contains(new FrameRange(frame, 1)))
                .orElse(true);
        if (inCopy) {
            desk.show(clip, copy, new Wanted(frame, left, top, share, size.width, size.height), this::show);
        } else {
            fault.setText("The copy holds " + copy.range().orElseThrow().inWords() + " only.");
            shown(fault, true);
        }
    }

    private void show(Answer answer) {
        draw(original, answer.original());
        draw(copyView, answer.copy());
        // The same frame again takes no time, and the next was mostly decoded with the one before.
        boolean jump = Math.abs(answer.wanted().frame() - timed) > 1;
        timed = answer.wanted().frame();
        if (jump) {
            answer.original().ifPresent(side -> remember(originalMillis, side.millis()));
            answer.copy().ifPresent(side -> remember(copyMillis, side.millis()));
        }
        String faults = String.join(
                " ",
                java.util.stream.Stream.of(answer.originalFault(), answer.copyFault())
                        .flatMap(Optional::stream)
                        .toList());
        fault.setText(faults);
        shown(fault, !faults.isEmpty());
        times.setText("A jump is reached in: original " + median(originalMillis) + ", copy " + median(copyMillis)
                + " (median of the last " + Math.max(1, originalMillis.size()) + ")");
        lay();
    }

    private static void draw(ImageView view, Optional<Side> side) {
        view.setVisible(side.isPresent());
        side.ifPresent(shown -> {
            var image = new WritableImage(shown.width(), shown.height());
            image.getPixelWriter()
                    .setPixels(
                            0,
                            0,
                            shown.width(),
                            shown.height(),
                            PixelFormat.getByteBgraInstance(),
                            shown.pixels().duplicate(),
                            shown.width() * 4);
            view.setImage(image);
        });
    }

    private static void remember(Deque<Double> millis, double one) {
        millis.addLast(one);
        if (millis.size() > REMEMBERED) {
            millis.removeFirst();
        }
    }

    private static String median(Deque<Double> millis) {
        if (millis.isEmpty()) {
            return "not shown";
        }
        double[] sorted =
                millis.stream().mapToDouble(Double::doubleValue).sorted().toArray();
        double middle = sorted[sorted.length / 2];
        return String.format(Locale.ROOT, middle < 10 ? "%.1f ms" : "%.0f ms", middle);
    }

    private void lay() {
        Size size = size();
        double left = mode == Mode.SIDE ? 0 : (picture.getWidth() - size.width) / 2;
        double top = (picture.getHeight() - size.height) / 2;
        original.relocate(left, top);
        double right = mode == Mode.SIDE ? size.width + 8.0 : left;
        copyView.relocate(right, top);
        copyView.setBlendMode(mode == Mode.DIFFERENCE ? BlendMode.DIFFERENCE : null);
        copyView.setOpacity(1);
        copyView.setClip(
                mode == Mode.WIPE ? new Rectangle(size.width * wipe, 0, size.width * (1 - wipe), size.height) : null);
        double x = left + size.width * wipe;
        wipeLine.setStartX(x);
        wipeLine.setEndX(x);
        wipeLine.setStartY(top);
        wipeLine.setEndY(top + size.height);
        wipeLine.setVisible(mode == Mode.WIPE);
        copyName.setText(
                mode == Mode.DIFFERENCE
                        ? "difference"
                        : copies.getValue().kind().label() + " copy");
        originalName.setVisible(mode != Mode.DIFFERENCE);
        originalName.relocate(left + 8, top + 8);
        copyName.applyCss();
        copyName.autosize();
        copyName.relocate(right + size.width - copyName.prefWidth(-1) - 8, top + 8);
    }

    private void blink() {
        copyView.setOpacity(copyView.getOpacity() > 0 ? 0 : 1);
        originalName.setVisible(copyView.getOpacity() == 0);
        copyName.setVisible(copyView.getOpacity() > 0);
    }

    private void grab(MouseEvent event) {
        grabbedX = event.getX();
        grabbedY = event.getY();
        picture.requestFocus();
    }

    /// Moves the wipe, or the part that is shown where it is larger than the place for it.
    private void drag(MouseEvent event) {
        Size size = size();
        if (mode == Mode.WIPE && (zoom == 0 || event.isAltDown() || share() >= 1)) {
            double left = (picture.getWidth() - size.width) / 2;
            wipe = Math.clamp((event.getX() - left) / size.width, 0, 1);
            lay();
            return;
        }
        double share = share();
        centreX = Math.clamp(centreX - (event.getX() - grabbedX) / size.width * share, share / 2, 1 - share / 2);
        centreY = Math.clamp(centreY - (event.getY() - grabbedY) / size.height * share, share / 2, 1 - share / 2);
        grabbedX = event.getX();
        grabbedY = event.getY();
        ask();
    }

    // How alike

    private List<Long> places() {
        FrameRange range = copies.getValue()
                .range()
                .orElse(new FrameRange(0, Math.max(1, video.frames().count())));
        var frames = new ArrayList<Long>();
        for (int i = 0; i < PLACES; i++) {
            frames.add(range.first() + (range.count() - 1) * i / (PLACES - 1));
        }
        return frames.stream().distinct().toList();
    }

    private void compare(List<Long> frames) {
        likeness.setText("Comparing …");
        desk.compare(
                clip,
                copies.getValue(),
                frames,
                done -> likeness.setText("Compared " + done + " of " + frames.size()),
                found -> likeness.setText(
                        found.map(PairPage::inWords).orElse("They could not be compared: see the message above")));
    }

    private static String inWords(Likeness found) {
        String psnr = Double.isInfinite(found.psnr())
                ? "PSNR infinite, they are equal"
                : String.format(Locale.ROOT, "PSNR %.1f dB", found.psnr());
        return found.places() == 1
                ? String.format(Locale.ROOT, "luma SSIM %.4f, %s, at frame %d", found.ssim(), psnr, found.lowestAt())
                : String.format(
                        Locale.ROOT,
                        "luma SSIM %.4f, lowest %.4f at frame %d, %s, over %d places",
                        found.ssim(),
                        found.lowestSsim(),
                        found.lowestAt(),
                        psnr,
                        found.places());
    }

    private static void shown(Node node, boolean visible) {
        node.setVisible(visible);
        node.setManaged(visible);
    }
}
