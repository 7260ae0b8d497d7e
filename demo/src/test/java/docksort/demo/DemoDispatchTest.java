package docksort.demo;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import docksort.arrival.Clip;
import docksort.arrival.ScanListener;
import docksort.catalogue.CopyState;
import docksort.catalogue.WorkingCopy;
import docksort.dispatch.Addressing;
import docksort.dispatch.ChecksumCheck;
import docksort.dispatch.ChecksumList;
import docksort.dispatch.Conform;
import docksort.dispatch.ConformedEvent;
import docksort.dispatch.CutList;
import docksort.dispatch.DepartureCheck;
import docksort.dispatch.DepartureCheck.Condition;
import docksort.dispatch.DepartureCheck.Purpose;
import docksort.dispatch.DepartureReport;
import docksort.dispatch.Parcel;
import docksort.dispatch.PullList;
import docksort.dispatch.Standing;
import docksort.engine.Cancellation;
import docksort.engine.MediaEngine;
import docksort.media.FrameRange;
import docksort.media.FrameRate;
import docksort.media.Raster;
import docksort.media.Timecode;
import docksort.problem.CoreException.InputRefused;
import docksort.project.Departures;
import docksort.project.Project;
import docksort.run.Terms;
import docksort.sort.Recipe;
import docksort.stock.ServingOrder;
import docksort.strain.TimelineFormat;
import docksort.timeline.MediaTarget;
import docksort.timeline.TimelineDocument;
import docksort.timeline.TimelineEvent;
import java.io.IOException;
import java.net.URLDecoder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.time.Duration;
import java.time.InstantSource;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.MethodOrderer;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.TestMethodOrder;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/// The last station with the demo: cut on copies, switched, checked, pulled. Then each condition is
/// spoiled by itself, and the check names that one and no other. Every spoiling is put right before the
/// next.
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
@TestMethodOrder(MethodOrderer.OrderAnnotation.class)
@Tag("media")
class DemoDispatchTest {
    private static final Path FOOTAGE = Path.of("target", "demo-footage").toAbsolutePath();
    private static final Raster HD = new Raster(1920, 1080);

    @TempDir
    static Path folder = Path.of("");

    private final MediaEngine engine = MediaEngine.locate();
    private Path footage = Path.of("");
    private Path cut = Path.of("");
    private Project project;

    @BeforeAll
    void copiesOfAllThatTheCutUses() throws Exception {
        DemoFootage.Made made = DemoFootage.in(FOOTAGE, engine, _ -> {});
        footage = folder.resolve("footage");
        copyTree(made.folder(), footage);
        cut = folder.resolve("cut.otio");
        Files.writeString(
                cut,
                Files.readString(made.timeline())
                        .replace(
                                made.folder().toUri().toString(),
                                footage.toUri().toString()));
        project = Project.open(folder.resolve("project"), engine, InstantSource.system());
        for (Path arrival : made.arrivals()) {
            project.arrivals()
                    .add(footage.resolve(made.folder().relativize(arrival)), ScanListener.none(), new Cancellation());
        }
        project.arrivals()
                .readAt(
                        project.clips().stream()
                                .filter(clip -> clip.facts().isRateOpen())
                                .toList(),
                        FrameRate.FPS_25);
        Set<Object> used =
                new HashSet<>(conform(project.timelines().open(cut)).needed().keySet());
        project.plans().choose(project.clips(), Optional.of(List.of()));
        project.plans()
                .choose(
                        project.clips().stream()
                                .filter(clip -> used.contains(clip.id()))
                                .toList(),
                        Optional.of(List.of(Recipe.LIGHT_PRORES_HALF)));
        project.queue().enqueue(project.plans().loadSheet());
        try (var run = project.runs().start(Terms.fixed(2), () -> {}).orElseThrow()) {
            assertThat(run.run().awaitEnd(Duration.ofMinutes(20))).isTrue();
        }
        project.settings().deliver(HD);
    }

    @AfterAll
    void close() {
        project.close();
        engine.close();
    }

