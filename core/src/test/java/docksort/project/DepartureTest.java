package docksort.project;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import docksort.Footage;
import docksort.WithMedia;
import docksort.arrival.ScanListener;
import docksort.catalogue.WorkingCopy;
import docksort.dispatch.Addressing;
import docksort.dispatch.DepartureCheck;
import docksort.dispatch.DepartureCheck.Purpose;
import docksort.dispatch.DepartureReport;
import docksort.engine.Cancellation;
import docksort.engine.MediaEngine;
import docksort.media.Raster;
import docksort.problem.CoreException.InputRefused;
import docksort.problem.CoreException.StorageFailed;
import docksort.run.Terms;
import docksort.sort.Recipe;
import docksort.sort.SortBook;
import docksort.stock.ServingOrder;
import docksort.strain.TimelineFormat;
import docksort.timeline.TimelineDocument;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.time.Duration;
import java.time.InstantSource;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import net.jpountz.xxhash.XXHashFactory;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/// A timeline leaves as it was checked, or not at all.
@WithMedia
class DepartureTest {
    @TempDir
    Path folder = Path.of("");

    private final MediaEngine engine = MediaEngine.locate();
    private Project project;
    private TimelineDocument document;
    private Path original = Path.of("");
    private Path cut = Path.of("");
    private Path target = Path.of("");

    @BeforeEach
    void aTimelineOnACopy() throws Exception {
        original = folder.resolve("volume/card/A001.mov");
        Files.createDirectories(folder.resolve("volume/card"));
        new Footage(engine).clip(original, "192x108", "25", 50, "-c:v", "mjpeg");
        project = Project.open(folder.resolve("project"), engine, InstantSource.system());
        project.arrivals().add(folder.resolve("volume/card"), ScanListener.none(), new Cancellation());
        project.book().change(new SortBook(List.of(), List.of(), false), "test");
        project.plans().choose(project.clips(), Optional.of(List.of(Recipe.LIGHT_PRORES_HALF)));
        project.queue().enqueue(project.plans().loadSheet());
        try (var run = project.runs().start(Terms.fixed(1), () -> {}).orElseThrow()) {
            assertThat(run.run().awaitEnd(Duration.ofMinutes(2))).isTrue();
        }
        cut = Files.writeString(folder.resolve("cut.otio"), """
            {"OTIO_SCHEMA": "Timeline.1", "name": "cut", "tracks": {"OTIO_SCHEMA": "Stack.1", "children": [
              {"OTIO_SCHEMA": "Track.1", "kind": "Video", "name": "V1", "children": [
                {"OTIO_SCHEMA": "Clip.1", "name": "A001", "media_reference":
                  {"OTIO_SCHEMA": "ExternalReference.1", "target_url": "%s"}}]}]}}
            """.formatted(original.toUri()));
        target = folder.resolve("out/cut-review.otio");
        project.settings().deliver(project.settings().timelineFormat().raster());
        document = project.timelines().open(cut);
        turn(ServingOrder.LIGHT_FIRST);
    }

    @AfterEach
    void close() {
        project.close();
        engine.close();
    }

    private void turn(ServingOrder order) {
        project.serving()
                .switchTo(
                        project.timelines()
                                .conform(document, project.stocktaking().lines()),
                        order);
    }

    private WorkingCopy copy() {
        return project.stocktaking().lines().getFirst().copies().getFirst();
    }

    private DepartureCheck checked() {
        project.stocktaking().refresh();
        DepartureCheck check = project.departures()
                .check(
                        project.timelines()
                                .conform(document, project.stocktaking().lines()),
                        Purpose.REVIEW,
                        false,
                        (_, _) -> {},
                        () -> false);
        assertThat(check.findings()).filteredOn(DepartureCheck.Finding::blocks).isEmpty();
        return check;
    }

