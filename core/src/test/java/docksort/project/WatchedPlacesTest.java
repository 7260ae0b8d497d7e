package docksort.project;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import docksort.Footage;
import docksort.WithMedia;
import docksort.arrival.Arrival;
import docksort.arrival.Clip;
import docksort.arrival.ScanListener;
import docksort.engine.Cancellation;
import docksort.engine.MediaEngine;
import docksort.problem.CoreException.InputRefused;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/// A place where folders come in by themselves, with time as the test says it is.
@WithMedia
class WatchedPlacesTest {
    private static final Duration QUIET = Duration.ofSeconds(10);
    private static final Instant BEGIN = Instant.parse("2026-03-01T02:00:00Z");

    @TempDir
    Path folder = Path.of("");

    private final MediaEngine engine = MediaEngine.locate();
    private Path place = Path.of("");
    private Project project;

    @BeforeEach
    void open() throws Exception {
        place = Files.createDirectories(folder.resolve("incoming"));
        project = Project.open(folder.resolve("project"), engine, InstantSource.system());
    }

    @AfterEach
    void close() {
        project.close();
        engine.close();
    }

    private List<Path> after(long seconds) throws IOException {
        return project.watchedPlaces().settled(place, QUIET, BEGIN.plusSeconds(seconds));
    }

    private Path card(String name) throws Exception {
        Path card = Files.createDirectories(place.resolve(name));
        return new Footage(engine).clip(card.resolve("A001.mov"), "160x90", "25", 5, "-c:v", "mjpeg");
    }

    @Test
    void aFolderIsTakenOnceNothingInItGrowsAndOnlyOnce() throws Exception {
        Path clip = card("Card 1");
        Files.createDirectories(place.resolve("empty"));
        Files.createDirectories(place.resolve(".hidden"));
        Files.writeString(place.resolve("loose.mov"), "no folder");
        assertThat(after(0)).isEmpty();
        assertThat(project.watchedPlaces().holdsNew(place)).isTrue();
        Files.write(clip, new byte[] {0}, StandardOpenOption.APPEND);
        assertThat(after(9)).as("it has grown").isEmpty();
        assertThat(after(18)).as("quiet for 9 s").isEmpty();
        assertThat(after(19)).containsExactly(place.resolve("Card 1"));

        project.watchedPlaces().taken(place.resolve("Card 1"));
        project.arrivals().add(place.resolve("Card 1"), ScanListener.none(), new Cancellation());
        assertThat(after(60)).isEmpty();
        assertThat(project.watchedPlaces().holdsNew(place)).isFalse();

        // What went out of the project stays out, also in a program that starts anew.
        project.takingOut().takeOut(project.arrivals().all().getFirst());
        project.close();
        project = Project.open(folder.resolve("project"), engine, InstantSource.system());
        assertThat(after(70)).isEmpty();
        assertThat(after(90)).isEmpty();
        card("Card 2");
        assertThat(after(100)).isEmpty();
        assertThat(after(110)).containsExactly(place.resolve("Card 2"));
    }

    @Test
    void whatComesIntoATakenFolderLateIsNotMissed() throws Exception {
        card("Card 1");
        project.watchedPlaces().taken(place.resolve("Card 1"));
        project.arrivals().add(place.resolve("Card 1"), ScanListener.none(), new Cancellation());
        Arrival arrival = project.watchedPlaces().of(place.toRealPath()).getFirst();
        assertThat(project.watchedPlaces().late(arrival, QUIET, BEGIN)).isEmpty();
        Path late = new Footage(engine).clip(place.resolve("Card 1/A002.mov"), "160x90", "25", 5, "-c:v", "mjpeg");
        assertThat(project.watchedPlaces().late(arrival, QUIET, BEGIN.plusSeconds(1)))
                .as("it may grow still")
                .isEmpty();
        Set<Path> settled = project.watchedPlaces().late(arrival, QUIET, BEGIN.plusSeconds(11));
        assertThat(settled).containsExactly(late.toRealPath());
        project.arrivals().lookAgain(arrival, Optional.of(settled), ScanListener.none(), new Cancellation());
        assertThat(project.clips()).extracting(Clip::name).containsExactly("A001", "A002");
        assertThat(project.watchedPlaces().late(arrival, QUIET, BEGIN.plusSeconds(60)))
                .isEmpty();
        Files.move(place.resolve("Card 1"), folder.resolve("elsewhere"));
        assertThat(project.watchedPlaces().late(arrival, QUIET, BEGIN.plusSeconds(90)))
                .as("its folder is away")
                .isEmpty();
    }

    @Test
    void whatIsPartOfAnArrivalIsNotTaken() throws Exception {
        card("Card 1");
        project.arrivals().add(place.resolve("Card 1"), ScanListener.none(), new Cancellation());
        assertThat(after(0)).isEmpty();
        assertThat(after(20)).isEmpty();
        assertThatThrownBy(() -> project.watchedPlaces().watch(place.resolve("Card 1")))
                .isInstanceOf(InputRefused.class)
                .hasMessageContaining("part of the arrival Card 1");
        project.watchedPlaces().watch(place);
        assertThat(project.watchedPlaces().watched()).containsExactly(place.toRealPath());
        project.watchedPlaces().leave(place.toRealPath());
        assertThat(project.watchedPlaces().watched()).isEmpty();
        assertThatThrownBy(() -> project.watchedPlaces().watch(folder.resolve("nowhere")))
                .isInstanceOf(InputRefused.class);
    }
}
