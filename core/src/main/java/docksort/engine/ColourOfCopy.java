package docksort.engine;

import docksort.media.Colour;
import docksort.media.PixelFormat.Chroma;
import docksort.media.VideoFacts;
import docksort.media.VideoTarget;

/// What becomes of a picture's colour where a copy's codec cannot carry it as it is.
public final class ColourOfCopy {
    private ColourOfCopy() {}

    /// Whether the matrix is brought from that of standard definition (Rec. ITU-R BT.601) to that of high
    /// definition (Rec. ITU-R BT.709): VC-3 as the engine writes it has no word for the first, and
    /// players take the second.
    public static boolean toHdMatrix(Colour colour, VideoTarget target) {
        return target.isVc3() && isStandardDefinition(colour.matrix());
    }

    /// Whether a copy has the matrix of high definition where its original has another or, as RGB, none.
    public static boolean isBroughtToHd(VideoFacts picture, VideoTarget target) {
        boolean coded = picture.isRgb() && target.chroma() != Chroma.RGB;
        return coded || toHdMatrix(picture.colour(), target);
    }

    private static boolean isStandardDefinition(String matrix) {
        return matrix.equals("smpte170m") || matrix.equals("bt470bg");
    }

    /// The same in words, where they are needed to compare.
    public static String matrix(Colour colour, VideoTarget target) {
        return toHdMatrix(colour, target) ? "bt709" : colour.matrix();
    }
}
