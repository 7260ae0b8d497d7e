package docksort.arrival;

import java.nio.file.Path;
import java.time.Instant;

/// One folder tree that was brought in.
///
/// @param folder where it lies on this workstation now
public record Arrival(ArrivalId id, String name, Path folder, Instant addedAt) {}
