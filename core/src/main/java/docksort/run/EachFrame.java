package docksort.run;

import docksort.engine.FrameSamples;
import docksort.engine.FrameSamples.Sample;
import docksort.media.CopyForm;
import docksort.media.VideoTarget;
import docksort.run.CopyCheck.Finding;
import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import org.jspecify.annotations.Nullable;

/// Holds every frame of a copy, as it comes off the disk, against the frame that went to its encoder while it was
/// made; of a copy with fields, every field. One that is repeated, left out, taken from elsewhere, moved, of other
/// levels or colours, or damaged in a part is found, and which frame is least like. Whether what went to the encoder
/// was the right stretch of the right clip, it cannot see.
///
/// Limits in levels of 255; common practice of this project, no source. What a codec loses comes to less than one
/// level in a sample, because each of its places is the mean of many pixels.
final class EachFrame implements AutoCloseable {
    private static final double MOVES = 0.8; // by which neighbours differ, to be told apart
    private static final double ALIKE = 7;
    private static final double OUT_OF_LINE = 2; // with three times what others lose
    private static final double SLOPE = 0.1;
    private static final double COLOURS_ALIKE = 9; // true copies come to 2, of random colours to 7
    private static final double SATURATION = 0.2; // to 0.03 and 0.15
    private static final int FEWEST_PLACES = 500; // for a slope of one frame
    private static final int PART = 64; // by which one place may be off
    private static final int PART_OF_GROUP = 96; // where it may come from another frame
    private static final int MOVED = 8; // places of a frame that is coded by itself, for them to tell
    private static final int MOVED_OF_GROUP = 20; // true copies of flickering pixels come to 14
    private static final int FEWEST_PIXELS = 10; // of a place, for its mean to say anything
    private static final int TOLD = 3; // faults that are named

    private final InputStream from;
    private final CopyForm form;
    private final int reach; // how far neighbours are looked at
    private final long told;
    private final boolean parts;
    private final List<Sample> near = new ArrayList<>(); // neighbours, its own, neighbours
    private final List<String> wrong = new ArrayList<>();
    private float[] lost = new float[1_024];
    private @Nullable Sample upper; // of the frame whose lower field comes next
    private Sample last = Sample.NONE;
    private int read; // of what was told
    private int count;
    private int faults;

    private EachFrame(InputStream from, long told, CopyForm form) {
        this.from = from;
        this.told = told;
        this.form = form;
        this.reach = form.interlaced() ? 2 : 1;
        this.parts = form.raster().pixels() >= (long) FEWEST_PIXELS * reach * FrameSamples.WIDTH * FrameSamples.HEIGHT;
    }

    /// @param kept what was told of the frames while the copy was made
    /// @param form the copy's
    static EachFrame begin(Path kept, CopyForm form) {
        try {
            return new EachFrame(
                    new BufferedInputStream(Files.newInputStream(kept), 1 << 16), FrameSamples.told(kept), form);
        } catch (IOException e) {
            throw new UncheckedIOException("what was told of a copy's frames cannot be read: " + kept, e);
        }
    }

    /// The next frame of the copy, or the next of its fields.
    ///
    /// @return whether a frame is whole with it, see [#last]
    boolean take(Sample copy) {
        if (count < told) {
            int own = lookAt(count);
            if (near.size() > own) {
                compare(own, copy);
            }
        }
        count++; // when there are more than were told of, the count tells
        if (!form.interlaced()) {
            last = copy;
            return true;
        }
        Sample first = upper;
        upper = first == null ? copy : null;
        last = first == null ? last : Sample.frame(first, copy);
        return first != null;
    }

    /// The frame that was taken last.
    Sample last() {
        return last;
    }

    /// @return which one of those that are near is its own
    private int lookAt(int number) {
        try {
            while (read <= number + reach && read < told) {
                FrameSamples.kept(from).ifPresent(near::add);
                read++;
            }
        } catch (IOException e) {
            throw new UncheckedIOException("what was told of a copy's frames cannot be read", e);
        }
        if (number > reach) {
            near.removeFirst();
        }
        return Math.min(number, reach);
    }

