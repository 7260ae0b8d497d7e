package docksort.arrival;

import docksort.media.ClipFacts;
import docksort.media.ClipSource;
import docksort.media.Fingerprint;

/// One recording of an arrival: its file or files, what inspecting told, and what recognises it elsewhere.
public record Clip(ClipId id, ArrivalId arrival, ClipSource source, ClipFacts facts, Fingerprint fingerprint) {
    public String name() {
        return source.name();
    }
}
