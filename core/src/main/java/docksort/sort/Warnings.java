package docksort.sort;

import docksort.arrival.ClipId;
import docksort.files.Volume;
import docksort.media.Rational;
import docksort.sort.ClipPart.Signed;
import docksort.sort.Warning.Remedy;
import docksort.sort.Warning.Weight;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.Function;
import java.util.stream.Collectors;

/// Senses the mistakes of a plan.
final class Warnings {
    static final String OTHER_FRACTION = "would have another fraction than the rest of the same camera's";
    static final String SAME_PLACE = "would have the same name as another; they get a number";
    static final String OUTGROWN = "would take the place of a range copy that the cut has outgrown";
    static final String IMPOSSIBLE = "cannot be made: ";

    private final List<ClipPart> parts;
    private final List<Signed> copies = new ArrayList<>();
    private final List<VolumeLoad> volumes;
    private final Planning planning;
    private final Senses senses;
    private final List<Draft> found = new ArrayList<>();

    Warnings(List<ClipPart> parts, List<VolumeLoad> volumes, Planning planning) {
        this.parts = parts;
        this.volumes = volumes;
        this.planning = planning;
        this.senses = new Senses(planning);
        parts.forEach(part -> copies.addAll(part.signed(senses)));
    }

    /// A mistake that was found, with the copies it concerns.
    ///
    /// @param line what a [Tally] says of it
    private record Draft(Weight weight, String line, String what, Cure cure, List<Signed> copies) {
        String text(int clips) {
            return clips == 0 ? what : (clips == 1 ? "1 copy " : clips + " copies ") + what;
        }

        List<ClipId> clips() {
            return copies.stream()
                    .map(each -> each.copy().clip().id())
                    .distinct()
                    .toList();
        }
    }

    /// Stops first, then mistakes, then notes.
    List<Warning> all() {
        look();
        var tally = new Tally(senses.inOrder().stream().map(Senses.Sense::line).toList(), planning.rooms());
        copies.forEach(tally::add);
        Map<String, Integer> before = tally.lines();
        var remedies = new Remedies(parts, planning, senses, (line, without, with) -> {
            without.forEach(tally::remove);
            with.forEach(tally::add);
            Map<String, Integer> after = tally.lines();
            with.forEach(tally::remove);
            without.forEach(tally::add);
            return all(after) < all(before) && after.getOrDefault(line, 0) < before.getOrDefault(line, 0);
        });
        places();
        return found.stream()
                .map(draft -> {
                    List<ClipId> clips = draft.clips();
                    return new Warning(draft.weight, draft.text(clips.size()), remedy(draft, remedies), clips);
                })
                .sorted(Comparator.comparing(Warning::weight))
                .toList();
    }

