package docksort.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import docksort.arrival.Clip;
import docksort.arrival.ClipId;
import docksort.engine.Cancellation;
import docksort.engine.MediaEngine;
import docksort.media.FrameRate;
import docksort.problem.CoreException.InputRefused;
import docksort.problem.Problem;
import docksort.project.Project;
import docksort.sort.LoadSheet;
import docksort.sort.PlannedCopy;
import docksort.sort.Recipe;
import docksort.sort.Sorted;
import docksort.sort.VolumeLoad;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

@Command(name = "plan", description = "Shows which copies the rules ask for, their bytes and the room there is.")
final class PlanCommand implements Callable<Integer> {
    @Mixin
    private Common common = new Common();

    @Option(
            names = "--set",
            paramLabel = "CLIP=RECIPE",
            description =
                    "First choose recipes for a clip by hand, by their ids (see recipes), several with +, leave, or"
                            + " rules.")
    private Map<String, String> choices = new LinkedHashMap<>();

    @Option(
            names = "--read",
            paramLabel = "CLIP=RATE",
            description = "First say how to read a clip that states no frame rate, for instance LAPSE=25.")
    private Map<String, String> rates = new LinkedHashMap<>();

    @Option(names = "--try", description = "First make about a second of every wanted copy, for its size and time.")
    private boolean tryOut;

    @Override
    public Integer call() throws InterruptedException {
        try (MediaEngine engine = MediaEngine.locate();
                Project project = common.open(engine)) {
            rates.forEach((clip, rate) -> read(project, clip, rate));
            choices.forEach((clip, recipe) -> choose(project, clip, recipe));
            if (tryOut) {
                for (PlannedCopy copy : project.plans().loadSheet().wanted()) {
                    project.trials().tryOut(copy.clip(), copy.recipe(), new Cancellation());
                }
            }
            return tell(project.plans().loadSheet());
        }
    }

    private static void choose(Project project, String name, String recipe) {
        project.plans().choose(named(project, name), recipes(project, recipe));
    }

    private static void read(Project project, String name, String rate) {
        try {
            project.arrivals().readAt(named(project, name), FrameRate.parse(rate));
        } catch (IllegalArgumentException e) {
            throw new InputRefused(
                    new Problem(
                            rate + " is not a frame rate",
                            "",
                            "Nothing was changed.",
                            "Write 25, 29.97 or 30000/1001."),
                    e);
        }
    }

    private static List<Clip> named(Project project, String name) {
        return List.of(Common.clip(project, name));
    }

    private static Optional<List<Recipe>> recipes(Project project, String text) {
        return switch (text) {
            case "rules" -> Optional.empty();
            case "leave" -> Optional.of(List.of());
            default ->
                Optional.of(Arrays.stream(text.split("\\+", -1))
                        .map(id -> project.book()
                                .now()
                                .byId(id)
                                .orElseThrow(() -> new InputRefused(new Problem(
                                        "No recipe is named " + id,
                                        "",
                                        "Nothing was changed.",
                                        "dock-sort recipes lists them; there are leave and rules besides."))))
                        .toList());
        };
    }

    private int tell(LoadSheet sheet) {
        ObjectNode answer = Common.object();
        ArrayNode copies = answer.putArray("copies");
        for (PlannedCopy copy : sheet.copies()) {
            ObjectNode node = copies.addObject();
            node.put("clip", copy.clip().name());
            node.put("clipId", copy.clip().id().value());
            node.put("recipe", copy.recipe().id());
            node.put("why", copy.why());
            node.put("wanted", copy.isWanted());
            node.put(
                    "cannotBeMade",
                    copy.resolution() instanceof Recipe.Resolution.Impossible(var because) ? because : "");
            node.put("pictureBytesLow", copy.bytes().pictureLow());
            node.put("pictureBytesHigh", copy.bytes().pictureHigh());
            node.put("soundBytes", copy.bytes().soundBytes());
            node.put("seconds", copy.time().likelySeconds());
            node.put("timeKnown", copy.time().isKnown());
            common.say(
                    "  %-24s %-34s %-14s %s", copy.clip().name(), copy.recipe().label(), copy.why(), outcome(copy));
        }
        ObjectNode total = answer.putObject("total");
        total.put("copies", sheet.wanted().size());
        total.put("bytesLow", sheet.bytes().least().bytes());
        total.put("bytesHigh", sheet.bytes().most().bytes());
        total.put("secondsLow", sheet.time().lowSeconds());
        total.put("secondsHigh", sheet.time().highSeconds());
        total.put("timesUnknown", sheet.time().unknown());
        total.put("fits", sheet.fits());
        ArrayNode volumes = answer.putArray("volumes");
        for (VolumeLoad load : sheet.volumes()) {
            volumes.addObject()
                    .put("volume", load.room().volume())
                    .put("bytesHigh", load.bytes().most().bytes())
                    .put("bytesFree", load.room().free().bytes())
                    .put("fits", load.fits());
            common.say(
                    "%s: at most %s, %s free: %s",
                    load.room().volume(),
                    load.bytes().most(),
                    load.room().free(),
                    load.fits() ? "fits" : load.missing() + " missing");
        }
        common.say(
                "%d copies wanted, %s to %s, time: %s",
                sheet.wanted().size(),
                sheet.bytes().least(),
                sheet.bytes().most(),
                sheet.time().label());
        ArrayNode warnings = answer.putArray("warnings");
        sheet.warnings().forEach(warning -> {
            warnings.addObject()
                    .put("weight", warning.weight().name().toLowerCase(Locale.ROOT))
                    .put("text", warning.text())
                    .put("remedy", warning.remedy().inWords());
            common.say(
                    "  %s: %s%s. %s.",
                    warning.weight().name().toLowerCase(Locale.ROOT),
                    warning.text(),
                    concerned(sheet, warning.clips()),
                    warning.remedy().inWords());
        });
        if (common.json()) {
            common.print(answer);
        }
        return sheet.fits() ? ExitCodes.GOOD : ExitCodes.STORAGE;
    }

    /// " (A001, A002 and 3 more)"
    private static String concerned(LoadSheet sheet, List<ClipId> clips) {
        List<String> names = sheet.sorted().stream()
                .map(Sorted::clip)
                .filter(clip -> clips.contains(clip.id()))
                .map(Clip::name)
                .toList();
        String more = names.size() > 4 ? " and " + (names.size() - 4) + " more" : "";
        return names.isEmpty()
                ? ""
                : " (" + String.join(", ", names.subList(0, Math.min(4, names.size()))) + more + ")";
    }

    private static String outcome(PlannedCopy copy) {
        if (copy.already()) {
            return "in stock or in the queue";
        }
        return switch (copy.resolution()) {
            case Recipe.Resolution.Possible(var form, var _) ->
                form.label() + ", " + (copy.bytes().isExact() ? "exactly " : "about ")
                        + copy.bytes().likely();
            case Recipe.Resolution.Impossible(var why) -> "cannot be made: " + why;
        };
    }
}
