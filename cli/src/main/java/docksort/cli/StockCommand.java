package docksort.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import docksort.catalogue.WorkingCopy;
import docksort.engine.MediaEngine;
import docksort.project.Project;
import docksort.stock.StockLine;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Callable;
import java.util.stream.Collectors;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

@Command(
        name = "stock",
        description = "Looks at the disk and shows every clip with its copies and the file that serves it.")
final class StockCommand implements Callable<Integer> {
    @Mixin
    private Common common = new Common();

    @Option(names = "--table", paramLabel = "FILE", description = "Write clips and kinds of copies as CSV or HTML.")
    private Optional<Path> table = Optional.empty();

    @Override
    public Integer call() {
        try (MediaEngine engine = MediaEngine.locate();
                Project project = common.open(engine)) {
            project.stocktaking().refresh();
            boolean look = false;
            List<StockLine> lines = project.stocktaking()
                    .lines(
                            project.puttingAside().others(project.clips()),
                            project.settings().servingOrder());
            table.ifPresent(file -> project.stocktaking().writeCoverage(lines, file));
            ObjectNode answer = Common.object();
            answer.put("servingOrder", project.settings().servingOrder().id());
            ArrayNode clips = answer.putArray("clips");
            for (StockLine line : lines) {
                ObjectNode node = clips.addObject();
                node.put("clip", line.clip().name());
                node.put("clipId", line.clip().id().value());
                node.put("original", line.clip().source().head().toString());
                node.put("presence", line.presence().state().label());
                node.put("servedBy", line.served().label());
                node.put("servedFile", line.served().file().toString());
                ArrayNode copies = node.putArray("copies");
                for (WorkingCopy copy : line.copies()) {
                    copies.addObject()
                            .put("kind", copy.kind().label())
                            .put("recipe", copy.recipeId())
                            .put("adopted", copy.isAdopted())
                            .put("state", copy.state().label())
                            .put("file", copy.file().toString())
                            .put("bytes", copy.place().bytes())
                            .put("inUse", copy.mayServe())
                            .put("onTrust", copy.isOnTrust())
                            .put("note", copy.note());
                    look |= copy.awaitsAcceptance()
                            || (!copy.state().serves() && !copy.state().isQueued());
                }
                look |= !line.presence().isOnline();
                String states = line.copies().stream()
                        .map(copy -> copy.kind().label() + " " + copy.state().label()
                                + (copy.isOnTrust() ? " on trust" : "")
                                + (copy.awaitsAcceptance()
                                        ? " (not accepted)"
                                        : copy.state().serves() && !copy.mayServe() ? " (not in use)" : ""))
                        .collect(Collectors.joining(", "));
                common.say(
                        "  %-24s %-18s served by %-9s %s",
                        line.clip().name(),
                        line.presence().state().label(),
                        line.served().label(),
                        states.isEmpty() ? "no copy" : states);
                line.copies().stream()
                        .filter(copy -> copy.awaitsAcceptance()
                                || (!copy.state().serves() && !copy.state().isQueued()))
                        .forEach(copy ->
                                common.say("      %s copy: %s", copy.kind().label(), copy.note()));
            }
            if (common.json()) {
                common.print(answer);
            }
            return look ? ExitCodes.NEEDS_A_LOOK : ExitCodes.GOOD;
        }
    }
}
