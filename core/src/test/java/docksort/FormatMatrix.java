package docksort;

import docksort.engine.MediaEngine;
import docksort.media.FrameRate;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import java.util.stream.Stream;

/// Small clips of many kinds: containers, codecs, keyframe intervals, rates, scans, rasters, depths.
public final class FormatMatrix {
    private static final String X264 = "-c:v libx264 -preset ultrafast -pix_fmt yuv420p -x264-params scenecut=0:";
    private static final String X265 =
            "-c:v libx265 -preset ultrafast -pix_fmt yuv420p -x265-params log-level=none:scenecut=0:";

    /// name | frames | rate | raster | channels | arguments | what must be found
    private static final String CASES = """
        h264-g1.mov | 30 | 25 | 192x108 | 0 | {x264}keyint=1:bframes=0 | intra
        h264-g12.mov | 60 | 25 | 192x108 | 1 | {x264}keyint=12:min-keyint=12:bframes=0 | gop=12 b=0 closed
        h264-g12-b1.mov | 60 | 24000/1001 | 192x108 | 2 | {x264}keyint=12:min-keyint=12:bframes=1:b-adapt=0 | gop=12 b=1 closed
        h264-g50-b3.mov | 120 | 25 | 192x108 | 0 | {x264}keyint=50:min-keyint=50:bframes=3:b-adapt=0:b-pyramid=none | gop=50 b=3 closed
        h264-g250.mov | 510 | 50 | 128x72 | 0 | {x264}keyint=250:min-keyint=250:bframes=0 | gop=250 b=0 closed
        h264-g600.mp4 | 1210 | 60 | 128x72 | 2 | {x264}keyint=600:min-keyint=600:bframes=2:b-adapt=0:b-pyramid=none | gop=600 b=2 closed
        h264-open.mp4 | 60 | 25 | 192x108 | 0 | {x264}keyint=12:min-keyint=12:bframes=3:b-adapt=0:open-gop=1 | open
        h264-open.mkv | 60 | 25 | 192x108 | 0 | {x264}keyint=12:min-keyint=12:bframes=3:b-adapt=0:open-gop=1 | open
        h264-tff.mov | 40 | 25 | 720x576 | 2 | -vf setfield=tff -flags +ilme+ildct {x264}keyint=12:bframes=0 | tff
        h264-bff.mp4 | 40 | 30000/1001 | 720x480 | 2 | {x264}keyint=12:bframes=0:bff=1 | bff
        h264-wide.mov | 40 | 25 | 720x576 | 0 | -vf setsar=64/45 {x264}keyint=12 | sar=64/45
        h264-wide.mkv | 40 | 25 | 720x576 | 0 | -vf setsar=64/45 {x264}keyint=12 | sar=64/45
        h264-wide.mp4 | 40 | 30000/1001 | 720x480 | 0 | -vf setsar=8/9 {x264}keyint=12 | sar=8/9
        h264-drop.mov | 60 | 30000/1001 | 192x108 | 0 | {x264}keyint=12 -timecode 01:00:00;02 | tc=01:00:00;02
        h264-nondrop.mov | 60 | 30000/1001 | 192x108 | 0 | {x264}keyint=12 -timecode 01:00:00:02 | tc=01:00:00:02
        h264-drop60.mp4 | 60 | 60000/1001 | 192x108 | 0 | {x264}keyint=12 -timecode 10:00:00;04 | tc=10:00:00;04
        h264-100.mov | 60 | 100 | 192x108 | 0 | {x264}keyint=12 | rate=100
        h264-120.mp4 | 60 | 120 | 192x108 | 0 | {x264}keyint=12 | rate=120
        h264-vfr.mp4 | 90 | 60 | 192x108 | 2 | -vf select='not(mod(n,3))+eq(mod(n,7),1)' -fps_mode vfr {x264}keyint=60 | vfr
        h264-vfr.mkv | 90 | 60 | 192x108 | 0 | -vf select='not(mod(n,3))+eq(mod(n,7),1)' -fps_mode vfr {x264}keyint=60 | vfr
        h264.avi | 60 | 25 | 192x108 | 2 | {x264}keyint=12:min-keyint=12:bframes=0 -c:a pcm_s16le | gop=12 b=0
        h264-b2.avi | 60 | 25 | 192x108 | 0 | {x264}keyint=12:min-keyint=12:bframes=2:b-adapt=0:b-pyramid=none | gop=12 b=2
        h264.ts | 60 | 25 | 192x108 | 2 | {x264}keyint=12:min-keyint=12:bframes=1:b-adapt=0 -c:a mp2 | gop=12 b=1 closed
        h264-tff.ts | 40 | 25 | 720x576 | 0 | -vf setfield=tff -flags +ilme+ildct {x264}keyint=12:bframes=0 | tff
        h264.mkv | 60 | 30 | 192x108 | 6 | {x264}keyint=12:min-keyint=12:bframes=3:b-adapt=0:b-pyramid=none -c:a pcm_s24le | gop=12 b=3 closed
        h264.mxf | 60 | 25 | 192x108 | 8 | {x264}keyint=12:min-keyint=12:bframes=1:b-adapt=0 -c:a pcm_s24le -ar 48000 | gop=12
        h264-422-10.mov | 30 | 25 | 192x108 | 8 | {x264}keyint=12 -pix_fmt yuv422p10le -c:a pcm_s24le | bits=10
        h264-444.mp4 | 30 | 25 | 192x108 | 0 | {x264}keyint=12 -pix_fmt yuv444p | bits=8
        h264-odd.mp4 | 30 | 25 | 190x106 | 0 | {x264}keyint=12 | bits=8
        hevc-8.mov | 60 | 25 | 192x108 | 2 | {x265}keyint=12:min-keyint=12:bframes=0:open-gop=0 -tag:v hvc1 | gop=12 b=0 closed
        hevc-10.mp4 | 60 | 24 | 192x108 | 2 | {x265}keyint=12:min-keyint=12:bframes=3:b-adapt=0:b-pyramid=0:open-gop=0 -pix_fmt yuv420p10le | gop=12 b=3 closed bits=10
        hevc-open.mp4 | 60 | 25 | 192x108 | 0 | {x265}keyint=12:min-keyint=12:bframes=3:b-adapt=0:open-gop=1 | open
        hevc-radl.mp4 | 60 | 25 | 192x108 | 0 | {x265}keyint=12:min-keyint=12:bframes=3:b-adapt=0:open-gop=0:radl=2 | closed
        hevc-12.mkv | 24 | 25 | 192x108 | 0 | {x265}keyint=12:open-gop=0 -pix_fmt yuv420p12le | bits=12
        hevc-422-10.mov | 24 | 50 | 192x108 | 2 | {x265}keyint=12:open-gop=0 -pix_fmt yuv422p10le | bits=10
        hevc.ts | 60 | 25 | 192x108 | 0 | {x265}keyint=12:min-keyint=12:bframes=0:open-gop=0 | gop=12 b=0
        hevc-intra.mov | 20 | 25 | 192x108 | 0 | {x265}keyint=1 | intra
        prores-proxy.mov | 20 | 25 | 192x108 | 2 | -c:v prores -profile:v 0 -pix_fmt yuv422p10le -c:a pcm_s16le | intra bits=10
        prores-hq.mov | 20 | 24000/1001 | 192x108 | 8 | -c:v prores_ks -profile:v 3 -pix_fmt yuv422p10le -c:a pcm_s24le | intra bits=10
        prores-4444.mov | 12 | 25 | 192x108 | 0 | -c:v prores_ks -profile:v 4 -pix_fmt yuva444p10le | intra alpha
        prores-tff.mov | 20 | 25 | 720x576 | 2 | -c:v prores_ks -profile:v 2 -pix_fmt yuv422p10le -flags +ildct -top 1 -vf setfield=tff -c:a pcm_s16le | intra tff
        prores.mkv | 20 | 25 | 192x108 | 0 | -c:v prores -pix_fmt yuv422p10le | intra
        prores.mxf | 20 | 25 | 192x108 | 2 | -c:v prores_ks -profile:v 2 -pix_fmt yuv422p10le -c:a pcm_s16le -ar 48000 | intra
        vc3-lb.mov | 20 | 25 | 960x540 | 2 | -c:v dnxhd -profile:v dnxhr_lb -pix_fmt yuv422p -c:a pcm_s16le | intra bits=8
        vc3-hqx.mov | 12 | 25 | 960x540 | 0 | -c:v dnxhd -profile:v dnxhr_hqx -pix_fmt yuv422p10le | intra bits=10
        vc3-hd.mxf | 8 | 25 | 1920x1080 | 2 | -c:v dnxhd -b:v 120M -pix_fmt yuv422p -c:a pcm_s16le -ar 48000 | intra bits=8
        vc3-hd-tff.mov | 8 | 25 | 1920x1080 | 0 | -c:v dnxhd -b:v 120M -pix_fmt yuv422p -flags +ildct+ilme -top 1 -vf setfield=tff | intra tff
        mpeg2.mxf | 60 | 25 | 720x576 | 2 | -c:v mpeg2video -g 12 -bf 2 -b:v 5M -c:a pcm_s16le -ar 48000 | b=2
        mpeg2-closed.mxf | 60 | 25 | 192x108 | 0 | -c:v mpeg2video -g 12 -bf 0 -flags +cgop -sc_threshold 1000000000 | b=0
        mpeg2-intra.mxf | 30 | 25 | 192x108 | 0 | -c:v mpeg2video -g 1 -pix_fmt yuv422p | intra
        mpeg2.ts | 60 | 25 | 192x108 | 2 | -c:v mpeg2video -g 15 -bf 2 -c:a mp2 | b=2
        mpeg2.mkv | 60 | 30000/1001 | 192x108 | 0 | -c:v mpeg2video -g 15 -bf 1 | b=1
        mpeg2.mov | 60 | 25 | 192x108 | 0 | -c:v mpeg2video -g 12 -bf 2 | b=2
        mjpeg.mov | 20 | 25 | 192x108 | 1 | -c:v mjpeg -pix_fmt yuvj422p -c:a pcm_s16le | intra
        mjpeg.avi | 20 | 30 | 192x108 | 2 | -c:v mjpeg -pix_fmt yuvj420p -c:a pcm_s16le | intra
        mjpeg.mkv | 20 | 25 | 192x108 | 0 | -c:v mjpeg -pix_fmt yuvj420p | intra
        vp9.mkv | 40 | 25 | 192x108 | 2 | -c:v libvpx-vp9 -deadline realtime -cpu-used 8 -g 12 -keyint_min 12 -lag-in-frames 0 -c:a libopus | gop=12 b=0
        vp9.mp4 | 40 | 30 | 192x108 | 0 | -c:v libvpx-vp9 -deadline realtime -cpu-used 8 -g 12 -keyint_min 12 -lag-in-frames 0 | gop=12 b=0
        vp9.webm | 24 | 50 | 192x108 | 0 | -c:v libvpx-vp9 -deadline realtime -cpu-used 8 -g 12 | bits=8
        av1.mkv | 24 | 25 | 192x108 | 0 | -c:v libsvtav1 -preset 13 -g 12 -svtav1-params pred-struct=1 | gop=12
        av1.mp4 | 24 | 25 | 192x108 | 2 | -c:v libsvtav1 -preset 13 -g 12 -pix_fmt yuv420p10le -svtav1-params pred-struct=1 | gop=12 bits=10
        ffv1.mkv | 12 | 25 | 192x108 | 2 | -c:v ffv1 -g 1 -pix_fmt yuv422p10le -c:a flac | intra bits=10
        ffv1-12.mkv | 12 | 25 | 192x108 | 0 | -c:v ffv1 -g 1 -pix_fmt yuv422p12le | intra bits=12
        ffv1-444.avi | 12 | 25 | 192x108 | 0 | -c:v ffv1 -g 1 -pix_fmt yuv444p | intra bits=8
        cineform.mov | 12 | 25 | 192x112 | 0 | -c:v cfhd -pix_fmt yuv422p10le | intra bits=10
        png-alpha.mov | 12 | 25 | 192x108 | 0 | -c:v png -pix_fmt rgba | intra alpha
        rle-alpha.mov | 12 | 25 | 192x108 | 0 | -c:v qtrle -pix_fmt argb | alpha
        """;

