package docksort.sort;

import docksort.arrival.Clip;
import docksort.media.CopyForm;
import docksort.media.Fingerprint;
import docksort.media.VideoFacts;
import docksort.media.VideoTarget;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.ToDoubleFunction;

/// What is known from copies and trials made before: sizes of codecs without a fixed frame size, and
/// speeds on this machine.
public final class PastCopies {
    public static final PastCopies NONE = new PastCopies(List.of());

    private static final double TRIAL_SIZE = 0.1; // how far the rest of a clip may be from its trial
    private static final double TRIAL_TIME = 0.25;
    private static final int ENOUGH = 3;
    private static final int MANY = 20;

    private final Map<Fingerprint, Map<String, PastCopy>> ofClip = new HashMap<>(); // by recipe
    private final Map<Kind, Learned> ofKind = new HashMap<>();
    private final Map<Optional<VideoTarget>, Learned> ofTarget = new HashMap<>();

    private record Kind(Optional<VideoTarget> target, String source) {}

    /// @param bytes over what is usual for the codec
    /// @param seconds of each unit of work
    private record Learned(Spread bytes, Spread seconds) {}

    /// What copies have in common, without those of single clips.
    record Common(Map<?, ?> ofKind, Map<?, ?> ofTarget) {}

    /// One thing that was made.
    public record Of(Fingerprint clip, String recipe, PastCopy made) {}

    public PastCopies(List<Of> all) {
        Map<Kind, List<PastCopy>> kinds = new HashMap<>();
        Map<Optional<VideoTarget>, List<PastCopy>> targets = new HashMap<>();
        for (Of of : all) {
            PastCopy made = of.made();
            ofClip.computeIfAbsent(of.clip(), _ -> HashMap.newHashMap(2))
                    .merge(of.recipe(), made, (old, now) -> now.trial() && !old.trial() ? old : now);
            kinds.computeIfAbsent(new Kind(made.target(), made.source()), _ -> new ArrayList<>())
                    .add(made);
            targets.computeIfAbsent(made.target(), _ -> new ArrayList<>()).add(made);
        }
        kinds.forEach((kind, made) -> ofKind.put(kind, learned(made)));
        targets.forEach((target, made) -> ofTarget.put(target, learned(made)));
    }

    private static Learned learned(List<PastCopy> made) {
        return new Learned(spread(made, PastCopy::bytesRatio), spread(made, PastCopy::secondsPerUnit));
    }

    Common common() {
        return new Common(ofKind, ofTarget);
    }

    /// What was made of one clip, by recipe.
    Map<String, PastCopy> of(Fingerprint clip) {
        return ofClip.getOrDefault(clip, Map.of());
    }

    /// An expected value and its limits.
    public record Spread(double low, double likely, double high) {
        Spread times(double factor) {
            return new Spread(low * factor, likely * factor, high * factor);
        }
    }

    /// Bytes of one frame of picture.
    ///
    /// @param usual what the codec's target says
    Spread frameBytes(Clip clip, String recipe, CopyForm form, double usual) {
        PastCopy own = of(clip.fingerprint()).get(recipe);
        if (own != null && isOf(own, form)) {
            double off = own.trial() ? TRIAL_SIZE : 0.02;
            return new Spread(own.frameBytes() * (1 - off), own.frameBytes(), own.frameBytes() * (1 + off));
        }
        VideoTarget target = form.target().orElseThrow();
        boolean byQuality = target.family() != VideoTarget.Family.PRORES;
        return known(clip, form.target())
                .map(Learned::bytes)
                .orElseGet(() -> byQuality
                        ? new Spread(PredictedBytes.QUALITY_LOW, 1, PredictedBytes.QUALITY_HIGH)
                        : new Spread(PredictedBytes.LOW, 1, PredictedBytes.HIGH))
                .times(usual);
    }

    /// Seconds of work for a copy, with the machine to itself; empty where nothing like it was made here.
    Optional<Spread> seconds(Clip clip, String recipe, CopyForm form) {
        Optional<VideoFacts> picture = clip.facts().video();
        if (form.isSoundAlone() || picture.isEmpty()) {
            return Optional.empty();
        }
        PastCopy own = of(clip.fingerprint()).get(recipe);
        if (own != null && isOf(own, form)) {
            double all = own.secondsPerFrame() * form.frames();
            return Optional.of(new Spread(all * (1 - TRIAL_TIME), all, all * (1 + TRIAL_TIME)));
        }
        Optional<Learned> known = known(clip, form.target());
        if (known.isEmpty()) {
            return Optional.empty();
        }
        double units = form.isRewrap()
                ? PredictedBytes.of(form, clip, recipe, this).pictureLikely()
                : (double) (picture.get().raster().pixels() + form.raster().pixels()) * form.frames();
        return known.map(learned -> learned.seconds().times(units));
    }

    /// A recipe may have been changed since.
    private static boolean isOf(PastCopy made, CopyForm form) {
        return form.target().equals(made.target())
                && made.pixels() == form.raster().pixels();
    }

    /// From copies of the same codec and source codec; where there are none, of the same codec.
    private Optional<Learned> known(Clip clip, Optional<VideoTarget> target) {
        String source = clip.facts().video().map(v -> v.codec().family()).orElse("");
        return Optional.ofNullable(ofKind.get(new Kind(target, source)))
                .or(() -> Optional.ofNullable(ofTarget.get(target)));
    }

    /// Mean and limits; the fewer there are, the wider. Where there are many, one more changes nothing but
    /// what it changes by a percent: plans that rest on it stay the same.
    private static Spread spread(List<PastCopy> known, ToDoubleFunction<PastCopy> figure) {
        var summary = known.stream().mapToDouble(figure).summaryStatistics();
        double wider = known.size() >= ENOUGH ? 0.15 : 0.5;
        double low = summary.getMin() * (1 - wider);
        double high = summary.getMax() * (1 + wider);
        return known.size() < MANY
                ? new Spread(low, summary.getAverage(), high)
                : new Spread(inPercent(low), inPercent(summary.getAverage()), inPercent(high));
    }

    /// The nearest of figures that are a percent apart.
    private static double inPercent(double figure) {
        return figure <= 0 ? figure : Math.pow(1.01, (double) Math.round(Math.log(figure) / Math.log(1.01)));
    }
}
