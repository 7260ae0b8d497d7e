package docksort.engine;

import docksort.media.AudioStream;
import docksort.media.CopyForm;
import docksort.media.FrameRange;
import docksort.media.PixelFormat.Chroma;
import docksort.media.Rational;
import docksort.media.Timecode;
import docksort.media.VideoFacts;
import docksort.media.VideoTarget;
import docksort.media.Wrapper;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.IntStream;

/// The ffmpeg arguments that make one copy.
public final class CopyCommand {
    private static final int RATE_OF_MXF = 48_000; // samples a second

    private CopyCommand() {}

    /// Arguments between the program's name and nothing else: input, filters, encoder, output.
    public static List<String> arguments(CopyOrder order) {
        return arguments(List.of(order), Optional.empty(), 0);
    }

    /// Whether two copies can come from one decode: they are of one clip and the same stretch of it, and
    /// pictures are coded anew for both.
    public static boolean goTogether(CopyOrder one, CopyOrder other) {
        return one.source().equals(other.source())
                && one.form().range().equals(other.form().range())
                && one.form().target().isPresent()
                && other.form().target().isPresent()
                && !one.form().hardware()
                && !other.form().hardware();
    }

    /// One input, opened and decoded once, and as many outputs as there are orders.
    ///
    /// @param orders all of one clip and range, see [#goTogether]
    /// @param hardware the engine's name of an H.264 encoder of the graphics processor, empty for software
    /// @param speedCap most times real time that the input is read at, 0 for no limit
    static List<String> arguments(List<CopyOrder> orders, Optional<String> hardware, int speedCap) {
        CopyOrder first = orders.getFirst();
        Optional<VideoFacts> picture = first.facts().video();
        var line = new ArrayList<String>();
        line.addAll(jump(first).before());
        if (speedCap > 0) {
            line.addAll(List.of("-readrate", Integer.toString(speedCap)));
        }
        picture.ifPresent(video -> line.addAll(Decoders.before(video)));
        line.addAll(MediaEngine.input(first.source(), picture.map(VideoFacts::rate)));
        var overlays = new ArrayList<Integer>();
        int inputs = 1;
        for (CopyOrder order : orders) {
            overlays.add(inputs);
            for (String source : overlays(order.form())) {
                line.addAll(List.of("-f", "lavfi", "-i", source));
                inputs++;
            }
        }
        for (int i = 0; i < orders.size(); i++) {
            line.addAll(output(orders.get(i), i, overlays.get(i), hardware));
        }
        return List.copyOf(line);
    }

    private static List<String> overlays(CopyForm form) {
        return form.target().isPresent()
                ? OverlayFilters.sources(form.burnIns(), form.raster(), form.pixelAspect())
                : List.of();
    }

    private static List<String> output(CopyOrder order, int number, int overlays, Optional<String> hardware) {
        CopyForm form = order.form();
        return form.target()
                .map(target -> picture(order, number, overlays, form, target, hardware))
                .orElseGet(() -> form.isRewrap() ? rewrap(order, form) : soundAlone(order, form));
    }

