package docksort.desktop.arrivals;

import docksort.desktop.parts.Parts;
import docksort.strain.Verdict;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.function.Consumer;
import javafx.geometry.Rectangle2D;
import javafx.scene.control.Label;
import javafx.scene.input.MouseEvent;
import javafx.scene.layout.Pane;
import javafx.scene.shape.ArcTo;
import javafx.scene.shape.ClosePath;
import javafx.scene.shape.LineTo;
import javafx.scene.shape.MoveTo;
import javafx.scene.shape.Path;
import javafx.scene.shape.PathElement;
import javafx.scene.shape.Rectangle;

/// All clips as dots: pixels a second to the right, frames decoded to show one upwards, both by powers of
/// ten; the area of a dot is its bytes. A rubber band selects. Verdicts are told by shape: open circle,
/// full circle, lozenge, cross.
final class StrainMap extends Pane {
    private static final String ADVICE = "Draw a band around dots to select them; point at one for its name.";
    private static final double USUAL_LINE = 20; // height of a line of text at 100 %
    private static final double LEFT = 64;
    private static final double RIGHT = 44;
    private static final double TOP = 34;
    private static final double BOTTOM = 66;
    private static final double SMALLEST = 4;
    private static final double LARGEST = 15;
    private static final double LOWEST_RATE = 6; // a million pixels a second
    private static final double RATE_DECADES = 4;
    private static final double COST_DECADES = 3;

    private final Map<Verdict, Path> dots = new EnumMap<>(Verdict.class);
    private final Path chosen = path("map-chosen");
    private final Path grid = path("map-grid");
    private final Rectangle band = new Rectangle();
    private final Label under = Parts.label(ADVICE, "quiet");
    private final List<Dot> drawn = new ArrayList<>();
    private final List<Label> scale = new ArrayList<>();
    private final Consumer<List<ClipRow.Known>> taker;
    private List<ClipRow.Known> rows = List.of();
    private List<ClipRow> selected = List.of();
    private double size = 1; // of the text, against 100 %
    private double bandX;
    private double bandY;

    private record Dot(ClipRow.Known row, double x, double y, double radius) {}

    /// @param taker hears what the rubber band, or a click, selected
    StrainMap(Consumer<List<ClipRow.Known>> taker) {
        this.taker = taker;
        getStyleClass().add("strain-map");
        setId("strain-map");
        band.getStyleClass().add("map-band");
        band.setVisible(false);
        getChildren().add(grid);
        for (Verdict verdict : Verdict.values()) {
            Path path = path("map-dot");
            path.getStyleClass()
                    .add("map-" + verdict.name().toLowerCase(Locale.ROOT).replace('_', '-'));
            dots.put(verdict, path);
            getChildren().add(path);
        }
        getChildren().addAll(chosen, band, under);
        setOnMousePressed(this::press);
        setOnMouseDragged(this::drag);
        setOnMouseReleased(_ -> release());
        setOnMouseMoved(event -> tellUnder(event.getX(), event.getY()));
        setMinSize(300, 240);
    }

    private static Path path(String style) {
        var path = new Path();
        path.getStyleClass().setAll(style);
        path.setMouseTransparent(true);
        return path;
    }

    void show(List<? extends ClipRow> all) {
        rows = all.stream()
                .filter(ClipRow.Known.class::isInstance)
                .map(ClipRow.Known.class::cast)
                .filter(row -> row.video().isPresent())
                .toList();
        requestLayout();
    }

    void showSelected(List<ClipRow> now) {
        selected = List.copyOf(now);
        drawSelected();
    }

    @Override
    protected void layoutChildren() {
        size = Math.max(1, under.prefHeight(-1) / USUAL_LINE);
        under.resizeRelocate(LEFT * size, 4, Math.max(0, getWidth() - LEFT * size - 8), USUAL_LINE * size);
        drawScale();
        drawDots();
        drawSelected();
    }

    private double x(double pixelsPerSecond) {
        double share = (Math.log10(Math.max(1, pixelsPerSecond)) - LOWEST_RATE) / RATE_DECADES;
        return LEFT * size + Math.clamp(share, 0, 1) * Math.max(1, getWidth() - (LEFT + RIGHT) * size);
    }

    private double y(double cost) {
        double share = Math.log10(Math.max(1, cost)) / COST_DECADES;
        return bottom() - Math.clamp(share, 0, 1) * Math.max(1, bottom() - TOP * size);
    }

    private double bottom() {
        return getHeight() - BOTTOM * size;
    }

    private void drawScale() {
        getChildren().removeAll(scale);
        scale.clear();
        grid.getElements().clear();
        String[] rates = {"1 M", "10 M", "100 M", "1000 M", "10,000 M"};
        for (int i = 0; i < rates.length; i++) {
            double at = x(Math.pow(10, LOWEST_RATE + i));
            line(at, TOP * size, at, bottom());
            label(rates[i], at - 36 * size, bottom() + 2, 72 * size, "map-middle");
        }
        for (int i = 0; i <= COST_DECADES; i++) {
            double at = y(Math.pow(10, i));
            line(LEFT * size, at, getWidth() - RIGHT * size, at);
            label(Integer.toString((int) Math.pow(10, i)), 0, at - 10 * size, (LEFT - 8) * size, "map-right");
        }
        double room = getWidth() - LEFT * size - 8;
        label(
                "pixels a second to play \u2192   area of a dot: bytes",
                LEFT * size,
                bottom() + USUAL_LINE * size,
                room,
                "quiet");
        label(
                "\u25CB easy   \u25CF fair   \u25C6 hard   \u2715 out of reach",
                LEFT * size,
                bottom() + USUAL_LINE * 2 * size,
                room,
                "quiet");
        label("\u2191 frames decoded to show one", (LEFT + 6) * size, TOP * size, 300 * size, "quiet");
    }

