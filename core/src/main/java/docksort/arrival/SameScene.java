package docksort.arrival;

import docksort.media.ClipFacts;
import docksort.media.ClipSource;

/// Looks at pictures of two recordings, where nothing else tells whether they are of one.
@FunctionalInterface
public interface SameScene {
    /// Never finds that they are.
    SameScene UNSEEN = (_, _, _, _) -> false;

    /// Whether a small recording shows what a larger one shows, frame by frame.
    boolean shows(ClipSource original, ClipFacts originalFacts, ClipSource small, ClipFacts smallFacts)
            throws InterruptedException;
}