    private static List<String> picture(
            CopyOrder order, int number, int overlays, CopyForm form, VideoTarget target, Optional<String> hardware) {
        VideoFacts picture = order.facts().video().orElseThrow();
        String filters = PictureFilters.of(order, picture, target, overlays);
        boolean severalInputs = !overlays(form).isEmpty();
        var line = new ArrayList<String>();
        if (order.pictures().isPresent()) {
            // What goes to the encoder goes to the small pictures, too, so that one frame is one frame in both.
            line.addAll(List.of(
                    "-filter_complex",
                    "[0:V:0]%s,split[p%d][t%d];[t%d]%s,settb=1/25,setpts=N[s%d]"
                            .formatted(
                                    filters,
                                    number,
                                    number,
                                    number,
                                    FrameSamples.Small.of(picture, form).filters(),
                                    number),
                    "-map",
                    "[p" + number + "]"));
        } else if (severalInputs) {
            line.addAll(List.of("-filter_complex", "[0:V:0]" + filters + "[p" + number + "]"));
            line.addAll(List.of("-map", "[p" + number + "]"));
        } else {
            line.addAll(List.of("-map", "0:V:0"));
        }
        if (!order.facts().audio().isEmpty()) {
            line.addAll(mapped(order, 0, number, jump(order).sound()));
        }
        line.addAll(List.of("-map_metadata", "-1", "-map_chapters", "-1"));
        if (order.pictures().isEmpty() && !severalInputs && !filters.isEmpty()) {
            line.addAll(List.of("-vf", filters));
        }
        line.addAll(List.of("-fps_mode", "cfr", "-r", form.rate().toString()));
        if (form.range().isPresent()) {
            line.addAll(List.of("-frames:v", Long.toString(form.frames())));
            line.addAll(List.of("-t", Jump.seconds(form.rate().secondsOf(form.frames()))));
        }
        line.addAll(hardware.map(name -> hardware(name, form, target)).orElseGet(() -> encoder(form, target)));
        String fields = form.interlaced() ? target.family() == VideoTarget.Family.H264 ? "+ildct+ilme" : "+ildct" : "";
        String header = PacketHashes.needsGlobalHeader(order) ? "+global_header" : "";
        if (!fields.isEmpty() || !header.isEmpty()) {
            line.addAll(List.of("-flags", fields + header));
        }
        if ((isRgb(picture) && target.chroma() != Chroma.RGB) || !form.look().keepsColours()) {
            line.addAll(List.of("-colorspace", "bt709", "-color_range", "tv"));
        }
        line.addAll(sound(order.facts().audio(), form, jump(order).sound()));
        line.addAll(names(order, form));
        line.addAll(wrapper(order));
        order.pictures().ifPresent(small -> {
            // One after the other, whatever the rate: they are counted, not timed.
            line.addAll(List.of("-map", "[s" + number + "]", "-fps_mode", "passthrough", "-enc_time_base", "1:25"));
            if (form.range().isPresent()) {
                line.addAll(List.of("-frames:v", Long.toString((form.interlaced() ? 2 : 1) * form.frames())));
            }
            line.addAll(List.of("-f", "rawvideo", "file:" + small));
        });
        return line;
    }

    /// Start timecode and reel.
    private static List<String> names(CopyOrder order, CopyForm form) {
        var line = new ArrayList<String>();
        start(order, form).ifPresent(start -> line.addAll(List.of("-timecode", start.toString())));
        order.facts().reel().ifPresent(reel -> line.addAll(List.of("-metadata:s:v:0", "reel_name=" + reel)));
        return line;
    }

    /// To the first frame of the copy.
    static Jump jump(CopyOrder order) {
        long first = order.form().range().map(FrameRange::first).orElse(0L);
        return order.facts()
                .video()
                .map(picture -> order.facts().audio().isEmpty()
                        ? Jump.ofPicture(order.source(), first, picture.rate(), picture.frames())
                        : Jump.to(order.source(), first, picture.rate(), picture.frames()))
                .orElse(Jump.NONE);
    }

    static Optional<Timecode> start(CopyOrder order, CopyForm form) {
        return order.facts()
                .startTimecode()
                .map(start -> start.plus(form.range().map(FrameRange::first).orElse(0L)));
    }

    /// One copy whose pictures are coded already.
    ///
    /// @param pictures number of the input with its pictures
    /// @param original number of the input with its sound, empty for none
    static List<String> joined(CopyOrder order, int pictures, Optional<Integer> original) {
        CopyForm form = order.form();
        var line = new ArrayList<>(List.of("-map", pictures + ":V:0"));
        original.ifPresent(number ->
                line.addAll(mapped(order, number, pictures, jump(order).sound())));
        line.addAll(List.of("-map_metadata", "-1", "-map_chapters", "-1", "-c:v", "copy"));
        // What coded them is told of the copy, too; the container names the tracks by itself.
        line.addAll(List.of("-map_metadata:s:v:0", pictures + ":s:v:0", "-metadata:s:v:0", "handler_name="));
        if (form.range().isPresent()) {
            line.addAll(List.of("-t", Jump.seconds(form.rate().secondsOf(form.frames()))));
        }
        line.addAll(sound(order.facts().audio(), form, jump(order).sound()));
        line.addAll(names(order, form));
        line.addAll(wrapper(order));
        return List.copyOf(line);
    }

