package docksort.engine;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.StreamReadConstraints;
import com.fasterxml.jackson.core.StreamReadFeature;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import docksort.index.PictureSays;
import docksort.media.AudioStream;
import docksort.media.ByteSize;
import docksort.media.ClipFacts;
import docksort.media.ClipSource;
import docksort.media.Codec;
import docksort.media.Colour;
import docksort.media.Findings;
import docksort.media.FrameRate;
import docksort.media.FrameStructure;
import docksort.media.FrameStructure.Extent;
import docksort.media.Frames;
import docksort.media.Raster;
import docksort.media.Rational;
import docksort.media.ScanType;
import docksort.media.Timecode;
import docksort.media.VideoFacts;
import docksort.media.VideoFacts.RateKind;
import java.io.IOException;
import java.io.InputStream;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;

/// Reads one answer of ffprobe and makes facts of it. What it says is untrusted: nothing is taken without a
/// range check, and what is missing stays missing.
final class ProbeReader {
    private static final ObjectMapper JSON = new ObjectMapper(JsonFactory.builder()
            .streamReadConstraints(StreamReadConstraints.builder()
                    .maxNestingDepth(50)
                    .maxStringLength(200_000)
                    .maxDocumentLength(64L * 1024 * 1024)
                    .build())
            .disable(StreamReadFeature.AUTO_CLOSE_SOURCE) // the stream's owner drains and closes it
            .build());

    private static final String OWN_TAGS = "docksort.";
    private static final Rational MOST_LATE = Rational.of(60); // more is a clock that has nothing to do with it

    private JsonNode root = JSON.createObjectNode();
    private FrameStructure structure = FrameStructure.NONE;
    private int packetCount;
    private boolean whole;
    private boolean lacksShownTimes;
    private boolean orderByDecoding;

    void read(InputStream answer) throws IOException {
        JsonNode read = JSON.readTree(answer);
        if (read != null && read.isObject()) {
            root = read;
        }
        structure = structureOf(read == null ? root : read, videoIndex(), Extent.STRETCH);
    }

    boolean hasStreams() {
        return !root.path("streams").isEmpty()
                && (videoStream().isPresent() || !audioStreams().isEmpty());
    }

    int packetCount() {
        return packetCount;
    }

    /// Whether the codec leaves open how frames depend on each other, so that a short window proves little.
    boolean needsLongerWindow() {
        return videoStream().map(v -> !codec(v).isIntraByNature()).orElse(false);
    }

    /// Whether the container times only decoding, so that reordering has to be seen in decoded pictures. Some
    /// containers
    /// give such times as if they were those of showing; the decoder knows of reordering all the same.
    boolean needsShownOrder() {
        boolean reorders = videoStream()
                .map(stream -> stream.path("has_b_frames").asInt(0) > 0)
                .orElse(false);
        return needsLongerWindow() && (lacksShownTimes || (reorders && structure.reorderDepth() == 0 && !isShort()));
    }

    private boolean isShort() {
        return structure.count() < 3;
    }

    void setStructure(FrameStructure found) {
        structure = found;
        whole = found.extent() == Extent.WHOLE;
    }

    boolean isWhole() {
        return whole;
    }

    /// The packets that were read are all there are.
    void setWhole() {
        whole = true;
        structure = structureOf(root, videoIndex(), Extent.WHOLE);
    }

    void replacePackets(ProbeReader other) {
        structure = structureOf(other.root, -1, Extent.STRETCH);
        packetCount = other.packetCount;
    }

    /// Takes the order of pictures from a decoded window.
    ///
    /// @param window how many packets were asked for
    void takeShownOrder(ProbeReader decoded, int window) {
        var kinds = new StringBuilder();
        JsonNode pictures = decoded.root.path("frames");
        var keys = new boolean[pictures.size()];
        var sizes = new int[pictures.size()];
        for (JsonNode picture : pictures) {
            int i = kinds.length();
            keys[i] = picture.path("key_frame").asInt() == 1;
            sizes[i] = Math.max(0, picture.path("pkt_size").asInt(0));
            String kind = picture.path("pict_type").asText("?");
            kinds.append(kind.isEmpty() ? '?' : kind.charAt(0));
        }
        if (kinds.isEmpty()) {
            return;
        }
        Rational step = videoStream()
                .flatMap(stream -> statedRate(stream, "avg_frame_rate").or(() -> statedRate(stream, "r_frame_rate")))
                .map(rate -> Rational.of(1).dividedBy(rate.exact()))
                .orElse(new Rational(1, 25));
        Extent extent = kinds.length() < window ? Extent.WHOLE : Extent.STRETCH;
        setStructure(StreamStructure.fromShownOrder(kinds.toString(), keys, sizes, step, extent));
        orderByDecoding = structure.longestTwoWayRun() > 0;
    }

