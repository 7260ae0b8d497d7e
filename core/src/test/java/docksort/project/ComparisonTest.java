package docksort.project;

import static org.assertj.core.api.Assertions.assertThat;

import docksort.Footage;
import docksort.WithMedia;
import docksort.arrival.Clip;
import docksort.arrival.ScanListener;
import docksort.engine.Cancellation;
import docksort.engine.DecodeTimer.Stretch;
import docksort.engine.MediaEngine;
import docksort.engine.PictureLoss;
import docksort.media.ClipSource;
import docksort.media.FrameRate;
import docksort.media.Raster;
import docksort.media.Rational;
import docksort.media.VideoTarget;
import docksort.sort.Recipe;
import docksort.sort.Tried;
import docksort.strain.BayProfile;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.assertj.core.data.Offset;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

@WithMedia
class ComparisonTest {
    @TempDir
    Path folder = Path.of("");

    private final MediaEngine engine = MediaEngine.locate();

    @AfterEach
    void close() {
        engine.close();
    }

    @Test
    void recipesAreTriedOnTheClipItselfAndNothingIsKept() throws Exception {
        Path card = folder.resolve("volume/card");
        Files.createDirectories(card);
        new Footage(engine)
                .clip(
                        card.resolve("A.mov"),
                        "1280x720",
                        "25",
                        75,
                        "-c:v",
                        "libx264",
                        "-g",
                        "50",
                        "-bf",
                        "2",
                        "-pix_fmt",
                        "yuv420p");
        try (Project project = Project.open(folder.resolve("project"), engine, InstantSource.system())) {
            project.arrivals().add(card, ScanListener.none(), new Cancellation());
            Clip clip = project.clips().getFirst();
            List<Tried> tried = project.trials().compare(clip, Recipe.BUILT_IN, _ -> {}, new Cancellation());
            Map<String, Tried> byName = tried.stream().collect(Collectors.toMap(Tried::name, Function.identity()));
            Tried original = tried.getFirst();
            Tried half = get(byName, Recipe.LIGHT_PRORES_HALF);
            Tried full = get(byName, Recipe.FULL_VC3);
            Tried review = get(byName, Recipe.REVIEW);
            assertThat(original.psnr()).isInfinite();
            assertThat(full.ssim()).as("full raster keeps more than half of it").isGreaterThan(half.ssim());
            assertThat(half.ssim()).isBetween(0.5, 0.999);
            assertThat(full.psnr()).isGreaterThan(half.psnr());
            assertThat(half.scrubCost()).isEqualTo(Rational.of(1));
            assertThat(review.scrubCost()).as("long-GOP").isGreaterThan(Rational.of(2));
            assertThat(original.scrubCost()).isGreaterThan(Rational.of(10));
            assertThat(tried)
                    .allMatch(
                            each -> each.playRatio().median() > 0 && each.crop().remaining() > 500);
            assertThat(byName).doesNotContainKey(Recipe.RANGE_VC3.label());
            try (var left = Files.list(folder.resolve("project/scratch"))) {
                assertThat(left).isEmpty();
            }
            var cancelled = new Cancellation();
            cancelled.cancel();
            assertThat(project.trials().compare(clip, Recipe.BUILT_IN, _ -> {}, cancelled))
                    .isEmpty();
        }
    }

    private static Tried get(Map<String, Tried> byName, Recipe recipe) {
        return Objects.requireNonNull(byName.get(recipe.label()), recipe.label());
    }

    /// PSNR of two flat pictures that differ by d of 255 is 20 log10(255 / d), by its definition: here
    /// luma differs by 10 and chroma by nothing, so the mean squared error over three planes of one size
    /// is a third of 100.
    @Test
    void lossIsThatOfTheDefinition() throws Exception {
        Path one = flat("one.mkv", 100);
        Path other = flat("other.mkv", 110);
        var stretch = new Stretch(Rational.ZERO, 5);
        var loss = new PictureLoss(engine);
        PictureLoss.Figures figures = loss.of(
                        new ClipSource.SingleFile(one),
                        FrameRate.FPS_25,
                        stretch,
                        new ClipSource.SingleFile(other),
                        new Raster(320, 240),
                        PictureLoss.Ways.of(false, false),
                        new Cancellation())
                .orElseThrow();
        double wanted = 10 * Math.log10(255.0 * 255 / (100 / 3.0));
        assertThat(figures.psnr()).isCloseTo(wanted, Offset.offset(0.02));
        PictureLoss.Figures same = loss.of(
                        new ClipSource.SingleFile(one),
                        FrameRate.FPS_25,
                        stretch,
                        new ClipSource.SingleFile(one),
                        new Raster(320, 240),
                        PictureLoss.Ways.of(false, false),
                        new Cancellation())
                .orElseThrow();
        assertThat(same.psnr()).isInfinite();
        assertThat(same.ssim()).isEqualTo(1);
    }

    private Path flat(String name, int luma) throws InterruptedException {
        Path file = folder.resolve(name);
        engine.run(List.of(
                "-f",
                "lavfi",
                "-i",
                "color=size=320x240:rate=25,format=yuv444p,geq=lum=" + luma + ":cb=128:cr=128",
                "-frames:v",
                "5",
                "-c:v",
                "ffv1",
                "file:" + file));
        return file;
    }

    @Test
    void aBayProfileMeasuredHereIsReadBackTheSame() throws Exception {
        List<VideoTarget> two = List.of(VideoTarget.PRORES_PROXY, VideoTarget.VC3_LB);
        BayProfile profile = new BayMeasure(engine).run(two, folder, Optional.empty(), _ -> {}, new Cancellation());
        assertThat(profile.pixelsPerSecond()).containsOnlyKeys(two);
        assertThat(profile.pixelsPerSecond().values()).allMatch(speed -> speed > 1_000_000);
        assertThat(BayProfile.read(profile.bytes(), "bay.json")).isEqualTo(profile);
    }
}
