package docksort.engine;

import docksort.media.ClipFacts;
import docksort.problem.Problem;

/// The answer of looking into a file.
public sealed interface Inspection {
    /// The file is a clip; complaints about parts of it stand in the facts.
    record Known(ClipFacts facts) implements Inspection {}

    /// The file cannot be used, for the reason given.
    record Unreadable(Problem problem) implements Inspection {}
}
