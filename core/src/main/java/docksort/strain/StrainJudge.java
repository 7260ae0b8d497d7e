package docksort.strain;

import docksort.arrival.Clip;
import docksort.media.ClipFacts;
import docksort.media.Fingerprint;
import docksort.media.FrameStructure;
import docksort.media.Measured;
import docksort.media.PixelFormat.Chroma;
import docksort.media.Raster;
import docksort.media.ScrubCost;
import docksort.media.VideoFacts;
import docksort.media.VideoFacts.RateKind;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;

/// Judges a clip from its facts. Bit rate decides nothing: what counts is how many pixels must be decoded
/// to show a frame, and how many a second to play.
///
/// The limits are ours (common practice, no source): a random frame that needs 8 million decoded pixels
/// starts to be felt, 30 million are a visible wait; 250 million pixels a second is UHD at 30, 500
/// million is UHD at 60.
public final class StrainJudge {
    private static final double FELT_PIXELS_PER_SEEK = 8e6;
    private static final double WAITED_PIXELS_PER_SEEK = 30e6;
    private static final double FELT_PIXELS_PER_SECOND = 240e6;
    private static final double WAITED_PIXELS_PER_SECOND = 490e6;
    private static final double COMFORTABLE = 1.3; // leaves room for effects and sound
    private static final double FELT_SEEK_MILLIS = 120;
    private static final double WAITED_SEEK_MILLIS = 400;
    private static final String COPY_CURES = "A working copy cures this";
    private static final String NO_COPY_NEEDED = "No working copy is needed for this";

    private final TimelineFormat timeline;
    private final Map<Fingerprint, ClipMeasurements> measured;

    public StrainJudge(TimelineFormat timeline) {
        this(timeline, Map.of());
    }

    /// @param measured what was measured of clips on this machine
    public StrainJudge(TimelineFormat timeline, Map<Fingerprint, ClipMeasurements> measured) {
        this.timeline = timeline;
        this.measured = Map.copyOf(measured);
    }

    public TimelineFormat timeline() {
        return timeline;
    }

    public Strain judge(Clip clip) {
        return judge(clip.facts(), measured.getOrDefault(clip.fingerprint(), ClipMeasurements.NONE));
    }

    public Strain judge(ClipFacts facts) {
        return judge(facts, ClipMeasurements.NONE);
    }

    /// @param measured what was measured of the clip on this machine; it goes before what pixels alone
    ///     suggest
    public Strain judge(ClipFacts facts, ClipMeasurements measured) {
        if (facts.findings().outOfReach().isPresent()) {
            return new Strain(
                    Verdict.OUT_OF_REACH,
                    Optional.empty(),
                    List.of(new Reason(
                            Verdict.OUT_OF_REACH,
                            "raw",
                            "out of reach here: "
                                    + facts.findings().outOfReach().get(),
                            "Bring copies made elsewhere, with the camera maker's own tool. None can be made here")));
        }
        if (facts.video().isEmpty()) {
            return new Strain(Verdict.EASY, Optional.empty(), List.of());
        }
        VideoFacts video = facts.video().get();
        Optional<ScrubCost> cost = scrubCost(video);
        var reasons = new ArrayList<Reason>();
        cost.ifPresent(c -> scrubbing(video, c, reasons));
        if (measured.play().isEmpty()) {
            playing(facts, video, reasons);
        }
        measured.play().ifPresent(play -> played(facts, play, reasons));
        measured.seekMillis().ifPresent(seek -> jumped(seek, reasons));
        measured.volumeBytesPerSecond().ifPresent(speed -> read(facts, speed, reasons));
        kind(facts, video, reasons);
        against(facts, video, reasons);
        facts.complaints().stream()
                .limit(3)
                .forEach(said -> reasons.add(new Reason(
                        Verdict.FAIR,
                        "look",
                        "the media engine complains: " + said,
                        "Play it once to the end before it is relied on")));
        facts.findings()
                .contradictions()
                .forEach(two -> reasons.add(
                        new Reason(Verdict.FAIR, "two", two.label(), "A working copy states only what is used")));
        reasons.sort(Comparator.comparing(Reason::weight).reversed());
        Verdict verdict = reasons.stream()
                .map(Reason::weight)
                .max(Comparator.naturalOrder())
                .orElse(Verdict.EASY);
        return new Strain(verdict, cost, reasons);
    }

