package docksort.engine;

import com.fasterxml.jackson.databind.JsonNode;
import docksort.media.AudioStream;
import docksort.media.Codec;
import docksort.media.Colour;
import docksort.media.FrameRate;
import docksort.media.Raster;
import docksort.media.Rational;
import docksort.media.ScanType;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;

/// Reads one stream of what ffprobe answers. Nothing is taken without a range check.
final class ProbeStream {
    private ProbeStream() {}

    static Codec codec(JsonNode stream) {
        String profile = stream.path("profile").asText("");
        return new Codec(
                stream.path("codec_name").asText("unknown"),
                profile.equals("unknown") ? "" : profile,
                Math.max(0, stream.path("level").asInt(0)));
    }

    static Raster raster(JsonNode stream) {
        return new Raster(stream.path("width").asInt(), stream.path("height").asInt());
    }

    static Raster codedRaster(JsonNode stream, Raster raster) {
        int width = stream.path("coded_width").asInt(0);
        int height = stream.path("coded_height").asInt(0);
        boolean larger = width >= raster.width() && height >= raster.height() && width <= 65_536 && height <= 65_536;
        return larger ? new Raster(width, height) : raster;
    }

    static Optional<FrameRate> statedRate(JsonNode stream, String field) {
        return rational(stream.path(field))
                .filter(r ->
                        r.isPositive() && r.numerator() <= Integer.MAX_VALUE && r.denominator() <= Integer.MAX_VALUE)
                .map(r -> new FrameRate((int) r.numerator(), (int) r.denominator()));
    }

    /// The mean by the header, unless it counts fields.
    static Optional<FrameRate> usualRate(JsonNode stream) {
        Optional<FrameRate> mean = statedRate(stream, "avg_frame_rate");
        Optional<FrameRate> least = statedRate(stream, "r_frame_rate");
        boolean fields = mean.isPresent()
                && least.isPresent()
                && mean.get().exact().equals(least.get().exact().times(Rational.of(2)));
        return fields ? least : mean.or(() -> least);
    }

    static ScanType scan(JsonNode stream) {
        return switch (stream.path("field_order").asText("")) {
            case "progressive" -> ScanType.PROGRESSIVE;
            // "tb" and "bt" say that the fields are stored interleaved; their first letter is the field shown first
            // (libavcodec/rawdec.c and fftools/ffmpeg_enc.c, FFmpeg 8.0).
            case "tt", "tb" -> ScanType.TOP_FIELD_FIRST;
            case "bb", "bt" -> ScanType.BOTTOM_FIELD_FIRST;
            default -> ScanType.UNKNOWN;
        };
    }

    /// The four numbers by which a matrix turns and mirrors, row by row; empty where there is none.
    private static List<Long> matrix(JsonNode stream) {
        for (JsonNode side : stream.path("side_data_list")) {
            String rows = side.path("displaymatrix").asText("");
            List<Long> numbers = Stream.of(rows.split("\\s+"))
                    .filter(word -> word.matches("-?\\d{1,12}"))
                    .map(Long::parseLong)
                    .toList();
            if (numbers.size() == 9) {
                return List.of(numbers.get(0), numbers.get(1), numbers.get(3), numbers.get(4));
            }
        }
        return List.of();
    }

    static boolean isMirrored(JsonNode stream) {
        List<Long> m = matrix(stream);
        return m.size() == 4
                && Math.signum((double) m.get(0)) * Math.signum((double) m.get(3))
                        < Math.signum((double) m.get(1)) * Math.signum((double) m.get(2));
    }

    static int rotation(JsonNode stream) {
        if (isMirrored(stream)) {
            // The angle that a player is told holds only for what is not mirrored; sides change places all the same.
            List<Long> m = matrix(stream);
            return m.get(0) == 0 && m.get(3) == 0 ? 90 : 0;
        }
        for (JsonNode side : stream.path("side_data_list")) {
            if (side.has("rotation")) {
                // The matrix states a counter-clockwise angle; players turn the other way.
                return Math.floorMod(Math.round(-side.path("rotation").asDouble() / 90) * 90, 360);
            }
        }
        return 0;
    }

    static Colour colour(JsonNode stream) {
        return new Colour(
                stated(stream, "color_primaries"),
                stated(stream, "color_transfer"),
                stated(stream, "color_space"),
                stated(stream, "color_range"));
    }

    static String stated(JsonNode stream, String field) {
        String value = stream.path(field).asText("");
        return value.equals("unknown") ? "" : value;
    }

    static AudioStream audio(JsonNode stream, JsonNode format) {
        int raw = stream.path("bits_per_raw_sample").asInt(0);
        int bits = raw > 0 ? raw : stream.path("bits_per_sample").asInt(0);
        Rational timeBase = rational(stream.path("time_base")).orElse(new Rational(1, 1000));
        return new AudioStream(
                stream.path("codec_name").asText("unknown"),
                Math.clamp(stream.path("channels").asInt(0), 0, 1_024),
                stream.path("channel_layout").asText(""),
                Math.max(0, stream.path("sample_rate").asInt(0)),
                Math.clamp(bits, 0, 64),
                duration(stream, format, timeBase));
    }

    /// How long a stream is; where it does not say, how long its file is.
    static Rational duration(JsonNode stream, JsonNode format, Rational timeBase) {
        long ticks = stream.path("duration_ts").asLong(0);
        if (ticks > 0) {
            return timeBase.times(Rational.of(ticks));
        }
        return rational(format.path("duration")).filter(Rational::isPositive).orElse(Rational.ZERO);
    }

    static Optional<Rational> rational(JsonNode node) {
        String text = node.asText("");
        if (text.isEmpty() || text.equals("N/A") || text.endsWith("/0") || text.endsWith(":0")) {
            return Optional.empty();
        }
        try {
            return Optional.of(Rational.parse(text));
        } catch (IllegalArgumentException e) {
            return Optional.empty();
        }
    }
}
