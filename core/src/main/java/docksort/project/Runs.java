package docksort.project;

import docksort.catalogue.Catalogue;
import docksort.catalogue.Machine;
import docksort.catalogue.MachineStore;
import docksort.engine.CopyMaker;
import docksort.engine.Extents;
import docksort.engine.Inspector;
import docksort.engine.MediaEngine;
import docksort.engine.PacketHashes;
import docksort.engine.StayAwake;
import docksort.files.ExclusiveLock;
import docksort.run.MachineUse;
import docksort.run.Pace;
import docksort.run.PictureCheck;
import docksort.run.Run;
import docksort.run.RunLine;
import docksort.run.RunReport;
import docksort.run.RunTools;
import docksort.run.SoundCheck;
import docksort.run.Terms;
import docksort.sort.Recipe;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;

/// Runs of the queue, now and before.
public final class Runs {
    /// Copies made at the same time unless somebody says otherwise. On two cores two workers took 0.86 to
    /// 0.95 of the time of the same commands one after the other (bench/side-by-side); the encoder's own
    /// threads fill more cores.
    public static final int DEFAULT_WORKERS = 2;
    private static final Duration PATIENCE = Duration.ofHours(24);

    private final Catalogue catalogue;
    private final MediaEngine engine;
    private final Settings settings;
    private final CopyQueue queue;
    private final CopyFolders folders;
    private final RunGround ground;
    private final Path lockFile;

    Runs(
            Catalogue catalogue,
            MediaEngine engine,
            Settings settings,
            CopyQueue queue,
            CopyFolders folders,
            RunGround ground,
            Path lockFile) {
        this.catalogue = catalogue;
        this.engine = engine;
        this.settings = settings;
        this.queue = queue;
        this.folders = folders;
        this.ground = ground;
        this.lockFile = lockFile;
    }

    /// Starts to work on the queue. What an interrupted run left half-made is cleared away first.
    ///
    /// @return empty when another program is running this project's queue
    public Optional<LockedRun> start(int workers, Runnable changed) {
        return start(Terms.fixed(workers), changed);
    }

    public Optional<LockedRun> start(Terms terms, Runnable changed) {
        Optional<ExclusiveLock> lock = ExclusiveLock.tryOn(lockFile);
        if (lock.isEmpty()) {
            return Optional.empty();
        }
        try {
            folders.sweepLeftovers();
            queue.resetInterrupted();
            var tools = new RunTools(
                    catalogue,
                    new CopyMaker(engine),
                    new Inspector(engine),
                    new Extents(engine),
                    new PictureCheck(engine),
                    new SoundCheck(engine),
                    new PacketHashes(engine));
            return Optional.of(begun(new Run(tools, ground, catalogue.clips().all(), terms, changed), lock.get()));
        } catch (RuntimeException e) {
            lock.get().close();
            throw e;
        }
    }

    /// What was started is not left to itself when something else fails.
    private LockedRun begun(Run run, ExclusiveLock lock) {
        try {
            if (catalogue.isShared()) {
                Reach.measure(catalogue);
            }
            var beat = new Beat(catalogue, run);
            return new LockedRun(run, lock, StayAwake.begin(), Heart.beating(beat, beat::end));
        } catch (RuntimeException e) {
            run.close();
            throw e;
        }
    }

    /// Machines that make copies of a shared project, with what they do. Blocks.
    public List<Machine> machines() {
        return catalogue.machines().all();
    }

    /// Asks a workstation of a shared project to hold, to finish and begin nothing more, or to work again.
    public void ask(String workstation, Machine.Wish wish) {
        catalogue.machines().ask(workstation, wish);
    }

    /// What this workstation is asked to do.
    public Machine.Asked asked() {
        return catalogue.machines().asked();
    }

    /// Gives a workstation of a shared project certain recipes to make, and no others; empty for all.
    public void give(String workstation, Optional<List<Recipe>> recipes) {
        catalogue
                .machines()
                .give(
                        workstation,
                        recipes.map(some -> some.stream().map(Recipe::id).toList()),
                        recipes.map(some -> workstation + " makes only "
                                        + some.stream().map(Recipe::label).collect(Collectors.joining(", ")))
                                .orElse(workstation + " makes every recipe again"));
    }

    /// Whether copies wait that this workstation may make.
    public boolean hasWork() {
        Machine.Asked asked = asked();
        return catalogue.copies().all().stream()
                .anyMatch(copy -> copy.state().isQueued() && asked.makes(copy.recipeId()));
    }

    /// Shows others that this program waits for something to make.
    ///
    /// @param why in words
    public void idle(String why, int workers) {
        catalogue.machines().show(new MachineStore.Doing(why, 0, workers, 0, 0, 0));
    }

    /// This program makes nothing any more.
    public void leave() {
        catalogue.machines().leave();
    }

    /// Terms of a run that finds its number of workers, waits for volumes and gives way to other programs
    /// when it works gently.
    public Terms usualTerms(Pace pace) {
        int start = catalogue
                .settings()
                .get(workersSetting())
                .map(Integer::parseInt)
                .orElse(DEFAULT_WORKERS);
        int most = Math.max(start, Runtime.getRuntime().availableProcessors() + 1);
        return new Terms(start, most, pace, PATIENCE, settings.checksAll(), new MachineUse());
    }

    /// Keeps how many workers were best on this machine.
    public void keepWorkers(int best) {
        catalogue.settings().put(workersSetting(), Integer.toString(best));
    }

    private static String workersSetting() {
        return "workers:" + Measurements.machineName();
    }

    /// When runs that did something began, the latest first.
    public List<Instant> all() {
        return catalogue.runs().runs();
    }

    /// What the latest runs did, the latest first.
    public List<RunReport> reports(int most) {
        return all().stream().limit(most).map(this::report).toList();
    }

    /// What became of every copy that came to its end in a run.
    public RunReport report(Instant run) {
        return new RunReport(settings.name(), run, catalogue.runs().lines(run, RunLine.class));
    }
}
