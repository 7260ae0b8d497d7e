package docksort.link;

import docksort.media.ClipFacts;
import docksort.media.ClipSource;
import docksort.media.Fingerprint;
import docksort.media.VideoFacts;
import java.nio.file.Path;

/// A file that may be a copy of a clip.
record Candidate(Path file, ClipFacts facts, Fingerprint fingerprint) {
    String name() {
        return new ClipSource.SingleFile(file).name();
    }

    VideoFacts picture() {
        return facts.video().orElseThrow();
    }
}