    String fourCc() {
        return videoStream().map(v -> v.path("codec_tag_string").asText("")).orElse("");
    }

    Optional<Codec> codec() {
        return videoStream().map(ProbeReader::codec);
    }

    Rational containerSeconds() {
        return rational(root.path("format").path("duration"))
                .filter(Rational::isPositive)
                .orElse(Rational.ZERO);
    }

    ClipFacts facts(
            ClipSource source,
            long bytes,
            FrameRate stillsRate,
            Said said,
            Disagreements disagreements,
            List<String> complaints) {
        Optional<VideoFacts> video =
                videoStream().map(stream -> video(stream, source, stillsRate, said, disagreements));
        List<AudioStream> audio = audioStreams().stream().map(this::audio).toList();
        Rational seconds = video.map(VideoFacts::seconds)
                .or(() -> rational(root.path("format").path("duration")))
                .orElse(Rational.ZERO);
        Optional<Timecode> start = video.flatMap(v -> timecode(v, disagreements));
        var all = new ArrayList<>(complaints);
        video.ifPresent(v -> soundEnds(v, audio).ifPresent(all::add));
        return new ClipFacts(
                container(source),
                video,
                audio,
                seconds,
                start,
                tag("reel_name").or(() -> tag("reel")),
                tag("creation_time"),
                new ByteSize(bytes),
                new Findings(all, disagreements.found(), outOfReach()),
                ownTags());
    }

    private Optional<String> outOfReach() {
        return videoStream()
                .filter(stream -> stream.path("codec_name").asText("").isEmpty()
                        || stream.path("codec_name").asText("").equals("unknown"))
                .map(stream -> "no decoder here for its codec \""
                        + stream.path("codec_tag_string").asText("?") + "\"");
    }

    /// Sound that ends well before the picture, or long after it.
    private static Optional<String> soundEnds(VideoFacts video, List<AudioStream> audio) {
        return audio.stream()
                .map(stream -> video.seconds().minus(stream.seconds()))
                .filter(off -> off.absolute().compareTo(Rational.of(1)) > 0)
                .findFirst()
                .map(off -> String.format(
                        Locale.ROOT,
                        "sound ends %.1f s %s the picture",
                        Math.abs(off.toDouble()),
                        off.isPositive() ? "before" : "after"));
    }

    private VideoFacts video(
            JsonNode stream, ClipSource source, FrameRate stillsRate, Said said, Disagreements disagreements) {
        Codec codec = codec(stream);
        var raster =
                new Raster(stream.path("width").asInt(), stream.path("height").asInt());
        Rational timeBase = structure.timeBase();
        boolean stills = source instanceof ClipSource.NumberedStills;
        Timing timing = timing(stream, source, stillsRate);
        Optional<FirstPicture> picture = FirstPicture.of(root, videoIndex());
        PictureSays own = said.stream(codec.name(), raster, picture.map(FirstPicture::says));
        if (!stills) {
            disagreements.rate(statedRate(stream, "avg_frame_rate"), timing);
        }
        Frames frames = frameCount(stream, source, timing, timeBase, disagreements)
                .reached(stills ? Optional.empty() : firstAt(stream), reach());
        Colour colour = disagreements.colour(colour(stream), said.container(), own);
        return new VideoFacts(
                codec,
                disagreements.raster(raster, said.container()),
                codedRaster(stream, raster),
                disagreements.pixelAspect(
                        rational(stream.path("sample_aspect_ratio"))
                                .filter(Rational::isPositive)
                                .orElse(Rational.of(1)),
                        said.container(),
                        own),
                rotation(stream),
                disagreements.scan(scan(stream), said.container(), own),
                PixelFormats.parse(
                        stream.path("pix_fmt").asText(""),
                        stream.path("bits_per_raw_sample").asInt(0)),
                colour,
                HdrReader.read(stream, picture),
                timing.rate(),
                timing.kind(),
                frames,
                stills ? FrameStructure.NONE : structure);
    }

    /// Less than a millisecond is how coarse some containers count.
    private Optional<Rational> firstAt(JsonNode stream) {
        Optional<Rational> own = rational(stream.path("start_time"));
        Optional<Rational> file = rational(root.path("format").path("start_time"));
        return own.flatMap(at -> file.map(at::minus))
                .filter(late -> late.compareTo(new Rational(1, 1_000)) > 0 && late.compareTo(MOST_LATE) < 0);
    }

    private Frames.Reach reach() {
        if (orderByDecoding) {
            return Frames.Reach.COUNT;
        }
        String format = root.path("format").path("format_name").asText("");
        return format.equals("mpegts") || format.equals("mpeg") ? Frames.Reach.NEARLY : Frames.Reach.JUMP;
    }

