package docksort.engine;

import docksort.engine.ChildProcesses.Cut;
import docksort.engine.ChildProcesses.Ending;
import docksort.engine.Idleness.Trial;
import docksort.engine.ProcessControl.Rank;
import docksort.media.VideoTarget;
import docksort.problem.Causes;
import docksort.problem.Problem;
import java.io.IOException;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.regex.Pattern;

/// Encodes copies with ffmpeg and tells how it goes. Several copies of one clip come from one decode of
/// it. A long clip whose engine leaves processors idle is made in segments at the same time, where that
/// is exact.
public final class CopyMaker {
    /// Exit code of a child that SIGKILL ended: 128 and the signal's number (waitpid(2), bash(1)).
    private static final Pattern OPENED_IN_VAIN = Pattern.compile("Error opening input[^|]*: (No such file or directory"
            + "|Stale file handle|Transport endpoint is not connected|No such device|Host is down|No route to host)");

    private static final int KILLED = 128 + 9;

    private final MediaEngine engine;
    private final Trial trial;

    public CopyMaker(MediaEngine engine) {
        this(engine, Trial.USUAL);
    }

    CopyMaker(MediaEngine engine, Trial trial) {
        this.engine = engine;
        this.trial = trial;
    }

    /// Hears how an encoding goes.
    @FunctionalInterface
    public interface Listener {
        /// @param frames that were written so far
        /// @param bytes of each copy so far
        void progressed(long frames, List<Long> bytes);

        /// How many processors the copies may keep busy; 0 for no more than one engine takes.
        default double processors() {
            return 0;
        }

        /// They are made anew, in so many segments at the same time.
        default void segmented(int segments) {}
    }

    /// How an encoding ended.
    public sealed interface Outcome {
        /// @param encoder what coded the pictures where it was not the usual software, for instance the
        ///     graphics processor's
        /// @param frames how many frames were written
        /// @param repeated how many frames stand in for others that did not come out of the decoder
        /// @param complaint what the decoder complained of first, empty for nothing
        /// @param segments in how many it was made at the same time, 1 for one piece
        record Written(String encoder, long frames, long repeated, String complaint, int segments) implements Outcome {}

        record Cancelled() implements Outcome {}

        record Failed(Problem problem, Lack lack) implements Outcome {}
    }

    /// What a copy failed for want of.
    public enum Lack {
        NOTHING,
        ROOM,
        MEMORY,
        /// It was not there to be opened.
        ORIGINAL
    }

    /// Encodes copies of one clip, and of one range of it, until the end, a failure, or the cancellation.
    /// Where one of them fails, all have.
    ///
    /// An encoder of the graphics processor that fails is followed by the software one.
    ///
    /// @param orders see [CopyCommand#goTogether]
    public Outcome make(List<CopyOrder> orders, Listener listener, ProcessControl control) throws InterruptedException {
        boolean mayUseHardware = orders.stream()
                .allMatch(order -> order.form().hardware()
                        && order.form()
                                .target()
                                .filter(t -> t.family() == VideoTarget.Family.H264)
                                .isPresent());
        Optional<String> hardware = mayUseHardware ? Encoders.hardware(engine) : Optional.empty();
        if (hardware.isPresent()) {
            Outcome outcome = inOnePiece(orders, hardware, listener, control);
            if (!(outcome instanceof Outcome.Failed)) {
                return outcome;
            }
        }
        return colouredRight(orders, inSoftware(orders, listener, control));
    }

    private static Outcome colouredRight(List<CopyOrder> orders, Outcome outcome) {
        if (!(outcome instanceof Outcome.Written)) {
            return outcome;
        }
        for (CopyOrder order : orders) {
            if (ColourVolume.isNeeded(order)) {
                try {
                    ColourVolume.write(order);
                } catch (IOException e) {
                    return failed(order, "its colour could not be told in it: " + Causes.inWords(e), Lack.NOTHING);
                }
            }
        }
        return outcome;
    }

