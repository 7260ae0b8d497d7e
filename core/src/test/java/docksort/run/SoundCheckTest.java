package docksort.run;

import static org.assertj.core.api.Assertions.assertThat;

import docksort.Clips;
import docksort.WithMedia;
import docksort.engine.Cancellation;
import docksort.engine.Inspection;
import docksort.engine.Inspector;
import docksort.engine.MediaEngine;
import docksort.engine.ProcessControl;
import docksort.media.BurnIns;
import docksort.media.ClipFacts;
import docksort.media.ClipSource;
import docksort.media.CopyForm;
import docksort.media.FrameRange;
import docksort.media.FrameRate;
import docksort.media.Look;
import docksort.media.SoundForm;
import docksort.media.SoundMix;
import docksort.media.VideoTarget;
import docksort.run.CopyCheck.Finding;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/// Copies whose channels are right, and copies in which one is lost, swapped or heard on purpose.
@WithMedia
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class SoundCheckTest {
    private static final int FRAMES = 500;

    @TempDir
    static Path folder = Path.of("");

    private final MediaEngine engine = MediaEngine.locate();
    private Path original = Path.of("");

    /// Two channels of different levels in one stream, a silent one and a loud one in another; the first
    /// begins after four seconds.
    @BeforeAll
    void record() throws InterruptedException {
        original = folder.resolve("original.mov");
        engine.run(List.of(
                "-f",
                "lavfi",
                "-i",
                "testsrc2=size=64x36:rate=25:duration=20",
                "-f",
                "lavfi",
                "-i",
                "aevalsrc=gte(t\\,4)*0.05*sin(2000*t)|0.5*sin(3000*t):s=48000:d=20",
                "-f",
                "lavfi",
                "-i",
                "aevalsrc=0|0.3*sin(1500*t):s=48000:d=20",
                "-map",
                "0:v",
                "-map",
                "1:a",
                "-map",
                "2:a",
                "-c:v",
                "mjpeg",
                "-c:a",
                "pcm_s24le",
                "file:" + original));
    }

    @AfterAll
    void close() {
        engine.close();
    }

    private ClipFacts facts(Path file) throws InterruptedException {
        return ((Inspection.Known) new Inspector(engine)
                        .inspect(new ClipSource.SingleFile(file), FrameRate.FPS_25, new Cancellation()))
                .facts();
    }

    /// The stretches of a copy from frame 50 begin two seconds into the original.
    @ParameterizedTest
    @CsvSource({
        "as it is, 0, 0, pcm_s16le, c0=c0|c1=c1, 0, 4 channels as loud as the original's",
        "as it is, 0, 50, aac, c0=c0|c1=c1, 0, 4 channels as loud as the original's",
        "first lost, 0, 0, pcm_s16le, c0=0*c0|c1=c1, 0, channel 1 is silent",
        "second lost, 0, 0, pcm_s16le, c0=c0|c1=0*c1, 0, channel 2 is silent",
        "mixed, 0, 0, pcm_s16le, c0=c0|c1=c0, 0, channel 2 is far quieter",
        "swapped, 0, 0, pcm_s16le, c0=c1|c1=c0, 0, 'channel 1 is far louder, channel 2 is far quieter'",
        "other stream lost, 1, 0, pcm_s16le, c0=c0|c1=0*c1, 0, channel 4 is silent",
        "noise, 1, 0, pcm_s16le, c0=c1|c1=c1, 0, channel 3 is far louder",
        "muted, 0, 0, pcm_s16le, c0=c0|c1=0*c1, 2, 4 channels as loud as the original's",
        "not muted, 0, 0, pcm_s16le, c0=c0|c1=c1, 2, channel 2 is heard"
    })
    void aChannelThatIsNotTheOriginalsIsFound(
            String what, int stream, long first, String codec, String channels, int muted, String found)
            throws InterruptedException {
        ClipFacts facts = facts(original);
        var range = first == 0 ? Optional.<FrameRange>empty() : Optional.of(new FrameRange(first, FRAMES - first));
        Path copy = folder.resolve("copy.mov");
        var line = new ArrayList<>(List.of("-ss", Double.toString(first / 25.0), "-i", "file:" + original));
        line.addAll(List.of("-map", "0", "-c:v", "copy", "-c:a", codec, "-y"));
        line.addAll(List.of("-filter:a:" + stream, "pan=2c|" + channels, "file:" + copy));
        engine.run(line);
        CopyForm form = form(facts, range, muted == 0 ? List.of() : List.of(muted));
        var check = new SoundCheck(engine);
        ProcessControl control = ProcessControl.of(new Cancellation());

        var reference = check.reference(new ClipSource.SingleFile(original), facts, form, control)
                .orElseThrow();
        List<Finding> findings = check.check(reference, form, new ClipSource.SingleFile(copy), facts(copy), control)
                .orElseThrow();

        assertThat(findings).singleElement().satisfies(finding -> {
            assertThat(finding.found()).as(what).isEqualTo(found);
            assertThat(finding.passes()).as(what).isEqualTo(found.startsWith("4"));
        });
    }

    /// A mix is held against what its channels come to: another one is found, and none at all.
    @ParameterizedTest
    @CsvSource({
        "as wanted, c0=c1|c1=0.5*c0+0.5*c1, 2 channels as loud as the original's",
        "not mixed, c0=c1|c1=c0, channel 2 is far quieter",
        "one lost, c0=0*c1|c1=0.5*c0+0.5*c1, channel 1 is silent"
    })
    void aMixThatIsNotTheRecipesIsFound(String what, String channels, String found) throws InterruptedException {
        ClipFacts facts = facts(original);
        Path copy = folder.resolve("mix.mov");
        engine.run(List.of(
                "-i",
                "file:" + original,
                "-map",
                "0:v",
                "-map",
                "0:a:0",
                "-c:v",
                "copy",
                "-c:a",
                "pcm_s16le",
                "-filter:a:0",
                "pan=2c|" + channels,
                "-y",
                "file:" + copy));
        CopyForm form = form(facts, Optional.empty(), new SoundForm(0, 0, List.of(), SoundMix.parse("2, 1+2")));
        var check = new SoundCheck(engine);
        ProcessControl control = ProcessControl.of(new Cancellation());
        var reference = check.reference(new ClipSource.SingleFile(original), facts, form, control)
                .orElseThrow();
        assertThat(check.check(reference, form, new ClipSource.SingleFile(copy), facts(copy), control)
                        .orElseThrow())
                .singleElement()
                .satisfies(finding -> assertThat(finding.found()).as(what).isEqualTo(found));
    }

    /// Two people who speak by turns, as loud as each other.
    @ParameterizedTest
    @CsvSource(
            delimiter = ';',
            value = {
                "0; pcm_s16le; pan=2c|c0=c0|c1=c1; 2 channels as loud as the original's",
                "0; aac; pan=2c|c0=c0|c1=c1; 2 channels as loud as the original's",
                "50; aac; pan=2c|c0=c0|c1=c1; 2 channels as loud as the original's",
                "0; pcm_s16le; pan=2c|c0=c1|c1=c0; channel 1 sounds as channel 2 should, channel 2 sounds as channel 1"
                        + " should",
                "0; aac; pan=2c|c0=c0|c1=c0; channel 2 sounds as channel 1 should",
                "50; pcm_s16le; pan=2c|c0=c1|c1=c1; channel 1 sounds as channel 2 should",
                "0; pcm_s16le; aeval=val(0)|0.2*sin(3000*t); channel 2 does not sound as the original's",
                "50; pcm_s16le; aeval=0.2*sin(3100*t)|0.2*sin(3000*t); channel 1 does not sound as the original's,"
                        + " channel 2 does not sound as the original's"
            })
    void aChannelInPlaceOfAnotherAsLoudIsFound(long first, String codec, String filter, String found)
            throws InterruptedException {
        Path spoken = folder.resolve("spoken.mov");
        engine.run(List.of(
                "-f",
                "lavfi",
                "-i",
                "testsrc2=s=320x180:r=25:d=8",
                "-f",
                "lavfi",
                "-i",
                "aevalsrc='0.3*sin(2000*t)*gt(sin(5*t)\\,0)|0.3*sin(2600*t)*gt(sin(7*t+1)\\,0)':s=48000:d=8",
                "-c:v",
                "mjpeg",
                "-c:a",
                "pcm_s16le",
                "-y",
                "file:" + spoken));
        Path copy = folder.resolve("spoken copy.mov");
        var range = first == 0 ? Optional.<FrameRange>empty() : Optional.of(new FrameRange(first, 200 - first));
        var line = new ArrayList<>(List.of("-ss", Double.toString(first / 25.0), "-i", "file:" + spoken));
        line.addAll(List.of("-c:v", "copy", "-c:a", codec, "-filter:a", filter, "-y", "file:" + copy));
        engine.run(line);
        CopyForm form = form(facts(spoken), range, List.of());
        var check = new SoundCheck(engine);
        ProcessControl control = ProcessControl.of(new Cancellation());
        var reference = check.reference(new ClipSource.SingleFile(spoken), facts(spoken), form, control)
                .orElseThrow();
        assertThat(check.check(reference, form, new ClipSource.SingleFile(copy), facts(copy), control)
                        .orElseThrow())
                .first()
                .satisfies(finding -> assertThat(finding.found()).isEqualTo(found));
    }

    private static CopyForm form(ClipFacts facts, Optional<FrameRange> range, List<Integer> muted) {
        return form(facts, range, new SoundForm(0, 0, muted));
    }

    private static CopyForm form(ClipFacts facts, Optional<FrameRange> range, SoundForm sound) {
        CopyForm whole = Clips.form(
                facts, VideoTarget.PRORES_PROXY, facts.video().orElseThrow().raster());
        return new CopyForm(
                whole.target(),
                whole.wrapper(),
                whole.raster(),
                whole.pixelAspect(),
                whole.rate(),
                range.map(FrameRange::count).orElse(whole.frames()),
                false,
                false,
                false,
                Look.NONE,
                false,
                sound,
                BurnIns.NONE,
                range,
                false);
    }
}
