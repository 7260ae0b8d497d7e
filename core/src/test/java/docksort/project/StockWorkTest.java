package docksort.project;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import docksort.Footage;
import docksort.WithMedia;
import docksort.arrival.Clip;
import docksort.arrival.ScanListener;
import docksort.catalogue.Catalogue;
import docksort.catalogue.CopyState;
import docksort.catalogue.Desk;
import docksort.catalogue.Presence;
import docksort.catalogue.WorkingCopy;
import docksort.engine.Cancellation;
import docksort.engine.MediaEngine;
import docksort.files.Renames;
import docksort.files.Trash;
import docksort.link.CopyNames;
import docksort.link.MediaSearch;
import docksort.link.OriginalName;
import docksort.media.ByteSize;
import docksort.media.FrameRange;
import docksort.media.Wrapper;
import docksort.problem.CoreException.InputRefused;
import docksort.run.CopyTags;
import docksort.sort.CopyKind;
import docksort.sort.Encoding;
import docksort.sort.Recipe;
import docksort.sort.Scaling;
import docksort.sort.SortBook;
import docksort.stock.CleanUp;
import docksort.stock.CopySelection;
import docksort.stock.Coverage;
import docksort.stock.Limits;
import docksort.stock.Served;
import docksort.stock.StockLine;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/// Keeping the stock true, finding media again, and cleaning up, on real clips and copies. Originals are
/// the same bytes at the end as at the start.
@WithMedia
class StockWorkTest {
    private static final Recipe TINY =
            Recipe.of("tiny", "Tiny", CopyKind.LIGHT, Encoding.MOTION_JPEG, Wrapper.MOV, new Scaling.PerSide(2));
    private static final Recipe IN_MXF =
            Recipe.of("boxed", "Boxed", CopyKind.FULL, Encoding.VC3_BY_DEPTH, Wrapper.MXF, new Scaling.Full());
    private static final int FRAMES = 50;

    @TempDir
    Path folder = Path.of("");

    private final MediaEngine engine = MediaEngine.locate();
    private Path card = Path.of("");
    private Project project;
    private Map<String, byte[]> originals = Map.of();

    @BeforeEach
    void arrive() throws Exception {
        card = Files.createDirectories(folder.resolve("volume/Card"));
        for (int i = 1; i <= 3; i++) {
            new Footage(engine)
                    .clip(
                            card.resolve("S00" + i + ".mov"),
                            "320x180",
                            "25",
                            FRAMES + i,
                            "-vf",
                            "hue=h=" + 60 * i,
                            "-c:v",
                            "libx264",
                            "-preset",
                            "ultrafast",
                            "-timecode",
                            "01:00:0" + i + ":00");
        }
        originals = bytes(folder.resolve("volume"));
        project = Project.open(folder.resolve("project"), engine, InstantSource.system());
        project.arrivals().add(card, ScanListener.none(), new Cancellation());
    }

    @AfterEach
    void close() throws IOException {
        project.close();
        engine.close();
        assertThat(bytes(folder.resolve(Files.exists(folder.resolve("volume")) ? "volume" : "moved"))
                        .values())
                .as("originals")
                .containsExactlyInAnyOrderElementsOf(originals.values());
    }

    private static Map<String, byte[]> bytes(Path below) throws IOException {
        var found = new HashMap<String, byte[]>();
        try (Stream<Path> files = Files.walk(below)) {
            for (Path file : files.filter(f -> f.toString().endsWith(".mov")).toList()) {
                found.put(below.relativize(file).toString(), Files.readAllBytes(file));
            }
        }
        return found;
    }

    private void make(Recipe... recipes) throws InterruptedException {
        project.book().change(new SortBook(List.of(TINY, IN_MXF), List.of(), false), "test");
        project.plans().choose(project.clips(), Optional.of(List.of(recipes)));
        run();
    }

    private void run() throws InterruptedException {
        project.queue().enqueue(project.plans().loadSheet());
        try (LockedRun run = project.runs().start(2, () -> {}).orElseThrow()) {
            assertThat(run.run().awaitEnd(Duration.ofMinutes(3))).isTrue();
        }
        project.stocktaking().refresh();
        assertThat(copies())
                .allSatisfy(copy -> assertThat(copy.state()).as(copy.note()).isEqualTo(CopyState.READY));
    }

