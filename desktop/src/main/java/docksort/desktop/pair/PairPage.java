package docksort.desktop.pair;

import docksort.arrival.Clip;
import docksort.catalogue.WorkingCopy;
import docksort.desktop.pair.PairModel.Mode;
import docksort.desktop.pair.PairModel.Size;
import docksort.desktop.parts.Parts;
import docksort.desktop.workshop.PairDesk;
import docksort.desktop.workshop.PairDesk.Answer;
import docksort.desktop.workshop.PairDesk.Side;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.stream.Stream;
import javafx.animation.Animation;
import javafx.animation.KeyFrame;
import javafx.animation.Timeline;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.ChoiceBox;
import javafx.scene.control.Label;
import javafx.scene.control.Slider;
import javafx.scene.control.TextField;
import javafx.scene.control.ToggleButton;
import javafx.scene.control.ToggleGroup;
import javafx.scene.control.Tooltip;
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
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import javafx.scene.shape.Line;
import javafx.scene.shape.Rectangle;
import javafx.util.Duration;
import javafx.util.StringConverter;

/// A recording and one of its copies at the same frame: one wiped over the other, side by side, in turn, or
/// their difference; down to single pixels; with the time that each took and how alike they are.
public final class PairPage {

    private static final double BLINK_MILLIS = 600;

    private final PairDesk desk;
    private final Clip clip;
    private final PairModel model;

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
    private final Button leastAlike = Parts.button("", this::toLeastAlike);

    private final Timeline blinking = new Timeline(new KeyFrame(Duration.millis(BLINK_MILLIS), _ -> blink()));

    private double grabbedX;
    private double grabbedY;

    /// @param ready its finished copies that have a picture, at least one
    /// @param first frame to begin with
    public PairPage(PairDesk desk, Clip clip, List<WorkingCopy> ready, long first, Runnable back) {
        this.desk = desk;
        this.clip = clip;
        this.model = new PairModel(clip);
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
                                + copy.place().height() + " · " + copy.place().codec()
                                + (copy.bakesLook() ? " · look" : "");
            }