    /// Coded frames go over as they are; the sound as in every other copy.
    private static List<String> rewrap(CopyOrder order, CopyForm form) {
        var line = new ArrayList<>(List.of("-map", "0:V:0"));
        line.addAll(mapped(order, 0, 0, ""));
        line.addAll(List.of("-map_metadata", "-1", "-map_chapters", "-1", "-c:v", "copy"));
        Rational display = form.pixelAspect()
                .times(new Rational(form.raster().width(), form.raster().height()));
        line.addAll(List.of("-aspect:v:0", display.numerator() + ":" + display.denominator()));
        if (COUNT_MILLISECONDS.contains(order.facts().container())) {
            // What a container rounded to its tick gets its exact place again, counted from the first picture:
            // where that one begins half a frame late, rounding would fall to either side.
            Rational frame = Rational.of(1).dividedBy(form.rate().exact());
            Rational tick = frame.dividedBy(Rational.of(TICKS_OF_A_FRAME));
            String place = "=round((%sTS-STARTPTS)*TB/TB_OUT/" + TICKS_OF_A_FRAME + ")*" + TICKS_OF_A_FRAME
                    + "+round(STARTPTS*TB/TB_OUT)";
            line.addAll(List.of(
                    "-bsf:v",
                    "setts=time_base=" + tick.numerator() + "/" + tick.denominator() + ":pts"
                            + place.formatted("P") + ":dts" + place.formatted("D") + ":duration="
                            + TICKS_OF_A_FRAME));
        } else {
            line.addAll(List.of("-r:v:0", form.rate().toString()));
        }
        line.addAll(sound(order.facts().audio(), form, ""));
        line.addAll(names(order, form));
        line.addAll(wrapper(order));
        return List.copyOf(line);
    }

    /// Containers that count milliseconds, by the names that inspection gives them.
    private static final int TICKS_OF_A_FRAME = 20; // what begins between two frames stays with its sound
    private static final Set<String> COUNT_MILLISECONDS = Set.of("MKV", "FLV", "ASF");

    private static List<String> soundAlone(CopyOrder order, CopyForm form) {
        List<AudioStream> audio = order.facts().audio();
        var line = new ArrayList<String>();
        String inputs = IntStream.range(0, audio.size())
                .mapToObj(i -> "[0:a:" + i + "]")
                .collect(Collectors.joining());
        int channels = audio.stream().mapToInt(AudioStream::channels).sum();
        String joined = audio.size() > 1 ? inputs + "amerge=inputs=" + audio.size() : inputs + "anull";
        String cut = jump(order).sound(); // it begins with the picture, as every copy
        String joinedFrom = cut.isEmpty() ? joined : joined + "," + cut.substring(0, cut.length() - 1);
        String made = form.sound().mix().isKept()
                ? muting(form, 0, channels, ",")
                : "," + MixFilters.pan(form.sound().mix().streams(channels).getFirst(), audio.size() > 1);
        line.addAll(List.of("-filter_complex", joinedFrom + made + "[out]", "-map", "[out]"));
        line.addAll(List.of("-map_metadata", "-1", "-vn"));
        int bits = audio.stream().mapToInt(form.sound()::bitsFor).max().orElse(16);
        line.addAll(List.of("-c:a", bits > 16 ? "pcm_s24le" : "pcm_s16le"));
        line.addAll(List.of("-ar", Integer.toString(form.sound().rateFor(audio.getFirst()))));
        line.addAll(wrapper(order));
        return List.copyOf(line);
    }

    private static List<String> wrapper(CopyOrder order) {
        var line = new ArrayList<String>();
        Wrapper wrapper = order.form().wrapper();
        order.tags().forEach((key, value) -> line.addAll(List.of("-metadata", key + "=" + value)));
        List<String> container = switch (wrapper) {
            case MOV -> List.of("mov", "movflags", "+use_metadata_tags");
            case MP4 -> List.of("mp4", "movflags", "+use_metadata_tags+faststart");
            case MXF -> List.of("mxf");
            case WAV -> List.of("wav", "rf64", "auto");
        };
        if (order.packets().isPresent()) {
            String options = container.size() > 1 ? ":" + container.get(1) + "=" + container.get(2) : "";
            line.addAll(PacketHashes.written(
                    order, container.getFirst() + options, order.packets().get()));
        } else {
            if (container.size() > 1) {
                line.addAll(List.of("-" + container.get(1), container.get(2)));
            }
            line.addAll(List.of("-f", container.getFirst(), "file:" + order.output()));
        }
        return line;
    }

    static boolean isRgb(VideoFacts picture) {
        return picture.isRgb();
    }

