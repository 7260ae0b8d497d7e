package docksort.engine;

import docksort.media.PixelFormat;
import docksort.media.PixelFormat.Chroma;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/// Reads the engine's names of pixel formats (libavutil/pixdesc.c, FFmpeg 8.0).
final class PixelFormats {
    private static final Pattern PLANAR = Pattern.compile("yuv(a?)j?(4\\d\\d)p(\\d*)(le|be)?");
    private static final Pattern SEMI_PLANAR = Pattern.compile("p([024])(\\d\\d)(le|be)?");
    private static final Pattern PLANAR_RGB = Pattern.compile("gbr(a?)p(f?)(\\d*)(le|be)?");
    private static final Pattern GREY = Pattern.compile("gr[ae]y(\\d*)(le|be)?");

    private PixelFormats() {}

    /// @param statedBits bits a sample as the stream states them, 0 when it does not
    static PixelFormat parse(String name, int statedBits) {
        Matcher planar = PLANAR.matcher(name);
        if (planar.matches()) {
            return new PixelFormat(
                    name,
                    bits(planar.group(3), statedBits),
                    chroma(planar.group(2)),
                    !planar.group(1).isEmpty());
        }
        Matcher semi = SEMI_PLANAR.matcher(name);
        if (semi.matches()) {
            Chroma chroma = switch (semi.group(1)) {
                case "0" -> Chroma.C420;
                case "2" -> Chroma.C422;
                default -> Chroma.C444;
            };
            return new PixelFormat(name, bits(semi.group(2), statedBits), chroma, false);
        }
        Matcher rgb = PLANAR_RGB.matcher(name);
        if (rgb.matches()) {
            return new PixelFormat(
                    name,
                    bits(rgb.group(3), statedBits),
                    Chroma.RGB,
                    !rgb.group(1).isEmpty());
        }
        Matcher grey = GREY.matcher(name);
        if (grey.matches()) {
            return new PixelFormat(name, bits(grey.group(1), statedBits), Chroma.GREY, false);
        }
        return switch (name) {
            case "nv12", "nv21" -> new PixelFormat(name, 8, Chroma.C420, false);
            case "nv16", "yuyv422", "uyvy422" -> new PixelFormat(name, 8, Chroma.C422, false);
            case "rgb24", "bgr24", "rgb0", "bgr0", "0rgb", "0bgr" -> new PixelFormat(name, 8, Chroma.RGB, false);
            case "pal8", "rgba", "bgra", "argb", "abgr" -> new PixelFormat(name, 8, Chroma.RGB, true);
            case "rgb48le", "rgb48be", "bgr48le", "bgr48be" ->
                new PixelFormat(name, bits("16", statedBits), Chroma.RGB, false);
            case "rgba64le", "rgba64be", "bgra64le", "bgra64be" ->
                new PixelFormat(name, bits("16", statedBits), Chroma.RGB, true);
            case "ya8" -> new PixelFormat(name, 8, Chroma.GREY, true);
            case "ya16le", "ya16be" -> new PixelFormat(name, 16, Chroma.GREY, true);
            default -> new PixelFormat(name.isEmpty() ? "unknown" : name, 0, Chroma.UNKNOWN, false);
        };
    }

    private static int bits(String inName, int stated) {
        int named = inName.isEmpty() ? 8 : Integer.parseInt(inName);
        return stated > 0 && stated <= named ? stated : named;
    }

    private static Chroma chroma(String digits) {
        return switch (digits) {
            case "420" -> Chroma.C420;
            case "422" -> Chroma.C422;
            case "444" -> Chroma.C444;
            case "411" -> Chroma.C411;
            case "410" -> Chroma.C410;
            case "440" -> Chroma.C440;
            default -> Chroma.UNKNOWN;
        };
    }
}
