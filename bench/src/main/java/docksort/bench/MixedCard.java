package docksort.bench;

import docksort.engine.MediaEngine;
import docksort.files.Documents;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/// Paints 24 short clips as cameras and screen recorders write them: of the kinds that copies are made of, and
/// with noise at the data rates that cameras have (100 to 200 Mb/s for UHD, common practice, no source). Clean
/// test patterns take next to nothing to decode.
final class MixedCard {
    private final MediaEngine engine;

    MixedCard(MediaEngine engine) {
        this.engine = engine;
    }

    private static final String NOISE = ",noise=alls=3:allf=t+u";

    private record Kind(String name, int clips, int frames, String size, String rate, List<String> encoder) {}

    private static final List<Kind> KINDS = List.of(
            new Kind(
                    "hevc-uhd-10",
                    8,
                    25,
                    "3840x2160",
                    "25",
                    List.of(
                            "libx265",
                            "-preset",
                            "ultrafast",
                            "-x265-params",
                            "log-level=none:keyint=12",
                            "-b:v",
                            "150M",
                            "-pix_fmt",
                            "yuv422p10le")),
            new Kind(
                    "avc-uhd",
                    6,
                    25,
                    "3840x2160",
                    "25",
                    List.of(
                            "libx264",
                            "-preset",
                            "superfast",
                            "-b:v",
                            "100M",
                            "-maxrate",
                            "100M",
                            "-bufsize",
                            "50M",
                            "-g",
                            "12",
                            "-pix_fmt",
                            "yuv420p")),
            new Kind(
                    "avc-intra",
                    4,
                    50,
                    "1920x1080",
                    "25",
                    List.of(
                            "libx264",
                            "-preset",
                            "superfast",
                            "-b:v",
                            "110M",
                            "-maxrate",
                            "110M",
                            "-bufsize",
                            "55M",
                            "-g",
                            "1",
                            "-pix_fmt",
                            "yuv422p10le")),
            new Kind(
                    "screen",
                    3,
                    60,
                    "2560x1440",
                    "60",
                    List.of(
                            "libx264",
                            "-preset",
                            "veryfast",
                            "-b:v",
                            "40M",
                            "-maxrate",
                            "40M",
                            "-bufsize",
                            "20M",
                            "-g",
                            "250",
                            "-pix_fmt",
                            "yuv420p")),
            new Kind(
                    "high-speed",
                    3,
                    60,
                    "1920x1080",
                    "100",
                    List.of(
                            "libx265",
                            "-preset",
                            "ultrafast",
                            "-x265-params",
                            "log-level=none:keyint=25",
                            "-b:v",
                            "90M",
                            "-pix_fmt",
                            "yuv420p10le")));

    Path paint(Path card) throws IOException, InterruptedException {
        Documents.ensureFolder(card);
        for (Kind kind : KINDS) {
            Path first = card.resolve(kind.name + "-1.mov");
            var line = new ArrayList<String>(
                    List.of("-f", "lavfi", "-i", "testsrc2=size=" + kind.size + ":rate=" + kind.rate + NOISE));
            line.addAll(List.of("-f", "lavfi", "-i", "sine=frequency=440:sample_rate=48000", "-c:a", "pcm_s24le"));
            line.addAll(List.of("-frames:v", Integer.toString(kind.frames), "-shortest", "-timecode", "10:01:00:00"));
            line.add("-c:v");
            line.addAll(kind.encoder);
            line.add("file:" + first);
            engine.run(line);
            for (int i = 2; i <= kind.clips; i++) {
                Files.copy(first, card.resolve(kind.name + "-" + i + ".mov"));
            }
        }
        return card;
    }
}
