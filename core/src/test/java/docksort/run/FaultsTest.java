package docksort.run;

import static org.assertj.core.api.Assertions.assertThat;

import docksort.Footage;
import docksort.WithMedia;
import docksort.arrival.ScanListener;
import docksort.catalogue.CopyState;
import docksort.catalogue.WorkingCopy;
import docksort.engine.Cancellation;
import docksort.engine.MediaEngine;
import docksort.files.Room;
import docksort.media.ByteSize;
import docksort.project.LockedRun;
import docksort.project.Project;
import docksort.sort.Recipe;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Callable;
import java.util.concurrent.LinkedBlockingQueue;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicBoolean;
import org.assertj.core.api.Assertions;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.api.parallel.Isolated;

/// What nights bring: a killed program, a folder that may not be written to, a source that went away, a
/// stop.
@Isolated("kills the engines of this program")
@WithMedia
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class FaultsTest {
    @TempDir
    static Path folder = Path.of("");

    private final MediaEngine engine = MediaEngine.locate();
    private Path card = Path.of("");

    @BeforeAll
    void shoot() throws Exception {
        card = Files.createDirectories(folder.resolve("volume/Card"));
        var footage = new Footage(engine);
        for (int i = 1; i <= 3; i++) {
            footage.clip(
                    card.resolve("L00" + i + ".mov"),
                    "1280x720",
                    "25",
                    200,
                    "-c:v",
                    "libx264",
                    "-preset",
                    "ultrafast",
                    "-g",
                    "50",
                    "-timecode",
                    "01:00:00:00");
        }
    }

    @AfterAll
    void close() {
        engine.close();
    }

    private Path planned(String name) throws InterruptedException {
        Path place = folder.resolve(name);
        try (Project project = Project.open(place, engine, InstantSource.system())) {
            project.arrivals().add(card, ScanListener.none(), new Cancellation());
            project.plans().choose(project.clips(), Optional.of(List.of(Recipe.FULL_VC3)));
            project.queue().enqueue(project.plans().loadSheet());
        }
        return place;
    }

    private static List<Path> files(Path copies, String ending) throws IOException {
        if (!Files.exists(copies)) {
            return List.of();
        }
        try (var all = Files.walk(copies)) {
            return all.filter(f -> f.toString().endsWith(ending)).toList();
        }
    }

    @Test
    void killingTheProgramLeavesNoHalfFileNoChildAndTheNextStartCarriesOn() throws Exception {
        Path place = planned("killed");
        Path copies = place.resolve("copies");
        Process program = new ProcessBuilder(
                        ProcessHandle.current().info().command().orElseThrow(),
                        "--enable-native-access=ALL-UNNAMED",
                        "--sun-misc-unsafe-memory-access=allow",
                        "-cp",
                        System.getProperty("java.class.path"),
                        RunUntilKilled.class.getName(),
                        place.toString())
                .redirectErrorStream(true)
                .redirectOutput(folder.resolve("killed.log").toFile())
                .start();
        Path partial = await(() -> files(copies, ".part").stream()
                .filter(f -> f.toFile().length() > 200_000)
                .findFirst());
        List<ProcessHandle> children = program.descendants().toList();
        assertThat(children).as("encoders at work").isNotEmpty();
        program.destroyForcibly(); // SIGKILL
        assertThat(program.waitFor(20, TimeUnit.SECONDS)).isTrue();
        for (ProcessHandle child : children) {
            child.onExit().get(20, TimeUnit.SECONDS);
            assertThat(child.isAlive()).as("child %d", child.pid()).isFalse();
        }
        assertThat(partial).as("what was being written is still only partial").exists();
        try (Project project = Project.open(place, engine, InstantSource.system())) {
            for (WorkingCopy copy : copies(project)) {
                assertThat(Files.exists(copy.file()))
                        .as("%s %s", copy.state(), copy.file())
                        .isEqualTo(copy.state() == CopyState.READY);
            }
            assertThat(project.queue().size()).isPositive();
            RunSnapshot run = run(project);
            assertThat(run.copies())
                    .allSatisfy(c ->
                            assertThat(c.copy().state()).as(c.copy().note()).isEqualTo(CopyState.READY));
            assertThat(copies(project))
                    .hasSize(3)
                    .allSatisfy(c -> assertThat(c.state()).isEqualTo(CopyState.READY));
        }
        assertThat(files(copies, ".part")).isEmpty();
        assertThat(files(copies, ".mov")).hasSize(3);
    }

    private static List<WorkingCopy> copies(Project project) {
        return project.stocktaking().lines().stream()
                .flatMap(line -> line.copies().stream())
                .toList();
    }

    private static RunSnapshot run(Project project) throws InterruptedException {
        try (LockedRun run = project.runs().start(2, () -> {}).orElseThrow()) {
            assertThat(run.run().awaitEnd(Duration.ofMinutes(3))).isTrue();
            return run.run().snapshot();
        }
    }

    /// Looks until something is there, at most a minute; the loop ends as soon as it is.
    private static <T> T await(Callable<Optional<T>> look) throws Exception {
        long end = System.nanoTime() + TimeUnit.MINUTES.toNanos(1);
        while (System.nanoTime() < end) {
            Optional<T> found = look.call();
            if (found.isPresent()) {
                return found.get();
            }
            Thread.onSpinWait();
        }
        throw new AssertionError("it did not happen within a minute");
    }

    @Test
    void stoppingKeepsTheQueueAndTwoProgramsCannotRunIt() throws Exception {
        Path place = planned("stopped");
        try (Project project = Project.open(place, engine, InstantSource.system())) {
            try (LockedRun run = project.runs().start(1, () -> {}).orElseThrow()) {
                assertThat(project.runs().start(1, () -> {}))
                        .as("a second program")
                        .isEmpty();
                await(() -> files(place.resolve("copies"), ".part").stream().findFirst());
                run.run().stop();
                assertThat(run.run().awaitEnd(Duration.ofSeconds(30))).isTrue();
            }
            assertThat(project.queue().size()).isEqualTo(3);
            assertThat(files(place.resolve("copies"), ".part")).isEmpty();
            assertThat(files(place.resolve("copies"), ".mov")).isEmpty();
        }
    }

    @Test
    void aMissingOriginalFailsByNameAndTheRestIsMade() throws Exception {
        Path place = planned("gone");
        Path moved = Files.move(card.resolve("L002.mov"), folder.resolve("L002.aside"));
        try (Project project = Project.open(place, engine, InstantSource.system())) {
            RunSnapshot run = run(project);
            assertThat(run.count(CopyState.READY)).isEqualTo(2);
            assertThat(run.copies())
                    .filteredOn(c -> c.copy().state() == CopyState.FAILED)
                    .singleElement()
                    .satisfies(c ->
                            assertThat(c.copy().note()).contains("L002.mov").contains("as they were"));
            Files.move(moved, card.resolve("L002.mov"));
            assertThat(project.queue().retryFailed()).isEqualTo(1);
            assertThat(run(project).count(CopyState.READY)).isEqualTo(1);
        }
    }

    @Test
    void aFullVolumeFailsInPlainWordsAndLeavesNothing() throws Exception {
        Path place = planned("full");
        Path copies = place.resolve("copies");
        Path volume = Files.createDirectories(folder.resolve("small volume"));
        Process mounted =
                new ProcessBuilder("mount", "-t", "tmpfs", "-o", "size=3m", "tmpfs", volume.toString()).start();
        if (mounted.waitFor() != 0) {
            // Not allowed to mount here: the limit of a file's size stands in, which the encoder meets in the
            // same place.
            fullByLimit(place, copies);
            return;
        }
        try {
            Files.createSymbolicLink(copies, volume);
            try (Project project = Project.open(place, engine, InstantSource.system())) {
                RunSnapshot run = run(project);
                assertThat(run.copies()).allSatisfy(c -> {
                    assertThat(c.copy().state()).isEqualTo(CopyState.FAILED);
                    assertThat(c.copy().note()).contains("the volume is full").contains("Free room");
                });
            }
            assertThat(files(volume, ".mov")).isEmpty();
            assertThat(files(volume, ".part")).isEmpty();
        } finally {
            new ProcessBuilder("umount", volume.toString()).start().waitFor();
        }
    }

    /// What a system does that runs out of memory: it kills the engine. The copy is made again while fewer
    /// others are; one that is killed over and over fails by name, and the rest is made.
    @Test
    void aKilledEngineIsTriedOnceMoreWithFewerBesideIt() throws Exception {
        Path place = planned("memory");
        try (Project project = Project.open(place, engine, InstantSource.system());
                var locked = project.runs().start(Terms.fixed(2), () -> {}).orElseThrow()) {
            Run run = locked.run();
            await(() -> Optional.of(run.snapshot())
                    .filter(s -> s.inWork().stream()
                                    .filter(copy -> copy.framesDone() > 0)
                                    .count()
                            == 2));
            children().getFirst().destroyForcibly();
            await(() -> Optional.of(run.snapshot()).filter(s -> s.workers() == 1));
            assertThat(run.awaitEnd(Duration.ofMinutes(5))).isTrue();
            assertThat(run.snapshot().count(CopyState.READY)).isEqualTo(3);
        }
        try (Project project = Project.open(planned("memory always"), engine, InstantSource.system());
                var locked = project.runs().start(Terms.fixed(1), () -> {}).orElseThrow()) {
            Run run = locked.run();
            for (int times = 0; times < 2; times++) {
                ProcessHandle victim = await(() -> children().stream().findFirst());
                victim.destroyForcibly();
                victim.onExit().get();
            }
            assertThat(run.awaitEnd(Duration.ofMinutes(5))).isTrue();
            assertThat(run.snapshot().count(CopyState.READY)).isEqualTo(2);
            assertThat(run.snapshot().copies())
                    .filteredOn(c -> c.copy().state() == CopyState.FAILED)
                    .singleElement()
                    .satisfies(c -> assertThat(c.copy().note())
                            .contains("L001.mov")
                            .contains("killed from outside, as systems do when memory runs out")
                            .contains("make fewer at a time"));
            assertThat(project.queue().retryFailed()).isEqualTo(1);
        }
    }

    @Test
    void aPausedRunBeginsNothingAndGoesOnAndALaterOneWaits() throws Exception {
        Path place = planned("paused");
        try (Project project = Project.open(place, engine, InstantSource.system())) {
            var later = new Pace(Optional.of(Instant.now().plusSeconds(3_600)), Optional.empty(), true, 0);
            try (var waiting =
                    project.runs().start(Terms.fixed(2).at(later), () -> {}).orElseThrow()) {
                assertThat(waiting.run().awaitEnd(Duration.ofMillis(300))).isFalse();
                assertThat(waiting.run().snapshot().beginsAt()).isPresent();
                assertThat(waiting.run().snapshot().count(CopyState.WAITING)).isEqualTo(3);
            }
            var changes = new LinkedBlockingQueue<Integer>();
            try (var run = project.runs()
                    .start(
                            Terms.fixed(1).at(new Pace(Optional.empty(), Optional.empty(), true, 0)),
                            () -> changes.add(1))
                    .orElseThrow()) {
                run.run().pause(true);
                while (run.run().snapshot().count(CopyState.WAITING)
                                + run.run().snapshot().finished()
                        < 3) {
                    assertThat(changes.poll(60, TimeUnit.SECONDS)).isNotNull();
                }
                long finished = run.run().snapshot().finished();
                assertThat(finished).as("at most the one that was begun").isLessThanOrEqualTo(1);
                assertThat(run.run().snapshot().paused()).isTrue();
                assertThat(run.run().snapshot().running()).isTrue();
                run.run().pause(false);
                assertThat(run.run().awaitEnd(Duration.ofMinutes(10))).isTrue();
                assertThat(run.run().snapshot().count(CopyState.READY)).isEqualTo(3);
            }
        }
    }

    @Test
    void heldStillNothingGoesOnAndNothingIsLost() throws Exception {
        Path place = planned("held");
        var busy = new AtomicBoolean();
        OtherWork others = () -> busy.get() ? Optional.of("somebody works") : Optional.empty();
        Terms gentle = Terms.fixed(1)
                .at(new Pace(Optional.empty(), Optional.empty(), true, 0))
                .besides(others);
        try (Project project = Project.open(place, engine, InstantSource.system());
                var locked = project.runs().start(gentle, () -> {}).orElseThrow()) {
            Run run = locked.run();
            await(() -> run.snapshot().inWork().stream()
                    .filter(copy -> copy.framesDone() > 0)
                    .findFirst());
            busy.set(true);
            await(() -> Optional.of(run.snapshot()).filter(s -> s.why().equals("held still: somebody works")));
            await(() -> Optional.of(children())
                    .filter(all -> !all.isEmpty() && all.stream().allMatch(FaultsTest::isStopped)));
            run.hold(true);
            busy.set(false);
            await(() -> Optional.of(run.snapshot()).filter(s -> s.why().equals("held still")));
            assertThat(children()).allMatch(FaultsTest::isStopped);
            run.hold(false);
            assertThat(run.awaitEnd(Duration.ofMinutes(5))).isTrue();
            assertThat(run.snapshot().count(CopyState.READY)).isEqualTo(3);
        }
    }

    /// The engines at work.
    private static List<ProcessHandle> children() {
        return ProcessHandle.current()
                .descendants()
                .filter(FaultsTest::isEngine)
                .toList();
    }

    private static boolean isEngine(ProcessHandle process) {
        return process.info()
                .command()
                .filter(command -> command.endsWith("ffmpeg"))
                .isPresent();
    }

    /// proc(5): the state is the first word behind the name in parentheses, T for stopped by a signal.
    private static boolean isStopped(ProcessHandle process) {
        try {
            String stat = Files.readString(Path.of("/proc/" + process.pid() + "/stat"));
            return stat.substring(stat.lastIndexOf(')') + 2).startsWith("T");
        } catch (IOException e) {
            return false; // it has gone
        }
    }

    @Test
    void aRunWaitsForAVolumeToComeBackAndMakesTheRestMeanwhile() throws Exception {
        Path other = Files.createDirectories(folder.resolve("second volume/Card 2"));
        Files.copy(card.resolve("L001.mov"), other.resolve("M001.mov"));
        Path place = planned("unplugged");
        try (Project project = Project.open(place, engine, InstantSource.system())) {
            project.arrivals().add(other, ScanListener.none(), new Cancellation());
            project.plans().choose(project.clips(), Optional.of(List.of(Recipe.FULL_VC3)));
            project.queue().enqueue(project.plans().loadSheet());
            Path away = Files.move(other, folder.resolve("pulled out"));
            Terms patient = Terms.fixed(2).patient(Duration.ofMinutes(10));
            try (var locked = project.runs().start(patient, () -> {}).orElseThrow()) {
                Run run = locked.run();
                await(() -> Optional.of(run.snapshot()).filter(s -> s.phase() == RunSnapshot.Phase.WAITING));
                assertThat(run.snapshot().why()).contains(other.toString()).contains("is back");
                assertThat(run.snapshot().count(CopyState.READY)).isEqualTo(3);
                Files.move(away, other);
                assertThat(run.awaitEnd(Duration.ofMinutes(3))).isTrue();
                assertThat(run.snapshot().count(CopyState.READY)).isEqualTo(4);
            }
            Files.move(other, away);
            project.plans().choose(project.clips(), Optional.of(List.of(Recipe.LIGHT_PRORES_HALF)));
            project.queue().enqueue(project.plans().loadSheet());
            try (var locked = project.runs()
                    .start(Terms.fixed(2).patient(Duration.ofMillis(1)), () -> {})
                    .orElseThrow()) {
                assertThat(locked.run().awaitEnd(Duration.ofMinutes(3))).isTrue();
                assertThat(locked.run().snapshot().copies())
                        .filteredOn(copy -> copy.copy().state() == CopyState.FAILED)
                        .singleElement()
                        .satisfies(copy -> assertThat(copy.copy().note())
                                .contains("M001")
                                .contains("is back")
                                .contains("as they were"));
            }
        }
    }

    /// The mount point is an empty folder of another volume then, or not there at all.
    @Test
    void nothingIsWrittenWhereTheVolumeOfCopiesIsAway() throws Exception {
        Path place = folder.resolve("unmounted");
        Path copies = Files.createDirectories(place.resolve("copies"));
        boolean mounted = new ProcessBuilder("mount", "-t", "tmpfs", "-o", "size=300m", "tmpfs", copies.toString())
                        .start()
                        .waitFor()
                == 0;
        try (Project project = Project.open(place, engine, InstantSource.system())) {
            project.arrivals().add(card, ScanListener.none(), new Cancellation());
            project.plans().choose(project.clips(), Optional.of(List.of(Recipe.LIGHT_PRORES_HALF)));
            project.queue().enqueue(project.plans().loadSheet());
            assertThat(run(project).count(CopyState.READY)).isEqualTo(3);
            takeAway(copies, mounted);
            project.plans().choose(project.clips(), Optional.of(List.of(Recipe.FULL_VC3)));
            project.queue().enqueue(project.plans().loadSheet());
            assertThat(run(project).copies()).hasSize(3).allSatisfy(copy -> {
                assertThat(copy.copy().state()).isEqualTo(CopyState.FAILED);
                assertThat(copy.copy().note()).contains(copies.toString()).contains("Bring the volume back");
            });
            assertThat(files(copies, "")).as("nothing below the empty folder").allMatch(copies::equals);
        } finally {
            new ProcessBuilder("umount", copies.toString()).start().waitFor(); // where the test did not come so far
        }
    }

    /// Without the right to mount, the folder itself goes.
    private static void takeAway(Path copies, boolean mounted) throws Exception {
        if (mounted) {
            assertThat(new ProcessBuilder("umount", copies.toString()).start().waitFor())
                    .isZero();
        } else {
            Files.move(copies, folder.resolve("copies pulled out"));
        }
    }

    @Test
    void theOrderIsChangedKeptAndCopiesAreLeftOutAndPutBack() throws Exception {
        Path place = planned("ordered");
        try (Project project = Project.open(place, engine, InstantSource.system())) {
            var never = new Pace(Optional.of(Instant.now().plusSeconds(3_600)), Optional.empty(), false, 0);
            try (var locked =
                    project.runs().start(Terms.fixed(1).at(never), () -> {}).orElseThrow()) {
                Run run = locked.run();
                List<String> ids = ids(run.snapshot());
                run.move(List.of(ids.get(2)), true);
                assertThat(ids(run.snapshot())).containsExactly(ids.get(2), ids.get(0), ids.get(1));
                run.moveBefore(List.of(ids.get(1)), ids.get(0));
                assertThat(ids(run.snapshot())).containsExactly(ids.get(2), ids.get(1), ids.get(0));
                run.skip(List.of(ids.get(1)));
                assertThat(ids(run.snapshot()))
                        .as("what is left out stays in sight")
                        .containsExactly(ids.get(2), ids.get(1), ids.get(0));
                assertThat(run.snapshot().count(CopyState.WANTED)).isOne();
                assertThat(copies(project))
                        .filteredOn(c -> c.state() == CopyState.WANTED)
                        .hasSize(1);
            }
            try (var locked =
                    project.runs().start(Terms.fixed(1).at(never), () -> {}).orElseThrow()) {
                Run run = locked.run();
                List<String> kept = ids(run.snapshot());
                assertThat(kept).as("the order was kept").hasSize(2);
                String leftOut = copies(project).stream()
                        .filter(c -> c.state() == CopyState.WANTED)
                        .findFirst()
                        .orElseThrow()
                        .id();
                assertThat(project.queue().retry(List.of(leftOut))).isEqualTo(1);
                assertThat(run.takeUp(project.clips())).isTrue();
                assertThat(ids(run.snapshot())).containsExactly(kept.get(0), kept.get(1), leftOut);
                run.pace(Pace.NOW);
                assertThat(run.awaitEnd(Duration.ofMinutes(3))).isTrue();
                assertThat(project.runs().report(run.started()).lines())
                        .hasSize(3)
                        .allSatisfy(line -> {
                            assertThat(line.state()).isEqualTo("ready");
                            assertThat(line.bytes()).isPositive();
                            assertThat(line.timesRealTime()).isPositive();
                            assertThat(line.findings()).hasSizeGreaterThan(8);
                        });
            }
        }
    }

    private static List<String> ids(RunSnapshot run) {
        return run.copies().stream().map(copy -> copy.copy().id()).toList();
    }

    @Test
    void aVolumeWithTooLittleRoomIsRefusedBeforeTheRunWithTheRightFigure() throws Exception {
        Path volume = Files.createDirectories(folder.resolve("tight volume"));
        boolean mounted = new ProcessBuilder("mount", "-t", "tmpfs", "-o", "size=52m", "tmpfs", volume.toString())
                        .start()
                        .waitFor()
                == 0;
        try (Project project = Project.open(folder.resolve("tight"), engine, InstantSource.system())) {
            project.arrivals().add(card, ScanListener.none(), new Cancellation());
            project.plans().choose(project.clips(), Optional.of(List.of(Recipe.FULL_VC3)));
            project.copyFolders().copiesInto(volume);
            var sheet = project.plans().loadSheet();
            long need = sheet.bytes().most().bytes();
            long free = Room.of(volume).free().bytes();
            long missing = need + 50_000_000 - free;
            // Without the right to mount, the folder lies on a large volume, and the same plan fits.
            assertThat(sheet.fits()).isEqualTo(!mounted || missing <= 0);
            if (mounted) {
                assertThat(missing)
                        .as("the plan of %d is too large for %d", need, free)
                        .isPositive();
                assertThat(sheet.missing().bytes()).isEqualTo(missing);
                Assertions.assertThatThrownBy(
                                () -> project.queue().enqueue(project.plans().loadSheet()))
                        .hasMessageContaining(new ByteSize(missing) + " are missing")
                        .hasMessageContaining("Nothing was made");
            }
        } finally {
            if (mounted) {
                new ProcessBuilder("umount", volume.toString()).start().waitFor();
            }
        }
    }

    private void fullByLimit(Path place, Path copies) throws Exception {
        Files.createDirectories(copies.getParent());
        Files.writeString(copies, "a file where the folder for copies should be");
        try (Project project = Project.open(place, engine, InstantSource.system())) {
            Assertions.assertThatThrownBy(() -> project.runs().start(1, () -> {}))
                    .hasMessageContaining(copies.toString())
                    .hasMessageContaining("Nothing was written");
            assertThat(project.queue().size()).isEqualTo(3);
        }
    }
}
