package docksort.project;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import docksort.WithMedia;
import docksort.arrival.ScanListener;
import docksort.catalogue.CopyState;
import docksort.catalogue.WorkingCopy;
import docksort.engine.Cancellation;
import docksort.engine.Inspection;
import docksort.engine.Inspector;
import docksort.engine.MediaEngine;
import docksort.media.AudioStream;
import docksort.media.BurnIns;
import docksort.media.ClipSource;
import docksort.media.FrameRate;
import docksort.media.SoundForm;
import docksort.media.SoundMix;
import docksort.media.Wrapper;
import docksort.sort.CopyKind;
import docksort.sort.Encoding;
import docksort.sort.Placing;
import docksort.sort.PlannedCopy;
import docksort.sort.Recipe;
import docksort.sort.Scaling;
import docksort.sort.SortBook;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.ShortBuffer;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.InstantSource;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/// Mixes of a clip of two streams, with tones of 0.2, 0.4 and 0.6 of full scale in its three channels. Tones of
/// other frequencies add up by their squares: the mean of two with the amplitudes a and b has the root mean
/// square sqrt((a * a + b * b) / 8).
@WithMedia
class SoundMixesTest {
    @TempDir
    Path folder = Path.of("");

    private final MediaEngine engine = MediaEngine.locate();

    @AfterEach
    void close() {
        engine.close();
    }

    @BeforeEach
    void shoot() throws Exception {
        Path card = Files.createDirectories(folder.resolve("card"));
        engine.run(List.of(
                "-f",
                "lavfi",
                "-i",
                "testsrc2=size=320x180:rate=25:duration=2",
                "-f",
                "lavfi",
                "-i",
                "aevalsrc=0.2*sin(300*2*PI*t)|0.4*sin(700*2*PI*t):s=48000:d=2",
                "-f",
                "lavfi",
                "-i",
                "aevalsrc=0.6*sin(1100*2*PI*t):s=48000:d=1.5",
                "-map",
                "0:v",
                "-map",
                "1:a",
                "-map",
                "2:a",
                "-c:v",
                "mjpeg",
                "-c:a",
                "pcm_s16le",
                "file:" + card.resolve("A.mov")));
    }

    private static Recipe recipe(String id, CopyKind kind, Encoding encoding, Wrapper wrapper, String mix) {
        Recipe plain = Recipe.of(id, id, kind, encoding, wrapper, new Scaling.Full());
        return new Recipe(
                id,
                id,
                kind,
                encoding,
                wrapper,
                plain.scaling(),
                true,
                false,
                Optional.empty(),
                false,
                plain.look(),
                new SoundForm(0, 0, List.of(), SoundMix.parse(mix)),
                BurnIns.NONE,
                "{clip}_{recipe}",
                Placing.ONE_FOLDER,
                false);
    }

    /// Root mean square of each channel of a stream, 1 for full scale, in the first second.
    private double[] levels(Path file, int stream, int channels) throws Exception {
        ShortBuffer samples = samples(file, stream);
        var sums = new double[channels];
        int all = samples.remaining();
        for (int i = 0; i < all; i++) {
            double sample = samples.get() / 32_768.0;
            sums[i % channels] += sample * sample;
        }
        for (int i = 0; i < channels; i++) {
            sums[i] = Math.sqrt(sums[i] / ((double) all / channels));
        }
        return sums;
    }

    private ShortBuffer samples(Path file, int stream) throws Exception {
        Path raw = folder.resolve("levels.raw");
        engine.run(
                List.of("-i", "file:" + file, "-map", "0:a:" + stream, "-t", "1", "-f", "s16le", "-y", "file:" + raw));
        return ByteBuffer.wrap(Files.readAllBytes(raw))
                .order(ByteOrder.LITTLE_ENDIAN)
                .asShortBuffer();
    }

