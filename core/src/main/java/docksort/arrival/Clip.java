package docksort.arrival;

import docksort.media.ClipFacts;
import docksort.media.ClipSource;
import docksort.media.Fingerprint;

/// One recording of an arrival: its file or files, what inspecting told, and what recognises it elsewhere.
public record Clip(ClipId id, ArrivalId arrival, ClipSource source, ClipFacts facts, Fingerprint fingerprint) {
    public String name() {
        return source.name();
    }

    /// The clip read at a rate that somebody chose, where it states none itself.
    public Clip interpretedAt(docksort.media.FrameRate rate) {
        return new Clip(id, arrival, source, facts.interpretedAt(rate), fingerprint);
    }
}
