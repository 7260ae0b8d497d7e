package docksort.project;

import docksort.catalogue.Catalogue;
import docksort.media.FrameRate;
import docksort.media.Raster;
import docksort.media.Rational;
import docksort.run.WeeklyHours;
import docksort.stock.ServingOrder;
import docksort.strain.TimelineFormat;
import java.nio.file.Path;
import java.util.Optional;
import java.util.Set;

/// What a project is set to.
public final class Settings {
    private static final String DELIVERY = "delivery.raster";
    private static final String LIGHT_LINES = "serving.lightLines";

    /// What a new project takes over from another one.
    static final Set<String> OF_A_TEMPLATE = Set.of(
            "timeline.raster",
            "timeline.rate",
            "timeline.pixelAspect",
            "timeline.primaries",
            "timeline.samplesPerSecond",
            "serving",
            LIGHT_LINES,
            "handles",
            "check",
            DELIVERY,
            ProjectBook.BOOK,
            Clearing.LIMITS);

    private static final long USUAL_HANDLES = 24;

    private final Catalogue catalogue;
    private final Path folder;

    Settings(Catalogue catalogue, Path folder) {
        this.catalogue = catalogue;
        this.folder = folder;
    }

    public String name() {
        return catalogue.settings().get("name").orElse(String.valueOf(folder.getFileName()));
    }

    public void rename(String name) {
        catalogue.settings().put("name", name);
    }

    public TimelineFormat timelineFormat() {
        TimelineFormat hd = TimelineFormat.HD_25;
        return new TimelineFormat(
                catalogue.settings().get("timeline.raster").map(Raster::parse).orElse(hd.raster()),
                catalogue.settings().get("timeline.rate").map(FrameRate::parse).orElse(hd.rate()),
                catalogue
                        .settings()
                        .get("timeline.pixelAspect")
                        .map(Rational::parse)
                        .orElse(hd.pixelAspect()),
                catalogue.settings().get("timeline.primaries").orElse(hd.primaries()),
                catalogue
                        .settings()
                        .get("timeline.samplesPerSecond")
                        .map(Integer::parseInt)
                        .orElse(hd.samplesPerSecond()));
    }

    FrameRate timelineRate() {
        return catalogue.settings().get("timeline.rate").map(FrameRate::parse).orElse(TimelineFormat.HD_25.rate());
    }

    public void setTimelineFormat(TimelineFormat format) {
        catalogue
                .settings()
                .put(
                        "timeline.raster",
                        format.raster().width() + "x" + format.raster().height());
        catalogue.settings().put("timeline.rate", format.rate().toString());
        catalogue.settings().put("timeline.pixelAspect", format.pixelAspect().toString());
        catalogue.settings().put("timeline.primaries", format.primaries());
        catalogue.settings().put("timeline.samplesPerSecond", Integer.toString(format.samplesPerSecond()));
        catalogue.activity().write("The timeline is " + format.label());
    }

    public ServingOrder servingOrder() {
        String id = catalogue.settings().get("serving").orElse(ServingOrder.LIGHT_FIRST.id());
        return ServingOrder.ALL.stream()
                .filter(order -> order.id().equals(id))
                .findFirst()
                .orElse(ServingOrder.LIGHT_FIRST)
                .withLightLines(lightLines());
    }

    /// Most lines that a light copy should have where a clip has several; 0 for the largest one.
    public int lightLines() {
        return catalogue
                .settings()
                .get(LIGHT_LINES)
                .filter(text -> !text.isEmpty())
                .map(Integer::parseInt)
                .orElse(0);
    }

    public void serveLightUpTo(int lines) {
        catalogue
                .settings()
                .change(
                        LIGHT_LINES,
                        Integer.toString(lines),
                        lines == 0
                                ? "The largest light copy of each clip serves"
                                : "Light copies of up to " + lines + " lines serve");
    }

    public void setServingOrder(ServingOrder order) {
        catalogue.settings().put("serving", order.id());
    }

    /// Frames that range copies hold before and after what a timeline uses, and that a departure asks for.
    public long handles() {
        return catalogue.settings().get("handles").map(Long::parseLong).orElse(USUAL_HANDLES);
    }

    /// Whether all of a copy is decoded in its check.
    public boolean checksAll() {
        return !catalogue.settings().get("check").filter("places"::equals).isPresent();
    }

    public void checkAll(boolean all) {
        catalogue.settings().put("check", all ? "all" : "places");
    }

    /// Hours of the week in which this machine makes copies; none for any time.
    public WeeklyHours hours() {
        return catalogue.settings().get(hoursOfHere()).map(WeeklyHours::parse).orElse(WeeklyHours.ALWAYS);
    }

    public void workWithin(WeeklyHours hours) {
        if (!hours.equals(hours())) {
            catalogue.settings().put(hoursOfHere(), hours.text());
        }
    }

    private static String hoursOfHere() {
        return "hours:" + Measurements.machineName();
    }

    /// Raster of what is delivered, empty until somebody has said it. It is a setting of its own: a
    /// timeline that is made smaller for cutting must not take it along.
    public Optional<Raster> delivery() {
        return catalogue.settings().get(DELIVERY).map(Raster::parse);
    }

    public void deliver(Raster raster) {
        catalogue.settings().change(DELIVERY, raster.width() + "x" + raster.height(), "The delivery has " + raster);
    }
}
