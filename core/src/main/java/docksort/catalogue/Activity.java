package docksort.catalogue;

import java.time.Instant;

/// One line of the log of changes.
public record Activity(long id, Instant at, String what) {}
