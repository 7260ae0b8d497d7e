package docksort.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import docksort.arrival.Arrival;
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
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.InstantSource;
import java.util.List;
import java.util.Optional;
import java.util.Set;
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
    public Integer call() throws InterruptedException, IOException {
        common.refuse(quiet < 0 || quiet > MOST_SECONDS, "--quiet wants a number from 0 to " + MOST_SECONDS);
        common.refuse(!Files.isDirectory(place), "PLACE wants a folder, was \"" + place + "\"");
        try (MediaEngine engine = MediaEngine.locate();
                Project project = common.openOrBegin(engine)) {
            Path watched = place.toRealPath();
            common.note("watching " + watched);
            for (Arrival arrival : project.arrivals().brokenOff()) {
                lookAgain(project, arrival, Optional.empty()); // what a power cut left undone
            }
            while (true) {
                boolean busy = takeIn(project, watched);
                busy |= takeLate(project, watched);
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
            plan(project, before);
        } catch (CoreException e) {
            refused.addObject()
                    .put("folder", folder.toString())
                    .put("why", e.problem().why());
            common.note(e.problem().what() + ": " + e.problem().why());
        }
    }

    /// Files that came into folders after these were taken.
    ///
    /// @return whether there were any
    private boolean takeLate(Project project, Path watched) throws InterruptedException {
        boolean late = false;
        for (Arrival arrival : project.watchedPlaces().of(watched)) {
            Set<Path> settled = project.watchedPlaces()
                    .late(
                            arrival,
                            Duration.ofSeconds(quiet),
                            InstantSource.system().instant());
            if (!settled.isEmpty()) {
                lookAgain(project, arrival, Optional.of(settled));
                late = true;
            }
        }
        return late;
    }

    private void lookAgain(Project project, Arrival arrival, Optional<Set<Path>> settled) throws InterruptedException {
        List<Clip> before = project.clips();
        try {
            ScanResult result = project.arrivals().lookAgain(arrival, settled, ScanListener.none(), new Cancellation());
            common.say(
                    "  %-24s %d clips came late", arrival.name(), result.clips().size());
            plan(project, before);
        } catch (CoreException e) {
            common.note(e.problem().what() + ": " + e.problem().why());
        }
    }

    private void plan(Project project, List<Clip> before) {
        if (!takeInOnly) {
            Set<ClipId> arrived = project.clips().stream().map(Clip::id).collect(Collectors.toSet());
            before.forEach(clip -> arrived.remove(clip.id()));
            project.queue().enqueueArrived(arrived);
        }
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
