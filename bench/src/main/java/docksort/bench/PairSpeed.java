package docksort.bench;

import docksort.engine.Cancellation;
import docksort.engine.FramePlayer;
import docksort.engine.FramePlayer.Footage;
import docksort.engine.FramePlayer.Shown;
import docksort.engine.FramePlayer.View;
import docksort.engine.Inspection;
import docksort.engine.Inspector;
import docksort.engine.MediaEngine;
import docksort.files.Documents;
import docksort.media.ClipSource;
import docksort.media.FrameRate;
import docksort.media.VideoFacts;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Random;
import java.util.stream.IntStream;

/// How soon a frame is there: stepping by one and jumping anywhere, on a long-GOP original and on its light
/// copy, as the pair view asks for them.
public final class PairSpeed {
    private static final int FRAMES = 500;
    private static final int ASKED = 200;
    private static final int JUMPS = 80;

    private PairSpeed() {}

    /// @param args a work folder
    public static void main(String[] args) throws Exception {
        if (args.length != 1) {
            System.err.println("usage: PairSpeed WORK");
            System.exit(2);
        }
        Path work = Documents.ensureFolder(Path.of(args[0])).toRealPath();
        try (MediaEngine engine = MediaEngine.locate();
                FramePlayer player = new FramePlayer(engine)) {
            Path original = work.resolve("original.mov");
            Path light = work.resolve("light.mov");
            List<String> source = List.of(
                    "-f",
                    "lavfi",
                    "-i",
                    "testsrc2=size=1920x1080:rate=25,noise=alls=12:allf=t",
                    "-frames:v",
                    FRAMES + "");
            make(engine, source, original, "-c:v", "libx264", "-preset", "veryfast", "-g", "60", "-pix_fmt", "yuv420p");
            make(
                    engine,
                    List.of("-i", "file:" + original),
                    light,
                    "-vf",
                    "scale=960:-2",
                    "-c:v",
                    "prores",
                    "-profile:v",
                    "0");
            tell("light copy, stepping", step(player, footage(engine, light)), "below 60");
            tell("light copy, jumping", jump(player, footage(engine, light)), "median below 80");
            tell("original, stepping", step(player, footage(engine, original)), "beside it");
            tell("original, jumping", jump(player, footage(engine, original)), "beside it");
        }
    }

    private static void make(MediaEngine engine, List<String> source, Path file, String... encoder)
            throws InterruptedException {
        var line = new ArrayList<>(source);
        line.addAll(List.of(encoder));
        line.add("file:" + file);
        engine.run(line);
    }

    private static Footage footage(MediaEngine engine, Path file) throws InterruptedException {
        var known = (Inspection.Known)
                new Inspector(engine).inspect(new ClipSource.SingleFile(file), FrameRate.FPS_25, new Cancellation());
        VideoFacts picture = known.facts().video().orElseThrow();
        return new Footage(file, picture.frames(), picture.rate());
    }

    private static double[] step(FramePlayer player, Footage footage) throws InterruptedException {
        return frames(player, footage, IntStream.range(100, 100 + ASKED).toArray());
    }

    private static double[] jump(FramePlayer player, Footage footage) throws InterruptedException {
        return frames(player, footage, new Random(4).ints(JUMPS, 0, FRAMES).toArray());
    }

    /// Milliseconds from asking to having the pixels, the decoder's start left out.
    private static double[] frames(FramePlayer player, Footage footage, int[] wanted) throws InterruptedException {
        View view = View.whole(960, 540);
        player.show(footage, 0, view);
        double[] millis = new double[wanted.length];
        for (int i = 0; i < wanted.length; i++) {
            long start = System.nanoTime();
            Shown shown = player.show(footage, wanted[i], view);
            millis[i] = (System.nanoTime() - start) / 1e6;
            if (shown.pixels().remaining() != 960 * 540 * 4) {
                throw new IllegalStateException("a frame came in another size");
            }
        }
        Arrays.sort(millis);
        return millis;
    }

    private static void tell(String what, double[] millis, String wanted) {
        System.out.printf(
                Locale.ROOT,
                "%s: median %.0f ms, 95 of 100 below %.0f ms, worst %.0f ms (wanted: %s)%n",
                what,
                millis[millis.length / 2],
                millis[millis.length * 95 / 100],
                millis[millis.length - 1],
                wanted);
    }
}
