package docksort.link;

import docksort.media.BurnIn;
import docksort.media.BurnIns;
import docksort.media.ClipFacts;
import docksort.media.CopyForm;
import docksort.media.Described;
import docksort.media.FrameRange;
import docksort.media.Look;
import docksort.media.Raster;
import docksort.media.Reels;
import docksort.media.SoundForm;
import docksort.media.VideoFacts;
import docksort.media.Wrapper;
import java.util.Optional;

/// Whether the facts of a file allow that it is a copy of a clip.
final class Likeness {
    private static final double SHAPE = 0.02; // sides are rounded to even numbers, so shapes differ a little

    private Likeness() {}

    /// Why it cannot be one; empty when nothing speaks against it.
    ///
    /// @param range the stretch of the clip that the file says it holds, empty for all of it
    static Optional<String> refusal(ClipFacts original, ClipFacts copy, Optional<FrameRange> range) {
        boolean silent =
                original.video().isEmpty() && original.findings().outOfReach().isPresent();
        if (copy.video().isEmpty() || (original.video().isEmpty() && !silent)) {
            return Optional.of("one of them has no picture");
        }
        if (silent) {
            return reel(original, copy)
                    .or(() -> said(original.described(), copy.video().get()));
        }
        VideoFacts full = original.video().get();
        VideoFacts light = copy.video().get();
        boolean varies = full.rateKind() == VideoFacts.RateKind.VARIABLE;
        if (!varies && !light.rate().equals(full.rate())) {
            return Optional.of("other rate: " + light.rate().label() + " fps, not "
                    + full.rate().label());
        }
        Optional<String> length = length(full, light, range, varies);
        if (length.isPresent()) {
            return length;
        }
        var start = original.startTimecode()
                .map(tc -> tc.plus(range.map(FrameRange::first).orElse(0L)));
        if (copy.startTimecode().isPresent()
                && start.isPresent()
                && !copy.startTimecode().equals(start)) {
            return Optional.of(
                    "another clip: it starts at " + copy.startTimecode().get() + ", not at " + start.get());
        }
        return reel(original, copy).or(() -> shape(full, light));
    }

    /// What is known of a recording already, before all of it is.
    private static Optional<String> said(Described known, VideoFacts copy) {
        return known.rate()
                .filter(rate -> !rate.equals(copy.rate()))
                .map(rate -> "other rate: " + copy.rate().label() + " fps, not " + rate.label())
                .or(() -> known.frames()
                        .filter(frames -> frames != copy.frames().count())
                        .map(frames -> "other length: " + copy.frames().count() + " frames, not " + frames));
    }

    /// Programs write reels with and without marks between their parts.
    private static Optional<String> reel(ClipFacts original, ClipFacts copy) {
        boolean others = original.findings().outOfReach().isPresent()
                && original.reel().isPresent()
                && copy.reel().isPresent()
                && !Reels.key(original.reel().get())
                        .equals(Reels.key(copy.reel().get()));
        return others
                ? Optional.of("another reel: " + copy.reel().get() + ", not "
                        + original.reel().get())
                : Optional.empty();
    }

    private static Optional<String> length(
            VideoFacts full, VideoFacts light, Optional<FrameRange> range, boolean varies) {
        long wanted = range.map(FrameRange::count).orElse(full.frames().count());
        long found = light.frames().count();
        if (varies) {
            double apart = Math.abs(
                    full.seconds().toDouble() - light.rate().secondsOf(found).toDouble());
            return apart > 2 * light.rate().secondsOf(1).toDouble()
                    ? Optional.of("other length: it does not end with the original")
                    : Optional.empty();
        }
        long allowed = full.frames().isCertain() && light.frames().isCertain() ? 0 : 1;
        return Math.abs(wanted - found) > allowed
                ? Optional.of("other length: " + found + " frames, not " + wanted)
                : Optional.empty();
    }

    private static Optional<String> shape(VideoFacts full, VideoFacts light) {
        Raster original = full.displayRaster();
        Raster copy = light.displayRaster();
        double shape = (double) original.width() / original.height();
        double other = (double) copy.width() / copy.height();
        if (Math.abs(shape * other - 1) < SHAPE && Math.abs(shape - 1) > 2 * SHAPE) {
            return Optional.of("it is turned on its side: " + copy + ", the original is " + original);
        }
        if (Math.abs(shape / other - 1) > SHAPE) {
            return Optional.of("other shape: " + copy + ", the original is " + original);
        }
        return light.raster().pixels() > full.raster().pixels()
                ? Optional.of("it is larger than its original: " + light.raster() + ", the original is " + full.raster()
                        + "; perhaps they are the wrong way round")
                : Optional.empty();
    }

    /// A copy as it was found, to compare pictures with. Nobody knows what was drawn into it, so its
    /// margins do not count.
    static CopyForm form(VideoFacts original, VideoFacts copy) {
        Raster even = new Raster(copy.raster().width() / 2 * 2, copy.raster().height() / 2 * 2);
        return new CopyForm(
                Optional.empty(),
                Wrapper.MOV,
                even,
                copy.pixelAspect(),
                copy.rate(),
                Math.min(copy.frames().count(), Math.max(1, original.frames().count())),
                !original.frames().isCertain() || !copy.frames().isCertain(),
                false,
                false,
                Look.NONE,
                false,
                SoundForm.KEPT,
                BurnIns.of(new BurnIn(BurnIn.What.NAME, BurnIn.At.BOTTOM, "")),
                Optional.empty(),
                false);
    }
}
