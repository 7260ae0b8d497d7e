package docksort.strain;

import docksort.engine.Cancellation;
import docksort.engine.CopyOrder;
import docksort.engine.DecodeTimer;
import docksort.engine.DecodeTimer.Shown;
import docksort.engine.DecodeTimer.Stretch;
import docksort.files.ReadSpeed;
import docksort.files.ScratchFile;
import docksort.media.ClipFacts;
import docksort.media.ClipSource;
import docksort.media.CopyForm;
import docksort.media.Measured;
import docksort.media.Raster;
import docksort.media.Rational;
import docksort.media.VideoFacts;
import java.nio.file.Path;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;

/// Carries out the measurements of [Lever] for one clip: rounds in turn, so that a busy moment of the
/// machine does not fall on one change alone.
public final class LeverTest {
    private static final int ROUNDS = 3;
    private static final int SECONDS = 3;

    private final DecodeTimer timer;

    public LeverTest(DecodeTimer timer) {
        this.timer = timer;
    }

    /// @param form what the trial copy is
    /// @param folder where the trial copy may lie while it is measured
    /// @param step hears what is being measured
    /// @return empty when it was cancelled
    public Optional<Lever> run(
            ClipSource source,
            ClipFacts facts,
            CopyForm form,
            Path folder,
            Consumer<String> step,
            Cancellation cancellation)
            throws InterruptedException {
        VideoFacts picture = facts.video().orElseThrow();
        Stretch stretch = Stretch.of(facts.seconds(), picture.rate(), SECONDS);
        Raster half = picture.raster().dividedBy(2);
        boolean decodesHalf = picture.codec().decodesHalf();
        try (ScratchFile scratch = ScratchFile.in(folder, "trial", ".mov")) {
            step.accept("making a trial copy of " + SECONDS + " s");
            var order = new CopyOrder(source, facts, form, "", Map.of(), scratch.file());
            if (!timer.makeTrial(order, stretch, cancellation)) {
                return Optional.empty();
            }
            var copy = new ClipSource.SingleFile(scratch.file());
            var fromStart = new Stretch(Rational.ZERO, stretch.frames());
            var full = new double[ROUNDS];
            var reduced = new double[ROUNDS];
            var trial = new double[ROUNDS];
            for (int round = 0; round < ROUNDS; round++) {
                step.accept("round " + (round + 1) + " of " + ROUNDS);
                Optional<Double> a = timer.framesPerSecond(
                        source,
                        picture.rate(),
                        stretch,
                        new Shown.At(picture.raster().dividedBy(1), false),
                        cancellation);
                Optional<Double> b = timer.framesPerSecond(
                        source, picture.rate(), stretch, new Shown.At(half, decodesHalf), cancellation);
                Optional<Double> c = timer.framesPerSecond(
                        copy, picture.rate(), fromStart, new Shown.At(form.raster(), false), cancellation);
                if (a.isEmpty() || b.isEmpty() || c.isEmpty()) {
                    return Optional.empty();
                }
                full[round] = a.get();
                reduced[round] = b.get();
                trial[round] = c.get();
            }
            step.accept("reading its volume");
            Optional<Measured> volume = ReadSpeed.of(source.files(), ROUNDS, cancellation::isCancelled);
            return volume.map(read -> new Lever(
                    Measured.of(full),
                    Measured.of(reduced),
                    decodesHalf,
                    Measured.of(trial),
                    read,
                    picture.rate().exact().toDouble(),
                    facts.bitsPerSecond() / 8.0,
                    form.label()));
        }
    }
}
