package docksort.media;

import docksort.media.VideoFacts.RateKind;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.Function;
import java.util.stream.Stream;

/// What is said of a recording whose picture cannot be decoded here, where its container is silent: by a
/// sidecar, by its own tags, or by a person. Raster, rate and number of frames together make a picture
/// that timelines can count on.
///
/// @param timecode of the first frame; it is read at the rate
public record Described(
        Optional<Raster> raster,
        Optional<FrameRate> rate,
        Optional<Long> frames,
        Optional<String> timecode,
        Optional<String> reel) {
    public static final Described NOTHING =
            new Described(Optional.empty(), Optional.empty(), Optional.empty(), Optional.empty(), Optional.empty());

    /// Names under which facts keep what is said of them besides.
    private static final String RASTER = "raster";

    private static final String RATE = "frame rate";
    private static final String FRAMES = "frames";
    private static final String TIMECODE = "start timecode";
    private static final String REEL = "reel";

    static final Set<String> NAMES = Set.of(RASTER, RATE, FRAMES, TIMECODE, REEL);

    private static final long MOST_FRAMES = 24L * 3600 * 240;
    private static final FrameRate FASTEST_COUNT = new FrameRate(60, 1); // where nothing says what it counts

    public Described {
        if (frames.filter(count -> count < 1 || count > MOST_FRAMES).isPresent()) {
            throw new IllegalArgumentException("a recording has 1 to " + MOST_FRAMES + " frames: " + frames.get());
        }
        timecode.ifPresent(text -> Timecode.parse(text, rate.orElse(FASTEST_COUNT)));
    }

    /// Reads what facts keep.
    static Described of(Map<String, String> tags) {
        return new Described(
                read(tags, RASTER, Raster::parse),
                read(tags, RATE, FrameRate::parse),
                read(tags, FRAMES, Long::parseLong).filter(count -> count > 0 && count <= MOST_FRAMES),
                Optional.ofNullable(tags.get(TIMECODE))
                        .filter(text -> start(text, FASTEST_COUNT).isPresent()),
                Optional.ofNullable(tags.get(REEL)));
    }

    private static Optional<Timecode> start(String text, FrameRate rate) {
        try {
            return Optional.of(Timecode.parse(text, rate));
        } catch (IllegalArgumentException e) {
            return Optional.empty(); // a sidecar's own words
        }
    }

    /// Timecode of the first frame of a recording of this rate; empty where none is said, or one that the
    /// rate does not have.
    Optional<Timecode> start(FrameRate of) {
        return timecode.flatMap(text -> start(text, of));
    }

    private static <T> Optional<T> read(Map<String, String> tags, String name, Function<String, T> reader) {
        try {
            return Optional.ofNullable(tags.get(name)).map(reader);
        } catch (IllegalArgumentException e) {
            return Optional.empty(); // a sidecar's own words
        }
    }

    /// The same as facts keep it.
    public Map<String, String> tags() {
        var tags = new TreeMap<String, String>();
        raster.ifPresent(value -> tags.put(RASTER, value.toString()));
        rate.ifPresent(value -> tags.put(RATE, value.toString()));
        frames.ifPresent(value -> tags.put(FRAMES, value.toString()));
        timecode.ifPresent(value -> tags.put(TIMECODE, value));
        reel.ifPresent(value -> tags.put(REEL, value));
        return tags;
    }

    /// The same, and where it is silent what another says.
    public Described or(Described other) {
        return new Described(
                raster.or(other::raster),
                rate.or(other::rate),
                frames.or(other::frames),
                timecode.or(other::timecode),
                reel.or(other::reel));
    }

    /// What somebody has still to say before timelines can count on the recording.
    List<String> lacking() {
        return Stream.of(
                        raster.isEmpty() ? "raster" : "",
                        rate.isEmpty() ? "rate" : "",
                        frames.isEmpty() ? "number of frames" : "")
                .filter(word -> !word.isEmpty())
                .toList();
    }

    Optional<VideoFacts> picture() {
        return lacking().isEmpty()
                ? Optional.of(new VideoFacts(
                        Codec.CAMERA_RAW,
                        raster.orElseThrow(),
                        raster.orElseThrow(),
                        Rational.of(1),
                        0,
                        ScanType.UNKNOWN,
                        PixelFormat.UNKNOWN,
                        Colour.UNSTATED,
                        Hdr.NONE,
                        rate.orElseThrow(),
                        RateKind.INTERPRETED,
                        new Frames(frames.orElseThrow(), Frames.Origin.STATED),
                        FrameStructure.NONE))
                : Optional.empty();
    }

    /// "24 fps, 480 frames", in one line.
    public String label() {
        var words = new ArrayList<String>();
        raster.ifPresent(value -> words.add(value.toString()));
        rate.ifPresent(value -> words.add(value.label() + " fps"));
        frames.ifPresent(value -> words.add(value + (value == 1 ? " frame" : " frames")));
        timecode.ifPresent(value -> words.add("from " + value));
        reel.ifPresent(value -> words.add("reel " + value));
        return String.join(", ", words);
    }
}
