package docksort.catalogue;

import java.time.Instant;
import java.time.temporal.ChronoUnit;

/// Moments as numbers of the catalogue: microseconds since 1970 UTC. Finer parts are cut off.
final class Micros {
    private Micros() {}

    static long of(Instant moment) {
        return ChronoUnit.MICROS.between(Instant.EPOCH, moment);
    }

    static Instant instant(long micros) {
        return Instant.EPOCH.plus(micros, ChronoUnit.MICROS);
    }
}
