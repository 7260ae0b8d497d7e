package docksort.sort;

import docksort.arrival.ArrivalId;
import docksort.media.Raster;
import docksort.media.Rational;
import java.util.Optional;

/// What one planned copy has to do with the mistakes of a plan, whatever else is in the plan. Costs more to find out
/// than to count.
///
/// @param senses a bit for each mistake that it is by itself
/// @param passedOver why a camera's copy does not count instead of it
/// @param place where it goes, for those that could meet another there; else empty
/// @param group with the copies of which its raster has to be the same fraction of the original's
/// @param impossible why it cannot be made; else empty
record Signs(long senses, Optional<Shortcoming> passedOver, String place, Optional<Group> group, String impossible) {
    /// Light copies of one arrival and originals of one raster.
    record OneCamera(ArrivalId arrival, Raster raster) {}

    record Group(OneCamera camera, Rational fraction) {}
}
