package docksort.sort;

import docksort.arrival.Clip;
import docksort.arrival.ClipId;
import docksort.files.Room;
import docksort.media.ByteSize;
import docksort.media.ClipSource;
import docksort.media.Rational;
import docksort.media.VideoFacts;
import docksort.strain.StrainJudge;
import docksort.strain.TimelineFormat;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.BiPredicate;
import java.util.function.Predicate;

/// The plan before it runs: what is decided for every clip, the copies this asks for, their bytes, the room
/// they need, and what is wrong with it.
public record LoadSheet(
        List<Sorted> sorted, List<PlannedCopy> copies, PredictedBytes bytes, Room room, List<Warning> warnings) {
    /// Left free on a volume besides what is planned, for indexes and the file system itself.
    private static final long SPARE_BYTES = 50_000_000;

    public LoadSheet {
        sorted = List.copyOf(sorted);
        copies = List.copyOf(copies);
        warnings = List.copyOf(warnings);
    }

    /// @param byHand recipes that a person chose for a clip instead of the rules; an empty list leaves the clip
    /// as it is
    /// @param judge says how hard each clip is
    /// @param inStock whether a clip already has a copy that serves for a recipe
    public static LoadSheet plan(
            List<Clip> clips,
            List<SortRule> rules,
            Map<ClipId, List<Recipe>> byHand,
            BiPredicate<ClipId, Recipe> inStock,
            StrainJudge judge,
            Room room) {
        var sorted = new ArrayList<Sorted>();
        var copies = new ArrayList<PlannedCopy>();
        PredictedBytes total = PredictedBytes.NONE;
        for (Clip clip : clips) {
            Sorted decision = sort(clip, rules, byHand, judge);
            sorted.add(decision);
            for (Recipe recipe : decision.recipes()) {
                PlannedCopy copy = planned(clip, recipe, decision.why(), inStock.test(clip.id(), recipe));
                copies.add(copy);
                if (copy.isWanted()) {
                    total = total.plus(copy.bytes());
                }
            }
        }
        return new LoadSheet(sorted, copies, total, room, warnings(copies, total, judge.timeline(), room));
    }

    private static Sorted sort(Clip clip, List<SortRule> rules, Map<ClipId, List<Recipe>> byHand, StrainJudge judge) {
        var strain = judge.judge(clip);
        List<Recipe> chosen = byHand.get(clip.id());
        if (chosen != null) {
            return new Sorted(clip, strain, chosen, 0, true);
        }
        for (SortRule rule : rules) {
            if (rule.condition().holdsFor(clip.facts(), strain)) {
                return new Sorted(clip, strain, List.of(rule.recipe()), rule.number(), false);
            }
        }
        return new Sorted(clip, strain, List.of(), 0, false);
    }

    /// One copy of a clip, whatever the rules say of it.
    public static PlannedCopy planned(Clip clip, Recipe recipe, String why, boolean already) {
        Recipe.Resolution resolution = untrue(clip.source())
                .<Recipe.Resolution>map(Recipe.Resolution.Impossible::new)
                .orElseGet(() -> recipe.resolve(clip.facts()));
        PredictedBytes bytes = switch (resolution) {
            case Recipe.Resolution.Possible(var target, var raster, var picture) ->
                PredictedBytes.of(target, raster, clip.facts(), picture.frames().count());
            case Recipe.Resolution.Impossible _ -> PredictedBytes.NONE;
        };
        return new PlannedCopy(clip, recipe, why, resolution, bytes, already);
    }

    /// Why a copy of a source would not be true to the frame.
    private static Optional<String> untrue(ClipSource source) {
        return switch (source) {
            case ClipSource.NumberedStills stills
            when !stills.missing().isEmpty() ->
                Optional.of("stills are missing (" + stills.missingLabel() + "): render or copy them again");
            case ClipSource.Spanned _ ->
                Optional.of("it spans several files, of which this version makes no copies: join them first");
            case ClipSource.NumberedStills _, ClipSource.SingleFile _ -> Optional.empty();
        };
    }

    public List<PlannedCopy> wanted() {
        return copies.stream().filter(PlannedCopy::isWanted).toList();
    }

    /// Whether the most that the copies can need fits.
    public boolean fits() {
        return missing().bytes() == 0;
    }

    /// Bytes that are missing for the most that the copies can need.
    public ByteSize missing() {
        return missing(bytes, room);
    }

    private static ByteSize missing(PredictedBytes bytes, Room room) {
        long need = bytes.most().bytes();
        return new ByteSize(
                need == 0 ? 0 : Math.max(0, need + SPARE_BYTES - room.free().bytes()));
    }

    /// Which copies, from the first on, would fit into the room.
    public List<PlannedCopy> thatFit() {
        var fitting = new ArrayList<PlannedCopy>();
        long left = room.free().bytes() - SPARE_BYTES;
        for (PlannedCopy copy : wanted()) {
            if (copy.bytes().most().bytes() <= left) {
                left -= copy.bytes().most().bytes();
                fitting.add(copy);
            }
        }
        return fitting;
    }

    private static List<Warning> warnings(
            List<PlannedCopy> copies, PredictedBytes total, TimelineFormat timeline, Room room) {
        var warnings = new ArrayList<Warning>();
        ByteSize missing = missing(total, room);
        if (missing.bytes() > 0) {
            warnings.add(new Warning(
                    missing + " too little room on " + room.volume(),
                    "Choose fewer clips, a smaller recipe, or another folder for copies",
                    List.of(),
                    true));
        }
        addFor(
                warnings,
                copies,
                PlannedCopy::isWanted,
                copy -> picture(copy).map(v -> v.pixels().alpha()).orElse(false),
                "would lose transparency: the recipe's codec has no alpha",
                "Leave them as they are");
        addFor(
                warnings,
                copies,
                PlannedCopy::isWanted,
                copy -> isBelowTimeline(copy, timeline),
                "would be smaller than the timeline's " + timeline.raster().height() + " lines",
                "Do not judge focus or keys on them");
        addFor(
                warnings,
                copies,
                PlannedCopy::isWanted,
                copy -> copy.bytes().least().compareTo(copy.clip().facts().size()) > 0,
                "would be larger than the original",
                "Expected for a full copy; for a light one choose a smaller recipe");
        addFor(
                warnings,
                copies,
                PlannedCopy::isWanted,
                copy -> copy.recipe().kind() == CopyKind.FULL && losesDepth(copy),
                "would keep less colour or depth than the original",
                "Grade on the originals");
        addFor(
                warnings,
                copies,
                copy -> !copy.already(),
                copy -> copy.resolution() instanceof Recipe.Resolution.Impossible,
                "cannot be made with the recipe chosen",
                "Leave these clips as they are");
        return warnings;
    }

    private static void addFor(
            List<Warning> warnings,
            List<PlannedCopy> copies,
            Predicate<PlannedCopy> among,
            Predicate<PlannedCopy> concerned,
            String text,
            String remedy) {
        List<ClipId> clips = copies.stream()
                .filter(among.and(concerned))
                .map(copy -> copy.clip().id())
                .distinct()
                .toList();
        if (!clips.isEmpty()) {
            String subject = clips.size() == 1 ? "1 copy " : clips.size() + " copies ";
            warnings.add(new Warning(subject + text, remedy, clips, false));
        }
    }

    private static Optional<VideoFacts> picture(PlannedCopy copy) {
        return copy.clip().facts().video();
    }

    private static boolean isBelowTimeline(PlannedCopy copy, TimelineFormat timeline) {
        return copy.resolution() instanceof Recipe.Resolution.Possible(var _, var raster, var picture)
                && raster.height() < timeline.raster().height()
                && picture.raster().height() >= timeline.raster().height();
    }

    private static boolean losesDepth(PlannedCopy copy) {
        return copy.resolution() instanceof Recipe.Resolution.Possible(var target, var _, var picture)
                && (picture.pixels().bitDepth() > target.bitDepth()
                        || copy.recipe().losesChroma(picture));
    }

    /// The share of the volume that the plan would use, for drawing.
    public Rational shareOfVolume() {
        return room.total().bytes() == 0
                ? Rational.ZERO
                : new Rational(
                        Math.min(bytes.most().bytes(), room.total().bytes()),
                        room.total().bytes());
    }
}
