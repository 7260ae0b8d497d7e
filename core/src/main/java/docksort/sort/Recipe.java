package docksort.sort;

import docksort.media.ClipFacts;
import docksort.media.PixelFormat.Chroma;
import docksort.media.Raster;
import docksort.media.VideoFacts;
import docksort.media.VideoTarget;
import java.util.List;
import java.util.Optional;

/// How a copy is made. What depends on the clip is chosen by [#resolve], before anything runs.
///
/// @param id names the recipe in the catalogue and in the copies themselves
public record Recipe(String id, String name, CopyKind kind, Encoding encoding, Scaling scaling) {
    /// A small copy at half of each side.
    public static final Recipe LIGHT_PRORES_HALF = new Recipe(
            "light-prores-half", "ProRes Proxy, 1/2", CopyKind.LIGHT, Encoding.PRORES_PROXY, new Scaling.PerSide(2));

    /// A small copy that never falls below a 1080 or 720 line timeline when its original did not.
    public static final Recipe LIGHT_VC3_FIT = new Recipe(
            "light-vc3-fit",
            "VC-3 LB, fit to 1080 or 720",
            CopyKind.LIGHT,
            Encoding.VC3_LB,
            new Scaling.FitLines(List.of(1080, 720)));

    /// A copy at full raster for keying, effects and grading previews.
    public static final Recipe FULL_VC3 = new Recipe(
            "full-vc3", "VC-3 at the clip's depth", CopyKind.FULL, Encoding.VC3_BY_DEPTH, new Scaling.Full());

    public static final List<Recipe> BUILT_IN = List.of(LIGHT_PRORES_HALF, LIGHT_VC3_FIT, FULL_VC3);

    /// The smallest raster that the resolution-independent VC-3 profiles have (SMPTE ST 2019-1, from memory).
    private static final Raster SMALLEST_VC3 = new Raster(256, 120);

    /// Which encoder a recipe asks for.
    public enum Encoding {
        PRORES_PROXY,
        VC3_LB,
        VC3_BY_DEPTH
    }

    /// How a recipe changes the raster. None of them enlarges.
    public sealed interface Scaling {
        record Full() implements Scaling {}

        record PerSide(int divisor) implements Scaling {}

        /// The first of these numbers of lines that is fewer than the clip has.
        record FitLines(List<Integer> lines) implements Scaling {
            public FitLines {
                lines = List.copyOf(lines);
            }
        }
    }

    /// What a recipe comes to for one clip.
    public sealed interface Resolution {
        record Possible(VideoTarget target, Raster raster, VideoFacts picture) implements Resolution {}

        record Impossible(String why) implements Resolution {}
    }

    public static Optional<Recipe> byId(String id) {
        return BUILT_IN.stream().filter(recipe -> recipe.id.equals(id)).findFirst();
    }

    /// "light · ProRes Proxy, 1/2"
    public String label() {
        return kind.label() + " · " + name;
    }

    public Resolution resolve(ClipFacts facts) {
        if (facts.findings().outOfReach().isPresent()) {
            return new Resolution.Impossible(
                    "it is out of reach here: " + facts.findings().outOfReach().get());
        }
        if (facts.isRateOpen()) {
            return new Resolution.Impossible("it states no frame rate: say in Arrivals how to read it");
        }
        if (facts.video().isEmpty()) {
            return new Resolution.Impossible("it has no picture");
        }
        VideoFacts picture = facts.video().get();
        if (picture.frames().count() == 0) {
            return new Resolution.Impossible("it has no frames");
        }
        Raster raster = scaled(picture);
        VideoTarget target = target(picture, raster);
        if (target.isVc3() && (raster.width() < SMALLEST_VC3.width() || raster.height() < SMALLEST_VC3.height())) {
            return new Resolution.Impossible("VC-3 has no raster as small as " + raster);
        }
        return new Resolution.Possible(target, raster, picture);
    }

    private Raster scaled(VideoFacts picture) {
        Raster upright = picture.rotationDegrees() % 180 == 0
                ? picture.raster()
                : picture.raster().turned();
        return switch (scaling) {
            case Scaling.Full() -> upright.dividedBy(1);
            case Scaling.PerSide(int divisor) -> upright.dividedBy(divisor);
            case Scaling.FitLines(List<Integer> lines) ->
                upright.fittedToLines(lines.stream()
                                .filter(count -> count < upright.height())
                                .findFirst()
                                .orElse(upright.height()))
                        .dividedBy(1);
        };
    }

    private VideoTarget target(VideoFacts picture, Raster raster) {
        return switch (encoding) {
            case PRORES_PROXY -> VideoTarget.PRORES_PROXY;
            case VC3_LB -> VideoTarget.VC3_LB;
            case VC3_BY_DEPTH -> {
                boolean deep = picture.pixels().bitDepth() > 8;
                if (VideoTarget.fitsHdFamily(raster, picture.scan())) {
                    yield deep ? VideoTarget.VC3_HD_X : VideoTarget.VC3_HD;
                }
                yield deep ? VideoTarget.VC3_HQX : VideoTarget.VC3_HQ;
            }
        };
    }

    /// Whether a copy would have less colour resolution than the clip.
    boolean losesChroma(VideoFacts picture) {
        return picture.pixels().chroma().isFull() || picture.pixels().chroma() == Chroma.C440;
    }
}
