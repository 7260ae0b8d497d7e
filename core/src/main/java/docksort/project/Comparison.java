package docksort.project;

import docksort.arrival.Clip;
import docksort.engine.Cancellation;
import docksort.engine.CopyOrder;
import docksort.engine.DecodeTimer;
import docksort.engine.DecodeTimer.Shown;
import docksort.engine.DecodeTimer.Stretch;
import docksort.engine.Inspection;
import docksort.engine.Inspector;
import docksort.engine.MediaEngine;
import docksort.engine.PictureLoss;
import docksort.files.ScratchFile;
import docksort.media.ClipSource;
import docksort.media.CopyForm;
import docksort.media.Measured;
import docksort.media.PixelFormat;
import docksort.media.Raster;
import docksort.media.Rational;
import docksort.media.ScrubCost;
import docksort.media.VideoFacts;
import docksort.sort.Circumstances;
import docksort.sort.CopyKind;
import docksort.sort.Recipe;
import docksort.sort.Tried;
import java.nio.ByteBuffer;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;

/// Recipes side by side for one clip: some seconds of each are made, decoded, and held against the original.
final class Comparison {
    private static final int SECONDS = 2;
    private static final int RUNS = 3;
    private static final Raster CROP = new Raster(280, 120);

    private final MediaEngine engine;
    private final DecodeTimer timer;
    private final Path scratch;

    Comparison(MediaEngine engine, Path scratch) {
        this.engine = engine;
        this.timer = new DecodeTimer(engine);
        this.scratch = scratch;
    }

    /// @param step hears what is being tried
    /// @return the original first; shorter when it was cancelled. Recipes that make nothing of the clip are
    /// left
    ///     out.
    List<Tried> run(
            Clip clip,
            List<Recipe> recipes,
            Circumstances circumstances,
            Consumer<String> step,
            Cancellation cancellation)
            throws InterruptedException {
        VideoFacts picture = clip.facts().video().orElseThrow();
        Stretch stretch = Stretch.of(clip.facts().seconds(), picture.rate(), SECONDS);
        var tried = new ArrayList<Tried>();
        step.accept("the original");
        original(clip, picture, stretch, cancellation).ifPresent(tried::add);
        for (Recipe recipe : recipes) {
            if (cancellation.isCancelled()) {
                break;
            }
            boolean whole = recipe.kind() == CopyKind.LIGHT || recipe.kind() == CopyKind.FULL;
            if (whole && recipe.resolve(clip, circumstances) instanceof Recipe.Resolution.Possible possible) {
                step.accept(recipe.name());
                tryOut(clip, recipe, possible.form(), stretch, cancellation).ifPresent(tried::add);
            }
        }
        return tried;
    }

    private Optional<Tried> original(Clip clip, VideoFacts picture, Stretch stretch, Cancellation cancellation)
            throws InterruptedException {
        Optional<Measured> speed =
                timer.framesPerSecond(clip.source(), picture.rate(), stretch, new Shown.Decoded(), RUNS, cancellation);
        Optional<byte[]> crop = engine.crop(clip.source(), stretch.from(), upright(picture), isRgb(picture), CROP);
        double bytes = picture.structure().isKnown() ? meanBytes(picture) : 0;
        return speed.map(fps -> new Tried(
                "the original",
                picture.codec().label() + " " + picture.raster(),
                bytes,
                0,
                fps.dividedBy(picture.rate().exact().toDouble()),
                cost(picture),
                1,
                Double.POSITIVE_INFINITY,
                ByteBuffer.wrap(crop.orElse(new byte[0])).asReadOnlyBuffer()));
    }

    private Optional<Tried> tryOut(Clip clip, Recipe recipe, CopyForm form, Stretch stretch, Cancellation cancellation)
            throws InterruptedException {
        VideoFacts picture = clip.facts().video().orElseThrow();
        try (ScratchFile file =
                ScratchFile.in(scratch, "compared", "." + form.wrapper().ending())) {
            var order = new CopyOrder(clip.source(), clip.facts(), form, clip.name(), Map.of(), file.file());
            long before = System.nanoTime();
            if (!timer.makeTrial(order, stretch, cancellation)) {
                return Optional.empty();
            }
            double seconds = (System.nanoTime() - before) / 1e9;
            var copy = new ClipSource.SingleFile(file.file());
            var inspection = new Inspector(engine).inspect(copy, form.rate(), cancellation);
            if (!(inspection instanceof Inspection.Known known)
                    || known.facts().video().isEmpty()) {
                return Optional.empty();
            }
            VideoFacts made = known.facts().video().get();
            var fromStart =
                    new Stretch(Rational.ZERO, (int) Math.max(1, made.frames().count()));
            Optional<Measured> speed =
                    timer.framesPerSecond(copy, form.rate(), fromStart, new Shown.Decoded(), RUNS, cancellation);
            Optional<PictureLoss.Figures> loss = new PictureLoss(engine)
                    .of(
                            clip.source(),
                            picture.rate(),
                            stretch,
                            copy,
                            upright(picture),
                            PictureLoss.Ways.of(picture, made, form),
                            cancellation);
            Optional<byte[]> crop = engine.crop(copy, Rational.ZERO, upright(picture), isRgb(made), CROP);
            if (speed.isEmpty() || loss.isEmpty()) {
                return Optional.empty();
            }
            return Optional.of(new Tried(
                    recipe.label(),
                    form.label(),
                    meanBytes(made),
                    seconds / Math.max(1, made.frames().count()),
                    speed.get().dividedBy(form.rate().exact().toDouble()),
                    cost(made),
                    loss.get().ssim(),
                    loss.get().psnr(),
                    ByteBuffer.wrap(crop.orElse(new byte[0])).asReadOnlyBuffer()));
        }
    }

    private static Raster upright(VideoFacts picture) {
        return picture.rotationDegrees() % 180 == 0
                ? picture.raster()
                : picture.raster().turned();
    }

    private static boolean isRgb(VideoFacts picture) {
        return picture.pixels().chroma() == PixelFormat.Chroma.RGB;
    }

    private static double meanBytes(VideoFacts made) {
        return made.structure().isKnown()
                ? (double) made.structure().bytes() / made.structure().count()
                : 0;
    }

    private static Rational cost(VideoFacts picture) {
        if (!picture.structure().isKnown()) {
            return Rational.of(1);
        }
        ScrubCost cost = picture.structure().scrubCost();
        return cost.mean();
    }
}