    private DepartureReport depart(DepartureCheck check) {
        return project.departures()
                .depart(
                        document,
                        check,
                        new Departures.Departure(target, Addressing.AS_IT_STANDS, "the keeper", Optional.empty()));
    }

    /// What can happen between a check and a departure.
    interface Between {
        void happens(DepartureTest test) throws Exception;
    }

    record Change(String told, Between between) {
        @Override
        public String toString() {
            return told;
        }
    }

    static Stream<Change> changes() {
        return Stream.of(
                new Change("the timeline", test -> test.turn(ServingOrder.ORIGINALS)),
                new Change("the timeline's file", test -> {
                    Files.writeString(test.cut, Files.readString(test.cut) + " ");
                    Files.setLastModifiedTime(test.cut, FileTime.fromMillis(1_700_000_000_000L));
                }),
                new Change(
                        "the raster of the delivery",
                        test -> test.project.settings().deliver(new Raster(3840, 2160))),
                new Change("the raster of the project's timeline", test -> {
                    TimelineFormat is = test.project.settings().timelineFormat();
                    test.project
                            .settings()
                            .setTimelineFormat(new TimelineFormat(
                                    new Raster(640, 360),
                                    is.rate(),
                                    is.pixelAspect(),
                                    is.primaries(),
                                    is.samplesPerSecond()));
                }),
                new Change("the raster of the delivery", test -> test.project.undo()),
                new Change(
                        "the handles",
                        test -> test.project
                                .timelines()
                                .useOf(
                                        test.project
                                                .timelines()
                                                .conform(
                                                        test.document,
                                                        test.project
                                                                .stocktaking()
                                                                .lines()),
                                        7)),
                new Change("event 1 A001", test -> test.project.clearing().stopUsing(List.of(test.copy()), true)),
                new Change("event 1 A001", test -> Files.delete(test.copy().file())),
                new Change(
                        "A001.mov",
                        test -> Files.setLastModifiedTime(test.original, FileTime.fromMillis(1_700_000_000_000L))));
    }

    @ParameterizedTest
    @MethodSource("changes")
    void nothingLeavesThatWasChangedSinceItWasChecked(Change change) throws Exception {
        DepartureCheck check = checked();
        change.between.happens(this);
        assertThatThrownBy(() -> depart(check))
                .isInstanceOfSatisfying(
                        InputRefused.class,
                        refused -> assertThat(refused.problem().toString())
                                .contains("changed since it was checked", change.told, "Check it again"));
        assertThat(target.getParent()).doesNotExist();
    }

    @Test
    void theReportNamesWhatLeftAndWhatWasChecked() throws Exception {
        DepartureCheck check = checked();
        depart(check);
        byte[] left = Files.readAllBytes(target);
        JsonNode report =
                new ObjectMapper().readTree(Path.of(target + ".departure.json").toFile());
        // The block form of the algorithm: another way than the stream that the program reads files with.
        long sum = XXHashFactory.safeInstance().hash64().hash(left, 0, left.length, 0);
        assertThat(report.get("timelineXxh64").textValue()).isEqualTo("%016x".formatted(sum));
        assertThat(report.get("checkedXxh64").textValue())
                .isEqualTo(checked().evidence().digest());
        assertThat(Files.readString(Path.of(target + ".departure.html"))).contains("%016x".formatted(sum));
    }

    @Test
    void itAppearsWithItsReportsOrNotAtAll() throws Exception {
        Files.createDirectories(target.getParent());
        Files.writeString(target, "from before");
        Path html = Files.writeString(Path.of(target + ".departure.html"), "report from before");
        Files.createDirectories(Path.of(target + ".departure.json/in the way"));
        assertThatThrownBy(() -> depart(checked())).isInstanceOf(StorageFailed.class);
        assertThat(target).hasContent("from before");
        assertThat(html).hasContent("report from before");
        try (Stream<Path> left = Files.list(target.getParent())) {
            assertThat(left).hasSize(3);
        }
    }
}
