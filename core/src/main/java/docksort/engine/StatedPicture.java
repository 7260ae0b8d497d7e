package docksort.engine;

import docksort.index.ContainerSays;
import docksort.index.MovTrack;
import docksort.index.ParameterSets;
import docksort.index.PictureSays;
import docksort.media.Raster;
import docksort.media.ScanType;
import java.nio.ByteBuffer;
import java.util.Optional;

/// What a file's container states of the picture, and where the stream's own statement is to be found.
///
/// @param setUp bytes with the stream's parameter sets, empty where there are none
record StatedPicture(PictureSays container, ByteBuffer setUp) {
    static final StatedPicture NOTHING = new StatedPicture(PictureSays.NOTHING, ByteBuffer.allocate(0));

    static StatedPicture by(MovTrack track) {
        return new StatedPicture(track.says(), track.setUp());
    }

    static StatedPicture by(ContainerSays header) {
        return new StatedPicture(header.picture(), header.setUp());
    }

    /// Whether the container says which fields there are.
    boolean isScanStated() {
        return container.scan() != ScanType.UNKNOWN;
    }

    /// What the stream itself states: its parameter sets, and of the scan, which they may leave open, the
    /// first picture.
    ///
    /// @param raster what is decoded; parameter sets of another raster are some other track's
    PictureSays stream(String codec, Raster raster, Optional<PictureSays> picture) {
        Optional<PictureSays> sets = ParameterSets.of(codec, setUp)
                .filter(says -> says.raster().filter(raster::equals).isPresent());
        if (sets.isEmpty()) {
            return picture.orElse(PictureSays.NOTHING);
        }
        ScanType scan = picture.map(PictureSays::scan)
                .filter(seen -> seen != ScanType.UNKNOWN)
                .orElse(sets.get().scan());
        return new PictureSays(
                sets.get().raster(), sets.get().pixelAspect(), scan, sets.get().colour());
    }
}
