package docksort.strain;

import docksort.media.Measured;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/// Which lever helps: the same stretch of a clip measured as it is, at a reduced size, as a trial copy, and its
/// volume, one change at a time; and what follows from the figures.
///
/// @param asItIs frames a second of the original, shown at full size
/// @param reduced frames a second of the original, shown at half of each side
/// @param decodedHalf whether the decoder made half of each side, rather than a full picture made smaller after
/// @param trial frames a second of a trial copy, shown at its own size
/// @param volume bytes a second that the clip's volume was read with
/// @param rate frames a second the clip must be played with
/// @param bytesPerSecond bytes a second the clip must be read with
/// @param trialName what the trial copy is
public record Lever(
        Measured asItIs,
        Measured reduced,
        boolean decodedHalf,
        Measured trial,
        Measured volume,
        double rate,
        double bytesPerSecond,
        String trialName) {
    private static final double EASY = 1.5; // half as much again as playing needs (common practice, no source)
    private static final double CLEAR_GAIN = 1.4;

    /// The part that is the limit.
    public enum Limit {
        NONE("nothing"),
        STORAGE("storage"),
        PIXELS("pixels: making pictures of this size"),
        DECODING("decoding");

        private final String label;

        Limit(String label) {
            this.label = label;
        }

        public String label() {
            return label;
        }
    }

    public Limit limit() {
        if (volume.median() < bytesPerSecond * 1.2) {
            return Limit.STORAGE;
        }
        if (asItIs.lowest() >= rate * EASY) {
            return Limit.NONE;
        }
        boolean smallerHelps = reduced.median() >= asItIs.median() * CLEAR_GAIN && reduced.isClearlyAbove(asItIs);
        return smallerHelps ? Limit.PIXELS : Limit.DECODING;
    }

    /// What to do, in one or two sentences with the figures it rests on.
    public String advice() {
        double gain = trial.median() / asItIs.median();
        return switch (limit()) {
            case NONE ->
                "No lever is needed for playing: it decodes at " + times(asItIs.median() / rate)
                        + " its rate. A copy helps only where scrubbing is dear.";
            case STORAGE ->
                String.format(
                        Locale.ROOT,
                        "Move the clip to a faster volume: playing needs %.1f MB/s, the volume gave %.1f. A working"
                                + " copy helps only if it lies elsewhere.",
                        bytesPerSecond / 1e6,
                        volume.median() / 1e6);
            case PIXELS ->
                "Show fewer pixels: half of each side plays at " + times(reduced.median() / asItIs.median())
                        + " the speed. A smaller timeline raster is enough; a light copy does the same ("
                        + times(gain) + ").";
            case DECODING ->
                gain >= CLEAR_GAIN
                        ? "Make a working copy: the trial (" + trialName + ") plays at " + times(gain)
                                + " the speed, a smaller picture alone at " + times(reduced.median() / asItIs.median())
                                + "."
                        : "A working copy of this kind does not help here (" + times(gain)
                                + "): try a smaller recipe, or a faster machine.";
        };
    }

    private static String times(double factor) {
        return String.format(Locale.ROOT, factor >= 10 ? "%.0f times" : "%.1f times", factor);
    }

    /// One line of the test: what was changed, and the figure.
    public record Line(String change, String figure, double share) {}

    /// The lines of the test; shares are of the fastest.
    public List<Line> lines() {
        double most = Math.max(trial.highest(), Math.max(asItIs.highest(), reduced.highest()));
        var lines = new ArrayList<Line>();
        lines.add(new Line("The original, full size", asItIs.label() + " fps", asItIs.median() / most));
        lines.add(new Line(
                decodedHalf ? "The original, decoded at half of each side" : "The original, half of each side",
                reduced.label() + " fps",
                reduced.median() / most));
        lines.add(new Line("Trial copy: " + trialName, trial.label() + " fps", trial.median() / most));
        lines.add(new Line(
                "Its volume, read in order",
                volume.dividedBy(1e6).label() + " MB/s",
                Math.min(1, bytesPerSecond / Math.max(1, volume.median()))));
        return lines;
    }
}
