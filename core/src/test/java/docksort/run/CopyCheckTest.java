package docksort.run;

import static org.assertj.core.api.Assertions.assertThat;

import docksort.Clips;
import docksort.media.AudioStream;
import docksort.media.ByteSize;
import docksort.media.ClipFacts;
import docksort.media.Codec;
import docksort.media.CodedFrame;
import docksort.media.Colour;
import docksort.media.Findings;
import docksort.media.FrameRate;
import docksort.media.FrameStructure;
import docksort.media.Frames;
import docksort.media.Hdr;
import docksort.media.PixelFormat;
import docksort.media.Raster;
import docksort.media.Rational;
import docksort.media.ScanType;
import docksort.media.Timecode;
import docksort.media.VideoFacts;
import docksort.media.VideoTarget;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class CopyCheckTest {
    private static final Raster HALF = new Raster(960, 540);

    private static ClipFacts facts(
            long frames, String rate, String timecode, Raster raster, int channels, String seconds, int frameBytes) {
        FrameRate fps = FrameRate.parse(rate);
        var structure = FrameStructure.of(
                Collections.nCopies((int) frames, new CodedFrame(0, true, frameBytes)),
                FrameStructure.Extent.WHOLE,
                new Rational(1, 25));
        var video = new VideoFacts(
                new Codec("dnxhd", "DNXHR LB", 0),
                raster,
                raster,
                Rational.of(1),
                0,
                ScanType.PROGRESSIVE,
                new PixelFormat("yuv422p", 8, PixelFormat.Chroma.C422, false),
                Colour.UNSTATED,
                Hdr.NONE,
                fps,
                VideoFacts.RateKind.CONSTANT,
                new Frames(frames, Frames.Origin.STATED),
                structure);
        return new ClipFacts(
                "MOV",
                Optional.of(video),
                List.of(new AudioStream("pcm_s16le", channels, "", 48000, 16, Rational.parse(seconds))),
                fps.secondsOf(frames),
                Optional.of(Timecode.parse(timecode, fps)),
                Optional.empty(),
                Optional.empty(),
                new ByteSize(1),
                Findings.NONE,
                Map.of());
    }

    private static CopyCheck.Verdict check(ClipFacts copy) {
        ClipFacts original = facts(100, "25", "10:00:00:00", HALF, 2, "4", 49152);
        return CopyCheck.check(original, Clips.form(original, VideoTarget.VC3_LB, HALF), copy);
    }

    @Test
    void aTrueStandInPasses() {
        assertThat(check(facts(100, "25", "10:00:00:00", HALF, 2, "4.02", 49152))
                        .passes())
                .isTrue();
    }

    @ParameterizedTest
    @CsvSource({
        "99, 25, 10:00:00:00, 2, 4, 49152, frames is 99",
        "101, 25, 10:00:00:00, 2, 4, 49152, frames is 101",
        "100, 24, 10:00:00:00, 2, 4, 49152, rate is 24 fps",
        "100, 25, 10:00:00:01, 2, 4, 49152, timecode is 10:00:00:01",
        "100, 25, 10:00:00:00, 1, 4, 49152, sound 1 channels is 1",
        "100, 25, 10:00:00:00, 2, 3.9, 49152, sound 1 length is 3.900 s",
        "100, 25, 10:00:00:00, 2, 4, 50000, bytes a frame is others"
    })
    void oneFactThatDiffersFailsByName(
            long frames, String rate, String timecode, int channels, String seconds, int bytes, String words) {
        CopyCheck.Verdict verdict = check(facts(frames, rate, timecode, HALF, channels, seconds, bytes));
        assertThat(verdict.passes()).isFalse();
        assertThat(verdict.inWords()).contains(words);
    }

    @Test
    void anotherRasterFails() {
        assertThat(check(facts(100, "25", "10:00:00:00", new Raster(962, 540), 2, "4", 49152))
                        .inWords())
                .contains("raster is 962×540, must be 960×540");
    }
}