    private static void copyTree(Path from, Path to) throws IOException {
        try (Stream<Path> paths = Files.walk(from)) {
            for (Path path : paths.toList()) {
                Path target = to.resolve(from.relativize(path).toString());
                if (Files.isDirectory(path)) {
                    Files.createDirectories(target);
                } else {
                    Files.copy(path, target);
                }
            }
        }
    }

    private Conform conform(TimelineDocument document) {
        return project.timelines().conform(document, project.stocktaking().lines());
    }

    private TimelineDocument served(ServingOrder order) {
        TimelineDocument document = project.timelines().open(cut);
        project.serving().switchTo(conform(document), order);
        return document;
    }

    private DepartureCheck check(TimelineDocument document, Purpose purpose) {
        project.stocktaking().refresh();
        return project.departures().check(conform(document), purpose, false, (_, _) -> {}, () -> false);
    }

    private Set<Condition> broken(TimelineDocument document) {
        return check(document, Purpose.FINISHING).blocking().keySet();
    }

    private TimelineDocument originals() {
        return served(ServingOrder.ORIGINALS);
    }

    @Test
    @Order(1)
    void theCutGoesToCopiesAndBackAndMayLeave() throws IOException {
        TimelineDocument light = served(ServingOrder.LIGHT_FIRST);
        List<ConformedEvent> events = conform(light).events();
        assertThat(events).filteredOn(ConformedEvent::isOnCopy).hasSizeGreaterThan(8);
        project.timelineFiles().save(light, folder.resolve("light.otio"));
        TimelineDocument back = project.timelines().open(folder.resolve("light.otio"));
        project.serving().switchTo(conform(back), ServingOrder.ORIGINALS);
        var json = new ObjectMapper();
        assertThat(json.readTree(back.bytes())).isEqualTo(json.readTree(Files.readAllBytes(cut)));
        DepartureCheck check =
                project.departures().check(conform(back), Purpose.FINISHING, true, (_, _) -> {}, () -> false);
        assertThat(check.findings()).filteredOn(DepartureCheck.Finding::blocks).isEmpty();
        assertThat(check.passes()).isTrue();
        DepartureReport report = project.departures()
                .depart(
                        back,
                        check,
                        new Departures.Departure(
                                folder.resolve("out/final.otio"),
                                Addressing.AS_IT_STANDS,
                                "the keeper",
                                Optional.empty()));
        assertThat(report.result()).isEqualTo("passed");
        String html = Files.readString(folder.resolve("out/final.otio.departure.html"));
        assertThat(html)
                .contains("the keeper")
                .contains("passed")
                .contains(check.files().getFirst().sum());
        assertThat(json.readTree(Files.readAllBytes(folder.resolve("out/final.otio.departure.json")))
                        .path("conditions"))
                .hasSize(Condition.values().length);
    }

    @Test
    @Order(2)
    void anEventThatIsNotKnownIsNamed() throws IOException {
        Path file = folder.resolve("foreign.otio");
        Files.writeString(file, Files.readString(cut).replace("K5_0018.MOV", "K5_0099.MOV"));
        assertThat(broken(project.timelines().open(file))).containsExactly(Condition.KNOWN);
    }

    @Test
    @Order(3)
    void anEventLeftOnItsCopyIsNamedAndLeavesOnlyByNameAndReason() throws IOException {
        TimelineDocument document = originals();
        ConformedEvent event = conform(document).events().getFirst();
        WorkingCopy copy = event.line().orElseThrow().copies().stream()
                .filter(its -> its.state() == CopyState.READY)
                .findFirst()
                .orElseThrow();
        String original = event.event().media().address();
        document.point(
                1,
                new MediaTarget(
                        "light", copy.file().toUri().toString(), original, "x", Optional.empty(), Map.of(), false),
                original::equals);
        assertThat(broken(document)).containsExactly(Condition.ON_ORIGINALS);
        DepartureCheck check = check(document, Purpose.FINISHING);
        Path target = folder.resolve("out/forced.otio");
        assertThatThrownBy(() -> project.departures()
                        .depart(
                                document,
                                check,
                                new Departures.Departure(
                                        target, Addressing.AS_IT_STANDS, "the keeper", Optional.empty())))
                .isInstanceOf(InputRefused.class)
                .hasMessageContaining("it leads to its light copy");
        assertThat(target).doesNotExist();
        DepartureReport forced = project.departures()
                .depart(
                        document,
                        check,
                        new Departures.Departure(
                                target,
                                Addressing.AS_IT_STANDS,
                                "the keeper",
                                Optional.of("only for the test screening")));
        assertThat(forced.result()).isEqualTo("let go by name and reason");
        assertThat(Files.readString(Path.of(target + ".departure.html"))).contains("only for the test screening");
        assertThat(project.activity(1).getFirst().what()).contains("only for the test screening");
    }

