package docksort.engine;

import docksort.engine.ChildProcesses.Cut;
import docksort.engine.ChildProcesses.Ending;
import docksort.media.ClipSource;
import docksort.media.FrameRate;
import docksort.media.Measured;
import docksort.media.Raster;
import docksort.media.Rational;
import docksort.problem.CoreException.ToolFailed;
import docksort.problem.Problem;
import java.io.IOException;
import java.io.OutputStream;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.concurrent.atomic.AtomicLong;

/// Measures how fast a clip is decoded on this machine, and how long a jump in it takes. Nothing is
/// written, unless a trial copy is asked for.
public final class DecodeTimer {
    private static final int SETTLING_FRAMES = 8; // the first ones wait for files, threads and tables

    private final MediaEngine engine;

    public DecodeTimer(MediaEngine engine) {
        this.engine = engine;
    }

    /// The part of a clip that is decoded.
    ///
    /// @param from seconds into the clip
    /// @param frames how many
    public record Stretch(Rational from, int frames) {
        /// Some seconds from the first third on.
        public static Stretch of(Rational clipSeconds, FrameRate rate, int seconds) {
            Rational from = clipSeconds.times(new Rational(1, 3));
            long left = rate.framesIn(clipSeconds.minus(from));
            long wanted = rate.framesIn(Rational.of(seconds));
            return new Stretch(from, Math.clamp(Math.min(left, wanted), 1, 2_000));
        }
    }

    /// What is made of each decoded picture.
    public sealed interface Shown {
        /// Nothing: decoding alone.
        record Decoded() implements Shown {}

        /// A picture for the screen at a raster.
        ///
        /// @param decodesHalf whether the decoder itself makes half of each side, where it can
        ///     ([docksort.media.Codec#decodesHalf])
        record At(Raster raster, boolean decodesHalf) implements Shown {}
    }

    /// Frames a second of one run over a stretch, counted after settling.
    ///
    /// @return empty when it was cancelled
    /// @throws ToolFailed when the stretch cannot be decoded
    public Optional<Double> framesPerSecond(
            ClipSource source, FrameRate rate, Stretch stretch, Shown shown, Cancellation cancellation)
            throws InterruptedException {
        var line = new ArrayList<String>();
        if (!(source instanceof ClipSource.NumberedStills)) {
            line.addAll(List.of("-ss", decimal(stretch.from)));
        }
        if (shown instanceof Shown.At at && at.decodesHalf()) {
            line.addAll(List.of("-lowres", "1"));
        }
        line.addAll(MediaEngine.input(source, Optional.of(rate)));
        line.addAll(
                List.of("-map", "0:V:0", "-fps_mode", "passthrough", "-frames:v", Integer.toString(stretch.frames)));
        if (shown instanceof Shown.At at) {
            Raster raster = at.raster();
            line.addAll(List.of(
                    "-vf", "scale=" + raster.width() + ":" + raster.height() + ":flags=fast_bilinear,format=bgra"));
        }
        line.addAll(List.of("-f", "null", "-"));
        var clock = new Clock(System.nanoTime());
        Ending ending = run(line, clock, cancellation);
        if (ending.cut() == Cut.CANCELLED) {
            return Optional.empty();
        }
        if (!ending.isGood() || clock.frames.get() == 0) {
            throw failed("Cannot measure " + source.head(), ending);
        }
        return Optional.of(clock.framesPerSecond());
    }

    /// Several runs over the same stretch.
    ///
    /// @return empty when it was cancelled
    public Optional<Measured> framesPerSecond(
            ClipSource source, FrameRate rate, Stretch stretch, Shown shown, int runs, Cancellation cancellation)
            throws InterruptedException {
        var speeds = new double[runs];
        for (int i = 0; i < runs; i++) {
            Optional<Double> speed = framesPerSecond(source, rate, stretch, shown, cancellation);
            if (speed.isEmpty()) {
                return Optional.empty();
            }
            speeds[i] = speed.get();
        }
        return Optional.of(Measured.of(speeds));
    }

    /// Milliseconds from a jump to a random place until its frame is decoded, apart from starting the
    /// engine.
    ///
    /// @return empty when it was cancelled, or when the clip is too short to jump in
    public Optional<Measured> seekMillis(
            ClipSource source, FrameRate rate, Rational clipSeconds, int jumps, int runs, Cancellation cancellation)
            throws InterruptedException {
        if (clipSeconds.compareTo(Rational.of(1)) < 0 || source instanceof ClipSource.NumberedStills) {
            return Optional.empty();
        }
        var intervals = new ArrayList<String>();
        Rational frame = rate.secondsOf(1);
        for (int i = 0; i < jumps; i++) {
            // Spread over the clip, out of order, the same in every run.
            Rational at = clipSeconds.times(new Rational((i * 7L + 3) % jumps * 2 + 1, jumps * 2L));
            intervals.add(decimal(at) + "%" + decimal(at.plus(frame)));
        }
        var millis = new double[runs];
        for (int i = 0; i < runs; i++) {
            Optional<Long> start = probeNanos(source, rate, "%+#1", cancellation);
            Optional<Long> all = probeNanos(source, rate, String.join(",", intervals), cancellation);
            if (start.isEmpty() || all.isEmpty()) {
                return Optional.empty();
            }
            millis[i] = Math.max(0, all.get() - start.get()) / 1e6 / jumps;
        }
        return Optional.of(Measured.of(millis));
    }

