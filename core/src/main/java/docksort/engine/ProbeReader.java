package docksort.engine;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.StreamReadConstraints;
import com.fasterxml.jackson.core.StreamReadFeature;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import docksort.index.PictureSays;
import docksort.index.SlicePeek;
import docksort.index.SlicePeek.Coded;
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
import docksort.media.PixelFormat;
import docksort.media.Raster;
import docksort.media.Rational;
import docksort.media.ScanType;
import docksort.media.Timecode;
import docksort.media.VideoFacts;
import docksort.media.VideoFacts.RateKind;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Stream;

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

    private static final int MOST_KEYS_PEEKED = 3_000;
    /// Codecs whose decoder says of each picture whether it has fields.
    private static final Set<String> WITH_FIELDS = Set.of(
            "dvvideo",
            "mjpeg",
            "mpeg4",
            "mpeg1video",
            "mpeg2video",
            "h264",
            "hevc",
            "dnxhd",
            "prores",
            "vc1",
            "wmv3",
            "ffv1");

    private static final String OWN_TAGS = "docksort.";
    private static final Rational MOST_LATE = Rational.of(60); // more is a clock that has nothing to do with it

    private JsonNode root = JSON.createObjectNode();
    private FrameStructure structure = FrameStructure.NONE;
    private int packetCount;
    private boolean whole;
    private boolean lacksShownTimes;
    private boolean orderByDecoding;
    private boolean fromFirst;
    private boolean doubtful;
    private long missingAtEnd;
    private boolean partlyTimed;
    private boolean clockRestarts;
    private final List<KeyPacket> keyPackets = new ArrayList<>();
    private Optional<FirstPicture> seen = Optional.empty();
    private final PixelFormats pixelFormats;

    /// @param pixelFormats all that the engine knows
    ProbeReader(PixelFormats pixelFormats) {
        this.pixelFormats = pixelFormats;
    }

    /// A picture that its container marks as a keyframe.
    private record KeyPacket(int picture, SlicePeek.Packet packet) {}

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

    /// Whether the container times only decoding, so that reordering has to be seen in decoded pictures.
    /// Some containers give such times as if they were those of showing; the decoder knows of reordering
    /// all the same.
    boolean needsShownOrder() {
        return needsLongerWindow() && (lacksShownTimes || (hasTwoWay() && structure.reorderDepth() == 0 && !isShort()));
    }

    private boolean isShort() {
        return structure.count() < 3;
    }

    void setStructure(FrameStructure found) {
        structure = found;
        whole = found.extent() == Extent.WHOLE;
    }

    /// Jumps may land where decoding cannot begin.
    void decodeFromFirst() {
        fromFirst = true;
    }

    /// Holds the marks of keyframes against the pictures themselves; see [StreamStructure] for files with
    /// an index.
    void checkKeyframes(Path file, Disagreements disagreements) throws IOException {
        // A packet of a program stream may begin within the picture before.
        boolean can = codec().filter(codec -> codec.name().equals("h264")).isPresent()
                && !root.path("format").path("format_name").asText("").equals("mpeg");
        if (!can || keyPackets.isEmpty()) {
            return;
        }
        List<Optional<Coded>> looked =
                SlicePeek.look(file, keyPackets.stream().map(KeyPacket::packet).toList());
        List<Integer> pictures = keyPackets.stream().map(KeyPacket::picture).toList();
        StreamStructure.withoutRecoveryPoints(structure, pictures, looked, disagreements)
                .ifPresent(without -> {
                    structure = without;
                    fromFirst = true;
                });
    }

    /// The index lists pictures that are not there.
    void doubtCount(long behindTheEnd) {
        doubtful = true;
        missingAtEnd = behindTheEnd;
    }

    /// What decoded pictures say of themselves.
    void takePicture(ProbeReader decoded) {
        seen = FirstPicture.of(decoded.root, videoIndex());
    }

    /// Whether a picture has to be decoded to learn of its fields, or its time: what a container says of
    /// them is often what its writer's maker once chose for all.
    boolean lacksPicture(Said said) {
        return videoStream()
                .filter(stream -> WITH_FIELDS.contains(codec(stream).name()))
                .filter(stream -> FirstPicture.of(root, videoIndex()).isEmpty())
                .filter(stream -> lacksGroupTimecode(stream)
                        || said.stream(codec(stream).name(), raster(stream), Optional.empty())
                                        .scan()
                                == ScanType.UNKNOWN)
                .isPresent();
    }

    private boolean lacksGroupTimecode(JsonNode stream) {
        return codec(stream).name().equals("mpeg2video") && tag("timecode").isEmpty();
    }

    private static Raster raster(JsonNode stream) {
        return new Raster(stream.path("width").asInt(), stream.path("height").asInt());
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
                .flatMap(ProbeReader::usualRate)
                .map(rate -> Rational.of(1).dividedBy(rate.exact()))
                .orElse(new Rational(1, 25));
        Extent extent = kinds.length() < window ? Extent.WHOLE : Extent.STRETCH;
        FrameStructure shown = StreamStructure.fromShownOrder(kinds.toString(), keys, sizes, step, extent);
        orderByDecoding = shown.longestTwoWayRun() > 0;
        if (orderByDecoding) {
            setStructure(shown); // otherwise pictures are shown as they are decoded, and packets tell more
        }
    }

    /// The mean by the header, unless it counts fields.
    private static Optional<FrameRate> usualRate(JsonNode stream) {
        Optional<FrameRate> mean = statedRate(stream, "avg_frame_rate");
        Optional<FrameRate> least = statedRate(stream, "r_frame_rate");
        boolean fields = mean.isPresent()
                && least.isPresent()
                && mean.get().exact().equals(least.get().exact().times(Rational.of(2)));
        return fields ? least : mean.or(() -> least);
    }

    /// Whether decoding told an order that time stamps do not.
    boolean isOrderedByDecoding() {
        return orderByDecoding;
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
        Optional<Timecode> start =
                video.map(v -> timecode(v, disagreements)).orElseGet(() -> timeReference(audio, stillsRate));
        var all = new ArrayList<>(complaints);
        if (videoStream().filter(ProbeReader::isMirrored).isPresent()) {
            all.add("it is shown mirrored, as its container says");
        }
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
        Raster raster = raster(stream);
        Rational timeBase = structure.timeBase();
        boolean stills = source instanceof ClipSource.NumberedStills;
        Timing timing = timing(stream, source, stillsRate);
        Optional<FirstPicture> picture = FirstPicture.of(root, videoIndex()).or(() -> seen);
        PictureSays own = said.stream(codec.name(), raster, picture.map(FirstPicture::says));
        if (!stills) {
            disagreements.rate(statedRate(stream, "avg_frame_rate"), timing);
        }
        Frames frames = frameCount(stream, source, timing, timeBase, disagreements)
                .reached(stills ? Optional.empty() : firstAt(stream), reach())
                .lacking(missingAtEnd);
        if (clockRestarts) {
            disagreements.clock();
        }
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
                pixels(stream),
                colour,
                HdrReader.read(stream, picture),
                timing.rate(),
                timing.kind(),
                frames,
                stills ? FrameStructure.NONE : structure);
    }

    /// VP8 and VP9 carry transparency beside the picture, as a second one, and say so in a tag of their
    /// container (WebM container guidelines, AlphaMode).
    private PixelFormat pixels(JsonNode stream) {
        PixelFormat own = pixelFormats.named(
                stream.path("pix_fmt").asText(""),
                stream.path("bits_per_raw_sample").asInt(0));
        boolean beside = placesOf(stream, "alpha_mode").anyMatch("1"::equals);
        return beside ? own.withAlpha() : own;
    }

    /// When the picture begins, counted from the beginning of the file.
    Optional<Rational> firstAt() {
        return videoStream().flatMap(this::firstAt);
    }

    /// Less than a millisecond is how coarse some containers count.
    private Optional<Rational> firstAt(JsonNode stream) {
        Optional<Rational> own = rational(stream.path("start_time"));
        Optional<Rational> file = rational(root.path("format").path("start_time"));
        return own.flatMap(at -> file.map(at::minus))
                .filter(late -> late.compareTo(new Rational(1, 1_000)) > 0 && late.compareTo(MOST_LATE) < 0);
    }

    private Frames.Reach reach() {
        String format = root.path("format").path("format_name").asText("");
        boolean stream = format.equals("mpegts") || format.equals("mpeg");
        boolean bare = Set.of("h264", "hevc", "mpegvideo").contains(format)
                || (lacksShownTimes
                        && hasTwoWay()
                        && !stream); // its decoder gives pictures out later than it takes them
        if (orderByDecoding || bare || clockRestarts || (partlyTimed && !stream)) {
            return Frames.Reach.COUNT;
        }
        if (stream) {
            return Frames.Reach.NEARLY; // it aims so far ahead that what recovers is whole by then
        }
        // The engine's Dirac decoder drops pictures after a jump (measured with FFmpeg 8.0.1).
        boolean drops = codec().filter(codec -> codec.name().equals("dirac")).isPresent();
        return fromFirst || drops ? Frames.Reach.FIRST : Frames.Reach.JUMP;
    }

    private static Raster codedRaster(JsonNode stream, Raster raster) {
        int width = stream.path("coded_width").asInt(0);
        int height = stream.path("coded_height").asInt(0);
        boolean larger = width >= raster.width() && height >= raster.height() && width <= 65_536 && height <= 65_536;
        return larger ? new Raster(width, height) : raster;
    }

    /// Numbered stills and bare streams state no rate that could be relied on; somebody must say how to
    /// read them. A single still has none and needs none.
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
                        whole && !isMov() ? Optional.empty() : statedRate(stream, "avg_frame_rate"),
                        whole);
        return found.orElse(new Timing(stillsRate, RateKind.UNSTATED));
    }

    private boolean isMov() {
        return root.path("format").path("format_name").asText("").startsWith("mov");
    }

    private Frames frameCount(
            JsonNode stream, ClipSource source, Timing timing, Rational timeBase, Disagreements disagreements) {
        if (source instanceof ClipSource.NumberedStills stills) {
            return new Frames(stills.count(), Frames.Origin.COUNTED);
        }
        if (timing.kind() == RateKind.VARIABLE) {
            // A picture that stays on when a recording ends is in the header of MOV and MP4, which sums up how long
            // each is shown.
            long told = timing.rate().framesIn(duration(stream, timeBase));
            boolean summedUp = whole && isMov();
            return new Frames(
                    summedUp ? Math.max(told, seen(timing.rate())) : told,
                    summedUp ? Frames.Origin.STATED : Frames.Origin.ESTIMATED);
        }
        long stated = stream.path("nb_frames").asLong(0);
        if (whole && structure.isKnown()) {
            disagreements.frames(stated, structure.count());
            return new Frames(structure.count(), doubtful ? Frames.Origin.STATED : Frames.Origin.COUNTED);
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

    /// Frames from the first picture to the last.
    private long seen(FrameRate rate) {
        var ends = new long[] {Long.MAX_VALUE, Long.MIN_VALUE};
        structure.forEach((_, at, _, _) -> {
            ends[0] = Math.min(ends[0], at);
            ends[1] = Math.max(ends[1], at);
        });
        return ends[1] < ends[0] ? 0 : rate.framesIn(structure.timeBase().times(Rational.of(ends[1] - ends[0]))) + 1;
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
        long backwards = Rational.of(1).dividedBy(timeBase).rounded();
        long offset = 0;
        long step = 1;
        long latest = Long.MIN_VALUE;
        int timed = 0;
        packetCount = 0;
        keyPackets.clear();
        Map<Integer, Long> shownAt = shownTimes(answer.path("packets"), videoIndex, answer.has("streams"));
        for (JsonNode packet : answer.path("packets")) {
            packetCount++;
            boolean other = videoIndex >= 0 && packet.path("stream_index").asInt() != videoIndex;
            if (other || (videoIndex < 0 && answer.has("streams"))) {
                continue;
            }
            timed += packet.has("pts") ? 1 : 0;
            String flags = packet.path("flags").asText("");
            if (flags.contains("D")) {
                continue; // a packet outside the edit list: decoded, never shown
            }
            long shown = shownAt.getOrDefault(packetCount, (long) found.count()) + offset;
            boolean key = flags.contains("K");
            if (key && latest != Long.MIN_VALUE && shown - latest > gap && extent == Extent.STRETCH) {
                found.breakHere();
            }
            if (key && latest != Long.MIN_VALUE && latest - shown > backwards) {
                // Another recording follows in the same stream, and its clock begins anew.
                offset += latest + step - shown;
                shown = latest + step;
                clockRestarts = true;
            }
            step = shown > latest && latest != Long.MIN_VALUE ? shown - latest : step;
            latest = Math.max(latest, shown);
            int bytes = Math.max(0, packet.path("size").asInt(0));
            if (key && keyPackets.size() < MOST_KEYS_PEEKED) {
                var place = new SlicePeek.Packet(packet.path("pos").asLong(-1), bytes);
                keyPackets.add(new KeyPacket(found.count(), place));
            }
            found.add(shown, key, bytes);
        }
        lacksShownTimes = found.count() > 0 && timed < found.count() / 2;
        partlyTimed = timed > 0 && timed < found.count() && hasTwoWay();
        return found.build();
    }

    /// When packets are shown, by their place among all. A packet of a program or transport stream may
    /// hold several pictures, of which only the first has times. Of MPEG-1 and MPEG-2 the others follow:
    /// a picture that others lean on is shown when the next such is decoded, every other one when it is
    /// decoded itself (ISO/IEC 13818-2, 6.1.1.11).
    private Map<Integer, Long> shownTimes(JsonNode packets, int videoIndex, boolean hasStreams) {
        boolean mpeg = codec().filter(
                        codec -> codec.name().startsWith("mpeg") && codec.name().endsWith("video"))
                .isPresent();
        var shown = new HashMap<Integer, Long>();
        int waiting = -1;
        long latest = 0;
        long step = 1;
        int number = 0;
        for (JsonNode packet : packets) {
            number++;
            boolean other = videoIndex >= 0 && packet.path("stream_index").asInt() != videoIndex;
            if (other || (videoIndex < 0 && hasStreams)) {
                continue;
            }
            long decoded = packet.path("dts").asLong(latest);
            boolean isLeanedOn = !packet.has("pts") || packet.path("pts").asLong() > decoded;
            if (waiting >= 0 && isLeanedOn) {
                shown.put(waiting, decoded);
                waiting = -1;
            }
            if (packet.has("pts") || !mpeg) {
                JsonNode at = packet.has("pts") ? packet.path("pts") : packet.path("dts");
                decoded = at.isMissingNode() && number > 1 ? latest + step : decoded;
                shown.put(number, at.isMissingNode() ? decoded : at.asLong());
            } else if (packet.has("dts")) {
                waiting = number;
            }
            step = decoded > latest && latest > 0 ? decoded - latest : step;
            latest = decoded;
        }
        if (waiting >= 0) {
            shown.put(waiting, latest + step);
        }
        return shown;
    }

    private boolean hasTwoWay() {
        return videoStream()
                .map(stream -> stream.path("has_b_frames").asInt(0) > 0)
                .orElse(false);
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

    /// Broadcast WAVE counts samples since midnight (EBU Tech 3285, time reference).
    private Optional<Timecode> timeReference(List<AudioStream> audio, FrameRate rate) {
        return tag("time_reference")
                .filter(text -> text.matches("\\d{1,15}") && !audio.isEmpty())
                .filter(_ -> audio.getFirst().samplesPerSecond() > 0)
                .map(text -> new Rational(Long.parseLong(text), audio.getFirst().samplesPerSecond())
                        .times(rate.exact())
                        .rounded())
                .filter(frames -> frames < 24L * 3600 * rate.nominal())
                .map(frames -> Timecode.zero(rate).plus(frames));
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

    private static boolean isMirrored(JsonNode stream) {
        List<Long> m = matrix(stream);
        return m.size() == 4
                && Math.signum((double) m.get(0)) * Math.signum((double) m.get(3))
                        < Math.signum((double) m.get(1)) * Math.signum((double) m.get(2));
    }

    private static int rotation(JsonNode stream) {
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

    private static String stated(JsonNode stream, String field) {
        String value = stream.path(field).asText("");
        return value.equals("unknown") ? "" : value;
    }

    private Optional<Timecode> timecode(VideoFacts video, Disagreements disagreements) {
        Optional<String> used = tag("timecode").or(this::groupTimecode);
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

    /// MPEG-2 counts time in the header of each group of pictures (ISO/IEC 13818-2, 6.3.8). Most encoders
    /// leave it at zero, which tells nothing.
    private Optional<String> groupTimecode() {
        return FirstPicture.of(root, videoIndex()).or(() -> seen).flatMap(picture -> {
            for (JsonNode side : picture.sideData()) {
                String text = side.path("timecode").asText("");
                if (text.matches("\\d\\d:\\d\\d:\\d\\d[:;]\\d\\d")
                        && text.chars().anyMatch(c -> c >= '1' && c <= '9')) {
                    return Optional.of(text);
                }
            }
            return Optional.empty();
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
        places.forEach(place -> placesOf(place, name).forEach(values::add));
        return values;
    }

    private static Stream<String> placesOf(JsonNode place, String name) {
        return Stream.of(name, name.toUpperCase(Locale.ROOT))
                .map(key -> place.path("tags").path(key).asText("").strip())
                .filter(value -> !value.isEmpty());
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
