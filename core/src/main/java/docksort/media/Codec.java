package docksort.media;

import java.util.Locale;

/// A codec by the engine's name (`h264`) with the profile it states, empty when it states none.
public record Codec(String name, String profile, int level) {
    public static final Codec NONE = new Codec("none", "", 0);
    static final Codec CAMERA_RAW = new Codec("camera_raw", "", 0);

    /// The codec's name as the trade writes it, with the profile: "H.264 High", "ProRes 4444", "VC-3 LB".
    public String label() {
        String family = family();
        if (profile.isEmpty() || profile.equals("unknown")) {
            return family;
        }
        return switch (name) {
            case "dnxhd" -> family + " " + profile.replace("DNXHR ", "").replace("DNXHD", "HD");
            case "prores" -> family + " " + (profile.equals("Standard") ? "422" : profile);
            case "prores_raw" -> "ProRes " + profile;
            case "mjpeg", "png", "dpx", "exr", "tiff" -> family;
            default -> family + " " + profile;
        };
    }

    public String family() {
        return switch (name) {
            case "h264" -> "H.264";
            case "hevc" -> "HEVC";
            case "prores" -> "ProRes";
            case "dnxhd" -> "VC-3";
            case "mpeg2video" -> "MPEG-2";
            case "mpeg1video" -> "MPEG-1";
            case "mpeg4" -> "MPEG-4";
            case "mjpeg" -> "Motion JPEG";
            case "vp9" -> "VP9";
            case "vp8" -> "VP8";
            case "av1" -> "AV1";
            case "ffv1" -> "FFV1";
            case "cfhd" -> "CineForm";
            case "qtrle" -> "Animation RLE";
            case "rawvideo" -> "uncompressed";
            case "prores_raw" -> "ProRes RAW";
            case "camera_raw" -> "camera raw";
            case "none" -> "no picture";
            default -> name.toUpperCase(Locale.ROOT);
        };
    }

    /// Codecs in which every frame stands alone by definition. For the others only the stream itself can
    /// tell.
    public boolean isIntraByNature() {
        return switch (name) {
            case "prores",
                    "dnxhd",
                    "mjpeg",
                    "cfhd",
                    "dvvideo",
                    "rawvideo",
                    "v210",
                    "v308",
                    "v410",
                    "png",
                    "dpx",
                    "exr",
                    "tiff",
                    "qtrle_intra",
                    "jpeg2000",
                    "huffyuv",
                    "ffvhuff",
                    "utvideo",
                    "jpegls",
                    "hap",
                    "prores_raw" -> true;
            default -> false;
        };
    }

    /// Whether the engine's decoder can leave out half of each side while decoding (its `lowres` option),
    /// which transforms of 8x8 coefficients and wavelets allow.
    public boolean decodesHalf() {
        return switch (name) {
            case "mjpeg", "mpeg1video", "mpeg2video", "mpeg4", "jpeg2000" -> true;
            default -> false;
        };
    }
}
