package docksort.sort;

import docksort.arrival.ArrivalId;
import docksort.arrival.ClipId;
import docksort.files.Volume;
import docksort.media.CopyForm;
import docksort.media.FrameRange;
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
import java.util.Collections;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
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
    private final List<PlannedCopy> copies;
    private final List<VolumeLoad> volumes;
    private final Planning planning;
    private final TimelineFormat timeline;
    private final List<Sense> senses;
    private final List<Draft> found = new ArrayList<>();
    private final Map<ClipId, Boolean> easy;

    Warnings(List<PlannedCopy> copies, List<VolumeLoad> volumes, Planning planning) {
        this(copies, volumes, planning, new HashMap<>());
    }

    /// @param easy what is known of clips already
    private Warnings(List<PlannedCopy> copies, List<VolumeLoad> volumes, Planning planning, Map<ClipId, Boolean> easy) {
        this.easy = easy;
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
    private record Draft(Weight weight, String what, Cure cure, List<PlannedCopy> copies) {
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
        List<String> before = found.stream().map(Draft::what).toList();
        var remedies = new Remedies(copies, planning, this::whatIsWorse, (mistake, other) -> {
            List<String> after = looked(other);
            return after.size() < before.size()
                    && Collections.frequency(after, mistake) < Collections.frequency(before, mistake);
        });
        places();
        return found.stream()
                .map(draft -> new Warning(draft.weight, draft.text(), remedy(draft, remedies), draft.clips()))
                .sorted(Comparator.comparing(Warning::weight))
                .toList();
    }

    private void look() {
        room();
        senses.forEach(this::sense);
        mixedFractions();
        sameNames();
        passedOver();
        rangesOutgrown();
        impossible();
    }

    /// The mistakes that another plan would have. Where copies go is left out: that asks disks.
    private List<String> looked(List<PlannedCopy> others) {
        var warnings = new Warnings(others, LoadSheet.volumes(others, planning), planning, easy);
        warnings.look();
        return warnings.found.stream().map(Draft::what).toList();
    }

    private static Remedy remedy(Draft draft, Remedies remedies) {
        return switch (draft.cure) {
            case Cure.Just(Remedy remedy) -> remedy;
            case Cure.LeaveOut(String words) ->
                remedies.without(draft.what, draft.copies, words)
                        .orElseGet(() -> new Remedy.Advice(words + ", by hand"));
            case Cure.Instead(List<Recipe> recipes, String otherwise) ->
                remedies.instead(draft.what, draft.copies, recipes).orElseGet(() -> new Remedy.Advice(otherwise));
        };
    }

    /// What a remedy must not bring about, by the numbers of the senses.
    private Set<Integer> whatIsWorse(PlannedCopy copy) {
        var worse = new HashSet<Integer>();
        for (int i = 0; i < senses.size(); i++) {
            if (senses.get(i).worse && senses.get(i).holds(copy)) {
                worse.add(i);
            }
        }
        return worse;
    }

    private void sense(Sense sense) {
        add(
                sense.weight,
                copies.stream()
                        .filter(PlannedCopy::isWanted)
                        .filter(sense::holds)
                        .toList(),
                sense.text,
                sense.cure);
    }

    private void passedOver() {
        for (Shortcoming shortcoming : Shortcoming.values()) {
            List<PlannedCopy> concerned = copies.stream()
                    .filter(PlannedCopy::isWanted)
                    .filter(copy -> planning.passedOver()
                            .apply(copy)
                            .filter(shortcoming::equals)
                            .isPresent())
                    .toList();
            add(
                    Weight.NOTE,
                    concerned,
                    shortcoming.words(concerned.stream()
                                    .map(copy -> copy.clip().id())
                                    .distinct()
                                    .count()
                            == 1),
                    new Cure.LeaveOut("Be content with the camera's copies"));
        }
    }

    private void room() {
        for (VolumeLoad load : volumes) {
            if (!load.fits()) {
                found.add(new Draft(
                        Weight.STOPS,
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
        return easy.computeIfAbsent(
                copy.clip().id(), _ -> planning.judge().judge(copy.clip()).verdict() == Verdict.EASY);
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
        if (!concerned.isEmpty()) {
            found.add(new Draft(weight, text, cure, concerned));
        }
    }

    /// Light copies of one arrival whose rasters stand in different proportion to their originals of one
    /// raster.
    private void mixedFractions() {
        record Group(ArrivalId arrival, Raster raster) {}
        Map<Group, Map<Rational, List<PlannedCopy>>> groups = new HashMap<>();
        for (PlannedCopy copy : copies) {
            Optional<CopyForm> form = copy.form().filter(f -> f.target().isPresent());
            if (copy.recipe().kind() == CopyKind.LIGHT && form.isPresent()) {
                var raster = video(copy).displayRaster();
                groups.computeIfAbsent(new Group(copy.clip().arrival(), raster), _ -> new HashMap<>())
                        .computeIfAbsent(
                                new Rational(form.get().raster().height(), raster.height()), _ -> new ArrayList<>())
                        .add(copy);
            }
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
                    "would have another fraction than the rest of the same camera's",
                    new Cure.Instead(
                            List.of(most.getFirst().recipe()), "Choose one recipe for all clips of the camera"));
        });
    }

    private void sameNames() {
        Map<String, List<PlannedCopy>> names = copies.stream()
                .filter(PlannedCopy::isWanted)
                .filter(copy -> copy.range().isEmpty())
                .collect(Collectors.groupingBy(copy -> String.join("/", CopyPlace.of(copy, planning.arrivals()))
                        .toLowerCase(Locale.ROOT)));
        List<PlannedCopy> same = names.values().stream()
                .filter(list ->
                        list.stream().map(copy -> copy.clip().id()).distinct().count() > 1)
                .flatMap(List::stream)
                .toList();
        add(
                Weight.MISTAKE,
                same,
                "would have the same name as another; they get a number",
                advice("Put {arrival} or {reel} into the recipe's name for copies"));
    }

    /// Ranges that timelines use now and of which a copy made before has only a part.
    private void rangesOutgrown() {
        List<PlannedCopy> outgrown = copies.stream()
                .filter(copy -> copy.recipe().kind() == CopyKind.RANGE && copy.isWanted())
                .filter(copy -> copies.stream()
                        .anyMatch(other -> other.already()
                                && other.clip().id().equals(copy.clip().id())
                                && other.range().isPresent()
                                && touches(other.range().get(), copy)))
                .toList();
        add(
                Weight.NOTE,
                outgrown,
                "would take the place of a range copy that the cut has outgrown",
                advice("All of the stretch is made as one file, because an event can use one only"));
    }

    private static boolean touches(FrameRange range, PlannedCopy copy) {
        return copy.range().filter(range::touches).isPresent();
    }

    private void impossible() {
        Map<String, List<PlannedCopy>> reasons = copies.stream()
                .filter(copy -> !copy.already())
                .filter(copy -> copy.resolution() instanceof Recipe.Resolution.Impossible)
                .collect(Collectors.groupingBy(
                        copy -> ((Recipe.Resolution.Impossible) copy.resolution()).why(),
                        TreeMap::new,
                        Collectors.toList()));
        reasons.forEach((why, concerned) -> add(
                Weight.MISTAKE,
                concerned,
                "cannot be made: " + why,
                new Cure.LeaveOut("Plan no such copy of these clips")));
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
