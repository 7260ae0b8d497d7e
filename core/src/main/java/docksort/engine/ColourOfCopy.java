package docksort.engine;

import docksort.media.Colour;
import docksort.media.VideoTarget;

/// What becomes of a picture's colour where a copy's codec cannot carry it as it is.
public final class ColourOfCopy {
    private ColourOfCopy() {}

    /// Whether the matrix is brought from that of standard definition (Rec. ITU-R BT.601) to that of high
    /// definition (Rec. ITU-R BT.709): VC-3 as the engine writes it has no word for the first, and players take
    /// the second.
    public static boolean toHdMatrix(Colour colour, VideoTarget target) {
        return target.isVc3() && isStandardDefinition(colour.matrix());
    }

    private static boolean isStandardDefinition(String matrix) {
        return matrix.equals("smpte170m") || matrix.equals("bt470bg");
    }

    /// The same in words, where they are needed to compare.
    public static String matrix(Colour colour, VideoTarget target) {
        return toHdMatrix(colour, target) ? "bt709" : colour.matrix();
    }
}
