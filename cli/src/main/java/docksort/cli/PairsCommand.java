package docksort.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import docksort.arrival.Arrival;
import docksort.arrival.PairSearch;
import docksort.catalogue.WorkingCopy;
import docksort.engine.Cancellation;
import docksort.engine.MediaEngine;
import docksort.problem.CoreException.InputRefused;
import docksort.problem.Problem;
import docksort.project.Project;
import docksort.stock.CameraPairs;
import docksort.stock.Filling;
import docksort.strain.Traits;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(
        name = "pairs",
        description = "Lists originals with the small files that their camera wrote beside them, what proves each pair,"
                + " and what has none. Also says by hand which is which; undo takes that back.")
final class PairsCommand implements Callable<Integer> {
    @Mixin
    private Common common = new Common();

    @Parameters(arity = "0..1", paramLabel = "ARRIVAL", description = "Only this one, by its name or folder.")
    private Optional<String> arrival = Optional.empty();

    @Option(
            names = "--listed",
            description = "Also look for small files that are listed as footage, and make copies of them; where"
                    + " nothing else tells, pictures are compared.")
    private boolean listed;

    @Option(names = "--copy", paramLabel = "CLIP", description = "Say that this clip is a copy of the one after --of.")
    private Optional<String> copy = Optional.empty();

    @Option(names = "--of", paramLabel = "CLIP", description = "The original of the clip after --copy.")
    private Optional<String> of = Optional.empty();

    @Option(
            names = "--footage",
            paramLabel = "FILE",
            description = "Say that this file, which is taken for a camera's copy, is footage.")
    private Optional<Path> footage = Optional.empty();

    @Option(
            names = "--fill",
            description = "Plan copies as large as the camera's for the recordings of which it wrote none.")
    private boolean fill;

    @Override
    public Integer call() throws InterruptedException {
        common.refuse(copy.isPresent() != of.isPresent(), "--copy and --of go together");
        try (MediaEngine engine = MediaEngine.locate();
                Project project = common.open(engine)) {
            if (copy.isPresent() && of.isPresent()) {
                project.pairing().isCopyOf(Common.clip(project, copy.get()), Common.clip(project, of.get()));
            }
            if (footage.isPresent()) {
                project.pairing().isFootage(copyAt(project, footage.get()));
            }
            List<Arrival> arrivals = arrival.isPresent()
                    ? List.of(Common.arrival(project, arrival.get()))
                    : project.arrivals().all();
            ObjectNode answer = Common.object();
            ArrayNode into = answer.putArray("arrivals");
            for (Arrival each : arrivals) {
                tell(project, each, into.addObject());
            }
            if (common.json()) {
                common.print(answer);
            }
            return ExitCodes.GOOD;
        }
    }

    private static WorkingCopy copyAt(Project project, Path file) {
        Path absolute = file.toAbsolutePath().normalize();
        return project.stocktaking().lines().stream()
                .flatMap(line -> line.copies().stream())
                .filter(known -> known.isAdopted() && known.file().equals(absolute))
                .findFirst()
                .orElseThrow(() -> new InputRefused(new Problem(
                        absolute + " was not made footage",
                        "the project does not take it for a camera's copy",
                        "Nothing was changed.",
                        "See dock-sort pairs for those it does.")));
    }

    private void tell(Project project, Arrival each, ObjectNode into) throws InterruptedException {
        int moved = 0;
        if (listed) {
            List<PairSearch.Pair> found = project.pairing().listedAsFootage(each, new Cancellation());
            moved = project.pairing().areCopies(found);
        }
        CameraPairs pairs = project.pairing().of(each);
        into.put("name", each.name());
        into.put("folder", each.folder().toString());
        into.put("moved", moved);
        Optional<Filling> filling = project.pairFilling().of(each);
        if (fill) {
            filling.ifPresent(project.pairFilling()::choose);
        }
        into.put("filled", fill ? filling.map(lacking -> lacking.clips().size()).orElse(0) : 0);
        ArrayNode lines = into.putArray("lines");
        common.say("%s: %s", each.name(), pairs.inWords());
        if (moved > 0) {
            common.say("  %d were listed as footage and are copies now; dock-sort undo takes that back", moved);
        }
        for (CameraPairs.Line line : pairs.lines()) {
            String small = line.copy()
                    .map(WorkingCopy::file)
                    .map(file -> inside(each, file))
                    .orElse("");
            lines.addObject()
                    .put("kind", line.kind().label())
                    .put("clip", line.clip().name())
                    .put(
                            "file",
                            line.copy().map(found -> found.file().toString()).orElse(""))
                    .put("words", line.words())
                    .put("traits", line.traits().map(Traits::label).orElse(""));
            common.say(
                    "  %-14s %-24s %-32s %s", line.kind().label(), line.clip().name(), small, line.words());
            line.traits().ifPresent(traits -> common.say("  %-14s %s", "", traits.label()));
        }
        tellSettings(pairs, into.putArray("settings"));
        filling.ifPresent(lacking -> common.say(
                fill ? "  %d get copies by the recipe %s" : "  %d can get copies by the recipe %s: pairs --fill",
                lacking.clips().size(),
                lacking.recipe().name()));
    }

    private void tellSettings(CameraPairs pairs, ArrayNode into) {
        List<CameraPairs.Setting> settings = pairs.settings();
        if (!settings.isEmpty()) {
            common.say("  for the next shoot, the camera's setting with the easiest copies first:");
        }
        for (CameraPairs.Setting setting : settings) {
            into.addObject()
                    .put("setting", setting.label())
                    .put("clips", setting.clips())
                    .put("pixelsForOne", Math.round(setting.pixelsForOne()))
                    .put("bitsPerSecond", setting.bitsPerSecond())
                    .put("strain", setting.verdict().label());
            common.say(
                    "    %-52s %3d × %-12s %5.1f Mpx decoded for one frame, %.1f Mb/s",
                    setting.label(),
                    setting.clips(),
                    setting.verdict().label(),
                    setting.pixelsForOne() / 1e6,
                    setting.bitsPerSecond() / 1e6);
        }
    }

    private static String inside(Arrival arrival, Path file) {
        return file.startsWith(arrival.folder())
                ? arrival.folder().relativize(file).toString()
                : file.toString();
    }
}
