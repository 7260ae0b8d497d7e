package docksort.project;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.fasterxml.jackson.databind.ObjectMapper;
import docksort.Footage;
import docksort.WithMedia;
import docksort.arrival.Clip;
import docksort.arrival.ScanListener;
import docksort.arrival.ScanResult;
import docksort.catalogue.CopyState;
import docksort.catalogue.Presence;
import docksort.catalogue.Root;
import docksort.catalogue.WorkingCopy;
import docksort.engine.Cancellation;
import docksort.engine.Inspection;
import docksort.engine.Inspector;
import docksort.engine.MediaEngine;
import docksort.link.Relink;
import docksort.media.ClipFacts;
import docksort.media.ClipSource;
import docksort.media.CodedFrame;
import docksort.media.FrameRate;
import docksort.problem.CoreException.CatalogueUnavailable;
import docksort.problem.CoreException.InputRefused;
import docksort.run.RunSnapshot;
import docksort.sort.Condition;
import docksort.sort.Fact;
import docksort.sort.LoadSheet;
import docksort.sort.PlannedCopy;
import docksort.sort.Recipe;
import docksort.sort.SortBook;
import docksort.sort.SortRule;
import docksort.sort.VolumeLoad;
import docksort.stock.ServingOrder;
import docksort.stock.StockLine;
import docksort.timeline.TimelineDocument;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.security.MessageDigest;
import java.time.Duration;
import java.time.InstantSource;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.io.TempDir;

