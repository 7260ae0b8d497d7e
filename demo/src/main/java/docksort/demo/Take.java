package docksort.demo;

import java.util.List;

/// One recording to be painted and encoded.
///
/// @param path below the footage folder
/// @param frames frames painted; variable-rate takes keep fewer
/// @param timecode start timecode, empty for none
/// @param caption small text in the picture
/// @param filters further filters after the picture is painted
/// @param encoder encoder and container arguments
/// @param sound channels of sound, 0 for none
record Take(
        String path,
        Scene scene,
        int width,
        int height,
        String rate,
        int frames,
        String timecode,
        String caption,
        String pixels,
        List<String> filters,
        List<String> encoder,
        int sound) {
    Take {
        filters = List.copyOf(filters);
        encoder = List.copyOf(encoder);
    }
}
