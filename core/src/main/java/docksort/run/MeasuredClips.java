package docksort.run;

import docksort.arrival.Clip;
import docksort.engine.ProcessControl;
import docksort.media.Fingerprint;
import docksort.media.Frames;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;

/// Clips as long as they are. A copy is never held against an estimate.
final class MeasuredClips {
    private final RunTools tools;
    private final RunHost host;
    private final Map<Fingerprint, Clip> measured = new ConcurrentHashMap<>();

    MeasuredClips(RunTools tools, RunHost host) {
        this.tools = tools;
        this.host = host;
    }

    /// Whether nobody has counted its frames.
    static boolean isGuessed(Clip clip) {
        return clip.facts()
                .video()
                .filter(picture -> picture.frames().origin() == Frames.Origin.ESTIMATED)
                .isPresent();
    }

    Clip of(Clip clip, ProcessControl control) throws InterruptedException {
        Clip known = measured.get(clip.fingerprint());
        if (known != null && known.id().equals(clip.id())) {
            return known;
        }
        Optional<Clip> exact = tools.extents()
                .measured(clip.source(), clip.facts(), control)
                .map(facts -> new Clip(clip.id(), clip.arrival(), clip.source(), facts, clip.fingerprint()));
        exact.ifPresent(found -> {
            measured.put(clip.fingerprint(), found);
            host.measured(found);
        });
        return exact.orElse(clip);
    }
}
