package docksort.engine;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import org.bytedeco.ffmpeg.avcodec.AVCodec;
import org.bytedeco.ffmpeg.avcodec.AVCodecContext;
import org.bytedeco.ffmpeg.avcodec.AVCodecDescriptor;
import org.bytedeco.ffmpeg.avcodec.AVPacket;
import org.bytedeco.ffmpeg.avcodec.AVPacketSideData;
import org.bytedeco.ffmpeg.avformat.AVFormatContext;
import org.bytedeco.ffmpeg.avformat.AVInputFormat;
import org.bytedeco.ffmpeg.avformat.AVStream;
import org.bytedeco.ffmpeg.avutil.AVDictionary;
import org.bytedeco.ffmpeg.avutil.AVFrame;
import org.bytedeco.ffmpeg.avutil.AVRational;
import org.bytedeco.ffmpeg.global.avcodec;
import org.bytedeco.ffmpeg.global.avformat;
import org.bytedeco.ffmpeg.global.avutil;
import org.bytedeco.ffmpeg.global.swscale;
import org.bytedeco.ffmpeg.swscale.SwsContext;
import org.bytedeco.javacpp.BytePointer;
import org.bytedeco.javacpp.DoublePointer;
import org.bytedeco.javacpp.IntPointer;
import org.bytedeco.javacpp.PointerPointer;

/// Decodes single frames of one file with the engine's libraries. Lives only in the process of
/// [FrameServer]: what a file contains may end that one and no other.
final class FrameDecoder implements AutoCloseable {
    /// Seconds before a moment that is sought again where the first jump landed behind it; the last is the
    /// start.
    private static final int[] LEADS = {0, 2, 12, Integer.MAX_VALUE};

    private final AVFormatContext format;
    private final AVCodecContext codec;
    private final AVRational base;
    private final int stream;
    private final boolean intraOnly;
    private final Turn turn;
    private final AVPacket packet = avcodec.av_packet_alloc();
    private AVFrame held = avutil.av_frame_alloc();
    private AVFrame ahead = avutil.av_frame_alloc();
    private boolean hasHeld;
    private boolean hasAhead;
    private long counted = -1; // number of the held frame, where frames are counted
    private SwsContext scaler = new SwsContext(null);

    private FrameDecoder(AVFormatContext format, AVCodecContext codec, int stream, boolean intraOnly) {
        this.format = format;
        this.codec = codec;
        this.stream = stream;
        this.base = format.streams(stream).time_base();
        this.intraOnly = intraOnly;
        this.turn = Turn.of(rotation(format.streams(stream)));
    }

    /// Degrees clockwise that a player turns the picture by.
    private static int rotation(AVStream stream) {
        AVPacketSideData matrix = avcodec.av_packet_side_data_get(
                stream.codecpar().coded_side_data(),
                stream.codecpar().nb_coded_side_data(),
                avcodec.AV_PKT_DATA_DISPLAYMATRIX);
        if (matrix == null || matrix.isNull()) {
            return 0;
        }
        double anticlockwise = avutil.av_display_rotation_get(new IntPointer(matrix.data()));
        return Double.isNaN(anticlockwise) ? 0 : Math.floorMod(Math.round(-anticlockwise / 90) * 90, 360);
    }

    /// @param address a path, or a [PartsList]
    static FrameDecoder open(String address) throws IOException {
        var format = new AVFormatContext(null);
        var options = new AVDictionary(null);
        boolean parts = PartsList.isAddress(address);
        avutil.av_dict_set(options, "protocol_whitelist", parts ? PartsList.PROTOCOLS : "file", 0);
        if (parts) {
            avutil.av_dict_set(options, "safe", "0", 0); // each part names its formats
        } else {
            avutil.av_dict_set(options, "format_whitelist", Formats.READ, 0);
        }
        AVInputFormat demuxer = parts ? avformat.av_find_input_format(PartsList.DEMUXER) : null;
        String url = parts ? address : MediaEngine.url(address);
        check(avformat.avformat_open_input(format, url, demuxer, options), "it cannot be opened");
        avutil.av_dict_free(options);
        check(avformat.avformat_find_stream_info(format, (PointerPointer<?>) null), "it tells no streams");
        for (int i = 0; i < format.nb_streams(); i++) {
            AVStream each = format.streams(i);
            boolean picture = each.codecpar().codec_type() == avutil.AVMEDIA_TYPE_VIDEO
                    && (each.disposition() & avformat.AV_DISPOSITION_ATTACHED_PIC) == 0;
            if (picture) {
                return new FrameDecoder(format, decoder(each), i, isIntraOnly(each));
            }
        }
        throw new IOException("it has no picture");
    }

