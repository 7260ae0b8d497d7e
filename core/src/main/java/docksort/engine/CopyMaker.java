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
import java.util.function.LongConsumer;

/// Encodes copies with ffmpeg and tells how it goes. Several copies of one clip come from one decode of it.
public final class CopyMaker {
    /// Exit code of a child that SIGKILL ended: 128 and the signal's number (waitpid(2), bash(1)).
    private static final int KILLED = 128 + 9;

    private final MediaEngine engine;

    public CopyMaker(MediaEngine engine) {
        this.engine = engine;
    }

    /// How an encoding ended.
    public sealed interface Outcome {
        /// @param encoder what coded the pictures where it was not the usual software, for instance the
        ///     graphics processor's
        /// @param frames how many frames were written
        /// @param repeated how many frames stand in for others that did not come out of the decoder
        /// @param complaint what the decoder complained of first, empty for nothing
        record Written(String encoder, long frames, long repeated, String complaint) implements Outcome {}

        record Cancelled() implements Outcome {}

        record Failed(Problem problem, Lack lack) implements Outcome {}
    }

    /// What a copy failed for want of.
    public enum Lack {
        NOTHING,
        ROOM,
        MEMORY
    }

    /// Encodes copies of one clip, and of one range of it, until the end, a failure, or the cancellation. Where
    /// one of them fails, all have.
    ///
    /// An encoder of the graphics processor that fails is followed by the software one.
    ///
    /// @param orders see [CopyCommand#goTogether]
    /// @param frames hears how many frames were written
    public Outcome make(List<CopyOrder> orders, LongConsumer frames, Conduct conduct) throws InterruptedException {
        boolean mayUseHardware = orders.stream()
                .allMatch(order -> order.form().hardware()
                        && order.form()
                                .target()
                                .filter(t -> t.family() == VideoTarget.Family.H264)
                                .isPresent());
        Optional<String> hardware = mayUseHardware ? Encoders.hardware(engine) : Optional.empty();
        if (hardware.isPresent()) {
            Outcome outcome = make(orders, hardware, frames, conduct);
            if (!(outcome instanceof Outcome.Failed)) {
                return outcome;
            }
        }
        return make(orders, Optional.empty(), frames, conduct);
    }

    private Outcome make(List<CopyOrder> orders, Optional<String> hardware, LongConsumer frames, Conduct conduct)
            throws InterruptedException {
        CopyOrder first = orders.getFirst();
        var reader = new ProgressReader(frames);
        try {
            List<String> arguments = CopyCommand.arguments(orders, hardware, conduct.speedCap());
            Ending ending = engine.encode(arguments, reader::line, conduct);
            if (ending.cut() == Cut.CANCELLED) {
                return new Outcome.Cancelled();
            }
            return ending.isGood()
                    ? new Outcome.Written(hardware.orElse(""), reader.written, reader.repeated, complaint(ending))
                    : failed(first, ending);
        } catch (IOException e) {
            return failed(first, Causes.inWords(e), Lack.NOTHING);
        }
    }

    /// Without the name and address of the part of the engine that says it.
    private static String complaint(Ending ending) {
        return ending.lastLines().stream()
                .findFirst()
                .map(line -> line.replaceAll("\\[[^\\]]* @ [^\\]]*\\]\\s*", ""))
                .orElse("");
    }

    private Outcome failed(CopyOrder order, Ending ending) {
        String said = String.join(" | ", ending.lastLines());
        if (Causes.isFull(said)) {
            return failed(order, "the volume is full", Lack.ROOM);
        }
        if (ending.cut() == Cut.NONE && ending.exitCode() == KILLED) {
            String killed = "the media engine was killed from outside, as systems do when memory runs out";
            return failed(order, killed, Lack.MEMORY);
        }
        if (Causes.isOutOfMemory(said)) {
            return failed(order, "there was not enough memory", Lack.MEMORY);
        }
        if (ending.cut() == Cut.SILENT) {
            String silence = engine.longestSilence().toSeconds() + " s";
            return failed(order, "the media engine made no progress for " + silence + " and was ended", Lack.NOTHING);
        }
        List<String> lines = ending.lastLines();
        String last = lines.isEmpty()
                ? "no message"
                : String.join(" | ", lines.subList(Math.max(0, lines.size() - 4), lines.size()));
        return failed(order, "the media engine ended with " + ending.exitCode() + " (" + last + ")", Lack.NOTHING);
    }

    private static Outcome failed(CopyOrder order, String why, Lack lack) {
        return new Outcome.Failed(
                new Problem(
                        "The copy of " + order.source().head() + " could not be made",
                        why,
                        "The original and all other copies are as they were; no unfinished file was left.",
                        switch (lack) {
                            case ROOM -> "Free room on the volume for copies, then retry.";
                            case MEMORY -> "End other programs, or make fewer at a time, then retry.";
                            case NOTHING -> "Look at the original, then retry or choose another recipe.";
                        }),
                lack);
    }

    /// Reads `key=value` lines of `-progress`; a line `progress=…` ends each report.
    private static final class ProgressReader {
        private final LongConsumer frames;
        private final Map<String, String> report = new HashMap<>();
        private long written;
        private long repeated;

        ProgressReader(LongConsumer frames) {
            this.frames = frames;
        }

        void line(String line) {
            int equals = line.indexOf('=');
            if (equals < 0 || report.size() > 100) {
                return;
            }
            String key = line.substring(0, equals);
            if (key.equals("progress")) {
                written = number("frame");
                frames.accept(written);
                repeated = number("dup_frames");
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