    private void line(double fromX, double fromY, double toX, double toY) {
        grid.getElements().addAll(new MoveTo(fromX, fromY), new LineTo(toX, toY));
    }

    private void label(String text, double x, double y, double width, String style) {
        Label label = Parts.label(text, style);
        label.setMouseTransparent(true);
        scale.add(label);
        getChildren().add(label);
        label.resizeRelocate(x, y, Math.max(10, width), USUAL_LINE * size);
    }

    private void drawDots() {
        drawn.clear();
        dots.values().forEach(path -> path.getElements().clear());
        double most = rows.stream()
                .mapToDouble(row -> (double) row.clip().facts().size().bytes())
                .max()
                .orElse(1);
        for (ClipRow.Known row : rows) {
            double cost = row.strain().scrubCost().map(c -> c.mean().toDouble()).orElse(1.0);
            double radius = Math.max(
                    SMALLEST,
                    LARGEST * Math.sqrt((double) row.clip().facts().size().bytes() / Math.max(1, most)));
            double x = x((double) row.video().orElseThrow().pixelsPerSecond());
            var dot = new Dot(row, x, y(cost), radius);
            drawn.add(dot);
            Objects.requireNonNull(dots.get(row.verdict())).getElements().addAll(shape(dot));
        }
        setAccessibleText(rows.size() + " clips by pixels a second and scrub cost");
    }

    private static List<PathElement> shape(Dot dot) {
        return switch (dot.row.verdict()) {
            case EASY, FAIR -> circle(dot.x, dot.y, dot.radius);
            case HARD ->
                List.of(
                        new MoveTo(dot.x, dot.y - dot.radius),
                        new LineTo(dot.x + dot.radius, dot.y),
                        new LineTo(dot.x, dot.y + dot.radius),
                        new LineTo(dot.x - dot.radius, dot.y),
                        new ClosePath());
            case OUT_OF_REACH ->
                List.of(
                        new MoveTo(dot.x - dot.radius, dot.y - dot.radius),
                        new LineTo(dot.x + dot.radius, dot.y + dot.radius),
                        new MoveTo(dot.x + dot.radius, dot.y - dot.radius),
                        new LineTo(dot.x - dot.radius, dot.y + dot.radius));
        };
    }

    private static List<PathElement> circle(double x, double y, double radius) {
        return List.of(
                new MoveTo(x + radius, y),
                new ArcTo(radius, radius, 0, x - radius, y, false, true),
                new ArcTo(radius, radius, 0, x + radius, y, false, true),
                new ClosePath());
    }

    private void drawSelected() {
        chosen.getElements().clear();
        var wanted = new HashSet<>(selected);
        for (Dot dot : drawn) {
            if (wanted.contains(dot.row)) {
                chosen.getElements().addAll(circle(dot.x, dot.y, dot.radius + 3));
            }
        }
    }

    private void press(MouseEvent event) {
        bandX = event.getX();
        bandY = event.getY();
    }

    private void drag(MouseEvent event) {
        band.setX(Math.min(bandX, event.getX()));
        band.setY(Math.min(bandY, event.getY()));
        band.setWidth(Math.abs(event.getX() - bandX));
        band.setHeight(Math.abs(event.getY() - bandY));
        band.setVisible(true);
        under.setText(within(area()).size() + " clips in the band");
    }

    private Rectangle2D area() {
        return band.isVisible()
                ? new Rectangle2D(band.getX(), band.getY(), band.getWidth(), band.getHeight())
                : new Rectangle2D(bandX - 1, bandY - 1, 2, 2);
    }

    private void release() {
        Rectangle2D area = area();
        boolean click = !band.isVisible();
        band.setVisible(false);
        List<ClipRow.Known> found = within(area);
        taker.accept(click && found.size() > 1 ? List.of(found.getLast()) : found);
    }

    /// Clips whose dots an area touches.
    List<ClipRow.Known> within(Rectangle2D area) {
        return drawn.stream()
                .filter(dot -> area.intersects(dot.x - dot.radius, dot.y - dot.radius, dot.radius * 2, dot.radius * 2))
                .map(Dot::row)
                .toList();
    }

    private void tellUnder(double x, double y) {
        List<ClipRow.Known> found = within(new Rectangle2D(x - 1, y - 1, 2, 2));
        under.setText(
                found.isEmpty()
                        ? ADVICE
                        : found.size() > 3
                                ? found.size() + " clips here"
                                : String.join(
                                        "    ",
                                        found.stream()
                                                .map(row -> row.name() + ": " + row.raster() + " " + row.rate()
                                                        + " fps, " + row.scrub())
                                                .toList()));
    }
}
