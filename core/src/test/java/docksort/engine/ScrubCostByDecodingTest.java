package docksort.engine;

import static org.assertj.core.api.Assertions.assertThat;
import static org.bytedeco.ffmpeg.global.avcodec.*;
import static org.bytedeco.ffmpeg.global.avformat.*;
import static org.bytedeco.ffmpeg.global.avutil.*;

import docksort.Footage;
import docksort.WithMedia;
import docksort.media.ClipSource;
import docksort.media.FrameRate;
import docksort.media.FrameStructure;
import docksort.media.Rational;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.bytedeco.ffmpeg.avcodec.AVCodecContext;
import org.bytedeco.ffmpeg.avcodec.AVPacket;
import org.bytedeco.ffmpeg.avformat.AVFormatContext;
import org.bytedeco.ffmpeg.avutil.AVDictionary;
import org.bytedeco.ffmpeg.avutil.AVFrame;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/// The scrub cost by brute force: for every frame of a real file the decoder is started at the keyframe
/// before it and fed picture by picture until the frame comes out bit-exact as in a full decode; the
/// pictures fed are counted. Of the keyframes that work the latest is taken.
@WithMedia
class ScrubCostByDecodingTest {
    private static final String X264 = "scenecut=0:b-adapt=0:threads=1:";

    @TempDir
    Path folder = Path.of("");

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "libx264 | 40 | keyint=1:bframes=0",
                "libx264 | 40 | keyint=10:min-keyint=10:bframes=0",
                "libx264 | 48 | keyint=24:min-keyint=24:bframes=0",
                "libx264 | 40 | keyint=10:min-keyint=10:bframes=1",
                "libx264 | 45 | keyint=15:min-keyint=15:bframes=2:b-pyramid=none",
                "libx264 | 48 | keyint=12:min-keyint=12:bframes=3:b-pyramid=none",
                "libx264 | 48 | keyint=12:min-keyint=12:bframes=3:b-pyramid=strict",
                "libx264 | 60 | keyint=60:min-keyint=60:bframes=2",
                "libx264 | 48 | keyint=12:min-keyint=12:bframes=3:open-gop=1",
                "libx264 | 50 | keyint=25:min-keyint=7:bframes=1:open-gop=1",
                "libx264 | 30 | keyint=10:min-keyint=10:bframes=0:intra-refresh=0:ref=1",
                "mpeg2video | 48 | 12 0",
                "mpeg2video | 48 | 12 2",
                "mpeg2video | 45 | 9 1"
            })
    void equalsCountingDecodedPictures(String encoder, int frames, String structure) throws Exception {
        Path file = folder.resolve("clip.mov");
        try (MediaEngine engine = MediaEngine.locate()) {
            String[] arguments = encoder.equals("libx264")
                    ? new String[] {"-c:v", encoder, "-pix_fmt", "yuv420p", "-x264-params", X264 + structure}
                    : new String[] {
                        "-c:v",
                        encoder,
                        "-g",
                        structure.substring(0, structure.indexOf(' ')),
                        "-bf",
                        structure.substring(structure.length() - 1),
                        "-q:v",
                        "4"
                    };
            new Footage(engine).clip(file, "64x64", "25", frames, arguments);
            var inspection = (Inspection.Known) new Inspector(engine)
                    .inspect(new ClipSource.SingleFile(file), FrameRate.FPS_25, new Cancellation());
            FrameStructure found = inspection.facts().video().orElseThrow().structure();
            try (var reader = new Pictures(file)) {
                List<Integer> counts = reader.countForEveryFrame();
                assertThat(counts).hasSize(frames);
                long sum = counts.stream().mapToLong(Integer::longValue).sum();
                assertThat(found.scrubCost().mean()).isEqualTo(new Rational(sum, frames));
                assertThat(found.scrubCost().worst())
                        .isEqualTo(counts.stream()
                                .mapToInt(Integer::intValue)
                                .max()
                                .orElseThrow());
            }
        }
    }

    /// All packets of a file, and a decoder for any run of them.
    private static final class Pictures implements AutoCloseable {
        private final AVFormatContext file = new AVFormatContext(null);
        private final List<AVPacket> packets = new ArrayList<>();

        Pictures(Path path) {
            av_log_set_level(AV_LOG_FATAL);
            assertThat(avformat_open_input(file, path.toString(), null, (AVDictionary) null))
                    .isZero();
            avformat_find_stream_info(file, (AVDictionary) null);
            AVPacket packet = av_packet_alloc();
            while (av_read_frame(file, packet) >= 0) {
                packets.add(av_packet_clone(packet));
                av_packet_unref(packet);
            }
        }

        List<Integer> countForEveryFrame() {
            Map<Long, Integer> whole = decode(0, packets.size() - 1);
            var counts = new ArrayList<Integer>();
            for (int target = 0; target < packets.size(); target++) {
                long shown = packets.get(target).pts();
                for (int from = target; from >= 0; from--) {
                    boolean key = (packets.get(from).flags() & AV_PKT_FLAG_KEY) != 0;
                    if (key
                            && packets.get(from).pts() <= shown
                            && Objects.equals(decode(from, target).get(shown), whole.get(shown))) {
                        counts.add(target - from + 1);
                        break;
                    }
                }
            }
            return counts;
        }

        /// The pictures that come out, by when they are shown, as checksums.
        private Map<Long, Integer> decode(int from, int to) {
            AVCodecContext decoder = avcodec_alloc_context3(
                    avcodec_find_decoder(file.streams(0).codecpar().codec_id()));
            avcodec_parameters_to_context(decoder, file.streams(0).codecpar());
            decoder.thread_count(1);
            avcodec_open2(decoder, decoder.codec(), (AVDictionary) null);
            var found = new HashMap<Long, Integer>();
            AVFrame frame = av_frame_alloc();
            for (int i = from; i <= to; i++) {
                avcodec_send_packet(decoder, packets.get(i));
                take(decoder, frame, found);
            }
            avcodec_send_packet(decoder, (AVPacket) null);
            take(decoder, frame, found);
            av_frame_free(frame);
            avcodec_free_context(decoder);
            return found;
        }

        private static void take(AVCodecContext decoder, AVFrame frame, Map<Long, Integer> found) {
            while (avcodec_receive_frame(decoder, frame) >= 0) {
                var bytes = new byte[frame.linesize(0) * frame.height()];
                frame.data(0).position(0).get(bytes);
                found.put(frame.pts(), Arrays.hashCode(bytes));
            }
        }

        @Override
        public void close() {
            packets.forEach(packet -> av_packet_free(packet));
            avformat_close_input(file);
        }
    }
}
