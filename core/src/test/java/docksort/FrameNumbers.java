package docksort;

import docksort.engine.Cancellation;
import docksort.engine.FrameSamples;
import docksort.engine.FrameSamples.Sample;
import docksort.engine.MediaEngine;
import docksort.engine.ProcessControl;
import docksort.media.ClipSource;
import docksort.media.FrameRate;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.IntUnaryOperator;

/// Numbers painted into frames as twelve black or white fields, which survive scaling and loss.
public final class FrameNumbers {
    private static final int BITS = 12;

    private FrameNumbers() {}

    /// The filter that paints: fields side by side in the lower half, one for each bit, the lowest on the
    /// left.
    public static String painted() {
        var filters = new ArrayList<String>(List.of("drawbox=x=0:y=ih/2:w=iw:h=ih/2:color=black:t=fill"));
        for (int bit = 0; bit < BITS; bit++) {
            filters.add("drawbox=x=iw*" + bit + "/" + BITS + ":y=ih/2:w=iw/" + BITS
                    + ":h=ih/2:color=white:t=fill:enable='mod(floor(n/" + (1 << bit) + ")\\,2)'");
        }
        return String.join(",", filters);
    }

    /// The numbers on some frames of a file.
    public static List<Integer> of(Path file, FrameRate rate, List<Long> frames, MediaEngine engine)
            throws InterruptedException {
        return new FrameSamples(engine)
                        .whole(
                                new ClipSource.SingleFile(file),
                                rate,
                                frames,
                                Optional.empty(),
                                ProcessControl.of(new Cancellation()))
                        .orElseThrow()
                        .samples()
                        .stream()
                        .map(FrameNumbers::number)
                        .toList();
    }

    /// The number on a frame that was made small.
    public static int number(Sample sample) {
        return number(FrameSamples.WIDTH, FrameSamples.HEIGHT, sample::at);
    }

    /// The number on one frame.
    ///
    /// @param luma of a pixel, counted line by line
    public static int number(int width, int height, IntUnaryOperator luma) {
        int number = 0;
        for (int bit = 0; bit < BITS; bit++) {
            int x = (2 * bit + 1) * width / (2 * BITS);
            int y = height * 3 / 4;
            number |= (luma.applyAsInt(y * width + x) > 127 ? 1 : 0) << bit;
        }
        return number;
    }
}
