package docksort.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import docksort.arrival.ClipId;
import docksort.catalogue.WorkingCopy;
import docksort.engine.MediaEngine;
import docksort.files.CopyRemoval;
import docksort.files.Trash;
import docksort.media.ByteSize;
import docksort.problem.CoreException.InputRefused;
import docksort.problem.Problem;
import docksort.project.Project;
import docksort.stock.CleanUp;
import docksort.stock.CopySelection;
import docksort.stock.Limits;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(
        name = "clean",
        description = "Stops using, forgets or deletes copies. Only shows what it would do unless --carry-out is given;"
                + " only copies that the catalogue and the file itself call copies are ever deleted.")
final class CleanCommand implements Callable<Integer> {
    private enum Act {
        STOP,
        SERVE,
        FORGET,
        DELETE,
        LIMITS
    }

    @Mixin
    private Common common = new Common();

    @Parameters(
            index = "0",
            paramLabel = "ACT",
            description = "stop (keep, without letting them serve), serve (let them serve again; those with holes of"
                    + " their originals are accepted by that), forget (the files stay), delete, or limits (with"
                    + " --unused-for and --keep-within: makes these the project's limits, without any: none).")
    private Act act = Act.DELETE;

    @Option(names = "--unused", description = "Only those that no timeline was switched to for 7 days.")
    private boolean unused;

    @Option(
            names = "--unused-for",
            paramLabel = "DAYS",
            description = "Only those that were not needed for so many days.")
    private Optional<Integer> unusedDays = Optional.empty();

    @Option(names = "--past-limits", description = "Only those that are past the project's limits.")
    private boolean pastLimits;

    @Option(names = "--older-than", paramLabel = "DAYS", description = "Only those made at least so long ago.")
    private Optional<Integer> days = Optional.empty();

    @Option(names = "--clip", paramLabel = "CLIP", description = "Only those of this clip.")
    private Optional<String> clip = Optional.empty();

    @Option(names = "--recipe", paramLabel = "ID", description = "Only those made by this recipe.")
    private Optional<String> recipe = Optional.empty();

    @Option(names = "--arrival", paramLabel = "NAME", description = "Only those of this arrival.")
    private Optional<String> arrival = Optional.empty();

    @Option(
            names = "--keep-within",
            paramLabel = "GB",
            description = "As many of those not needed for longest as it takes until the rest has no more bytes.")
    private Optional<Long> budget = Optional.empty();

    @Option(names = "--carry-out", description = "Do it.")
    private boolean carryOut;

    @Option(names = "--for-good", description = "Delete at once instead of moving to the system's trash.")
    private boolean forGood;

    @Override
    public Integer call() {
        try (MediaEngine engine = MediaEngine.locate();
                Project project = common.open(engine)) {
            project.stocktaking().refresh();
            common.refuse(unusedDays.filter(count -> count < 0).isPresent(), "--unused-for wants days from 0 on");
            common.refuse(days.filter(count -> count < 0).isPresent(), "--older-than wants days from 0 on");
            common.refuse(budget.filter(count -> count < 0).isPresent(), "--keep-within wants gigabytes from 0 on");
            Optional<ClipId> wanted =
                    clip.map(name -> Common.clip(project, name).id());
            List<WorkingCopy> copies = (pastLimits
                            ? project.clearing()
                                    .limits()
                                    .past(project.stocktaking().lines(), Instant.now())
                            : selection(project).from(project.stocktaking().lines(), Instant.now()))
                    .stream()
                            .filter(copy -> wanted.isEmpty() || copy.clip().equals(wanted.get()))
                            .toList();
            return switch (act) {
                case STOP ->
                    simple(copies, "no longer used", () -> project.clearing().stopUsing(copies, true));
                case SERVE -> {
                    List<WorkingCopy> stopped = copies.stream()
                            .filter(copy -> copy.service().stopped())
                            .toList();
                    yield simple(
                            stopped, "let serve again", () -> project.clearing().stopUsing(stopped, false));
                }
                case FORGET ->
                    simple(
                            copies,
                            "forgotten; their files stay",
                            () -> project.clearing().forget(copies));
                case DELETE -> delete(project, copies);
                case LIMITS -> limits(project);
            };
        }
    }

