package docksort.catalogue;

import java.time.Instant;

/// One line of the log of changes.
public record Activity(long id, Instant at, String what, Back back) {
    /// How a change stands to being taken back.
    public enum Back {
        POSSIBLE,
        TAKEN,
        NEVER
    }
}
