package docksort.run;

import docksort.engine.FrameSamples;
import docksort.engine.FrameSamples.Packets;
import docksort.engine.FrameSamples.Row;
import docksort.engine.FrameSamples.Sample;
import docksort.engine.FrameSamples.Small;
import docksort.engine.FrameSamples.Through;
import docksort.engine.MediaEngine;
import docksort.engine.MissingFrames;
import docksort.engine.ProcessControl;
import docksort.media.ClipSource;
import docksort.media.CopyForm;
import docksort.media.FrameRange;
import docksort.media.FrameRate;
import docksort.media.FrameStructure;
import docksort.media.Frames;
import docksort.media.Raster;
import docksort.media.Rational;
import docksort.media.VideoFacts;
import docksort.run.CopyCheck.Finding;
import docksort.run.CopyCheck.Verdict;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.NavigableSet;
import java.util.Optional;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.stream.IntStream;
import java.util.stream.LongStream;
import java.util.stream.Stream;

/// Holds the pictures of a finished copy against those of its original: all of the copy is decoded, and at
/// several places its frame must be the original's frame of the same number, more like it than like its
/// neighbours, and of the same levels and colours. An offset of one frame, another clip, a wrong range, a slip of the
/// range of levels and colours that are lost or changed places are found by this; a copy that cannot be decoded to its
/// end, too.
public final class PictureCheck {
    private static final String UNSEEN = "none of the original's, of which none decodes";
    private static final int PLACES = 5;
    private static final double MOVES = 0.8; // grey levels by which neighbours differ, to be told apart
    private static final double ALIKE = 7; // a small and hard-pressed copy of the same picture stays below
    private static final double SLOPE = 0.07; // a slip between video and full range changes it by 0.14
    private static final double COLOURS_ALIKE = 9;
    private static final double SATURATION = 0.12; // a slip between video and full range changes it by 0.14, too
    private static final double COLOURS_MOVE = 2; // for a look that changes nothing else
    private static final double SLOPE_OF_FEW = 0.1; // two pictures of single pixels tell it less well than five

    private final FrameSamples samples;
    private final MissingFrames missing;

    public PictureCheck(MediaEngine engine) {
        this.samples = new FrameSamples(engine);
        this.missing = new MissingFrames(engine);
    }

    /// Stretches of an original whose frames do not come out of the decoder.
    ///
    /// @param clean whether frames that the decoder only mends count as missing, too
    /// @return empty when it was cancelled
    Optional<List<FrameRange>> holes(
            ClipSource original, VideoFacts picture, CopyForm form, boolean clean, ProcessControl control)
            throws InterruptedException {
        FrameRange range = form.range().orElseGet(() -> new FrameRange(0, Math.max(1, form.frames())));
        return missing.find(original, picture, range, clean, control)
                .map(found -> clean ? untilNextKey(found, picture, range) : found);
    }

    /// What a decoder mends is passed on to all pictures that lean on it.
    private static List<FrameRange> untilNextKey(List<FrameRange> holes, VideoFacts picture, FrameRange range) {
        FrameStructure structure = picture.structure();
        if (structure.extent() != FrameStructure.Extent.WHOLE || structure.isAllIntra()) {
            return holes;
        }
        NavigableSet<Long> keys = new PacketPlaces(picture).keys();
        List<FrameRange> wider = holes.stream()
                .map(hole -> {
                    Long next = keys.ceiling(hole.end());
                    long end = Math.min(range.end(), next == null ? range.end() : next);
                    return new FrameRange(hole.first(), Math.max(hole.end(), end) - hole.first());
                })
                .toList();
        return FrameRange.merged(wider, 0, range.end());
    }

    /// Pictures of an original that copies of it are held against. Those of several copies are taken from
    /// one decode, when the first of them is checked.
    public final class Reference {
        private final ClipSource original;
        private final VideoFacts picture;
        private final List<CopyForm> forms;
        private final List<FrameRange> holes;
        private final Map<Look, List<List<Sample>>> taken = new HashMap<>();
        private final Map<Look, List<List<Sample>>> withoutLook = new HashMap<>();
        private final PacketPlaces packets;