/// The job from arrival to dispatch on real clips, the real engine and the real catalogue.
@WithMedia
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class WholeJobTest {
    @TempDir
    static Path folder = Path.of("");

    private final MediaEngine engine = MediaEngine.locate();
    private Path card = Path.of("");
    private Map<String, String> checksums = Map.of();
    private Project project = opened(Path.of(
            System.getProperty("java.io.tmpdir"),
            "docksort-unused-" + ProcessHandle.current().pid()));
    private int round;

    private Project opened(Path place) {
        return Project.open(place, engine, InstantSource.system());
    }

    @BeforeAll
    void shoot() throws Exception {
        project.close();
        card = Files.createDirectories(folder.resolve("volume/Card 1"));
        Files.createDirectories(card.resolve("MAIN"));
        Files.createDirectories(card.resolve("SUB"));
        var footage = new Footage(engine);
        footage.clipWithSound(
                card.resolve("MAIN/A001.mov"),
                "1280x720",
                "25",
                30,
                "-c:v",
                "libx264",
                "-g",
                "25",
                "-bf",
                "0",
                "-c:a",
                "pcm_s24le",
                "-timecode",
                "10:00:00:00");
        footage.clipWithSound(
                card.resolve("MAIN/A002.mov"),
                "1280x720",
                "30000/1001",
                31,
                "-c:v",
                "libx264",
                "-g",
                "30",
                "-c:a",
                "aac",
                "-timecode",
                "00:59:59;20");
        footage.clip(card.resolve("MAIN/A003.mov"), "1280x720", "25", 12, "-c:v", "libx264", "-g", "1");
        footage.clip(
                card.resolve("SUB/A001_P.mov"), "320x180", "25", 30, "-c:v", "libx264", "-timecode", "10:00:00:00");
        footage.clip(card.resolve("SUB/A002_P.mov"), "320x180", "25", 31, "-c:v", "libx264");
        footage.clip(
                card.resolve("MAIN/V001.mp4"),
                "1280x720",
                "60",
                80,
                "-vf",
                "select='not(eq(mod(n,7),3))'",
                "-fps_mode",
                "vfr",
                "-c:v",
                "libx264",
                "-g",
                "60");
        footage.clip(card.resolve("still_%04d.png"), "640x480", "25", 12);
        Files.writeString(card.resolve("notes.txt"), "clouds");
        Files.writeString(card.resolve("MAIN/A009.mov"), "not a clip");
        checksums = checksums();
    }

    @BeforeEach
    void open() {
        project = opened(folder.resolve("project " + ++round));
        var long4 = new SortRule(
                List.of(new Condition(Fact.SCRUB_COST, Fact.Is.AT_LEAST, "4")), List.of(Recipe.LIGHT_PRORES_HALF.id()));
        project.book().change(SortBook.BUILT_IN.withRules(List.of(long4)), "rules for small clips");
    }

    @AfterEach
    void originalsAreUntouched() throws Exception {
        project.close();
        assertThat(checksums()).as("checksums of the originals").isEqualTo(checksums);
    }

    @AfterAll
    void close() {
        engine.close();
    }

    private Map<String, String> checksums() throws Exception {
        var sums = new TreeMap<String, String>();
        try (var files = Files.walk(card)) {
            for (Path file : files.filter(Files::isRegularFile).toList()) {
                sums.put(
                        card.relativize(file).toString(),
                        HexFormat.of()
                                .formatHex(MessageDigest.getInstance("SHA-256").digest(Files.readAllBytes(file))));
            }
        }
        return sums;
    }

    private ScanResult arrive() throws InterruptedException {
        return project.arrivals().add(card, ScanListener.none(), new Cancellation());
    }

    private RunSnapshot make() throws InterruptedException {
        project.queue().enqueue(project.plans().loadSheet());
        try (LockedRun run = project.runs().start(2, () -> {}).orElseThrow()) {
            assertThat(run.run().awaitEnd(Duration.ofMinutes(2))).isTrue();
            return run.run().snapshot();
        }
    }

    private Clip clip(String name) {
        return project.clips().stream()
                .filter(c -> c.name().equals(name))
                .findFirst()
                .orElseThrow();
    }

    private ClipFacts facts(Path file) throws InterruptedException {
        var inspection =
                new Inspector(engine).inspect(new ClipSource.SingleFile(file), FrameRate.FPS_25, new Cancellation());
        return ((Inspection.Known) inspection).facts();
    }

    @Test
    void anArrivalBecomesClipsCompanionsAndNamedProblems() throws InterruptedException {
        ScanResult scan = arrive();
        assertThat(scan.clips())
                .extracting(Clip::name)
                .containsExactly("A001", "A002", "A003", "V001", "A002_P", "still [0001-0012]");
        assertThat(scan.companions())
                .as("the pair with another rate is refused")
                .singleElement()
                .satisfies(c -> assertThat(c.file()).hasFileName("A001_P.mov"));
        assertThat(scan.unreadable())
                .singleElement()
                .satisfies(u -> assertThat(u.problem().why()).contains("text"));
        assertThat(scan.asides())
                .singleElement()
                .satisfies(path -> assertThat(path).hasFileName("notes.txt"));
        assertThat(project.clips()).containsExactlyInAnyOrderElementsOf(scan.clips());
        assertThatThrownBy(this::arrive)
                .isInstanceOf(InputRefused.class)
                .hasMessageContaining("in the project already");
    }

    @Test
    void everyCopyHasItsOriginalsFramesRateTimecodeAndSound() throws InterruptedException {
        arrive();
        project.plans().choose(project.clips(), Optional.of(Recipe.BUILT_IN));
        List<PlannedCopy> planned = project.plans().loadSheet().wanted();
        RunSnapshot run = make();
        assertThat(run.copies())
                .allSatisfy(
                        c -> assertThat(c.copy().state()).as(c.copy().note()).isEqualTo(CopyState.READY));
        for (StockLine line : project.stocktaking().lines()) {
            for (WorkingCopy copy : line.copies()) {
                ClipFacts original = line.clip().facts();
                ClipFacts made = facts(copy.file());
                String what = copy.file().toString();
                assertThat(made.video().orElseThrow().frames().count())
                        .as(what)
                        .isEqualTo(original.video().orElseThrow().frames().count());
                assertThat(made.video().orElseThrow().rate())
                        .as(what)
                        .isEqualTo(original.video().orElseThrow().rate());
                assertThat(made.startTimecode()).as(what).isEqualTo(original.startTimecode());
                assertThat(made.audio())
                        .as(what)
                        .hasSize(copy.isAdopted() ? 0 : original.audio().size());
            }
        }
        for (PlannedCopy plan : planned) {
            WorkingCopy copy = project.stocktaking().lines().stream()
                    .flatMap(l -> l.copies().stream())
                    .filter(c -> c.clip().equals(plan.clip().id())
                            && c.recipeId().equals(plan.recipe().id()))
                    .findFirst()
                    .orElseThrow();
            long picture = facts(copy.file()).video().orElseThrow().structure().frames().stream()
                    .mapToLong(CodedFrame::bytes)
                    .sum();
            assertThat(picture)
                    .as("%s: picture bytes", copy.file())
                    .isBetween(plan.bytes().pictureLow(), plan.bytes().pictureHigh());
            var form = plan.form().orElseThrow();
            assertThat(plan.bytes().isExact()).isEqualTo(form.isVc3() || form.isRewrap());
        }
    }

    @Test
    void choosingByHandChangesThePlanAndCanBeTakenBackAfterARestart() throws InterruptedException {
        arrive();
        long before = project.plans().loadSheet().bytes().likely().bytes();
        project.plans().choose(List.of(clip("A003")), Optional.of(List.of(Recipe.FULL_VC3)));
        assertThat(project.plans().loadSheet().bytes().likely().bytes())
                .as("bytes follow the choice")
                .isEqualTo(before + 12 * 458_752);
        Path place = project.folder();
        project.close();
        project = opened(place);
        assertThat(project.plans().choices()).hasSize(1);
        assertThat(project.undo()).contains("A003 set to full · VC-3 at the clip's depth");
        assertThat(project.plans().choices()).isEmpty();
        assertThat(project.plans().loadSheet().bytes().likely().bytes()).isEqualTo(before);
    }

    @Test
    void aPlanThatCannotFitIsRefusedAndSaysWhatWould() throws InterruptedException {
        arrive();
        var sheet = project.plans().loadSheet();
        var tiny = new VolumeLoad(docksort.Clips.room("tiny", 51_000_000), sheet.bytes());
        var tight = new LoadSheet(
                sheet.sorted(), sheet.copies(), sheet.bytes(), sheet.time(), List.of(tiny), sheet.warnings());
        assertThat(tight.fits()).isFalse();
        assertThatThrownBy(() -> project.queue().enqueue(tight))
                .hasMessageContaining("are missing on tiny")
                .hasMessageContaining("Nothing was made")
                .hasMessageContaining("would fit");
        assertThat(project.queue().size()).isZero();
    }

    @Test
    void aCopyThatVanishedOrChangedIsNoticed() throws Exception {
        arrive();
        make();
        WorkingCopy first = project.stocktaking().lines().stream()
                .flatMap(l -> l.copies().stream())
                .filter(c -> !c.isAdopted())
                .findFirst()
                .orElseThrow();
        Path aside = Files.move(first.file(), first.file().resolveSibling("aside.mov"));
        project.stocktaking().refresh();
        assertThat(state(first)).isEqualTo(CopyState.MISSING);
        Files.move(aside, first.file());
        project.stocktaking().refresh();
        assertThat(state(first)).isEqualTo(CopyState.READY);
        Files.write(first.file(), new byte[] {1}, StandardOpenOption.APPEND);
        project.stocktaking().refresh();
        assertThat(state(first)).isEqualTo(CopyState.SUSPECT);
        assertThat(project.plans().loadSheet().wanted())
                .extracting(p -> p.clip().id())
                .contains(first.clip());
    }

    private CopyState state(WorkingCopy copy) {
        return project.stocktaking().lines().stream()
                .flatMap(l -> l.copies().stream())
                .filter(c -> c.id().equals(copy.id()))
                .findFirst()
                .orElseThrow()
                .state();
    }

    @Test
    void aMovedRootBringsBackTheSameRecordingsAndRefusesOthers() throws Exception {
        Path here = folder.resolve("moving " + round);
        copyTree(card, here.resolve("old/Card 1"));
        project.arrivals().add(here.resolve("old/Card 1"), ScanListener.none(), new Cancellation());
        Files.move(here.resolve("old"), here.resolve("new place"));
        project.stocktaking().refresh();
        assertThat(project.stocktaking().lines())
                .allSatisfy(line -> assertThat(line.presence().state()).isEqualTo(Presence.State.OFFLINE));
        Path other = here.resolve("new place/Card 1/MAIN/A001.mov");
        byte[] bytes = Files.readAllBytes(other);
        bytes[bytes.length / 2] ^= 1;
        Files.write(other, bytes);
        Files.delete(here.resolve("new place/Card 1/MAIN/A003.mov"));
        Root root = project.roots().all().stream()
                .filter(r -> !r.id().equals(Root.COPIES))
                .findFirst()
                .orElseThrow();
        Relink relink = project.relinking().preview(root, here.resolve("new place"));
        assertThat(relink.count(Presence.State.ONLINE)).isEqualTo(4);
        assertThat(relink.count(Presence.State.REFUSED)).isEqualTo(1);
        assertThat(relink.count(Presence.State.OFFLINE)).isEqualTo(1);
        project.relinking().carryOut(relink);
        assertThat(project.stocktaking().lines())
                .filteredOn(l -> l.clip().name().equals("A001"))
                .singleElement()
                .satisfies(l -> assertThat(l.presence().state()).isEqualTo(Presence.State.REFUSED));
        assertThat(clip("A002").source().head()).isEqualTo(here.resolve("new place/Card 1/MAIN/A002.mov"));
        assertThat(project.undo()).isPresent();
        assertThat(project.roots().all()).contains(root);
        assertThatThrownBy(
                        () -> project.relinking().carryOut(project.relinking().preview(root, card.resolve("SUB"))))
                .isInstanceOf(InputRefused.class)
                .hasMessageContaining("none of its");
    }

    private static void copyTree(Path from, Path to) throws IOException {
        try (var all = Files.walk(from)) {
            for (Path path : all.toList()) {
                Path target = to.resolve(from.relativize(path).toString());
                if (Files.isDirectory(path)) {
                    Files.createDirectories(target);
                } else {
                    Files.copy(path, target);
                }
            }
        }
    }

    @Test
    void aTimelineGoesToCopiesAndBackWithNothingElseChanged() throws Exception {
        arrive();
        make();
        Path file = folder.resolve("cut " + round + ".otio");
        Files.writeString(file, timeline());
        TimelineDocument timeline = project.timelines().open(file);
        assertThat(standings(timeline))
                .containsExactly("original", "original", "not in the project", "no media", "not in the project");
        assertThat(project.serving()
                        .switchTo(
                                project.timelines()
                                        .conform(timeline, project.stocktaking().lines()),
                                ServingOrder.LIGHT_FIRST)
                        .changed())
                .isEqualTo(2);
        assertThat(standings(timeline)).startsWith("light", "light", "not in the project", "no media");
        project.timelineFiles().save(timeline, file);
        assertThatThrownBy(() -> project.timelineFiles().save(timeline, card.resolve("MAIN/A001.mov")))
                .hasMessageContaining("must end with .otio");
        TimelineDocument again = project.timelines().open(file);
        assertThat(standings(again)).startsWith("light", "light");
        assertThat(project.serving()
                        .switchTo(
                                project.timelines()
                                        .conform(again, project.stocktaking().lines()),
                                ServingOrder.ORIGINALS)
                        .changed())
                .isEqualTo(2);
        var json = new ObjectMapper();
        assertThat(json.readTree(again.bytes())).isEqualTo(json.readTree(timeline()));
        assertThat(new String(again.bytes(), StandardCharsets.UTF_8))
                .as("numbers digit for digit")
                .contains("1.50")
                .contains("-23.0")
                .contains("12345678901234567890.125");
    }

    private List<String> standings(TimelineDocument timeline) {
        return project.timelines().conform(timeline, project.stocktaking().lines()).events().stream()
                .map(event -> event.standing().label())
                .toList();
    }

    private String timeline() {
        return """
            {"OTIO_SCHEMA": "Timeline.1", "name": "cut", "x_unknown": {"a": [1.50, -23.0, 12345678901234567890.125, null, "é"]},
             "tracks": {"OTIO_SCHEMA": "Stack.1", "children": [{"OTIO_SCHEMA": "Track.1", "name": "V1", "kind": "Video", "children": [
               {"OTIO_SCHEMA": "Clip.2", "name": "one", "x_more": true, "active_media_reference_key": "DEFAULT_MEDIA",
                "media_references": {"DEFAULT_MEDIA": {"OTIO_SCHEMA": "ExternalReference.1", "target_url": "%s", "metadata": {"k": 1}}}},
               {"OTIO_SCHEMA": "Clip.1", "name": "two",
                "media_reference": {"OTIO_SCHEMA": "ExternalReference.1", "target_url": "%s", "available_range": null, "x": 2}},
               {"OTIO_SCHEMA": "Clip.2", "name": "three", "active_media_reference_key": "DEFAULT_MEDIA",
                "media_references": {"DEFAULT_MEDIA": {"OTIO_SCHEMA": "ExternalReference.1", "target_url": "https://elsewhere.example/x.mov"}}},
               {"OTIO_SCHEMA": "Clip.2", "name": "four", "active_media_reference_key": "DEFAULT_MEDIA",
                "media_references": {"DEFAULT_MEDIA": {"OTIO_SCHEMA": "GeneratorReference.1"}}},
               {"OTIO_SCHEMA": "Clip.2", "name": "five", "active_media_reference_key": "DEFAULT_MEDIA",
                "media_references": {"DEFAULT_MEDIA": {"OTIO_SCHEMA": "MissingReference.1"}}}]}]}}
            """.formatted(
                        card.resolve("MAIN/A001.mov").toUri(),
                        card.resolve("MAIN/A002.mov").toUri());
    }

    @Test
    void badInputIsToldWithTheFileAndWhatIsUntouched() throws IOException {
        assertThatThrownBy(() ->
                        project.arrivals().add(folder.resolve("nowhere"), ScanListener.none(), new Cancellation()))
                .isInstanceOf(InputRefused.class)
                .hasMessageContaining("nowhere")
                .hasMessageContaining("not there")
                .hasMessageContaining("Nothing was changed");
        Path broken = Files.writeString(
                folder.resolve("broken " + round + ".otio"), "{\"OTIO_SCHEMA\": \"Timeline.1\",\n \"tracks\": [");
        assertThatThrownBy(() -> project.timelines().open(broken))
                .hasMessageContaining(broken.toString())
                .hasMessageContaining("line 2")
                .hasMessageContaining("as they were");
        Path other = Files.writeString(folder.resolve("other " + round + ".otio"), "[1, 2]");
        assertThatThrownBy(() -> project.timelines().open(other))
                .hasMessageContaining("not an OpenTimelineIO timeline");
        Path noProject = Files.createDirectories(folder.resolve("no project " + round));
        Files.writeString(
                noProject.resolve("catalogue.db"), "this is no database, and it is longer than a header would be");
        assertThatThrownBy(() -> opened(noProject))
                .isInstanceOf(CatalogueUnavailable.class)
                .hasMessageContaining("catalogue.db")
                .hasMessageContaining("as it was");
    }
}