    private List<WorkingCopy> copies() {
        return project.stocktaking().lines().stream()
                .flatMap(line -> line.copies().stream())
                .toList();
    }

    private void reopen() {
        project.close();
        project = Project.open(folder.resolve("project"), engine, InstantSource.system());
    }

    private List<CopyState> states() {
        project.stocktaking().refresh();
        return copies().stream().map(WorkingCopy::state).toList();
    }

    @Test
    void renamingIsSafeIdempotentAndTakenBackAlsoAfterARestart() throws Exception {
        make(TINY, IN_MXF);
        List<Path> before = copies().stream().map(WorkingCopy::file).toList();
        CopyNames oneName = project.renaming().names("{kind}", copies());
        assertThat(oneName.lines())
                .allSatisfy(line -> assertThat(line.fault())
                        .hasValueSatisfying(why -> assertThat(why).contains("all copies would have one name")));
        assertThatThrownBy(() -> project.renaming().rename(oneName)).isInstanceOf(InputRefused.class);

        CopyNames names = project.renaming().names("{arrival} {clip} {raster}", copies());
        assertThat(project.renaming().rename(names)).isEqualTo(6);
        assertThat(copies()).allSatisfy(copy -> {
            assertThat(copy.file()).exists();
            assertThat(copy.file().getFileName().toString()).startsWith("Card S00");
        });
        assertThat(states()).containsOnly(CopyState.READY);
        assertThat(Files.exists(copies().stream()
                        .filter(copy -> copy.file().toString().endsWith("mxf"))
                        .map(copy -> CopyTags.besides(copy.file()))
                        .findFirst()
                        .orElseThrow()))
                .as("what a copy says of itself goes with it")
                .isTrue();
        CopyNames again = project.renaming().names("{arrival} {clip} {raster}", copies());
        assertThat(again.changes()).as("twice changes nothing").isEmpty();

        reopen();
        assertThat(project.undo()).isPresent();
        assertThat(copies()).extracting(WorkingCopy::file).containsExactlyInAnyOrderElementsOf(before);
        assertThat(states()).containsOnly(CopyState.READY);
    }

    @Test
    void aRenamingThatWasBrokenOffIsTakenBackAtTheNextStart() throws Exception {
        make(TINY);
        CopyNames names = project.renaming().names("new {clip}", copies());
        Renames.carryOut(names.files(), folder.resolve("project/rename.journal")); // killed before anybody kept it
        assertThat(copies()).allSatisfy(copy -> assertThat(copy.file()).doesNotExist());
        reopen();
        assertThat(states()).containsOnly(CopyState.READY);
        assertThat(project.activity(3)).anyMatch(line -> line.what().contains("broken off"));
    }

    @Test
    void anOriginalIsRenamedOnlyWhenAskedForAndTakenBackAfterARestart() throws Exception {
        make(TINY);
        Clip clip = project.clips().getFirst();
        for (String bad : List.of("", "S002", "S001.mov", "a/b", "what?.mov")) {
            OriginalName name = OriginalName.preview(clip, bad);
            assertThat(name.fault()).as(bad).isPresent();
            assertThatThrownBy(() -> project.renaming().rename(name)).isInstanceOf(InputRefused.class);
        }
        project.renaming().rename(OriginalName.preview(clip, "Dome at night"));
        assertThat(card.resolve("Dome at night.mov")).exists();
        assertThat(card.resolve("S001.mov")).doesNotExist();
        assertThat(states()).containsOnly(CopyState.READY);
        Clip renamed = project.clips().stream()
                .filter(each -> each.id().equals(clip.id()))
                .findFirst()
                .orElseThrow();
        assertThat(renamed.name()).isEqualTo("Dome at night");
        // Looking at the arrival again finds nothing new and misses nothing.
        var again = project.arrivals()
                .lookAgain(
                        project.arrivals().all().getFirst(), Optional.empty(), ScanListener.none(), new Cancellation());
        assertThat(again.clips()).isEmpty();
        assertThat(again.gone()).isEmpty();
        reopen();
        assertThat(project.undo()).hasValueSatisfying(what -> assertThat(what).contains("S001.mov"));
        assertThat(card.resolve("S001.mov")).exists();
        assertThat(states()).containsOnly(CopyState.READY);
    }

