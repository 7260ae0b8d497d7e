package docksort.strain;

import docksort.media.Measured;
import java.util.Optional;

/// What was measured of one clip on this machine.
///
/// @param play decoding in order
/// @param seekMillis from a jump to a random place until its frame is decoded; a clip can play and still not
/// scrub
/// @param volumeBytesPerSecond how fast the clip's volume was read
public record ClipMeasurements(
        Optional<PlayRatio> play, Optional<Measured> seekMillis, Optional<Measured> volumeBytesPerSecond) {
    public static final ClipMeasurements NONE =
            new ClipMeasurements(Optional.empty(), Optional.empty(), Optional.empty());
}
