package docksort.engine;

import docksort.engine.DecodeTimer.Stretch;
import docksort.files.ScratchFile;
import docksort.media.ClipSource;
import docksort.media.CopyForm;
import docksort.media.FrameRate;
import docksort.media.Rational;
import docksort.media.VideoFacts;
import java.nio.file.Path;
import java.util.Optional;
import java.util.function.Function;

/// Makes about a second of a copy, for what the whole of it will come to: frames from several places for the
/// size, a run of frames from the start for the time.
public final class CopyTrial {
    private static final int PLACES = 5;
    private static final int GROUPS = 3;

    private final DecodeTimer timer;
    private final Inspector inspector;

    public CopyTrial(MediaEngine engine) {
        this.timer = new DecodeTimer(engine);
        this.inspector = new Inspector(engine);
    }

    /// @param frameBytes mean bytes of one frame of picture
    /// @param secondsPerFrame with the machine to itself
    public record Figures(double frameBytes, double secondsPerFrame, long frames) {}

    /// @param order makes the order of a trial copy for a scratch file
    /// @return empty when it was cancelled
    public Optional<Figures> run(
            ClipSource source,
            VideoFacts picture,
            CopyForm form,
            Path folder,
            Function<Path, CopyOrder> order,
            Cancellation cancellation)
            throws InterruptedException {
        FrameRate rate = form.rate();
        int second = (int) Math.max(5, rate.framesIn(Rational.of(1)));
        // A group of a long-GOP copy begins with a large picture: only whole groups tell of the rest.
        boolean groups = form.target().filter(target -> !target.isAllIntra()).isPresent();
        int piece = groups ? 2 * second : Math.max(3, second / PLACES);
        int most = groups ? GROUPS * piece : 2 * second;
        boolean whole = form.frames() <= most || source instanceof ClipSource.NumberedStills;
        int places = whole ? 1 : groups ? GROUPS : PLACES;
        int each = whole ? (int) Math.min(form.frames(), Math.max(most, 3L * second)) : piece;
        double bytes = 0;
        long frames = 0;
        for (int place = 0; place < places; place++) {
            Rational from = whole ? Rational.ZERO : picture.seconds().times(new Rational(2L * place + 1, 2L * places));
            Optional<Made> made = make(new Stretch(from, each), rate, folder, order, cancellation);
            if (made.isEmpty()) {
                return Optional.empty();
            }
            bytes += made.get().bytes();
            frames += made.get().frames();
        }
        Optional<Made> one = make(new Stretch(Rational.ZERO, 1), rate, folder, order, cancellation);
        int run = (int) Math.min(form.frames(), second);
        Optional<Made> many = make(new Stretch(Rational.ZERO, run), rate, folder, order, cancellation);
        if (one.isEmpty() || many.isEmpty() || frames == 0) {
            return Optional.empty();
        }
        double longer = Math.max(0, many.get().seconds() - one.get().seconds());
        double perFrame = run > 1 ? longer / (run - 1) : many.get().seconds();
        // Starting the engine belongs to every copy; it is spread over its frames.
        double start = one.get().seconds() / Math.max(1, form.frames());
        return Optional.of(new Figures(bytes / frames, perFrame + start, frames));
    }

    private record Made(double bytes, long frames, double seconds) {}

    private Optional<Made> make(
            Stretch stretch, FrameRate rate, Path folder, Function<Path, CopyOrder> order, Cancellation cancellation)
            throws InterruptedException {
        try (ScratchFile scratch = ScratchFile.in(
                folder, "trial", "." + order.apply(folder).form().wrapper().ending())) {
            long before = System.nanoTime();
            if (!timer.makeTrial(order.apply(scratch.file()), stretch, cancellation)) {
                return Optional.empty();
            }
            double seconds = (System.nanoTime() - before) / 1e9;
            var made = inspector.inspect(new ClipSource.SingleFile(scratch.file()), rate, cancellation);
            if (!(made instanceof Inspection.Known known)
                    || known.facts().video().isEmpty()) {
                return Optional.empty();
            }
            var structure = known.facts().video().get().structure();
            return Optional.of(new Made(structure.bytes(), structure.count(), seconds));
        }
    }
}