    /// What was made, by name: several classes look at the same clips.
    private static final Map<String, byte[]> MADE = new ConcurrentHashMap<>();

    private FormatMatrix() {}

    /// One clip to be made, and what must be found in it.
    public record Case(
            String name, int frames, String rate, String raster, int channels, String arguments, String found) {
        @Override
        public String toString() {
            return name;
        }

        public boolean wants(String word) {
            return List.of(found.split(" ")).contains(word);
        }

        public Optional<String> value(String key) {
            return Stream.of(found.split(" "))
                    .filter(word -> word.startsWith(key + "="))
                    .map(word -> word.substring(key.length() + 1))
                    .findFirst();
        }
    }

    public static List<Case> cases() {
        return CASES.lines()
                .map(line -> line.split(" \\| "))
                .map(c ->
                        new Case(c[0], Integer.parseInt(c[1]), c[2], c[3], Integer.parseInt(c[4]), c[5], c[6].strip()))
                .toList();
    }

    /// Makes a clip, its frames numbered as [FrameNumbers] reads them.
    public static Path make(Case one, Path folder, MediaEngine engine) throws InterruptedException {
        Path file = folder.resolve(one.name);
        try {
            byte[] made = MADE.get(one.name);
            if (made == null) {
                encode(one, file, engine);
                MADE.put(one.name, Files.readAllBytes(file));
            } else {
                Files.write(file, made);
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        return file;
    }

    private static void encode(Case one, Path file, MediaEngine engine) throws InterruptedException {
        var line = new ArrayList<String>(List.of(
                "-f",
                "lavfi",
                "-i",
                "testsrc2=size=" + one.raster + ":rate=" + one.rate + "," + FrameNumbers.painted()));
        if (one.channels > 0) {
            double seconds = FrameRate.parse(one.rate).secondsOf(one.frames).toDouble();
            line.addAll(List.of(
                    "-f", "lavfi", "-i", "sine=sample_rate=48000:duration=" + seconds, "-ac", one.channels + ""));
        }
        if (!one.wants("vfr")) {
            line.addAll(List.of("-frames:v", one.frames + ""));
        } else {
            line.addAll(List.of(
                    "-t", FrameRate.parse(one.rate).secondsOf(one.frames).toDouble() + ""));
        }
        line.addAll(Arrays.asList(
                one.arguments.replace("{x264}", X264).replace("{x265}", X265).split(" ")));
        line.add("file:" + file);
        engine.run(line);
    }
}
