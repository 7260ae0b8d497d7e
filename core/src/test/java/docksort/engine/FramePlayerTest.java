package docksort.engine;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import docksort.Footage;
import docksort.FormatMatrix;
import docksort.FormatMatrix.Case;
import docksort.FrameNumbers;
import docksort.WithMedia;
import docksort.engine.FramePlayer.Shown;
import docksort.engine.FramePlayer.View;
import docksort.media.ClipSource;
import docksort.media.FrameRate;
import docksort.media.Frames;
import docksort.media.VideoFacts;
import docksort.problem.CoreException.ToolFailed;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import org.assertj.core.api.SoftAssertions;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

@WithMedia
class FramePlayerTest {
    private static final int WIDTH = 192;
    private static final int HEIGHT = 108;

    @TempDir
    Path folder = Path.of("");

    private final MediaEngine engine = MediaEngine.locate();
    private final FramePlayer player = new FramePlayer(engine);

    @AfterEach
    void close() {
        player.close();
        engine.close();
    }

    private int number(FramePlayer.Footage footage, long frame) throws InterruptedException {
        Shown shown = player.show(footage, frame, View.luma(WIDTH, HEIGHT));
        return FrameNumbers.number(WIDTH, HEIGHT, at -> shown.pixels().get(at) & 0xff);
    }

    private FramePlayer.Footage footage(Path file) throws InterruptedException {
        var source = new ClipSource.SingleFile(file);
        Inspection inspection = new Inspector(engine).inspect(source, FrameRate.FPS_25, new Cancellation());
        VideoFacts picture = ((Inspection.Known) inspection).facts().video().orElseThrow();
        return new FramePlayer.Footage(file, picture.frames(), picture.rate());
    }

    /// Every kind of the matrix, in leaps and in steps both ways: the number on the frame is the one
    /// asked for.
    @Test
    void theFrameThatIsAskedForIsShown() throws Exception {
        var random = new Random(2);
        var softly = new SoftAssertions();
        for (Case one : FormatMatrix.cases()) {
            if (one.wants("vfr")) {
                continue; // there a frame is what is shown at its time, which the number does not tell
            }
            FramePlayer.Footage footage = footage(FormatMatrix.make(one, folder, engine));
            int last = one.frames() - 1;
            var wanted = new ArrayList<Integer>(List.of(last, 0, last / 2, last / 2 + 1, last / 2 + 2, last / 2 + 1));
            random.ints(6, 0, last + 1).forEach(wanted::add);
            for (int frame : wanted) {
                softly.assertThat(number(footage, frame))
                        .as("%s, frame %d", one.name(), frame)
                        .isEqualTo(frame);
            }
        }
        softly.assertAll();
    }

    @Test
    void aPartIsShownPixelForPixel() throws Exception {
        Path file = new Footage(engine).clip(folder.resolve("a.mkv"), "320x180", "25", 3, "-c:v", "ffv1");
        FramePlayer.Footage footage = footage(file);
        Shown whole = player.show(footage, 1, View.whole(320, 180));
        Shown part = player.show(footage, 1, new View(100, 60, 50, 40, 100, 80, false));
        assertThat(part.frameWidth()).isEqualTo(320);
        for (int y = 0; y < 80; y += 7) {
            for (int x = 0; x < 100; x += 7) {
                int at = ((60 + y / 2) * 320 + 100 + x / 2) * 4;
                assertThat(part.pixels().get((y * 100 + x) * 4))
                        .isEqualTo(whole.pixels().get(at));
            }
        }
    }

    /// A recording of several files counts on over their seams, in leaps and in steps.
    @Test
    void aSpannedRecordingIsShownAsOne() throws Exception {
        var footage = new Footage(engine);
        var parts = new ArrayList<Path>();
        for (int part = 0; part < 3; part++) {
            parts.add(footage.numbered(folder.resolve("span " + part + ".mov"), part * 20, 20, "-c:v", "libx264"));
        }
        var source = new ClipSource.Spanned(parts);
        var facts = ((Inspection.Known) new Inspector(engine).inspect(source, FrameRate.FPS_25, new Cancellation()))
                .facts();
        VideoFacts picture = facts.video().orElseThrow();
        assertThat(picture.frames().count()).isEqualTo(60);
        FramePlayer.Footage whole = FramePlayer.Footage.of(source, picture.frames(), picture.rate(), 0);
        for (int frame : List.of(59, 0, 19, 20, 21, 39, 40, 41, 20, 19, 45)) {
            assertThat(number(whole, frame)).isEqualTo(frame);
        }
    }

    /// Held against the engine's own turning, whole and in parts.
    @ParameterizedTest
    @ValueSource(ints = {90, 180, 270})
    void aTurnedRecordingIsShownUpright(int degrees) throws Exception {
        var made = new Footage(engine);
        Path lying = made.clip(folder.resolve("lying.mov"), "64x36", "25", 3, "-c:v", "png");
        Path turned = folder.resolve("turned.mov");
        String anticlockwise = Integer.toString(-degrees);
        engine.run(
                List.of("-display_rotation", anticlockwise, "-i", lying.toString(), "-c", "copy", turned.toString()));
        Path baked = folder.resolve("baked.mov");
        engine.run(List.of("-i", turned.toString(), "-c:v", "png", baked.toString()));
        FramePlayer.Footage one = footage(turned);
        FramePlayer.Footage other = footage(baked);
        int width = degrees == 180 ? 64 : 36;
        int height = degrees == 180 ? 36 : 64;
        Shown whole = player.show(one, 1, View.whole(width, height));
        assertThat(whole.frameWidth()).isEqualTo(width);
        assertThat(whole.pixels())
                .isEqualTo(player.show(other, 1, View.whole(width, height)).pixels());
        var part = new View(5, 9, 20, 12, 40, 24, false);
        assertThat(player.show(one, 2, part).pixels())
                .isEqualTo(player.show(other, 2, part).pixels());
    }