    /// In the HD family the encoder picks the compression id by raster, depth and a data rate from its
    /// table, whatever the frame rate is: 36, 120 and 185 Mb/s stand for the classes at 1080 lines, 75
    /// and 90 Mb/s for those at 720 (libavcodec/dnxhddata.c, FFmpeg 8.0).
    private static List<String> encoder(CopyForm form, VideoTarget target) {
        boolean full = form.raster().height() == 1080;
        return switch (target) {
            case PRORES_PROXY -> proRes("0", form);
            case PRORES_LT -> proRes("1", form);
            case PRORES_422 -> proRes("2", form);
            case PRORES_HQ -> proRes("3", form);
            case PRORES_4444 ->
                List.of(
                        "-c:v",
                        Encoders.encoder(target),
                        "-profile:v",
                        "4",
                        "-pix_fmt",
                        form.keepsAlpha() ? "yuva444p10le" : "yuv444p10le",
                        "-vendor",
                        "dock");
            case VC3_HD_LOW -> hd("36M", "yuv422p");
            case VC3_HD_MIDDLE -> hd(full ? "120M" : "75M", "yuv422p");
            case VC3_HD -> hd(full ? "185M" : "90M", "yuv422p");
            case VC3_HD_X -> hd(full ? "185M" : "90M", "yuv422p10le");
            case VC3_LB -> independent("dnxhr_lb", "yuv422p");
            case VC3_SQ -> independent("dnxhr_sq", "yuv422p");
            case VC3_HQ -> independent("dnxhr_hq", "yuv422p");
            case VC3_HQX -> independent("dnxhr_hqx", "yuv422p10le");
            case VC3_444 -> independent("dnxhr_444", "yuv444p10le");
            case MOTION_JPEG -> List.of("-c:v", "mjpeg", "-q:v", "3", "-pix_fmt", "yuvj422p", "-color_range", "pc");
            case H264_INTRA ->
                List.of("-c:v", "libx264", "-preset", "veryfast", "-crf", "18", "-g", "1", "-pix_fmt", "yuv420p");
            case H264_INTRA_10 ->
                List.of("-c:v", "libx264", "-preset", "veryfast", "-crf", "18", "-g", "1", "-pix_fmt", "yuv422p10le");
            case H264_LONG ->
                List.of(
                        "-c:v",
                        "libx264",
                        "-preset",
                        "veryfast",
                        "-crf",
                        "23",
                        "-profile:v",
                        "high",
                        "-g",
                        group(form, target),
                        "-bf",
                        "1",
                        "-pix_fmt",
                        "yuv420p");
            case HEVC_LONG ->
                List.of(
                        "-c:v",
                        Encoders.encoder(target),
                        "-preset",
                        "superfast",
                        "-crf",
                        "24",
                        "-x265-params",
                        "log-level=error:bframes=1:keyint=" + group(form, target),
                        "-tag:v",
                        "hvc1",
                        "-pix_fmt",
                        "yuv420p10le");
            case AV1_LONG ->
                List.of(
                        "-c:v",
                        Encoders.encoder(target),
                        "-preset",
                        "10",
                        "-crf",
                        "35",
                        "-g",
                        group(form, target),
                        "-pix_fmt",
                        "yuv420p10le");
            case CINEFORM -> List.of("-c:v", "cfhd", "-pix_fmt", "yuv422p10le");
            case CINEFORM_ALPHA -> List.of("-c:v", "cfhd", "-pix_fmt", "gbrap12le");
        };
    }

    /// Frames from one keyframe to the next: two seconds of a long-GOP copy.
    private static String group(CopyForm form, VideoTarget target) {
        return target.isAllIntra() ? "1" : Long.toString(Math.max(1, form.rate().framesIn(Rational.of(2))));
    }

    private static List<String> hardware(String name, CopyForm form, VideoTarget target) {
        String rate = target.isAllIntra() ? "60M" : "6M";
        String pixels = target.bitDepth() > 8 ? "yuv422p10le" : "yuv420p";
        return List.of("-c:v", name, "-b:v", rate, "-g", group(form, target), "-pix_fmt", pixels);
    }

    /// The quick encoder of the two ends with a crash where a field has eight lines more than a whole
    /// number of macroblock rows, as half of 480 lines has (measured with FFmpeg 8.0.1).
    private static List<String> proRes(String profile, CopyForm form) {
        boolean crashes = form.interlaced() && form.raster().height() / 2 % 16 == 8;
        return List.of(
                "-c:v",
                crashes ? "prores_ks" : "prores",
                "-profile:v",
                profile,
                "-pix_fmt",
                "yuv422p10le",
                "-vendor",
                "dock");
    }

