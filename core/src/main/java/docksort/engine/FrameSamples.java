package docksort.engine;

import docksort.engine.ChildProcesses.Cut;
import docksort.engine.ChildProcesses.Ending;
import docksort.media.ClipSource;
import docksort.media.FrameRate;
import docksort.media.Raster;
import docksort.media.Rational;
import docksort.problem.CoreException.ToolFailed;
import docksort.problem.Problem;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;

/// Small grey pictures of single frames, for telling frames apart and levels from each other.
public final class FrameSamples {
    /// Sides of a sample.
    public static final int WIDTH = 96;

    public static final int HEIGHT = 54;

    private static final int BYTES = WIDTH * HEIGHT;
    private static final Rational SLACK = new Rational(1, 2_000);

    private final MediaEngine engine;

    public FrameSamples(MediaEngine engine) {
        this.engine = engine;
    }

    /// Decodes all of a copy and keeps some of its frames. Anything that cannot be decoded is an error.
    ///
    /// @param frames numbers of frames from 0, ascending
    /// @return what the decoder complained of, or the samples; empty when it was cancelled
    public Optional<Whole> whole(ClipSource copy, FrameRate rate, List<Long> frames, Cancellation cancellation)
            throws InterruptedException {
        String wanted = frames.stream().map(frame -> "eq(n\\," + frame + ")").collect(Collectors.joining("+"));
        var line = new ArrayList<String>(List.of("-err_detect", "explode", "-xerror"));
        line.addAll(MediaEngine.input(copy, Optional.of(rate)));
        line.addAll(
                List.of("-map", "0:V:0", "-vf", "select=" + wanted + ",scale=" + SMALL, "-fps_mode", "passthrough"));
        line.addAll(OUT);
        // The sound is decoded beside it.
        line.addAll(List.of("-map", "0:a?", "-f", "null", "-"));
        var bytes = new ByteArrayOutputStream();
        Ending ending = run(line, bytes, cancellation);
        if (ending.cut() == Cut.CANCELLED) {
            return Optional.empty();
        }
        String complaint = ending.isGood() ? "" : String.join(" | ", ending.lastLines());
        return Optional.of(new Whole(complaint, split(bytes.toByteArray())));
    }

    /// What a whole decode told.
    ///
    /// @param complaint what could not be decoded, empty for nothing
    public record Whole(String complaint, List<Sample> samples) {
        public Whole {
            samples = List.copyOf(samples);
        }
    }

    /// Frames in a row of an original, decoded by itself.
    ///
    /// @param first number of the first one, from 0
    /// @param through the raster to go through on the way: fine patterns look different after it
    /// @return as many as there are; empty when it was cancelled
    public Optional<List<Sample>> row(
            ClipSource original,
            FrameRate rate,
            boolean varies,
            long first,
            int count,
            Raster through,
            Cancellation cancellation)
            throws InterruptedException {
        var line = new ArrayList<String>();
        ClipSource source = original;
        if (original instanceof ClipSource.NumberedStills stills) {
            source = new ClipSource.NumberedStills(
                    stills.folder(),
                    stills.prefix(),
                    stills.digits(),
                    stills.suffix(),
                    stills.first() + (int) first,
                    stills.last(),
                    List.of());
        } else if (first > 0) {
            line.addAll(List.of("-ss", CopyCommand.seconds(rate.secondsOf(first).minus(SLACK))));
        }
        line.addAll(MediaEngine.input(source, Optional.of(rate)));
        String even = varies ? "fps=" + rate + "," : "";
        String sized = "scale=" + through.width() + ":" + through.height() + ":flags=bicubic:";
        line.addAll(List.of("-map", "0:V:0", "-vf", even + sized + SMALL, "-frames:v", Integer.toString(count)));
        line.addAll(List.of("-fps_mode", "passthrough"));
        line.addAll(OUT);
        var bytes = new ByteArrayOutputStream();
        Ending ending = run(line, bytes, cancellation);
        if (ending.cut() == Cut.CANCELLED) {
            return Optional.empty();
        }
        return Optional.of(split(bytes.toByteArray()));
    }

    // Luma, whatever the range and the matrix are tagged as. Full range first: what lies below black or
    // above white
    // is lost in some codecs, and must not come back as a mean of its surroundings.
    private static final String SMALL =
            "out_range=pc,format=yuv444p,extractplanes=y,scale=" + WIDTH + ":" + HEIGHT + ":flags=area";
    private static final List<String> OUT = List.of("-f", "rawvideo", "pipe:1");

    private Ending run(List<String> arguments, ByteArrayOutputStream into, Cancellation cancellation)
            throws InterruptedException {
        try {
            return engine.raw(arguments, in -> in.transferTo(into), cancellation);
        } catch (IOException e) {
            throw new ToolFailed(new Problem(
                    "The media engine cannot be used",
                    String.valueOf(e.getMessage()),
                    "The copy was not published.",
                    "Retry."));
        }
    }

    private static List<Sample> split(byte[] bytes) {
        var samples = new ArrayList<Sample>();
        for (int at = 0; at + BYTES <= bytes.length; at += BYTES) {
            samples.add(new Sample(Arrays.copyOfRange(bytes, at, at + BYTES)));
        }
        return samples;
    }

    /// One small grey picture.
    public static final class Sample {
        private final byte[] grey;

        Sample(byte[] grey) {
            this.grey = grey;
        }

        /// Grey level of a place, 0 for black to 255 for white.
        public int at(int index) {
            return grey[index] & 0xFF;
        }
    }
}
