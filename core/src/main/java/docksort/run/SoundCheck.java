package docksort.run;

import docksort.engine.Envelope;
import docksort.engine.MediaEngine;
import docksort.engine.ProcessControl;
import docksort.engine.SoundLevels;
import docksort.engine.SoundLevels.Heard;
import docksort.media.ClipFacts;
import docksort.media.ClipSource;
import docksort.media.CopyForm;
import docksort.media.FrameRange;
import docksort.media.Frames;
import docksort.media.Rational;
import docksort.media.SoundMix;
import docksort.run.CopyCheck.Finding;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.OptionalInt;

/// Holds the channels of a finished copy against those of its original: what is heard there must be heard
/// here, and what the recipe silences must be silent. A channel that is lost in a stream that is still
/// there is found by this.
///
/// It listens to all of a clip that is short or in which a jump may land late, and to a few stretches of
/// others.
public final class SoundCheck {
    private static final int STRETCHES = 5;
    private static final Rational STRETCH = Rational.of(2);

    /// 60 dB below full scale: below it, a channel counts as silent.
    private static final double SILENT = 0.001;

    /// A channel that is so much quieter is another one, or none: 12 dB. Compressed sound stays within one.
    private static final double LOST = 0.25;

    private static final double LIKE = 0.6; // correlation of two envelopes of one sound is above it
    private static final double LIKER = 0.3; // by which another channel must be more like
    private static final double UNLIKE = 0.1; // below it two envelopes have nothing in common

    private final SoundLevels levels;

    public SoundCheck(MediaEngine engine) {
        this.levels = new SoundLevels(engine);
    }

    /// What is heard of an original, in the stretches in which copies of it are listened to.
    ///
    /// @param stretches where they begin in a copy
    /// @param seconds how long each of them is
    /// @param envelope by which it is laid over a copy's
    /// @param envelopes of each channel, by which one is told from another
    record Reference(
            List<Rational> stretches,
            Rational seconds,
            List<Double> levels,
            Envelope envelope,
            List<Envelope> envelopes) {
        Reference {
            envelopes = List.copyOf(envelopes);
            stretches = List.copyOf(stretches);
            levels = List.copyOf(levels);
        }
    }

    /// @param form of a copy of it; all copies that are made together are as long, and those of one mix have one
    ///     reference
    /// @return empty where there is no sound, or none that decodes
    Optional<Reference> reference(ClipSource original, ClipFacts facts, CopyForm form, ProcessControl control)
            throws InterruptedException {
        if (facts.audio().isEmpty()) {
            return Optional.empty();
        }
        Rational length =
                facts.video().map(_ -> form.rate().secondsOf(form.frames())).orElse(facts.seconds());
        // A jump that may land late would hear something else of the original than of the copy.
        boolean reached = facts.video()
                .map(picture -> picture.frames().reach() == Frames.Reach.JUMP)
                .orElse(true);
        List<Rational> stretches = reached ? stretches(length) : List.of(Rational.ZERO);
        // What begins at the very edge may be in one and not in the other by a sample.
        Rational edge = new Rational(3, 100);
        Rational seconds = stretches.size() > 1
                ? STRETCH
                : length.compareTo(edge.times(Rational.of(3))) > 0 ? length.minus(edge) : length;
        Rational begins = facts.video()
                .map(picture -> picture.frames()
                        .firstAt()
                        .orElse(Rational.ZERO)
                        .plus(picture.rate()
                                .secondsOf(form.range().map(FrameRange::first).orElse(0L))))
                .orElse(Rational.ZERO);
        List<Rational> starts = stretches.stream().map(begins::plus).toList();
        if (!seconds.isPositive()) {
            return Optional.empty();
        }
        Heard heard = levels.hear(
                original, facts.audio(), reached, starts, seconds, form.sound().mix(), control);
        return heard.levels().isEmpty()
                ? Optional.empty()
                : Optional.of(new Reference(stretches, seconds, heard.levels(), heard.envelope(), heard.envelopes()));
    }

    private static List<Rational> stretches(Rational length) {
        Rational last = length.minus(STRETCH);
        if (last.compareTo(STRETCH.times(Rational.of(STRETCHES))) <= 0) {
            return List.of(Rational.ZERO);
        }
        var starts = new ArrayList<Rational>();
        for (int i = 0; i < STRETCHES; i++) {
            starts.add(last.times(new Rational(i, STRETCHES - 1)));
        }
        return starts;
    }

