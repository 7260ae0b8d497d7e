package docksort.dispatch;

import docksort.arrival.Clip;
import docksort.media.FrameRange;
import docksort.media.FrameRate;
import docksort.media.Rational;
import docksort.media.Timecode;
import docksort.media.VideoFacts;
import docksort.timeline.SourceUse;
import docksort.timeline.TimelineEvent;
import java.util.Optional;

/// Which frames of a recording an event uses, whether or not the recording has them.
///
/// @param first counted from the recording's first frame; below 0 where the event begins before it
/// @param end the frame after the last
/// @param rateConflict how the timeline counts it otherwise than the recording; empty where it does not
record UsedFrames(long first, long end, Optional<String> rateConflict) {

    /// In whose frames a list counts source timecode.
    enum Counting {
        RECORDING,
        LIST
    }

    /// @param offset frame of the recording that its media begins with: that of a range copy, else 0
    /// @param usual how the rest of the list counts, where that is known
    /// @return empty for sound alone, and for timecodes that cannot be read
    static Optional<UsedFrames> of(SourceUse use, Clip clip, long offset, Optional<Counting> usual) {
        Optional<VideoFacts> video = clip.facts().video();
        if (video.isEmpty()) {
            return Optional.empty();
        }
        try {
            return switch (use) {
                case SourceUse.Whole() ->
                    Optional.of(
                            new UsedFrames(0, Math.max(1, video.get().frames().count()), Optional.empty()));
                case SourceUse.Times times ->
                    Optional.of(ofTimes(times, clip, video.get().rate(), offset));
                case SourceUse.Labels labels ->
                    ofLabels(labels, clip, video.get().rate(), usual);
            };
        } catch (ArithmeticException e) {
            return Optional.empty(); // more than 64 bits can count is no place in a recording
        }
    }

    /// Media starts where its available range says; without one, where the recording's timecode does. Some
    /// programs count from 0 all the same.
    private static UsedFrames ofTimes(SourceUse.Times times, Clip clip, FrameRate rate, long offset) {
        Rational fps = rate.exact();
        Rational own = Rational.of(startOf(clip)).dividedBy(fps);
        Rational mediaStart = times.media().map(SourceUse.Available::start).orElse(own);
        boolean fromZero = times.media().isEmpty() && times.start().compareTo(mediaStart) < 0;
        Rational first =
                times.start().minus(fromZero ? Rational.ZERO : mediaStart).times(fps);
        Rational count = times.duration().times(fps).times(times.speed().absolute());
        long from = first.rounded();
        long frames = Math.max(1, ceiling(count.plus(first).minus(Rational.of(from))));
        Optional<String> conflict = times.media()
                .filter(media -> !media.rate().equals(rate))
                .map(media -> "the timeline counts its media at " + media.rate().label()
                        + " frames a second, the recording has " + rate.label());
        return new UsedFrames(from + offset, from + offset + frames, conflict);
    }

    /// Lists count source timecode in frames of the recording or of the list. Where these differ, the event's
    /// length tells which it is, or else the rest of the list does.
    private static Optional<UsedFrames> ofLabels(
            SourceUse.Labels labels, Clip clip, FrameRate rate, Optional<Counting> usual) {
        Optional<UsedFrames> own = counted(labels, clip, rate, rate);
        Optional<UsedFrames> list = counted(labels, clip, rate, labels.list());
        if (own.equals(list) || rate.nominal() == labels.list().nominal()) {
            return own;
        }
        return told(labels, rate, own, list)
                .or(() -> usual)
                .map(counting -> counting == Counting.RECORDING ? own : list)
                .orElseGet(() -> own.map(frames -> new UsedFrames(
                        frames.first,
                        frames.end,
                        Optional.of("its source timecode could count " + rate.label() + " or "
                                + labels.list().label() + " frames a second"))));
    }

    /// How an event shows that its list counts; empty where it does not show it.
    static Optional<Counting> counting(SourceUse use, Clip clip) {
        Optional<FrameRate> rate = clip.facts().video().map(VideoFacts::rate);
        if (!(use instanceof SourceUse.Labels labels)
                || rate.isEmpty()
                || rate.get().nominal() == labels.list().nominal()) {
            return Optional.empty();
        }
        Optional<UsedFrames> own = counted(labels, clip, rate.get(), rate.get());
        Optional<UsedFrames> list = counted(labels, clip, rate.get(), labels.list());
        return own.equals(list) ? Optional.empty() : told(labels, rate.get(), own, list);
    }

