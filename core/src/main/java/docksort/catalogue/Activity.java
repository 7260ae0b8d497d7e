package docksort.catalogue;

import java.time.Instant;

/// One line of the log of changes.
///
/// @param person who made it, empty where that was not kept
/// @param workstation where it was made, empty where that was not kept
public record Activity(long id, Instant at, String person, String workstation, String what, Back back) {
    /// Person and workstation in words, empty where neither was kept.
    public String who() {
        return person.isEmpty() ? workstation : workstation.isEmpty() ? person : person + " at " + workstation;
    }

    /// How a change stands to being taken back.
    public enum Back {
        POSSIBLE,
        TAKEN,
        NEVER
    }
}
