package docksort.sort;

import docksort.arrival.ClipId;
import docksort.files.Volume;
import docksort.media.CopyForm;
import docksort.media.Raster;
import docksort.media.Rational;
import docksort.media.VideoFacts;
import docksort.media.VideoFacts.RateKind;
import docksort.media.VideoTarget;
import docksort.sort.Warning.Remedy;
import docksort.sort.Warning.Weight;
import docksort.strain.TimelineFormat;
import docksort.strain.Verdict;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.IdentityHashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.BiPredicate;
import java.util.function.Function;
import java.util.stream.Collectors;

/// Senses the mistakes of a plan.
final class Warnings {
    static final String OTHER_FRACTION = "would have another fraction than the rest of the same camera's";
    static final String SAME_PLACE = "would have the same name as another; they get a number";
    static final String OUTGROWN = "would take the place of a range copy that the cut has outgrown";
    static final String IMPOSSIBLE = "cannot be made: ";

    private final List<PlannedCopy> copies;
    private final List<VolumeLoad> volumes;
    private final Planning planning;
    private final TimelineFormat timeline;
    private final List<Sense> senses;
    private final List<Draft> found = new ArrayList<>();
    private final IdentityHashMap<PlannedCopy, Signs> signs = new IdentityHashMap<>();
    private final Set<ClipId> easy;

    Warnings(List<Sorted> sorted, List<PlannedCopy> copies, List<VolumeLoad> volumes, Planning planning) {
        this.easy = sorted.stream()
                .filter(each -> each.strain().verdict() == Verdict.EASY)
                .map(each -> each.clip().id())
                .collect(Collectors.toSet());
        this.copies = copies;
        this.volumes = volumes;
        this.planning = planning;
        this.timeline = planning.circumstances().timeline();
        this.senses = senses();
    }

    /// A mistake that one copy by itself can be.
    ///
    /// @param worse whether a remedy must not bring it about where it was not
    private record Sense(
            Weight weight, boolean worse, BiPredicate<PlannedCopy, CopyForm> concerned, String text, Cure cure) {
        boolean holds(PlannedCopy copy) {
            return copy.form()
                    .filter(form -> form.target().isPresent())
                    .filter(form -> concerned.test(copy, form))
                    .isPresent();
        }
    }

    /// What could be done about a mistake, before it is known whether it helps.
    private sealed interface Cure {
        /// Another recipe of the same kind, the first of these that is one.
        record Instead(List<Recipe> recipes, String otherwise) implements Cure {}

        /// Without these copies.
        record LeaveOut(String words) implements Cure {}

        record Just(Remedy remedy) implements Cure {}
    }

    /// A mistake that was found, with the copies it concerns.
    ///
    /// @param line what a [Tally] says of it
    private record Draft(Weight weight, String line, String what, Cure cure, List<PlannedCopy> copies) {
        String text() {
            int clips = clips().size();
            return clips == 0 ? what : (clips == 1 ? "1 copy " : clips + " copies ") + what;
        }

        List<ClipId> clips() {
            return copies.stream().map(copy -> copy.clip().id()).distinct().toList();
        }
    }

    /// Stops first, then mistakes, then notes.
    List<Warning> all() {
        look();
        var tally = new Tally(senses.stream().map(Sense::text).toList());
        copies.forEach(copy -> tally.add(copy, signs(copy)));
        Map<String, Integer> before = tally.lines();
        var remedies = new Remedies(copies, planning, this::whatIsWorse, (line, without, with) -> {
            without.forEach(copy -> tally.remove(copy, signs(copy)));
            with.forEach(copy -> tally.add(copy, signs(copy)));
            Map<String, Integer> after = tally.lines();
            with.forEach(copy -> tally.remove(copy, signs(copy)));
            without.forEach(copy -> tally.add(copy, signs(copy)));
            return all(after) < all(before) && after.getOrDefault(line, 0) < before.getOrDefault(line, 0);
        });
        places();
        return found.stream()
                .map(draft -> new Warning(draft.weight, draft.text(), remedy(draft, remedies), draft.clips()))
                .sorted(Comparator.comparing(Warning::weight))
                .toList();
    }

    private static int all(Map<String, Integer> lines) {
        return lines.values().stream().mapToInt(Integer::intValue).sum();
    }

    private Signs signs(PlannedCopy copy) {
        return signs.computeIfAbsent(copy, this::find);
    }

