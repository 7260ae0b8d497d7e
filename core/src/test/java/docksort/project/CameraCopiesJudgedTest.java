package docksort.project;

import static org.assertj.core.api.Assertions.assertThat;

import docksort.Footage;
import docksort.WithMedia;
import docksort.arrival.Arrival;
import docksort.arrival.Clip;
import docksort.arrival.ScanListener;
import docksort.engine.Cancellation;
import docksort.engine.MediaEngine;
import docksort.media.Raster;
import docksort.sort.PlannedCopy;
import docksort.sort.Recipe;
import docksort.sort.SortRule;
import docksort.sort.Sorted;
import docksort.sort.Warning;
import docksort.stock.CameraPairs;
import docksort.stock.CameraPairs.Kind;
import docksort.stock.Filling;
import docksort.strain.Verdict;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/// A camera's own copies are judged like clips. Originals have 1920 × 1080 with a keyframe every 12
/// frames: 50 frames take 4 × 78 + 3 = 315 decoded frames to show each once, 6.3 for one, 13.1 million
/// pixels, which is fair. A copy of a quarter of the pixels with one keyframe takes 25.5 for one, 13.2
/// million pixels: as hard as its original.
@WithMedia
class CameraCopiesJudgedTest {
    private static final int FRAMES = 50;

    @TempDir
    Path folder = Path.of("");

    private final MediaEngine engine = MediaEngine.locate();
    private Project project;
    private Arrival arrival;

    @BeforeEach
    void shoot() throws Exception {
        Path card = Files.createDirectories(folder.resolve("Card/MAIN"));
        Path small = Files.createDirectories(folder.resolve("Card/SUB"));
        String[] codec = {"-c:v", "libx264", "-preset", "ultrafast", "-bf", "0", "-g"};
        for (String name : List.of("EASY", "SMALL", "HARD")) {
            clip(card.resolve(name + ".mp4"), "1920x1080", "25", codec, "12");
        }
        clip(card.resolve("FAST.mp4"), "1920x1080", "100", codec, "12");
        clip(small.resolve("EASY_S.mp4"), "960x540", "25", codec, "1");
        clip(small.resolve("SMALL_S.mp4"), "640x360", "25", codec, "1");
        clip(small.resolve("HARD_S.mp4"), "960x540", "25", codec, "50");
        project = Project.open(folder.resolve("project"), engine, InstantSource.system());
        project.arrivals().add(folder.resolve("Card"), ScanListener.none(), new Cancellation());
        arrival = project.arrivals().all().getFirst();
        project.book()
                .change(
                        project.book()
                                .now()
                                .withRules(List.of(new SortRule(List.of(), List.of(Recipe.LIGHT_PRORES_HALF.id())))),
                        "test");
    }

    private void clip(Path file, String size, String rate, String[] codec, String group) throws Exception {
        var more = new String[codec.length + 1];
        System.arraycopy(codec, 0, more, 0, codec.length);
        more[codec.length] = group;
        new Footage(engine).clip(file, size, rate, FRAMES, more);
    }

    @AfterEach
    void close() {
        project.close();
        engine.close();
    }

    private List<String> wanted() {
        return project.plans().loadSheet().wanted().stream()
                .map(copy -> copy.clip().name())
                .toList();
    }

    @Test
    void whatIsAsHardOrSmallerDoesNotCountAndTheLoadSheetSaysWhy() {
        assertThat(pairs().of(Kind.PAIR))
                .hasSize(3)
                .allMatch(line -> line.traits().isPresent());
        assertThat(wanted()).containsExactly("FAST", "HARD", "SMALL");
        assertThat(project.plans().loadSheet().warnings())
                .extracting(Warning::text)
                .contains(
                        "1 copy is wanted although the camera wrote one: its own is smaller than the recipe asks for",
                        "1 copy is wanted although the camera wrote one: its own is as hard as the original");
        Warning small = project.plans().loadSheet().warnings().stream()
                .filter(warning -> warning.text().contains("smaller than the recipe"))
                .findFirst()
                .orElseThrow();
        assertThat(small.clips()).containsExactly(clip("SMALL").id());

        // A person may be content with it.
        project.plans().choose(List.of(clip("SMALL")), Optional.of(List.of()));
        assertThat(wanted()).containsExactly("FAST", "HARD");
    }

    @Test
    void theEasiestSettingComesFirst() {
        List<CameraPairs.Setting> settings = pairs().settings();
        assertThat(settings)
                .extracting(CameraPairs.Setting::raster)
                .containsExactly(new Raster(640, 360), new Raster(960, 540));
        assertThat(settings.getLast().clips()).isEqualTo(2);
        assertThat(settings.getLast().verdict()).isEqualTo(Verdict.FAIR);
        // 25.5 and 1 frame of 518,400 pixels for one, on average.
        assertThat(settings.getLast().pixelsForOne()).isEqualTo((25.5 + 1) / 2 * 518_400);
        assertThat(settings.getFirst().pixelsForOne()).isEqualTo(230_400);
    }

    @Test
    void takesWithoutAreFilledWithCopiesAsLargeAsTheOthers() {
        Filling filling = project.pairFilling().of(arrival).orElseThrow();
        assertThat(filling.clips()).extracting(Clip::name).containsExactly("FAST");
        project.pairFilling().choose(filling);
        PlannedCopy planned = project.plans().loadSheet().wanted().stream()
                .filter(copy -> copy.clip().name().equals("FAST"))
                .findFirst()
                .orElseThrow();
        assertThat(planned.form().orElseThrow().raster()).isEqualTo(new Raster(960, 540));
        assertThat(planned.recipe().name()).isEqualTo("As large as the camera's, 540 lines");
        assertThat(project.plans().loadSheet().sorted())
                .filteredOn(sorted -> sorted.clip().name().equals("FAST"))
                .allMatch(Sorted::byHand);
        assertThat(project.pairFilling().of(arrival).orElseThrow().recipe())
                .as("made once")
                .isEqualTo(filling.recipe());
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
}