    @Test
    void anOriginalWhoseRenamingWasBrokenOffHasItsNameAgainAtTheNextStart() throws Exception {
        OriginalName name = OriginalName.preview(project.clips().getFirst(), "Dome");
        Renames.carryOut(Map.of(card.resolve("S001.mov"), name.to()), folder.resolve("project/rename.journal"));
        reopen();
        assertThat(card.resolve("S001.mov")).exists();
        assertThat(name.to()).doesNotExist();
    }

    @Test
    void limitsAreKeptToldAndTakenBack() throws Exception {
        make(TINY);
        assertThat(project.clearing().limits()).isEqualTo(Limits.NONE);
        var limits = new Limits(Optional.of(Duration.ofDays(30)), Optional.of(new ByteSize(1)));
        project.clearing().limit(limits);
        reopen();
        assertThat(project.clearing().limits()).isEqualTo(limits);
        assertThat(limits.past(project.stocktaking().lines(), Instant.now())).hasSize(3);
        assertThat(copies()).allSatisfy(copy -> assertThat(copy.file()).exists());
        project.undo();
        assertThat(project.clearing().limits()).isEqualTo(Limits.NONE);
    }

    @Test
    void aTakenNameFailsWholeAndNothingIsRenamed() throws Exception {
        make(TINY);
        CopyNames names = project.renaming().names("new {clip}", copies());
        Path taken = names.lines().get(2).to();
        Files.writeString(taken, "somebody was faster");
        assertThatThrownBy(() -> project.renaming().rename(names)).hasMessageContaining("is taken");
        assertThat(copies()).allSatisfy(copy -> assertThat(copy.file()).exists());
        assertThat(taken).hasContent("somebody was faster");
        assertThat(project.renaming().names("new {clip}", copies()).lines())
                .filteredOn(line -> line.fault().isPresent())
                .singleElement()
                .satisfies(line -> assertThat(line.fault()).contains("there is a file of this name already"));
        Files.delete(taken);
    }

    @Test
    void everyStateIsTrueAndSaysWhatToDo() throws Exception {
        make(TINY);
        Path file = copies().getFirst().file();
        byte[] good = Files.readAllBytes(file);
        var stamp = Files.getLastModifiedTime(file);

        Files.delete(file);
        assertThat(states()).containsExactly(CopyState.MISSING, CopyState.READY, CopyState.READY);
        assertThat(copies().getFirst().note()).contains("search for it, or make it again");
        Files.write(file, good);
        Files.setLastModifiedTime(file, stamp);
        assertThat(states()).containsOnly(CopyState.READY);
        Files.write(file, new byte[10]);
        assertThat(states()).contains(CopyState.SUSPECT);
        Files.write(file, good);
        Files.setLastModifiedTime(file, stamp);

        Path copies = project.roots().copies().path();
        Files.move(copies, folder.resolve("away"));
        assertThat(states()).containsOnly(CopyState.MISSING);
        assertThat(copies().getFirst().note()).isEqualTo("its volume is away: mount it");
        Files.move(folder.resolve("away"), copies);
        assertThat(states()).containsOnly(CopyState.READY);

        Recipe quarter =
                Recipe.of("tiny", "Tiny", CopyKind.LIGHT, Encoding.MOTION_JPEG, Wrapper.MOV, new Scaling.PerSide(4));
        project.book().change(new SortBook(List.of(quarter, IN_MXF), List.of(), false), "smaller");
        assertThat(states()).containsOnly(CopyState.STALE);
        assertThat(copies().getFirst().note()).contains("its recipe was changed since");
        project.undo();
        assertThat(states()).containsOnly(CopyState.READY);

        Path original = card.resolve("S001.mov");
        Path aside = folder.resolve("S001.aside");
        Files.move(original, aside);
        project.stocktaking().refresh();
        assertThat(project.stocktaking().lines().getFirst().presence().state()).isEqualTo(Presence.State.MOVED);
        Files.write(original, new byte[77]);
        project.stocktaking().refresh();
        assertThat(project.stocktaking().lines().getFirst().presence().state()).isEqualTo(Presence.State.REFUSED);
        Files.delete(original);
        Files.move(aside, original);
    }