    private static Raster codedRaster(JsonNode stream, Raster raster) {
        int width = stream.path("coded_width").asInt(0);
        int height = stream.path("coded_height").asInt(0);
        boolean larger = width >= raster.width() && height >= raster.height() && width <= 65_536 && height <= 65_536;
        return larger ? new Raster(width, height) : raster;
    }

    /// Numbered stills and bare streams state no rate that could be relied on; somebody must say how to read
    /// them. A
    /// single still has none and needs none.
    private Timing timing(JsonNode stream, ClipSource source, FrameRate stillsRate) {
        if (source instanceof ClipSource.NumberedStills) {
            return new Timing(stillsRate, RateKind.UNSTATED);
        }
        String format = root.path("format").path("format_name").asText("");
        if (format.endsWith("_pipe") || format.equals("image2")) {
            return new Timing(stillsRate, RateKind.INTERPRETED);
        }
        boolean bare = format.equals("h264") || format.equals("hevc");
        Optional<Timing> found = bare
                ? Optional.empty()
                : Timing.of(
                        structure,
                        structure.timeBase(),
                        statedRate(stream, "r_frame_rate"),
                        statedRate(stream, "avg_frame_rate"),
                        whole);
        return found.orElse(new Timing(stillsRate, RateKind.UNSTATED));
    }

    private Frames frameCount(
            JsonNode stream, ClipSource source, Timing timing, Rational timeBase, Disagreements disagreements) {
        if (source instanceof ClipSource.NumberedStills stills) {
            return new Frames(stills.count(), Frames.Origin.COUNTED);
        }
        if (timing.kind() == RateKind.VARIABLE) {
            return new Frames(timing.rate().framesIn(duration(stream, timeBase)), Frames.Origin.ESTIMATED);
        }
        long stated = stream.path("nb_frames").asLong(0);
        if (whole && structure.isKnown()) {
            disagreements.frames(stated, structure.count());
            return new Frames(structure.count(), Frames.Origin.COUNTED);
        }
        if (stated > 0) {
            return new Frames(stated, Frames.Origin.STATED);
        }
        long ticks = stream.path("duration_ts").asLong(0);
        Rational tick = rational(stream.path("time_base")).orElse(timeBase);
        if (ticks > 0 && tick.times(timing.rate().exact()).equals(Rational.of(1))) {
            return new Frames(ticks, Frames.Origin.STATED);
        }
        return new Frames(timing.rate().framesIn(duration(stream, tick)), Frames.Origin.ESTIMATED);
    }

    private Rational duration(JsonNode stream, Rational timeBase) {
        long ticks = stream.path("duration_ts").asLong(0);
        if (ticks > 0) {
            return timeBase.times(Rational.of(ticks));
        }
        return rational(root.path("format").path("duration"))
                .filter(Rational::isPositive)
                .orElse(Rational.ZERO);
    }

    private FrameStructure structureOf(JsonNode answer, int videoIndex, Extent extent) {
        Rational timeBase = videoStream()
                .flatMap(stream -> rational(stream.path("time_base")))
                .filter(Rational::isPositive)
                .orElse(new Rational(1, 1000));
        var found = new FrameStructure.Builder(extent, timeBase);
        long gap = Rational.of(2).dividedBy(timeBase).rounded();
        long latest = Long.MIN_VALUE;
        int timed = 0;
        packetCount = 0;
        for (JsonNode packet : answer.path("packets")) {
            packetCount++;
            boolean other = videoIndex >= 0 && packet.path("stream_index").asInt() != videoIndex;
            if (other || (videoIndex < 0 && answer.has("streams"))) {
                continue;
            }
            timed += packet.has("pts") ? 1 : 0;
            JsonNode at = packet.has("pts") ? packet.path("pts") : packet.path("dts");
            String flags = packet.path("flags").asText("");
            if (flags.contains("D")) {
                continue; // a packet outside the edit list: decoded, never shown
            }
            long shown = at.asLong(found.count());
            boolean key = flags.contains("K");
            if (key && latest != Long.MIN_VALUE && shown - latest > gap && extent == Extent.STRETCH) {
                found.breakHere();
            }
            latest = Math.max(latest, shown);
            found.add(shown, key, Math.max(0, packet.path("size").asInt(0)));
        }
        lacksShownTimes = found.count() > 0 && timed < found.count() / 2;
        return found.build();
    }

    private int videoIndex() {
        return videoStream().map(v -> v.path("index").asInt()).orElse(-1);
    }

    private Optional<JsonNode> videoStream() {
        for (JsonNode stream : root.path("streams")) {
            boolean cover = stream.path("disposition").path("attached_pic").asInt() == 1;
            if (stream.path("codec_type").asText().equals("video")
                    && !cover
                    && stream.path("width").asInt() > 0) {
                return Optional.of(stream);
            }
        }
        return Optional.empty();
    }