    private Signs find(PlannedCopy copy) {
        long sensed = 0;
        for (int i = 0; i < senses.size(); i++) {
            sensed |= senses.get(i).holds(copy) ? 1L << i : 0;
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
                !copy.already() && copy.resolution() instanceof Recipe.Resolution.Impossible(var why) ? why : "",
                wanted ? Optional.of(planning.rooms().apply(copy.clip(), copy.recipe())) : Optional.empty());
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

    private void look() {
        room();
        sense();
        mixedFractions();
        sameNames();
        passedOver();
        rangesOutgrown();
        impossible();
    }

    private static Remedy remedy(Draft draft, Remedies remedies) {
        return switch (draft.cure) {
            case Cure.Just(Remedy remedy) -> remedy;
            case Cure.LeaveOut(String words) ->
                remedies.without(draft.line, draft.copies, words)
                        .orElseGet(() -> new Remedy.Advice(words + ", by hand"));
            case Cure.Instead(List<Recipe> recipes, String otherwise) ->
                remedies.instead(draft.line, draft.copies, recipes).orElseGet(() -> new Remedy.Advice(otherwise));
        };
    }

    /// What a remedy must not bring about, by the numbers of the senses.
    private long whatIsWorse(PlannedCopy copy) {
        long worse = 0;
        for (int i = 0; i < senses.size(); i++) {
            worse |= senses.get(i).worse ? 1L << i : 0;
        }
        return signs(copy).senses() & worse;
    }

    private void sense() {
        List<List<PlannedCopy>> concerned =
                senses.stream().<List<PlannedCopy>>map(_ -> new ArrayList<>()).toList();
        for (PlannedCopy copy : copies) {
            for (long rest = copy.isWanted() ? signs(copy).senses() : 0; rest != 0; rest &= rest - 1) {
                concerned.get(Long.numberOfTrailingZeros(rest)).add(copy);
            }
        }
        for (int i = 0; i < senses.size(); i++) {
            Sense sense = senses.get(i);
            add(sense.weight, concerned.get(i), sense.text, sense.cure);
        }
    }

    private void passedOver() {
        for (Shortcoming shortcoming : Shortcoming.values()) {
            List<PlannedCopy> concerned = copies.stream()
                    .filter(copy -> signs(copy).passedOver().equals(Optional.of(shortcoming)))
                    .toList();
            boolean one =
                    concerned.stream().map(copy -> copy.clip().id()).distinct().count() == 1;
            add(
                    Weight.NOTE,
                    concerned,
                    shortcoming.words(false),
                    shortcoming.words(one),
                    new Cure.LeaveOut("Be content with the camera's copies"));
        }
    }

    private void room() {
        for (VolumeLoad load : volumes) {
            if (!load.fits()) {
                found.add(new Draft(
                        Weight.STOPS,
                        "too little room",
                        load.missing() + " too little room on " + load.room().volume() + ": "
                                + load.bytes().most() + " are needed at most, "
                                + load.room().free() + " are free",
                        new Cure.Just(new Remedy.OnlyWhatFits("Make only the first copies, as many as fit")),
                        List.of()));
            }
        }
    }

    private static Cure.Just advice(String words) {
        return new Cure.Just(new Remedy.Advice(words));
    }

    private List<Sense> senses() {
        List<Recipe> byDepth = List.of(Recipe.FULL_VC3, Recipe.RANGE_VC3);
        return List.of(
                new Sense(
                        Weight.MISTAKE,
                        true,
                        (copy, form) -> video(copy).pixels().alpha() && !form.keepsAlpha() && isForPicture(copy),
                        "would lose transparency",
                        new Cure.Instead(List.of(Recipe.FULL_PRORES), "Make a recipe that keeps alpha, and use it")),
                new Sense(
                        Weight.NOTE,
                        false,
                        (copy, form) -> video(copy).pixels().alpha() && !form.keepsAlpha() && !isForPicture(copy),
                        "would be flattened: what is transparent gets a ground",
                        advice("Composite on the originals, or choose ProRes or CineForm, which keep alpha")),
                new Sense(
                        Weight.MISTAKE,
                        true,
                        (copy, form) -> isForPicture(copy)
                                && video(copy).pixels().bitDepth()
                                        > target(form).bitDepth(),
                        "would have fewer bits than the original",
                        new Cure.Instead(byDepth, "Choose a codec that keeps the clip's depth")),
                new Sense(
                        Weight.MISTAKE,
                        true,
                        (copy, form) -> isForPicture(copy)
                                && target(form).isVc3()
                                && video(copy).pixels().bitDepth() <= 8
                                && target(form).bitDepth() > 8,
                        "would have more bits than the original: larger and no better",
                        new Cure.Instead(byDepth, "Choose a codec of the clip's depth")),
                new Sense(
                        Weight.NOTE,
                        false,
                        (copy, form) -> copy.recipe().kind() == CopyKind.FULL
                                && copy.recipe().losesChroma(video(copy), target(form)),
                        "would keep less colour than the original",
                        advice("Grade and key on the originals")),
                new Sense(
                        Weight.MISTAKE,
                        true,
                        (copy, form) -> copy.recipe().kind() == CopyKind.LIGHT && isLarger(copy, form) && isEasy(copy),
                        "would be larger than originals that are easy as they are",
                        new Cure.LeaveOut("Make no light copies of these clips")),
                new Sense(
                        Weight.NOTE,
                        false,
                        (copy, form) -> copy.recipe().kind() == CopyKind.LIGHT && isLarger(copy, form) && !isEasy(copy),
                        "would be larger than the original",
                        advice("That is what easy scrubbing costs; a smaller raster costs less")),
                new Sense(
                        Weight.NOTE,
                        false,
                        (copy, form) -> copy.recipe().kind() == CopyKind.FULL
                                && copy.bytes()
                                                .least()
                                                .compareTo(copy.clip().facts().size())
                                        > 0,
                        "would be larger than the original",
                        advice("Expected of a full copy")),
                new Sense(
                        Weight.NOTE,
                        true,
                        this::isBelowTimeline,
                        "would be smaller than the timeline's "
                                + timeline.raster().lines() + " lines",
                        new Cure.Instead(
                                List.of(Recipe.LIGHT_VC3_FIT, Recipe.FULL_VC3, Recipe.RANGE_VC3),
                                "Choose a recipe with as many lines as the timeline")),
                new Sense(
                        Weight.NOTE,
                        false,
                        (copy, form) -> copy.recipe().kind() == CopyKind.LIGHT
                                && !target(form).isAllIntra(),
                        "would be long-GOP: small, but no easier to scrub",
                        new Cure.Instead(
                                List.of(Recipe.LIGHT_PRORES_HALF, Recipe.LIGHT_VC3_FIT),
                                "Add a light copy of an all-intra codec for editing")),
                new Sense(
                        Weight.NOTE,
                        false,
                        (copy, form) -> video(copy).rateKind() == RateKind.VARIABLE
                                && !form.rate().equals(video(copy).rate()),
                        "would get another frame rate",
                        advice("Variable rate is conformed as the recipe says; sound keeps its length")),
                new Sense(
                        Weight.NOTE,
                        false,
                        (copy, form) ->
                                copy.recipe().squarePixels() && !video(copy).isSquare(),
                        "would get square pixels",
                        advice("Set the shape anew where timelines counted on the original's pixels")));
    }

    private boolean isBelowTimeline(PlannedCopy copy, CopyForm form) {
        int wanted = timeline.raster().lines();
        return form.raster().lines() < wanted && video(copy).displayRaster().lines() >= wanted;
    }

    private static boolean isLarger(PlannedCopy copy, CopyForm form) {
        return form.range().isEmpty()
                && copy.bytes().least().compareTo(copy.clip().facts().size()) > 0;
    }

    private boolean isEasy(PlannedCopy copy) {
        return easy.contains(copy.clip().id());
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

    private void add(Weight weight, List<PlannedCopy> concerned, String text, Cure cure) {
        add(weight, concerned, text, text, cure);
    }

    private void add(Weight weight, List<PlannedCopy> concerned, String line, String text, Cure cure) {
        if (!concerned.isEmpty()) {
            found.add(new Draft(weight, line, text, cure, concerned));
        }
    }

    /// Light copies of one arrival whose rasters stand in different proportion to their originals of one
    /// raster.
    private void mixedFractions() {
        Map<Signs.OneCamera, Map<Rational, List<PlannedCopy>>> groups = new HashMap<>();
        for (PlannedCopy copy : copies) {
            signs(copy)
                    .group()
                    .ifPresent(group -> groups.computeIfAbsent(group.camera(), _ -> new HashMap<>())
                            .computeIfAbsent(group.fraction(), _ -> new ArrayList<>())
                            .add(copy));
        }
        groups.values().stream().filter(fractions -> fractions.size() > 1).forEach(fractions -> {
            Map.Entry<Rational, List<PlannedCopy>> usual = fractions.entrySet().stream()
                    .max(Comparator.comparingInt(entry -> entry.getValue().size()))
                    .orElseThrow();
            List<PlannedCopy> most = usual.getValue();
            List<PlannedCopy> others = fractions.entrySet().stream()
                    .filter(entry -> !entry.getKey().equals(usual.getKey()))
                    .flatMap(entry -> entry.getValue().stream())
                    .toList();
            add(
                    Weight.MISTAKE,
                    others,
                    OTHER_FRACTION,
                    new Cure.Instead(
                            List.of(most.getFirst().recipe()), "Choose one recipe for all clips of the camera"));
        });
    }

    private void sameNames() {
        Map<String, List<PlannedCopy>> names = copies.stream()
                .filter(copy -> !signs(copy).place().isEmpty())
                .collect(Collectors.groupingBy(copy -> signs(copy).place()));
        List<PlannedCopy> same = names.values().stream()
                .filter(list ->
                        list.stream().map(copy -> copy.clip().id()).distinct().count() > 1)
                .flatMap(List::stream)
                .toList();
        add(Weight.MISTAKE, same, SAME_PLACE, advice("Put {arrival} or {reel} into the recipe's name for copies"));
    }

    private void rangesOutgrown() {
        Map<ClipId, List<PlannedCopy>> ofClips = copies.stream()
                .filter(copy -> copy.range().isPresent())
                .collect(Collectors.groupingBy(copy -> copy.clip().id(), LinkedHashMap::new, Collectors.toList()));
        add(
                Weight.NOTE,
                ofClips.values().stream()
                        .flatMap(ofClip -> Tally.outgrown(ofClip).stream())
                        .toList(),
                OUTGROWN,
                advice("All of the stretch is made as one file, because an event can use one only"));
    }

    private void impossible() {
        Map<String, List<PlannedCopy>> reasons = copies.stream()
                .filter(copy -> !signs(copy).impossible().isEmpty())
                .collect(Collectors.groupingBy(copy -> signs(copy).impossible(), TreeMap::new, Collectors.toList()));
        reasons.forEach((why, concerned) -> add(
                Weight.MISTAKE, concerned, IMPOSSIBLE + why, new Cure.LeaveOut("Plan no such copy of these clips")));
    }

    /// Where copies go, held against where originals are.
    private void places() {
        Map<String, Optional<Volume>> known = new HashMap<>();
        Function<Path, Optional<Volume>> volume =
                file -> known.computeIfAbsent(String.valueOf(file.getParent()), _ -> Warnings.volume(file));
        List<Volume> originals = copies.stream()
                .filter(PlannedCopy::isWanted)
                .map(copy -> volume.apply(copy.clip().source().head()))
                .flatMap(Optional::stream)
                .distinct()
                .toList();
        boolean shared = originals.stream().anyMatch(Volume::isNetwork);
        boolean fast = originals.stream().anyMatch(v -> v.kind().equals("solid state"));
        for (VolumeLoad load : volumes) {
            Optional<Volume> on = load.room().place().flatMap(Warnings::volume);
            if (on.isEmpty()) {
                continue;
            }
            Volume to = on.get();
            place(to.system(), "Copies go to the volume the system is on");
            place(
                    fast && (to.kind().equals("hard disk") || to.isNetwork()),
                    "Copies go to a slower kind of volume (" + to.kind() + ") than originals lie on");
            place(
                    shared && !to.isNetwork(),
                    "Originals are on a network volume; copies would not be, and other"
                            + " workstations could not reach them");
        }
    }

    private void place(boolean holds, String text) {
        if (holds) {
            found.add(new Draft(
                    Weight.NOTE,
                    text,
                    text,
                    new Cure.Just(new Remedy.OtherFolder("Choose another folder for copies")),
                    List.of()));
        }
    }

    private static Optional<Volume> volume(Path file) {
        try {
            return Optional.of(Volume.of(file));
        } catch (IOException e) {
            return Optional.empty(); // not mounted: the rest of the sheet says so
        }
    }
}
