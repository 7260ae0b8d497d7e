package docksort.sort;

import docksort.media.CopyForm;
import docksort.media.Raster;
import docksort.media.Rational;
import docksort.media.VideoFacts;
import docksort.media.VideoFacts.RateKind;
import docksort.media.VideoTarget;
import docksort.sort.Warning.Weight;
import docksort.strain.Strain;
import docksort.strain.TimelineFormat;
import docksort.strain.Verdict;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.BiPredicate;
import java.util.function.Predicate;

/// The mistakes that one copy by itself can be, and all that a copy has to do with those of a plan.
final class Senses {
    private final Planning planning;
    private final TimelineFormat timeline;
    private final List<Sense> senses;
    private final long worse;

    Senses(Planning planning) {
        this.planning = planning;
        this.timeline = planning.circumstances().timeline();
        this.senses = all();
        long bits = 0;
        for (int i = 0; i < senses.size(); i++) {
            bits |= senses.get(i).worse ? 1L << i : 0;
        }
        this.worse = bits;
    }

    /// One of them.
    ///
    /// @param worse whether a remedy must not bring it about where it was not
    /// @param of the clips whose copies it can be a mistake of
    /// @param line what is said of copies that are concerned
    record Sense(
            Weight weight,
            boolean worse,
            Predicate<Strain> of,
            BiPredicate<PlannedCopy, CopyForm> concerned,
            String line,
            Cure cure) {
        boolean holds(PlannedCopy copy, Strain strain) {
            return copy.form()
                    .filter(form -> form.target().isPresent())
                    .filter(form -> of.test(strain) && concerned.test(copy, form))
                    .isPresent();
        }
    }

    /// In the order of the bits of [Signs#senses].
    List<Sense> inOrder() {
        return senses;
    }

    /// What a remedy must not bring about.
    long worse(Signs signs) {
        return signs.senses() & worse;
    }

    /// What one copy has to do with the mistakes of a plan, whatever else is in the plan.
    Signs of(PlannedCopy copy, Strain strain) {
        long sensed = 0;
        for (int i = 0; i < senses.size(); i++) {
            sensed |= senses.get(i).holds(copy, strain) ? 1L << i : 0;
        }
        boolean wanted = copy.isWanted();
        return new Signs(
                sensed,
                wanted ? planning.passedOver().apply(copy) : Optional.empty(),
                wanted && copy.range().isEmpty()
                        ? String.join("/", CopyPlace.of(copy, planning.arrivals()))
                                .toLowerCase(Locale.ROOT)
                        : "",
                group(copy),
                !copy.already() && copy.resolution() instanceof Recipe.Resolution.Impossible(var why) ? why : "");
    }

    private static Optional<Signs.Group> group(PlannedCopy copy) {
        return copy.form()
                .filter(form ->
                        copy.recipe().kind() == CopyKind.LIGHT && form.target().isPresent())
                .map(form -> {
                    Raster raster = video(copy).displayRaster();
                    return new Signs.Group(
                            new Signs.OneCamera(copy.clip().arrival(), raster),
                            new Rational(form.raster().height(), raster.height()));
                });
    }

