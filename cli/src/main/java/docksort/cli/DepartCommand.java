package docksort.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import docksort.dispatch.Conform;
import docksort.dispatch.DepartureCheck;
import docksort.dispatch.DepartureCheck.Finding;
import docksort.dispatch.DepartureCheck.Purpose;
import docksort.dispatch.DepartureReport;
import docksort.engine.MediaEngine;
import docksort.project.Departures;
import docksort.project.Project;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(
        name = "depart",
        description = {"Checks that a timeline may leave, and lets it.", "Without --to it is only checked."})
final class DepartCommand implements Callable<Integer> {
    @Mixin
    private Common common = new Common();

    @Mixin
    private WrittenFor writtenFor = new WrittenFor();

    @Parameters(paramLabel = "TIMELINE", description = "An OpenTimelineIO file, a CMX 3600 list or a table of links.")
    private Path timeline = Path.of("");

    @Option(names = "--to", paramLabel = "FILE", description = "Where it leaves to; reports are written beside it.")
    private List<Path> to = List.of();

    @Option(names = "--signed", paramLabel = "NAME", defaultValue = "", description = "Who lets it leave.")
    private String signed = "";

    @Option(
            names = "--because",
            paramLabel = "REASON",
            defaultValue = "",
            description = "Let it go although the check does not pass, and say why.")
    private String because = "";

    @Option(
            names = "--delivery",
            paramLabel = "RASTER",
            description = "Raster of what is delivered, such as 3840x2160; kept for the project. Asked for once.")
    private Optional<String> delivery = Optional.empty();

    @Option(names = "--review", description = "It leaves for a review on copies, and is marked as such.")
    private boolean review;

    @Option(names = "--no-sums", description = "Take no checksums; they read every file whole.")
    private boolean noSums;

    @Override
    public Integer call() {
        try (MediaEngine engine = MediaEngine.locate();
                Project project = common.open(engine)) {
            project.stocktaking().refresh();
            delivery.ifPresent(
                    raster -> project.settings().deliver(SettingsCommand.raster(common, "--delivery", raster)));
            Conform conform = project.timelines()
                    .conform(
                            project.timelines().open(timeline),
                            project.stocktaking().lines());
            DepartureCheck check = project.departures()
                    .check(conform, review ? Purpose.REVIEW : Purpose.FINISHING, !noSums, (_, _) -> {}, () -> false);
            ObjectNode answer = Common.object();
            tell(check, answer);
            if (!to.isEmpty()) {
                DepartureReport report = project.departures()
                        .depart(
                                conform.document(),
                                check,
                                new Departures.Departure(
                                        to.getFirst(),
                                        writtenFor.addressing(project.roots()),
                                        signed,
                                        Optional.of(because).filter(reason -> !reason.isBlank())));
                answer.put("timeline", report.timeline().toString());
                answer.put("result", report.result());
                common.say("left as %s: %s", report.timeline(), report.result());
            }
            if (common.json()) {
                common.print(answer);
            }
            return check.passes() ? ExitCodes.GOOD : ExitCodes.NEEDS_A_LOOK;
        }
    }

    private void tell(DepartureCheck check, ObjectNode answer) {
        answer.put("passes", check.passes());
        ArrayNode findings = answer.putArray("findings");
        for (DepartureCheck.Condition condition : DepartureCheck.Condition.values()) {
            common.say("  %-14s %s", check.failed(condition) ? "DOES NOT HOLD" : "holds", condition.label());
            for (Finding finding : check.findings()) {
                if (finding.condition() == condition) {
                    findings.addObject()
                            .put("condition", condition.name().toLowerCase(Locale.ROOT))
                            .put("event", finding.event())
                            .put("subject", finding.subject())
                            .put("words", finding.words())
                            .put("blocks", finding.blocks());
                    common.say(
                            "      %s event %d %s: %s",
                            finding.blocks() ? "blocks" : "remark",
                            finding.event(),
                            finding.subject(),
                            finding.words());
                }
            }
        }
        common.say(check.passes() ? "it may leave" : "it does not leave");
    }
}
