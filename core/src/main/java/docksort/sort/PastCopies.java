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

    private final Map<Key, PastCopy> ofClip = new HashMap<>();
    private final Map<Kind, List<PastCopy>> ofKind = new HashMap<>();
    private final Map<Optional<VideoTarget>, List<PastCopy>> ofTarget = new HashMap<>();

    private record Key(Fingerprint clip, String recipe) {}

    private record Kind(Optional<VideoTarget> target, String source) {}

    /// One thing that was made.
    public record Of(Fingerprint clip, String recipe, PastCopy made) {}

    public PastCopies(List<Of> all) {
        for (Of of : all) {
            PastCopy made = of.made();
            ofClip.merge(new Key(of.clip(), of.recipe()), made, (old, now) -> now.trial() && !old.trial() ? old : now);
            ofKind.computeIfAbsent(new Kind(made.target(), made.source()), _ -> new ArrayList<>())
                    .add(made);
            ofTarget.computeIfAbsent(made.target(), _ -> new ArrayList<>()).add(made);
        }
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
        PastCopy own = ofClip.get(new Key(clip.fingerprint(), recipe));
        if (own != null && isOf(own, form)) {
            double off = own.trial() ? TRIAL_SIZE : 0.02;
            return new Spread(own.frameBytes() * (1 - off), own.frameBytes(), own.frameBytes() * (1 + off));
        }
        VideoTarget target = form.target().orElseThrow();
        List<PastCopy> known = known(clip, form.target());
        boolean byQuality = target.family() != VideoTarget.Family.PRORES;
        if (known.isEmpty()) {
            return byQuality
                    ? new Spread(PredictedBytes.QUALITY_LOW, 1, PredictedBytes.QUALITY_HIGH).times(usual)
                    : new Spread(PredictedBytes.LOW, 1, PredictedBytes.HIGH).times(usual);
        }
        return spread(known, PastCopy::bytesRatio).times(usual);
    }

    /// Seconds of work for a copy, with the machine to itself; empty where nothing like it was made here.
    Optional<Spread> seconds(Clip clip, String recipe, CopyForm form) {
        Optional<VideoFacts> picture = clip.facts().video();
        if (form.isSoundAlone() || picture.isEmpty()) {
            return Optional.empty();
        }
        PastCopy own = ofClip.get(new Key(clip.fingerprint(), recipe));
        if (own != null && isOf(own, form)) {
            double all = own.secondsPerFrame() * form.frames();
            return Optional.of(new Spread(all * (1 - TRIAL_TIME), all, all * (1 + TRIAL_TIME)));
        }
        List<PastCopy> known = known(clip, form.target());
        if (known.isEmpty()) {
            return Optional.empty();
        }
        double units = form.isRewrap()
                ? PredictedBytes.of(form, clip, recipe, this).pictureLikely()
                : (double) (picture.get().raster().pixels() + form.raster().pixels()) * form.frames();
        return Optional.of(spread(known, PastCopy::secondsPerUnit).times(units));
    }

    /// A recipe may have been changed since.
    private static boolean isOf(PastCopy made, CopyForm form) {
        return form.target().equals(made.target())
                && made.pixels() == form.raster().pixels();
    }

    /// Copies of the same codec and source codec; where there are none, of the same codec.
    private List<PastCopy> known(Clip clip, Optional<VideoTarget> target) {
        String source = clip.facts().video().map(v -> v.codec().family()).orElse("");
        List<PastCopy> kind = ofKind.getOrDefault(new Kind(target, source), List.of());
        return kind.isEmpty() ? ofTarget.getOrDefault(target, List.of()) : kind;
    }

    /// Mean and limits; the fewer there are, the wider.
    private static Spread spread(List<PastCopy> known, ToDoubleFunction<PastCopy> figure) {
        var summary = known.stream().mapToDouble(figure).summaryStatistics();
        double wider = known.size() >= ENOUGH ? 0.15 : 0.5;
        return new Spread(summary.getMin() * (1 - wider), summary.getAverage(), summary.getMax() * (1 + wider));
    }
}
