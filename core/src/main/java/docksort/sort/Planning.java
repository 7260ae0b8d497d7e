package docksort.sort;

import docksort.arrival.ArrivalId;
import docksort.arrival.Clip;
import docksort.arrival.ClipId;
import docksort.files.Room;
import docksort.media.Fingerprint;
import docksort.media.FrameRange;
import docksort.strain.StrainJudge;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.BiFunction;
import java.util.function.Function;
import java.util.function.Predicate;

/// All that a plan rests on besides the clips.
///
/// @param byHand recipes that a person chose for a clip instead of the rules; an empty list leaves the
///     clip as it is
/// @param inStock whether the stock has such a copy, or the queue
/// @param judge says how hard each clip is
/// @param playRatios measured on this machine
/// @param rooms the volume that a recipe's copies of a clip go to
/// @param arrivals names of arrivals
/// @param ranges what timelines use of each clip, with handles, merged
/// @param held which of a clip's frames range copies of a recipe hold already
/// @param aside clips that are kept and not planned for
/// @param passedOver why a camera's own copy of the clip does not count, where it has one
public record Planning(
        SortBook book,
        Map<ClipId, List<String>> byHand,
        Predicate<PlannedCopy> inStock,
        StrainJudge judge,
        Map<Fingerprint, Double> playRatios,
        Circumstances circumstances,
        PastCopies pastCopies,
        BiFunction<Clip, Recipe, Room> rooms,
        Map<ArrivalId, String> arrivals,
        Map<ClipId, List<FrameRange>> ranges,
        BiFunction<Clip, Recipe, List<FrameRange>> held,
        Set<ClipId> aside,
        Function<PlannedCopy, Optional<Shortcoming>> passedOver) {
    public Planning {
        aside = Set.copyOf(aside);
    }

    /// The same with other recipes and rules, to see what would change.
    public Planning with(SortBook other) {
        return new Planning(
                other,
                byHand,
                inStock,
                judge,
                playRatios,
                circumstances,
                pastCopies,
                rooms,
                arrivals,
                ranges,
                held,
                aside,
                passedOver);
    }
}