    private static Optional<Counting> told(
            SourceUse.Labels labels, FrameRate rate, Optional<UsedFrames> own, Optional<UsedFrames> list) {
        if (own.isEmpty() || list.isEmpty()) {
            return own.map(_ -> Counting.RECORDING).or(() -> list.map(_ -> Counting.LIST));
        }
        if (labels.frames() == 0) {
            return Optional.empty();
        }
        Rational seconds =
                labels.list().secondsOf(labels.frames()).times(labels.speed().absolute());
        long expected = seconds.times(rate.exact()).rounded();
        long ownGap = Math.abs(own.get().count() - expected);
        long listGap = Math.abs(list.get().count() - expected);
        return ownGap == listGap
                ? Optional.empty()
                : Optional.of(ownGap < listGap ? Counting.RECORDING : Counting.LIST);
    }

    private static Optional<UsedFrames> counted(
            SourceUse.Labels labels, Clip clip, FrameRate rate, FrameRate counting) {
        Optional<Timecode> in = label(labels.in(), clip, counting);
        Optional<Timecode> out = label(labels.out(), clip, counting);
        if (in.isEmpty() || out.isEmpty()) {
            return Optional.empty();
        }
        // Labels are compared as times of day on the nominal clock, which both countings share.
        Rational scale = new Rational(rate.nominal(), counting.nominal());
        long from = Rational.of(in.get().frameOfDay()).times(scale).rounded() - startOf(clip);
        long count = Rational.of(out.get().frameOfDay() - in.get().frameOfDay())
                .times(scale)
                .rounded();
        if (labels.speed().equals(Rational.ZERO)) {
            count = 1;
        } else if (!labels.speed().equals(Rational.of(1)) && labels.frames() > 0) {
            count = ceiling(Rational.of(labels.frames())
                    .times(labels.speed().absolute())
                    .times(scale));
        }
        return Optional.of(new UsedFrames(from, from + Math.max(1, count), Optional.empty()));
    }

    /// Drop-frame or not is the recording's; lists often write colons for either.
    private static Optional<Timecode> label(String text, Clip clip, FrameRate rate) {
        boolean drop = clip.facts().startTimecode().map(Timecode::dropFrame).orElse(false) && rate.allowsDropFrame();
        String plain = text.substring(0, text.length() - 3).replaceAll("[;.,]", ":")
                + (drop ? ";" : ":")
                + text.substring(text.length() - 2);
        try {
            return Optional.of(Timecode.parse(plain, rate));
        } catch (IllegalArgumentException e) {
            return Optional.empty();
        }
    }

    /// With what transitions at both ends need.
    UsedFrames with(TimelineEvent event, FrameRate rate) {
        Rational speed = event.use() instanceof SourceUse.Times times ? times.speed() : Rational.of(1);
        Rational fps = rate.exact().times(speed.absolute());
        long lead = ceiling(event.overlap().before().times(fps));
        long tail = ceiling(event.overlap().after().times(fps));
        boolean backwards = speed.compareTo(Rational.ZERO) < 0;
        return new UsedFrames(first - (backwards ? tail : lead), end + (backwards ? lead : tail), rateConflict);
    }

    private static long startOf(Clip clip) {
        return clip.facts().startTimecode().map(Timecode::frameOfDay).orElse(0L);
    }

    private static long ceiling(Rational value) {
        return -new Rational(-value.numerator(), value.denominator()).floor();
    }

    long count() {
        return end - first;
    }

    /// As far as the recording has them; empty where it has none of them.
    Optional<FrameRange> within(long frames) {
        long from = Math.max(0, first);
        long to = Math.min(frames, end);
        return from < to ? Optional.of(new FrameRange(from, to - from)) : Optional.empty();
    }

    /// What the recording lacks of it, in words; empty where it has all.
    Optional<String> lacking(long frames) {
        if (first >= frames || end <= 0) {
            return Optional.of(
                    "it uses frames " + first + " to " + (end - 1) + "; the recording has 0 to " + (frames - 1));
        }
        long before = Math.max(0, -first);
        long behind = Math.max(0, end - frames);
        if (before == 0 && behind == 0) {
            return Optional.empty();
        }
        return Optional.of("it uses "
                + (before > 0 ? frames(before) + " before the recording begins" : "")
                + (before > 0 && behind > 0 ? " and " : "")
                + (behind > 0 ? frames(behind) + " after it ends" : ""));
    }

    private static String frames(long count) {
        return count == 1 ? "1 frame" : count + " frames";
    }
}
