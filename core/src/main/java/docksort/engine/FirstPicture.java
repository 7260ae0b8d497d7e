package docksort.engine;

import com.fasterxml.jackson.databind.JsonNode;
import docksort.index.PictureSays;
import docksort.media.Raster;
import docksort.media.Rational;
import docksort.media.ScanType;
import java.util.Optional;

/// What the first decoded picture says of itself, apart from what its container says.
record FirstPicture(PictureSays says, JsonNode sideData) {

    static Optional<FirstPicture> of(JsonNode answer, int videoIndex) {
        for (JsonNode frame : answer.path("frames")) {
            if (frame.path("stream_index").asInt(-1) == videoIndex
                    && frame.path("width").asInt() > 0) {
                var says = new PictureSays(
                        raster(frame),
                        ProbeStream.rational(frame.path("sample_aspect_ratio")).filter(Rational::isPositive),
                        scan(frame),
                        ProbeStream.colour(frame));
                return Optional.of(new FirstPicture(says, frame.path("side_data_list")));
            }
        }
        return Optional.empty();
    }

    private static Optional<Raster> raster(JsonNode frame) {
        int width = frame.path("width").asInt();
        int height = frame.path("height").asInt();
        return width > 0 && height > 0 ? Optional.of(new Raster(width, height)) : Optional.empty();
    }

    private static ScanType scan(JsonNode frame) {
        if (!frame.has("interlaced_frame")) {
            return ScanType.UNKNOWN;
        }
        if (frame.path("interlaced_frame").asInt() == 0) {
            return ScanType.PROGRESSIVE;
        }
        return frame.path("top_field_first").asInt() == 1 ? ScanType.TOP_FIELD_FIRST : ScanType.BOTTOM_FIELD_FIRST;
    }
}