    private static int all(Map<String, Integer> lines) {
        return lines.values().stream().mapToInt(Integer::intValue).sum();
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

    private void sense() {
        List<Senses.Sense> all = senses.inOrder();
        List<List<Signed>> concerned =
                all.stream().<List<Signed>>map(_ -> new ArrayList<>()).toList();
        for (Signed each : copies) {
            long rest = each.copy().isWanted() ? each.signs().senses() : 0;
            for (; rest != 0; rest &= rest - 1) {
                concerned.get(Long.numberOfTrailingZeros(rest)).add(each);
            }
        }
        for (int i = 0; i < all.size(); i++) {
            Senses.Sense sense = all.get(i);
            add(sense.weight(), concerned.get(i), sense.line(), sense.cure());
        }
    }

    private void passedOver() {
        for (Shortcoming shortcoming : Shortcoming.values()) {
            List<Signed> concerned = copies.stream()
                    .filter(each -> each.signs().passedOver().equals(Optional.of(shortcoming)))
                    .toList();
            boolean one = concerned.stream()
                            .map(each -> each.copy().clip().id())
                            .distinct()
                            .count()
                    == 1;
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

    private void add(Weight weight, List<Signed> concerned, String text, Cure cure) {
        add(weight, concerned, text, text, cure);
    }

    private void add(Weight weight, List<Signed> concerned, String line, String text, Cure cure) {
        if (!concerned.isEmpty()) {
            found.add(new Draft(weight, line, text, cure, concerned));
        }
    }

    /// Light copies of one arrival whose rasters stand in different proportion to their originals of one
    /// raster: clips that have none of the fraction that most of them have. Several sizes of one clip are no
    /// mistake.
    private void mixedFractions() {
        Map<Signs.OneCamera, List<Signed>> groups = new LinkedHashMap<>();
        for (Signed each : copies) {
            each.signs()
                    .group()
                    .ifPresent(group -> groups.computeIfAbsent(group.camera(), _ -> new ArrayList<>())
                            .add(each));
        }
        groups.values().forEach(ofCamera -> {
            Map<Rational, Set<ClipId>> clips = new TreeMap<>();
            ofCamera.forEach(each -> clips.computeIfAbsent(fraction(each), _ -> new HashSet<>())
                    .add(each.copy().clip().id()));
            Map.Entry<Rational, Set<ClipId>> usual = clips.entrySet().stream()
                    .max(Comparator.comparingInt(entry -> entry.getValue().size()))
                    .orElseThrow();
            List<Signed> others = ofCamera.stream()
                    .filter(each ->
                            !usual.getValue().contains(each.copy().clip().id()))
                    .toList();
            ofCamera.stream()
                    .filter(each -> fraction(each).equals(usual.getKey()))
                    .findFirst()
                    .ifPresent(one -> add(
                            Weight.MISTAKE,
                            others,
                            OTHER_FRACTION,
                            new Cure.Instead(
                                    List.of(one.copy().recipe()), "Choose one recipe for all clips of the camera")));
        });
    }

    private static Rational fraction(Signed copy) {
        return copy.signs().group().orElseThrow().fraction();
    }

    private void sameNames() {
        Map<String, List<Signed>> names = copies.stream()
                .filter(each -> !each.signs().place().isEmpty())
                .collect(Collectors.groupingBy(each -> each.signs().place()));
        List<Signed> same = names.values().stream()
                .filter(list -> list.stream()
                                .map(each -> each.copy().clip().id())
                                .distinct()
                                .count()
                        > 1)
                .flatMap(List::stream)
                .toList();
        add(Weight.MISTAKE, same, SAME_PLACE, Cure.advice("Put {arrival} or {reel} into the recipe's name for copies"));
    }

    private void rangesOutgrown() {
        Map<ClipId, List<Signed>> ofClips = copies.stream()
                .filter(each -> each.copy().range().isPresent())
                .collect(Collectors.groupingBy(
                        each -> each.copy().clip().id(), LinkedHashMap::new, Collectors.toList()));
        add(
                Weight.NOTE,
                ofClips.values().stream()
                        .flatMap(ofClip -> Tally.outgrown(ofClip).stream())
                        .toList(),
                OUTGROWN,
                Cure.advice("All of the stretch is made as one file, because an event can use one only"));
    }

    private void impossible() {
        Map<String, List<Signed>> reasons = copies.stream()
                .filter(each -> !each.signs().impossible().isEmpty())
                .collect(Collectors.groupingBy(each -> each.signs().impossible(), TreeMap::new, Collectors.toList()));
        reasons.forEach((why, concerned) -> add(
                Weight.MISTAKE, concerned, IMPOSSIBLE + why, new Cure.LeaveOut("Plan no such copy of these clips")));
    }

    /// Where copies go, held against where originals are.
    private void places() {
        Map<String, Optional<Volume>> known = new HashMap<>();
        Function<Path, Optional<Volume>> volume =
                file -> known.computeIfAbsent(String.valueOf(file.getParent()), _ -> Warnings.volume(file));
        List<Volume> originals = copies.stream()
                .filter(each -> each.copy().isWanted())
                .map(each -> volume.apply(each.copy().clip().source().head()))
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
