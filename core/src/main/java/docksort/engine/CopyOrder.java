package docksort.engine;

import docksort.media.ClipFacts;
import docksort.media.ClipSource;
import docksort.media.FrameRate;
import docksort.media.Raster;
import docksort.media.VideoFacts;
import docksort.media.VideoTarget;
import java.nio.file.Path;
import java.util.Map;
import java.util.TreeMap;

/// One copy to encode: from what, into what, to where. All choices are made; nothing is left to the encoder's
/// defaults.
///
/// @param picture the facts of the source's picture
/// @param raster the copy's raster, even sides
/// @param rate the copy's constant rate
/// @param tags what the copy tells of itself, written into its metadata
/// @param output a partial file; it is overwritten
public record CopyOrder(
        ClipSource source,
        ClipFacts facts,
        VideoFacts picture,
        VideoTarget target,
        Raster raster,
        FrameRate rate,
        Map<String, String> tags,
        Path output) {
    public CopyOrder {
        tags = java.util.Collections.unmodifiableMap(new TreeMap<>(tags));
        if (raster.width() % 2 != 0 || raster.height() % 2 != 0) {
            throw new IllegalArgumentException("a copy needs even sides, was " + raster);
        }
    }
}
