package docksort.project;

import docksort.arrival.Clip;
import docksort.catalogue.Catalogue;
import docksort.engine.Cancellation;
import docksort.engine.MediaEngine;
import docksort.engine.SoundMeter;
import docksort.media.ClipSound;
import docksort.media.Fingerprint;
import java.util.Map;
import java.util.Optional;

/// How loud the channels of clips are, and the measuring. It is the same on every machine: what one workstation
/// of a shared project measured, all of them know.
public final class ClipSounds {
    private static final String EVERYWHERE = "";
    private static final String SOUND = "sound";

    private final Catalogue catalogue;
    private final SoundMeter meter;

    ClipSounds(Catalogue catalogue, MediaEngine engine) {
        this.catalogue = catalogue;
        this.meter = new SoundMeter(engine);
    }

    public Map<Fingerprint, ClipSound> all() {
        return catalogue.figures().of(EVERYWHERE, SOUND, ClipSound.class);
    }

    /// Whether there is sound to measure.
    public static boolean hasSound(Clip clip) {
        return clip.facts().isDecodable()
                && clip.facts().audio().stream()
                        .anyMatch(stream -> stream.channels() > 0 && stream.samplesPerSecond() > 0);
    }

    /// Measures all of a clip's sound, and keeps it.
    ///
    /// @return empty when it was cancelled; nothing is kept then
    /// @throws docksort.problem.CoreException.ToolFailed when it cannot be decoded
    public Optional<ClipSound> measure(Clip clip, Cancellation cancellation) throws InterruptedException {
        Optional<ClipSound> found = meter.measure(clip.source(), clip.facts().audio(), cancellation);
        found.ifPresent(sound -> catalogue.figures().keep(EVERYWHERE, clip.fingerprint(), SOUND, sound));
        return found;
    }
}
