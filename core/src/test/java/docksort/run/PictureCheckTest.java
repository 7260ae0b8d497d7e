package docksort.run;

import static org.assertj.core.api.Assertions.assertThat;

import docksort.Clips;
import docksort.Footage;
import docksort.WithMedia;
import docksort.engine.Cancellation;
import docksort.engine.Inspection;
import docksort.engine.Inspector;
import docksort.engine.MediaEngine;
import docksort.engine.ProcessControl;
import docksort.media.BurnIns;
import docksort.media.ClipFacts;
import docksort.media.ClipSource;
import docksort.media.ColourDecision;
import docksort.media.ColourDecision.Channels;
import docksort.media.CopyForm;
import docksort.media.FrameLines;
import docksort.media.FrameRate;
import docksort.media.Frames;
import docksort.media.Look;
import docksort.media.VideoTarget;
import docksort.run.CopyCheck.Finding;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/// Copies made right, and made wrong on purpose, each in one way that facts alone do not show.
@WithMedia
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class PictureCheckTest {
    private static final int FRAMES = 50;

    @TempDir
    static Path folder = Path.of("");

    private final MediaEngine engine = MediaEngine.locate();
    private Path original = Path.of("");
    private Path other = Path.of("");

    @BeforeAll
    void shoot() throws InterruptedException {
        String[] codec = {"-c:v", "libx264", "-g", "25", "-bf", "2", "-pix_fmt", "yuv420p"};
        original = new Footage(engine).clip(folder.resolve("original.mov"), "640x360", "25", FRAMES + 5, codec);
        var turned = new ArrayList<>(List.of("-vf", "hflip,hue=h=90"));
        turned.addAll(List.of(codec));
        other = new Footage(engine)
                .clip(folder.resolve("other.mov"), "640x360", "25", FRAMES + 5, turned.toArray(String[]::new));
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

    private Path made(Path from, String filters) throws InterruptedException {
        Path copy = folder.resolve("copy.mov");
        engine.run(List.of(
                "-i",
                "file:" + from,
                "-vf",
                filters,
                "-frames:v",
                Integer.toString(FRAMES),
                "-c:v",
                "prores",
                "-profile:v",
                "0",
                "-pix_fmt",
                "yuv422p10le",
                "file:" + copy));
        return copy;
    }

    /// Patterns of single pixels that scroll or flicker, below black among them: not every small copy looks like
    /// the original that is only averaged, and full range has nothing below black.
    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "cellauto=size=640x360:rate=25:random_seed=1 | prores",
                "cellauto=size=640x360:rate=25:random_seed=2 | prores",
                "cellauto=size=640x360:rate=25:random_seed=3 | mjpeg",
                "nullsrc=size=640x360:rate=25,noise=alls=40:allf=t | mjpeg",
                "life=size=640x360:rate=25:random_seed=1 | mjpeg"
            })
    void aTrueCopyOfFinePatternsPasses(String pattern, String encoder) throws InterruptedException {
        Path patterns = folder.resolve("patterns.mov");
        engine.run(List.of(
                "-f",
                "lavfi",
                "-i",
                pattern,
                "-frames:v",
                Integer.toString(FRAMES),
                "-c:v",
                "libx264",
                "-preset",
                "ultrafast",
                "-pix_fmt",
                "yuv420p",
                "file:" + patterns));
        for (String size : List.of("640:360", "320:180", "160:90")) {
            Path copy = folder.resolve("copy.mov");
            engine.run(List.of(
                    "-i",
                    "file:" + patterns,
                    "-vf",
                    "scale=" + size + ":flags=bicubic",
                    "-c:v",
                    encoder,
                    "-q:v",
                    "3",
                    "file:" + copy));
            assertThat(check(patterns, copy)).allMatch(Finding::passes);
        }
    }

    private List<Finding> check(Path copy) throws InterruptedException {
        return check(original, copy);
    }

    private List<Finding> check(Path original, Path copy) throws InterruptedException {
        return check(original, copy, true);
    }

    private List<Finding> check(Path original, Path copy, boolean all) throws InterruptedException {
        return check(original, copy, all, Look.NONE, BurnIns.NONE);
    }

    private List<Finding> check(Path original, Path copy, boolean all, Look look) throws InterruptedException {
        return check(original, copy, all, look, BurnIns.NONE);
    }

    private List<Finding> check(Path original, Path copy, boolean all, Look look, BurnIns drawn)
            throws InterruptedException {
        return check(new PictureCheck(engine), original, copy, all, look, drawn);
    }

    private List<Finding> check(PictureCheck pictures, Path original, Path copy, boolean all, Look look, BurnIns drawn)
            throws InterruptedException {
        ClipFacts facts = facts(original);
        CopyForm whole = Clips.form(
                facts,
                VideoTarget.PRORES_PROXY,
                facts(copy).video().orElseThrow().raster());
        var form = new CopyForm(
                whole.target(),
                whole.wrapper(),
                whole.raster(),
                whole.pixelAspect(),
                whole.rate(),
                FRAMES,
                false,
                false,
                false,
                look,
                false,
                whole.sound(),
                drawn,
                whole.range(),
                false);
        return pictures.check(
                        pictures.reference(
                                new ClipSource.SingleFile(original),
                                facts.video().orElseThrow(),
                                List.of(form),
                                List.of()),
                        form,
                        new ClipSource.SingleFile(copy),
                        new Frames(0, Frames.Origin.COUNTED),
                        Told.NOTHING,
                        all,
                        ProcessControl.of(new Cancellation()))
                .orElseThrow()
                .findings();
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {"scale=320:180", "scale=320:180,noise=alls=6:allf=t", "scale=160:90,scale=320:180"})
    void aTrueCopyPassesHoweverSmall(String filters) throws InterruptedException {
        assertThat(check(made(original, filters))).allMatch(Finding::passes).hasSize(4);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "shifted by one frame | trim=start_frame=1,setpts=PTS-STARTPTS,scale=320:180 | pictures | shows the"
                        + " original's frame",
                "wrong range | trim=start_frame=4,setpts=PTS-STARTPTS,scale=320:180 | pictures | frame",
                "levels opened | scale=320:180:in_range=tv:out_range=pc,setrange=tv | levels | contrast",
                "levels closed | scale=320:180:in_range=pc:out_range=tv,setrange=tv | levels | contrast",
                "grey | hue=s=0,scale=320:180 | colours | those of frame 0 differ by",
                "colours changed places | swapuv,scale=320:180 | colours | those of frame 0 differ by",
                "mirrored | hflip,scale=320:180 | pictures | differs",
                "cropped | crop=iw/2:ih/2,scale=320:180 | pictures | differs"
            })
    void aCopyMadeWrongIsFound(String what, String filters, String fact, String words) throws InterruptedException {
        assertThat(check(made(original, filters))).as(what).anySatisfy(finding -> {
            assertThat(finding.passes()).isFalse();
            assertThat(finding.fact()).isEqualTo(fact);
            assertThat(finding.found()).contains(words);
        });
    }

    /// As systems do when memory runs out: everything was decoded, and nothing was said.
    @Test
    void aDecoderThatWasKilledIsNoCleanOne() throws Exception {
        Path copy = made(original, "scale=320:180");
        Path killed = Files.createDirectories(folder.resolve("killed"));
        for (Path program : List.of(engine.ffmpegProgram(), engine.ffprobeProgram())) {
            String real = program.toAbsolutePath().toString();
            Path script = killed.resolve(program.getFileName());
            Files.writeString(
                    script,
                    "#!/bin/sh\nLD_LIBRARY_PATH=\"$(dirname '" + real + "')\" '" + real + "' \"$@\"\nkill -9 $$\n");
            assertThat(script.toFile().setExecutable(true)).isTrue();
        }
        try (MediaEngine dying = MediaEngine.inFolder(killed)) {
            assertThat(check(new PictureCheck(dying), original, copy, true, Look.NONE, BurnIns.NONE))
                    .filteredOn(finding -> !finding.passes())
                    .singleElement()
                    .satisfies(finding -> {
                        assertThat(finding.fact()).isEqualTo("decoding");
                        assertThat(finding.found()).contains("without a word");
                    });
        }
    }

    @Test
    void palerColoursAreFound() throws InterruptedException {
        Path pale = folder.resolve("pale.mov");
        engine.run(List.of("-i", "file:" + original, "-vf", "hue=s=0.4", "-c:v", "libx264", "file:" + pale));
        assertThat(check(pale, made(pale, "scale=320:180"))).allMatch(Finding::passes);
        assertThat(check(pale, made(pale, "hue=s=0.85,scale=320:180")))
                .filteredOn(finding -> !finding.passes())
                .singleElement()
                .extracting(Finding::found)
                .asString()
                .matches("0\\.8[3-7] of the original's saturation");
    }

    /// Of 320x180 a delivery of 9:16 keeps 100 columns, between two times 110 that are black in the copy.
    @Test
    void whatIsWithinFrameLinesIsCompared() throws InterruptedException {
        String black = ",drawbox=w=110:t=fill:c=black,drawbox=x=210:w=110:t=fill:c=black";
        var upright = new BurnIns(
                List.of(), Optional.of(FrameLines.parse("9:16", FrameLines.Outside.BLACK)), Optional.empty());
        Path copy = made(original, "scale=320:180" + black);
        assertThat(check(original, copy, true, Look.NONE, upright))
                .allMatch(Finding::passes)
                .hasSize(4);
        assertThat(check(original, copy)).as("nobody asked for it").anyMatch(finding -> !finding.passes());
        Path late = made(original, "trim=start_frame=1,setpts=PTS-STARTPTS,scale=320:180" + black);
        assertThat(check(original, late, true, Look.NONE, upright))
                .anyMatch(finding -> !finding.passes() && finding.found().contains("shows the original's frame"));
    }

    /// The copy's place, likeness and levels are held against the original as it looks through the recipe's
    /// look.
    @Test
    void aLookIsWantedAndNoOther() throws InterruptedException {
        var dark = new ColourDecision(
                new Channels(0.5, 0.5, 0.5), new Channels(0.1, 0.1, 0.1), new Channels(1, 1, 1), /* saturation= */ 1);
        var look = new Look(false, Optional.of(dark), Optional.empty());
        Path baked = made(original, "format=gbrp,lutrgb=r=val*0.5+25.5:g=val*0.5+25.5:b=val*0.5+25.5,scale=320:180");
        assertThat(check(original, baked, true, look)).allMatch(Finding::passes).hasSize(4);
        assertThat(check(original, baked)).as("a look that nobody wanted").anyMatch(finding -> !finding.passes());
        assertThat(check(original, made(original, "scale=320:180"), true, look))
                .as("a look that was forgotten")
                .anyMatch(finding -> !finding.passes());
    }

    /// One that makes red lighter and blue darker, and the luma by few levels.
    @Test
    void aSlightLookThatWasForgottenIsFound() throws InterruptedException {
        var slight = new ColourDecision(
                new Channels(1.1, 1, 0.9),
                new Channels(0.01, 0, -0.01),
                new Channels(0.9, 0.9, 0.9),
                /* saturation= */ 1);
        var look = new Look(false, Optional.of(slight), Optional.empty());
        String baked = "format=gbrp,lutrgb="
                + "r=255*pow(clip(val/255*1.1+0.01\\,0\\,1)\\,0.9):"
                + "g=255*pow(val/255\\,0.9):"
                + "b=255*pow(clip(val/255*0.9-0.01\\,0\\,1)\\,0.9),scale=320:180";
        assertThat(check(original, made(original, baked), true, look)).allMatch(Finding::passes);
        assertThat(check(original, made(original, "scale=320:180"), true, look))
                .filteredOn(finding -> !finding.passes())
                .singleElement()
                .extracting(Finding::found)
                .asString()
                .contains("has not the look that is wanted");
    }

    /// Saturation leaves the luma as it is: by ASC CDL 1.2 it is around that of Rec. ITU-R BT.709, which the
    /// pictures have.
    @Test
    void aLookOfColoursAloneThatWasForgottenIsFound() throws InterruptedException {
        Path tagged = folder.resolve("tagged.mov");
        String hd = "scale=out_color_matrix=bt709,format=yuv420p";
        engine.run(List.of("-i", "file:" + original, "-vf", hd, "-colorspace", "bt709", "file:" + tagged));
        Channels same = new Channels(1, 1, 1);
        var pale = new ColourDecision(same, new Channels(0, 0, 0), same, /* saturation= */ 0.93);
        var look = new Look(false, Optional.of(pale), Optional.empty());
        String grey = "0.07*(0.2126*r(X\\,Y)+0.7152*g(X\\,Y)+0.0722*b(X\\,Y))+0.93*";
        String baked = "format=gbrp,geq=r=" + grey + "r(X\\,Y):g=" + grey + "g(X\\,Y):b=" + grey
                + "b(X\\,Y),scale=320:180:out_color_matrix=bt709";
        assertThat(check(tagged, made(tagged, baked), true, look)).allMatch(Finding::passes);
        assertThat(check(tagged, made(tagged, "scale=320:180"), true, look))
                .filteredOn(finding -> !finding.passes())
                .singleElement()
                .extracting(Finding::found)
                .asString()
                .contains("has not the look that is wanted");
    }

    /// Without decoding what lies between, all but a fault between the places is still found, and the check
    /// says so.
    @Test
    void theShortCheckFindsAnOffsetAndSaysWhatItDecoded() throws InterruptedException {
        List<Finding> good = check(original, made(original, "scale=320:180"), false);
        assertThat(good).allMatch(Finding::passes).hasSize(4);
        assertThat(good.getFirst().found()).isEqualTo("around 5 places");
        Path shifted = made(original, "trim=start_frame=1,setpts=PTS-STARTPTS,scale=320:180");
        assertThat(check(original, shifted, false)).anyMatch(finding -> !finding.passes());
    }

    @Test
    void anotherClipAndADamagedOneAreFound() throws InterruptedException, IOException {
        assertThat(check(made(other, "scale=320:180"))).anySatisfy(finding -> {
            assertThat(finding.passes()).isFalse();
            assertThat(finding.fact()).isEqualTo("pictures");
        });
        Path damaged = made(original, "scale=320:180");
        byte[] bytes = Files.readAllBytes(damaged);
        int start = bytes.length / 3;
        Arrays.fill(bytes, start, start + 4_000, (byte) 0x5A);
        Files.write(damaged, bytes);
        assertThat(check(damaged))
                .anySatisfy(finding -> assertThat(finding.passes()).isFalse());
    }
}