    /// The original stands beside it, and the event leads to a file that nobody here knows.
    @Test
    @Order(3)
    void anEventOnAnUnknownStandInIsNamedUntilItIsSwitched() throws IOException {
        var json = new ObjectMapper();
        var tree = json.readTree(Files.readAllBytes(cut));
        var clip = (ObjectNode) tree.at("/tracks/children/0/children/0");
        var references = (ObjectNode) clip.get("media_references");
        references
                .putObject("small")
                .put("OTIO_SCHEMA", "ExternalReference.1")
                .put("target_url", "file:///nobody/knows/small.mov");
        clip.put("active_media_reference_key", "small");
        Path file = folder.resolve("unknown stand-in.otio");
        Files.write(file, json.writeValueAsBytes(tree));
        TimelineDocument document = project.timelines().open(file);
        assertThat(broken(document)).containsExactly(Condition.ON_ORIGINALS);
        project.serving().switchTo(conform(document), ServingOrder.ORIGINALS);
        assertThat(broken(document)).isEmpty();
    }

    @Test
    @Order(4)
    void anOriginalThatIsAwayIsNamed() throws IOException {
        Path original = footage.resolve("volume A/Titles/Titles_v3.mov");
        Path aside = folder.resolve("aside.mov");
        Files.move(original, aside);
        assertThat(broken(originals())).containsExactly(Condition.THERE);
        Files.move(aside, original);
        assertThat(broken(originals())).isEmpty();
    }

    @Test
    @Order(5)
    void anOriginalThatWasChangedIsNamed() throws IOException {
        Path original = footage.resolve("volume A/Titles/Titles_v3.mov");
        byte[] bytes = Files.readAllBytes(original);
        var time = Files.getLastModifiedTime(original);
        byte[] changed = bytes.clone();
        changed[changed.length / 2] ^= 1;
        Files.write(original, changed);
        Files.setLastModifiedTime(original, time); // size and time tell nothing
        assertThat(broken(originals())).containsExactly(Condition.UNCHANGED);
        Files.write(original, bytes);
        Files.setLastModifiedTime(original, time);
        assertThat(broken(originals())).isEmpty();
    }

    @Test
    @Order(6)
    void framesThatARecordingLacksAreNamed() throws IOException {
        Path file = folder.resolve("long.otio");
        var json = new ObjectMapper();
        var tree = json.readTree(Files.readAllBytes(cut));
        ((ObjectNode) tree.at("/tracks/children/0/children/0/source_range/duration")).put("value", 35.0);
        Files.write(file, json.writeValueAsBytes(tree));
        DepartureCheck check = check(project.timelines().open(file), Purpose.FINISHING);
        assertThat(check.blocking().keySet()).containsExactly(Condition.RANGE);
        tree = json.readTree(Files.readAllBytes(cut));
        ((ObjectNode) tree.findValue("out_offset")).put("value", 4.0);
        Files.write(file, json.writeValueAsBytes(tree));
        assertThat(check(project.timelines().open(file), Purpose.FINISHING).findings())
                .as("a dissolve needs frames that the event's own stretch does not count")
                .filteredOn(DepartureCheck.Finding::blocks)
                .singleElement()
                .satisfies(finding -> {
                    assertThat(finding.condition()).isEqualTo(Condition.RANGE);
                    assertThat(finding.words()).isEqualTo("it uses 1 frame after it ends");
                });
        assertThat(check.findings())
                .filteredOn(DepartureCheck.Finding::blocks)
                .singleElement()
                .satisfies(finding -> assertThat(finding.words()).isEqualTo("it uses 1 frame after it ends"));
    }