    private Optional<Long> probeNanos(ClipSource source, FrameRate rate, String intervals, Cancellation cancellation)
            throws InterruptedException {
        var line = new ArrayList<String>(List.of("-v", "error", "-select_streams", "V:0", "-show_entries"));
        line.addAll(List.of("frame=pts", "-of", "csv=p=0", "-threads", "0", "-read_intervals", intervals));
        line.addAll(MediaEngine.input(source, Optional.of(rate)));
        long before = System.nanoTime();
        try {
            Ending ending = engine.probe(line, in -> in.transferTo(OutputStream.nullOutputStream()), cancellation);
            if (ending.cut() == Cut.CANCELLED) {
                return Optional.empty();
            }
            if (!ending.isGood()) {
                throw failed("Cannot jump in " + source.head(), ending);
            }
            return Optional.of(System.nanoTime() - before);
        } catch (IOException e) {
            throw failed("Cannot jump in " + source.head(), e);
        }
    }

    /// Makes a copy of a stretch, for measuring.
    ///
    /// @param order how; its output is a scratch file of the caller's
    /// @return whether it was made; false when cancelled
    public boolean makeTrial(CopyOrder order, Stretch stretch, Cancellation cancellation) throws InterruptedException {
        var line = new ArrayList<String>();
        Rational seconds = order.form().rate().secondsOf(stretch.frames);
        if (!(order.source() instanceof ClipSource.NumberedStills)) {
            line.addAll(List.of("-ss", decimal(stretch.from)));
        }
        line.addAll(List.of("-t", decimal(seconds)));
        line.addAll(CopyCommand.arguments(order));
        Ending ending = run(line, new Clock(System.nanoTime()), cancellation);
        if (ending.cut() == Cut.CANCELLED) {
            return false;
        }
        if (!ending.isGood()) {
            throw failed("Cannot make a trial copy of " + order.source().head(), ending);
        }
        return true;
    }

    private Ending run(List<String> line, Clock clock, Cancellation cancellation) throws InterruptedException {
        try {
            return engine.encode(line, clock::line, ProcessControl.of(cancellation));
        } catch (IOException e) {
            throw failed("The media engine cannot be used", e);
        }
    }

    private static ToolFailed failed(String what, Ending ending) {
        return new ToolFailed(new Problem(
                what,
                "exit code " + ending.exitCode() + ": " + String.join(" | ", ending.lastLines()),
                "Nothing was changed.",
                "Play the clip once; it may be damaged at this place."));
    }

    private static ToolFailed failed(String what, IOException cause) {
        return new ToolFailed(new Problem(
                what, String.valueOf(cause.getMessage()), "Nothing was changed.", "Check that the file is there."));
    }

    private static String decimal(Rational seconds) {
        return String.format(Locale.ROOT, "%.6f", seconds.toDouble());
    }

    /// Reads the engine's progress lines against the clock.
    private static final class Clock {
        private final long started;
        private final AtomicLong frames = new AtomicLong();
        private long settledAt;
        private long settledFrames;
        private long endedAt;

        Clock(long started) {
            this.started = started;
        }

        void line(String line) {
            if (line.startsWith("frame=")) {
                long now = parse(line.substring(6));
                frames.set(now);
                if (settledAt == 0 && now >= SETTLING_FRAMES) {
                    settledAt = System.nanoTime();
                    settledFrames = now;
                }
            } else if (line.equals("progress=end")) {
                endedAt = System.nanoTime();
            }
        }

        private static long parse(String text) {
            try {
                return Long.parseLong(text.strip());
            } catch (NumberFormatException e) {
                return 0;
            }
        }

        /// Where decoding was over before the first report, the whole run counts, start and all: rather too slow
        /// than too fast.
        double framesPerSecond() {
            long left = frames.get() - settledFrames;
            boolean settled = settledAt > 0 && left > settledFrames;
            long nanos = Math.max(1, endedAt - (settled ? settledAt : started));
            return (settled ? left : frames.get()) * 1e9 / nanos;
        }
    }
}
