package docksort.engine;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import docksort.engine.ChildProcesses.Ending;
import docksort.media.PixelFormat;
import docksort.media.PixelFormat.Chroma;
import docksort.problem.CoreException.ToolFailed;
import docksort.problem.Problem;
import java.io.IOException;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/// All pixel formats that an engine knows, as it describes them itself (`ffprobe -show_pixel_formats`).
final class PixelFormats {
    private static final String YUV = "yuv|yuyv|uyvy|uyyv|yvyu|nv|p\\d|y2|xyz|xv|ayuv|vuy|vyu|v30";

    private final Map<String, PixelFormat> byName = new HashMap<>();

    private PixelFormats(JsonNode answer) {
        answer.path("pixel_formats").forEach(each -> {
            PixelFormat format = format(each);
            byName.put(format.name(), format);
        });
    }

    /// @throws ToolFailed when the engine does not tell
    static PixelFormats of(MediaEngine engine) throws InterruptedException {
        var answer = new JsonNode[1];
        try {
            Ending ending = engine.probe(
                    List.of("-v", "error", "-show_pixel_formats", "-of", "json=c=1"),
                    in -> answer[0] = new ObjectMapper().readTree(in.readAllBytes()),
                    new Cancellation());
            if (ending.isGood() && answer[0] != null) {
                return new PixelFormats(answer[0]);
            }
            throw new IOException(String.join(" ", ending.lastLines()));
        } catch (IOException e) {
            throw new ToolFailed(new Problem(
                    "The media engine does not list its pixel formats",
                    String.valueOf(e.getMessage()),
                    "Nothing was changed.",
                    "Correct " + MediaEngine.FOLDER_VARIABLE + ", or unset it."));
        }
    }

    private static PixelFormat format(JsonNode said) {
        String name = said.path("name").asText("unknown");
        JsonNode flags = said.path("flags");
        int depth = 0;
        for (JsonNode component : said.path("components")) {
            depth = Math.max(depth, component.path("bit_depth").asInt(0));
        }
        boolean colours = flags.path("palette").asInt() == 1;
        boolean alpha = flags.path("alpha").asInt() == 1 || colours;
        boolean mosaic = name.startsWith("bayer");
        return new PixelFormat(name, mosaic ? 0 : Math.clamp(depth, 0, 64), chroma(said, name, colours, mosaic), alpha);
    }

    private static Chroma chroma(JsonNode said, String name, boolean colours, boolean mosaic) {
        if (mosaic) {
            return Chroma.UNKNOWN; // red, green and blue lie beside each other: no codec of copies has them so
        }
        if (said.path("flags").path("rgb").asInt() == 1 || colours || name.startsWith("xyz")) {
            return Chroma.RGB;
        }
        int components = said.path("nb_components").asInt();
        if (components == 1 || components == 2) {
            return Chroma.GREY;
        }
        if (components == 0 || !name.matches("(" + YUV + ").*")) {
            return Chroma.UNKNOWN;
        }
        return switch (said.path("log2_chroma_w").asInt() * 10
                + said.path("log2_chroma_h").asInt()) {
            case 0 -> Chroma.C444;
            case 1 -> Chroma.C440;
            case 10 -> Chroma.C422;
            case 11 -> Chroma.C420;
            case 20 -> Chroma.C411;
            case 22 -> Chroma.C410;
            default -> Chroma.UNKNOWN;
        };
    }

    /// @param statedBits bits a sample as the stream states them, 0 when it does not
    PixelFormat named(String name, int statedBits) {
        PixelFormat known = byName.get(name);
        if (known == null) {
            return new PixelFormat(name.isEmpty() ? "unknown" : name, 0, Chroma.UNKNOWN, false);
        }
        boolean fewer = statedBits > 0 && statedBits < known.bitDepth();
        return fewer ? new PixelFormat(name, statedBits, known.chroma(), known.alpha()) : known;
    }
}
