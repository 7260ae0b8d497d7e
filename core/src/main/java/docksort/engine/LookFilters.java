package docksort.engine;

import docksort.media.ColourDecision;
import docksort.media.ColourDecision.Channels;
import docksort.media.KeptFile;
import docksort.media.Look;
import docksort.media.PixelFormat.Chroma;
import docksort.media.Raster;
import docksort.media.VideoFacts;
import docksort.media.VideoTarget;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/// Filters that bake a look into a picture that has the raster of the copy already. In between it is red, green
/// and blue of 16 bits each.
final class LookFilters {
    private static final int HD_LINES = 720;

    private LookFilters() {}

    /// @param raster the copy's
    /// @return filters to be joined by commas
    static List<String> of(Look look, VideoFacts picture, VideoTarget target, Raster raster) {
        var filters = new ArrayList<String>();
        String samples = picture.pixels().alpha() && target.hasAlpha() ? "gbrap16le" : "gbrp16le";
        String matrix = matrix(picture, raster);
        if (!picture.isRgb()) {
            filters.add("zscale=min=" + matrix + ":m=gbr:r=pc");
        }
        filters.add("format=" + samples);
        look.decision().ifPresent(values -> filters.addAll(decision(values)));
        look.table()
                .ifPresent(table -> filters.add("lut3d=file="
                        + PictureFilters.value(
                                KeptFiles.of(KeptFile.Kind.TABLE, table).toString()) + ":interp=tetrahedral"));
        if (target.chroma() == Chroma.RGB) {
            return filters;
        }
        String now = look.table().isPresent() || ColourOfCopy.isBroughtToHd(picture, target) ? "709" : matrix;
        filters.add("zscale=min=gbr:rin=pc:m=" + now + ":r=tv");
        filters.add("format=" + samples(target, samples.startsWith("gbra")));
        // Of a picture that states no range, the filter before leaves that of red, green and blue on it.
        String colours = look.table().isPresent() ? ":color_primaries=bt709:color_trc=bt709:colorspace=bt709" : "";
        filters.add("setparams=range=tv" + colours);
        return filters;
    }

    private static List<String> decision(ColourDecision values) {
        var filters = new ArrayList<String>();
        // By a table of each of the 65536 levels: the filter for formulas ends at 65280.
        filters.add("lut1d=file=" + PictureFilters.value(KeptFiles.of(values).toString()) + ":interp=linear");
        double saturation = values.saturation();
        if (saturation != 1) {
            Channels luma = ColourDecision.LUMA;
            var mix = new ArrayList<String>();
            for (int to = 0; to < 3; to++) {
                for (int from = 0; from < 3; from++) {
                    double share = luma.all().get(from) * (1 - saturation) + (to == from ? saturation : 0);
                    mix.add("rgb".charAt(to) + "" + "rgb".charAt(from) + "=" + number(share));
                }
            }
            filters.add("colorchannelmixer=" + String.join(":", mix));
        }
        return filters;
    }

    private static String number(double value) {
        return String.format(Locale.ROOT, "%.6f", value);
    }

    /// The engine's name of the matrix that the picture has when it gets here. Where none is stated, high
    /// definition is taken for that of Rec. ITU-R BT.709 and less for that of BT.601 (common practice, no
    /// source).
    private static String matrix(VideoFacts picture, Raster raster) {
        return switch (picture.colour().matrix()) {
            case "bt709" -> "709";
            case "bt470bg" -> "470bg";
            case "smpte170m" -> "170m";
            case "smpte240m" -> "240m";
            case "fcc" -> "fcc";
            case "ycgco" -> "ycgco";
            case "bt2020nc" -> "2020_ncl";
            case "bt2020c" -> "2020_cl";
            default -> Math.max(picture.raster().lines(), raster.lines()) >= HD_LINES ? "709" : "170m";
        };
    }

    private static String samples(VideoTarget target, boolean alpha) {
        String chroma = switch (target.chroma()) {
            case C420 -> "420";
            case C422 -> "422";
            default -> "444";
        };
        return (alpha ? "yuva" : "yuv") + chroma + "p" + (target.bitDepth() > 8 ? "10le" : "");
    }
}
