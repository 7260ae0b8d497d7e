package docksort.sort;

import docksort.media.ClipFacts;
import docksort.media.Raster;
import docksort.strain.Strain;
import java.util.List;

/// Which clips get which recipe. Rules are tried in order; the first that catches a clip decides.
public record SortRule(int number, Condition condition, Recipe recipe) {
    public static final List<SortRule> BUILT_IN = List.of(
            new SortRule(1, new Condition.IsStills(), Recipe.FULL_VC3),
            new SortRule(2, new Condition.LargerThan(new Raster(1920, 1080)), Recipe.LIGHT_VC3_FIT),
            new SortRule(3, new Condition.ScrubCostAtLeast(4), Recipe.LIGHT_PRORES_HALF));

    /// What a rule asks of a clip.
    public sealed interface Condition {
        record IsStills() implements Condition {}

        /// Wider or taller; a clip of exactly this raster is not caught.
        record LargerThan(Raster raster) implements Condition {}

        /// Frames decoded to show one, on average; a clip of exactly this cost is caught.
        record ScrubCostAtLeast(int frames) implements Condition {}

        default boolean holdsFor(ClipFacts facts, Strain strain) {
            return switch (this) {
                case IsStills() -> facts.container().equals("stills");
                case LargerThan(Raster raster) ->
                    facts.video().map(v -> v.displayRaster().exceeds(raster)).orElse(false);
                case ScrubCostAtLeast(int frames) ->
                    strain.scrubCost()
                            .map(cost -> cost.mean().compareTo(docksort.media.Rational.of(frames)) >= 0)
                            .orElse(false);
            };
        }

        default String sentence() {
            return switch (this) {
                case IsStills() -> "kind is image sequence";
                case LargerThan(Raster raster) -> "raster larger than " + raster;
                case ScrubCostAtLeast(int frames) -> "long-GOP, scrub cost at least " + frames;
            };
        }
    }
}