    private static Optional<ScrubCost> scrubCost(VideoFacts video) {
        if (!video.structure().isKnown()) {
            boolean stills = video.rateKind() == RateKind.INTERPRETED || video.rateKind() == RateKind.UNSTATED;
            return stills ? Optional.of(ScrubCost.ONE) : Optional.empty();
        }
        return Optional.of(video.structure().scrubCost());
    }

    private static void scrubbing(VideoFacts video, ScrubCost cost, List<Reason> reasons) {
        if (cost.worst() <= 1) {
            return;
        }
        double pixels = cost.mean().toDouble() * video.raster().pixels();
        Verdict weight = grade(pixels, FELT_PIXELS_PER_SEEK, WAITED_PIXELS_PER_SEEK);
        FrameStructure.KeyframeInterval interval = video.structure().keyframeInterval();
        String seconds = String.format(
                Locale.ROOT,
                "%.1f s, at most %.1f",
                interval.meanSeconds().toDouble(),
                interval.worstSeconds().toDouble());
        String sampled = video.structure().extent() == FrameStructure.Extent.STRETCH
                ? " Sampled: " + video.structure().count() + " frames were looked at."
                : "";
        reasons.add(new Reason(
                weight,
                cost.meanLabel(),
                "frames decoded to show one, on average; " + cost.worst() + " at worst. Keyframe every " + seconds
                        + " s." + sampled,
                weight == Verdict.EASY ? NO_COPY_NEEDED : COPY_CURES));
    }

    private static void playing(ClipFacts facts, VideoFacts video, List<Reason> reasons) {
        long perSecond = video.pixelsPerSecond();
        Verdict weight = grade((double) perSecond, FELT_PIXELS_PER_SECOND, WAITED_PIXELS_PER_SECOND);
        if (!facts.isLongGop() && weight == Verdict.HARD) {
            weight = Verdict.FAIR;
        }
        if (weight != Verdict.EASY) {
            reasons.add(new Reason(
                    weight,
                    perSecond / 1_000_000 + " M",
                    "pixels a second to decode: " + video.raster() + " at "
                            + video.rate().label() + " fps",
                    facts.isLongGop()
                            ? COPY_CURES
                            : "A light copy helps; so does a smaller timeline raster, because every frame"
                                    + " stands alone"));
        }
        boolean dear = switch (video.codec().name()) {
            case "hevc", "av1", "vp9" ->
                video.pixels().bitDepth() > 8 || video.pixels().chroma() != Chroma.C420;
            case "h264" -> video.pixels().bitDepth() > 8;
            default -> false;
        };
        if (dear) {
            reasons.add(new Reason(
                    facts.isLongGop() ? Verdict.FAIR : Verdict.EASY,
                    video.pixels().bitDepth() + " bit",
                    video.codec().family() + " " + video.pixels().label()
                            + ": many machines decode it without help of hardware",
                    facts.isLongGop() ? COPY_CURES : NO_COPY_NEEDED));
        }
    }

    private static void played(ClipFacts facts, PlayRatio play, List<Reason> reasons) {
        Verdict weight = play.value() < 1 ? Verdict.HARD : play.value() < COMFORTABLE ? Verdict.FAIR : Verdict.EASY;
        reasons.add(new Reason(
                weight,
                play.label(),
                "times its rate when decoded on this machine: " + play.inFrames() + ", measured over " + play.seconds()
                        + " s",
                weight == Verdict.EASY
                        ? NO_COPY_NEEDED
                        : facts.isLongGop()
                                ? COPY_CURES
                                : "A light copy helps; so does a smaller timeline raster, because every frame stands"
                                        + " alone"));
    }

    private static void jumped(Measured seek, List<Reason> reasons) {
        Verdict weight = grade(seek.median(), FELT_SEEK_MILLIS, WAITED_SEEK_MILLIS);
        reasons.add(new Reason(
                weight,
                Math.round(seek.median()) + " ms",
                "from a jump to its frame, measured on this machine",
                weight == Verdict.EASY ? NO_COPY_NEEDED : COPY_CURES));
    }

