package docksort.engine;

import docksort.engine.ChildProcesses.Cut;
import docksort.engine.ChildProcesses.Ending;
import docksort.media.ClipSource;
import docksort.media.FrameRate;
import docksort.media.Raster;
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

    private final MediaEngine engine;

    public FrameSamples(MediaEngine engine) {
        this.engine = engine;
    }

    /// Decodes all of a copy and keeps some of its frames. Anything that cannot be decoded is an error.
    ///
    /// @param frames numbers of frames from 0, ascending
    /// @return what the decoder complained of, or the samples; empty when it was cancelled
    public Optional<Whole> whole(ClipSource copy, FrameRate rate, List<Long> frames, Conduct conduct)
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
        Ending ending = run(line, bytes, conduct);
        if (ending.cut() == Cut.CANCELLED) {
            return Optional.empty();
        }
        String complaint = ending.isGood() ? "" : String.join(" | ", ending.lastLines());
        return Optional.of(new Whole(complaint, split(bytes.toByteArray())));
    }

    /// The same from jumps to each frame, without decoding what lies between.
    public Optional<Whole> some(ClipSource copy, FrameRate rate, List<Long> frames, Conduct conduct)
            throws InterruptedException {
        var found = new ArrayList<Sample>();
        for (long frame : frames) {
            var line = new ArrayList<String>(List.of("-err_detect", "explode", "-xerror"));
            line.addAll(CopyCommand.jumpTo(frame, rate));
            line.addAll(MediaEngine.input(copy, Optional.of(rate)));
            line.addAll(List.of("-map", "0:V:0", "-vf", "scale=" + SMALL, "-frames:v", "1"));
            line.addAll(OUT);
            var bytes = new ByteArrayOutputStream();
            Ending ending = run(line, bytes, conduct);
            if (ending.cut() == Cut.CANCELLED) {
                return Optional.empty();
            }
            if (!ending.isGood()) {
                return Optional.of(new Whole(String.join(" | ", ending.lastLines()), found));
            }
            found.addAll(split(bytes.toByteArray()));
        }
        return Optional.of(new Whole("", found));
    }

    /// What a decode told.
    ///
    /// @param complaint what could not be decoded, empty for nothing
    public record Whole(String complaint, List<Sample> samples) {
        public Whole {
            samples = List.copyOf(samples);
        }
    }

    /// Frames that stand in a row.
    ///
    /// @param first number of the first one, from 0
    public record Row(long first, int count) {}

    /// Rows of frames of an original, decoded by one process from a jump to each.
    ///
    /// @param varies whether its frames come irregularly: they are evened out first
    /// @param through the raster to go through on the way: fine patterns look different after it
    /// @return as many samples as there are frames, row by row; empty when it was cancelled
    public Optional<List<List<Sample>>> rows(
            ClipSource original, FrameRate rate, boolean varies, List<Row> rows, Raster through, Conduct conduct)
            throws InterruptedException {
        Optional<List<Sample>> together = samples(original, rate, varies, rows, through, conduct);
        if (together.isEmpty()) {
            return Optional.empty();
        }
        int wanted = rows.stream().mapToInt(Row::count).sum();
        var found = new ArrayList<List<Sample>>();
        if (together.get().size() == wanted) {
            int at = 0;
            for (Row row : rows) {
                found.add(List.copyOf(together.get().subList(at, at + row.count())));
                at += row.count();
            }
            return Optional.of(found);
        }
        // Some row is shorter than it should be: each by itself tells which.
        for (Row row : rows) {
            Optional<List<Sample>> alone = samples(original, rate, varies, List.of(row), through, conduct);
            if (alone.isEmpty()) {
                return Optional.empty();
            }
            found.add(alone.get());
        }
        return Optional.of(found);
    }

    private Optional<List<Sample>> samples(
            ClipSource original, FrameRate rate, boolean varies, List<Row> rows, Raster through, Conduct conduct)
            throws InterruptedException {
        var line = new ArrayList<String>();
        var graph = new StringBuilder();
        String even = varies ? "fps=" + rate + "," : "";
        String sized = "scale=" + through.width() + ":" + through.height() + ":flags=bicubic:";
        for (int i = 0; i < rows.size(); i++) {
            Row row = rows.get(i);
            if (!(original instanceof ClipSource.NumberedStills)) {
                line.addAll(CopyCommand.jumpTo(row.first(), rate));
            }
            line.addAll(MediaEngine.input(from(original, row), Optional.of(rate)));
            graph.append("[%d:V:0]%strim=end_frame=%d,%s%s,setsar=1,setpts=N/25/TB[r%d];"
                    .formatted(i, even, row.count(), sized, SMALL, i));
        }
        for (int i = 0; i < rows.size(); i++) {
            graph.append("[r%d]".formatted(i));
        }
        graph.append("concat=n=%d:v=1[out]".formatted(rows.size()));
        line.addAll(List.of("-filter_complex", graph.toString(), "-map", "[out]", "-fps_mode", "passthrough"));
        line.addAll(OUT);
        var bytes = new ByteArrayOutputStream();
        Ending ending = run(line, bytes, conduct);
        return ending.cut() == Cut.CANCELLED ? Optional.empty() : Optional.of(split(bytes.toByteArray()));
    }

    private static ClipSource from(ClipSource original, Row row) {
        return original instanceof ClipSource.NumberedStills stills
                ? new ClipSource.NumberedStills(
                        stills.folder(),
                        stills.prefix(),
                        stills.digits(),
                        stills.suffix(),
                        stills.first() + (int) row.first(),
                        stills.last(),
                        List.of())
                : original;
    }

    // Luma, whatever the range and the matrix are tagged as. Full range first: what lies below black or
    // above white
    // is lost in some codecs, and must not come back as a mean of its surroundings.
    private static final String SMALL =
            "out_range=pc,format=yuv444p,extractplanes=y,scale=" + WIDTH + ":" + HEIGHT + ":flags=area";
    private static final List<String> OUT = List.of("-f", "rawvideo", "pipe:1");

    private Ending run(List<String> arguments, ByteArrayOutputStream into, Conduct conduct)
            throws InterruptedException {
        try {
            return engine.raw(arguments, in -> in.transferTo(into), conduct);
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
