package docksort.index;

import docksort.media.Colour;
import docksort.media.Raster;
import docksort.media.Rational;
import docksort.media.ScanType;
import java.util.Map;
import java.util.Optional;

/// What one source, a container or a stream, states of its picture by itself; empty where it states nothing.
public record PictureSays(Optional<Raster> raster, Optional<Rational> pixelAspect, ScanType scan, Colour colour) {
    public static final PictureSays NOTHING =
            new PictureSays(Optional.empty(), Optional.empty(), ScanType.UNKNOWN, Colour.UNSTATED);

    static Optional<Raster> raster(long width, long height) {
        boolean sane = width > 0 && height > 0 && width <= 65_536 && height <= 65_536;
        return sane ? Optional.of(new Raster((int) width, (int) height)) : Optional.empty();
    }

    static Optional<Rational> aspect(long width, long height) {
        return width > 0 && height > 0 ? Optional.of(new Rational(width, height)) : Optional.empty();
    }

    /// The pixel aspect that a display aspect makes of a raster.
    static Optional<Rational> aspect(Optional<Rational> display, Optional<Raster> raster) {
        return raster.flatMap(r -> display.map(d -> d.times(new Rational(r.height(), r.width()))));
    }

    /// @param range `tv`, `pc` or empty
    static Colour colour(int primaries, int transfer, int matrix, String range) {
        return new Colour(
                PRIMARIES.getOrDefault(primaries, ""),
                TRANSFERS.getOrDefault(transfer, ""),
                MATRICES.getOrDefault(matrix, ""),
                range);
    }

    // Code points of ISO/IEC 23091-2 (Rec. ITU-T H.273, tables 2 to 4) by the engine's names.
    private static final Map<Integer, String> PRIMARIES =
            Map.of(1, "bt709", 5, "bt470bg", 6, "smpte170m", 9, "bt2020", 11, "smpte431", 12, "smpte432");
    private static final Map<Integer, String> TRANSFERS = Map.of(
            1,
            "bt709",
            6,
            "smpte170m",
            8,
            "linear",
            13,
            "iec61966-2-1",
            14,
            "bt2020-10",
            15,
            "bt2020-12",
            16,
            "smpte2084",
            18,
            "arib-std-b67");
    private static final Map<Integer, String> MATRICES =
            Map.of(0, "gbr", 1, "bt709", 5, "bt470bg", 6, "smpte170m", 9, "bt2020nc", 10, "bt2020c");
}