    private static boolean isIntraOnly(AVStream stream) {
        AVCodecDescriptor descriptor =
                avcodec.avcodec_descriptor_get(stream.codecpar().codec_id());
        return descriptor != null && (descriptor.props() & avcodec.AV_CODEC_PROP_INTRA_ONLY) != 0;
    }

    private static AVCodecContext decoder(AVStream stream) throws IOException {
        AVCodec decoder = avcodec.avcodec_find_decoder(stream.codecpar().codec_id());
        if (decoder == null) {
            throw new IOException("there is no decoder for its codec");
        }
        AVCodecContext codec = avcodec.avcodec_alloc_context3(decoder);
        check(avcodec.avcodec_parameters_to_context(codec, stream.codecpar()), "its codec cannot be set up");
        codec.pkt_timebase(stream.time_base());
        codec.thread_count(0);
        // Threads over frames hold some frames back, which only pays where many are decoded to show one.
        codec.thread_type(
                isIntraOnly(stream)
                        ? AVCodecContext.FF_THREAD_SLICE
                        : AVCodecContext.FF_THREAD_SLICE | AVCodecContext.FF_THREAD_FRAME);
        check(avcodec.avcodec_open2(codec, decoder, (AVDictionary) null), "its codec cannot be opened");
        return codec;
    }

    private static void check(int result, String what) throws IOException {
        if (result < 0) {
            byte[] words = new byte[256];
            avutil.av_strerror(result, words, words.length);
            throw new IOException(what + ": " + new String(words, StandardCharsets.UTF_8).trim());
        }
    }

    /// Brings the frame that is shown at a moment.
    ///
    /// @param numerator seconds since the file's start, over `denominator`
    /// @param framesPerSecondNumerator rate of the recording, over its denominator
    void bring(long numerator, long denominator, long framesPerSecondNumerator, long framesPerSecondDenominator)
            throws IOException {
        long start = format.start_time() == avutil.AV_NOPTS_VALUE
                ? 0
                : avutil.av_rescale(format.start_time(), base.den(), (long) base.num() * avutil.AV_TIME_BASE);
        long target = start + avutil.av_rescale(numerator, base.den(), denominator * base.num());
        long frame = Math.max(
                1, avutil.av_rescale(framesPerSecondDenominator, base.den(), framesPerSecondNumerator * base.num()));
        long slack = frame / 4; // far above rounded time stamps, far below a frame
        boolean near =
                hasHeld && shownAt(held) <= target + slack && target - shownAt(held) <= frame * (intraOnly ? 2 : 12);
        if (near) {
            decodeUntil(target, slack);
            return;
        }
        for (int lead : LEADS) {
            long from = lead == Integer.MAX_VALUE ? Long.MIN_VALUE : target - (long) lead * base.den() / base.num();
            if (seek(from)) {
                decodeUntil(target, slack);
                if (hasHeld) {
                    return;
                }
            }
        }
        if (!hasAhead) {
            throw new IOException("no frame of it could be decoded");
        }
        swap(); // it begins after that moment
        hasHeld = true;
        hasAhead = false;
    }

    private boolean seek(long ticks) {
        hasHeld = false;
        hasAhead = false;
        counted = -1;
        int result = ticks == Long.MIN_VALUE
                ? avformat.avformat_seek_file(format, stream, Long.MIN_VALUE, 0, Long.MAX_VALUE, 0)
                : avformat.av_seek_frame(format, stream, ticks, avformat.AVSEEK_FLAG_BACKWARD);
        avcodec.avcodec_flush_buffers(codec);
        return result >= 0;
    }

    /// Frames come in the order in which they are shown. The last that is not shown after the moment is
    /// held.
    private void decodeUntil(long target, long slack) {
        if (hasAhead && shownAt(ahead) <= target + slack) {
            swap();
            hasHeld = true;
            hasAhead = false;
        }
        while (!hasAhead && !(hasHeld && Math.abs(shownAt(held) - target) <= slack) && next(ahead)) {
            if (shownAt(ahead) <= target + slack) {
                swap();
                hasHeld = true;
            } else {
                hasAhead = true;
            }
        }
    }

    /// Brings a frame by its number, for files whose time stamps do not tell the order.
    void count(long number) throws IOException {
        if (!hasHeld || counted < 0 || counted > number) {
            seek(Long.MIN_VALUE);
        }
        while (counted < number && next(ahead)) {
            swap();
            hasHeld = true;
            counted++;
        }
        if (!hasHeld) {
            throw new IOException("no frame of it could be decoded");
        }
    }

    private void swap() {
        AVFrame before = held;
        held = ahead;
        ahead = before;
    }

    private static long shownAt(AVFrame frame) {
        return frame.best_effort_timestamp();
    }

