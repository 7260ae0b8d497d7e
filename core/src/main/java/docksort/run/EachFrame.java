package docksort.run;

import docksort.engine.FrameSamples;
import docksort.engine.FrameSamples.Sample;
import docksort.media.Raster;
import docksort.run.CopyCheck.Finding;
import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Deque;
import java.util.List;
import java.util.Locale;

/// Holds every frame of a copy, as it comes off the disk, against the frame that went to its encoder while it was
/// made. A frame that is repeated, left out, taken from elsewhere, of other levels or damaged in a part is found,
/// and which frame is least like. Whether what went to the encoder was the right stretch of the right clip, it
/// cannot see.
///
/// Limits in levels of 255; common practice of this project, no source. What a codec loses comes to less than one
/// level in a sample, because each of its places is the mean of many pixels.
final class EachFrame implements AutoCloseable {
    private static final double MOVES = 0.8; // by which neighbours differ, to be told apart
    private static final double ALIKE = 7;
    private static final double OUT_OF_LINE = 2; // with four times what the copy's frames usually lose
    private static final double SLOPE = 0.1;
    private static final int FEWEST_PLACES = 500; // for a slope of one frame
    private static final int PART = 64; // by which one place may be off
    private static final int FEWEST_PIXELS = 10; // of a place, for its mean to say anything
    private static final int TOLD = 3; // faults that are named

    private final InputStream from;
    private final long told;
    private final boolean strict;
    private final boolean parts;
    private final Deque<Sample> near = new ArrayDeque<>(); // the frame before, its own, the next
    private final List<String> wrong = new ArrayList<>();
    private float[] lost = new float[1_024];
    private int count;
    private int faults;

    private EachFrame(InputStream from, long told, boolean strict, boolean parts) throws IOException {
        this.from = from;
        this.told = told;
        this.strict = strict;
        this.parts = parts;
        FrameSamples.kept(from).ifPresent(near::add);
    }

    /// @param kept what was told of the frames while the copy was made
    /// @param strict whether a frame that loses much more than the others is a fault, as where all are coded alike
    /// @param raster the copy's
    static EachFrame begin(Path kept, boolean strict, Raster raster) {
        try {
            return new EachFrame(
                    new BufferedInputStream(Files.newInputStream(kept), 1 << 16),
                    FrameSamples.told(kept),
                    strict,
                    raster.pixels() >= (long) FEWEST_PIXELS * FrameSamples.WIDTH * FrameSamples.HEIGHT);
        } catch (IOException e) {
            throw new UncheckedIOException("what was told of a copy's frames cannot be read: " + kept, e);
        }
    }

    /// The next frame of the copy.
    void take(Sample copy) {
        if (count >= told) {
            count++;
            return; // the count tells
        }
        try {
            FrameSamples.kept(from).ifPresent(near::addLast);
        } catch (IOException e) {
            throw new UncheckedIOException("what was told of a copy's frames cannot be read", e);
        }
        List<Sample> row = List.copyOf(near);
        int own = count == 0 ? 0 : 1;
        if (row.size() > own) {
            compare(row, own, copy);
        }
        count++;
        if (near.size() == 3 || (count > 1 && near.size() == 2)) {
            near.removeFirst();
        }
    }

    private void compare(List<Sample> row, int own, Sample copy) {
        double mine = difference(row.get(own), copy);
        if (count == lost.length) {
            lost = Arrays.copyOf(lost, 2 * count);
        }
        lost[count] = (float) mine;
        int best = own;
        double least = mine;
        for (int i = 0; i < row.size(); i++) {
            double other = difference(row.get(i), copy);
            if (other < least) {
                least = other;
                best = i;
            }
        }
        double apart = difference(row.get(own), row.get(best));
        if (least <= ALIKE && best != own && apart > MOVES && (mine - least > apart / 2 || mine > apart)) {
            fault("frame " + count + " shows frame " + (count + best - own));
        } else if (mine > ALIKE) {
            fault(String.format(Locale.ROOT, "frame %d differs by %.0f of 255 levels", count, mine));
        } else if (strict && parts && Levels.largest(row.get(own), copy) > PART) {
            fault(String.format(
                    Locale.ROOT,
                    "a part of frame %d differs by %d of 255 levels",
                    count,
                    Levels.largest(row.get(own), copy)));
        } else {
            var levels = new Levels();
            levels.add(row.get(own), copy, _ -> true);
            if (levels.isTold() && levels.places() >= FEWEST_PLACES && Math.abs(levels.slope() - 1) > SLOPE) {
                fault(String.format(Locale.ROOT, "frame %d has %.2f of its contrast", count, levels.slope()));
            }
        }
    }

    private void fault(String what) {
        faults++;
        if (wrong.size() < TOLD) {
            wrong.add(what);
        }
    }

    private static double difference(Sample a, Sample b) {
        return Levels.difference(a, b, _ -> true);
    }

    /// How many frames of the copy were taken.
    long count() {
        return count;
    }

    /// Whether the copy has as many frames as were told of: else one does not stand for the other.
    boolean isComplete() {
        return count == told && count > 0;
    }

    Finding pictures() {
        double usual = median();
        int least = 0;
        for (int i = 0; i < count; i++) {
            least = lost[i] > lost[least] ? i : least;
            if (strict && lost[i] <= ALIKE && lost[i] > OUT_OF_LINE + 4 * usual) {
                fault(String.format(Locale.ROOT, "frame %d differs by %.1f of 255 levels", i, lost[i]));
            }
        }
        String all = String.format(
                Locale.ROOT,
                "the original's in all %d frames, least in frame %d (%.1f of 255 levels off)",
                count,
                least,
                lost[least]);
        String more = faults > wrong.size() ? " and " + (faults - wrong.size()) + " more" : "";
        return new Finding(
                "pictures", "the original's", faults == 0 ? all : String.join(", ", wrong) + more, faults == 0);
    }

    private double median() {
        float[] sorted = Arrays.copyOf(lost, count);
        Arrays.sort(sorted);
        return sorted[count / 2];
    }

    @Override
    public void close() {
        try {
            from.close();
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}
