package docksort.run;

import java.time.Instant;

/// What making took so far.
///
/// @param seconds since it was begun, without the time it was held
/// @param held whether it was held meanwhile
record Spent(Instant begun, double seconds, boolean held, String encoder, int together, int segments) {
    static final Spent NOTHING = new Spent(Instant.EPOCH, 0, false, "", 1, 1);

    Instant since() {
        return begun.equals(Instant.EPOCH) ? Instant.now() : begun;
    }
}