    private CopySelection selection(Project project) {
        CopySelection selection = CopySelection.ALL;
        if (unused) {
            selection = selection.unusedFor(CopySelection.USUAL_AGE);
        }
        if (unusedDays.isPresent()) {
            selection = selection.unusedFor(Duration.ofDays(unusedDays.get()));
        }
        if (days.isPresent()) {
            selection = selection.olderThan(Duration.ofDays(days.get()));
        }
        if (recipe.isPresent()) {
            selection = selection.madeBy(recipe.get());
        }
        if (arrival.isPresent()) {
            selection = selection.of(Common.arrival(project, arrival.get()).id());
        }
        return budget.isPresent() ? selection.within(new ByteSize(budget.get() * 1_000_000_000)) : selection;
    }

    private int limits(Project project) {
        if (unusedDays.filter(count -> count < 1).isPresent()
                || budget.filter(count -> count < 1).isPresent()) {
            throw new InputRefused(new Problem(
                    "These are no limits",
                    "days and gigabytes are whole numbers from 1 on",
                    "The limits are as they were.",
                    "Correct them, or leave one out."));
        }
        var limits = new Limits(
                unusedDays.map(Duration::ofDays), budget.map(gigabytes -> new ByteSize(gigabytes * 1_000_000_000)));
        project.clearing().limit(limits);
        List<WorkingCopy> past = limits.past(project.stocktaking().lines(), Instant.now());
        common.say("Limits for copies: %s. %d are past them", limits.label(), past.size());
        if (common.json()) {
            common.print(Common.object().put("limits", limits.label()).put("past", past.size()));
        }
        return past.isEmpty() ? ExitCodes.GOOD : ExitCodes.NEEDS_A_LOOK;
    }

    private int simple(List<WorkingCopy> copies, String done, Runnable how) {
        copies.forEach(copy -> common.say("  %s", copy.file()));
        if (carryOut) {
            how.run();
        }
        common.say("%d copies %s%s", copies.size(), carryOut ? "" : "would be ", done);
        if (common.json()) {
            ObjectNode answer = Common.object().put("done", carryOut);
            ArrayNode files = answer.putArray("copies");
            copies.forEach(copy -> files.addObject().put("file", copy.file().toString()));
            common.print(answer);
        }
        return ExitCodes.GOOD;
    }

    private int delete(Project project, List<WorkingCopy> copies) {
        CleanUp plan = project.clearing().cleanUp(copies);
        ObjectNode answer = Common.object();
        ArrayNode lines = answer.putArray("copies");
        for (CleanUp.Line line : plan.lines()) {
            String words = line.refusal()
                    .map(why -> "stays: " + why)
                    .orElse(line.bytes().toString());
            lines.addObject()
                    .put("file", line.copy().file().toString())
                    .put("bytes", line.bytes().bytes())
                    .put("refusal", line.refusal().orElse(""));
            common.say("  %-60s %s", line.copy().file(), words);
        }
        OptionalLong left = OptionalLong.empty();
        if (carryOut) {
            CopyRemoval.Outcome outcome =
                    project.clearing().carryOut(plan, forGood ? Optional.empty() : Optional.of(Trash.ofUser()));
            outcome.left().forEach((file, why) -> common.say("  left  %s: %s", file, why));
            left = OptionalLong.of(outcome.left().size());
        }
        answer.put("done", carryOut);
        answer.put("bytes", plan.bytes().bytes());
        common.say(
                "%d of %d copies, %s, %s",
                plan.going().size(),
                plan.lines().size(),
                plan.bytes(),
                !carryOut ? "would go" : forGood ? "deleted" : "moved to the trash");
        if (common.json()) {
            common.print(answer);
        }
        boolean all = plan.going().size() == plan.lines().size() && left.orElse(0) == 0;
        return all ? ExitCodes.GOOD : ExitCodes.NEEDS_A_LOOK;
    }
}