        private Reference(ClipSource original, VideoFacts picture, List<CopyForm> forms, List<FrameRange> holes) {
            this.original = original;
            this.picture = picture;
            this.forms = List.copyOf(forms);
            this.holes = List.copyOf(holes);
            this.packets = new PacketPlaces(picture);
        }

        /// Numbers of the copy's frames that are looked at: both ends and between, none at a hole.
        private List<Long> places(CopyForm form) {
            long last = Math.max(0, form.frames() - (form.framesMayRound() ? 2 : 1));
            long start = start(form);
            var places = new TreeSet<Long>();
            for (int i = 0; i < PLACES; i++) {
                long place = last * i / (PLACES - 1);
                while (place <= last && isAtHole(start + place)) {
                    place++;
                }
                if (place <= last) {
                    places.add(place);
                }
            }
            if (places.isEmpty()) {
                // Holes nearly everywhere: any frame that decodes.
                LongStream.rangeClosed(0, last)
                        .filter(place -> holes.stream().noneMatch(hole -> hole.holds(start + place)))
                        .findFirst()
                        .ifPresent(places::add);
            }
            return List.copyOf(places);
        }

        private boolean isAtHole(long frame) {
            return holes.stream().anyMatch(hole -> frame >= hole.first() - 1 && frame <= hole.end());
        }

        /// Those that are reached at little cost, where every frame was told of while the copy was made: they
        /// show that it is the right stretch of the right clip.
        private List<Long> fewPlaces(CopyForm form) {
            List<Long> many = places(form);
            if (!isReachedByJumps() || many.size() < 2) {
                return form.range().isPresent() ? many : many.subList(0, Math.min(1, many.size()));
            }
            var few = new TreeSet<Long>(List.of(many.getFirst()));
            if (picture.structure().isAllIntra() || original instanceof ClipSource.NumberedStills) {
                few.add(many.get(many.size() / 2));
                few.add(many.getLast());
            } else {
                few.add(keyBeside(many.get(many.size() / 2), form).orElse(many.getLast()));
            }
            return List.copyOf(few);
        }

        /// The copy's frame that is a key of the original, the nearest one.
        private Optional<Long> keyBeside(long place, CopyForm form) {
            long start = start(form);
            return packets.keys().stream()
                    .map(key -> key - start)
                    .filter(key -> key > 0 && key < form.frames() - 1)
                    .min(Comparator.comparingLong(key -> Math.abs(key - place)));
        }

        private boolean isReachedByJumps() {
            Frames.Reach reach = picture.frames().reach();
            return !varies() && holes.isEmpty() && reach != Frames.Reach.COUNT && reach != Frames.Reach.FIRST;
        }

        private static long start(CopyForm form) {
            return form.range().map(FrameRange::first).orElse(0L);
        }

        private boolean varies() {
            return picture.rateKind() == VideoFacts.RateKind.VARIABLE;
        }

        private List<Long> places(Look look) {
            return look.few ? fewPlaces(look.form) : places(look.form);
        }

        private List<Row> rows(Look look) {
            long start = start(look.form);
            long frames = varies() ? Long.MAX_VALUE : picture.frames().count();
            boolean jumps = look.few && isReachedByJumps();
            return places(look).stream()
                    .map(place -> jumps && (place > 0 || start == 0)
                            ? fromKey(start + place, frames, look.form)
                            : row(start + place, frames))
                    .toList();
        }

        /// Where in each row the frame itself stands.
        private List<Integer> own(Look look) {
            long start = start(look.form);
            List<Long> places = places(look);
            List<Row> rows = rows(look);
            return IntStream.range(0, rows.size())
                    .mapToObj(i -> (int) (start + places.get(i) - rows.get(i).first()))
                    .toList();
        }

        /// Nothing before a key.
        private Row fromKey(long frame, long frames, CopyForm form) {
            int count = (int) Math.min(frame == 0 ? 3 : 2, frames - frame);
            return lead(form).isPositive() ? new Row(frame, count) : packets.row(frame, count);
        }

