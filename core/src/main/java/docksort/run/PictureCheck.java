package docksort.run;

import docksort.engine.Conduct;
import docksort.engine.FrameSamples;
import docksort.engine.FrameSamples.Row;
import docksort.engine.FrameSamples.Sample;
import docksort.engine.MediaEngine;
import docksort.media.BurnIn;
import docksort.media.ClipSource;
import docksort.media.CopyForm;
import docksort.media.FrameRange;
import docksort.media.FrameRate;
import docksort.media.VideoFacts;
import docksort.run.CopyCheck.Finding;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.TreeSet;

/// Holds the pictures of a finished copy against those of its original: all of the copy is decoded, and at
/// several
/// places its frame must be the original's frame of the same number, more like it than like its neighbours,
/// and of
/// the same levels. An offset of one frame, another clip, a wrong range and a slip of the range of levels
/// are found
/// by this; a copy that cannot be decoded to its end, too.
public final class PictureCheck {
    private static final int PLACES = 5;
    private static final double MOVES = 0.8; // grey levels by which neighbours differ, to be told apart
    private static final double ALIKE = 7; // a small and hard-pressed copy of the same picture stays below
    private static final double SLOPE = 0.07; // a slip between video and full range changes it by 0.14
    private static final double CLIPPED = 4; // levels this near to black or white do not tell
    private static final double SPREAD = 12; // below it, a flat picture tells no slope

    private final FrameSamples samples;

    public PictureCheck(MediaEngine engine) {
        this.samples = new FrameSamples(engine);
    }

    /// @param all whether all of the copy is decoded, or only what lies around the places that are compared
    /// @return empty when it was cancelled
    public Optional<List<Finding>> check(
            ClipSource original, VideoFacts picture, CopyForm form, ClipSource copy, boolean all, Conduct conduct)
            throws InterruptedException {
        List<Long> places = places(form);
        Optional<FrameSamples.Whole> whole = all
                ? samples.whole(copy, form.rate(), places, conduct)
                : samples.some(copy, form.rate(), places, conduct);
        if (whole.isEmpty()) {
            return Optional.empty();
        }
        var findings = new ArrayList<Finding>();
        String complaint = whole.get().complaint();
        String decoded = all ? "all of it" : "around " + places.size() + " places";
        findings.add(new Finding("decoding", decoded, complaint.isEmpty() ? decoded : complaint, complaint.isEmpty()));
        if (whole.get().samples().size() < places.size()) {
            findings.add(new Finding(
                    "pictures", places.size() + " places", whole.get().samples().size() + " places", false));
            return Optional.of(findings);
        }
        var levels = new Levels();
        var wrong = new ArrayList<String>();
        int compared = 0;
        boolean varies = picture.rateKind() == VideoFacts.RateKind.VARIABLE;
        FrameRate rate = varies ? form.rate() : picture.rate();
        long start = form.range().map(FrameRange::first).orElse(0L);
        long frames = varies ? Long.MAX_VALUE : picture.frames().count();
        List<Row> rows =
                places.stream().map(place -> row(start + place, frames)).toList();
        Optional<List<List<Sample>>> originals = samples.rows(original, rate, varies, rows, form.raster(), conduct);
        if (originals.isEmpty()) {
            return Optional.empty();
        }
        for (int i = 0; i < places.size(); i++) {
            long frame = start + places.get(i);
            List<Sample> row = originals.get().get(i);
            int own = (int) (frame - rows.get(i).first());
            if (row.size() > own) {
                compared++;
                compare(frame, own, row, whole.get().samples().get(i), form, varies, wrong, levels);
            }
        }
        findings.add(new Finding(
                "pictures",
                "the original's",
                wrong.isEmpty() ? "the original's at " + compared + " places" : String.join(", ", wrong),
                wrong.isEmpty() && compared > 0));
        if (!form.toSdr() && levels.isTold()) {
            String found = String.format(Locale.ROOT, "%.2f of the original's contrast", levels.slope());
            findings.add(new Finding("levels", "the original's", found, Math.abs(levels.slope() - 1) <= SLOPE));
        }
        return Optional.of(findings);
    }

    /// A frame between its neighbours, as far as there are any.
    private static Row row(long frame, long frames) {
        long first = Math.max(0, frame - 1);
        return new Row(first, (int) Math.min(3, Math.max(1, frames - first)));
    }

    /// Numbers of the copy's frames that are looked at: both ends and between.
    private static List<Long> places(CopyForm form) {
        long last = Math.max(0, form.frames() - (form.framesMayRound() ? 2 : 1));
        var places = new TreeSet<Long>();
        for (int i = 0; i < PLACES; i++) {
            places.add(last * i / (PLACES - 1));
        }
        return List.copyOf(places);
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
        levels.add(row.get(best), copy, form);
    }

    /// Whether a place of a sample is compared: words that were drawn in are left out.
    private static boolean counts(int index, CopyForm form) {
        if (form.burnIns().isEmpty()) {
            return true;
        }
        int line = index / FrameSamples.WIDTH;
        double y = (double) line / FrameSamples.HEIGHT;
        boolean centre = form.burnIns().stream().anyMatch(burnIn -> burnIn.at() == BurnIn.At.CENTRE);
        return y > 0.15 && y < 0.85 && !(centre && y > 0.4 && y < 0.6);
    }

    private static double difference(Sample a, Sample b, CopyForm form) {
        long sum = 0;
        int places = 0;
        for (int i = 0; i < FrameSamples.WIDTH * FrameSamples.HEIGHT; i++) {
            if (counts(i, form)) {
                sum += Math.abs(a.at(i) - b.at(i));
                places++;
            }
        }
        return (double) sum / places;
    }

    /// A straight line through the levels of both: its slope is 1 for the same levels.
    private static final class Levels {
        private double n;
        private double x;
        private double y;
        private double xx;
        private double xy;

        void add(Sample original, Sample copy, CopyForm form) {
            for (int i = 0; i < FrameSamples.WIDTH * FrameSamples.HEIGHT; i++) {
                double a = original.at(i);
                double b = copy.at(i);
                boolean clipped = Math.min(a, b) < CLIPPED || Math.max(a, b) > 255 - CLIPPED;
                if (counts(i, form) && !clipped) {
                    n++;
                    x += a;
                    y += b;
                    xx += a * a;
                    xy += a * b;
                }
            }
        }

        boolean isTold() {
            return n > 0 && Math.sqrt(xx / n - x / n * (x / n)) > SPREAD;
        }

        double slope() {
            return (n * xy - x * y) / (n * xx - x * x);
        }
    }
}
