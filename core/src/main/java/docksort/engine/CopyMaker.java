package docksort.engine;

import docksort.engine.ChildProcesses.Cut;
import docksort.engine.ChildProcesses.Ending;
import docksort.media.VideoTarget;
import docksort.problem.Causes;
import docksort.problem.Problem;
import java.io.IOException;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;

/// Encodes copies with ffmpeg and tells how it goes.
public final class CopyMaker {
    private final MediaEngine engine;

    public CopyMaker(MediaEngine engine) {
        this.engine = engine;
    }

    /// How far an encoding is, from the engine's machine-readable channel.
    ///
    /// @param frames frames written
    /// @param bytes bytes written
    public record Progress(long frames, long bytes) {}

    /// How an encoding ended.
    public sealed interface Outcome {
        record Written() implements Outcome {}

        record Cancelled() implements Outcome {}

        record Failed(Problem problem, boolean volumeFull) implements Outcome {}
    }

    /// Encodes until the end, a failure, or the cancellation.
    public Outcome make(CopyOrder order, Consumer<Progress> progress, Cancellation cancellation)
            throws InterruptedException {
        return make(order, progress, cancellation, false);
    }

    /// An encoder of the graphics processor that fails is followed by the software one.
    ///
    /// @param gently whether it runs below everything else on the machine
    public Outcome make(CopyOrder order, Consumer<Progress> progress, Cancellation cancellation, boolean gently)
            throws InterruptedException {
        boolean mayUseHardware = order.form().hardware()
                && order.form()
                        .target()
                        .filter(t -> t.family() == VideoTarget.Family.H264)
                        .isPresent();
        Optional<String> hardware = mayUseHardware ? Encoders.hardware(engine) : Optional.empty();
        if (hardware.isPresent()) {
            Outcome outcome = make(order, hardware, progress, cancellation, gently);
            if (!(outcome instanceof Outcome.Failed)) {
                return outcome;
            }
        }
        return make(order, Optional.empty(), progress, cancellation, gently);
    }

    private Outcome make(
            CopyOrder order,
            Optional<String> hardware,
            Consumer<Progress> progress,
            Cancellation cancellation,
            boolean gently)
            throws InterruptedException {
        var reader = new ProgressReader(progress);
        try {
            Ending ending = engine.encode(CopyCommand.arguments(order, hardware), reader::line, cancellation, gently);
            if (ending.cut() == Cut.CANCELLED) {
                return new Outcome.Cancelled();
            }
            return ending.isGood() ? new Outcome.Written() : failed(order, ending);
        } catch (IOException e) {
            return failed(order, Causes.inWords(e), false);
        }
    }

    private static Outcome failed(CopyOrder order, Ending ending) {
        String said = String.join(" | ", ending.lastLines());
        if (Causes.isFull(said)) {
            return failed(order, "the volume is full", true);
        }
        if (ending.cut() == Cut.SILENT) {
            return failed(order, "the media engine made no progress for two minutes and was ended", false);
        }
        List<String> lines = ending.lastLines();
        String last = lines.isEmpty()
                ? "no message"
                : String.join(" | ", lines.subList(Math.max(0, lines.size() - 4), lines.size()));
        return failed(order, "the media engine ended with " + ending.exitCode() + " (" + last + ")", false);
    }

    private static Outcome failed(CopyOrder order, String why, boolean full) {
        return new Outcome.Failed(
                new Problem(
                        "The copy of " + order.source().head() + " could not be made",
                        why,
                        "The original and all other copies are as they were; no unfinished file was left.",
                        full
                                ? "Free room on the volume for copies, then retry."
                                : "Look at the original, then retry or choose another recipe."),
                full);
    }

    /// Reads `key=value` lines of `-progress`; a line `progress=…` ends each report.
    private static final class ProgressReader {
        private final Consumer<Progress> progress;
        private final Map<String, String> report = new HashMap<>();

        ProgressReader(Consumer<Progress> progress) {
            this.progress = progress;
        }

        void line(String line) {
            int equals = line.indexOf('=');
            if (equals < 0 || report.size() > 100) {
                return;
            }
            String key = line.substring(0, equals);
            if (key.equals("progress")) {
                progress.accept(new Progress(number("frame"), number("total_size")));
                report.clear();
            } else {
                report.put(key, line.substring(equals + 1).strip());
            }
        }

        private long number(String key) {
            try {
                return Math.max(0, Long.parseLong(report.getOrDefault(key, "0")));
            } catch (NumberFormatException e) {
                return 0; // the engine writes N/A until it knows
            }
        }
    }
}
