package docksort.engine;

import docksort.media.VideoFacts;
import java.util.List;

/// Which decoder reads a clip, where the engine's usual one does not give all of it.
final class Decoders {
    private Decoders() {}

    /// Options before the input. Transparency that VP8 and VP9 carry beside the picture is read by their
    /// makers' library alone.
    static List<String> before(VideoFacts picture) {
        if (!picture.pixels().alpha()) {
            return List.of();
        }
        return switch (picture.codec().name()) {
            case "vp8" -> List.of("-c:v", "libvpx");
            case "vp9" -> List.of("-c:v", "libvpx-vp9");
            default -> List.of();
        };
    }
}
