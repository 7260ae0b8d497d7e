package docksort.engine;

import java.util.Locale;
import java.util.Set;

/// The kinds of file that are looked into.
public final class Formats {
    /// Demuxers that may open a file. Those that follow references to other files (playlists,
    /// concatenations) are not here.
    static final String READ = String.join(
            ",",
            "mov,mp4,m4a,3gp,3g2,mj2",
            "matroska,webm",
            "mxf",
            "avi",
            "mpegts",
            "mpeg",
            "mpegvideo",
            "h264",
            "hevc",
            "wav",
            "aiff",
            "flac",
            "mp3",
            "aac",
            "ogg",
            "gxf",
            "dv",
            "flv",
            "asf",
            "ivf",
            "image2",
            "png_pipe",
            "jpeg_pipe",
            "tiff_pipe",
            "dpx_pipe",
            "exr_pipe");

    private static final Set<String> MOVING = Set.of(
            "mov", "qt", "mp4", "m4v", "3gp", "3g2", "mxf", "gxf", "mkv", "mk3d", "webm", "ivf", "ogv", "avi", "divx",
            "dv", "dif", "wmv", "asf", "flv", "f4v", "mts", "m2ts", "m2t", "ts", "trp", "tod", "mpg", "mpeg", "mpe",
            "m2p", "vob", "mod", "m1v", "m2v", "mpv", "h264", "264", "avc", "hevc", "h265", "265", "hvc");
    private static final Set<String> SOUND = Set.of("wav", "aif", "aiff", "bwf", "flac", "mp3", "m4a", "aac", "ogg");
    /// Camera raw of makers' own kinds, which the engine does not decode or not as the camera means it. Raw
    /// stills of the open kind (DNG) are stills.
    private static final Set<String> CAMERA_RAW =
            Set.of("r3d", "braw", "ari", "arx", "crm", "nev", "rmf", "cine", "mlv", "cr2", "cr3", "nef", "arw");
    private static final Set<String> STILL = Set.of("dpx", "exr", "dng", "tif", "tiff", "png", "jpg", "jpeg");

    private Formats() {}

    /// What a file is expected to be by its ending. Only a reason to look: what it is, inspection tells.
    public enum Expected {
        MOVING,
        SOUND,
        STILL,
        CAMERA_RAW,
        OTHER
    }

    public static Expected expected(String fileName) {
        int dot = fileName.lastIndexOf('.');
        String ending = dot < 0 ? "" : fileName.substring(dot + 1).toLowerCase(Locale.ROOT);
        if (MOVING.contains(ending)) {
            return Expected.MOVING;
        }
        if (SOUND.contains(ending)) {
            return Expected.SOUND;
        }
        if (CAMERA_RAW.contains(ending)) {
            return Expected.CAMERA_RAW;
        }
        return STILL.contains(ending) ? Expected.STILL : Expected.OTHER;
    }
}