    private Outcome inSoftware(List<CopyOrder> orders, Listener listener, ProcessControl control)
            throws InterruptedException {
        // Whoever is to be gentle leaves idle processors idle.
        boolean gently = control.rank() == Rank.LAST || control.speedCap() > 0;
        int mostSegments = gently ? 1 : Segments.most(orders);
        return mostSegments > 1
                ? inSegmentsWhereFaster(orders, mostSegments, listener, control)
                : inOnePiece(orders, Optional.empty(), listener, control);
    }

    private Outcome inSegmentsWhereFaster(
            List<CopyOrder> orders, int mostSegments, Listener listener, ProcessControl control)
            throws InterruptedException {
        var idleness = new Idleness(trial, orders.getFirst(), mostSegments, listener::processors, control.brake());
        var onePiece = new Cancellation();
        Outcome outcome;
        try (var _ = control.cancellation().onCancel(onePiece::cancel)) {
            var progress = new EncodingProgress(frames -> {
                listener.progressed(frames, bytes(orders));
                if (idleness.progressed(frames) > 1) {
                    onePiece.cancel();
                }
            });
            outcome = encode(orders, Optional.empty(), progress, idleness::begun, control.cancelledBy(onePiece));
        }
        if (control.cancellation().isCancelled()) {
            return new Outcome.Cancelled();
        }
        int segments = idleness.segments();
        if (segments == 1 || outcome instanceof Outcome.Written) {
            return outcome;
        }
        listener.segmented(segments);
        if (new SegmentMaker(engine, orders, segments, listener).make(control)) {
            return new Outcome.Written("", orders.getFirst().form().frames(), 0, "", segments);
        }
        return control.cancellation().isCancelled()
                ? new Outcome.Cancelled()
                : inOnePiece(orders, Optional.empty(), listener, control);
    }

    private static List<Long> bytes(List<CopyOrder> orders) {
        return orders.stream().map(order -> order.output().toFile().length()).toList();
    }

    private Outcome inOnePiece(
            List<CopyOrder> orders, Optional<String> hardware, Listener listener, ProcessControl control)
            throws InterruptedException {
        var progress = new EncodingProgress(frames -> listener.progressed(frames, bytes(orders)));
        return encode(orders, hardware, progress, _ -> {}, control);
    }

    private Outcome encode(
            List<CopyOrder> orders,
            Optional<String> hardware,
            EncodingProgress progress,
            Consumer<ProcessHandle> begun,
            ProcessControl control)
            throws InterruptedException {
        CopyOrder first = orders.getFirst();
        try {
            List<String> arguments = CopyCommand.arguments(orders, hardware, control.speedCap());
            Ending ending = engine.encode(arguments, progress::line, begun, control);
            if (ending.cut() == Cut.CANCELLED) {
                return new Outcome.Cancelled();
            }
            return ending.isGood()
                    ? new Outcome.Written(
                            hardware.orElse(""), progress.written(), progress.repeated(), complaint(ending), 1)
                    : failed(first, ending);
        } catch (IOException e) {
            return failed(first, Causes.inWords(e), Lack.NOTHING);
        }
    }

    /// Without the name of the part of the engine that says it.
    private static String complaint(Ending ending) {
        return ending.lastLines().stream()
                .findFirst()
                .map(line -> line.replaceFirst("^[\\w#:-]{1,40}: ", ""))
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
            return failed(order, "the media engine did nothing for " + silence + " and was ended", Lack.NOTHING);
        }
        if (ending.cut() == Cut.STILL) {
            String still = engine.longestStandstill().toSeconds() + " s";
            return failed(order, "the media engine came no further for " + still + " and was ended", Lack.NOTHING);
        }
        List<String> lines = ending.lastLines();
        String last = lines.isEmpty()
                ? "no message"
                : String.join(" | ", lines.subList(Math.max(0, lines.size() - 4), lines.size()));
        Lack lack = OPENED_IN_VAIN.matcher(said).find() ? Lack.ORIGINAL : Lack.NOTHING;
        return failed(order, "the media engine ended with " + ending.exitCode() + " (" + last + ")", lack);
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
                            case NOTHING, ORIGINAL -> "Look at the original, then retry or choose another recipe.";
                        }),
                lack);
    }
}