    private List<Sense> all() {
        List<Recipe> byDepth = List.of(Recipe.FULL_VC3, Recipe.RANGE_VC3);
        return List.of(
                new Sense(
                        Weight.MISTAKE,
                        true,
                        _ -> true,
                        (copy, form) -> video(copy).pixels().alpha() && !form.keepsAlpha() && isForPicture(copy),
                        "would lose transparency",
                        new Cure.Instead(List.of(Recipe.FULL_PRORES), "Make a recipe that keeps alpha, and use it")),
                new Sense(
                        Weight.NOTE,
                        false,
                        _ -> true,
                        (copy, form) -> video(copy).pixels().alpha() && !form.keepsAlpha() && !isForPicture(copy),
                        "would be flattened: what is transparent gets a ground",
                        Cure.advice("Composite on the originals, or choose ProRes or CineForm, which keep alpha")),
                new Sense(
                        Weight.MISTAKE,
                        true,
                        _ -> true,
                        (copy, form) -> isForPicture(copy)
                                && video(copy).pixels().bitDepth()
                                        > target(form).bitDepth(),
                        "would have fewer bits than the original",
                        new Cure.Instead(byDepth, "Choose a codec that keeps the clip's depth")),
                new Sense(
                        Weight.MISTAKE,
                        true,
                        _ -> true,
                        (copy, form) -> isForPicture(copy)
                                && target(form).isVc3()
                                && video(copy).pixels().bitDepth() <= 8
                                && target(form).bitDepth() > 8,
                        "would have more bits than the original: larger and no better",
                        new Cure.Instead(byDepth, "Choose a codec of the clip's depth")),
                new Sense(
                        Weight.NOTE,
                        false,
                        _ -> true,
                        (copy, form) -> copy.recipe().kind() == CopyKind.FULL
                                && copy.recipe().losesChroma(video(copy), target(form)),
                        "would keep less colour than the original",
                        Cure.advice("Grade and key on the originals")),
                new Sense(
                        Weight.MISTAKE,
                        true,
                        Senses::isEasy,
                        (copy, form) -> copy.recipe().kind() == CopyKind.LIGHT && isLarger(copy, form),
                        "would be larger than originals that are easy as they are",
                        new Cure.LeaveOut("Make no light copies of these clips")),
                new Sense(
                        Weight.NOTE,
                        false,
                        strain -> !isEasy(strain),
                        (copy, form) -> copy.recipe().kind() == CopyKind.LIGHT && isLarger(copy, form),
                        "would be larger than the original",
                        Cure.advice("That is what easy scrubbing costs; a smaller raster costs less")),
                new Sense(
                        Weight.NOTE,
                        false,
                        _ -> true,
                        (copy, form) -> copy.recipe().kind() == CopyKind.FULL
                                && copy.bytes()
                                                .least()
                                                .compareTo(copy.clip().facts().size())
                                        > 0,
                        "would be larger than the original",
                        Cure.advice("Expected of a full copy")),
                new Sense(
                        Weight.NOTE,
                        true,
                        _ -> true,
                        this::isBelowTimeline,
                        "would be smaller than the timeline's "
                                + timeline.raster().lines() + " lines",
                        new Cure.Instead(
                                List.of(Recipe.LIGHT_VC3_FIT, Recipe.FULL_VC3, Recipe.RANGE_VC3),
                                "Choose a recipe with as many lines as the timeline")),
                new Sense(
                        Weight.NOTE,
                        false,
                        _ -> true,
                        (copy, form) -> copy.recipe().kind() == CopyKind.LIGHT
                                && !target(form).isAllIntra(),
                        "would be long-GOP: small, but no easier to scrub",
                        new Cure.Instead(
                                List.of(Recipe.LIGHT_PRORES_HALF, Recipe.LIGHT_VC3_FIT),
                                "Add a light copy of an all-intra codec for editing")),
                new Sense(
                        Weight.NOTE,
                        false,
                        _ -> true,
                        (copy, form) -> video(copy).rateKind() == RateKind.VARIABLE
                                && !form.rate().equals(video(copy).rate()),
                        "would get another frame rate",
                        Cure.advice("Variable rate is conformed as the recipe says; sound keeps its length")),
                new Sense(
                        Weight.NOTE,
                        false,
                        _ -> true,
                        (copy, form) -> !form.sound().mix().isKept()
                                && !form.sound().mix().isEach()
                                && !copy.clip().facts().audio().isEmpty(),
                        "would have a mix in place of all channels of sound",
                        Cure.advice("A guide to cut by; mix and finish from the originals")),
                new Sense(
                        Weight.NOTE,
                        false,
                        _ -> true,
                        (copy, form) ->
                                copy.recipe().squarePixels() && !video(copy).isSquare(),
                        "would get square pixels",
                        Cure.advice("Set the shape anew where timelines counted on the original's pixels")));
    }

    private static boolean isEasy(Strain strain) {
        return strain.verdict() == Verdict.EASY;
    }

    private boolean isBelowTimeline(PlannedCopy copy, CopyForm form) {
        int wanted = timeline.raster().lines();
        return form.raster().lines() < wanted && video(copy).displayRaster().lines() >= wanted;
    }

    private static boolean isLarger(PlannedCopy copy, CopyForm form) {
        return form.range().isEmpty()
                && copy.bytes().least().compareTo(copy.clip().facts().size()) > 0;
    }

    private static boolean isForPicture(PlannedCopy copy) {
        return copy.recipe().kind() == CopyKind.FULL || copy.recipe().kind() == CopyKind.RANGE;
    }

    private static VideoFacts video(PlannedCopy copy) {
        return copy.clip().facts().video().orElseThrow();
    }

    private static VideoTarget target(CopyForm form) {
        return form.target().orElseThrow();
    }
}
