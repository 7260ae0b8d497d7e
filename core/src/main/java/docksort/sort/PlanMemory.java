package docksort.sort;

import docksort.arrival.Clip;
import docksort.arrival.ClipId;
import docksort.media.FrameRange;
import docksort.strain.TimelineFormat;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;

/// What plans had for each clip of one project, kept from one to the next as long as all it rests on is equal. A plan
/// is the same as without it. Safe for use by several threads.
public final class PlanMemory {
    private Optional<Whole> whole = Optional.empty();
    private Map<ClipId, Known> known = Map.of();

    /// What every clip's part rests on.
    private record Whole(
            SortBook book, Circumstances circumstances, TimelineFormat timeline, PastCopies.Common learned) {}

    /// What one clip's part rests on besides.
    private record Ground(
            Clip clip,
            Optional<List<String>> byHand,
            Optional<Double> playRatio,
            Map<String, PastCopy> made,
            String arrival,
            List<FrameRange> ranges,
            Object beside) {}

    private record Known(Ground ground, ClipPart part) {}

    /// The parts of a plan's clips, without those that are put aside.
    synchronized List<ClipPart> parts(List<Clip> clips, Planning planning, Function<Clip, Object> beside) {
        var now = new Whole(
                planning.book(),
                planning.circumstances(),
                planning.judge().timeline(),
                planning.pastCopies().common());
        Map<ClipId, Known> before = whole.equals(Optional.of(now)) ? known : Map.of();
        Map<ClipId, Known> after = HashMap.newHashMap(clips.size());
        var parts = new ArrayList<ClipPart>(clips.size());
        Map<String, Recipe> byId = HashMap.newHashMap(16);
        planning.book().recipes().forEach(recipe -> byId.put(recipe.id(), recipe));
        for (Clip clip : clips) {
            if (planning.aside().contains(clip.id())) {
                continue;
            }
            Ground ground = ground(clip, planning, beside);
            Known last = before.get(clip.id());
            Known next =
                    last != null && last.ground.equals(ground) ? last : new Known(ground, part(clip, planning, byId));
            after.put(clip.id(), next);
            parts.add(next.part);
        }
        whole = Optional.of(now);
        known = after;
        return parts;
    }

    private static Ground ground(Clip clip, Planning planning, Function<Clip, Object> beside) {
        return new Ground(
                clip,
                Optional.ofNullable(planning.byHand().get(clip.id())),
                Optional.ofNullable(planning.playRatios().get(clip.fingerprint())),
                planning.pastCopies().of(clip.fingerprint()),
                planning.arrivals().getOrDefault(clip.arrival(), ""),
                planning.ranges().getOrDefault(clip.id(), List.of()),
                beside.apply(clip));
    }

    private static ClipPart part(Clip clip, Planning planning, Map<String, Recipe> byId) {
        Sorted sorted = LoadSheet.sort(clip, planning, byId);
        return new ClipPart(
                sorted,
                sorted.recipes().stream()
                        .flatMap(recipe -> LoadSheet.planned(clip, recipe, sorted.why(), planning).stream())
                        .toList());
    }
}