    private void compare(int own, Sample copy) {
        double mine = difference(near.get(own), copy);
        if (count == lost.length) {
            lost = Arrays.copyOf(lost, 2 * count);
        }
        lost[count] = (float) mine;
        int best = own;
        double least = mine;
        int voted = own;
        int fewest = isIntra() ? MOVED : MOVED_OF_GROUP;
        for (int i = 0; i < near.size(); i++) {
            double other = difference(near.get(i), copy);
            if (other < least) {
                least = other;
                best = i;
            }
            if (i != own && parts && Levels.movesWith(near.get(own), near.get(i), copy, fewest)) {
                voted = i;
            }
        }
        double apart = difference(near.get(own), near.get(best));
        double lines = parts ? Levels.lines(near.get(own), copy, form.raster().height()) : 0;
        boolean nearer = best != own && least <= ALIKE && apart > MOVES;
        // An encoder of groups of pictures leaves pixels standing for a frame.
        double nearest = isIntra() ? 0 : apart / 3;
        if (nearer && (mine - least > apart / 2 || (mine > apart && mine - least > nearest))) {
            fault(name(count) + " shows " + name(count + best - own));
        } else if (mine > ALIKE) {
            fault(String.format(Locale.ROOT, "%s differs by %.0f of 255 levels", name(count), mine));
        } else if (voted != own) {
            fault("what moves in " + name(count) + " is where it is in " + name(count + voted - own));
        } else if (lines != 0) {
            fault(name(count) + " stands some lines too " + (lines > 0 ? "low" : "high"));
        } else if (parts && Levels.largest(near.get(own), copy) > (isIntra() ? PART : PART_OF_GROUP)) {
            fault(String.format(
                    Locale.ROOT,
                    "a part of %s differs by %d of 255 levels",
                    name(count),
                    Levels.largest(near.get(own), copy)));
        } else {
            var levels = new Levels();
            levels.add(near.get(own), copy, _ -> true);
            double colours = Levels.colourDifference(near.get(own), copy, _ -> true);
            if (levels.isTold() && levels.places() >= FEWEST_PLACES && Math.abs(levels.slope() - 1) > SLOPE) {
                fault(String.format(Locale.ROOT, "%s has %.2f of its contrast", name(count), levels.slope()));
            } else if (colours > COLOURS_ALIKE) {
                fault(String.format(
                        Locale.ROOT, "the colours of %s differ by %.0f of 255 levels", name(count), colours));
            } else if (levels.isColoured() && Math.abs(levels.saturation() - 1) > SATURATION) {
                fault(String.format(Locale.ROOT, "%s has %.2f of its saturation", name(count), levels.saturation()));
            }
        }
    }

    /// Whether all frames are coded by themselves: then none has a place that comes from another.
    private boolean isIntra() {
        return form.target().map(VideoTarget::isAllIntra).orElse(false);
    }

    private String name(int number) {
        return form.interlaced()
                ? (number % 2 == 0 ? "the upper field of frame " : "the lower field of frame ") + number / 2
                : "frame " + number;
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

    /// Frames of the copy that were taken.
    long frames() {
        return count / reach;
    }

    /// Whether the copy has as many frames as were told of: else one does not stand for the other.
    boolean isComplete() {
        return count == told && count > 0;
    }

    Finding pictures() {
        double usual = median();
        int least = least();
        for (int i = 0; i < count; i++) {
            if (lost[i] <= ALIKE && lost[i] > OUT_OF_LINE + 3 * Math.max(usual, beside(i))) {
                fault(String.format(Locale.ROOT, "%s differs by %.1f of 255 levels", name(i), lost[i]));
            }
        }
        String all = String.format(
                Locale.ROOT,
                "the original's in all %d frames, least in %s (%.1f of 255 levels off)",
                frames(),
                name(least),
                lost[least]);
        String more = faults > wrong.size() ? " and " + (faults - wrong.size()) + " more" : "";
        return new Finding(
                "pictures", "the original's", faults == 0 ? all : String.join(", ", wrong) + more, faults == 0);
    }

    /// What a neighbour loses, the one that loses less.
    private double beside(int frame) {
        double before = frame < reach ? 0 : lost[frame - reach];
        return Math.min(before, frame + reach < count ? lost[frame + reach] : 0);
    }

    /// Number of the frame that is least like the original's.
    long leastAlike() {
        return least() / reach;
    }

    private int least() {
        int least = 0;
        for (int i = 0; i < count; i++) {
            least = lost[i] > lost[least] ? i : least;
        }
        return least;
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
