package docksort.engine;

import docksort.media.BurnIns;
import docksort.media.FrameLines;
import docksort.media.FrameLines.Area;
import docksort.media.KeptFile;
import docksort.media.Raster;
import docksort.media.Rational;
import docksort.media.VideoTarget;
import docksort.media.Watermark;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/// Inputs and filters that lay frame lines and an image over a picture that has the raster of the copy already. The
/// samples keep their depth, up to ten bits; of red, green and blue, luma and chroma are laid over.
final class OverlayFilters {
    private static final int LINES_OF_THICKNESS = 540; // for one pair of lines of thickness
    private static final String CLEAR = "black@0";
    /// One picture, there before all that it is laid over.
    private static final String ONCE = ":r=25:d=0.04";

    private static final String EARLY = "setpts=PTS-1000/TB";

    private OverlayFilters() {}

    /// What is laid over, each a graph that gives one picture: an input of its own. Sources within the graph of
    /// a copy hang the engine when two such graphs even out the frames of one original.
    static List<String> sources(BurnIns drawn, Raster raster, Rational pixelAspect) {
        var sources = new ArrayList<String>();
        drawn.frame().ifPresent(frame -> sources.add(lines(frame, raster, pixelAspect)));
        drawn.watermark().ifPresent(mark -> sources.add(image(mark, mark.area(raster, pixelAspect))));
        return List.copyOf(sources);
    }

    /// @param input number of the first of the sources among the engine's inputs
    /// @return filters to be joined by commas; empty where nothing is laid over
    static List<String> of(BurnIns drawn, VideoTarget target, Raster raster, Rational pixelAspect, int input) {
        var filters = new ArrayList<String>();
        drawn.frame().ifPresent(_ -> filters.add(over(input, "lines", 0, 0, target)));
        drawn.watermark().ifPresent(mark -> {
            Area at = mark.area(raster, pixelAspect);
            filters.add(over(drawn.frame().isPresent() ? input + 1 : input, "image", at.x(), at.y(), target));
        });
        return List.copyOf(filters);
    }

    private static String over(int input, String name, int x, int y, VideoTarget target) {
        return "null[below_" + name + "];[" + input + ":v]" + EARLY + "[" + name + "];[below_" + name + "][" + name
                + "]overlay=x=" + x + ":y=" + y + ":format=" + samples(target);
    }

    private static String samples(VideoTarget target) {
        String chroma = switch (target.chroma()) {
            case C420 -> "yuv420";
            case C422 -> "yuv422";
            default -> "yuv444";
        };
        return chroma + (target.bitDepth() > 8 ? "p10" : "");
    }

    private static String lines(FrameLines frame, Raster raster, Rational pixelAspect) {
        Area kept = frame.kept(raster, pixelAspect);
        String rest = switch (frame.outside()) {
            case LINE -> CLEAR;
            case DIMMED -> "black@0.6";
            case BLACK -> "black";
        };
        String canvas = "color=c=" + rest + ":s=" + raster.width() + "x" + raster.height() + ONCE + ",format=rgba,";
        String clear = box(kept, 0, CLEAR, raster);
        if (frame.outside() != FrameLines.Outside.LINE) {
            return canvas + clear;
        }
        // White beside what is kept, black beside that: one of the two is seen on every picture.
        int thick = 2 * Math.max(1, raster.lines() / LINES_OF_THICKNESS / 2);
        return canvas + box(kept, 2 * thick, "black@0.9", raster) + "," + box(kept, thick, "white@0.9", raster) + ","
                + clear;
    }

    private static String box(Area kept, int around, String colour, Raster raster) {
        int x = Math.max(0, kept.x() - around);
        int y = Math.max(0, kept.y() - around);
        int right = Math.min(raster.width(), kept.x() + kept.width() + around);
        int bottom = Math.min(raster.height(), kept.y() + kept.height() + around);
        return "drawbox=x=" + x + ":y=" + y + ":w=" + (right - x) + ":h=" + (bottom - y) + ":c=" + colour
                + ":t=fill:replace=1";
    }

    private static String image(Watermark mark, Area at) {
        String file = KeptFiles.of(KeptFile.Kind.IMAGE, mark.image().file()).toString();
        return "movie=filename=" + PictureFilters.value(file) + ",format=rgba,scale=" + at.width() + ":" + at.height()
                + ":flags=area,colorchannelmixer=aa="
                + String.format(Locale.ROOT, "%.2f", mark.seen() / 100.0);
    }
}
