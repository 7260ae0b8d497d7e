package docksort.engine;

import docksort.media.AudioStream;
import docksort.media.PixelFormat.Chroma;
import docksort.media.Raster;
import docksort.media.VideoFacts;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/// The ffmpeg arguments that make one copy.
public final class CopyCommand {
    private CopyCommand() {}

    /// Arguments between the program's name and nothing else: input, filters, encoder, output.
    public static List<String> arguments(CopyOrder order) {
        VideoFacts picture = order.picture();
        var line = new ArrayList<>(MediaEngine.input(order.source(), Optional.of(picture.rate())));
        line.addAll(List.of("-map", "0:V:0", "-map", "0:a?", "-map_metadata", "-1", "-map_chapters", "-1"));
        filters(order).ifPresent(filters -> line.addAll(List.of("-vf", filters)));
        line.addAll(List.of("-fps_mode", "cfr", "-r", order.rate().toString()));
        if (picture.rateKind() == VideoFacts.RateKind.VARIABLE) {
            // Conforming may round the end up by a frame; the copy has the length that was planned.
            line.addAll(List.of("-frames:v", Long.toString(picture.frames().count())));
        }
        line.addAll(encoder(order));
        if (picture.scan().isInterlaced()) {
            line.addAll(List.of("-flags", "+ildct"));
        }
        if (isRgb(picture)) {
            line.addAll(List.of("-colorspace", "bt709", "-color_range", "tv"));
        }
        line.addAll(sound(order.facts().audio()));
        order.facts().startTimecode().ifPresent(start -> line.addAll(List.of("-timecode", start.toString())));
        order.facts().reel().ifPresent(reel -> line.addAll(List.of("-metadata:s:v:0", "reel_name=" + reel)));
        order.tags().forEach((key, value) -> line.addAll(List.of("-metadata", key + "=" + value)));
        line.addAll(List.of("-movflags", "+use_metadata_tags", "-f", "mov", "file:" + order.output()));
        return List.copyOf(line);
    }

    private static Optional<String> filters(CopyOrder order) {
        VideoFacts picture = order.picture();
        Raster upright = picture.rotationDegrees() % 180 == 0
                ? picture.raster()
                : picture.raster().turned();
        var filters = new ArrayList<String>();
        if (!order.raster().equals(upright) || isRgb(picture)) {
            String scale =
                    "scale=" + order.raster().width() + ":" + order.raster().height() + ":flags=bicubic";
            if (picture.scan().isInterlaced()) {
                scale += ":interl=1";
            }
            if (isRgb(picture)) {
                scale += ":out_color_matrix=bt709:out_range=tv";
            }
            filters.add(scale);
            filters.add("setsar=" + picture.pixelAspect().numerator() + "/"
                    + picture.pixelAspect().denominator());
        }
        return filters.isEmpty() ? Optional.empty() : Optional.of(String.join(",", filters));
    }

    private static boolean isRgb(VideoFacts picture) {
        return picture.pixels().chroma() == Chroma.RGB;
    }

    /// Of the engine's two ProRes encoders the one named `prores` is about four times the faster. In the HD
    /// family the encoder picks the compression id by raster, depth and a data rate from its table, whatever
    /// the frame rate is: 185 Mb/s stands for the ids 1235, 1238, 1241 and 1243, 90 Mb/s for 1250 and 1251
    /// (libavcodec/dnxhddata.c, FFmpeg 8.0).
    private static List<String> encoder(CopyOrder order) {
        String hdRate = order.raster().height() == 1080 ? "185M" : "90M";
        return switch (order.target()) {
            case PRORES_PROXY ->
                List.of("-c:v", "prores", "-profile:v", "0", "-pix_fmt", "yuv422p10le", "-vendor", "dock");
            case VC3_HD -> List.of("-c:v", "dnxhd", "-profile:v", "dnxhd", "-b:v", hdRate, "-pix_fmt", "yuv422p");
            case VC3_HD_X -> List.of("-c:v", "dnxhd", "-profile:v", "dnxhd", "-b:v", hdRate, "-pix_fmt", "yuv422p10le");
            case VC3_LB -> List.of("-c:v", "dnxhd", "-profile:v", "dnxhr_lb", "-pix_fmt", "yuv422p");
            case VC3_HQ -> List.of("-c:v", "dnxhd", "-profile:v", "dnxhr_hq", "-pix_fmt", "yuv422p");
            case VC3_HQX -> List.of("-c:v", "dnxhd", "-profile:v", "dnxhr_hqx", "-pix_fmt", "yuv422p10le");
        };
    }

    /// Uncompressed, channels and sample rate kept; 24 bit only where the source has more than 16.
    private static List<String> sound(List<AudioStream> audio) {
        var line = new ArrayList<String>();
        for (int i = 0; i < audio.size(); i++) {
            line.addAll(List.of("-c:a:" + i, audio.get(i).bitsPerSample() > 16 ? "pcm_s24le" : "pcm_s16le"));
        }
        return line;
    }
}