    @Test
    @Order(7)
    void aRecordingThatIsReadOtherwiseThanItWasCutIsNamed() {
        TimelineDocument document = originals();
        var stills = project.clips().stream()
                .filter(clip -> clip.name().startsWith("DOME"))
                .toList();
        project.arrivals().readAt(stills, new FrameRate(24, 1));
        DepartureCheck check = check(document, Purpose.FINISHING);
        assertThat(check.blocking().keySet()).containsExactly(Condition.AS_CUT);
        assertThat(check.findings())
                .filteredOn(DepartureCheck.Finding::blocks)
                .anySatisfy(finding -> assertThat(finding.words()).contains("rate was 25 and is 24"));
        project.arrivals().readAt(stills, FrameRate.FPS_25);
        assertThat(broken(originals())).isEmpty();
    }

    @Test
    @Order(8)
    void aCopyThatPassesForAnOriginalIsNamed() throws Exception {
        WorkingCopy copy = project.stocktaking().lines().stream()
                .flatMap(line -> line.copies().stream())
                .filter(its ->
                        its.state() == CopyState.READY && its.file().toString().contains("K5_0018"))
                .findFirst()
                .orElseThrow();
        Path arrival = Files.createDirectories(folder.resolve("Found later"));
        Path passing = arrival.resolve("K5_0018_again.mov");
        Files.copy(copy.file(), passing);
        project.arrivals().add(arrival, ScanListener.none(), new Cancellation());
        Path file = folder.resolve("second hand.otio");
        String address = "\"" + passing.toUri() + "\"";
        Files.writeString(file, Files.readString(cut).replaceAll("\"file:[^\"]*K5_0018\\.MOV\"", address));
        assertThat(broken(project.timelines().open(file))).containsExactly(Condition.FIRST_HAND);
    }

    @Test
    @Order(9)
    void aTimelineInAReducedRasterIsNamed() {
        TimelineFormat format = project.settings().timelineFormat();
        project.settings()
                .setTimelineFormat(new TimelineFormat(
                        new Raster(960, 540),
                        format.rate(),
                        format.pixelAspect(),
                        format.primaries(),
                        format.samplesPerSecond()));
        assertThat(broken(originals())).containsExactly(Condition.DELIVERY_RASTER);
        project.settings().setTimelineFormat(format);
        assertThat(broken(originals())).isEmpty();
    }

    @Test
    @Order(10)
    void aReviewOnCopiesIsMarkedEverywhereAndKnowsASpoiledCopy() throws IOException {
        TimelineDocument light = served(ServingOrder.LIGHT_FIRST);
        DepartureCheck check = check(light, Purpose.REVIEW);
        assertThat(check.passes()).isTrue();
        DepartureReport report = project.departures()
                .depart(
                        light,
                        check,
                        new Departures.Departure(
                                folder.resolve("out/rough.otio"),
                                Addressing.relative(),
                                "the keeper",
                                Optional.empty()));
        assertThat(report.timeline()).hasFileName("rough-review.otio");
        TimelineDocument sent = TimelineDocument.open(report.timeline(), FrameRate.FPS_25);
        assertThat(sent.reviewMark()).contains("not for finishing");
        assertThat(sent.events())
                .filteredOn(event -> !event.media().isEmpty())
                .allSatisfy(event -> assertThat(event.media().address()).startsWith("../"));
        assertThat(conform(sent).events()).filteredOn(ConformedEvent::isOnCopy).hasSizeGreaterThan(8);
        assertThat(Files.readString(Path.of(report.timeline() + ".departure.html")))
                .contains("Not for finishing");

        WorkingCopy copy = conform(light).events().stream()
                .flatMap(event -> event.copy().stream())
                .findFirst()
                .orElseThrow();
        byte[] bytes = Files.readAllBytes(copy.file());
        var time = Files.getLastModifiedTime(copy.file());
        Files.write(copy.file(), "spoiled".getBytes(StandardCharsets.UTF_8));
        assertThat(check(light, Purpose.REVIEW).blocking().keySet()).containsExactly(Condition.FRESH_COPIES);
        Files.write(copy.file(), bytes);
        Files.setLastModifiedTime(copy.file(), time);
        assertThat(check(light, Purpose.REVIEW).passes()).isTrue();
    }