    /// @param facts of the copy
    /// @return empty when it was cancelled
    Optional<List<Finding>> check(
            Reference reference, CopyForm form, ClipSource copy, ClipFacts facts, ProcessControl control)
            throws InterruptedException {
        Rational picture =
                facts.video().flatMap(video -> video.frames().firstAt()).orElse(Rational.ZERO);
        List<Rational> starts =
                reference.stretches().stream().map(picture::plus).toList();
        Heard heard = levels.hear(copy, facts.audio(), true, starts, reference.seconds(), SoundMix.KEPT, control);
        if (control.cancellation().isCancelled()) {
            return Optional.empty();
        }
        if (heard.levels().isEmpty()) {
            return Optional.of(List.of(new Finding("sound", "decodes", heard.complaint(), false)));
        }
        var wrong = new ArrayList<String>();
        for (int i = 0; i < Math.min(reference.levels().size(), heard.levels().size()); i++) {
            double original = reference.levels().get(i);
            double own = heard.levels().get(i);
            boolean muted = form.sound().muted().contains(i + 1);
            if (muted && own > SILENT) {
                wrong.add("channel " + (i + 1) + " is heard");
            } else if (!muted && original > SILENT && own < original * LOST) {
                wrong.add("channel " + (i + 1) + (own > SILENT ? " is far quieter" : " is silent"));
            } else if (!muted && own > SILENT && own * LOST > original) {
                wrong.add("channel " + (i + 1) + " is far louder");
            }
        }
        OptionalInt late = form.isSoundAlone() || !form.sound().muted().isEmpty()
                ? OptionalInt.empty()
                : reference.envelope().late(heard.envelope(), tolerance(form));
        if (wrong.isEmpty() && late.isEmpty() && !form.isSoundAlone()) {
            wrong.addAll(others(reference.envelopes(), heard.envelopes(), form));
        }
        String channels = reference.levels().size() == 1
                ? "1 channel"
                : reference.levels().size() + " channels";
        var findings = new ArrayList<Finding>();
        findings.add(new Finding(
                "sound",
                channels + " as loud as the original's",
                wrong.isEmpty() ? channels + " as loud as the original's" : String.join(", ", wrong),
                wrong.isEmpty()));
        late.ifPresent(millis -> findings.add(new Finding(
                "sound against picture",
                "the original's",
                Math.abs(millis) + " ms " + (millis > 0 ? "late" : "early"),
                false)));
        return Optional.of(findings);
    }

    private static boolean isUnlike(OptionalDouble likeness) {
        return likeness.isPresent() && likeness.getAsDouble() < UNLIKE;
    }

    /// Channels that sound like another one of the original's and not like their own, or like none of it.
    private static List<String> others(List<Envelope> originals, List<Envelope> own, CopyForm form) {
        var wrong = new ArrayList<String>();
        int tolerance = tolerance(form);
        for (int i = 0; i < Math.min(originals.size(), own.size()); i++) {
            if (form.sound().muted().contains(i + 1)) {
                continue;
            }
            Envelope heard = own.get(i);
            int before = wrong.size();
            OptionalDouble mine = originals.get(i).likeness(heard, tolerance);
            for (int other = 0; mine.isPresent() && other < originals.size(); other++) {
                OptionalDouble its = originals.get(other).likeness(heard, tolerance);
                if (its.isPresent() && its.getAsDouble() > LIKE && its.getAsDouble() - mine.getAsDouble() > LIKER) {
                    wrong.add("channel " + (i + 1) + " sounds as channel " + (other + 1) + " should");
                    break;
                }
            }
            if (wrong.size() == before
                    && isUnlike(mine)
                    && isUnlike(originals.get(i).likeness(heard, Envelope.WIDEST))) {
                wrong.add("channel " + (i + 1) + " does not sound as the original's");
            }
        }
        return wrong;
    }

    /// Half a frame, and no less than what the ear forgives: Rec. ITU-R BT.1359-1 has the threshold of
    /// detection at 45 ms for sound that is early.
    private static int tolerance(CopyForm form) {
        return Math.clamp(Math.round(500 / form.rate().exact().toDouble()) + 1, 12, 30);
    }
}
