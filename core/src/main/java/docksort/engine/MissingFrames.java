package docksort.engine;

import docksort.engine.ChildProcesses.Cut;
import docksort.engine.ChildProcesses.Ending;
import docksort.engine.ChildProcesses.OutputReader;
import docksort.media.ClipSource;
import docksort.media.FrameRange;
import docksort.media.FrameRate;
import docksort.media.Rational;
import docksort.media.VideoFacts;
import docksort.problem.CoreException.ToolFailed;
import docksort.problem.Problem;
import java.io.IOException;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.Optional;

/// Frames of a clip that its decoder does not give out: damaged ones, and those that were never written.
/// A copy holds the frame before them in their place, so that all others keep theirs.
public final class MissingFrames {
    private static final int TICKS = 90_000; // a second; every usual rate has whole ticks or nearly so
    private static final int MOST_FRAMES = 100_000_000;

    private final MediaEngine engine;

    public MissingFrames(MediaEngine engine) {
        this.engine = engine;
    }

    /// Decodes a stretch of a clip of constant rate and says which of its frames did not come.
    ///
    /// @param range what of it is looked at
    /// @param clean whether frames that the decoder only mends count as missing, too
    /// @return stretches in order, as frames of the clip; empty when it was cancelled
    public Optional<List<FrameRange>> find(
            ClipSource source, VideoFacts picture, FrameRange range, boolean clean, ProcessControl control)
            throws InterruptedException {
        FrameRate rate = picture.rate();
        Jump jump = Jump.ofPicture(source, range.first(), rate, picture.frames());
        // With frame threads the engine's decoder for H.264 offers the same packet for ever after an error
        // that it was told not to mend (seen with FFmpeg 8.0.1).
        List<String> strict = List.of("-err_detect", "explode", "-thread_type", "slice");
        var line = new ArrayList<String>(clean ? strict : List.of());
        line.addAll(jump.before());
        line.addAll(MediaEngine.input(source, Optional.of(rate)));
        line.addAll(
                List.of("-map", "0:V:0", "-vf", jump.picture() + "scale=16:16:flags=fast_bilinear,settb=1/" + TICKS));
        line.addAll(List.of("-t", Jump.seconds(rate.secondsOf(range.count()))));
        line.addAll(List.of("-fps_mode", "passthrough", "-enc_time_base", "1/" + TICKS, "-f", "framecrc", "pipe:1"));
        var came = new BitSet();
        try {
            Ending ending = engine.raw(line, OutputReader.lines(text -> note(text, rate, came)), control);
            if (ending.cut() == Cut.CANCELLED) {
                return Optional.empty();
            }
        } catch (IOException e) {
            throw new ToolFailed(new Problem(
                    "The media engine cannot be used",
                    String.valueOf(e.getMessage()),
                    "The copy was not published.",
                    "Retry."));
        }
        return Optional.of(gaps(came, range));
    }

    /// A line of the muxer `framecrc`: stream, decoding time, time shown, and more (ffmpeg-formats manual).
    private static void note(String text, FrameRate rate, BitSet came) {
        String[] fields = text.split(",", 4);
        if (text.startsWith("#") || fields.length < 4) {
            return;
        }
        try {
            long frame = new Rational(Long.parseLong(fields[2].strip()), TICKS)
                    .times(rate.exact())
                    .rounded();
            if (frame >= 0 && frame < MOST_FRAMES) {
                came.set((int) frame);
            }
        } catch (NumberFormatException e) {
            return; // a frame without a time stands nowhere
        }
    }

    private static List<FrameRange> gaps(BitSet came, FrameRange range) {
        var gaps = new ArrayList<FrameRange>();
        int count = (int) Math.min(range.count(), MOST_FRAMES);
        int from = came.nextClearBit(0);
        while (from < count) {
            int next = came.nextSetBit(from);
            int to = next < 0 ? count : Math.min(next, count);
            gaps.add(new FrameRange(range.first() + from, (long) to - from));
            from = came.nextClearBit(to);
        }
        return gaps;
    }
}