    @Test
    @Order(11)
    void whatIsPulledOpensElsewhereWithNothingElse() throws Exception {
        for (PullList.What what : PullList.What.values()) {
            TimelineDocument document =
                    served(what == PullList.What.COPIES ? ServingOrder.LIGHT_FIRST : ServingOrder.ORIGINALS);
            PullList list = project.pulls().pullList(conform(document), what);
            assertThat(list.left()).isEmpty();
            assertThat(list.rangeBytes()).isPositive().isLessThanOrEqualTo(list.bytes());
            Path packed = folder.resolve("packed " + what.label());
            Parcel parcel = project.pulls()
                    .pack(conform(document), list, packed, (_, _) -> {}, () -> false)
                    .orElseThrow();
            assertThat(parcel.files()).isEqualTo(list.files());
            assertThatThrownBy(() -> project.pulls().pack(conform(document), list, packed, (_, _) -> {}, () -> false))
                    .isInstanceOf(InputRefused.class)
                    .hasMessageContaining("there are files in it");
            Path elsewhere = folder.resolve("elsewhere " + what.label());
            Files.move(packed, elsewhere);
            ChecksumList sums = ChecksumList.read(list(elsewhere.resolve("ascmhl"), ".mhl"));
            assertThat(ChecksumCheck.of(sums, (_, _) -> {}, () -> false).passes())
                    .isTrue();
            if (what == PullList.What.ORIGINALS) {
                resolvesByItself(elsewhere, parcel.timeline().getFileName());
            } else {
                assertThat(TimelineDocument.open(
                                        elsewhere.resolve(parcel.timeline().getFileName()), FrameRate.FPS_25)
                                .events())
                        .filteredOn(event -> !event.media().isEmpty())
                        .allSatisfy(event -> assertThat(elsewhere.resolve(URLDecoder.decode(
                                        event.media().address().replace("+", "%2B"), StandardCharsets.UTF_8)))
                                .isRegularFile());
            }
        }
    }

    /// The same loop for the formats that hold less than a whole timeline.
    @ParameterizedTest
    @ValueSource(strings = {"cut.edl", "cut.csv"})
    @Order(12)
    void listsAndTablesGoToCopiesAndBackAndAreMarkedForReview(String name) throws IOException {
        Path file = folder.resolve(name);
        if (name.endsWith(".edl")) {
            Conform originals = conform(originals());
            project.timelineFiles()
                    .writeEditList(originals, CutList.tracks(originals).getFirst(), file);
        } else {
            Files.writeString(file, table(conform(originals()).events()));
        }
        byte[] before = Files.readAllBytes(file);
        TimelineDocument document = project.timelines().open(file);
        assertThat(conform(document).events())
                .hasSizeGreaterThan(4)
                .allSatisfy(event -> assertThat(event.standing()).isInstanceOf(Standing.OnOriginal.class));
        project.serving().switchTo(conform(document), ServingOrder.LIGHT_FIRST);
        project.timelineFiles().save(document, file);
        TimelineDocument light = project.timelines().open(file);
        assertThat(conform(light).events()).allSatisfy(event -> {
            assertThat(event.isOnCopy()).as(event.event().name()).isTrue();
            assertThat(event.how()).isEqualTo("its reference leads there");
        });
        assertThat(broken(light)).containsExactly(Condition.ON_ORIGINALS);
        DepartureReport report = project.departures()
                .depart(
                        light,
                        check(light, Purpose.REVIEW),
                        new Departures.Departure(
                                folder.resolve("out/" + name),
                                Addressing.AS_IT_STANDS,
                                "the keeper",
                                Optional.empty()));
        assertThat(report.timeline().getFileName().toString()).contains("-review.");
        TimelineDocument sent = TimelineDocument.open(report.timeline(), FrameRate.FPS_25);
        assertThat(sent.reviewMark()).contains("not for finishing");
        assertThat(conform(sent).events()).allMatch(ConformedEvent::isOnCopy);
        project.serving().switchTo(conform(light), ServingOrder.ORIGINALS);
        assertThat(broken(light)).isEmpty();
        assertThat(light.bytes()).isEqualTo(before);
    }

