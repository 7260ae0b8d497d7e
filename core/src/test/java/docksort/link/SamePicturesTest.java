package docksort.link;

import static org.assertj.core.api.Assertions.assertThat;

import docksort.FrameNumbers;
import docksort.WithMedia;
import docksort.engine.Cancellation;
import docksort.engine.Inspection;
import docksort.engine.Inspector;
import docksort.engine.MediaEngine;
import docksort.media.ClipFacts;
import docksort.media.ClipSource;
import docksort.media.FrameRate;
import docksort.run.PictureCheck;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/// Small files of other programs beside an original, whose pictures alone tell whether they are of it.
@WithMedia
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class SamePicturesTest {
    private Path made = Path.of("");
    private Path original = Path.of("");

    private final MediaEngine engine = MediaEngine.locate();

    @BeforeAll
    void record(@TempDir Path place) throws Exception {
        made = place;
        original = shoot("original", 0, "null");
    }

    @AfterAll
    void close() {
        engine.close();
    }

    /// Frames with their numbers painted into them, from one of them on.
    private Path shoot(String name, int first, String filter) throws InterruptedException {
        String source = "testsrc2=size=192x108:rate=25," + FrameNumbers.painted();
        return recorded(name, source + ",trim=start_frame=" + first + ",setpts=PTS-STARTPTS," + filter);
    }

    private Path recorded(String name, String source) throws InterruptedException {
        Path file = made.resolve(name.replace(' ', '_') + ".mov");
        var line = new ArrayList<>(List.of("-f", "lavfi", "-i", source, "-frames:v", "60"));
        line.addAll(List.of("-pix_fmt", "yuv420p", "-c:v", "mjpeg", "-q:v", "3", "file:" + file));
        engine.run(line);
        return file;
    }

    private boolean shown(Path small) throws Exception {
        var large = new ClipSource.SingleFile(original);
        var light = new ClipSource.SingleFile(small);
        return new SamePictures(new PictureCheck(engine), new Cancellation())
                .shows(large, facts(large), light, facts(light));
    }

    private ClipFacts facts(ClipSource source) throws Exception {
        return switch (new Inspector(engine).inspect(source, FrameRate.FPS_25, new Cancellation())) {
            case Inspection.Known known -> known.facts();
            case Inspection.Unreadable bad -> throw new AssertionError(bad.problem());
        };
    }

    /// How it was graded, or what was drawn into it, makes a small file of nothing else.
    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
        faithful             | null
        levels of a display  | lutyuv=y='val*0.86+16'
        more contrast        | lutyuv=y='clip((val-128)*1.2+128,16,235)'
        a look of a log      | lutyuv=y='16+219*pow(clip(val-16,0,219)/219,1.8)'
        without colours      | hue=s=0
        more colours         | hue=s=1.4
        another hue          | hue=h=25
        levels and colours   | hue=s=1.3,lutyuv=y='val*0.86+16'
        burnt-in text's band | drawbox=x=4:y=46:w=40:h=6:color=black:t=fill
        """)
    void aSmallFileOfTheSamePicturesIsOne(String name, String graded) throws Exception {
        assertThat(shown(shoot(name, 0, "scale=96:54," + graded))).as(name).isTrue();
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
        four frames later             | 4 | null
        four frames later and graded  | 4 | hue=s=1.3,lutyuv=y='val*0.86+16'
        upside down                   | 0 | vflip
        upside down and without colours | 0 | vflip,hue=s=0
        the negative                  | 0 | negate
        one picture that stands       | 0 | loop=loop=-1:size=1
        """)
    void othersAreNot(String name, int first, String other) throws Exception {
        assertThat(shown(shoot(name, first, "scale=96:54," + other))).as(name).isFalse();
    }

    @Test
    void anotherSceneIsNot() throws Exception {
        assertThat(shown(recorded("other", "mandelbrot=size=96x54:rate=25"))).isFalse();
    }
}