    private boolean next(AVFrame into) {
        avutil.av_frame_unref(into);
        while (true) {
            int received = avcodec.avcodec_receive_frame(codec, into);
            if (received >= 0) {
                return true;
            }
            if (received != avutil.AVERROR_EAGAIN()) {
                return false;
            }
            int read = avformat.av_read_frame(format, packet);
            if (read < 0) {
                avcodec.avcodec_send_packet(codec, null);
            } else {
                if (packet.stream_index() == stream) {
                    avcodec.avcodec_send_packet(codec, packet); // a broken one is passed over, as players do
                }
                avcodec.av_packet_unref(packet);
            }
        }
    }

    /// The frame that was brought, or a part of it, turned as a player turns it and in another size.
    ///
    /// @param part left, top, width and height in pixels of the turned frame; a width of 0 for all of it
    /// @param grey one byte of luma a pixel in full range, else blue, green, red and alpha
    byte[] picture(int[] part, int width, int height, boolean grey) throws IOException {
        AVFrame view = avutil.av_frame_clone(held);
        try {
            if (part[2] > 0) {
                int[] coded = turn.coded(part, held.width(), held.height());
                int left = Math.clamp(coded[0], 0, Math.max(0, view.width() - 1));
                int top = Math.clamp(coded[1], 0, Math.max(0, view.height() - 1));
                view.crop_left(left);
                view.crop_top(top);
                view.crop_right(Math.max(0, view.width() - left - coded[2]));
                view.crop_bottom(Math.max(0, view.height() - top - coded[3]));
                check(avutil.av_frame_apply_cropping(view, avutil.AV_FRAME_CROP_UNALIGNED), "it cannot be cut out");
            }
            int line = turn.isLying() ? height : width;
            int lines = turn.isLying() ? width : height;
            return turn.turned(scaled(view, line, lines, grey), line, lines, grey ? 1 : 4);
        } finally {
            avutil.av_frame_free(view);
        }
    }

    private byte[] scaled(AVFrame view, int width, int height, boolean grey) throws IOException {
        boolean larger = width >= view.width();
        scaler = swscale.sws_getCachedContext(
                scaler,
                view.width(),
                view.height(),
                view.format(),
                width,
                height,
                grey ? avutil.AV_PIX_FMT_GRAY8 : avutil.AV_PIX_FMT_BGRA,
                larger && !grey ? swscale.SWS_POINT : swscale.SWS_BICUBIC,
                null,
                null,
                (DoublePointer) null);
        if (scaler == null || scaler.isNull()) {
            throw new IOException("its pixels cannot be converted");
        }
        boolean full = view.color_range() == avutil.AVCOL_RANGE_JPEG;
        swscale.sws_setColorspaceDetails(
                scaler,
                swscale.sws_getCoefficients(matrix(view)),
                full ? 1 : 0,
                swscale.sws_getCoefficients(grey ? matrix(view) : swscale.SWS_CS_DEFAULT),
                1, // luma of video range and of full range is compared on one scale
                0,
                1 << 16,
                1 << 16);
        int line = width * (grey ? 1 : 4);
        byte[] bytes = new byte[line * height];
        try (var target = new BytePointer((long) line * height + 64);
                var planes = new PointerPointer<BytePointer>(4);
                var lines = new IntPointer(line, 0, 0, 0)) {
            planes.put(0, target);
            check(
                    swscale.sws_scale(scaler, view.data(), view.linesize(), 0, view.height(), planes, lines),
                    "its pixels cannot be converted");
            ByteBuffer filled = target.limit((long) line * height).asBuffer();
            filled.get(bytes);
        }
        return bytes;
    }

    /// Where nothing is stated, the matrix of HD from 720 lines on (common practice, no source).
    private static int matrix(AVFrame view) {
        return switch (view.colorspace()) {
            case avutil.AVCOL_SPC_BT709 -> swscale.SWS_CS_ITU709;
            case avutil.AVCOL_SPC_BT2020_NCL, avutil.AVCOL_SPC_BT2020_CL -> swscale.SWS_CS_BT2020;
            case avutil.AVCOL_SPC_UNSPECIFIED, avutil.AVCOL_SPC_RGB ->
                view.height() >= 720 ? swscale.SWS_CS_ITU709 : swscale.SWS_CS_ITU601;
            default -> swscale.SWS_CS_ITU601;
        };
    }

    int width() {
        return turn.isLying() ? held.height() : held.width();
    }

    int height() {
        return turn.isLying() ? held.width() : held.height();
    }

    @Override
    public void close() {
        swscale.sws_freeContext(scaler);
        avutil.av_frame_free(held);
        avutil.av_frame_free(ahead);
        avcodec.av_packet_free(packet);
        avcodec.avcodec_free_context(codec);
        avformat.avformat_close_input(format);
    }
}
