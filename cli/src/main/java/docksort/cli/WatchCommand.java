package docksort.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import docksort.arrival.Clip;
import docksort.arrival.ClipId;
import docksort.arrival.ScanListener;
import docksort.arrival.ScanResult;
import docksort.catalogue.CopyState;
import docksort.engine.Cancellation;
import docksort.engine.MediaEngine;
import docksort.problem.Causes;
import docksort.problem.CoreException;
import docksort.project.LockedRun;
import docksort.project.Project;
import docksort.run.Pace;
import docksort.run.RunSnapshot;
import docksort.sort.LoadSheet;
import docksort.sort.Planning;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.InstantSource;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Callable;
import java.util.concurrent.TimeUnit;
import java.util.stream.Collectors;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(
        name = "watch",
        description =
                "Takes each new folder of a place in as an arrival once nothing in it grows any more, plans what the"
                        + " rules want of it, and makes it. Goes on until it is ended.")
final class WatchCommand implements Callable<Integer> {
    private static final int MOST_SECONDS = 86_400;

    @Mixin
    private Common common = new Common();

    @Parameters(arity = "1", paramLabel = "PLACE", description = "The folder that new folders come into.")
    private Path place = Path.of("");

    @Option(
            names = "--quiet",
            paramLabel = "SECONDS",
            description = "How long nothing in a folder may grow before it is taken in. Default: ${DEFAULT-VALUE}")
    private int quiet = 10;

    @Option(names = "--until-quiet", description = "End when no folder is new and nothing waits to be made.")
    private boolean untilQuiet;

    @Option(names = "--take-in-only", description = "Plan and make nothing.")
    private boolean takeInOnly;

    private final ObjectNode answer = Common.object();
    private final ArrayNode arrivals = answer.putArray("arrivals");
    private final ArrayNode refused = answer.putArray("refused");
    private long made;
    private long failed;
    private String trouble = "";

    @Override
    public Integer call() throws InterruptedException {
        common.refuse(quiet < 0 || quiet > MOST_SECONDS, "--quiet wants a number from 0 to " + MOST_SECONDS);
        common.refuse(!Files.isDirectory(place), "PLACE wants a folder, was \"" + place + "\"");
        try (MediaEngine engine = MediaEngine.locate();
                Project project = common.openOrBegin(engine)) {
            Path watched = place.toAbsolutePath().normalize();
            common.note("watching " + watched);
            while (true) {
                boolean busy = takeIn(project, watched);
                if (!takeInOnly) {
                    busy |= make(project);
                }
                if (untilQuiet && !busy) {
                    break;
                }
                TimeUnit.SECONDS.sleep(Math.clamp(quiet, 1, 10));
            }
            if (common.json()) {
                common.print(answer.put("made", made).put("failed", failed));
            }
            return failed > 0 || !refused.isEmpty() ? ExitCodes.NEEDS_A_LOOK : ExitCodes.GOOD;
        }
    }

    /// @return whether a folder is new
    private boolean takeIn(Project project, Path watched) throws InterruptedException {
        List<Path> settled;
        try {
            settled = project.watchedPlaces()
                    .settled(
                            watched,
                            Duration.ofSeconds(quiet),
                            InstantSource.system().instant());
            trouble = "";
        } catch (IOException e) {
            tell(watched + " cannot be listed: " + Causes.inWords(e));
            return false;
        }
        for (Path folder : settled) {
            takeIn(project, folder, project.clips());
        }
        try {
            return !settled.isEmpty() || project.watchedPlaces().holdsNew(watched);
        } catch (IOException e) {
            return false; // told by the next look
        }
    }

    private void takeIn(Project project, Path folder, List<Clip> before) throws InterruptedException {
        project.watchedPlaces().taken(folder);
        try {
            ScanResult result = project.arrivals().add(folder, ScanListener.none(), new Cancellation());
            arrivals.addObject()
                    .put("folder", folder.toString())
                    .put("clips", result.clips().size())
                    .put("unreadable", result.unreadable().size());
            common.say(
                    "  %-24s %d clips, %d unreadable",
                    folder.getFileName(),
                    result.clips().size(),
                    result.unreadable().size());
            if (!takeInOnly) {
                plan(project, before);
            }
        } catch (CoreException e) {
            refused.addObject()
                    .put("folder", folder.toString())
                    .put("why", e.problem().why());
            common.note(e.problem().what() + ": " + e.problem().why());
        }
    }

    private static void plan(Project project, List<Clip> before) {
        var known = before.stream().map(Clip::id).collect(Collectors.toSet());
        var arrived = project.clips().stream()
                .map(Clip::id)
                .filter((ClipId id) -> !known.contains(id))
                .collect(Collectors.toSet());
        Planning planning = project.plans().planning();
        LoadSheet sheet = LoadSheet.plan(project.clips(), planning).only(arrived, planning);
        project.queue().enqueue(sheet);
    }

    /// @return whether anything waited
    private boolean make(Project project) throws InterruptedException {
        if (project.queue().size() == 0) {
            return false;
        }
        Optional<LockedRun> started = project.runs().start(project.runs().usualTerms(Pace.NOW), () -> {});
        if (started.isEmpty()) {
            tell("another program is running this project's queue; it makes what waits");
            return false;
        }
        try (LockedRun locked = started.get()) {
            while (!locked.run().awaitEnd(Duration.ofSeconds(1))) {
                trouble = "";
            }
            RunSnapshot run = locked.run().snapshot();
            made += run.ready();
            failed += run.count(CopyState.FAILED);
            common.say("  %d made and checked, %d failed", run.ready(), run.count(CopyState.FAILED));
        }
        return true;
    }

    /// Tells what lasts once.
    private void tell(String words) {
        if (!words.equals(trouble)) {
            trouble = words;
            common.note(words);
        }
    }
}
