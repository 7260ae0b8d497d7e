package docksort.sort;

import docksort.arrival.Clip;
import docksort.media.ClipSource;
import docksort.media.FrameRate;
import docksort.media.Raster;
import docksort.media.Rational;
import docksort.media.VideoFacts;
import docksort.media.VideoFacts.RateKind;
import docksort.sort.Fact.Is;
import docksort.strain.Strain;
import java.util.Locale;
import java.util.Optional;
import java.util.function.IntPredicate;

/// One thing a sort rule asks of a clip, as a sentence built of a fact, a comparison and a value.
///
/// Of the two meanings of "larger", `larger than` leaves out a raster of just this size and `at least` takes it
/// in; a raster is larger when it is wider or taller, and at least as large when both sides are. An upright picture
/// is as large as the same one lying; only a raster that is just this one has its sides as they are.
public record Condition(Fact fact, Is is, String value) {
    private static final int LONGEST_VALUE = 200;

    /// @throws IllegalArgumentException when the three do not go together, with the reason
    public Condition {
        value = value.strip();
        if (!fact.comparisons().contains(is)) {
            throw new IllegalArgumentException(fact.label() + " cannot be compared by \"" + is.label() + "\"");
        }
        if (value.isEmpty() || value.length() > LONGEST_VALUE) {
            throw new IllegalArgumentException(fact.label() + " needs a value to compare with");
        }
        if (!fact.choices().isEmpty() && !fact.choices().contains(value)) {
            throw new IllegalArgumentException(
                    fact.label() + " is one of " + String.join(", ", fact.choices()) + ", was \"" + value + "\"");
        }
        check(fact, value);
    }

    private static void check(Fact fact, String value) {
        try {
            switch (fact) {
                case RASTER -> Raster.parse(value);
                case RATE -> FrameRate.parse(value);
                case SCRUB_COST, PLAY_RATIO, BIT_DEPTH -> {
                    if (!Rational.parse(value).isPositive()) {
                        throw new IllegalArgumentException("must be above 0");
                    }
                }
                default -> {}
            }
        } catch (IllegalArgumentException | ArithmeticException e) {
            throw new IllegalArgumentException(fact.label() + " cannot be compared with \"" + value + "\"", e);
        }
    }

    /// @param arrival the arrival's name
    /// @param playRatio what was measured on this machine
    boolean holdsFor(Clip clip, String arrival, Strain strain, Optional<Double> playRatio) {
        Optional<VideoFacts> video = clip.facts().video();
        return switch (fact) {
            case RASTER -> video.map(v -> raster(v.displayRaster())).orElse(false);
            case CODEC -> video.map(v -> is(v.codec().family())).orElse(false);
            case FRAME_STRUCTURE ->
                video.filter(v -> v.structure().isKnown() || v.codec().isIntraByNature())
                        .map(v -> is(clip.facts().isLongGop() ? "long-GOP" : "all-intra"))
                        .orElse(false);
            case SCRUB_COST ->
                strain.scrubCost().map(cost -> compare(cost.mean())).orElse(false);
            case PLAY_RATIO ->
                playRatio
                        .map(ratio ->
                                compare(Rational.of(Math.round(ratio * 1_000)).dividedBy(Rational.of(1_000))))
                        .orElse(false);
            case STRAIN -> is(strain.verdict().label());
            case BIT_DEPTH ->
                video.map(v -> compare(Rational.of(v.pixels().bitDepth()))).orElse(false);
            case ALPHA -> video.map(v -> is(v.pixels().alpha() ? "yes" : "no")).orElse(false);
            case RATE -> video.map(v -> rate(v.rate())).orElse(false);
            case RATE_KIND ->
                video.map(v -> is(v.rateKind() == RateKind.VARIABLE ? "variable" : "constant"))
                        .orElse(false);
            case KIND -> is(kind(clip));
            case ARRIVAL -> text(arrival);
            case NAME -> text(clip.name());
            case PATH -> text(clip.source().head().toString().replace('\\', '/'));
        };
    }

    private static String kind(Clip clip) {
        if (clip.facts().video().isEmpty()
                && clip.facts().findings().outOfReach().isEmpty()) {
            return "sound";
        }
        return switch (clip.source()) {
            case ClipSource.NumberedStills _ -> "image sequence";
            case ClipSource.Spanned _ -> "spanned recording";
            case ClipSource.SingleFile _ -> "camera or screen clip";
        };
    }

    private boolean raster(Raster of) {
        Raster limit = Raster.parse(value);
        return switch (is) {
            case LARGER_THAN -> of.lying().exceeds(limit.lying());
            case AT_LEAST -> of.lying().width() >= limit.lying().width() && of.lines() >= limit.lines();
            case AT_MOST -> !of.lying().exceeds(limit.lying());
            default -> of.equals(limit);
        };
    }

    private boolean rate(FrameRate of) {
        FrameRate limit = FrameRate.parse(value);
        return holds(of.exact().compareTo(limit.exact()));
    }

    private boolean compare(Rational of) {
        return holds(of.compareTo(Rational.parse(value)));
    }

    private boolean holds(int order) {
        IntPredicate wanted = switch (is) {
            case AT_LEAST -> o -> o >= 0;
            case BELOW -> o -> o < 0;
            default -> o -> o == 0;
        };
        return wanted.test(order);
    }

    private boolean is(String of) {
        return of.equalsIgnoreCase(value) == (is == Is.EXACTLY);
    }

    private boolean text(String of) {
        String lower = of.toLowerCase(Locale.ROOT);
        String wanted = value.toLowerCase(Locale.ROOT);
        return is == Is.HOLDING ? lower.contains(wanted) : lower.equals(wanted);
    }

    public String sentence() {
        String shown = fact == Fact.RASTER ? Raster.parse(value).toString() : value;
        return fact.label() + " " + is.label() + " " + shown;
    }
}