    private static List<String> hd(String rate, String pixels) {
        return List.of("-c:v", "dnxhd", "-profile:v", "dnxhd", "-b:v", rate, "-pix_fmt", pixels);
    }

    private static List<String> independent(String profile, String pixels) {
        return List.of("-c:v", "dnxhd", "-profile:v", profile, "-pix_fmt", pixels);
    }

    /// Silence where packets are missing: a container without times of its own for each sample would
    /// close the gap, and all that follows would sound early.
    private static final String GAPLESS = "aresample=async=1:min_hard_comp=0.01,";

    /// Streams as they are, or those that a mix asks for.
    ///
    /// @param input number of the input that has the sound
    /// @param number tells the mixes from those of other outputs
    private static List<String> mapped(CopyOrder order, int input, int number, String cut) {
        CopyForm form = order.form();
        List<AudioStream> audio = order.facts().audio();
        if (form.sound().mix().isKept() || audio.isEmpty()) {
            return List.of("-map", input + ":a?");
        }
        String longest = Jump.seconds(
                form.range().map(_ -> form.rate().secondsOf(form.frames())).orElseGet(() -> longest(audio)));
        var around = new MixFilters.Around(GAPLESS, cut, mixRate(audio, form), longest, withPicture(form));
        return MixFilters.mapped(form.sound().mix(), audio, input, number, around);
    }

    private static Rational longest(List<AudioStream> audio) {
        return audio.stream().map(AudioStream::seconds).max(Rational::compareTo).orElse(Rational.ZERO);
    }

    private static int mixRate(List<AudioStream> audio, CopyForm form) {
        return form.wrapper() == Wrapper.MXF ? RATE_OF_MXF : form.sound().rateFor(audio.getFirst());
    }

    /// Uncompressed, channels kept; 24 bit only where the source has more than 16 or the recipe says so.
    /// MP4 gets compressed sound, because few programs read other sound in it.
    private static List<String> sound(List<AudioStream> audio, CopyForm form, String cut) {
        if (!form.sound().mix().isKept()) {
            return MixFilters.coded(audio, form);
        }
        var line = new ArrayList<String>();
        int before = 0;
        for (int i = 0; i < audio.size(); i++) {
            AudioStream stream = audio.get(i);
            if (form.wrapper() == Wrapper.MP4) {
                line.addAll(List.of("-c:a:" + i, "aac", "-b:a:" + i, "256k"));
            } else {
                line.addAll(List.of("-c:a:" + i, form.sound().bitsFor(stream) > 16 ? "pcm_s24le" : "pcm_s16le"));
            }
            int rate =
                    form.wrapper() == Wrapper.MXF ? RATE_OF_MXF : form.sound().samplesPerSecond();
            if (rate > 0) {
                line.addAll(List.of("-ar:a:" + i, Integer.toString(rate)));
            }
            // A range behind the end of the sound has silence there, so that no stream of the original is lacking.
            String padding = form.range()
                    .map(_ -> "apad=whole_dur=" + Jump.seconds(form.rate().secondsOf(form.frames())) + ",")
                    .orElse("");
            String muted = muting(form, before, stream.channels(), "");
            String filters = GAPLESS + cut + padding + (muted.isEmpty() ? "" : muted + ",") + withPicture(form);
            line.addAll(List.of("-filter:a:" + i, filters.replaceFirst(",$", "")));
            before += stream.channels();
        }
        return line;
    }

    /// MXF has sound frame by frame: a frame without it is left out, and so is sound without a frame.
    private static String withPicture(CopyForm form) {
        if (form.wrapper() != Wrapper.MXF) {
            return "";
        }
        long frames = form.frames() + (form.framesMayRound() ? 1 : 0);
        Rational samples = form.rate().secondsOf(frames).times(Rational.of(RATE_OF_MXF));
        return "aresample=" + RATE_OF_MXF + ",apad,atrim=end_sample=" + samples.rounded();
    }

    /// Silences channels of one stream.
    ///
    /// @param before channels of the streams before it
    private static String muting(CopyForm form, int before, int channels, String lead) {
        boolean any = form.sound().muted().stream().anyMatch(c -> c > before && c <= before + channels);
        if (!any) {
            return "";
        }
        return lead + "pan=" + channels + "c|"
                + IntStream.range(0, channels)
                        .mapToObj(
                                c -> "c" + c + "=" + (form.sound().muted().contains(before + c + 1) ? "0*c" : "c") + c)
                        .collect(Collectors.joining("|"));
    }
}