    @Test
    void eachChannelOfACopyIsTheMeanOfThoseItIsMadeOf() throws Exception {
        double one = 0.2 / Math.sqrt(2);
        double two = 0.4 / Math.sqrt(2);
        double three = 0.6 / Math.sqrt(2);
        double twoAndThree = Math.sqrt((0.4 * 0.4 + 0.6 * 0.6) / 8);
        double all = Math.sqrt((0.2 * 0.2 + 0.4 * 0.4 + 0.6 * 0.6) / 18);
        List<Recipe> recipes = List.of(
                recipe("swapped", CopyKind.LIGHT, Encoding.PRORES_PROXY, Wrapper.MOV, "3, 1"),
                recipe("guide", CopyKind.LIGHT, Encoding.H264_LONG, Wrapper.MP4, "all"),
                recipe("both", CopyKind.FULL, Encoding.VC3_LB, Wrapper.MXF, "2+3, 1"),
                recipe("rewrapped", CopyKind.FULL, Encoding.REWRAP, Wrapper.MOV, "2+3"),
                recipe("three", CopyKind.FULL, Encoding.MOTION_JPEG, Wrapper.MOV, "1, 2, 3"),
                recipe("each", CopyKind.LIGHT, Encoding.PRORES_PROXY, Wrapper.MOV, "each"),
                recipe("exchanged", CopyKind.LIGHT, Encoding.PRORES_PROXY, Wrapper.MOV, "2, 1"),
                recipe("streams", CopyKind.FULL, Encoding.VC3_LB, Wrapper.MXF, "2+3, 3; 1"),
                recipe("alone", CopyKind.SOUND, Encoding.SOUND_ONLY, Wrapper.WAV, "3, 2"),
                recipe("four", CopyKind.LIGHT, Encoding.PRORES_PROXY, Wrapper.MOV, "4"));
        try (Project project = Project.open(folder.resolve("project"), engine, InstantSource.system())) {
            project.book().change(new SortBook(recipes, List.of(), false), "test");
            project.arrivals().add(folder.resolve("card"), ScanListener.none(), new Cancellation());
            project.plans().choose(project.clips(), Optional.of(recipes));
            assertThat(project.plans().loadSheet().copies())
                    .filteredOn(planned -> planned.recipe().id().equals("four"))
                    .extracting(PlannedCopy::resolution)
                    .singleElement()
                    .asString()
                    .contains("it has 3 channels of sound, and the recipe takes channel 4");
            project.queue().enqueue(project.plans().loadSheet());
            try (var run = project.runs().start(2, () -> {}).orElseThrow()) {
                assertThat(run.run().awaitEnd(Duration.ofMinutes(3))).isTrue();
            }
            List<WorkingCopy> copies = project.stocktaking().lines().getFirst().copies();
            assertThat(copies)
                    .hasSize(9)
                    .allSatisfy(copy -> assertThat(copy.state()).as(copy.note()).isEqualTo(CopyState.READY));
            heard(copies, "swapped", three, one);
            heard(copies, "guide", all);
            heard(copies, "both", twoAndThree, one);
            heard(copies, "rewrapped", twoAndThree);
            heard(copies, "three", one, two, three);
            heard(copies, "alone", three, two);
            heardInStreams(copies, "each", new double[][] {{one}, {two}, {three}});
            ShortBuffer both = samples(folder.resolve("card/A.mov"), 0);
            ShortBuffer second = samples(file(copies, "each"), 1);
            ShortBuffer exchanged = samples(file(copies, "exchanged"), 0);
            assertThat(second.remaining()).isEqualTo(both.remaining() / 2);
            assertThat(exchanged.remaining()).isEqualTo(both.remaining());
            for (int i = 0; i < second.remaining(); i++) {
                assertThat(second.get(i)).as("sample %d", i).isEqualTo(both.get(2 * i + 1));
                assertThat(exchanged.get(2 * i)).as("sample %d", i).isEqualTo(both.get(2 * i + 1));
                assertThat(exchanged.get(2 * i + 1)).as("sample %d", i).isEqualTo(both.get(2 * i));
            }
            heardInStreams(copies, "streams", new double[][] {{twoAndThree, three}, {one}});
        }
    }

    private void heard(List<WorkingCopy> copies, String recipe, double... wanted) throws Exception {
        heardInStreams(copies, recipe, new double[][] {wanted});
    }

    private static Path file(List<WorkingCopy> copies, String recipe) {
        return copies.stream()
                .filter(copy -> copy.recipeId().equals(recipe))
                .findFirst()
                .orElseThrow()
                .file();
    }

    private void heardInStreams(List<WorkingCopy> copies, String recipe, double[][] wanted) throws Exception {
        Path file = file(copies, recipe);
        for (int stream = 0; stream < wanted.length; stream++) {
            assertThat(levels(file, stream, wanted[stream].length))
                    .as("%s, stream %d", recipe, stream)
                    .containsExactly(wanted[stream], within(0.01));
        }
        var facts = ((Inspection.Known) new Inspector(engine)
                        .inspect(new ClipSource.SingleFile(file), FrameRate.FPS_25, new Cancellation()))
                .facts();
        assertThat(facts.audio())
                .extracting(AudioStream::channels)
                .containsExactlyElementsOf(
                        Stream.of(wanted).map(levels -> levels.length).toList());
    }
}
