package docksort;

import docksort.engine.MediaEngine;
import docksort.media.FrameRate;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/// Small real clips for tests, made by the engine from its own test patterns.
public final class Footage {
    private final MediaEngine engine;

    public Footage(MediaEngine engine) {
        this.engine = engine;
    }

    /// @param size for instance `320x180`
    /// @param rate for instance `25` or `30000/1001`
    /// @param more encoder and container arguments
    public Path clip(Path file, String size, String rate, int frames, String... more) throws InterruptedException {
        var line = new ArrayList<String>(List.of("-f", "lavfi", "-i", "testsrc2=size=" + size + ":rate=" + rate));
        line.addAll(List.of("-frames:v", Integer.toString(frames)));
        line.addAll(List.of(more));
        line.add("file:" + file);
        engine.run(line);
        return file;
    }

    /// A clip of 25 frames a second with numbers painted into its frames ([FrameNumbers]).
    ///
    /// @param first number of its first frame
    public Path numbered(Path file, int first, int frames, String... more) throws InterruptedException {
        String source = "testsrc2=size=192x108:rate=25," + FrameNumbers.painted();
        var line = new ArrayList<String>(List.of("-f", "lavfi", "-i", source));
        line.addAll(List.of("-vf", "trim=start_frame=" + first + ",setpts=PTS-STARTPTS"));
        line.addAll(List.of("-frames:v", Integer.toString(frames)));
        line.addAll(List.of(more));
        line.add("file:" + file);
        engine.run(line);
        return file;
    }

    /// A clip with two channels of sound of the same length.
    public Path clipWithSound(Path file, String size, String rate, int frames, String... more)
            throws InterruptedException {
        String seconds =
                "%.6f".formatted(FrameRate.parse(rate).secondsOf(frames).toDouble());
        var line = new ArrayList<String>(List.of("-f", "lavfi", "-i", "testsrc2=size=" + size + ":rate=" + rate));
        line.addAll(List.of("-f", "lavfi", "-i", "sine=frequency=330:sample_rate=48000:duration=" + seconds));
        line.addAll(List.of("-frames:v", Integer.toString(frames), "-ac", "2"));
        line.addAll(List.of(more));
        line.add("file:" + file);
        engine.run(line);
        return file;
    }
}
