package docksort.sort;

import docksort.arrival.Clip;
import docksort.arrival.ClipId;
import docksort.files.Room;
import docksort.media.ByteSize;
import docksort.media.CopyForm;
import docksort.media.FrameRange;
import docksort.strain.Strain;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;

/// The plan before it runs: what is decided for every clip, the copies this asks for, their bytes and
/// time, the room they need on each volume, and what is wrong with it.
///
/// @param volumes those that copies go to, the one with the most first
public record LoadSheet(
        List<Sorted> sorted,
        List<PlannedCopy> copies,
        PredictedBytes bytes,
        PredictedTime time,
        List<VolumeLoad> volumes,
        List<Warning> warnings) {
    public LoadSheet {
        sorted = List.copyOf(sorted);
        copies = List.copyOf(copies);
        volumes = List.copyOf(volumes);
        warnings = List.copyOf(warnings);
    }

    public static LoadSheet plan(List<Clip> clips, Planning planning) {
        return plan(clips, planning, new PlanMemory(), _ -> List.of());
    }

    /// The same at a cost that is mostly of clips whose part of the plan can have changed.
    ///
    /// @param memory of the plans before
    /// @param beside what the plan's answers about a clip rest on beside what is in the plan itself: where that is
    ///     equal, so are they
    public static LoadSheet plan(
            List<Clip> clips, Planning planning, PlanMemory memory, Function<Clip, Object> beside) {
        return of(memory.parts(clips, planning, beside), planning);
    }

    private static LoadSheet of(List<Sorted> sorted, List<PlannedCopy> copies, Planning planning) {
        Map<ClipId, List<PlannedCopy>> ofClips = copies.stream()
                .collect(Collectors.groupingBy(copy -> copy.clip().id()));
        return of(
                sorted.stream()
                        .map(each -> new ClipPart(
                                each, ofClips.getOrDefault(each.clip().id(), List.of())))
                        .toList(),
                planning);
    }

    private static LoadSheet of(List<ClipPart> parts, Planning planning) {
        var copies = new ArrayList<PlannedCopy>();
        PredictedBytes bytes = PredictedBytes.NONE;
        PredictedTime time = PredictedTime.NONE;
        for (ClipPart part : parts) {
            for (PlannedCopy copy : part.copies()) {
                copies.add(copy);
                if (copy.isWanted()) {
                    bytes = bytes.plus(copy.bytes());
                    time = time.plus(copy.time());
                }
            }
        }
        List<VolumeLoad> volumes = volumes(copies, planning);
        List<Warning> warnings = new Warnings(parts, volumes, planning).all();
        return new LoadSheet(parts.stream().map(ClipPart::sorted).toList(), copies, bytes, time, volumes, warnings);
    }

    /// What copies that are wanted put on each volume, the one with the most first.
    static List<VolumeLoad> volumes(List<PlannedCopy> copies, Planning planning) {
        Map<Room, PredictedBytes> byRoom = new LinkedHashMap<>();
        for (PlannedCopy copy : copies) {
            if (copy.isWanted()) {
                byRoom.merge(planning.rooms().apply(copy.clip(), copy.recipe()), copy.bytes(), PredictedBytes::plus);
            }
        }
        return byRoom.entrySet().stream()
                .map(entry -> new VolumeLoad(entry.getKey(), entry.getValue()))
                .sorted(Comparator.comparingLong(load -> -load.bytes().most().bytes()))
                .toList();
    }

    static Sorted sort(Clip clip, Planning planning, Map<String, Recipe> byId) {
        Strain strain = planning.judge().judge(clip);
        List<String> chosen = planning.byHand().get(clip.id());
        if (chosen != null) {
            return new Sorted(clip, strain, recipes(chosen, byId), 0, "", true);
        }
        String arrival = planning.arrivals().getOrDefault(clip.arrival(), "");
        Optional<Double> ratio = Optional.ofNullable(planning.playRatios().get(clip.fingerprint()));
        int number = 0;
        for (SortRule rule : planning.book().rules()) {
            number++;
            if (rule.when().stream().allMatch(condition -> condition.holdsFor(clip, arrival, strain, ratio))) {
                return new Sorted(clip, strain, recipes(rule.make(), byId), number, rule.sentence(), false);
            }
        }
        return new Sorted(clip, strain, List.of(), 0, "", false);
    }

    private static List<Recipe> recipes(List<String> ids, Map<String, Recipe> byId) {
        return ids.stream().map(byId::get).filter(Objects::nonNull).toList();
    }

    /// The copies of a clip by one recipe, whatever the rules say of it: one, or one for each stretch that
    /// timelines use.
    public static List<PlannedCopy> planned(Clip clip, Recipe recipe, String why, Planning planning) {
        if (recipe.kind() != CopyKind.RANGE) {
            return List.of(planned(clip, recipe, Optional.empty(), why, planning));
        }
        List<FrameRange> ranges = planning.ranges().getOrDefault(clip.id(), List.of());
        if (ranges.isEmpty()) {
            var none = new Recipe.Resolution.Impossible("no timeline uses it: open one in Dispatch");
            return List.of(new PlannedCopy(clip, recipe, why, none, PredictedBytes.NONE, PredictedTime.NONE, false));
        }
        List<FrameRange> held = planning.held().apply(clip, recipe);
        var copies = new ArrayList<PlannedCopy>();
        for (FrameRange range : ranges) {
            // An event can use one file only: where a timeline has outgrown a copy, all of the stretch is made anew.
            PlannedCopy copy = planned(clip, recipe, Optional.of(range), why, planning);
            copies.add(held.stream().anyMatch(copyOf -> copyOf.contains(range)) ? copy.inStock() : copy);
        }
        return copies;
    }

    private static PlannedCopy planned(
            Clip clip, Recipe recipe, Optional<FrameRange> range, String why, Planning planning) {
        Recipe.Resolution resolution = recipe.resolve(clip, planning.circumstances(), range);
        if (!(resolution instanceof Recipe.Resolution.Possible possible)) {
            var none = new PlannedCopy(
                    clip, recipe, why, resolution, PredictedBytes.NONE, PredictedTime.NONE, /* already= */ false);
            return planning.inStock().test(none) ? none.inStock() : none;
        }
        PastCopies pastCopies = planning.pastCopies();
        var copy = new PlannedCopy(
                clip,
                recipe,
                why,
                resolution,
                PredictedBytes.of(possible.form(), clip, recipe.id(), pastCopies),
                PredictedTime.of(pastCopies.seconds(clip, recipe.id(), possible.form())),
                false);
        return planning.inStock().test(copy) ? copy.inStock() : copy;
    }

    /// The most bytes that one copy may come to, with what its volume is left.
    public static ByteSize most(Clip clip, Recipe recipe, CopyForm form, PastCopies pastCopies) {
        long most =
                PredictedBytes.of(form, clip, recipe.id(), pastCopies).most().bytes();
        return new ByteSize(most + VolumeLoad.SPARE_BYTES);
    }

    public List<PlannedCopy> wanted() {
        return copies.stream().filter(PlannedCopy::isWanted).toList();
    }

    /// Whether the most that the copies can need fits on every volume.
    public boolean fits() {
        return volumes.stream().allMatch(VolumeLoad::fits);
    }

    /// The volume that lacks room, or the one that gets the most; empty when nothing is wanted.
    public Optional<VolumeLoad> fullest() {
        return volumes.stream()
                .filter(load -> !load.fits())
                .findFirst()
                .or(() -> volumes.stream().findFirst());
    }

    /// Bytes that are missing on all volumes together.
    public ByteSize missing() {
        return new ByteSize(
                volumes.stream().mapToLong(load -> load.missing().bytes()).sum());
    }

    /// The same with only the copies, from the first on, that fit.
    public LoadSheet thatFit(Planning planning) {
        Map<Room, Long> left = new HashMap<>();
        volumes.forEach(load -> left.put(load.room(), load.room().free().bytes() - VolumeLoad.SPARE_BYTES));
        var fitting = new ArrayList<PlannedCopy>();
        for (PlannedCopy copy : wanted()) {
            Room room = planning.rooms().apply(copy.clip(), copy.recipe());
            long rest = left.getOrDefault(room, 0L) - copy.bytes().most().bytes();
            if (rest >= 0) {
                left.put(room, rest);
                fitting.add(copy);
            }
        }
        return of(sorted, fitting, planning);
    }

    /// Only what is planned for some of the clips.
    public LoadSheet only(Set<ClipId> clips, Planning planning) {
        return of(
                sorted.stream().filter(s -> clips.contains(s.clip().id())).toList(),
                copies.stream().filter(c -> clips.contains(c.clip().id())).toList(),
                planning);
    }

    /// One clip that another plan treats otherwise.
    public record Change(Clip clip, List<Recipe> before, List<Recipe> after) {}

    /// What would change with another plan of the same clips.
    public List<Change> changes(LoadSheet other) {
        var before = new HashMap<ClipId, List<Recipe>>();
        sorted.forEach(s -> before.put(s.clip().id(), s.recipes()));
        return other.sorted.stream()
                .filter(s -> !s.recipes().equals(before.getOrDefault(s.clip().id(), List.of())))
                .map(s -> new Change(s.clip(), before.getOrDefault(s.clip().id(), List.of()), s.recipes()))
                .toList();
    }
}