        private Optional<List<List<Sample>>> of(Look look, ProcessControl control) throws InterruptedException {
            CopyForm form = look.form;
            List<List<Sample>> known = taken.get(look);
            if (known != null) {
                return Optional.of(known);
            }
            List<Row> rows = rows(look);
            if (rows.isEmpty()) {
                return Optional.of(List.of());
            }
            FrameRate rate = varies() ? form.rate() : picture.rate();
            List<CopyForm> alike = forms.stream()
                    .filter(other -> rows(look.of(other)).equals(rows)
                            // a matrix would pass on to the others
                            && (look.whole || !isWhole(picture, other))
                            && other.look().equals(form.look())
                            && (!varies() || other.rate().equals(rate)))
                    .toList();
            Stream<Through> bare = alike.stream()
                    .filter(other -> other.look().isBaked())
                    .map(other -> Through.withoutLook(picture, other, look.whole));
            List<Through> throughs = Stream.concat(alike.stream().map(look::of).map(this::through), bare)
                    .distinct()
                    .toList();
            var search =
                    new FrameSamples.Search(original, rate, picture.frames(), varies(), inOnePass(rows), lead(form));
            Optional<List<List<List<Sample>>>> found = samples.rows(search, rows, throughs, control);
            found.ifPresent(all -> alike.forEach(other -> {
                taken.put(look.of(other), all.get(throughs.indexOf(through(look.of(other)))));
                if (other.look().isBaked()) {
                    var through = Through.withoutLook(picture, other, look.whole);
                    withoutLook.put(look.of(other), all.get(throughs.indexOf(through)));
                }
            }));
            return found.map(all -> all.get(throughs.indexOf(through(look))));
        }

        /// The original's frame without the look that a copy has; empty where none is wanted.
        private Optional<Sample> withoutLook(Look look, int row, int frame) {
            return Optional.ofNullable(withoutLook.get(look))
                    .map(rows -> rows.get(row))
                    .filter(samples -> samples.size() > frame)
                    .map(samples -> samples.get(frame));
        }

        private Through through(Look look) {
            return Through.of(picture, look.form, look.whole);
        }

        /// A copy of a range was reached by a jump to its first frame. Whatever that jump may have done
        /// wrong, its reference must not: it begins a group of pictures earlier and is decoded up to the
        /// frame.
        private Rational lead(CopyForm form) {
            Rational group = picture.structure().keyframeInterval().worstSeconds();
            return form.range().isPresent() && !picture.structure().isAllIntra()
                    ? group.plus(picture.rate().secondsOf(1))
                    : Rational.ZERO;
        }

        /// Jumps decode from the keyframe before each row; where those lie far apart, decoding everything
        /// once is less. What a jump would find where frames stay on for any time is the frame behind it.
        private boolean inOnePass(List<Row> rows) {
            Frames.Reach reach = picture.frames().reach();
            if (original instanceof ClipSource.NumberedStills
                    || varies()
                    || !holes.isEmpty() // where packets are lost an index leads elsewhere than counting
                    || reach == Frames.Reach.COUNT
                    || reach == Frames.Reach.FIRST) {
                return !(original instanceof ClipSource.NumberedStills);
            }
            double interval =
                    picture.structure().keyframeInterval().meanFrames().toDouble();
            double jumps = rows.stream()
                    .mapToDouble(row ->
                            row.count() + (row.packets() > 0 ? 0 : row.first() < interval ? row.first() : interval / 2))
                    .sum();
            Row last = rows.getLast();
            return jumps > last.first() + last.count();
        }
    }

    /// @param forms all copies of the original that are to be checked
    /// @param holes frames of the original that do not decode: no picture is compared there
    public Reference reference(ClipSource original, VideoFacts picture, List<CopyForm> forms, List<FrameRange> holes) {
        return new Reference(original, picture, forms, holes);
    }