    @Test
    void aRangeThatWasOutgrownIsShownToTheFrameAndAllOfItIsMadeAsOneFile() throws Exception {
        Clip clip = project.clips().getFirst();
        project.plans().use(Map.of(clip.id(), List.of(new FrameRange(10, 10))), 2);
        project.plans().choose(project.clips(), Optional.of(List.of()));
        project.plans().choose(List.of(clip), Optional.of(List.of(Recipe.RANGE_VC3)));
        run();
        assertThat(copies())
                .singleElement()
                .satisfies(copy -> assertThat(copy.range()).contains(new FrameRange(8, 14)));
        project.plans().use(Map.of(clip.id(), List.of(new FrameRange(6, 20))), 2);
        assertThat(states()).containsExactly(CopyState.STALE);
        assertThat(copies().getFirst().note()).startsWith("a timeline needs frames 4 to 7 and frames 22 to 27 too");
        run();
        assertThat(copies())
                .extracting(copy -> copy.range().orElseThrow())
                .as("one that holds every used frame, and the outgrown one")
                .containsExactlyInAnyOrder(new FrameRange(8, 14), new FrameRange(4, 24));
        assertThat(states()).containsOnly(CopyState.READY);
        assertThat(project.plans().loadSheet().wanted()).isEmpty();
    }

    @Test
    void movedAndRenamedMediaIsFoundAndTakenBackAfterARestart() throws Exception {
        make(TINY);
        Path volume = folder.resolve("volume");
        Path moved = Files.createDirectories(folder.resolve("moved/archive/deep"));
        Files.move(card.resolve("S001.mov"), moved.resolve("Opening take.mov"));
        Files.move(card.resolve("S002.mov"), moved.resolve("S002.mov"));
        Files.move(copies().getFirst().file(), moved.resolve("copy of opening.mov"));
        project.stocktaking().refresh();
        List<MediaSearch.Result> results =
                project.relinking().search(folder.resolve("moved"), (_, _) -> {}, new Cancellation());
        assertThat(results).hasSize(3).allMatch(MediaSearch.Result.Found.class::isInstance);
        assertThat(project.relinking().relink(folder.resolve("moved").toRealPath(), results))
                .isEqualTo(3);
        assertThat(project.stocktaking().lines()).allSatisfy(line -> {
            assertThat(line.presence().isOnline()).as(line.presence().note()).isTrue();
            assertThat(line.clip().source().head()).exists();
        });
        assertThat(states()).containsOnly(CopyState.READY);
        reopen();
        assertThat(project.undo()).hasValueSatisfying(what -> assertThat(what).startsWith("Found 2 originals and 1"));
        assertThat(project.stocktaking().lines().getFirst().presence().state()).isEqualTo(Presence.State.MOVED);
        assertThat(states()).contains(CopyState.MISSING);
        Files.move(moved.resolve("Opening take.mov"), card.resolve("S001.mov"));
        Files.move(moved.resolve("S002.mov"), card.resolve("S002.mov"));
        assertThat(volume).exists();
    }

    @Test
    void everyWorkstationKeepsItsOwnPathOfARoot() throws Exception {
        project.close();
        Path there = folder.resolve("moved");
        Files.move(folder.resolve("volume"), there);
        try (var desk = Catalogue.open(
                        folder.resolve("project/catalogue.db"),
                        InstantSource.system(),
                        new Desk("second desk", "somebody"));
                var here = Catalogue.open(
                        folder.resolve("project/catalogue.db"),
                        InstantSource.system(),
                        new Desk("first desk", "somebody"))) {
            var root = desk.roots().all().stream()
                    .filter(each -> each.name().equals("volume"))
                    .findFirst()
                    .orElseThrow();
            desk.roots().move(root, there, Map.of());
            assertThat(desk.clips().all())
                    .allSatisfy(clip -> assertThat(clip.source().head()).exists());
            assertThat(here.clips().all().getFirst().source().head()).startsWithRaw(folder.resolve("volume"));
            assertThat(desk.roots().pathsElsewhere())
                    .containsExactly(List.of(root.id(), "second desk", there.toString()));
        }
        project = Project.open(folder.resolve("project"), engine, InstantSource.system());
    }

