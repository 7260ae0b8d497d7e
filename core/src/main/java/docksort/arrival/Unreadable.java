package docksort.arrival;

import docksort.problem.Problem;
import java.nio.file.Path;

/// A file of an arrival that was expected to be a clip and cannot be used.
public record Unreadable(ArrivalId arrival, Path file, Problem problem) {}
