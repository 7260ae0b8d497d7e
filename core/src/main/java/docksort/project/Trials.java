package docksort.project;

import docksort.arrival.Clip;
import docksort.catalogue.Catalogue;
import docksort.catalogue.WorkingCopy;
import docksort.engine.Cancellation;
import docksort.engine.CopyOrder;
import docksort.engine.CopyTrial;
import docksort.engine.MediaEngine;
import docksort.media.ClipFacts;
import docksort.media.CopyForm;
import docksort.media.Rational;
import docksort.media.VideoFacts;
import docksort.sort.Circumstances;
import docksort.sort.CopyKind;
import docksort.sort.PastCopies;
import docksort.sort.PastCopy;
import docksort.sort.Recipe;
import docksort.sort.Tried;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.function.Supplier;

/// What copies come to, learned from those that were made and from short ones made to find out.
public final class Trials {
    private static final String MADE = "made:";

    private final Catalogue catalogue;
    private final MediaEngine engine;
    private final Supplier<Circumstances> now;
    private final Path scratch;

    Trials(Catalogue catalogue, MediaEngine engine, Supplier<Circumstances> now, Path scratch) {
        this.catalogue = catalogue;
        this.engine = engine;
        this.now = now;
        this.scratch = scratch;
    }

    PastCopies pastCopies() {
        return new PastCopies(catalogue.figures().beginning(Measurements.machineName(), MADE, PastCopy.class).stream()
                .map(figure -> new PastCopies.Of(figure.subject(), figure.kind(), figure.value()))
                .toList());
    }

    void made(WorkingCopy copy, Clip clip, CopyForm form, ClipFacts facts, Optional<Double> seconds) {
        if (seconds.isEmpty() || form.isSoundAlone() || facts.video().isEmpty()) {
            return;
        }
        var structure = facts.video().get().structure();
        if (!structure.isKnown()) {
            return;
        }
        keep(
                clip,
                copy.recipeId(),
                form,
                (double) structure.bytes() / structure.count(),
                seconds.get() / form.frames(),
                form.frames(),
                false);
    }

    private void keep(
            Clip clip, String recipe, CopyForm form, double frameBytes, double perFrame, long frames, boolean trial) {
        VideoFacts picture = clip.facts().video().orElseThrow();
        var made = new PastCopy(
                form.target(),
                picture.codec().family(),
                picture.raster().pixels(),
                form.raster().pixels(),
                frames,
                PastCopy.usual(form, frameBytes),
                frameBytes,
                perFrame,
                trial);
        catalogue.figures().keep(Measurements.machineName(), clip.fingerprint(), MADE + recipe, made);
    }

    /// Makes about a second of a copy, to learn what the whole of it will come to.
    ///
    /// @return whether something was learned; false when it was cancelled or the copy cannot be made
    public boolean tryOut(Clip clip, Recipe recipe, Cancellation cancellation) throws InterruptedException {
        if (recipe.kind() == CopyKind.SOUND
                || !(recipe.resolve(clip, now.get()) instanceof Recipe.Resolution.Possible possible)
                || possible.form().isRewrap()) {
            return false;
        }
        CopyForm form = possible.form();
        Optional<CopyTrial.Figures> figures = new CopyTrial(engine)
                .run(
                        clip.source(),
                        clip.facts().video().orElseThrow(),
                        form,
                        scratch,
                        file -> new CopyOrder(clip.source(), clip.facts(), form, clip.name(), Map.of(), file),
                        cancellation);
        figures.ifPresent(found ->
                keep(clip, recipe.id(), form, found.frameBytes(), found.secondsPerFrame(), found.frames(), true));
        return figures.isPresent();
    }

    /// Makes some seconds of a clip by each recipe and holds them against the original.
    ///
    /// @param step hears what is being tried
    /// @return the original first; shorter when it was cancelled
    public List<Tried> compare(Clip clip, List<Recipe> recipes, Consumer<String> step, Cancellation cancellation)
            throws InterruptedException {
        Circumstances here = now.get();
        List<Tried> tried = new Comparison(engine, scratch).run(clip, recipes, here, step, cancellation);
        for (Recipe recipe : recipes) {
            for (Tried result : tried) {
                if (result.name().equals(recipe.label())
                        && recipe.resolve(clip, here) instanceof Recipe.Resolution.Possible possible) {
                    CopyForm form = possible.form();
                    long frames = Math.min(form.frames(), form.rate().framesIn(Rational.of(2)));
                    keep(clip, recipe.id(), form, result.frameBytes(), result.secondsPerFrame(), frames, true);
                }
            }
        }
        return tried;
    }
}
