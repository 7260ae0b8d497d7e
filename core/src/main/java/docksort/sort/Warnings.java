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
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
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
    private final List<Warning> found = new ArrayList<>();

    Warnings(List<PlannedCopy> copies, List<VolumeLoad> volumes, Planning planning) {
        this.copies = copies;
        this.volumes = volumes;
        this.planning = planning;
        this.timeline = planning.circumstances().timeline();
    }

    /// Stops first, then mistakes, then notes.
    List<Warning> all() {
        room();
        pictures();
        mixedFractions();
        sameNames();
        passedOver();
        rangesOutgrown();
        impossible();
        places();
        found.sort(Comparator.comparing(Warning::weight));
        return List.copyOf(found);
    }

    private void passedOver() {
        for (Shortcoming shortcoming : Shortcoming.values()) {
            List<ClipId> clips = copies.stream()
                    .filter(PlannedCopy::isWanted)
                    .filter(copy -> planning.passedOver()
                            .apply(copy)
                            .filter(shortcoming::equals)
                            .isPresent())
                    .map(copy -> copy.clip().id())
                    .distinct()
                    .toList();
            add(
                    Weight.NOTE,
                    clips,
                    shortcoming.words(clips.size() == 1),
                    new Remedy.LeaveAsIs("Be content with the camera's copies"));
        }
    }

    private void room() {
        for (VolumeLoad load : volumes) {
            if (!load.fits()) {
                found.add(new Warning(
                        Weight.STOPS,
                        load.missing() + " too little room on " + load.room().volume() + ": "
                                + load.bytes().most() + " are needed at most, "
                                + load.room().free() + " are free",
                        new Remedy.OnlyWhatFits("Make only the first copies, as many as fit"),
                        List.of()));
            }
        }
    }

    private void pictures() {
        add(
                Weight.MISTAKE,
                (copy, form) -> video(copy).pixels().alpha() && !form.keepsAlpha() && isForPicture(copy),
                "would lose transparency",
                new Remedy.UseRecipe(Recipe.FULL_PRORES.id(), "Use a recipe that keeps alpha"));
        add(
                Weight.NOTE,
                (copy, form) -> video(copy).pixels().alpha() && !form.keepsAlpha() && !isForPicture(copy),
                "would be flattened: what is transparent gets a ground",
                new Remedy.Advice("Composite on the originals, or choose ProRes or CineForm, which keep alpha"));
        add(
                Weight.MISTAKE,
                (copy, form) -> isForPicture(copy)
                        && video(copy).pixels().bitDepth() > target(form).bitDepth(),
                "would have fewer bits than the original",
                new Remedy.UseRecipe(Recipe.FULL_VC3.id(), "Use the depth of the clip"));
        add(
                Weight.MISTAKE,
                (copy, form) -> isForPicture(copy)
                        && target(form).isVc3()
                        && video(copy).pixels().bitDepth() <= 8
                        && target(form).bitDepth() > 8,
                "would have more bits than the original: larger and no better",
                new Remedy.UseRecipe(Recipe.FULL_VC3.id(), "Use the depth of the clip"));
        add(
                Weight.NOTE,
                (copy, form) ->
                        copy.recipe().kind() == CopyKind.FULL && copy.recipe().losesChroma(video(copy), target(form)),
                "would keep less colour than the original",
                new Remedy.Advice("Grade and key on the originals"));
        add(
                Weight.MISTAKE,
                (copy, form) -> copy.recipe().kind() == CopyKind.LIGHT && isLarger(copy, form) && isEasy(copy),
                "would be larger than originals that are easy as they are",
                new Remedy.LeaveAsIs("Leave these clips as they are"));
        add(
                Weight.NOTE,
                (copy, form) -> copy.recipe().kind() == CopyKind.LIGHT && isLarger(copy, form) && !isEasy(copy),
                "would be larger than the original",
                new Remedy.Advice("That is what easy scrubbing costs; a smaller raster costs less"));
        add(
                Weight.NOTE,
                (copy, form) -> copy.recipe().kind() == CopyKind.FULL
                        && copy.bytes().least().compareTo(copy.clip().facts().size()) > 0,
                "would be larger than the original",
                new Remedy.Advice("Expected of a full copy"));
        add(
                Weight.NOTE,
                (copy, form) -> form.raster().height() < timeline.raster().height()
                        && video(copy).displayRaster().height()
                                >= timeline.raster().height(),
                "would be smaller than the timeline's " + timeline.raster().height() + " lines",
                new Remedy.UseRecipe(Recipe.LIGHT_VC3_FIT.id(), "Fit to the lines of timelines"));
        add(
                Weight.NOTE,
                (copy, form) ->
                        copy.recipe().kind() == CopyKind.LIGHT && !target(form).isAllIntra(),
                "would be long-GOP: small, but no easier to scrub",
                new Remedy.UseRecipe(Recipe.LIGHT_PRORES_HALF.id(), "Use an all-intra recipe"));
        add(
                Weight.NOTE,
                (copy, form) -> video(copy).rateKind() == RateKind.VARIABLE
                        && !form.rate().equals(video(copy).rate()),
                "would get another frame rate",
                new Remedy.Advice("Variable rate is conformed as the recipe says; sound keeps its length"));
        add(
                Weight.NOTE,
                (copy, form) -> copy.recipe().squarePixels() && !video(copy).isSquare(),
                "would get square pixels",
                new Remedy.Advice("Set the shape anew where timelines counted on the original's pixels"));
    }

    private static boolean isLarger(PlannedCopy copy, CopyForm form) {
        return form.range().isEmpty()
                && copy.bytes().least().compareTo(copy.clip().facts().size()) > 0;
    }

    private boolean isEasy(PlannedCopy copy) {
        return planning.judge().judge(copy.clip()).verdict() == Verdict.EASY;
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

    /// Among the copies with a picture that are to be made.
    private void add(Weight weight, BiPredicate<PlannedCopy, CopyForm> concerned, String text, Remedy remedy) {
        List<ClipId> clips = copies.stream()
                .filter(PlannedCopy::isWanted)
                .filter(copy -> copy.form()
                        .filter(form -> form.target().isPresent())
                        .filter(form -> concerned.test(copy, form))
                        .isPresent())
                .map(copy -> copy.clip().id())
                .distinct()
                .toList();
        add(weight, clips, text, remedy);
    }

    private void add(Weight weight, List<ClipId> clips, String text, Remedy remedy) {
        if (!clips.isEmpty()) {
            String subject = clips.size() == 1 ? "1 copy " : clips.size() + " copies ";
            found.add(new Warning(weight, subject + text, remedy, clips));
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
            List<ClipId> others = fractions.entrySet().stream()
                    .filter(entry -> !entry.getKey().equals(usual.getKey()))
                    .flatMap(entry -> entry.getValue().stream())
                    .map(copy -> copy.clip().id())
                    .toList();
            add(
                    Weight.MISTAKE,
                    others,
                    "would have another fraction than the rest of the same camera's",
                    new Remedy.UseRecipe(
                            most.getFirst().recipe().id(),
                            "Use " + most.getFirst().recipe().name() + " for all"));
        });
    }

    private void sameNames() {
        Map<String, List<PlannedCopy>> names = copies.stream()
                .filter(PlannedCopy::isWanted)
                .filter(copy -> copy.range().isEmpty())
                .collect(Collectors.groupingBy(copy -> String.join("/", CopyPlace.of(copy, planning.arrivals()))
                        .toLowerCase(Locale.ROOT)));
        List<ClipId> same = names.values().stream()
                .filter(list -> list.size() > 1)
                .flatMap(List::stream)
                .map(copy -> copy.clip().id())
                .distinct()
                .toList();
        add(
                Weight.MISTAKE,
                same,
                "would have the same name as another; they get a number",
                new Remedy.Advice("Put {arrival} or {reel} into the recipe's name for copies"));
    }

    /// Ranges that timelines use now and of which a copy made before has only a part.
    private void rangesOutgrown() {
        List<ClipId> outgrown = copies.stream()
                .filter(copy -> copy.recipe().kind() == CopyKind.RANGE && copy.isWanted())
                .filter(copy -> copies.stream()
                        .anyMatch(other -> other.already()
                                && other.clip().id().equals(copy.clip().id())
                                && other.range().isPresent()
                                && touches(other.range().get(), copy)))
                .map(copy -> copy.clip().id())
                .distinct()
                .toList();
        add(
                Weight.NOTE,
                outgrown,
                "would take the place of a range copy that the cut has outgrown",
                new Remedy.Advice("All of the stretch is made as one file, because an event can use one only"));
    }

    private static boolean touches(FrameRange range, PlannedCopy copy) {
        return copy.range().filter(range::touches).isPresent();
    }

    private void impossible() {
        Map<String, List<ClipId>> reasons = copies.stream()
                .filter(copy -> !copy.already())
                .filter(copy -> copy.resolution() instanceof Recipe.Resolution.Impossible)
                .collect(Collectors.groupingBy(
                        copy -> ((Recipe.Resolution.Impossible) copy.resolution()).why(),
                        TreeMap::new,
                        Collectors.mapping(copy -> copy.clip().id(), Collectors.toList())));
        reasons.forEach((why, clips) -> add(
                Weight.MISTAKE,
                clips.stream().distinct().toList(),
                "cannot be made: " + why,
                new Remedy.LeaveAsIs("Leave these clips as they are")));
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
            found.add(new Warning(
                    Weight.NOTE, text, new Remedy.OtherFolder("Choose another folder for copies"), List.of()));
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
