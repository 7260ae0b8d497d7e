package docksort.project;

import docksort.engine.Cancellation;
import docksort.engine.CopyCommand;
import docksort.engine.CopyOrder;
import docksort.engine.DecodeTimer;
import docksort.engine.DecodeTimer.Shown;
import docksort.engine.DecodeTimer.Stretch;
import docksort.engine.Encoders;
import docksort.engine.Inspection;
import docksort.engine.Inspector;
import docksort.engine.MediaEngine;
import docksort.files.ReadSpeed;
import docksort.files.ScratchFile;
import docksort.media.BurnIns;
import docksort.media.ClipSource;
import docksort.media.CopyForm;
import docksort.media.FrameRate;
import docksort.media.Look;
import docksort.media.Measured;
import docksort.media.Raster;
import docksort.media.Rational;
import docksort.media.SoundForm;
import docksort.media.VideoTarget;
import docksort.media.Wrapper;
import docksort.strain.BayProfile;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.stream.Stream;

/// Measures what this machine decodes of every codec that recipes make, with a busy picture of its own.
public final class BayMeasure {
    private static final Raster RASTER = new Raster(1920, 1080);
    /// Encoding takes several times as long as decoding: a few frames are made and shown over and over.
    private static final int MADE = 8;

    private static final int ROUNDS = 4;
    private static final int FRAMES = MADE * ROUNDS;
    private static final int RUNS = 3;
    private static final int SECONDS_OF_CODEC = 5;
    private static final int MOST_FILES = 200;

    private final MediaEngine engine;

    public BayMeasure(MediaEngine engine) {
        this.engine = engine;
    }

    /// About how long it takes on a machine like those it was tried on: each codec is made once and
    /// decoded some times.
    public static int seconds(MediaEngine engine) {
        return (available(engine).size() * SECONDS_OF_CODEC + 5) / 5 * 5;
    }

    /// The codecs that can be measured here.
    public static List<VideoTarget> available(MediaEngine engine) {
        return Stream.of(VideoTarget.values())
                .filter(target -> !Encoders.unavailable(engine).contains(target))
                .toList();
    }

    /// @param codecs what to measure, see [#available]
    /// @param scratch where test clips may lie for a while
    /// @param media a folder of media on the volume to be read, empty to leave reading out
    /// @param step hears what is being measured
    public BayProfile run(
            List<VideoTarget> codecs,
            Path scratch,
            Optional<Path> media,
            Consumer<String> step,
            Cancellation cancellation)
            throws InterruptedException, IOException {
        Map<VideoTarget, Double> speeds = new EnumMap<>(VideoTarget.class);
        try (ScratchFile few = ScratchFile.in(scratch, "bay", ".mov");
                ScratchFile all = ScratchFile.in(scratch, "bay", ".mov")) {
            engine.run(List.of(
                    "-f",
                    "lavfi",
                    "-i",
                    "testsrc2=size=1920x1080:rate=25,noise=alls=20:allf=t",
                    "-frames:v",
                    Integer.toString(MADE),
                    "-c:v",
                    "mjpeg",
                    "-q:v",
                    "2",
                    "-pix_fmt",
                    "yuvj422p",
                    "file:" + few.file()));
            repeat(few.file(), all.file());
            for (VideoTarget target : codecs) {
                if (!cancellation.isCancelled()) {
                    step.accept(target.label());
                    // Frames that do not stand alone cannot be repeated, and H.264 numbers them: all are made.
                    boolean repeated = target.isAllIntra() && target.family() != VideoTarget.Family.H264;
                    Path original = repeated ? few.file() : all.file();
                    speed(original, repeated, target, scratch, cancellation)
                            .ifPresent(fps -> speeds.put(target, fps.median() * RASTER.pixels()));
                }
            }
        }
        double read = media.isPresent() ? read(media.get(), cancellation) : 0;
        return BayProfile.of(Measurements.machineName(), read, speeds);
    }

    private void repeat(Path few, Path all) throws InterruptedException {
        engine.run(List.of(
                "-stream_loop", Integer.toString(ROUNDS - 1), "-i", "file:" + few, "-c", "copy", "-y", "file:" + all));
    }

    private Optional<Measured> speed(
            Path original, boolean repeated, VideoTarget target, Path scratch, Cancellation cancellation)
            throws InterruptedException {
        var clip = new ClipSource.SingleFile(original);
        var known = (Inspection.Known) new Inspector(engine).inspect(clip, FrameRate.FPS_25, cancellation);
        try (ScratchFile copy = ScratchFile.in(scratch, "bay", ".mov");
                ScratchFile shown = ScratchFile.in(scratch, "bay", ".mov")) {
            var form = form(target, repeated ? MADE : FRAMES);
            engine.run(CopyCommand.arguments(new CopyOrder(clip, known.facts(), form, "", Map.of(), copy.file())));
            if (repeated) {
                repeat(copy.file(), shown.file());
            }
            return new DecodeTimer(engine)
                    .framesPerSecond(
                            new ClipSource.SingleFile(repeated ? shown.file() : copy.file()),
                            FrameRate.FPS_25,
                            new Stretch(Rational.ZERO, FRAMES),
                            new Shown.Decoded(),
                            RUNS,
                            cancellation);
        }
    }

    private static CopyForm form(VideoTarget target, int frames) {
        return new CopyForm(
                Optional.of(target),
                Wrapper.MOV.takes(target) ? Wrapper.MOV : Wrapper.MP4,
                RASTER,
                Rational.of(1),
                FrameRate.FPS_25,
                frames,
                false,
                false,
                false,
                Look.NONE,
                false,
                SoundForm.KEPT,
                BurnIns.NONE,
                Optional.empty(),
                false);
    }

    private static double read(Path media, Cancellation cancellation) throws IOException {
        try (var files = Files.walk(media, 4)) {
            List<Path> found =
                    files.filter(Files::isRegularFile).limit(MOST_FILES).toList();
            return ReadSpeed.of(found, RUNS, cancellation::isCancelled)
                    .map(Measured::median)
                    .orElse(0.0);
        }
    }
}
