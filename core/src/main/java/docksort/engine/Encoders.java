package docksort.engine;

import docksort.media.VideoTarget;
import docksort.problem.CoreException.ToolFailed;
import docksort.problem.Problem;
import java.io.IOException;
import java.util.ArrayList;
import java.util.Collections;
import java.util.EnumSet;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.WeakHashMap;

/// Which codecs an engine can make. Asked once for each engine, because an installed one may lack some.
public final class Encoders {
    private static final Map<MediaEngine, Set<VideoTarget>> KNOWN = Collections.synchronizedMap(new WeakHashMap<>());

    private Encoders() {}

    /// Targets whose encoder the engine does not have.
    public static Set<VideoTarget> unavailable(MediaEngine engine) {
        return KNOWN.computeIfAbsent(engine, Encoders::ask);
    }

    private static Set<VideoTarget> ask(MediaEngine engine) {
        var names = new HashSet<String>();
        var lines = new ArrayList<String>();
        try {
            engine.tool(List.of("-encoders"), lines::add);
        } catch (IOException e) {
            throw new ToolFailed(new Problem(
                    "The media engine does not list its encoders",
                    String.valueOf(e.getMessage()),
                    "Nothing was changed.",
                    "Correct " + MediaEngine.FOLDER_VARIABLE + ", or unset it."));
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            return Set.of();
        }
        for (String line : lines) {
            List<String> words = List.of(line.strip().split("\\s+", 3));
            if (words.size() > 1) {
                names.add(words.get(1));
            }
        }
        Set<VideoTarget> missing = EnumSet.noneOf(VideoTarget.class);
        for (VideoTarget target : VideoTarget.values()) {
            if (!names.contains(encoder(target))) {
                missing.add(target);
            }
        }
        return missing;
    }

    private static final Map<MediaEngine, Optional<String>> HARDWARE = Collections.synchronizedMap(new WeakHashMap<>());
    private static final List<String> CANDIDATES = List.of("h264_nvenc", "h264_qsv", "h264_videotoolbox", "h264_amf");

    /// The first H.264 encoder of a graphics processor that encoded a real picture here. Tried once for
    /// each engine; a driver that is there may still not work.
    public static Optional<String> hardware(MediaEngine engine) {
        return HARDWARE.computeIfAbsent(engine, Encoders::tryHardware);
    }

    private static Optional<String> tryHardware(MediaEngine engine) {
        try {
            for (String candidate : CANDIDATES) {
                var line = List.of(
                        "-f",
                        "lavfi",
                        "-i",
                        "testsrc2=size=640x360:rate=25",
                        "-frames:v",
                        "2",
                        "-c:v",
                        candidate,
                        "-pix_fmt",
                        "yuv420p",
                        "-f",
                        "null",
                        "-");
                if (engine.encode(line, _ -> {}, ProcessControl.of(new Cancellation()))
                        .isGood()) {
                    return Optional.of(candidate);
                }
            }
        } catch (IOException e) {
            return Optional.empty(); // the engine itself fails: the software encoders will tell
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
        return Optional.empty();
    }

    /// The engine's name of the encoder for a target. Of its two ProRes encoders the one named `prores` is about
    /// four times the faster; only the other carries alpha in every depth.
    static String encoder(VideoTarget target) {
        return switch (target.family()) {
            case PRORES -> target == VideoTarget.PRORES_4444 ? "prores_ks" : "prores";
            case VC3 -> "dnxhd";
            case MOTION_JPEG -> "mjpeg";
            case H264 -> "libx264";
            case HEVC -> "libx265";
            case AV1 -> "libsvtav1";
            case CINEFORM -> "cfhd";
        };
    }
}
