package docksort.sort;

import docksort.arrival.Clip;
import docksort.arrival.ClipId;
import docksort.files.Room;
import docksort.media.FrameRange;
import docksort.media.Rational;
import docksort.sort.ClipPart.Signed;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.BiFunction;

/// How often a plan makes each mistake. Copies can be taken out of it and put in, at a cost in proportion to
/// these copies, to see what another plan would be like.
final class Tally {
    private final List<String> senses; // what is said of each
    private final int[] sensed;
    private final Map<Shortcoming, Integer> passedOver = new EnumMap<>(Shortcoming.class);
    private final Map<String, List<ClipId>> places = new HashMap<>();
    private final Map<Signs.OneCamera, Fractions> fractions = new HashMap<>();
    private final Map<String, Integer> impossible = new HashMap<>();
    private final Map<Room, Long> most = new HashMap<>();
    private final Map<ClipId, List<Signed>> ranges = new HashMap<>();
    private final BiFunction<Clip, Recipe, Room> rooms;
    private int sharedPlaces;
    private int outgrown;

    /// @param senses what is said of copies that are a mistake by themselves, by the bits of [Signs#senses]
    /// @param rooms the volume that a recipe's copies of a clip go to
    Tally(List<String> senses, BiFunction<Clip, Recipe, Room> rooms) {
        this.rooms = rooms;
        this.senses = List.copyOf(senses);
        this.sensed = new int[senses.size()];
    }

    void add(Signed each) {
        count(each, 1);
    }

    /// One that is in it.
    void remove(Signed each) {
        count(each, -1);
    }

    private void count(Signed each, int by) {
        PlannedCopy copy = each.copy();
        Signs signs = each.signs();
        if (copy.isWanted()) {
            for (long rest = signs.senses(); rest != 0; rest &= rest - 1) {
                sensed[Long.numberOfTrailingZeros(rest)] += by;
            }
            signs.passedOver()
                    .ifPresent(shortcoming -> passedOver.compute(shortcoming, (_, count) -> counted(count, by)));
            Room room = rooms.apply(copy.clip(), copy.recipe());
            most.merge(room, by * copy.bytes().most().bytes(), Long::sum);
        }
        if (!signs.place().isEmpty()) {
            place(copy, signs.place(), by > 0);
        }
        signs.group()
                .ifPresent(group -> fractions
                        .computeIfAbsent(group.camera(), _ -> new Fractions())
                        .count(copy.clip().id(), group.fraction(), by));
        if (!signs.impossible().isEmpty()) {
            impossible.compute(signs.impossible(), (_, count) -> counted(count, by));
        }
        if (copy.range().isPresent()) {
            range(each, by > 0);
        }
    }

    /// Light copies of one camera's clips of one raster.
    private static final class Fractions {
        private final Map<ClipId, Map<Rational, Integer>> ofClips = new HashMap<>();
        private final Map<Rational, Integer> clips = new HashMap<>(); // that have a copy of it

        void count(ClipId clip, Rational fraction, int by) {
            Map<Rational, Integer> ofClip = ofClips.computeIfAbsent(clip, _ -> HashMap.newHashMap(1));
            boolean before = ofClip.containsKey(fraction);
            ofClip.compute(fraction, (_, count) -> counted(count, by));
            if (before != ofClip.containsKey(fraction)) {
                clips.compute(fraction, (_, count) -> counted(count, by));
            }
            if (ofClip.isEmpty()) {
                ofClips.remove(clip);
            }
        }

        /// Whether there is no fraction that all clips have.
        boolean areMixed() {
            return !ofClips.isEmpty() && clips.values().stream().noneMatch(count -> count == ofClips.size());
        }
    }

    private static @org.jspecify.annotations.Nullable Integer counted(
            @org.jspecify.annotations.Nullable Integer count, int by) {
        int next = (count == null ? 0 : count) + by;
        return next == 0 ? null : next;
    }

    private void place(PlannedCopy copy, String place, boolean in) {
        List<ClipId> before = places.getOrDefault(place, List.of());
        List<ClipId> after = List.of(copy.clip().id());
        if (!in || !before.isEmpty()) { // hardly ever more than one
            var clips = new ArrayList<>(before);
            if (in) {
                clips.add(copy.clip().id());
            } else {
                clips.remove(copy.clip().id());
            }
            after = List.copyOf(clips);
        }
        if (after.isEmpty()) {
            places.remove(place);
        } else {
            places.put(place, after);
        }
        sharedPlaces += (isShared(after) ? 1 : 0) - (isShared(before) ? 1 : 0);
    }

    private static boolean isShared(List<ClipId> clips) {
        return clips.size() > 1 && clips.stream().anyMatch(clip -> !clip.equals(clips.getFirst()));
    }

    private void range(Signed copy, boolean in) {
        List<Signed> ofClip = ranges.computeIfAbsent(copy.copy().clip().id(), _ -> new ArrayList<>());
        int before = outgrown(ofClip).isEmpty() ? 0 : 1;
        if (in) {
            ofClip.add(copy);
        } else {
            ofClip.remove(copy);
        }
        outgrown += (outgrown(ofClip).isEmpty() ? 0 : 1) - before;
    }

    /// Ranges that timelines use now and of which a copy made before has only a part.
    ///
    /// @param ofClip range copies of one clip
    static List<Signed> outgrown(List<Signed> ofClip) {
        List<FrameRange> made = ofClip.stream()
                .map(Signed::copy)
                .filter(PlannedCopy::already)
                .map(PlannedCopy::range)
                .flatMap(Optional::stream)
                .toList();
        return made.isEmpty()
                ? List.of()
                : ofClip.stream()
                        .filter(each -> each.copy().recipe().kind() == CopyKind.RANGE
                                && each.copy().isWanted())
                        .filter(each -> each.copy()
                                .range()
                                .filter(range -> made.stream().anyMatch(range::touches))
                                .isPresent())
                        .toList();
    }

    /// What would be said of the plan, and how often, without the number of its copies.
    Map<String, Integer> lines() {
        Map<String, Integer> lines = new HashMap<>();
        for (int i = 0; i < sensed.length; i++) {
            said(lines, senses.get(i), sensed[i] > 0 ? 1 : 0);
        }
        passedOver.keySet().forEach(shortcoming -> said(lines, shortcoming.words(false), 1));
        said(lines, Warnings.SAME_PLACE, sharedPlaces > 0 ? 1 : 0);
        said(lines, Warnings.OTHER_FRACTION, (int)
                fractions.values().stream().filter(Fractions::areMixed).count());
        said(lines, Warnings.OUTGROWN, outgrown > 0 ? 1 : 0);
        impossible.keySet().forEach(why -> said(lines, Warnings.IMPOSSIBLE + why, 1));
        said(lines, "too little room", (int) most.entrySet().stream()
                .filter(load -> VolumeLoad.missing(load.getKey(), load.getValue()) > 0)
                .count());
        return lines;
    }

    private static void said(Map<String, Integer> lines, String what, int times) {
        if (times > 0) {
            lines.merge(what, times, Integer::sum);
        }
    }
}