            @Override
            public WorkingCopy fromString(String text) {
                throw new UnsupportedOperationException("it is only shown");
            }
        });
        copies.getSelectionModel().selectFirst();
        copies.valueProperty().subscribe((_, _) -> {
            model.otherCopy();
            likeness.setText("");
            nameLeastAlike();
            ask();
        });
        Button toList = Parts.button("Back to the list", back);
        toList.setId("back-to-list");
        Label name = Parts.label(clip.name(), "docket-name");
        name.setMinWidth(Region.USE_PREF_SIZE);
        copies.setMinWidth(60);
        var head = new HBox(8, name, Parts.label("beside", "quiet"), copies, Parts.spring(), toList);
        head.setAlignment(Pos.CENTER_LEFT);
        return head;
    }

    private Node controls() {
        var modes = new HBox();
        var group = new ToggleGroup();
        for (Mode each : Mode.values()) {
            ToggleButton button = toggle("pair-" + each.name().toLowerCase(Locale.ROOT), each.label(), group, () -> {
                model.show(each);
                if (each == Mode.BLINK) {
                    blinking.play();
                } else {
                    blinking.stop();
                }
                ask();
            });
            button.setSelected(each == model.mode());
            modes.getChildren().add(button);
        }
        var zooms = new HBox();
        var sizes = new ToggleGroup();
        for (int each : PairModel.ZOOMS) {
            ToggleButton button = toggle("pair-zoom-" + each, each == 0 ? "fit" : each + ":1", sizes, () -> {
                model.zoomTo(each);
                ask();
            });
            button.setSelected(each == model.zoom());
            zooms.getChildren().add(button);
        }
        return new FlowPane(14, 6, modes, zooms); // goes on in a second line where text is large
    }

    private static ToggleButton toggle(String id, String text, ToggleGroup group, Runnable chosen) {
        var button = new ToggleButton(text);
        button.setId(id);
        button.getStyleClass().setAll("order");
        button.setToggleGroup(group);
        button.setMinWidth(Region.USE_PREF_SIZE);
        button.setOnAction(_ -> {
            button.setSelected(true);
            chosen.run();
        });
        return button;
    }

    private Node scrub(long first) {
        slider.setId("pair-frame");
        slider.setAccessibleText("Frame");
        slider.setMax((double) model.lastFrame());
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
            Optional<Long> frame = model.frameOf(jump.getText());
            frame.ifPresent(number -> slider.setValue((double) number));
            jump.setText(frame.isPresent() ? "" : jump.getText());
        });
        VBox checkedJump = Parts.checked(jump, model::fault);
        place.setMinWidth(Region.USE_PREF_SIZE);
        var row = new HBox(8, before, after, slider, place, checkedJump);
        row.setAlignment(Pos.CENTER_LEFT);
        return row;
    }

    private Node figures() {
        Button here = Parts.button("How alike here", () -> compare(List.of(frame())));
        here.setId("pair-alike-here");
        Button over =
                Parts.button("At " + PairModel.PLACES + " places", () -> compare(model.places(copies.getValue())));
        over.setId("pair-alike-over");
        likeness.setMinWidth(0);
        likeness.setId("pair-likeness");
        leastAlike.setId("pair-least-alike");
        leastAlike.setTooltip(
                new Tooltip("The frame of the copy that came out farthest from its original when it was checked"));
        nameLeastAlike();
        var alike = new HBox(8, here, over, leastAlike, likeness);
        alike.setAlignment(Pos.CENTER_LEFT);
        return new VBox(6, alike, new FlowPane(14, 4, times, Parts.label("← → one frame, with Shift ten", "quiet")));
    }

    /// Of a copy of which not every frame was compared there is none.
    private void nameLeastAlike() {
        Optional<Long> frame = Optional.ofNullable(copies.getValue()).flatMap(PairModel::leastAlike);
        shown(leastAlike, frame.isPresent());
        frame.ifPresent(number -> leastAlike.setText("To the least alike frame, " + number));
    }

    private void toLeastAlike() {
        PairModel.leastAlike(copies.getValue()).ifPresent(number -> slider.setValue((double) number));
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

    private void ask() {
        if (picture.getWidth() < 40 || picture.getHeight() < 40 || copies.getValue() == null) {
            return;
        }
        long frame = frame();
        place.setText(model.place(frame));
        WorkingCopy copy = copies.getValue();
        Optional<String> why = PairModel.lacks(copy, frame);
        if (why.isEmpty()) {
            desk.show(clip, copy, model.wanted(frame, size()), this::show);
        } else {
            fault.setText(why.get());
            shown(fault, true);
        }
    }

    private Size size() {
        return model.size(picture.getWidth(), picture.getHeight());
    }

    private void show(Answer answer) {
        draw(original, answer.original());
        draw(copyView, answer.copy());
        model.took(
                answer.wanted().frame(),
                answer.original().map(Side::millis),
                answer.copy().map(Side::millis));
        String faults = String.join(
                " ",
                Stream.of(answer.originalFault(), answer.copyFault())
                        .flatMap(Optional::stream)
                        .toList());
        fault.setText(faults);
        shown(fault, !faults.isEmpty());
        times.setText(model.times());
        originalName.setText(PairModel.originalName(copies.getValue(), answer.throughLook()));
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

    private void lay() {
        Size size = size();
        double left = model.mode() == Mode.SIDE ? 0 : (picture.getWidth() - size.width()) / 2;
        double top = (picture.getHeight() - size.height()) / 2;
        original.relocate(left, top);
        double right = model.mode() == Mode.SIDE ? size.width() + (double) PairModel.GAP : left;
        copyView.relocate(right, top);
        copyView.setBlendMode(model.mode() == Mode.DIFFERENCE ? BlendMode.DIFFERENCE : null);
        copyView.setOpacity(1);
        copyView.setClip(
                model.mode() == Mode.WIPE
                        ? new Rectangle(
                                size.width() * model.wipe(), 0, size.width() * (1 - model.wipe()), size.height())
                        : null);
        double x = left + size.width() * model.wipe();
        wipeLine.setStartX(x);
        wipeLine.setEndX(x);
        wipeLine.setStartY(top);
        wipeLine.setEndY(top + size.height());
        wipeLine.setVisible(model.mode() == Mode.WIPE);
        copyName.setText(
                model.mode() == Mode.DIFFERENCE
                        ? "difference"
                        : copies.getValue().kind().label() + " copy");
        originalName.setVisible(model.mode() != Mode.DIFFERENCE);
        originalName.relocate(left + 8, top + 8);
        copyName.applyCss();
        copyName.autosize();
        copyName.relocate(right + size.width() - copyName.prefWidth(-1) - 8, top + 8);
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
        double byX = event.getX() - grabbedX;
        double byY = event.getY() - grabbedY;
        grabbedX = event.getX();
        grabbedY = event.getY();
        if (model.drag(event.getX(), byX, byY, picture.getWidth(), size(), event.isAltDown())) {
            ask();
        } else {
            lay();
        }
    }

    private void compare(List<Long> frames) {
        likeness.setText("Comparing …");
        desk.compare(
                clip,
                copies.getValue(),
                frames,
                done -> likeness.setText("Compared " + done + " of " + frames.size()),
                found -> likeness.setText(PairModel.inWords(found)));
    }

    private static void shown(Node node, boolean visible) {
        node.setVisible(visible);
        node.setManaged(visible);
    }
}
