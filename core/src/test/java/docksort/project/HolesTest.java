package docksort.project;

import static org.assertj.core.api.Assertions.assertThat;

import docksort.Strangers;
import docksort.WithMedia;
import docksort.arrival.ScanListener;
import docksort.catalogue.CopyState;
import docksort.catalogue.WorkingCopy;
import docksort.dispatch.Conform;
import docksort.dispatch.DepartureCheck;
import docksort.dispatch.DepartureCheck.Condition;
import docksort.dispatch.DepartureCheck.Purpose;
import docksort.engine.Cancellation;
import docksort.engine.MediaEngine;
import docksort.media.Raster;
import docksort.run.Terms;
import docksort.sort.Recipe;
import docksort.sort.SortBook;
import docksort.stock.ServingOrder;
import docksort.strain.TimelineFormat;
import docksort.timeline.TimelineDocument;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.InstantSource;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/// A recording of which a stretch was overwritten with zeros, on its way from the run to a departure.
@WithMedia
class HolesTest {
    private static final Raster UHD = new Raster(3840, 2160);

    @TempDir
    Path folder = Path.of("");

    private final MediaEngine engine = MediaEngine.locate();
    private Project project;
    private Path cut = Path.of("");

    @BeforeEach
    void aCopyOfADamagedRecording() throws Exception {
        Path card = Files.createDirectories(folder.resolve("volume/card"));
        Strangers.Kind kind = Strangers.kinds().stream()
                .filter(each -> each.name().equals("hole.mov"))
                .findFirst()
                .orElseThrow();
        Path original = Strangers.make(kind, card);
        project = Project.open(folder.resolve("project"), engine, InstantSource.system());
        project.arrivals().add(card, ScanListener.none(), new Cancellation());
        project.book().change(new SortBook(List.of(), List.of(), false), "test");
        project.plans().choose(project.clips(), Optional.of(List.of(Recipe.LIGHT_PRORES_HALF)));
        project.queue().enqueue(project.plans().loadSheet());
        try (var run = project.runs().start(Terms.fixed(1), () -> {}).orElseThrow()) {
            assertThat(run.run().awaitEnd(Duration.ofMinutes(2))).isTrue();
        }
        cut = Files.writeString(folder.resolve("cut.otio"), """
            {"OTIO_SCHEMA": "Timeline.1", "name": "cut", "tracks": {"OTIO_SCHEMA": "Stack.1", "children": [
              {"OTIO_SCHEMA": "Track.1", "kind": "Video", "name": "V1", "children": [
                {"OTIO_SCHEMA": "Clip.1", "name": "hole", "media_reference":
                  {"OTIO_SCHEMA": "ExternalReference.1", "target_url": "%s"}}]}]}}
            """.formatted(original.toUri()));
    }

    @AfterEach
    void close() {
        project.close();
        engine.close();
    }

    private WorkingCopy copy() {
        return project.stocktaking().lines().getFirst().copies().getFirst();
    }

    private Conform conform(TimelineDocument document) {
        return project.timelines().conform(document, project.stocktaking().lines());
    }

    private List<String> blocking(TimelineDocument document, Purpose purpose, Condition condition) {
        DepartureCheck check = project.departures().check(conform(document), purpose, false, (_, _) -> {}, () -> false);
        return check.findings().stream()
                .filter(finding -> finding.blocks() && finding.condition() == condition)
                .map(DepartureCheck.Finding::words)
                .toList();
    }

    @Test
    void itServesOnlyAfterSomebodyAcceptedItAndIsToldOfAllTheWay() {
        assertThat(copy().state()).isEqualTo(CopyState.READY_WITH_HOLES);
        assertThat(copy().mayServe()).isFalse();
        TimelineDocument document = project.timelines().open(cut);
        assertThat(project.serving()
                        .switchTo(conform(document), ServingOrder.LIGHT_FIRST)
                        .copies())
                .as("nobody has accepted it")
                .isEmpty();

        project.clearing().stopUsing(List.of(copy()), false);
        assertThat(copy().mayServe()).isTrue();
        assertThat(project.serving()
                        .switchTo(conform(document), ServingOrder.LIGHT_FIRST)
                        .copies())
                .extracting(WorkingCopy::id)
                .containsExactly(copy().id());
        assertThat(conform(document).events().getFirst().inWords()).contains("has holes of a damaged original");
        assertThat(blocking(document, Purpose.REVIEW, Condition.FRESH_COPIES)).isEmpty();

        project.clearing().stopUsing(List.of(copy()), true);
        assertThat(blocking(document, Purpose.REVIEW, Condition.FRESH_COPIES))
                .singleElement()
                .asString()
                .contains("nobody has accepted that");

        project.serving().switchTo(conform(document), ServingOrder.ORIGINALS);
        DepartureCheck check =
                project.departures().check(conform(document), Purpose.FINISHING, false, (_, _) -> {}, () -> false);
        assertThat(check.findings())
                .filteredOn(finding -> finding.condition() == Condition.THERE)
                .singleElement()
                .satisfies(finding -> assertThat(finding.words()).contains("frames of it do not decode"));
    }

    /// A timeline is made smaller for cutting, and leaves for a master.
    @Test
    void whatIsDeliveredIsSaidOnceAndFollowsNothing() {
        TimelineDocument document = project.timelines().open(cut);
        assertThat(project.settings().delivery()).isEmpty();
        assertThat(blocking(document, Purpose.FINISHING, Condition.DELIVERY_RASTER))
                .singleElement()
                .asString()
                .contains("nobody has said yet");
        project.settings().deliver(UHD);
        TimelineFormat before = project.settings().timelineFormat();
        project.settings()
                .setTimelineFormat(new TimelineFormat(
                        new Raster(1920, 1080),
                        before.rate(),
                        before.pixelAspect(),
                        before.primaries(),
                        before.samplesPerSecond()));
        assertThat(project.settings().delivery()).contains(UHD);
        assertThat(blocking(document, Purpose.FINISHING, Condition.DELIVERY_RASTER))
                .isNotEmpty()
                .allSatisfy(what -> assertThat(what).contains("the delivery 3840×2160"));
    }

    @Test
    void whatLeftForAReviewIsNoMasterUntilItIsOnOriginalsAgain() throws Exception {
        TimelineDocument document = project.timelines().open(cut);
        document.markReview("on copies");
        assertThat(blocking(document, Purpose.FINISHING, Condition.ON_ORIGINALS))
                .singleElement()
                .asString()
                .contains("on copies");
        project.serving().switchTo(conform(document), ServingOrder.ORIGINALS);
        assertThat(document.reviewMark()).isEmpty();
        assertThat(blocking(document, Purpose.FINISHING, Condition.ON_ORIGINALS))
                .isEmpty();
    }
}
