package docksort.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import docksort.arrival.Clip;
import docksort.engine.MediaEngine;
import docksort.media.FrameRate;
import docksort.problem.CoreException.InputRefused;
import docksort.problem.Problem;
import docksort.project.Project;
import docksort.sort.LoadSheet;
import docksort.sort.PlannedCopy;
import docksort.sort.Recipe;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

@Command(
        name = "plan",
        mixinStandardHelpOptions = true,
        description = "Shows which copies the rules ask for, their bytes and the room there is.")
final class PlanCommand implements Callable<Integer> {
    @Mixin
    private Common common = new Common();

    @Option(
            names = "--set",
            paramLabel = "CLIP=RECIPE",
            description =
                    "First choose recipes for a clip by hand: light-prores-half, light-vc3-fit, full-vc3, several with"
                            + " +, leave, or rules.")
    private Map<String, String> choices = new LinkedHashMap<>();

    @Option(
            names = "--read",
            paramLabel = "CLIP=RATE",
            description = "First say how to read a clip that states no frame rate, for instance LAPSE=25.")
    private Map<String, String> rates = new LinkedHashMap<>();

    @Override
    public Integer call() {
        try (MediaEngine engine = MediaEngine.locate();
                Project project = common.open(engine)) {
            rates.forEach((clip, rate) -> read(project, clip, rate));
            choices.forEach((clip, recipe) -> choose(project, clip, recipe));
            return tell(project.loadSheet());
        }
    }

    private static void choose(Project project, String name, String recipe) {
        project.choose(named(project, name), recipes(recipe));
    }

    private static void read(Project project, String name, String rate) {
        try {
            project.readAt(named(project, name), FrameRate.parse(rate));
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
        List<Clip> clips = project.clips().stream()
                .filter(clip -> clip.name().equals(name))
                .toList();
        if (clips.isEmpty()) {
            throw new InputRefused(new Problem(
                    "No clip is named " + name, "", "Nothing was changed.", "See dock-sort stock for the names."));
        }
        return clips;
    }

    private static Optional<List<Recipe>> recipes(String text) {
        return switch (text) {
            case "rules" -> Optional.empty();
            case "leave" -> Optional.of(List.of());
            default ->
                Optional.of(java.util.Arrays.stream(text.split("\\+", -1))
                        .map(id -> Recipe.byId(id)
                                .orElseThrow(() -> new InputRefused(new Problem(
                                        "No recipe is named " + id,
                                        "",
                                        "Nothing was changed.",
                                        "There are light-prores-half, light-vc3-fit, full-vc3, leave and rules."))))
                        .toList());
        };
    }

    private int tell(LoadSheet sheet) {
        ObjectNode answer = Common.object();
        ArrayNode copies = answer.putArray("copies");
        for (PlannedCopy copy : sheet.copies()) {
            ObjectNode node = copies.addObject();
            node.put("clip", copy.clip().name());
            node.put("recipe", copy.recipe().id());
            node.put("why", copy.why());
            node.put("wanted", copy.isWanted());
            node.put("pictureBytesLow", copy.bytes().pictureLow());
            node.put("pictureBytesHigh", copy.bytes().pictureHigh());
            node.put("soundBytes", copy.bytes().soundBytes());
            common.say(
                    "  %-24s %-34s %-14s %s", copy.clip().name(), copy.recipe().label(), copy.why(), outcome(copy));
        }
        ObjectNode total = answer.putObject("total");
        total.put("copies", sheet.wanted().size());
        total.put("bytesLow", sheet.bytes().least().bytes());
        total.put("bytesHigh", sheet.bytes().most().bytes());
        total.put("bytesFree", sheet.room().free().bytes());
        total.put("fits", sheet.fits());
        common.say(
                "%d copies wanted, %s to %s, %s free: %s",
                sheet.wanted().size(),
                sheet.bytes().least(),
                sheet.bytes().most(),
                sheet.room().free(),
                sheet.fits() ? "fits" : "does not fit");
        ArrayNode warnings = answer.putArray("warnings");
        sheet.warnings().forEach(warning -> {
            warnings.addObject().put("text", warning.text()).put("remedy", warning.remedy());
            common.say("  look: %s. %s.", warning.text(), warning.remedy());
        });
        if (common.json()) {
            common.print(answer);
        }
        return sheet.fits() ? ExitCodes.GOOD : ExitCodes.STORAGE;
    }

    private static String outcome(PlannedCopy copy) {
        if (copy.already()) {
            return "in stock or in the queue";
        }
        return switch (copy.resolution()) {
            case Recipe.Resolution.Possible(var target, var raster, var _) ->
                target.label() + " " + raster + ", " + (copy.bytes().isExact() ? "exactly " : "about ")
                        + copy.bytes().likely();
            case Recipe.Resolution.Impossible(var why) -> "cannot be made: " + why;
        };
    }
}
