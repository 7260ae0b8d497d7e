package docksort.project;

import docksort.arrival.Clip;
import docksort.catalogue.Catalogue;
import docksort.engine.Cancellation;
import docksort.engine.DecodeTimer;
import docksort.engine.DecodeTimer.Shown;
import docksort.engine.DecodeTimer.Stretch;
import docksort.engine.MediaEngine;
import docksort.files.ReadSpeed;
import docksort.media.Fingerprint;
import docksort.media.Measured;
import docksort.media.VideoFacts;
import docksort.sort.Circumstances;
import docksort.sort.Recipe;
import docksort.strain.ClipMeasurements;
import docksort.strain.Lever;
import docksort.strain.LeverTest;
import docksort.strain.PlayRatio;
import docksort.strain.TimelineFormat;
import java.net.InetAddress;
import java.net.UnknownHostException;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;

/// What was measured of clips on this machine, and the measuring. Kept in the catalogue under the machine's name,
/// because the figures hold nowhere else.
public final class Measurements {
    private static final int STRETCH_SECONDS = 4;
    private static final int RUNS = 3;
    private static final int JUMPS = 8;
    private static final String PLAY = "play";
    private static final String SEEK = "seek";
    private static final String VOLUME = "volume";
    private static final String LEVER = "lever";

    private final Catalogue catalogue;
    private final DecodeTimer timer;
    private final Path scratch;
    private final String machine;

    Measurements(Catalogue catalogue, MediaEngine engine, Path scratch) {
        this.catalogue = catalogue;
        this.timer = new DecodeTimer(engine);
        this.scratch = scratch;
        this.machine = machineName();
    }

    static String hostName() {
        try {
            return InetAddress.getLocalHost().getHostName();
        } catch (UnknownHostException e) {
            return "this machine"; // a machine without a name still measures
        }
    }

    /// The machine's name with its number of processors.
    public static String machineName() {
        return hostName() + ", " + Runtime.getRuntime().availableProcessors() + " processors";
    }

    /// Everything measured on this machine.
    public Map<Fingerprint, ClipMeasurements> all() {
        Map<Fingerprint, PlayRatio> play = catalogue.figures().of(machine, PLAY, PlayRatio.class);
        Map<Fingerprint, Measured> seek = catalogue.figures().of(machine, SEEK, Measured.class);
        Map<Fingerprint, Measured> volume = catalogue.figures().of(machine, VOLUME, Measured.class);
        Set<Fingerprint> subjects = new HashSet<>(play.keySet());
        subjects.addAll(seek.keySet());
        subjects.addAll(volume.keySet());
        var found = new HashMap<Fingerprint, ClipMeasurements>();
        for (Fingerprint subject : subjects) {
            found.put(
                    subject,
                    new ClipMeasurements(
                            Optional.ofNullable(play.get(subject)),
                            Optional.ofNullable(seek.get(subject)),
                            Optional.ofNullable(volume.get(subject))));
        }
        return found;
    }

    public Map<Fingerprint, Lever> levers() {
        return catalogue.figures().of(machine, LEVER, Lever.class);
    }

    /// Measures how a clip plays and how long a jump in it takes, and keeps the figures.
    ///
    /// @return false when it was cancelled; nothing is kept then
    /// @throws docksort.problem.CoreException.ToolFailed when the clip cannot be decoded
    public boolean measure(Clip clip, Cancellation cancellation) throws InterruptedException {
        VideoFacts video = clip.facts().video().orElseThrow();
        Stretch stretch = Stretch.of(clip.facts().seconds(), video.rate(), STRETCH_SECONDS);
        Optional<Measured> speed =
                timer.framesPerSecond(clip.source(), video.rate(), stretch, new Shown.Decoded(), RUNS, cancellation);
        if (speed.isEmpty()) {
            return false;
        }
        Optional<Measured> seek =
                timer.seekMillis(clip.source(), video.rate(), clip.facts().seconds(), JUMPS, RUNS, cancellation);
        if (cancellation.isCancelled()) {
            return false;
        }
        int seconds = (int) Math.max(1, video.rate().secondsOf(stretch.frames()).rounded());
        catalogue.figures().keep(machine, clip.fingerprint(), PLAY, PlayRatio.of(speed.get(), video.rate(), seconds));
        seek.ifPresent(millis -> catalogue.figures().keep(machine, clip.fingerprint(), SEEK, millis));
        return true;
    }

    /// Whether a trial copy of a clip can be made.
    public static boolean canTestLevers(Clip clip) {
        return clip.facts().isDecodable() && trial(clip) instanceof Recipe.Resolution.Possible;
    }

    private static Recipe.Resolution trial(Clip clip) {
        return Recipe.LIGHT_PRORES_HALF.resolve(clip, Circumstances.of(TimelineFormat.HD_25));
    }

    /// Finds out which lever helps for a clip: one change at a time over the same stretch.
    ///
    /// @param step hears what is being measured
    /// @return empty when it was cancelled
    public Optional<Lever> lever(Clip clip, Consumer<String> step, Cancellation cancellation)
            throws InterruptedException {
        if (!(trial(clip) instanceof Recipe.Resolution.Possible(var form, var _))) {
            throw new IllegalStateException("no trial copy can be made of " + clip.name());
        }
        Optional<Lever> found =
                new LeverTest(timer).run(clip.source(), clip.facts(), form, scratch, step, cancellation);
        found.ifPresent(lever -> {
            catalogue.figures().keep(machine, clip.fingerprint(), LEVER, lever);
            catalogue.figures().keep(machine, clip.fingerprint(), VOLUME, lever.volume());
        });
        return found;
    }

    /// Measures how fast clips of one volume are read, and keeps the figure for each.
    ///
    /// @param clips on one volume
    /// @return bytes a second; empty when it was cancelled
    public Optional<Measured> readSpeed(List<Clip> clips, Cancellation cancellation) {
        List<Path> files = clips.stream()
                .flatMap(clip -> clip.source().files().stream().limit(50))
                .limit(200)
                .toList();
        Optional<Measured> speed = ReadSpeed.of(files, RUNS, cancellation::isCancelled);
        speed.ifPresent(
                found -> clips.forEach(clip -> catalogue.figures().keep(machine, clip.fingerprint(), VOLUME, found)));
        return speed;
    }
}