    /// @param few whether only some places that are reached at little cost are looked at
    /// @param whole see [FrameSamples#isWhole]
    private record Look(CopyForm form, boolean few, boolean whole) {
        static Look atFive(CopyForm form) {
            return new Look(form, false, true);
        }

        Look of(CopyForm other) {
            return new Look(other, few, whole);
        }
    }

    /// @param form one of the forms of the reference
    /// @param reached how frames of the copy are reached
    /// @param told what was told of the copy while it was made
    /// @param all whether all of the copy is decoded, or only what lies around the places that are compared
    /// @return empty when it was cancelled
    public Optional<Verdict> check(
            Reference reference,
            CopyForm form,
            ClipSource copy,
            Frames reached,
            Told told,
            boolean all,
            ProcessControl control)
            throws InterruptedException {
        Optional<Packets> packets = told.readBack().filter(_ -> all).map(file -> new Packets(form, file));
        if (all && told.pictures().isPresent()) {
            return eachFrame(reference, form, copy, told, packets, control);
        }
        var look = Look.atFive(form);
        List<Long> places = reference.places(look);
        Optional<FrameSamples.Whole> whole = all
                ? samples.whole(copy, form.rate(), places, packets, control)
                : samples.some(copy, form.rate(), reached, places, control);
        if (whole.isEmpty()) {
            return Optional.empty();
        }
        var findings = new ArrayList<Finding>();
        findings.add(decoding(
                all ? "all of it" : "around " + places.size() + " places",
                whole.get().complaint()));
        if (packets.isPresent() && whole.get().complaint().isEmpty()) {
            findings.add(told.packetsFound());
        }
        return atPlaces(reference, look, whole.get().samples(), findings, control)
                .map(Verdict::new);
    }

    /// Whether a small recording shows the pictures of another one at the places that the check of a copy looks at.
    /// How it was graded and what it has of the colours makes no difference.
    ///
    /// @param form the only form of the reference
    /// @param reached how frames of the small one are reached
    /// @return empty when it was cancelled
    public Optional<Boolean> shows(
            Reference reference, CopyForm form, ClipSource small, Frames reached, ProcessControl control)
            throws InterruptedException {
        var look = Look.atFive(form);
        List<Long> places = reference.places(look);
        Optional<FrameSamples.Whole> found = samples.some(small, form.rate(), reached, places, control);
        Optional<List<List<Sample>>> originals = found.isEmpty() ? Optional.empty() : reference.of(look, control);
        if (found.isEmpty() || originals.isEmpty()) {
            return Optional.empty();
        }
        List<Sample> shown = found.get().samples();
        if (!found.get().complaint().isEmpty() || shown.size() < places.size()) {
            return Optional.of(false);
        }
        if (isShown(reference, look, originals.get(), shown)) {
            return Optional.of(true);
        }
        List<Integer> owns = reference.own(look);
        var tone = new Tone();
        for (int i = 0; i < places.size(); i++) {
            List<Sample> row = originals.get().get(i);
            int own = owns.get(i);
            if (row.size() > own) {
                tone.add(row.get(own), shown.get(i));
            }
        }
        return Optional.of(tone.curve()
                .map(curve -> isShown(
                        reference,
                        look,
                        originals.get().stream()
                                .map(row -> row.stream()
                                        .map(sample -> sample.through(curve))
                                        .toList())
                                .toList(),
                        shown))
                .orElse(false));
    }

    private static boolean isShown(Reference reference, Look look, List<List<Sample>> originals, List<Sample> shown) {
        List<Integer> owns = reference.own(look);
        var wrong = new ArrayList<String>();
        int compared = 0;
        for (int i = 0; i < shown.size(); i++) {
            List<Sample> row = originals.get(i);
            int own = owns.get(i);
            if (row.size() > own) {
                compared++;
                compare(i, own, row, shown.get(i), look.form, reference.varies(), wrong, new Levels());
            }
        }
        return compared > 0 && wrong.isEmpty();
    }