    private static void read(ClipFacts facts, Measured bytesPerSecond, List<Reason> reasons) {
        double need = facts.bitsPerSecond() / 8.0;
        double share = need / bytesPerSecond.median();
        if (share > 0.5) {
            reasons.add(new Reason(
                    share > 0.85 ? Verdict.HARD : Verdict.FAIR,
                    Math.round(bytesPerSecond.median() / 1e6) + " MB/s",
                    "is what its volume gave; playing needs " + String.format(Locale.ROOT, "%.1f", need / 1e6),
                    "Move it to a faster volume. A working copy helps only if it lies elsewhere"));
        }
    }

    private static void kind(ClipFacts facts, VideoFacts video, List<Reason> reasons) {
        if (video.rateKind() == RateKind.VARIABLE) {
            reasons.add(new Reason(
                    Verdict.FAIR,
                    "VFR",
                    "the time between frames varies; the fastest is "
                            + video.rate().label() + " fps",
                    "A copy at constant " + video.rate().label() + " fps, sound kept in step"));
        }
        if (video.rateKind() == RateKind.UNSTATED) {
            reasons.add(new Reason(
                    Verdict.FAIR,
                    "rate?",
                    "no frame rate is stated: say how to read it before anything is made",
                    "Choose the rate it was shot or rendered for"));
        }
        if (facts.container().equals("stills")) {
            String rate = video.rateKind() == RateKind.UNSTATED
                    ? ""
                    : ", read at " + video.rate().label() + " fps as "
                            + (facts.described().rate().isPresent() ? "they state" : "you said");
            reasons.add(new Reason(
                    Verdict.FAIR,
                    Long.toString(video.frames().count()),
                    "stills, a file for each frame" + rate,
                    "A full copy makes one clip of them"));
        }
        if (video.pixels().alpha()) {
            reasons.add(new Reason(
                    Verdict.EASY, "alpha", "has transparency", "A copy in a codec without alpha would lose it"));
        }
        if (video.scan().isInterlaced()) {
            reasons.add(new Reason(Verdict.EASY, "fields", video.scan().label(), "Copies keep the fields"));
        }
        if (!video.isSquare()) {
            reasons.add(new Reason(
                    Verdict.EASY,
                    video.pixelAspect().toString(),
                    "pixels are not square: shown at " + video.displayRaster(),
                    "Copies keep the pixel aspect"));
        }
    }

    private void against(ClipFacts facts, VideoFacts video, List<Reason> reasons) {
        for (String what : timeline.differences(facts)) {
            String[] words = what.split(" ", 2); // "sound 44.1 kHz"
            switch (words[0]) {
                case "colour" -> reasons.add(unlike(words, timeline.primaries()));
                case "sound" ->
                    reasons.add(unlike(
                            words, String.format(Locale.ROOT, "%.1f kHz", timeline.samplesPerSecond() / 1000.0)));
                default -> {} // told below, with what it means
            }
        }
        Raster shown = video.displayRaster();
        if (!shown.equals(timeline.raster())) {
            boolean wide = shown.width() != timeline.raster().width();
            reasons.add(new Reason(
                    Verdict.EASY,
                    Integer.toString(wide ? shown.width() : shown.height()),
                    (wide
                                    ? "wide on a timeline of "
                                            + timeline.raster().width()
                                    : "lines on a timeline of "
                                            + timeline.raster().height())
                            + " (" + shown + ")",
                    ""));
        }
        if (!video.rate().equals(timeline.rate())) {
            reasons.add(new Reason(
                    Verdict.EASY,
                    video.rate().label(),
                    "frames a second on a timeline of " + timeline.rate().label(),
                    "Copies keep the clip's own rate"));
        }
    }

    private static Reason unlike(String[] words, String timelines) {
        return new Reason(Verdict.EASY, words[0], words[1] + ", not the timeline's " + timelines, "Copies keep it");
    }

    private static Verdict grade(double value, double felt, double waited) {
        return value >= waited ? Verdict.HARD : value >= felt ? Verdict.FAIR : Verdict.EASY;
    }
}