    @Test
    void stopUsingForgetAndDeleteAreDifferentActs() throws Exception {
        make(TINY, IN_MXF);
        List<WorkingCopy> light =
                copies().stream().filter(copy -> copy.kind() == CopyKind.LIGHT).toList();
        project.clearing().stopUsing(light, true);
        assertThat(project.stocktaking().lines())
                .allSatisfy(line ->
                        assertThat(((Served.ByCopy) line.served()).kind()).isEqualTo(CopyKind.FULL));
        assertThat(project.plans().loadSheet().wanted())
                .as("stopped copies are not made again")
                .isEmpty();
        project.undo();
        assertThat(project.stocktaking().lines())
                .allSatisfy(line ->
                        assertThat(((Served.ByCopy) line.served()).kind()).isEqualTo(CopyKind.LIGHT));

        project.clearing().forget(light);
        assertThat(copies()).hasSize(3);
        assertThat(light).allSatisfy(copy -> assertThat(copy.file()).exists());
        reopen();
        project.undo();
        assertThat(copies()).hasSize(6);
        assertThat(states()).containsOnly(CopyState.READY);

        CleanUp plan = project.clearing().cleanUp(light);
        assertThat(plan.going()).hasSize(3);
        var outcome = project.clearing().carryOut(plan, Optional.of(Trash.at(folder.resolve("Trash"))));
        assertThat(outcome.left()).isEmpty();
        assertThat(copies()).hasSize(3);
        assertThat(folder.resolve("Trash/files"))
                .isDirectoryContaining(file -> file.toString().endsWith(".mov"));
        assertThat(project.plans().loadSheet().wanted())
                .as("what was deleted is wanted again")
                .hasSize(3);
        CleanUp rest = project.clearing().cleanUp(copies());
        assertThat(rest.going())
                .as("their containers cannot tell, the file beside them does")
                .hasSize(3);
        project.clearing().carryOut(rest, Optional.empty());
        try (Stream<Path> left = Files.walk(project.roots().copies().path())) {
            assertThat(left.filter(Files::isRegularFile)).isEmpty();
        }
    }

    @Test
    void selectionsGoByAgeUseAndBudgetAndCoverageTellsWhoIsOdd() throws Exception {
        make(TINY);
        List<StockLine> stock = project.stocktaking().lines();
        long bytes = copies().stream().mapToLong(copy -> copy.place().bytes()).sum();
        Instant later = Instant.now().plus(Duration.ofDays(8));
        var unused = CopySelection.ALL.unusedFor(CopySelection.USUAL_AGE);
        assertThat(unused.from(stock, Instant.now())).isEmpty();
        assertThat(unused.from(stock, later)).hasSize(3);
        assertThat(CopySelection.ALL.within(new ByteSize(bytes - 1)).from(stock, later))
                .hasSize(1);
        assertThat(CopySelection.ALL.madeBy("other").from(stock, later)).isEmpty();
        assertThat(CopySelection.ALL.olderThan(Duration.ofDays(9)).from(stock, later))
                .isEmpty();
        project.clearing().stopUsing(copies().subList(0, 1), true);
        assertThat(unused.from(project.stocktaking().lines(), Instant.now()))
                .as("stopped is unused at once")
                .hasSize(1);

        Coverage coverage = Coverage.of(project.stocktaking().lines());
        assertThat(coverage.lacking(CopyKind.LIGHT)).hasSize(1);
        assertThat(coverage.rows().getFirst().hasUnused()).isTrue();
        assertThat(coverage.csv().lines()).hasSize(4).anyMatch(line -> line.contains("not in use"));
    }
}