    private static String table(List<ConformedEvent> events) {
        var text = new StringBuilder("file,name,source in,source out,note\n");
        for (ConformedEvent event : events) {
            if (event.event().kind() == TimelineEvent.Kind.PICTURE
                    && event.clip().isPresent()) {
                Clip clip = event.clip().get();
                FrameRange used = event.used().orElseThrow();
                Optional<Timecode> zero = clip.facts().startTimecode();
                text.append(clip.source().head())
                        .append(',')
                        .append(clip.name())
                        .append(',')
                        .append(zero.map(start -> start.plus(used.first()) + "," + start.plus(used.end()))
                                .orElse(","))
                        .append(",\"keep, this\"\n");
            }
        }
        return text.toString();
    }

    @Test
    @Order(13)
    void aSavedTimelineIsPutBackAfterARestartUnlessItWasChangedSince() throws IOException {
        Path file = folder.resolve("kept.otio");
        Files.copy(cut, file);
        byte[] before = Files.readAllBytes(file);
        for (boolean changedSince : List.of(false, true)) {
            TimelineDocument document = project.timelines().open(file);
            project.serving().switchTo(conform(document), ServingOrder.LIGHT_FIRST);
            project.timelineFiles().save(document, file);
            byte[] saved = Files.readAllBytes(file);
            assertThat(file).content().contains("_light.mov");
            project.close();
            project = Project.open(folder.resolve("project"), engine, InstantSource.system());
            if (changedSince) {
                Files.writeString(file, "\n", StandardOpenOption.APPEND);
                byte[] changed = Files.readAllBytes(file);
                assertThatThrownBy(project::undo)
                        .isInstanceOf(InputRefused.class)
                        .hasMessageContaining("it was changed or moved since it was saved");
                assertThat(file).hasBinaryContent(changed);
            } else {
                assertThat(project.undo()).contains("Saved kept.otio");
                assertThat(file).hasBinaryContent(before);
                assertThat(project.redo()).contains("Saved kept.otio");
                assertThat(file).hasBinaryContent(saved);
                assertThat(project.undo()).contains("Saved kept.otio");
                assertThat(file).hasBinaryContent(before);
            }
        }
    }

    private static Path list(Path folder, String ending) throws IOException {
        try (Stream<Path> files = Files.list(folder)) {
            return files.filter(file -> file.toString().endsWith(ending))
                    .findFirst()
                    .orElseThrow();
        }
    }

    private void resolvesByItself(Path elsewhere, Path timeline) throws Exception {
        try (Project other = Project.open(folder.resolve("other project"), engine, InstantSource.system());
                Stream<Path> arrivals = Files.list(elsewhere.resolve("media"))) {
            for (Path arrival : arrivals.toList()) {
                other.arrivals().add(arrival, ScanListener.none(), new Cancellation());
            }
            Conform conform = other.timelines()
                    .conform(
                            other.timelines().open(elsewhere.resolve(timeline)),
                            other.stocktaking().lines());
            assertThat(conform.events()).allSatisfy(event -> {
                assertThat(event.standing()).isInstanceOf(Standing.OnOriginal.class);
                assertThat(event.how()).isEqualTo("its reference leads there");
                assertThat(event.clip().orElseThrow().source().head().startsWith(elsewhere.toRealPath()))
                        .isTrue();
            });
        }
    }
}