    private static Finding decoding(String decoded, String complaint) {
        return new Finding("decoding", decoded, complaint.isEmpty() ? decoded : complaint, complaint.isEmpty());
    }

    private static boolean isWhole(VideoFacts picture, CopyForm form) {
        return Small.of(picture, form).whole();
    }

    private Optional<Verdict> eachFrame(
            Reference reference,
            CopyForm form,
            ClipSource copy,
            Told told,
            Optional<Packets> packets,
            ProcessControl control)
            throws InterruptedException {
        Map<Long, Sample> own = new TreeMap<>();
        boolean whole = isWhole(reference.picture, form);
        reference.places(new Look(form, false, whole)).forEach(place -> own.put(place, Sample.NONE));
        reference.places(new Look(form, true, whole)).forEach(place -> own.put(place, Sample.NONE));
        try (var each = EachFrame.begin(told.pictures().orElseThrow(), form)) {
            Optional<String> complaint = samples.every(
                    copy,
                    form.rate(),
                    Small.of(reference.picture, form),
                    packets,
                    sample -> {
                        if (each.take(sample)) {
                            own.computeIfPresent(each.frames() - 1, (_, _) -> each.last());
                        }
                    },
                    control);
            if (complaint.isEmpty()) {
                return Optional.empty();
            }
            var findings = new ArrayList<Finding>();
            findings.add(decoding("all of it", complaint.get()));
            if (packets.isPresent() && complaint.get().isEmpty()) {
                findings.add(told.packetsFound());
            }
            if (each.isComplete()) {
                findings.add(each.pictures());
            }
            var look = new Look(form, each.isComplete(), whole);
            List<Sample> found = reference.places(look).stream()
                    .map(place -> own.getOrDefault(place, Sample.NONE))
                    .filter(sample -> !sample.equals(Sample.NONE))
                    .toList();
            Optional<Long> least = each.isComplete() ? Optional.of(each.leastAlike()) : Optional.empty();
            return atPlaces(reference, look, found, findings, control).map(all -> new Verdict(all, least));
        }
    }

    /// Whether the original could not be looked at. It could when the copy was made of it.
    static boolean sawNoOriginal(List<Finding> findings) {
        return findings.stream()
                .anyMatch(finding -> !finding.passes() && finding.found().equals(UNSEEN));
    }

    /// Against the original, decoded by itself.
    ///
    /// @param found the copy's frames at the places
    private Optional<List<Finding>> atPlaces(
            Reference reference, Look look, List<Sample> found, List<Finding> findings, ProcessControl control)
            throws InterruptedException {
        CopyForm form = look.form;
        String fact = look.few ? "stretch" : "pictures";
        List<Long> places = reference.places(look);
        if (found.size() < places.size()) {
            findings.add(new Finding(fact, places.size() + " places", found.size() + " places", false));
            return Optional.of(findings);
        }
        Optional<List<List<Sample>>> originals = reference.of(look, control);
        if (originals.isEmpty()) {
            return Optional.empty();
        }
        var levels = new Levels();
        var wrong = new ArrayList<String>();
        var colours = new ArrayList<String>();
        int compared = 0;
        List<Integer> owns = reference.own(look);
        long start = Reference.start(form);
        for (int i = 0; i < places.size(); i++) {
            long frame = start + places.get(i);
            List<Sample> row = originals.get().get(i);
            Sample sample = found.get(i);
            int own = owns.get(i);
            if (row.size() > own) {
                compared++;
                reference.withoutLook(look, i, own).ifPresent(bare -> {
                    if (isWithoutLook(row.get(own), bare, sample, form)) {
                        wrong.add("frame " + frame + " has not the look that is wanted");
                    }
                });
                compare(frame, own, row, sample, form, reference.varies(), wrong, levels);
                // Conforming a variable rate may have taken a neighbour.
                List<Sample> shown = reference.varies() ? row : List.of(row.get(own));
                double apart = shown.stream()
                        .mapToDouble(each -> colourDifference(each, sample, form))
                        .min()
                        .orElse(0);
                if (apart > COLOURS_ALIKE) {
                    colours.add(
                            String.format(Locale.ROOT, "those of frame %d differ by %.0f of 255 levels", frame, apart));
                }
            }
        }
        String alike =
                compared == 0 ? UNSEEN : "the original's at " + compared + (compared == 1 ? " place" : " places");
        findings.add(new Finding(
                fact,
                "the original's",
                wrong.isEmpty() ? alike : String.join(", ", wrong),
                wrong.isEmpty() && compared > 0));
        if (!form.toSdr() && levels.isTold()) {
            String contrast = String.format(Locale.ROOT, "%.2f of the original's contrast", levels.slope());
            double limit = look.few ? SLOPE_OF_FEW : SLOPE;
            findings.add(new Finding("levels", "the original's", contrast, Math.abs(levels.slope() - 1) <= limit));
        }
        if (!form.toSdr() && !colours.isEmpty()) {
            findings.add(new Finding("colours", "the original's", String.join(", ", colours), false));
        } else if (!form.toSdr() && levels.isColoured()) {
            String saturation = String.format(Locale.ROOT, "%.2f of the original's saturation", levels.saturation());
            boolean saturated = Math.abs(levels.saturation() - 1) <= SATURATION;
            findings.add(new Finding("colours", "the original's", saturation, saturated));
        }
        return Optional.of(findings);
    }

