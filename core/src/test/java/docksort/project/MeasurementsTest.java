package docksort.project;

import static org.assertj.core.api.Assertions.assertThat;

import docksort.Footage;
import docksort.WithMedia;
import docksort.arrival.Clip;
import docksort.arrival.ScanListener;
import docksort.arrival.Unreadable;
import docksort.engine.Cancellation;
import docksort.engine.MediaEngine;
import docksort.media.FrameRate;
import docksort.strain.ClipMeasurements;
import docksort.strain.Lever;
import docksort.strain.Strain;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

@WithMedia
class MeasurementsTest {
    @TempDir
    Path folder = Path.of("");

    private final MediaEngine engine = MediaEngine.locate();
    private Path card = Path.of("");

    @BeforeEach
    void shoot() throws Exception {
        card = Files.createDirectories(folder.resolve("volume/card"));
        new Footage(engine)
                .clip(card.resolve("A.mov"), "640x360", "25", 100, "-c:v", "libx264", "-g", "50", "-bf", "2");
    }

    @AfterEach
    void close() {
        engine.close();
    }

    private Project open() {
        return Project.open(folder.resolve("project"), engine, InstantSource.system());
    }

    @Test
    void figuresAreMeasuredKeptForThisMachineAndJudgedBy() throws Exception {
        try (Project project = open()) {
            project.arrivals().add(card, ScanListener.none(), new Cancellation());
            Clip clip = project.clips().getFirst();
            assertThat(project.measurements().measure(clip, new Cancellation())).isTrue();
            Optional<Lever> lever = project.measurements().lever(clip, _ -> {}, new Cancellation());
            assertThat(lever).isPresent();
            assertThat(lever.get().asItIs().runs()).isEqualTo(3);
            try (var left = Files.list(folder.resolve("project/scratch"))) {
                assertThat(left).as("the trial copy is gone").isEmpty();
            }
        }
        try (Project again = open()) {
            Clip clip = again.clips().getFirst();
            ClipMeasurements kept =
                    Objects.requireNonNull(again.measurements().all().get(clip.fingerprint()));
            assertThat(kept.play().orElseThrow().value())
                    .as("a small clip plays")
                    .isGreaterThan(1);
            assertThat(kept.seekMillis().orElseThrow().median()).isBetween(0.0, 5_000.0);
            assertThat(kept.volumeBytesPerSecond()).isPresent();
            Strain strain = again.judge().judge(clip);
            assertThat(strain.reasons())
                    .anySatisfy(reason -> assertThat(reason.text()).contains("measured over"))
                    .anySatisfy(reason -> assertThat(reason.figure()).endsWith(" ms"));
        }
    }

    @Test
    void aDecoderThatCanDecodesHalfOfEachSideAndTheTestSaysSo() throws Exception {
        new Footage(engine).clip(card.resolve("B.mov"), "640x360", "25", 100, "-c:v", "mjpeg");
        try (Project project = open()) {
            project.arrivals().add(card, ScanListener.none(), new Cancellation());
            for (Clip clip : project.clips()) {
                Lever lever = project.measurements()
                        .lever(clip, _ -> {}, new Cancellation())
                        .orElseThrow();
                assertThat(lever.decodedHalf())
                        .as(clip.name())
                        .isEqualTo(clip.name().equals("B"));
                assertThat(lever.reduced().median()).isPositive();
            }
        }
    }

    @Test
    void aCancelledMeasurementKeepsNothing() throws Exception {
        try (Project project = open()) {
            project.arrivals().add(card, ScanListener.none(), new Cancellation());
            var cancelled = new Cancellation();
            cancelled.cancel();
            assertThat(project.measurements().measure(project.clips().getFirst(), cancelled))
                    .isFalse();
            assertThat(project.measurements().all()).isEmpty();
        }
    }

    @Test
    void newFilesOfAWatchedFolderComeInOnceSettledAndTheRateOfStillsIsAskedFor() throws Exception {
        try (Project project = open()) {
            project.arrivals().add(card, ScanListener.none(), new Cancellation());
            var arrival = project.arrivals().all().getFirst();
            assertThat(project.arrivals().news(arrival)).isEmpty();
            new Footage(engine).clip(card.resolve("s.%04d.png"), "320x180", "25", 12);
            Path growing = Files.write(card.resolve("growing.mov"), new byte[] {1});
            Set<Path> news = project.arrivals().news(arrival).keySet();
            Path stills = card.resolve("s.0001.png");
            assertThat(news).containsExactlyInAnyOrder(stills, growing);
            project.arrivals().lookAgain(arrival, Optional.of(Set.of(stills)), ScanListener.none(), new Cancellation());
            assertThat(project.clips()).hasSize(2);
            assertThat(project.arrivals().unreadable())
                    .as("the growing file waits")
                    .isEmpty();
            assertThat(project.arrivals().news(arrival).keySet()).containsExactly(growing);
            Clip asked = project.clips().stream()
                    .filter(clip -> clip.facts().isRateOpen())
                    .findFirst()
                    .orElseThrow();
            assertThat(project.plans().loadSheet().wanted())
                    .noneMatch(copy -> copy.clip().id().equals(asked.id()));
            project.arrivals().readAt(List.of(asked), FrameRate.parse("24"));
            assertThat(project.plans().loadSheet().wanted())
                    .anyMatch(copy -> copy.clip().id().equals(asked.id()));
            project.undo();
            assertThat(project.clips()).anyMatch(clip -> clip.facts().isRateOpen());
        }
    }

    @Test
    void aScanThatWasBrokenOffGoesOnWhereItStopped() throws Exception {
        new Footage(engine).clip(card.resolve("B.mov"), "64x64", "25", 10, "-c:v", "libx264");
        try (Project project = open()) {
            var stop = new Cancellation();
            project.arrivals()
                    .add(
                            card,
                            new ScanListener() {
                                @Override
                                public void progress(int done, int all) {
                                    if (done == 1) {
                                        stop.cancel();
                                    }
                                }

                                @Override
                                public void clip(Clip clip) {}

                                @Override
                                public void unreadable(Unreadable file) {}
                            },
                            stop);
            assertThat(project.clips()).hasSizeLessThan(2);
            assertThat(project.arrivals().brokenOff()).hasSize(1);
            project.arrivals()
                    .lookAgain(
                            project.arrivals().brokenOff().getFirst(),
                            Optional.empty(),
                            ScanListener.none(),
                            new Cancellation());
            assertThat(project.clips()).extracting(Clip::name).containsExactly("A", "B");
            assertThat(project.arrivals().brokenOff()).isEmpty();
        }
    }
}
