package docksort.engine;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import docksort.WithMedia;
import docksort.media.ClipFacts;
import docksort.media.ClipSound;
import docksort.media.ClipSound.Channel;
import docksort.media.ClipSource;
import docksort.media.FrameRate;
import docksort.problem.CoreException.ToolFailed;
import java.io.RandomAccessFile;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.MatchResult;
import java.util.regex.Pattern;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/// Tones whose level is known on paper, and noise that another meter measures, too.
@WithMedia
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class SoundMeterTest {
    @TempDir
    static Path folder = Path.of("");

    private final MediaEngine engine = MediaEngine.locate();

    @AfterAll
    void close() {
        engine.close();
    }

    /// @param streams each a source of sound, a semicolon, and what encodes it
    private ClipSource painted(String name, String... streams) throws InterruptedException {
        var line = new ArrayList<String>();
        for (String stream : streams) {
            line.addAll(List.of("-f", "lavfi", "-i", stream.split(";", -1)[0]));
        }
        for (int i = 0; i < streams.length; i++) {
            line.addAll(List.of("-map", i + ":a", "-c:a:" + i, streams[i].split(";", -1)[1]));
        }
        line.add("file:" + folder.resolve(name));
        engine.run(line);
        return new ClipSource.SingleFile(folder.resolve(name));
    }

    private ClipFacts facts(ClipSource source) throws InterruptedException {
        return ((Inspection.Known) new Inspector(engine).inspect(source, FrameRate.FPS_25, new Cancellation())).facts();
    }

    private ClipSound heard(ClipSource source) throws InterruptedException {
        return new SoundMeter(engine)
                .measure(source, facts(source).audio(), new Cancellation())
                .orElseThrow();
    }

    /// The alignment tone of EBU R 68 (from memory: a sine 18 dB below full scale), a tone 20 dB below, one that
    /// reaches full scale, and a square wave, which has 3.01 dB more power than a sine of its peak.
    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "0.12589*sin(2*PI*1000*t) | pcm_s24le | -18 | -18",
                "0.1*sin(2*PI*997*t) | pcm_s16le | -20 | -20",
                "0.1*sin(2*PI*997*t) | alac | -20 | -20",
                "0.99999*sin(2*PI*997*t) | pcm_s24le | 0 | 0",
                "0.5*(1-2*mod(floor(t*1000),2)) | pcm_s16le | -3.01 | -6.02",
            })
    void aToneHasTheLevelThatItHasOnPaper(String tone, String codec, double level, double peak) throws Exception {
        ClipSound sound = heard(
                painted("tone-" + tone.hashCode() + codec + ".mov", "aevalsrc='" + tone + "':s=48000:d=3;" + codec));
        Channel only = sound.channels().getFirst();
        assertThat(sound.channels()).hasSize(1);
        assertThat(only.levelDecibels()).isEqualTo(level, within(0.1));
        assertThat(only.peakDecibels()).isEqualTo(peak, within(0.3));
        assertThat(sound.told()).isEmpty();
    }

    /// Two streams of other rates and lengths: each channel by itself, and what fills up the shorter one is not
    /// counted.
    @Test
    void channelsOfAllStreamsAreMeasuredEachOverItsOwnLength() throws Exception {
        ClipSound sound = heard(painted(
                "streams.mov",
                "aevalsrc='0.1*sin(2*PI*997*t)|0.0005*sin(2*PI*300*t)':s=48000:d=6;pcm_s24le",
                "aevalsrc='0.2*sin(2*PI*997*t)':s=44100:d=2;pcm_s16le",
                "anullsrc=r=48000:cl=mono:d=6;pcm_s16le"));
        assertThat(sound.channels()).hasSize(4);
        assertThat(sound.channels().get(0).levelDecibels()).isEqualTo(-20, within(0.1));
        assertThat(sound.channels().get(1).levelDecibels()).isEqualTo(-66, within(0.2));
        assertThat(sound.channels().get(2).levelDecibels()).isEqualTo(-14, within(0.1));
        assertThat(sound.channels().get(3).peak()).isZero();
        assertThat(sound.told())
                .containsExactly(
                        "Channel 2 is silent: nothing above −60 dBFS", "Channel 4 is silent: nothing above −60 dBFS");
        assertThat(Channel.label(sound.channels().get(3).peakDecibels())).isEqualTo("nothing");
    }

    /// Too loud at 1, 3, 3.2 and 7 seconds, of which two are one place.
    @Test
    void clippingIsToldWithItsPlaces() throws Exception {
        String loud = "aevalsrc='(0.1+1.9*(between(t,1,1.05)+between(t,3,3.05)+between(t,3.2,3.25)+between(t,7,7.05)))"
                + "*sin(2*PI*200*t)':s=48000:d=8";
        assertThat(heard(painted("clipped.mov", loud + ";pcm_s16le")).told())
                .containsExactly("The only channel clips at 3 places, the first, 1.0 s from the start");
        assertThat(heard(painted("float.mov", loud + ";pcm_f32le")).told())
                .containsExactly("The only channel peaks 6.0 dB above full scale: the clip keeps it, copies in whole"
                        + " numbers clip there");
    }

    /// Noise in six channels against a meter that is not ours.
    @Test
    void anotherMeterFindsTheSame() throws Exception {
        ClipSource source = painted(
                "noise.mov",
                "aevalsrc='0.3*random(0)-0.15|0.02*random(1)|0.5*random(2)*sin(t)|0.9*(random(3)-0.5)|0.01*random(4)|random(5)*"
                    + "random(6)':s=48000:d=5;pcm_s24le");
        var said = new StringBuilder();
        engine.raw(
                List.of(
                        "-i",
                        "file:" + source.head(),
                        "-af",
                        "astats=metadata=1:measure_overall=none:measure_perchannel=Peak_level+RMS_level,ametadata=print:file=-",
                        "-f",
                        "null",
                        "-"),
                in -> said.append(new String(in.readAllBytes(), StandardCharsets.UTF_8)),
                ProcessControl.of(new Cancellation()));
        List<Channel> found = heard(source).channels();
        assertThat(found).hasSize(6);
        for (int i = 0; i < found.size(); i++) {
            assertThat(found.get(i).peakDecibels()).isEqualTo(last(said, i + 1, "Peak_level"), within(0.01));
            assertThat(found.get(i).levelDecibels() - 10 * Math.log10(2))
                    .isEqualTo(last(said, i + 1, "RMS_level"), within(0.01));
        }
    }

    private static double last(CharSequence said, int channel, String what) {
        List<String> all = Pattern.compile("lavfi\\.astats\\." + channel + "\\." + what + "=(\\S+)")
                .matcher(said)
                .results()
                .map(MatchResult::group)
                .toList();
        return Double.parseDouble(all.getLast().substring(all.getLast().indexOf('=') + 1));
    }

    @Test
    void soundThatDoesNotDecodeIsSaidWithTheFile() throws Exception {
        ClipSource source = painted("gone.mov", "aevalsrc='0.1*sin(2*PI*997*t)':s=48000:d=3;pcm_s16le");
        ClipFacts facts = facts(source);
        try (var file = new RandomAccessFile(source.head().toFile(), "rw")) {
            file.setLength(16);
        }
        assertThatThrownBy(() -> new SoundMeter(engine).measure(source, facts.audio(), new Cancellation()))
                .isInstanceOf(ToolFailed.class)
                .hasMessageContaining("gone.mov");
    }
}