    @Test
    void aDecoderThatEndsIsToldAndTheNextFrameStartsAnother() throws Exception {
        FramePlayer.Footage good =
                footage(new Footage(engine).clip(folder.resolve("a.mov"), "320x180", "25", 9, "-c:v", "mjpeg"));
        player.show(good, 3, View.whole(32, 18));
        List<ProcessHandle> servers = ProcessHandle.current()
                .children()
                .filter(child -> child.info()
                        .command()
                        .filter(command -> command.endsWith("java"))
                        .isPresent())
                .toList();
        assertThat(servers).hasSize(1);
        servers.getFirst().destroyForcibly();
        servers.getFirst().onExit().get();
        assertThatThrownBy(() -> player.show(good, 4, View.whole(32, 18)))
                .isInstanceOf(ToolFailed.class)
                .hasMessageContaining("a.mov")
                .hasMessageContaining("everything else goes on");
        assertThat(player.show(good, 4, View.whole(32, 18)).width()).isEqualTo(32);
    }

    @Test
    void whatIsNoFootageIsToldAndTheRestGoesOn() throws Exception {
        Path noise = folder.resolve("noise.mov");
        byte[] bytes = new byte[100_000];
        new Random(1).nextBytes(bytes);
        Files.write(noise, bytes);
        var frames = new Frames(10, Frames.Origin.STATED);
        for (Path file : List.of(noise, folder.resolve("nowhere.mov"))) {
            assertThatThrownBy(() ->
                            player.show(new FramePlayer.Footage(file, frames, FrameRate.FPS_25), 3, View.whole(32, 18)))
                    .isInstanceOf(ToolFailed.class)
                    .hasMessageContaining(file.getFileName().toString())
                    .hasMessageContaining("it cannot be opened");
        }
        Path whole = new Footage(engine).clip(folder.resolve("b.mov"), "320x180", "25", 50, "-c:v", "mjpeg");
        FramePlayer.Footage cut = footage(whole);
        byte[] all = Files.readAllBytes(whole);
        Arrays.fill(all, 60_000, 100_000, (byte) 0x5a); // a hole in the middle
        Files.write(whole, all);
        assertThat(player.show(cut, 49, View.whole(32, 18)).width()).isEqualTo(32);
    }

    /// Held against the engine's own `ssim` and `psnr` filters on the same luma.
    @Test
    void likenessIsThatOfTheEnginesFilters() throws Exception {
        Path one = new Footage(engine)
                .clip(
                        folder.resolve("a.mkv"),
                        "320x180",
                        "25",
                        3,
                        "-c:v",
                        "ffv1",
                        "-pix_fmt",
                        "gray",
                        "-color_range",
                        "pc");
        Path other = folder.resolve("b.mkv");
        engine.run(List.of(
                "-i",
                "file:" + one,
                "-vf",
                "gblur=sigma=1.2",
                "-c:v",
                "ffv1",
                "-pix_fmt",
                "gray",
                "-color_range",
                "pc",
                "file:" + other));
        LumaFigures ours = LumaFigures.of(
                player.show(footage(one), 1, View.luma(320, 180)), player.show(footage(other), 1, View.luma(320, 180)));
        Path stats = folder.resolve("ssim.txt");
        Path noise = folder.resolve("psnr.txt");
        engine.run(List.of(
                "-i",
                "file:" + one,
                "-i",
                "file:" + other,
                "-lavfi",
                "[0][1]ssim=stats_file=" + stats + ";[0][1]psnr=stats_file=" + noise,
                "-f",
                "null",
                "-"));
        double ssim = figure(Files.readAllLines(stats).get(1), "All:");
        double psnr = figure(Files.readAllLines(noise).get(1), "psnr_avg:");
        assertThat(ours.ssim()).isCloseTo(ssim, within(0.002)).isLessThan(0.99);
        assertThat(ours.psnr()).isCloseTo(psnr, within(0.02));
        Shown same = player.show(footage(one), 1, View.luma(320, 180));
        assertThat(LumaFigures.of(same, same)).isEqualTo(new LumaFigures(1, Double.POSITIVE_INFINITY));
    }

    /// Stills in full range RGB and a copy in video range are one picture.
    @Test
    void rangesAreBroughtToOneScale() throws Exception {
        Path still = folder.resolve("a.png");
        engine.run(List.of(
                "-f", "lavfi", "-i", "testsrc2=size=640x360", "-frames:v", "1", "-pix_fmt", "rgb24", "file:" + still));
        Path copy = folder.resolve("a.mkv");
        engine.run(List.of(
                "-i",
                "file:" + still,
                "-vf",
                "scale=out_color_matrix=bt601:out_range=tv",
                "-pix_fmt",
                "yuv444p",
                "-c:v",
                "ffv1",
                "file:" + copy));
        var one = new Frames(1, Frames.Origin.COUNTED, Optional.empty(), Frames.Reach.COUNT);
        LumaFigures figures = LumaFigures.of(
                player.show(new FramePlayer.Footage(still, one, FrameRate.FPS_25), 0, View.luma(640, 360)),
                player.show(footage(copy), 0, View.luma(640, 360)));
        assertThat(figures.psnr()).isGreaterThan(45);
    }

    private static double figure(String line, String name) {
        return Double.parseDouble(
                line.substring(line.indexOf(name) + name.length()).strip().split(" ", 2)[0]);
    }
}
