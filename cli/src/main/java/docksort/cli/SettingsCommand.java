package docksort.cli;

import com.fasterxml.jackson.databind.node.ObjectNode;
import docksort.engine.MediaEngine;
import docksort.media.FrameRate;
import docksort.media.Raster;
import docksort.media.Rational;
import docksort.project.Project;
import docksort.stock.ServingOrder;
import docksort.strain.TimelineFormat;
import java.nio.file.Path;
import java.util.Locale;
import java.util.Optional;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

@Command(
        name = "settings",
        description = "Shows the project's settings, and changes those that are given: what the timeline is, what is"
                + " delivered, what serves first, where copies go.")
final class SettingsCommand implements Callable<Integer> {
    @Mixin
    private Common common = new Common();

    @Option(names = "--timeline", paramLabel = "RASTER", description = "Raster of the timeline, such as 1920x1080.")
    private Optional<String> timeline = Optional.empty();

    @Option(names = "--rate", paramLabel = "RATE", description = "Frame rate of the timeline: 25, 29.97, 30000/1001.")
    private Optional<String> rate = Optional.empty();

    @Option(names = "--pixel-aspect", paramLabel = "W/H", description = "Width of a pixel over its height.")
    private Optional<String> aspect = Optional.empty();

    @Option(
            names = "--delivery",
            paramLabel = "RASTER",
            description = "Raster of what is delivered. No other setting changes it.")
    private Optional<String> delivery = Optional.empty();

    @Option(names = "--serve", paramLabel = "ORDER", description = "What serves first: ${COMPLETION-CANDIDATES}.")
    private Optional<SwitchCommand.Order> serve = Optional.empty();

    @Option(
            names = "--light-lines",
            paramLabel = "LINES",
            description = "Most lines of the light copy that serves, where a clip has several; 0 for the largest.")
    private Optional<Integer> lightLines = Optional.empty();

    @Option(names = "--copies", paramLabel = "FOLDER", description = "Where new copies go.")
    private Optional<Path> copies = Optional.empty();

    @Override
    public Integer call() {
        boolean changes = timeline.isPresent()
                || rate.isPresent()
                || aspect.isPresent()
                || delivery.isPresent()
                || serve.isPresent()
                || lightLines.isPresent()
                || copies.isPresent();
        common.refuse(
                lightLines.filter(lines -> lines < 0 || lines > 65_536).isPresent(),
                "--light-lines wants a number from 0 to 65536");
        Optional<Raster> wanted = timeline.map(text -> raster(common, "--timeline", text));
        Optional<Raster> delivered = delivery.map(text -> raster(common, "--delivery", text));
        Optional<FrameRate> rates = rate.map(this::rate);
        Optional<Rational> pixels = aspect.map(this::aspect);
        try (MediaEngine engine = MediaEngine.locate();
                Project project = changes ? common.openOrBegin(engine) : common.open(engine)) {
            TimelineFormat before = project.settings().timelineFormat();
            if (wanted.isPresent() || rates.isPresent() || pixels.isPresent()) {
                project.settings()
                        .setTimelineFormat(new TimelineFormat(
                                wanted.orElse(before.raster()),
                                rates.orElse(before.rate()),
                                pixels.orElse(before.pixelAspect()),
                                before.primaries(),
                                before.samplesPerSecond()));
            }
            delivered.ifPresent(project.settings()::deliver);
            serve.map(PinCommand::order).ifPresent(project.settings()::setServingOrder);
            lightLines.ifPresent(project.settings()::serveLightUpTo);
            copies.ifPresent(project.copyFolders()::copiesInto);
            return tell(project);
        }
    }

    /// @throws picocli.CommandLine.ParameterException when it is no raster
    static Raster raster(Common common, String option, String text) {
        try {
            return Raster.parse(text.strip().replace('×', 'x'));
        } catch (IllegalArgumentException e) {
            common.refuse(true, option + " wants a raster such as 1920x1080, was \"" + text + "\"");
            throw e;
        }
    }

    private FrameRate rate(String text) {
        try {
            return FrameRate.parse(text);
        } catch (IllegalArgumentException e) {
            common.refuse(true, "--rate wants 25, 29.97 or 30000/1001, was \"" + text + "\"");
            throw e;
        }
    }

    private Rational aspect(String text) {
        try {
            Rational read = Rational.parse(text.strip().replace(':', '/'));
            common.refuse(!read.isPositive(), "--pixel-aspect wants a positive number, was \"" + text + "\"");
            return read;
        } catch (IllegalArgumentException e) {
            common.refuse(true, "--pixel-aspect wants 1, 64/45 or the like, was \"" + text + "\"");
            throw e;
        }
    }

    private int tell(Project project) {
        TimelineFormat format = project.settings().timelineFormat();
        Optional<Raster> delivered = project.settings().delivery();
        ServingOrder order = project.settings().servingOrder();
        ObjectNode answer = Common.object();
        answer.put("name", project.settings().name());
        answer.put("timeline", plain(format.raster()));
        answer.put("rate", format.rate().toString());
        answer.put("pixelAspect", format.pixelAspect().toString());
        answer.put("delivery", delivered.map(SettingsCommand::plain).orElse(""));
        answer.put("serve", order.id());
        answer.put("lightLines", order.lightLines());
        answer.put("copies", project.roots().copies().path().toString());
        answer.put("handles", project.settings().handles());
        common.say("  timeline      %s, pixels of %s", format.label(), format.pixelAspect());
        common.say(
                "  delivery      %s",
                delivered.map(Raster::toString).orElse("not said yet: --delivery RASTER, before a timeline leaves"));
        common.say("  serves first  %s", order.label());
        if (order.lightLines() > 0) {
            common.say("  light copies  of up to %d lines, where there are several", order.lightLines());
        }
        common.say("  copies go to  %s", project.roots().copies().path());
        common.say("  handles       %d frames", project.settings().handles());
        if (common.json()) {
            common.print(answer);
        }
        return ExitCodes.GOOD;
    }

    private static String plain(Raster raster) {
        return String.format(Locale.ROOT, "%dx%d", raster.width(), raster.height());
    }
}