    private List<JsonNode> audioStreams() {
        var found = new ArrayList<JsonNode>();
        for (JsonNode stream : root.path("streams")) {
            if (stream.path("codec_type").asText().equals("audio")) {
                found.add(stream);
            }
        }
        return found;
    }

    private AudioStream audio(JsonNode stream) {
        int raw = stream.path("bits_per_raw_sample").asInt(0);
        int bits = raw > 0 ? raw : stream.path("bits_per_sample").asInt(0);
        Rational timeBase = rational(stream.path("time_base")).orElse(new Rational(1, 1000));
        return new AudioStream(
                stream.path("codec_name").asText("unknown"),
                Math.clamp(stream.path("channels").asInt(0), 0, 1_024),
                stream.path("channel_layout").asText(""),
                Math.max(0, stream.path("sample_rate").asInt(0)),
                Math.clamp(bits, 0, 64),
                duration(stream, timeBase));
    }

    private static Codec codec(JsonNode stream) {
        String profile = stream.path("profile").asText("");
        return new Codec(
                stream.path("codec_name").asText("unknown"),
                profile.equals("unknown") ? "" : profile,
                Math.max(0, stream.path("level").asInt(0)));
    }

    private static Optional<FrameRate> statedRate(JsonNode stream, String field) {
        return rational(stream.path(field))
                .filter(r ->
                        r.isPositive() && r.numerator() <= Integer.MAX_VALUE && r.denominator() <= Integer.MAX_VALUE)
                .map(r -> new FrameRate((int) r.numerator(), (int) r.denominator()));
    }

    private static ScanType scan(JsonNode stream) {
        return switch (stream.path("field_order").asText("")) {
            case "progressive" -> ScanType.PROGRESSIVE;
            // "tb" and "bt" say that the fields are stored interleaved; their first letter is the field shown
            // first
            // (libavcodec/rawdec.c and fftools/ffmpeg_enc.c, FFmpeg 8.0).
            case "tt", "tb" -> ScanType.TOP_FIELD_FIRST;
            case "bb", "bt" -> ScanType.BOTTOM_FIELD_FIRST;
            default -> ScanType.UNKNOWN;
        };
    }

    private static int rotation(JsonNode stream) {
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

    private static String stated(JsonNode stream, String field) {
        String value = stream.path(field).asText("");
        return value.equals("unknown") ? "" : value;
    }

    private Optional<Timecode> timecode(VideoFacts video, Disagreements disagreements) {
        Optional<String> used = tag("timecode");
        used.ifPresent(first -> placesOf("timecode").stream()
                .filter(other -> !other.equals(first))
                .findFirst()
                .ifPresent(other -> disagreements.timecode("one stream", first, "another", other)));
        return used.flatMap(text -> {
            try {
                return Optional.of(Timecode.parse(text, video.rate()));
            } catch (IllegalArgumentException e) {
                return Optional.empty();
            }
        });
    }

    /// A tag of the picture's stream, of any other stream, or of the container, whichever states it first.
    private Optional<String> tag(String name) {
        return placesOf(name).stream().findFirst();
    }

    private List<String> placesOf(String name) {
        var places = new ArrayList<JsonNode>();
        videoStream().ifPresent(places::add);
        root.path("streams").forEach(places::add);
        places.add(root.path("format"));
        var values = new ArrayList<String>();
        for (JsonNode place : places) {
            JsonNode tags = place.path("tags");
            for (String key : List.of(name, name.toUpperCase(Locale.ROOT))) {
                String value = tags.path(key).asText("");
                if (!value.isBlank()) {
                    values.add(value.strip());
                }
            }
        }
        return values;
    }

    /// The container's own tags by which copies describe themselves; others are left.
    private Map<String, String> ownTags() {
        var own = new TreeMap<String, String>();
        root.path("format").path("tags").properties().forEach(tag -> {
            if (tag.getKey().startsWith(OWN_TAGS) && own.size() < 16) {
                String value = tag.getValue().asText("");
                own.put(tag.getKey(), value.length() > 400 ? value.substring(0, 400) : value);
            }
        });
        return own;
    }

    private String container(ClipSource source) {
        if (source instanceof ClipSource.NumberedStills) {
            return "stills";
        }
        String format = root.path("format").path("format_name").asText("unknown");
        String brand =
                root.path("format").path("tags").path("major_brand").asText("").strip();
        return switch (format) {
            case "mov,mp4,m4a,3gp,3g2,mj2" -> brand.equals("qt") || brand.isEmpty() ? "MOV" : "MP4";
            case "matroska,webm" -> "MKV";
            case "mpegts" -> "MPEG-TS";
            case "mpeg" -> "MPEG-PS";
            default -> format.toUpperCase(Locale.ROOT);
        };
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