    /// A frame between its neighbours, as far as there are any.
    private static Row row(long frame, long frames) {
        long first = Math.max(0, frame - 1);
        return new Row(first, (int) Math.min(3, Math.max(1, frames - first)));
    }

    /// Whether a copy's frame is nearer to the original's as it is than as it looks through the look.
    private static boolean isWithoutLook(Sample looked, Sample bare, Sample copy, CopyForm form) {
        boolean luma =
                difference(looked, bare, form) > MOVES && difference(bare, copy, form) < difference(looked, copy, form);
        boolean colours = colourDifference(looked, bare, form) > COLOURS_MOVE
                && colourDifference(bare, copy, form) < colourDifference(looked, copy, form);
        return luma || colours;
    }

    private static void compare(
            long frame,
            int own,
            List<Sample> row,
            Sample copy,
            CopyForm form,
            boolean varies,
            List<String> wrong,
            Levels levels) {
        double mine = difference(row.get(own), copy, form);
        int best = own;
        double least = mine;
        for (int i = 0; i < row.size(); i++) {
            double other = difference(row.get(i), copy, form);
            if (other < least) {
                least = other;
                best = i;
            }
        }
        double apart = difference(row.get(own), row.get(best), form);
        double alike = form.toSdr() ? ALIKE * 6 : ALIKE;
        // Conforming a variable rate may take the neighbour at a place between two frames.
        if (varies ? least > alike : mine > alike && least > alike) {
            wrong.add(String.format(Locale.ROOT, "frame %d differs by %.0f of 255 levels", frame, mine));
        } else if (!varies && apart > MOVES && (mine - least > apart / 2 || (best != own && mine > apart))) {
            // A copy of the neighbour is nearer to it by all of what sets the two apart, loss alone by
            // little; a copy of a frame farther on is farther away than the neighbour.
            wrong.add("frame " + frame + " shows the original's frame " + (frame + best - own));
        }
        levels.add(row.get(best), copy, index -> counts(index, form));
    }

    /// Whether a place of a sample is compared: what was drawn in is left out.
    private static boolean counts(int index, CopyForm form) {
        return form.burnIns()
                .leaves(
                        index % FrameSamples.WIDTH,
                        index / FrameSamples.WIDTH,
                        new Raster(FrameSamples.WIDTH, FrameSamples.HEIGHT),
                        form.raster(),
                        form.pixelAspect());
    }

    private static double difference(Sample a, Sample b, CopyForm form) {
        return Levels.difference(a, b, index -> counts(index, form));
    }

    private static double colourDifference(Sample a, Sample b, CopyForm form) {
        return Levels.colourDifference(a, b, index -> counts(index, form));
    }
}
