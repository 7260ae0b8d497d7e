package docksort.project;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import docksort.WithMedia;
import docksort.arrival.Arrival;
import docksort.arrival.Clip;
import docksort.arrival.PairSearch;
import docksort.arrival.ScanListener;
import docksort.catalogue.WorkingCopy;
import docksort.engine.Cancellation;
import docksort.engine.MediaEngine;
import docksort.problem.CoreException.InputRefused;
import docksort.sort.Recipe;
import docksort.stock.CameraPairs;
import docksort.stock.CameraPairs.Kind;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/// A card whose small files lie beside the originals, without timecode and all of one length, so that only
/// pictures tell them apart. One of them was given the name of another by somebody.
@WithMedia
class PairingTest {
    private static final int FRAMES = 30;

    @TempDir
    Path folder = Path.of("");

    private final MediaEngine engine = MediaEngine.locate();
    private Project project;
    private Arrival arrival;

    @BeforeEach
    void shoot() throws Exception {
        Path card = Files.createDirectories(folder.resolve("Card/CLIP"));
        paint(card.resolve("K0041.mov"), "testsrc2", "320:180");
        paint(card.resolve("K0042.mov"), "mandelbrot=end_pts=40", "320:180");
        paint(card.resolve("K0043.mov"), "life=ratio=0.2:seed=7:rate=25", "320:180");
        paint(card.resolve("K0041Q1.mov"), "testsrc2", "160:90");
        paint(card.resolve("K0042Q1.mov"), "life=ratio=0.2:seed=7:rate=25", "160:90"); // is of K0043
        project = Project.open(folder.resolve("project"), engine, InstantSource.system());
        project.arrivals().add(folder.resolve("Card"), ScanListener.none(), new Cancellation());
        arrival = project.arrivals().all().getFirst();
    }

    private void paint(Path file, String source, String size) throws Exception {
        engine.run(List.of(
                "-f",
                "lavfi",
                "-i",
                source,
                "-vf",
                "scale=320:180:flags=area,fps=25,scale=" + size + ":flags=area,setsar=1",
                "-frames:v",
                Integer.toString(FRAMES),
                "-c:v",
                "mjpeg",
                "-q:v",
                "2",
                "file:" + file));
    }

    @AfterEach
    void close() {
        project.close();
        engine.close();
    }

    private CameraPairs pairs() {
        return project.pairing().of(arrival);
    }

    private Clip clip(String name) {
        return project.clips().stream()
                .filter(clip -> clip.name().equals(name))
                .findFirst()
                .orElseThrow();
    }

    private List<String> names() {
        return project.clips().stream().map(Clip::name).toList();
    }

    @Test
    void picturesTellWhichIsWhose() {
        assertThat(pairs().of(Kind.PAIR)).singleElement().satisfies(line -> {
            assertThat(line.clip().name()).isEqualTo("K0041");
            assertThat(line.copy().orElseThrow().file()).hasFileName("K0041Q1.mov");
            assertThat(line.words()).contains("the pictures are the original's");
        });
        assertThat(pairs().of(Kind.ALONE)).singleElement().satisfies(line -> {
            assertThat(line.clip().name()).isEqualTo("K0042Q1");
            assertThat(line.words()).isEqualTo("it is named like a copy of K0042, but its pictures are not the same");
        });
        assertThat(pairs().of(Kind.WITHOUT))
                .extracting(line -> line.clip().name())
                .containsExactly("K0042", "K0043");
        assertThat(pairs().inWords())
                .isEqualTo("1 pair, 1 small file without an original, 2 originals without a small file");
    }

    @Test
    void whatAPersonSaysHoldsAndIsTakenBack() throws Exception {
        project.plans().choose(List.of(clip("K0043")), Optional.of(List.of(Recipe.FULL_VC3)));
        project.pairing().isCopyOf(clip("K0042Q1"), clip("K0043"));
        assertThat(names()).containsExactly("K0041", "K0042", "K0043");
        assertThat(pairs().of(Kind.PAIR)).hasSize(2).anySatisfy(line -> {
            assertThat(line.clip().name()).isEqualTo("K0043");
            assertThat(line.words()).contains("by hand");
        });
        assertThat(project.plans().choices()).containsKey(clip("K0043").id());
        // Looking again brings nothing back that a person has decided.
        project.arrivals().lookAgain(arrival, Optional.empty(), ScanListener.none(), new Cancellation());
        assertThat(names()).containsExactly("K0041", "K0042", "K0043");

        WorkingCopy copy = pairs().of(Kind.PAIR).getFirst().copy().orElseThrow();
        project.pairing().isFootage(copy);
        assertThat(names()).contains("K0041Q1");
        assertThat(clip("K0041Q1").facts().video().orElseThrow().frames().count())
                .isEqualTo(FRAMES);
        project.arrivals().lookAgain(arrival, Optional.empty(), ScanListener.none(), new Cancellation());
        assertThat(names()).contains("K0041Q1");

        assertThat(project.undo()).contains("K0041Q1 is footage");
        assertThat(project.undo()).contains("K0042Q1 is a copy of K0043");
        assertThat(names()).containsExactly("K0041", "K0042", "K0042Q1", "K0043");
        assertThat(pairs().of(Kind.PAIR)).hasSize(1);
    }

    @Test
    void whatWasListedAsFootageIsMovedOverAsOneChange() throws Exception {
        project.pairing().isFootage(pairs().of(Kind.PAIR).getFirst().copy().orElseThrow());
        List<PairSearch.Pair> found = project.pairing().listedAsFootage(arrival, new Cancellation());
        assertThat(found).singleElement().satisfies(pair -> {
            assertThat(pair.small().name()).isEqualTo("K0041Q1");
            assertThat(pair.original().name()).isEqualTo("K0041");
        });
        assertThat(project.pairing().areCopies(found)).isEqualTo(1);
        assertThat(names()).doesNotContain("K0041Q1");
        assertThat(pairs().of(Kind.PAIR)).hasSize(1);
        project.undo();
        assertThat(names()).contains("K0041Q1");
    }

    @Test
    void aWordThatFactsSpeakAgainstIsRefused() {
        assertThatThrownBy(() -> project.pairing().isCopyOf(clip("K0042"), clip("K0043")))
                .isInstanceOf(InputRefused.class)
                .hasMessageContaining("its raster is not smaller");
        assertThatThrownBy(() -> project.pairing().isCopyOf(clip("K0042"), clip("K0042")))
                .isInstanceOf(InputRefused.class)
                .hasMessageContaining("no copy of itself");
        assertThat(names()).containsExactly("K0041", "K0042", "K0042Q1", "K0043");
    }
}
